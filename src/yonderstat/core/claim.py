"""What a sentence asserts, typed, so that it can be worked out again from the run it speaks of.

A finding that asserts a figure is made from its claims: their words stand in its sentence, and
`tests/claims` works every one out again from the hours of the run, or from the wire, by code that
does not ask the finding.
"""

import math
from dataclasses import dataclass
from typing import Literal

from .words import apart

ClaimKind = Literal[
    "lasts",
    "dark_year",
    "dark_spell",
    "mute_year",
    "worn_days",
    "starts",
    "served",
    "sun_part",
    "charge",
    "amps",
    "volts",
    "watts",
    "share",
]
"""Days a bank lasts; dark hours of a year, and of the longest spell; hours a year with power and
too few volts; days a year under the planned depth; share of the starts of a spell that come
through, of the vital use that is served, of all use that no backup gave; amps that charge, that
pass a run of wire, volts at a place, watts of panel, a share of something."""
LEAST_DIGITS: dict[str, tuple[tuple[float, int], ...]] = {
    "V": ((5.0, 2), (math.inf, 1)),
    "A": ((20.0, 1),),
    "days": ((20.0, 1),),
}
"""By unit: below so much, at least so many digits, even where fewer would show which is more."""
Than = Literal["alone", "above", "below"]
"""Whether the figure stands alone, or beside a limit it is above or below."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Claim:
    """A figure that is asserted, in SI, and what it is compared with."""

    kind: ClaimKind
    of: str
    """What it is of: a run of wire, a load, a string, a month, by id."""
    value: float
    unit: str = ""
    than: Than = "alone"
    limit: float = 0.0

    @property
    def holds(self) -> bool:
        """Whether the comparison is true, and seen to be: the two figures are told unlike."""
        if self.than == "alone":
            return True
        is_so = self.value > self.limit if self.than == "above" else self.value < self.limit
        return is_so and self.words[0] != self.words[1]

    @property
    def words(self) -> tuple[str, str]:
        """Figure and limit as they are told, with as many digits as show which is more."""
        large = max(abs(self.value), abs(self.limit))
        fine = next(
            (digits for above, digits in LEAST_DIGITS.get(self.unit, ()) if large < above), 0
        )
        return apart(self.value, self.limit, self.unit, fine)


def more(kind: ClaimKind, of: str, value: float, limit: float, unit: str) -> Claim:
    """A figure above its limit.

    Parameters
    ----------
    of : str
        What the figure is of.
    value : float
        The figure, in `unit`.
    limit : float
        What it is above.
    """
    return Claim(kind=kind, of=of, value=value, unit=unit, than="above", limit=limit)


def less(kind: ClaimKind, of: str, value: float, limit: float, unit: str) -> Claim:
    """A figure below its limit.

    Parameters
    ----------
    of : str
        What the figure is of.
    value : float
        The figure, in `unit`.
    limit : float
        What it is below.
    """
    return Claim(kind=kind, of=of, value=value, unit=unit, than="below", limit=limit)
