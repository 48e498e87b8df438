"""Days in a row: synthetic years that keep each month's spread of days and how a day follows the
one before."""

import numpy as np
from numpy.typing import NDArray
from scipy.special import ndtr

from ..calendar import year_days
from ..climate import Here
from ..data import toml_table
from ..keeping import kept_for_places
from ..lagging import lagged
from ..sun import (
    Conditions,
    day_spread,
    possible_days,
    sky_grid,
)

FloatArray = NDArray[np.float64]
DAYS = 365


def model_figure(name: str) -> float:
    """An assumption of the weather model."""
    return float(toml_table("weather_model")[name])


def persistent_normal(count: int, persistence: float, random: np.random.Generator) -> FloatArray:
    """Standard normal values of which each remembers the one before: z₁ = φ·z₀ + √(1 − φ²)·ε, shape
    (count,).

    Parameters
    ----------
    count : int
        How many days.
    persistence : float
        Correlation of a day with the one before.
    random : np.random.Generator
        Where chance comes from.

    Returns
    -------
    ndarray of shape (count,)
        Standard normal values.
    """
    shocks = random.standard_normal(count)
    shocks[1:] *= np.sqrt(1.0 - persistence**2)
    return lagged(shocks, persistence, 0.0)


def day_ranks(years: int, seed: int, persistence: float) -> FloatArray:
    """Where each day stands in its month's spread, 0 dullest to 1 brightest, shape (365, years).

    Years follow one another without a seam.

    Parameters
    ----------
    years : int
        How many weather years.
    seed : int
        Of the random numbers: the same seed gives the same years.
    persistence : float
        Correlation of a day with the one before.

    Returns
    -------
    ndarray of shape (365, years)
        Rank of each day within its month, 0 to 1.
    """
    random = np.random.default_rng(seed)
    ranks = ndtr(persistent_normal(years * DAYS, persistence, random))
    return np.asarray(ranks.reshape(years, DAYS).T)


def days_of_ranks(ranks: FloatArray, day_kwh_m2: FloatArray) -> FloatArray:
    """The days that stand so in their months' spreads, shape (365, years) [kW·h/m²].

    Parameters
    ----------
    day_kwh_m2 : ndarray of shape (12, parts)
        Equally likely days of each month, dullest first.

    Returns
    -------
    ndarray of shape (365, years)
        On the flat. [kW·h/m²]
    """
    parts = day_kwh_m2.shape[1]
    place = np.minimum((ranks * parts).astype(np.int64), parts - 1)
    return np.asarray(day_kwh_m2[(year_days()[0] - 1)[:, None], place])


@kept_for_places
def synthetic_days(here: Here, conditions: Conditions, years: int, seed: int) -> FloatArray | None:
    """Daily energy on the flat, before any allowance, shape (365, years) [kW·h/m²]; None where the
    sun is not known.

    Parameters
    ----------
    here : Here
        The place.
    conditions : Conditions
        The sun asked for.
    years : int
        How many weather years.
    seed : int
        Of the random numbers: the same seed gives the same years.

    Returns
    -------
    ndarray of shape (365, years) or None
        On the flat [kW·h/m²]; None where the sun is not known.
    """
    spread = day_spread(here, conditions)
    if spread is None:
        return None
    ranks = day_ranks(years, seed, model_figure("persistence"))
    grid = sky_grid(here.latitude_deg, year_days())
    days = possible_days(grid, days_of_ranks(ranks, spread.day_kwh_m2), here.elevation_m)
    days.setflags(write=False)
    return days


@kept_for_places
def buried_days(snow_days: tuple[float, ...], years: int, seed: int) -> NDArray[np.bool_]:
    """Which days the panels lie under snow, shape (365, years): one run in each month, at a day
    drawn by lot.

    Parameters
    ----------
    snow_days : tuple[float, ...]
        Days a month the panels lie under snow, January first.
    years : int
        How many weather years.
    seed : int
        Of the random numbers: the same seed gives the same years.

    Returns
    -------
    ndarray of shape (365, years)
        Whether they lie under snow.
    """
    random = np.random.default_rng(seed + 1)
    months, _ = year_days()
    buried = np.zeros((DAYS, years), dtype=np.bool_)
    for month in range(1, 13):
        asked = snow_days[month - 1]
        if asked <= 0:
            continue
        first = int(np.argmax(months == month))
        length = int((months == month).sum())
        for year in range(years):
            run = min(length, int(asked + random.random()))
            start = first + int(random.integers(0, length - run + 1))
            buried[start : start + run, year] = True
    buried.setflags(write=False)
    return buried
