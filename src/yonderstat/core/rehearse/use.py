"""How the bank is used in the weather years: its cycles, what it gave, and how often it gets full."""

import numpy as np

from ..calendar import DAYS_A_YEAR
from ..store import YearUse, counted_cycles
from .assumed import assumed_figure
from .kernel import OUT_CHARGE, OUT_FROM
from .station import HourlyStation
from .years import FloatArray, full_days, longest_true


def year_use(out: FloatArray, station: HourlyStation) -> YearUse:
    """How the bank was used, from all years hour by hour, shape (years, 8760, OUTS).

    Cycles are counted on the year in the middle by its mean charge; the rest is of all years.

    Parameters
    ----------
    out : ndarray
        What a run told, shape (years, 8760, OUTS).
    station : HourlyStation
        The station hour by hour.

    Returns
    -------
    YearUse
        Cycles, days full, and the longest time without.
    """
    charge = out[:, :, OUT_CHARGE]
    middle = int(np.argsort(charge.mean(axis=1), kind="stable")[station.years // 2])
    full = full_days(out, station)
    waits = [longest_true(~np.concatenate([year, year]))[0] for year in full]
    return YearUse(
        station.years,
        counted_cycles(charge[middle] / station.rules.full_ah),
        float(out[:, :, OUT_FROM].sum()) * station.bus_v / station.years,
        float(full.sum()) / station.years,
        min(float(np.median(waits)), float(DAYS_A_YEAR)),
        assumed_figure("full_share"),
    )
