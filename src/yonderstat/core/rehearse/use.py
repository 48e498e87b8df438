"""How the bank is used in the weather years: its cycles, what it gave, and how often it gets
full."""

import numpy as np
from numpy.typing import NDArray

from ..calendar import DAYS_A_YEAR
from ..data import column
from ..store import YearUse, counted_cycles, freezes_at_c
from .assumed import assumed_figure
from .tally import Tally
from .years import longest_true

FloatArray = NDArray[np.float64]


def frozen_hours(tally: Tally) -> float:
    """Hours a year in which a lead bank is so far discharged that its acid freezes. [h]"""
    station = tally.station
    # Nothing freezes that is warmer than what the emptiest hour stands, and few places are ever
    # colder.
    cold = station.bank_c < freezes_at_c(tally.least_ah / station.rules.full_ah)
    if not cold.any():
        return 0.0
    shares = tally.charge_ah[cold] / station.rules.full_ah
    freezes_c = np.interp(
        shares, column("freezing", "charge_share"), column("freezing", "freezes_c")
    )
    return float((station.bank_c[cold] < freezes_c).sum()) / station.years


def planned_cycles(tally: Tally) -> FloatArray:
    """Depths and counts of the cycles of a typical year, as shares of all it holds, cut off at the
    planned depth.

    Parameters
    ----------
    tally : Tally
        What the weather years come to.

    Returns
    -------
    ndarray of shape (n, 2)
        As `year_use` counts them, of a bank that keeps to the plan.
    """
    middle, station = _middle_year(tally.charge_ah), tally.station
    kept_ah = np.maximum(tally.charge_ah[middle], station.hours.floor_ah[middle])
    return counted_cycles(kept_ah / station.rules.full_ah)


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
        years=station.years,
        counted=counted_cycles(charge[middle] / station.rules.full_ah),
        delivered_wh=tally.from_bank_ah * station.bus_v / station.years,
        full_days=float(tally.full.sum()) / station.years,
        longest_not_full_d=min(float(np.median(waits)), float(DAYS_A_YEAR)),
        full_share=assumed_figure("full_share"),
    )
