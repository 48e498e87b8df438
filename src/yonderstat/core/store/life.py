"""How long the bank lives: cycles counted by rainflow, damage by Miner's sum, and the calendar."""

import numpy as np
from numpy.typing import NDArray

from ..chemistries import kind_of
from ..design import Bank, Brief
from ..purposes import purpose_of
from .kind import cycle_table
from .rainflow import rainflow_cycles

FloatArray = NDArray[np.float64]

LEAD_HALVES_PER_K = 10.0
"""Lead's calendar life halves for every 10 K above 25 °C. [C] common practice."""
LITHIUM_HALVES_PER_K = 15.0
"""Lithium's halves for every 15 K above 25 °C. [C]"""
SMALLEST_DEPTH = 0.01
"""Shallower swings are not counted."""

MOST_CYCLES, LONGEST_EXPONENT, MOST_HALVINGS = 1e7, 500.0, 30.0


def cycles_a_year(brief: Brief) -> float:
    """Days a year on which the bank is used: all in use, or the few outages and outings assumed."""
    now_and_then = purpose_of(brief.purpose).cycles_a_year
    return 365.0 * len(brief.months) / 12.0 if now_and_then is None else now_and_then


def cycles_at_depth(
    depth: FloatArray | float, depths: NDArray[np.float64], cycles: NDArray[np.float64]
) -> FloatArray:
    """Cycles promised at depths, log-linear between points and beyond them.

    One point alone is taken to mean as many amp-hours at any depth.

    Parameters
    ----------
    depth : ndarray or float
        Of a cycle, any shape.
    depths : ndarray
        Of the table, rising, shape (k,).
    cycles : ndarray
        At each of them, shape (k,).

    Returns
    -------
    ndarray
        Cycles to the end of its life, of the shape of `depth`.
    """
    wanted = np.asarray(depth, dtype=float)
    # Far beyond a steep table's ends the line leaves all numbers: a bank gives a cycle, and none
    # gives more than these.
    least = min(1.0, float(cycles.min()))
    if depths.size == 1:
        return np.asarray(np.clip(cycles[0] * depths[0] / wanted, least, MOST_CYCLES))
    at = np.minimum(np.maximum(np.searchsorted(depths, wanted) - 1, 0), depths.size - 2)
    slope = np.diff(np.log(cycles)) / np.diff(depths)
    exponent = np.clip(slope[at] * (wanted - depths[at]), -LONGEST_EXPONENT, LONGEST_EXPONENT)
    return np.asarray(np.clip(cycles[at] * np.exp(exponent), least, MOST_CYCLES))


def counted_cycles(charge_share: FloatArray) -> FloatArray:
    """Depths and counts of the cycles in a course of charge, shape (n, 2), by ASTM E1049-85
    rainflow.

    Parameters
    ----------
    charge_share : ndarray
        Hour by hour, shape (n,).

    Returns
    -------
    ndarray of shape (k, 2)
        Depth of each cycle, and its count: 1 or a half.
    """
    return rainflow_cycles(charge_share)


def year_damage(bank: Bank, counted: FloatArray) -> float:
    """Miner's sum of a year's cycles, shape (n, 2) of depth and count: 1 is worn out.

    Parameters
    ----------
    bank : Bank
        The bank.
    counted : ndarray
        Depth and count of every cycle, shape (k, 2).

    Returns
    -------
    float
        Share of its life.
    """
    depths, cycles, _ = cycle_table(bank)
    deep = counted[counted[:, 0] >= SMALLEST_DEPTH]
    return float((deep[:, 1] / cycles_at_depth(np.minimum(deep[:, 0], 1.0), depths, cycles)).sum())


def years_of_use(bank: Bank, counted: FloatArray, mean_c: float) -> float:
    """Years a new bank lasts that is used so: by its cycles or by age, whichever ends first.

    Parameters
    ----------
    counted : ndarray of shape (n, 2)
        Depths, as shares of all it holds, and counts of the cycles of a year.
    mean_c : float
        How warm it is in the mean. [°C]

    Returns
    -------
    float
        [years]
    """
    damage = year_damage(bank, counted)
    return min(1.0 / damage if damage > 0 else float("inf"), calendar_years(bank, mean_c))


def calendar_years(bank: Bank, mean_c: float) -> float:
    """Years until the bank is spent by age alone, at its mean temperature."""
    kind = kind_of(bank.chemistry)
    years = bank.calendar_years.value if bank.calendar_years else kind.calendar_years
    if mean_c > 25.0:
        halves_per_k = LEAD_HALVES_PER_K if kind.is_lead else LITHIUM_HALVES_PER_K
        years /= 2.0 ** min((mean_c - 25.0) / halves_per_k, MOST_HALVINGS)
    return years
