"""The largest current at one moment, given what never transmits together; and the supply that would carry it."""

from collections import defaultdict
from collections.abc import Sequence

from ..data import column
from .model import LoadDraw

SUPPLY_MARGIN = 1.1
"""A supply is chosen a tenth above the peak. [C] common practice."""


def peak_a(loads: Sequence[LoadDraw]) -> float:
    """Receive currents of everything, plus for each interlock group its largest transmit step. [A]

    A load without a group can key at any moment, so its step always counts.
    """
    free_a = 0.0
    grouped: dict[str, float] = defaultdict(float)
    for item in loads:
        group = item.load.interlock.strip().casefold()
        if group:
            grouped[group] = max(grouped[group], item.key_step_a)
        else:
            free_a += item.key_step_a
    return sum(item.receive_a for item in loads) + free_a + sum(grouped.values())


def everything_keys_a(loads: Sequence[LoadDraw]) -> float:
    """What if everything keys at once, interlocks or not. [A]"""
    return sum(
        item.receive_a + item.key_step_a * (item.load.quantity if item.load.interlock.strip() else 1) for item in loads
    )


def supply_size_a(peak: float) -> float | None:
    """The smallest usual bench supply that carries a peak with a tenth to spare; None above the largest. [A]"""
    return next((float(size) for size in column("supply_sizes", "amps") if size >= SUPPLY_MARGIN * peak), None)
