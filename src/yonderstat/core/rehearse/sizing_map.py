"""How much is enough: panels against bank, every size rehearsed over weather years."""

from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from ..design import Design
from .kernel import vital_served
from .station import BACK_SHARE, HYSTERESIS, engine_a, hourly_station

FloatArray = NDArray[np.float64]

MAP_YEARS = 10
TARGET = 0.999
STEPS = 24
LEAST, MOST = 0.5, 8.0
"""Times what the design has; steps lie evenly on a log scale, and what it has is one of them."""
THREADS = 2


@dataclass(frozen=True, slots=True)
class SizingMap:
    """Share of vital amp-hours served by label watts (columns) and label amp-hours (rows), over `years` years."""

    years: int
    watts: tuple[float, ...]
    amp_hours: tuple[float, ...]
    served: tuple[tuple[float, ...], ...]
    here_watts: float
    here_ah: float
    here_served: float
    target: float
    enough_watts: float | None
    """Least panel that meets the target with the bank there is."""
    enough_ah: float | None
    """Least bank that meets it with the panels there are."""
    frontier: tuple[tuple[float, ...], ...]
    """Least panel for each bank that meets the target: pairs of watts and amp-hours, smallest bank first."""
    sentence: str


def _scales() -> FloatArray:
    """Even on a log scale, with 1 among them."""
    scales = np.exp(np.linspace(np.log(LEAST), np.log(MOST), STEPS))
    scales[int(np.argmin(np.abs(scales - 1.0)))] = 1.0
    return scales


def _sentence(found: SizingMap) -> str:
    share = f"{found.target * 100:g} %"
    if found.here_served >= found.target:
        return f"What you have holds {share} of vital service over {found.years} weather years."
    parts = []
    if found.enough_watts is not None:
        parts.append(f"{found.enough_watts:.0f} W with the {found.here_ah:.0f} A·h you have")
    if found.enough_ah is not None:
        parts.append(f"{found.enough_ah:.0f} A·h with the {found.here_watts:.0f} W you have")
    if not parts and found.frontier:
        watts, amp_hours = min(found.frontier, key=lambda pair: pair[0] / found.here_watts + pair[1] / found.here_ah)
        parts.append(f"{watts:.0f} W and {amp_hours:.0f} A·h together")
    if not parts:
        return f"Nothing up to {MOST:g} times what you have holds {share} of vital service."
    return f"{share} of vital service takes {', or '.join(parts)}; you have {found.here_served * 100:.1f} %."


def sizing_map(design: Design) -> SizingMap | None:
    """Rehearse every size; None where the design cannot be rehearsed or has no panels to grow."""
    station = hourly_station(design, MAP_YEARS)
    bank = design.store.bank
    if station is None or bank is None or not design.array.strings:
        return None
    fixed = engine_a(design)
    panels = np.ascontiguousarray(station.source_a - fixed)
    scales = _scales()
    served = np.empty((STEPS, STEPS))

    def part(rows: slice) -> None:
        vital_served(
            fixed,
            panels,
            station.load_a,
            station.floor_ah,
            station.locked,
            station.full_ah,
            station.efficiency,
            station.accept_per_h,
            station.most_charge_a,
            BACK_SHARE,
            HYSTERESIS,
            scales,
            scales[rows],
            served[rows],
        )

    # Rows in turn, so that both threads get small and large banks; the kernel holds no lock.
    with ThreadPoolExecutor(THREADS) as pool:
        list(pool.map(part, [slice(first, None, THREADS) for first in range(THREADS)]))
    watts = sum(item.module.watts.value * item.series * item.parallel for item in design.array.strings)
    label_ah = bank.unit_ah.value * bank.parallel
    mine = int(np.flatnonzero(scales == 1.0)[0])
    enough = served >= TARGET
    frontier = tuple(
        (float(watts * scales[int(np.argmax(enough[row]))]), float(label_ah * scales[row]))
        for row in range(STEPS)
        if enough[row].any()
    )
    found = SizingMap(
        MAP_YEARS,
        tuple(float(value) for value in watts * scales),
        tuple(float(value) for value in label_ah * scales),
        tuple(tuple(float(value) for value in row) for row in served),
        watts,
        label_ah,
        float(served[mine, mine]),
        TARGET,
        float(watts * scales[int(np.argmax(enough[mine]))]) if enough[mine].any() else None,
        float(label_ah * scales[int(np.argmax(enough[:, mine]))]) if enough[:, mine].any() else None,
        frontier,
        "",
    )
    return replace(found, sentence=_sentence(found))
