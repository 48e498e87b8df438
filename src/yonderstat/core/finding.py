"""What a finding and a caution are."""

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

from .changes import Change
from .claim import Claim
from .steps import StepId

Severity = Literal["stop", "fix", "mind", "good"]


SEVERITY_ORDER: tuple[Severity, ...] = ("stop", "fix", "mind", "good")


@dataclass(frozen=True, slots=True, kw_only=True)
class Finding:
    """A checked statement about the design. `pointer` is the field it is about, where there is
    one."""

    id: str
    severity: Severity
    step: StepId
    sentence: str
    why: str
    pointer: str = ""
    remedies: tuple[Change, ...] = ()
    claims: tuple[Claim, ...] = ()
    """The figures it asserts, each worked out again by the tests."""
    alike: str = ""
    """What it says of each of several things, where more than one finding says it: they are then
    told together, under this sentence."""
    muted: str = ""
    """Why somebody lives with it, where they said so; it then stands last and no longer marks its
    step."""


def told_together(findings: Iterable[Finding]) -> list[tuple[Finding, ...]]:
    """Findings in their order, those that say the same of several things as one: where the first
    of them stands. Only what is of one step and one severity, and is lived with or not, comes
    together."""
    groups: dict[object, list[Finding]] = {}
    for item in findings:
        same = (item.alike, item.step, item.severity, item.muted != "")
        groups.setdefault(same if item.alike else item.id, []).append(item)
    return [tuple(group) for group in groups.values()]


@dataclass(frozen=True, slots=True)
class Caution:
    """A caution of a step, and the reason behind it."""

    step: str
    at: str
    """The part of the step's screen it stands by."""
    text: str
    why: str
