"""The simple figures of the trade that the rules of thumb go by."""

import math
from collections.abc import Sequence

from ..data import rows_by


def derate(name: str) -> float:
    """One of the simple derates of the trade, by name."""
    return float(rows_by("derates", "derate")[name]["factor"])


def charge_volts(blocks: int) -> float:
    """Mean volts of the bank while it is charged [V], from the number of 12 V blocks."""
    return blocks * derate("charge_v_12v")


def class_working_volts(cells: int) -> float:
    """Volts at maximum power usual for a panel of this cell count [V]."""
    return float(rows_by("module_classes", "cells")[str(cells)]["v_mp"])


def hardest_month(
    months: Sequence[int], stored_ah: Sequence[float], daily_ah: Sequence[float]
) -> int:
    """The month in use in which what is stored covers least of the draw; ties go to the largest
    shortfall.

    Parameters
    ----------
    months : sequence of int
        The months in use, 1 to 12.
    stored_ah, daily_ah : sequence of float
        A day's amp-hours kept and drawn, January to December. [A·h]
    """

    def ease(month: int) -> tuple[float, float]:
        stored, drawn = stored_ah[month - 1], daily_ah[month - 1]
        return (stored / drawn if drawn > 0 else math.inf, stored - drawn)

    return min(months, key=ease)
