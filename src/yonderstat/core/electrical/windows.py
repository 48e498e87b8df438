"""The volts a load wants, and the blocks of 12 V that a bus stands for."""

from collections.abc import Iterable
from dataclasses import dataclass

from ..data import rows_by
from ..design import Load

MOST_V = 1000.0
"""Where a load names no upper end."""
BLOCK_V = 12.4
"""Between the nominal volts of a lead block and those of four lithium cells."""


def blocks_of_12v(bus_v: float) -> int:
    """How many 12 V-class blocks a bank's nominal volts stand for (12.8 V lithium is one)."""
    return max(1, round(bus_v / BLOCK_V))


@dataclass(frozen=True, slots=True)
class Window:
    """Least and most volts at a load. [V]"""

    label: str
    low_v: float
    high_v: float


def _usual(name: str) -> Window:
    row = rows_by("load_windows", "window")[name]
    return Window(row["label"], float(row["low_v"]), float(row["high_v"]))


NARROW, WIDE = _usual("10"), _usual("15")
"""13.8 V ±10 % and ±15 %."""


def window_of(load: Load) -> Window | None:
    """What a load wants: its own figures, or the usual window it names; None where it says
    nothing."""
    if load.window == "own":
        low_v, high_v = load.least_v, load.most_v
        return Window(
            "its own range", low_v.value if low_v else 0.0, high_v.value if high_v else MOST_V
        )
    return {"10": NARROW, "15": WIDE}.get(load.window)


def usual_window(load: Load) -> Window | None:
    """What a load wants, and where nobody has said what is usual for its kind: a set is made for
    13.8 V."""
    return window_of(load) or {"10": NARROW, "15": WIDE}.get(
        rows_by("load_kinds", "kind")[load.kind]["window"]
    )


def narrowest_window(loads: Iterable[Load]) -> Window | None:
    """The window that asks most volts of the loads that want any; None where none does."""
    known = [window for load in loads if (window := usual_window(load)) is not None]
    return max(known, key=lambda window: window.low_v, default=None)
