"""What the weather of a design comes to: the air by month, and how poor the hard month can be."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..calendar import MONTH_NAMES, month_key, year_days
from ..climate import Climate, Here, air_by_month, basis_in_words, extremes
from ..design import Design
from ..keeping import kept_for_places
from ..sun import (
    Conditions,
    Mounting,
    Plane,
    conditions_of,
    day_spread,
    light_under,
    on_plane_kwh_m2,
    sky_grid,
)
from ..working import Key, Quantity, Workings, table, used
from .days import buried_days, model_figure, synthetic_days

FloatArray = NDArray[np.float64]

RUNS_D = (3, 5, 10)
"""Lengths of poor runs that are told. [d]"""
POOR_SHARE = 0.5
"""A day below half the month's mean is a poor one."""
POOR_YEAR = 0.10


@dataclass(frozen=True, slots=True)
class PoorRun:
    """The worst run of so many days in all synthetic years."""

    days: int
    hours: Key


@dataclass(frozen=True, slots=True, kw_only=True)
class WeatherReport:
    """The air by month, and the hard month's bad weather on the main plane (none where the sun is
    not known)."""

    air_basis: str
    """In words."""
    air_c: tuple[Key, ...]
    swing_k: tuple[Key, ...]
    cold_c: Key
    """The coldest night of a year: string volts are checked at it."""
    hot_c: Key
    """The hottest afternoon of a year."""
    years: int
    month: int
    plane_name: str
    typical_h: Key | None
    poor_h: Key | None
    worst_h: Key | None
    runs: tuple[PoorRun, ...]
    longest_poor_d: Key | None
    takeaway: str


@dataclass(frozen=True, slots=True)
class BadWeather:
    """The hard month on a plane over synthetic years."""

    month_means_h: tuple[float, ...]
    """Mean sun-hours a day of that month in each year, poorest first."""
    run_means_h: tuple[float, ...]
    """Mean of the poorest run of each length of `RUNS_D`."""
    longest_poor_d: int


def poorest_run(days: np.ndarray, length: int) -> float:
    """The lowest mean over so many days in a row, within each column."""
    sums = np.cumsum(np.vstack([np.zeros((1, days.shape[1])), days]), axis=0)
    return float((sums[length:] - sums[:-length]).min() / length)


def longest_run(poor: np.ndarray) -> int:
    """The most rows in a row that hold, within any column."""
    longest = np.zeros(poor.shape[1], dtype=np.int64)
    now = np.zeros(poor.shape[1], dtype=np.int64)
    for row in poor:
        now = np.where(row, now + 1, 0)
        longest = np.maximum(longest, now)
    return int(longest.max())


@kept_for_places
def plane_days_kwh_m2(
    here: Here, conditions: Conditions, mounting: Mounting, years: int
) -> FloatArray | None:
    """Every day of synthetic years on a plane, snow counted, shape (365, years) [kW·h/m²];
    read-only, as it is kept.

    None where the sun is not known.

    Parameters
    ----------
    here : Here
        The place.
    conditions : Conditions
        The sun asked for.
    mounting : Mounting
        How the panels stand.
    years : int
        How many weather years.

    Returns
    -------
    ndarray of shape (365, years) or None
        [kW·h/m²]; None where the sun is not known.
    """
    seed = int(model_figure("seed"))
    flat, spread = synthetic_days(here, conditions, years, seed), day_spread(here, conditions)
    if flat is None or spread is None:
        return None
    grid = sky_grid(here.latitude_deg, year_days())
    light = light_under(grid, flat, conditions, here.latitude_deg, spread.planned_share)
    plane = on_plane_kwh_m2(light, mounting, here.latitude_deg)
    plane = np.where(buried_days(conditions.snow_days, years, seed), 0.0, plane)
    plane.setflags(write=False)
    return plane


@kept_for_places
def bad_weather(
    here: Here, conditions: Conditions, mounting: Mounting, month: int, years: int
) -> BadWeather | None:
    """A month's poor days on a plane, from synthetic years; None where the sun is not known.

    Parameters
    ----------
    conditions : Conditions
        Snow, haze, shade, and what is known of the sky.
    mounting : Mounting
        Tilt, azimuth, or how it turns.
    month : int
        1 to 12.
    years : int
        How many are played.
    """
    days = plane_days_kwh_m2(here, conditions, mounting, years)
    if days is None:
        return None
    plane = days[year_days()[0] == month]
    means = np.sort(plane.mean(axis=0))
    return BadWeather(
        tuple(float(value) for value in means),
        tuple(poorest_run(plane, length) for length in RUNS_D),
        longest_run(plane < POOR_SHARE * plane.mean()),
    )


