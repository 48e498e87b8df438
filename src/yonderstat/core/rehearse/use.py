"""How the bank is used in the weather years: its cycles, what it gave, and how often it gets full."""

import numpy as np

from ..calendar import DAYS_A_YEAR
from ..data import column
from ..store import YearUse, counted_cycles
from .assumed import assumed_figure
from .station import HourlyStation
from .tally import Tally, tally_of
from .years import longest_true


def frozen_hours(station: HourlyStation) -> float:
    """Hours a year in which a lead bank is so far discharged that its acid freezes. [h]"""
    tally = tally_of(station)
    frozen = station.bank_c < np.interp(
        tally.charge_ah / station.rules.full_ah, column("freezing", "charge_share"), column("freezing", "freezes_c")
    )
    return float(frozen.sum()) / station.years


def year_use(tally: Tally) -> YearUse:
    """How the bank was used in all weather years: cycles, days full, and the longest time without.

    Cycles are counted on the year in the middle by its mean charge; the rest is of all years.
    """
    station, charge = tally.station, tally.charge_ah
    middle = int(np.argsort(charge.mean(axis=1), kind="stable")[station.years // 2])
    waits = [longest_true(~np.concatenate([year, year]))[0] for year in tally.full]
    return YearUse(
        station.years,
        counted_cycles(charge[middle] / station.rules.full_ah),
        tally.from_bank_ah * station.bus_v / station.years,
        float(tally.full.sum()) / station.years,
        min(float(np.median(waits)), float(DAYS_A_YEAR)),
        assumed_figure("full_share"),
    )
