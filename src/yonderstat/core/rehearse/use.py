"""How the bank is used in the weather years: its cycles, what it gave, and how often it gets full."""

import numpy as np

from ..calendar import DAYS_A_YEAR
from ..store import YearUse, counted_cycles
from .assumed import assumed_figure
from .kernel import OUT_CHARGE, OUT_FROM
from .station import HourlyStation
from .years import FloatArray, full_days, longest_true


def _turning_points(course: FloatArray) -> FloatArray:
    """A course without what lies between its turns, which counts no cycle."""
    steps = np.diff(course)
    moving = np.concatenate(([True], steps != 0.0))
    kept = course[moving]
    steps = np.sign(np.diff(kept))
    turns = np.concatenate(([True], steps[1:] != steps[:-1], [True])) if kept.size > 2 else np.ones(kept.size, bool)
    return np.asarray(kept[turns])


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
        counted_cycles(_turning_points(charge[middle] / station.rules.full_ah)),
        float(out[:, :, OUT_FROM].sum()) * station.bus_v / station.years,
        float(full.sum()) / station.years,
        min(float(np.median(waits)), float(DAYS_A_YEAR)),
        assumed_figure("full_share"),
    )