def _poor_figures(
    bad: BadWeather, plane: Plane, month: int, years: int, workings: Workings
) -> tuple[Quantity, Quantity, Quantity, tuple[PoorRun, ...], Quantity]:
    name = MONTH_NAMES[month - 1]
    base = [
        used("H_β", workings[month_key(f"sun.{plane.id}.hours", month)]),
        table("φ₁", "a day follows the one before", model_figure("persistence"), "", "persistence"),
        table("n", "simulated years", years, "", "persistence"),
    ]
    means = np.array(bad.month_means_h)

    def add(key: str, value: float, unit: str, label: str, formula: str, words: str) -> Quantity:
        return workings.add(
            f"weather.{key}",
            value,
            unit,
            label=label,
            formula=formula,
            words=words,
            inputs=base,
            source="persistence",
        )

    typical = add(
        "typical_h",
        float(np.median(means)),
        "h",
        f"{name} in a typical year",
        "P50",
        "half the years are better",
    )
    poor = add(
        "poor_h",
        float(np.quantile(means, POOR_YEAR)),
        "h",
        f"{name} in a bad year (1 in 10)",
        "P10",
        "one year in ten is worse",
    )
    worst = add(
        "worst_h",
        float(means[0]),
        "h",
        f"Worst {name} in {years} years",
        "min",
        "the worst of all simulated years",
    )
    runs = tuple(
        PoorRun(
            length,
            add(
                f"run_{length}d_h",
                hours,
                "h",
                f"Worst {length} days in a row in {name}, in {years} years",
                f"min over {length} days in a row",
                "average sun-hours a day in the worst spell",
            ).key,
        )
        for length, hours in zip(RUNS_D, bad.run_means_h, strict=True)
    )
    longest = add(
        "longest_poor_d",
        float(bad.longest_poor_d),
        "d",
        f"Longest dull spell in {name}, in {years} years",
        "days in a row with less than half the average sun",
        "a dull day has less than half the average sun of the month",
    )
    return typical, poor, worst, runs, longest


def _takeaway(bad: BadWeather, month: int, years: int) -> str:
    name, means = MONTH_NAMES[month - 1], bad.month_means_h
    if means[-1] <= 0:
        return f"No sun in {name}, whatever the weather."
    return (
        f"In a bad year (1 in 10), {name} has {np.quantile(means, POOR_YEAR):.1f} "
        f"sun-hours a day or less. The worst five days in {years} years have "
        f"{bad.run_means_h[1]:.1f} a day"
        + (
            f", and {bad.longest_poor_d} dull days can come in a row."
            if bad.longest_poor_d > 1
            else "."
        )
    )


def weather_report(
    design: Design,
    here: Here | None,
    climate: Climate,
    plane: Plane | None,
    month: int,
    workings: Workings,
) -> WeatherReport | None:
    """The weather at a design's place, None without one.

    Parameters
    ----------
    plane : Plane or None
        The main plane.
    month : int
        The hard month.
    """
    if here is None:
        return None
    means, swings = air_by_month(climate, workings)
    cold, hot = extremes(climate, design.brief, workings)
    words, years = basis_in_words(climate, design), int(model_figure("years"))
    bad = (
        bad_weather(here, conditions_of(design.sun), plane.mounting, month, years)
        if plane
        else None
    )
    if plane is None or bad is None:
        return WeatherReport(
            air_basis=words,
            air_c=means,
            swing_k=swings,
            cold_c=cold.key,
            hot_c=hot.key,
            years=years,
            month=month,
            plane_name="",
            typical_h=None,
            poor_h=None,
            worst_h=None,
            runs=(),
            longest_poor_d=None,
            takeaway="",
        )
    typical, poor, worst, runs, longest = _poor_figures(bad, plane, month, years, workings)
    return WeatherReport(
        air_basis=words,
        air_c=means,
        swing_k=swings,
        cold_c=cold.key,
        hot_c=hot.key,
        years=years,
        month=month,
        plane_name=plane.name,
        typical_h=typical.key,
        poor_h=poor.key,
        worst_h=worst.key,
        runs=runs,
        longest_poor_d=longest.key,
        takeaway=_takeaway(bad, month, years),
    )
