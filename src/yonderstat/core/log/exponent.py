"""The Peukert exponent from two discharge tests at different currents."""

from collections.abc import Sequence
from math import log

from ..changes import Change, replace
from ..station import StationModel
from ..store import peukert_of
from .meaning import Meaning

LEAST_RATIO = 1.5
"""Currents nearer to each other say nothing of the exponent: an hour's error of reading would be
all of it."""
LOW, HIGH = 1.0, 1.6
NEAR = 0.03


def exponent_of(tests: Sequence[tuple[float, float]]) -> float | None:
    """The exponent that two tests of one bank agree on, from those whose currents are furthest
    apart.

    Parameters
    ----------
    tests : sequence of (float, float)
        Steady current [A] and how long it lasted [h].

    Returns
    -------
    float or None
        None where no two currents are far enough apart, or what they say is no exponent.

    Notes
    -----
    I₁ᵏ t₁ = I₂ᵏ t₂, so k = ln(t₁ / t₂) / ln(I₂ / I₁) (Peukert's law, from memory).
    """
    if len(tests) < 2:
        return None
    gentle, hard = min(tests), max(tests)
    if hard[0] < LEAST_RATIO * gentle[0]:
        return None
    found = log(gentle[1] / hard[1]) / log(hard[0] / gentle[0])
    return found if LOW <= found <= HIGH else None


def exponent_meaning(station: StationModel, tests: Sequence[tuple[float, float]]) -> Meaning | None:
    """What two tests say of the exponent of a design's bank; None where they say nothing."""
    found = exponent_of(tests)
    if found is None or station.bank is None:
        return None
    planned = peukert_of(station.bank.bank)
    amps = f"{min(tests)[0]:g} and {max(tests)[0]:g} A"
    told = (
        f"Your tests at {amps} give a Peukert exponent of {found:.2f}. The plan has {planned:.2f}."
    )
    if abs(found - planned) <= NEAR:
        return Meaning(f"{told} They agree.")
    patch = (replace("/store/bank/peukert_k", round(found, 3)),)
    change = Change(
        f"Use {found:.2f} as the Peukert exponent", "the plan rests on a measurement", patch
    )
    return Meaning(told, "/store/bank/peukert_k", change)
