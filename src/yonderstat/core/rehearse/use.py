"""How the bank is used in the weather years: its cycles, what it gave, and how often it gets full."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..calendar import DAYS_A_YEAR
from ..data import column
from ..store import YearUse, counted_cycles
from .assumed import assumed_figure
from .station import HourlyStation
from .tally import Tally, tally_of
from .years import longest_true

FloatArray = NDArray[np.float64]
FLAT_SHARE = 0.01
"""Of a full bank: so little above empty is empty."""


def frozen_hours(station: HourlyStation) -> float:
    """Hours a year in which a lead bank is so far discharged that its acid freezes. [h]"""
    tally = tally_of(station)
    frozen = station.bank_c < np.interp(
        tally.charge_ah / station.rules.full_ah, column("freezing", "charge_share"), column("freezing", "freezes_c")
    )
    return float(frozen.sum()) / station.years


@dataclass(frozen=True, slots=True)
class PlannedUse:
    """How a bank that goes under its planned depth is used, beside how it were if it kept to it."""

    kept: FloatArray
    """Depths and counts of the cycles of a typical year, as shares of all it holds, cut off at the planned depth."""
    least_share: float
    """The least that is left in it, of all it holds."""
    flat_a_year: float
    """How often it is run to where it gives nothing any more."""


def planned_use(station: HourlyStation) -> PlannedUse:
    """That of a station in its weather years."""
    tally = tally_of(station)
    charge, full_ah = tally.charge_ah, station.rules.full_ah
    middle = _middle_year(charge)
    flat = charge <= station.hours.end_ah + FLAT_SHARE * full_ah
    begins = flat & ~np.roll(flat.ravel(), 1).reshape(flat.shape)
    return PlannedUse(
        counted_cycles(np.maximum(charge[middle], station.hours.floor_ah[middle]) / full_ah),
        float(charge.min()) / full_ah,
        float(begins.sum()) / station.years,
    )


def _middle_year(charge: FloatArray) -> int:
    """The year in the middle by its mean charge."""
    return int(np.argsort(charge.mean(axis=1), kind="stable")[len(charge) // 2])


def year_use(tally: Tally) -> YearUse:
    """How the bank was used in all weather years: cycles, days full, and the longest time without.

    Cycles are counted on the year in the middle by its mean charge; the rest is of all years.
    """
    station, charge = tally.station, tally.charge_ah
    middle = _middle_year(charge)
    waits = [longest_true(~np.concatenate([year, year]))[0] for year in tally.full]
    return YearUse(
        station.years,
        counted_cycles(charge[middle] / station.rules.full_ah),
        tally.from_bank_ah * station.bus_v / station.years,
        float(tally.full.sum()) / station.years,
        min(float(np.median(waits)), float(DAYS_A_YEAR)),
        assumed_figure("full_share"),
    )
