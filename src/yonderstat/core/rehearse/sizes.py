"""Many sizes of panels and bank at once: 64 side by side through every hour, for maps."""

from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from .kernel import BACKUP_LEFT_H, RESERVE, VITAL
from .lanes import (
    LANE_BANK,
    LANE_FULL,
    LANE_MOST,
    LANE_OHM,
    LANE_PANELS,
    LANE_ROWS,
    LANES,
    spells_of_lanes,
    vital_lanes,
)
from .station import HOURS, HourlyStation
from .years import spell_starts

FloatArray = NDArray[np.float64]


def batches(count: int) -> Iterator[slice]:
    """Parts of a list of sizes, as many at a time as go side by side; the last may be shorter."""
    for first in range(0, count, LANES):
        yield slice(first, min(first + LANES, count))


def lanes_of(station: HourlyStation, panels: FloatArray, banks: FloatArray) -> FloatArray:
    """The rows of one batch, the bank full; a short batch is filled up with its last size.

    Parameters
    ----------
    station : HourlyStation
        The station hour by hour.
    panels, banks : ndarray of shape (n,)
        Times what the design has, 64 at most.

    Returns
    -------
    ndarray of shape (LANE_ROWS * LANES,)
        What the kernel takes.
    """
    rules, short = station.rules, LANES - panels.size
    panels, banks = np.pad(panels, (0, short), mode="edge"), np.pad(banks, (0, short), mode="edge")
    rows = np.zeros((LANE_ROWS, LANES))
    rows[LANE_PANELS], rows[LANE_BANK] = panels, banks
    rows[LANE_FULL], rows[LANE_MOST] = rules.full_ah * banks, rules.most_charge_a * banks
    rows[LANE_OHM] = rules.ohm / banks + rules.bus_ohm
    rows[0] = rows[LANE_FULL]
    rows[RESERVE], rows[BACKUP_LEFT_H] = rules.reserve_ah, rules.backup_h_per_day
    return rows.ravel()


def _served(station: HourlyStation, panels: FloatArray, banks: FloatArray) -> FloatArray:
    """Vital amp-hours served by month.

    Parameters
    ----------
    station : HourlyStation
        The station hour by hour.
    panels, banks : ndarray of shape (n,)
        Times what the design has, 64 at most.

    Returns
    -------
    ndarray of shape (12, n)
        [A·h]
    """
    served = np.zeros(12 * LANES)
    vital_lanes(
        station.rules, station.hours, lanes_of(station, panels, banks), station.months, served
    )
    return served.reshape(12, LANES)[:, : panels.size]


def served_by_size(station: HourlyStation, panels: FloatArray, banks: FloatArray) -> FloatArray:
    """Vital service over all years with so many times the panels and the bank, 64 sizes at most.

    Parameters
    ----------
    station : HourlyStation
        The station hour by hour.
    panels, banks : ndarray of shape (n,)
        Times what the design has.

    Returns
    -------
    ndarray of shape (n,)
        Shares, 1 where nothing vital is wanted.
    """
    wanted = float(station.hours.load_a[:, VITAL].sum()) * station.years
    total = _served(station, panels, banks).sum(axis=0)
    return np.minimum(1.0, total / wanted) if wanted > 0 else np.ones(panels.size)


def worst_month_by_size(
    station: HourlyStation, months: list[int], panels: FloatArray, banks: FloatArray
) -> FloatArray:
    """Vital service in the worst of some months, 64 sizes at most.

    Parameters
    ----------
    station : HourlyStation
        The station hour by hour.
    months : list of int
        Looked at, 1 to 12; one in which nothing vital is wanted is served.
    panels, banks : ndarray of shape (n,)
        Times what the design has.

    Returns
    -------
    ndarray of shape (n,)
        Shares.
    """
    wanted = (
        np.bincount(station.months, weights=station.hours.load_a[:, VITAL], minlength=12)
        * station.years
    )
    chosen = np.array([month - 1 for month in months if wanted[month - 1] > 0], dtype=np.int64)
    if chosen.size == 0:
        return np.ones(panels.size)
    shares = _served(station, panels, banks)[chosen] / wanted[chosen, None]
    return np.asarray(np.minimum(1.0, shares.min(axis=0)))


def chances_by_size(
    station: HourlyStation,
    days: float,
    every_d: int,
    months: list[int],
    panels: FloatArray,
    banks: FloatArray,
) -> FloatArray:
    """The chance of carrying a spell in the worst of some months, 64 sizes at most.

    Parameters
    ----------
    station : HourlyStation
        The station hour by hour.
    days : float
        Of the spell. [d]
    every_d : int
        Days between the starts.
    months : list of int
        In which spells start, 1 to 12.
    panels, banks : ndarray of shape (n,)
        Times what the design has.

    Returns
    -------
    ndarray of shape (n,)
        Chances.
    """
    starts, most_h = spell_starts(station, every_d), max(1, int(np.ceil(days * HOURS)))
    carried = np.empty((len(starts), LANES))
    spells_of_lanes(
        station.rules, station.hours, lanes_of(station, panels, banks), starts, most_h, carried
    )
    through = carried[:, : panels.size] >= days * HOURS
    began = station.months[starts[:, 1]]
    return np.asarray(
        np.min([through[began == month - 1].mean(axis=0) for month in months], axis=0)
    )
