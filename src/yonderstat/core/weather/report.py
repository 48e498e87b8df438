"""What the weather of a design comes to: the air by month, and how poor the hard month can be."""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from ..design import Brief, Design, WeatherRecord
from ..draw import MONTH_NAMES, month_key
from ..sun import (
    Conditions,
    Here,
    Mounting,
    PlaneFigures,
    conditions_of,
    here_of,
    light_under,
    on_plane_kwh_m2,
    planes_of,
    sky_grid,
    year_days,
)
from ..working import Input, Key, Quantity, Workings, assumed, given, table, used
from .days import buried_days, model_figure, synthetic_days
from .warmth import UNKNOWN_ZONE_ERROR_K, Warmth, recorded_warmth, severe_minimum_c, usual_warmth
from .zone import climate_zone

FloatArray = NDArray[np.float64]

RUNS_D = (3, 5, 10)
"""Lengths of poor runs that are told. [d]"""
POOR_SHARE = 0.5
"""A day below half the month's mean is a poor one."""
POOR_YEAR = 0.10
AIR_SOURCES = {"record": "record", "city": "chelsa", "guess": "air-guess"}
"""Where the air comes from, by its basis."""


@dataclass(frozen=True, slots=True)
class PoorRun:
    """The worst run of so many days in all synthetic years."""

    days: int
    hours: Key


@dataclass(frozen=True, slots=True)
class WeatherReport:
    """The air by month, and the hard month's bad weather on the main plane (none where the sun is not known)."""

    air_basis: str
    """In words."""
    air_c: tuple[Key, ...]
    swing_k: tuple[Key, ...]
    cold_c: Key
    """The cold that string volts are checked at."""
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


@lru_cache(maxsize=32)
def plane_days_kwh_m2(here: Here, conditions: Conditions, mounting: Mounting, years: int) -> FloatArray | None:
    """Every day of synthetic years on a plane, snow counted, shape (365, years) [kW·h/m²]; read-only, as it is kept.

    None where the sun is not known.
    """
    seed = int(model_figure("seed"))
    flat = synthetic_days(here, conditions, years, seed)
    if flat is None:
        return None
    grid = sky_grid(here.latitude_deg, year_days())
    plane = on_plane_kwh_m2(light_under(grid, flat, conditions), mounting, here.latitude_deg)
    plane = np.where(buried_days(conditions.snow_days, years, seed), 0.0, plane)
    plane.setflags(write=False)
    return plane


@lru_cache(maxsize=128)
def bad_weather(here: Here, conditions: Conditions, mounting: Mounting, month: int, years: int) -> BadWeather | None:
    """A month's poor days on a plane, from synthetic years; None where the sun is not known."""
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


def warmth_of(design: Design, here: Here) -> Warmth:
    """The air of a design's place: its weather file's where it has one, the usual otherwise."""
    record = design.sun.record if design.sun.source == "record" else None
    zone = climate_zone(here.latitude_deg, here.longitude_deg)
    told = recorded_warmth(record, zone) if record else None
    return told or usual_warmth(here.latitude_deg, here.longitude_deg, here.elevation_m)


def _basis_words(warmth: Warmth, record: WeatherRecord | None) -> str:
    if warmth.basis == "record" and record:
        return f"The air is the weather file's, “{record.name}”."
    if warmth.basis == "city":
        return (
            f"The air is that of a packaged city {warmth.distance_km:.0f} km away (1981–2010), brought to this height. "
            "The daily swing is usual for the climate zone."
        )
    return (
        f"The air is a guess from latitude, height and climate zone ({warmth.zone}): no packaged city is near. "
        f"A month is off by some {warmth.error_k or 0.0:.0f} K"
        + (
            ", as no packaged city lies in such a zone."
            if warmth.error_k == UNKNOWN_ZONE_ERROR_K
            else " in such a zone, measured on the packaged cities with their neighbours left out."
        )
    )


def air_by_month(warmth: Warmth, workings: Workings) -> tuple[tuple[Key, ...], tuple[Key, ...]]:
    """Mean air and its daily swing by month, with how they are known. [°C], [K]"""
    source = AIR_SOURCES[warmth.basis]
    words = {
        "record": "mean of the file's hours",
        "city": "the near city's mean, 6.5 K colder for every kilometre higher",
        "guess": "latitude and climate zone fitted over the packaged cities, held within the zone's definition",
    }[warmth.basis]
    origin = "measured" if warmth.basis == "record" else "table" if warmth.basis == "city" else "default"
    means, swings = [], []
    for month in range(1, 13):
        name = MONTH_NAMES[month - 1]
        error = [] if warmth.error_k is None else [table("±", "may be off by", warmth.error_k, "K", source)]
        mean = float(warmth.mean_c[month - 1])
        item = Input("T", f"air, {warmth.basis}", mean, "°C", origin, source=source)  # type: ignore[arg-type]
        key = month_key("weather.air_c", month)
        means.append(workings.add(key, mean, "°C", f"Mean air, {name}", "T", words, [item, *error], source).key)
        swing = float(warmth.swing_k[month - 1])
        swings.append(
            workings.add(
                month_key("weather.swing_k", month),
                swing,
                "K",
                f"From the coldest to the warmest hour, {name}",
                "ΔT",
                "of a usual day; a clear one swings more, a dull one less",
                [Input("ΔT", f"daily swing, {warmth.zone}", swing, "K", origin, source=source)],  # type: ignore[arg-type]
                source,
            ).key
        )
    return tuple(means), tuple(swings)


