"""Every hour of synthetic years: light on any plane, and the air."""

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from functools import cache
from zoneinfo import ZoneInfo

import numpy as np
import pvlib
from numpy.typing import NDArray

from ..calendar import year_days
from ..climate import Here
from ..keeping import kept_hours
from ..sun import (
    STEP_H,
    Conditions,
    DayLight,
    Mounting,
    day_spread,
    light_under,
    on_plane_w_m2,
    recorded_days,
    sky_grid,
)
from .days import DAYS, buried_days, model_figure, persistent_normal, synthetic_days

FloatArray = NDArray[np.float64]
HOURS = 24
CALENDAR_YEAR = 2026
"""The year whose daylight saving stands for every year."""


@dataclass(frozen=True, slots=True)
class YearsOfLight:
    """Light of synthetic years. `light` has a day of the common year in its first axis and the year
    in its second."""

    here: Here
    light: DayLight
    flat_kwh_m2: FloatArray
    """Before any allowance, shape (365, years)."""
    buried: NDArray[np.bool_]
    seed: int

    @property
    def years(self) -> int:
        """How many years."""
        return int(self.flat_kwh_m2.shape[1])


def clock_ahead_h(longitude_deg: float, time_zone: str | None) -> FloatArray:
    """How far the clock is ahead of the sun on each day of a common year, shape (365,) [h].

    Without a zone the clock keeps mean solar time; the equation of time counts either way (Spencer
    1971, by pvlib).

    Parameters
    ----------
    longitude_deg : float
        East positive.
    time_zone : str or None
        IANA name; None keeps time by the sun.

    Returns
    -------
    ndarray of shape (365,)
        How far the clock is ahead of the sun. [h]
    """
    _, days = year_days()
    equation_h = np.asarray(pvlib.solarposition.equation_of_time_spencer71(days)) / 60.0
    if time_zone is None:
        return -equation_h
    zone = ZoneInfo(time_zone)
    noon = datetime(CALENDAR_YEAR, 1, 1, 12, tzinfo=UTC)
    offsets = [(noon + timedelta(days=day)).astimezone(zone).utcoffset() for day in range(DAYS)]
    utc_h = np.array([(offset or timedelta()).total_seconds() / 3600.0 for offset in offsets])
    return np.asarray(utc_h - longitude_deg / 15.0 - equation_h)


@kept_hours
def years_of_light(
    here: Here, conditions: Conditions, time_zone: str | None, years: int, seed: int
) -> YearsOfLight | None:
    """The light of synthetic years at a place, or None where the sun is not known; kept for the
    next tilt.

    Parameters
    ----------
    conditions : Conditions
        Snow, haze, shade, and what is known of the sky.
    time_zone : str or None
        Whose clock the hours follow; solar time where none is named.
    years : int
        How many.
    seed : int
        Of the chances: the same seed makes the same years.
    """
    flat, spread = synthetic_days(here, conditions, years, seed), day_spread(here, conditions)
    if flat is None or spread is None:
        return None
    grid = sky_grid(here.latitude_deg, year_days(), clock_ahead_h(here.longitude_deg, time_zone))
    light = light_under(grid, flat, conditions, here.latitude_deg, spread.planned_share)
    return YearsOfLight(here, light, flat, buried_days(conditions.snow_days, years, seed), seed)


@kept_hours
def recorded_year_of_light(
    here: Here, conditions: Conditions, time_zone: str | None
) -> YearsOfLight | None:
    """The light of a weather file's own days as one year, or None without one.

    Of a day it holds twice the later counts; a day it does not hold is the mean of its month.

    Parameters
    ----------
    conditions : Conditions
        Snow, haze, shade, and what is known of the sky.
    time_zone : str or None
        Whose clock the hours follow; solar time where none is named.
    """
    spread = day_spread(here, conditions)
    if conditions.record is None or spread is None:
        return None
    months = year_days()[0]
    flat = spread.day_kwh_m2.mean(axis=1)[months - 1]
    _, days, values = recorded_days(conditions.record)
    flat[days - 1] = values
    grid = sky_grid(here.latitude_deg, year_days(), clock_ahead_h(here.longitude_deg, time_zone))
    column = flat[:, None]
    buried = np.zeros((DAYS, 1), dtype=np.bool_)
    return YearsOfLight(
        here,
        light_under(grid, column, conditions, here.latitude_deg),
        column,
        buried,
        int(model_figure("seed")),
    )


