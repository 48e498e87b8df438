"""From a day's sunshine on the flat to sun-hours on a tilted panel."""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import pvlib
from numpy.typing import NDArray

from .conditions import STANDARD_SPREAD, Conditions, horizon_elevation_deg, own_days
from .geometry import DAYS_IN_MONTH, STEP_H, SkyGrid, sky_grid
from .resource import resource_at

FloatArray = NDArray[np.float64]

BARE_GROUND = 0.2
"""Ground reflection without snow. [C] common practice."""

CLEAR_SKY_MARGIN = 1.05
"""No day is taken brighter than this times a clear one."""


LOWEST_SINE = 0.01745
"""Sine of a sun one degree high: lower, a beam is not divided by it. As in pvlib's Hay-Davies."""


def hour_profile(hour_angle: FloatArray, sunset: FloatArray) -> FloatArray:
    """Shares of a day's total sunshine by time of day, summing to 1 over the day (0 in polar night).

    Notes
    -----
    r_t of Collares-Pereira & Rabl [1]_, normalised.

    References
    ----------
    .. [1] M. Collares-Pereira, A. Rabl, Solar Energy 22 (1979) 155–164.
    """
    ws = sunset[:, None]
    a = 0.409 + 0.5016 * np.sin(ws - np.pi / 3)
    b = 0.6609 - 0.4767 * np.sin(ws - np.pi / 3)
    shape = (a + b * np.cos(hour_angle)) * (np.cos(hour_angle) - np.cos(ws))
    return _normalised(np.where(np.abs(hour_angle) < ws, np.maximum(shape, 0.0), 0.0))


def diffuse_profile(hour_angle: FloatArray, sunset: FloatArray) -> FloatArray:
    """Shares of a day's diffuse sunshine by time of day: r_d of Liu & Jordan 1960, normalised."""
    ws = sunset[:, None]
    shape = np.cos(hour_angle) - np.cos(ws)
    return _normalised(np.where(np.abs(hour_angle) < ws, np.maximum(shape, 0.0), 0.0))


def _normalised(shape: FloatArray) -> FloatArray:
    total = shape.sum(axis=1, keepdims=True)
    return np.asarray(np.divide(shape, total, out=np.zeros_like(shape), where=total > 0))


def daily_diffuse_share(clearness: FloatArray, sunset_rad: FloatArray) -> FloatArray:
    """Diffuse share of a day's sunshine from its clearness index.

    Notes
    -----
    Daily form of Erbs, Klein & Duffie [1]_, split at a sunset hour angle of 81.4°.

    References
    ----------
    .. [1] D.G. Erbs, S.A. Klein, J.A. Duffie, Solar Energy 28 (1982) 293–302.
    """
    k = np.clip(clearness, 0.0, 1.0)
    winter = np.where(k < 0.715, 1.0 - 0.2727 * k + 2.4495 * k**2 - 11.9514 * k**3 + 9.3879 * k**4, 0.143)
    summer = np.where(k < 0.722, 1.0 + 0.2832 * k - 2.5557 * k**2 + 0.8448 * k**3, 0.175)
    return np.clip(np.where(sunset_rad <= np.radians(81.4), winter, summer), 0.0, 1.0)


def clear_day_kwh_m2(grid: SkyGrid, elevation_m: float) -> FloatArray:
    """Sunshine of a cloudless day on the flat [kW·h/m²], simplified Solis by pvlib, shape (day,)."""
    pressure = pvlib.atmosphere.alt2pres(elevation_m)
    sky = pvlib.clearsky.simplified_solis(
        90.0 - np.degrees(grid.zenith_rad), pressure=pressure, dni_extra=grid.extra_w_m2[:, None]
    )
    ghi = np.nan_to_num(np.asarray(sky["ghi"]), nan=0.0)
    return np.asarray(np.where(grid.zenith_rad < np.pi / 2, ghi, 0.0).sum(axis=1) * STEP_H / 1000.0)


@dataclass(frozen=True, slots=True)
class DayLight:
    """Light on sample days, from which any plane follows; arrays of shape (day, k, half-hour) [W/m²].

    `direct` is what comes from the sun's place in the sky, measured across its rays: the beam and the bright ring
    around it; `sky` what comes evenly from the dome; `total` what falls on the flat.
    """

    grid: SkyGrid
    direct: FloatArray
    sky: FloatArray
    total: FloatArray
    albedo: FloatArray
    """Ground reflection of each day, shape (day,)."""


def day_light(
    grid: SkyGrid,
    day_kwh_m2: FloatArray,
    albedo: FloatArray | None = None,
    skyline_deg: FloatArray | None = None,
) -> DayLight:
    """Split days' sunshine on the flat into what a plane needs, by Hay & Davies 1980.

    Parameters
    ----------
    grid : SkyGrid
        The sample days.
    day_kwh_m2 : ndarray, shape (day, k)
        k possible totals on the flat for each sample day.
    albedo : ndarray, shape (day,), optional
        Ground reflection; bare ground unless given.
    skyline_deg : ndarray, shape (day, half-hour), optional
        Height of the skyline where the sun then stands: below it nothing comes from the sun's place. [°]
    """
    h0 = grid.h0_kwh_m2[:, None]
    clearness = np.divide(day_kwh_m2, h0, out=np.zeros_like(day_kwh_m2), where=h0 > 0)
    diffuse_share = daily_diffuse_share(clearness, grid.sunset_rad[:, None])
    per_step_w = 1000.0 / STEP_H
    total = day_kwh_m2[:, :, None] * hour_profile(grid.hour_angle_rad, grid.sunset_rad)[:, None, :] * per_step_w
    diffuse = (
        (day_kwh_m2 * diffuse_share)[:, :, None]
        * diffuse_profile(grid.hour_angle_rad, grid.sunset_rad)[:, None, :]
        * per_step_w
    )
    diffuse = np.minimum(diffuse, total)
    extra = grid.extra_w_m2[:, None, None]
    # A sun at the horizon would ask for an endless beam; it can bring no more than reaches the air.
    height = np.maximum(np.cos(grid.zenith_rad), LOWEST_SINE)[:, None, :]
    beam = np.minimum((total - diffuse) / height, extra)
    ring_share = beam / extra
    direct = beam + diffuse * ring_share / height
    if skyline_deg is not None:
        hidden = 90.0 - np.degrees(grid.zenith_rad) < skyline_deg
        direct = np.where(hidden[:, None, :], 0.0, direct)
    ground = np.full(grid.month.size, BARE_GROUND) if albedo is None else albedo
    return DayLight(grid, direct, diffuse * (1.0 - ring_share), total, ground)


