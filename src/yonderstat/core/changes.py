"""A change to a design that is proposed: a label, a typed JSON Patch, and what it does in numbers.

Remedies of findings, mitigations of a scene and the size a map proposes are all of this one kind.
"""

from dataclasses import dataclass
from typing import Any, Literal

from .words import counted

GainOf = Literal[
    "days_without_sun",
    "covered",
    "dark_hours",
    "dark_hours_a_year",
    "failed_hours_a_year",
    "carried",
    "set_volts",
]
"""What a gain is counted in: days the bank lasts, share of the draw covered, dark hours of a scene
or of a year, hours of a year without power or with too few volts, share of the starts of a spell
that come through in the worst month, volts at a keyed set."""

LESS_IS_BETTER = frozenset({"dark_hours", "dark_hours_a_year", "failed_hours_a_year"})
HALF_SHOWN: dict[GainOf, float] = {
    "days_without_sun": 0.05,
    "covered": 0.005,
    "dark_hours": 0.5,
    "dark_hours_a_year": 0.5,
    "failed_hours_a_year": 0.5,
    "carried": 0.005,
    "set_volts": 0.05,
}
"""Half of the last digit that is shown of a gain: what moves less is not seen to move."""


@dataclass(frozen=True, slots=True)
class Operation:
    """One operation of a JSON Patch (RFC 6902), of the kinds we propose."""

    op: Literal["replace", "add", "remove"]
    path: str
    value: Any = None


def add(pointer: str, value: Any) -> Operation:
    """Put a row in: at a number, or at the end where the pointer ends in a hyphen."""
    return Operation("add", pointer, value)


def replace(pointer: str, value: Any) -> Operation:
    """Set a field."""
    return Operation("replace", pointer, value)


@dataclass(frozen=True, slots=True)
class Gain:
    """A figure before and after. None is a bank without end, or a figure nobody knows, as `of`
    says."""

    of: GainOf
    before: float | None
    after: float | None
    name: str = ""
    """What the figure is of, where there are several: a month."""

    @property
    def helps(self) -> bool:
        """Whether it is better by more than what is shown is rounded to."""
        if self.of == "days_without_sun" and self.after is None:
            return self.before is not None
        if self.before is None or self.after is None:
            return False
        better = self.before - self.after if self.of in LESS_IS_BETTER else self.after - self.before
        return better > HALF_SHOWN[self.of]

    @property
    def words(self) -> str:
        """What is shown of it."""
        after = self.after
        if self.of == "days_without_sun":
            return (
                "lasts without limit"
                if after is None
                else f"lasts {counted(after, 'day', 1)} without sun"
            )
        if after is None:
            return "not known"
        if self.of == "covered":
            return f"the sun covers {100 * after:.0f} % of what you use in {self.name}"
        if self.of == "set_volts":
            fine = self.before is not None and abs(after - self.before) < 0.1
            return f"{after:.{2 if fine else 1}f} V at {self.name}"
        if self.of == "carried":
            return f"gets through {100 * after:.0f} % of the time in the worst month"
        if self.of == "dark_hours":
            return (
                "never without power"
                if after == 0
                else f"{after:.0f} hours without power instead of {self.before or 0.0:.0f}"
            )
        if self.of == "failed_hours_a_year":
            return f"{after:.0f} hours a year without power, or with too few volts to transmit"
        return f"{after:.0f} hours without power a year"


@dataclass(frozen=True, slots=True)
class Change:
    """A concrete change, tried before it is proposed. `effect` is the gain in words, or what else
    it does."""

    label: str
    effect: str
    patch: tuple[Operation, ...]
    gain: Gain | None = None


def changed_for(label: str, patch: tuple[Operation, ...], gain: Gain) -> Change:
    """A change with what it gains.

    Parameters
    ----------
    label : str
        What it is called on its button.
    patch : tuple of Operation
        JSON Patch that makes it.
    gain : Gain
        What it gains.
    """
    return Change(label, gain.words, patch, gain)