def hourly_on_plane_w_m2(sky: YearsOfLight, mounting: Mounting) -> FloatArray:
    """Mean light through the glass of a plane in every hour, shape (years, 365, 24) [W/m²]; nothing
    under snow.

    Parameters
    ----------
    sky : YearsOfLight
        Light of all years.
    mounting : Mounting
        How the panels stand.

    Returns
    -------
    ndarray of shape (years, 365, 24)
        [W/m²]
    """
    halves = on_plane_w_m2(sky.light, mounting, sky.here.latitude_deg, glass=True)
    hours = halves.reshape(DAYS, sky.years, HOURS, -1).mean(axis=3)
    hours[sky.buried] = 0.0
    return np.ascontiguousarray(hours.transpose(1, 0, 2))


@cache
def _hats() -> FloatArray:
    """How much each month's middle counts on each day: straight between them, closed round the
    year, (365, 12)."""
    months, days = year_days()
    middle = np.array([days[months == month].mean() for month in range(1, 13)])
    return np.array(
        [np.interp(days, middle, column, period=float(DAYS)) for column in np.eye(12)]
    ).T


def _through_the_year(monthly: FloatArray) -> FloatArray:
    """A daily course, straight between the middles of months, whose months' means are those given,
    shape (365,)."""
    hats, months = _hats(), year_days()[0]
    by_month = np.array([hats[months == month].mean(axis=0) for month in range(1, 13)])
    return np.asarray(hats @ np.linalg.solve(by_month, monthly))


def hourly_air_c(
    sky: YearsOfLight, mean_c: FloatArray, swing_by_month_k: FloatArray, spread_k: FloatArray
) -> FloatArray:
    """Air temperature in every hour, shape (years, 365, 24) [°C].

    Parameters
    ----------
    sky : YearsOfLight
        Light of all years.
    mean_c : ndarray
        Monthly means, shape (12,). [°C]
    swing_by_month_k : ndarray
        Of a mean day, shape (12,). [K]
    spread_k : ndarray
        Of the days' means, shape (12,). [K]

    Returns
    -------
    ndarray of shape (years, 365, 24)
        [°C]

    Notes
    -----
    Month's mean through the year, plus day-to-day noise with memory, plus a cosine over the day
    that swings more under a clear sky. The noise is what cold snaps are made of: they come as often
    as a normal spread lets them.
    """
    grid = sky.light.grid
    random = np.random.default_rng(sky.seed + 2)
    memory = model_figure("warmth_persistence")
    noise = persistent_normal(sky.years * DAYS, memory, random).reshape(sky.years, DAYS)
    day_c = _through_the_year(mean_c) + noise * _through_the_year(spread_k)
    brightest = np.maximum(sky.flat_kwh_m2.max(axis=1), 1e-9)
    clear = (sky.flat_kwh_m2 / brightest[:, None]).T
    dull_swing, clear_swing = model_figure("dull_swing"), model_figure("clear_swing")
    swing_k = _through_the_year(swing_by_month_k) * (
        dull_swing + (clear_swing - dull_swing) * clear
    )
    # A quarter of an hour on from the middle of the hour's first half: the middle of the hour, also
    # across midnight.
    solar_h = np.degrees(grid.hour_angle_rad[:, ::2]) / 15.0 + 12.0 + STEP_H / 2.0
    course = np.cos(np.radians(15.0) * (solar_h - model_figure("warmest_hour"))) / 2.0
    return np.asarray(day_c[:, :, None] + swing_k[:, :, None] * course[None, :, :])
