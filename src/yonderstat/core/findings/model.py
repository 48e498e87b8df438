"""What a finding is, and the register of rules."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Literal

from ..changes import Change
from ..design import Design
from ..verdict import Figures

Severity = Literal["stop", "fix", "mind", "good"]
Step = Literal["brief", "draw", "store", "sun", "array", "rehearse"]


@dataclass(frozen=True, slots=True)
class Finding:
    """A checked statement about the design. `pointer` is the field it is about, where there is one."""

    id: str
    severity: Severity
    step: Step
    sentence: str
    why: str
    pointer: str = ""
    remedies: tuple[Change, ...] = ()


Rule = Callable[[Design, Figures], Iterator[Finding]]
RULES: list[Rule] = []

SEVERITY_ORDER: tuple[Severity, ...] = ("stop", "fix", "mind", "good")


def rule(function: Rule) -> Rule:
    """Register a rule: it looks at a design and its figures and yields what it finds."""
    RULES.append(function)
    return function
