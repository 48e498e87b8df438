"""The register of rules."""

from collections.abc import Callable, Iterator

from ..finding import Finding
from ..report import Report
from ..station import StationModel

Rule = Callable[[StationModel, Report], Iterator[Finding]]
RULES: list[Rule] = []
GRAVE_RULES: list[Rule] = []
"""Those that may find a Stop or a Fix."""


def rule(function: Rule) -> Rule:
    """Register a rule: it looks at a station and its report and yields what it finds."""
    RULES.append(function)
    GRAVE_RULES.append(function)
    return function


def mild_rule(function: Rule) -> Rule:
    """Register a rule that never finds a Stop or a Fix: a change that is tried need not be held
    against it."""
    RULES.append(function)
    return function
