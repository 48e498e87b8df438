"""What a finding and a caution are."""

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
    muted: str = ""
    """Why somebody lives with it, where they said so; it then stands last and no longer marks its
    step."""


@dataclass(frozen=True, slots=True)
class Caution:
    """A caution of a step, and the reason behind it."""

    step: str
    at: str
    """The part of the step's screen it stands by."""
    text: str
    why: str
