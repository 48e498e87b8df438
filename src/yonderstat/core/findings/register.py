"""The register of rules."""

from collections.abc import Callable, Iterator

from ..finding import Finding
from ..report import Report
from ..station import StationModel

Rule = Callable[[StationModel, Report], Iterator[Finding]]
RULES: list[Rule] = []


def rule(function: Rule) -> Rule:
    """Register a rule: it looks at a station and its report and yields what it finds."""
    RULES.append(function)
    return function