def on_plane_kwh_m2(light: DayLight, tilt_deg: float, azimuth_deg: float) -> FloatArray:
    """Sunshine of days on a plane, shape (day, k) [kW·h/m²].

    Parameters
    ----------
    tilt_deg, azimuth_deg : float
        The plane: tilt from flat, and the way it faces from true north clockwise.
    """
    grid = light.grid
    incidence = pvlib.irradiance.aoi_projection(tilt_deg, azimuth_deg, np.degrees(grid.zenith_rad), grid.azimuth_deg)
    direct = light.direct * np.maximum(np.asarray(incidence), 0.0)[:, None, :]
    open_sky = (1.0 + np.cos(np.radians(tilt_deg))) / 2.0
    ground = light.total * light.albedo[:, None, None] * (1.0 - open_sky)
    return np.asarray((direct + light.sky * open_sky + ground).sum(axis=2) * STEP_H / 1000.0)


@dataclass(frozen=True, slots=True)
class PlaneSun:
    """Sunshine on a plane by month [kW·h/m² a day]: ten equally likely days, their mean, and bounds of eight in ten."""

    days: FloatArray
    """Shape (12, 10)."""
    mean: FloatArray
    dull: FloatArray
    bright: FloatArray
    flat_mean: FloatArray
    """The mean day on the flat before any allowance."""


DULL_SHARE, BRIGHT_SHARE = 0.1, 0.9


@dataclass(frozen=True, slots=True)
class SiteSun:
    """The light at a place: on the sample days, and what the figures were before any allowance."""

    light: DayLight
    flat_mean: FloatArray
    served: FloatArray
    """Share of each month's days the panels are free of snow, shape (12,)."""


def _flat_days(latitude_deg: float, longitude_deg: float, conditions: Conditions) -> FloatArray | None:
    """Ten equally likely days a month on the flat before any allowance, shape (12, 10), or None. [kW·h/m²]"""
    resource = resource_at(latitude_deg, longitude_deg)
    if conditions.own_hours is None:
        return None if resource is None else resource.day_kwh_m2
    if resource is None:
        return own_days(conditions.own_hours, None)
    mean = resource.day_kwh_m2.mean(axis=1, keepdims=True)
    spread = np.divide(resource.day_kwh_m2, mean, out=np.tile(STANDARD_SPREAD, (12, 1)), where=mean > 0)
    return own_days(conditions.own_hours, spread)


@lru_cache(maxsize=64)
def site_sun(
    latitude_deg: float, longitude_deg: float, elevation_m: float, allowance: float, conditions: Conditions
) -> SiteSun | None:
    """The light at a place, or None where nobody knows it.

    The allowance multiplies the sunshine on the flat; a day is scaled by its share of the month's extraterrestrial
    energy and never exceeds 1.05 times a clear one. Kept, as editing a load must not work out the sun again.
    """
    days = _flat_days(latitude_deg, longitude_deg, conditions)
    if days is None:
        return None
    grid = sky_grid(latitude_deg)
    index = grid.month - 1
    month_h0 = np.array([grid.h0_kwh_m2[index == month].mean() for month in range(12)])
    scale = np.divide(grid.h0_kwh_m2, month_h0[index], out=np.zeros_like(grid.h0_kwh_m2), where=month_h0[index] > 0)
    ceiling = CLEAR_SKY_MARGIN * clear_day_kwh_m2(grid, elevation_m)[:, None]
    flat = np.minimum(days[index] * scale[:, None], ceiling) * allowance
    skyline = horizon_elevation_deg(conditions.horizon, grid.azimuth_deg) if conditions.horizon else None
    light = day_light(grid, flat, np.array(conditions.albedo)[index], skyline)
    served = np.maximum(0.0, 1.0 - np.array(conditions.snow_days) / DAYS_IN_MONTH)
    return SiteSun(light, days.mean(axis=1), served)


@lru_cache(maxsize=256)
def plane_sun(
    latitude_deg: float,
    longitude_deg: float,
    elevation_m: float,
    allowance: float,
    conditions: Conditions,
    tilt_deg: float,
    azimuth_deg: float,
) -> PlaneSun | None:
    """The sun on a plane at a place, or None where nobody knows it. Days under snow give nothing."""
    site = site_sun(latitude_deg, longitude_deg, elevation_m, allowance, conditions)
    if site is None:
        return None
    plane = on_plane_kwh_m2(site.light, tilt_deg, azimuth_deg)
    index = site.light.grid.month - 1
    days = np.array([plane[index == month].mean(axis=0) for month in range(12)]) * site.served[:, None]
    dull, bright = np.quantile(days, (DULL_SHARE, BRIGHT_SHARE), axis=1)
    parts = (days, days.mean(axis=1), dull, bright, site.flat_mean)
    for part in parts:
        part.setflags(write=False)
    return PlaneSun(*parts)
