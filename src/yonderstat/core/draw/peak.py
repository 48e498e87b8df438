"""The largest current at one moment, given what never transmits together; and the supply that would
carry it."""

from collections.abc import Sequence

from ..data import column
from .exclusions import most_together_a
from .model import LoadDraw

SUPPLY_MARGIN = 1.1
"""A supply is chosen a tenth above the peak. [C] common practice."""


def peak_a(loads: Sequence[LoadDraw]) -> float:
    """What stands whatever else is on, plus the most that can key, or be on, at one moment. [A]

    A load without a group can key at any moment, so its step always counts.
    """
    return sum(item.standing_a for item in loads) + most_together_a([item.step for item in loads])


def everything_keys_a(loads: Sequence[LoadDraw]) -> float:
    """What if everything keys at once, interlocks or not. [A]"""
    return sum(
        item.receive_a + item.key_step_a * (item.load.quantity if item.groups else 1)
        for item in loads
    )


def supply_size_a(peak: float) -> float | None:
    """The smallest usual bench supply that carries a peak with a tenth to spare; None above the
    largest. [A]"""
    return next(
        (float(size) for size in column("supply_sizes", "amps") if size >= SUPPLY_MARGIN * peak),
        None,
    )
