"""The light at a place in mean months, and the sun on its planes."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..calendar import DAYS_IN_MONTH
from ..climate import Here
from ..keeping import kept_for_places
from .conditions import Conditions, horizon_elevation_deg
from .file_days import day_shapes
from .geometry import (
    SkyGrid,
    sky_grid,
)
from .light import CLEAR_SKY_MARGIN, DayLight, clear_day_kwh_m2, day_light
from .mounting import Mounting, on_plane_kwh_m2
from .spread import day_spread

FloatArray = NDArray[np.float64]

TENTHS = 10
DULL_SHARE, BRIGHT_SHARE = 0.1, 0.9


@dataclass(frozen=True, slots=True)
class SiteSun:
    """The light at a place: on the sample days, and what the figures were before any allowance."""

    latitude_deg: float
    light: DayLight
    flat_mean: FloatArray
    """Mean day of each month on the flat before any allowance [kW·h/m²]."""
    served: FloatArray
    """Share of each month's days the panels are free of snow, shape (12,)."""


@dataclass(frozen=True, slots=True)
class PlaneSun:
    """Sunshine on a plane by month [kW·h/m² a day]: ten equally likely days, their mean, and bounds
    of eight in ten."""

    days: FloatArray
    """Shape (12, 10)."""
    mean: FloatArray
    dull: FloatArray
    bright: FloatArray
    flat_mean: FloatArray


def sky_scale(grid: SkyGrid) -> FloatArray:
    """Each day's extraterrestrial energy over the mean of its month's days in the grid, shape
    (day,).

    Parameters
    ----------
    grid : SkyGrid
        The sky of the sample days.

    Returns
    -------
    ndarray of shape (days,)
        A ratio about 1; 0 in polar night.
    """
    month_h0 = np.array([grid.h0_kwh_m2[grid.month == month].mean() for month in range(1, 13)])[
        grid.month - 1
    ]
    return np.asarray(
        np.divide(grid.h0_kwh_m2, month_h0, out=np.zeros_like(grid.h0_kwh_m2), where=month_h0 > 0)
    )


def possible_days(grid: SkyGrid, level_kwh_m2: FloatArray, elevation_m: float) -> FloatArray:
    """Days on the flat as the sky can give them, shape (day, k) [kW·h/m²], before any allowance.

    Each is scaled by its share of the month's extraterrestrial energy, and never exceeds 1.05 times
    a clear day.

    Parameters
    ----------
    level_kwh_m2 : ndarray of shape (day, k)
        Days as they would be in the middle of their month. [kW·h/m²]

    Returns
    -------
    ndarray
        Of the shape of the level. [kW·h/m²]
    """
    ceiling = CLEAR_SKY_MARGIN * clear_day_kwh_m2(grid, elevation_m)[:, None]
    return np.asarray(np.minimum(level_kwh_m2 * sky_scale(grid)[:, None], ceiling))


def light_under(
    grid: SkyGrid,
    flat_kwh_m2: FloatArray,
    conditions: Conditions,
    latitude_deg: float,
    planned_share: FloatArray | None = None,
) -> DayLight:
    """The light of days on the flat, shape (day, k), under a site's skyline, trees, dust and
    ground.

    Parameters
    ----------
    latitude_deg : float
        Where a weather file's hours were under this sky.
    planned_share : ndarray of shape (12,), optional
        What of it is planned on by month. It lowers all light alike, after the split: a day that
        reads too high by so much has as much too much beam; to lower its clearness instead would
        turn beam into diffuse, and take far more from a steep plane in winter than it says.

    Returns
    -------
    DayLight
        Beam and diffuse through each day.
    """
    index = grid.month - 1
    skyline = (
        horizon_elevation_deg(conditions.horizon, grid.azimuth_deg) if conditions.horizon else None
    )
    morning, afternoon = np.array(conditions.shade_morning), np.array(conditions.shade_afternoon)
    shade = np.where(grid.hour_angle_rad < 0, morning[index, None], afternoon[index, None])
    kept = (1.0 - shade) * (1.0 - conditions.soiling)
    if planned_share is not None:
        kept = kept * planned_share[index, None]
    shapes = day_shapes(latitude_deg, conditions.record) if conditions.record else None
    return day_light(grid, flat_kwh_m2, np.array(conditions.albedo)[index], skyline, kept, shapes)


@kept_for_places
def site_sun(here: Here, conditions: Conditions) -> SiteSun | None:
    """The light at a place, or None where nobody knows it. Kept, as editing a load must not work
    out the sun again."""
    spread = day_spread(here, conditions)
    if spread is None:
        return None
    grid = sky_grid(here.latitude_deg)
    tenths = spread.day_kwh_m2.reshape(12, TENTHS, -1).mean(axis=2)
    flat = possible_days(grid, tenths[grid.month - 1], here.elevation_m)
    light = light_under(grid, flat, conditions, here.latitude_deg, spread.planned_share)
    served = np.maximum(0.0, 1.0 - np.array(conditions.snow_days) / DAYS_IN_MONTH)
    return SiteSun(here.latitude_deg, light, spread.day_kwh_m2.mean(axis=1), served)


@kept_for_places
def plane_sun(here: Here, conditions: Conditions, mounting: Mounting) -> PlaneSun | None:
    """The sun on a plane at a place, or None where nobody knows it. Days under snow give
    nothing.

    Parameters
    ----------
    conditions : Conditions
        Snow, haze, shade, and what is known of the sky.
    mounting : Mounting
        Tilt, azimuth, or how it turns.
    """
    site = site_sun(here, conditions)
    if site is None:
        return None
    plane = on_plane_kwh_m2(site.light, mounting, here.latitude_deg)
    month = site.light.grid.month
    days = (
        np.array([plane[month == number].mean(axis=0) for number in range(1, 13)])
        * site.served[:, None]
    )
    dull, bright = np.quantile(days, (DULL_SHARE, BRIGHT_SHARE), axis=1)
    parts = (days, days.mean(axis=1), dull, bright, site.flat_mean)
    for part in parts:
        part.setflags(write=False)
    return PlaneSun(*parts)
