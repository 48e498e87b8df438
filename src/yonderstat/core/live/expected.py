"""What a site that reports itself is held to: a few small tables, read off the model of its
design."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..electrical import blocks_of_12v, window_of
from ..rehearse import HourlyStation
from ..store import charge_low_c, kind_of

FloatArray = NDArray[np.float64]
HOURS, MONTHS = 24, 12
BRIGHT = 0.9
"""The amps of a bright hour: so much of all of its hours on record bring no more."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Expected:
    """What is usual, and where it ends. Currents [A], charge [A·h], volts at the posts."""

    bright_a: FloatArray
    """What a bright hour brings, by month and hour of the day, shape (12, 24)."""
    full_ah: float
    efficiency: float
    leak_per_h: float
    idle_a: float
    absorb_v: float
    least_v: float
    most_v: float
    charge_low_c: float
    coldest_c: float
    hottest_c: float
    blocks: float
    """Of 12 V."""
    is_lead: bool


def expected_of(station: HourlyStation) -> Expected:
    """What a station is held to.

    Parameters
    ----------
    station : HourlyStation
        Of the design as built.

    Returns
    -------
    Expected
        Its tables.
    """
    hours = station.hours
    bright = np.zeros((MONTHS, HOURS))
    day_hour = np.arange(station.months.size) % HOURS
    for month in range(MONTHS):
        for hour in range(HOURS):
            chosen = (station.months == month) & (day_hour == hour)
            bright[month, hour] = np.quantile(hours.panels_a[:, chosen], BRIGHT)
    kind, bank = kind_of(station.bank.chemistry), station.bank
    blocks = blocks_of_12v(station.bus_v)
    windows = [
        found for load in station.model.design.draw.loads if (found := window_of(load)) is not None
    ]
    most_v = min((window.high_v for window in windows), default=station.absorb_v + blocks)
    return Expected(
        bright_a=bright,
        full_ah=station.rules.full_ah,
        efficiency=station.rules.efficiency,
        leak_per_h=station.rules.leak_per_h,
        idle_a=station.rules.idle_a,
        absorb_v=station.absorb_v,
        least_v=station.model.low_end_v,
        most_v=max(most_v, station.absorb_v),
        charge_low_c=charge_low_c(bank),
        coldest_c=kind.discharge_low_c,
        hottest_c=kind.charge_high_c,
        blocks=blocks,
        is_lead=kind.is_lead,
    )