def _cold(brief: Brief, here: Here, workings: Workings) -> Quantity:
    known = brief.coldest_c
    if known.basis != "default":
        item = given("T_min", "coldest at the site", known, "°C", "/brief/coldest_c")
        words = "as given"
    else:
        severe = min(severe_minimum_c(here.latitude_deg, here.longitude_deg), known.value)
        item = assumed("T_min", "severe minimum of the climate zone", severe, "°C", "severe", "/brief/coldest_c")
        words = "until a design minimum is given, the worst the climate zone is known for: never a warm guess"
    return workings.add(
        "weather.cold_c", item.value, "°C", "Cold that string volts are checked at", "T_min", words, [item], "severe"
    )


def _poor_figures(
    bad: BadWeather, plane: PlaneFigures, month: int, years: int, workings: Workings
) -> tuple[Quantity, Quantity, Quantity, tuple[PoorRun, ...], Quantity]:
    name = MONTH_NAMES[month - 1]
    base = [
        used("H_β", workings[plane.hours[month - 1]]),
        table("φ₁", "a day follows the one before", model_figure("persistence"), "", "persistence"),
        table("n", "synthetic years", years, "", "persistence"),
    ]
    means = np.array(bad.month_means_h)

    def add(key: str, value: float, unit: str, label: str, formula: str, words: str) -> Quantity:
        return workings.add(f"weather.{key}", value, unit, label, formula, words, base, "persistence")

    typical = add(
        "typical_h", float(np.median(means)), "h", f"{name} of a typical year", "P50", "half the years better"
    )
    poor = add(
        "poor_h",
        float(np.quantile(means, POOR_YEAR)),
        "h",
        f"{name} of a poor year",
        "P10",
        "one year in ten is poorer",
    )
    worst = add(
        "worst_h", float(means[0]), "h", f"Poorest {name} of {years} years", "min", "the poorest of all synthetic years"
    )
    runs = tuple(
        PoorRun(
            length,
            add(
                f"run_{length}d_h",
                hours,
                "h",
                f"Poorest {length} days of {name} in {years} years",
                f"min over {length} days in a row",
                "mean sun-hours a day of the poorest run",
            ).key,
        )
        for length, hours in zip(RUNS_D, bad.run_means_h, strict=True)
    )
    longest = add(
        "longest_poor_d",
        float(bad.longest_poor_d),
        "d",
        f"Longest run of poor days in {name}, {years} years",
        "days in a row below half the mean",
        "a poor day brings less than half of the month's mean",
    )
    return typical, poor, worst, runs, longest


def _takeaway(bad: BadWeather, month: int, years: int) -> str:
    name, means = MONTH_NAMES[month - 1], bad.month_means_h
    if means[-1] <= 0:
        return f"No sun in {name}, whatever the weather."
    return (
        f"One {name} in ten brings {np.quantile(means, POOR_YEAR):.1f} h a day or less; "
        f"the poorest five days in {years} years bring {bad.run_means_h[1]:.1f} h"
        + (f", and {bad.longest_poor_d} poor days can follow one another." if bad.longest_poor_d > 1 else ".")
    )


def weather_report(design: Design, plane: PlaneFigures | None, month: int, workings: Workings) -> WeatherReport | None:
    """The weather at a design's place, None without one.

    Parameters
    ----------
    plane : PlaneFigures or None
        The main plane; None where the sun is not known.
    month : int
        The hard month.
    """
    here = here_of(design)
    if here is None:
        return None
    warmth = warmth_of(design, here)
    means, swings = air_by_month(warmth, workings)
    cold = _cold(design.brief, here, workings)
    words, years = _basis_words(warmth, design.sun.record), int(model_figure("years"))
    bad = None
    if plane is not None:
        mounting = next(item.mounting for item in planes_of(design, here.latitude_deg) if item.id == plane.string_id)
        bad = bad_weather(here, conditions_of(design.sun), mounting, month, years)
    if plane is None or bad is None:
        return WeatherReport(words, means, swings, cold.key, years, month, "", None, None, None, (), None, "")
    typical, poor, worst, runs, longest = _poor_figures(bad, plane, month, years, workings)
    return WeatherReport(
        words,
        means,
        swings,
        cold.key,
        years,
        month,
        plane.name,
        typical.key,
        poor.key,
        worst.key,
        runs,
        longest.key,
        _takeaway(bad, month, years),
    )
