"""From a day's sunshine on the flat to sun-hours on a tilted panel."""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import pvlib
from numpy.typing import NDArray

from .geometry import STEP_H, SkyGrid, sky_grid
from .resource import resource_at

FloatArray = NDArray[np.float64]

ALBEDO = 0.2
"""Ground reflection without snow. [C] common practice."""

CLEAR_SKY_MARGIN = 1.05
"""No day is taken brighter than this times a clear one."""


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


def plane_kwh_m2(grid: SkyGrid, day_kwh_m2: FloatArray, tilt_deg: float, azimuth_deg: float) -> FloatArray:
    """Sunshine of days on a plane [kW·h/m²].

    Parameters
    ----------
    grid : SkyGrid
        The sample days.
    day_kwh_m2 : ndarray, shape (day, k)
        k possible totals on the flat for each sample day.
    tilt_deg, azimuth_deg : float
        The plane: tilt from flat, and the way it faces from true north clockwise.

    Returns
    -------
    ndarray, shape (day, k)
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
    zenith_deg = np.degrees(grid.zenith_rad)[:, None, :]
    azimuth = grid.azimuth_deg[:, None, :]
    extra = grid.extra_w_m2[:, None, None]
    # A sun at the horizon would ask for an endless beam; it can bring no more than reaches the air.
    beam = np.minimum((total - diffuse) / np.maximum(np.cos(np.radians(zenith_deg)), 0.01745), extra)
    incidence = pvlib.irradiance.aoi_projection(tilt_deg, azimuth_deg, zenith_deg, azimuth)
    sky = pvlib.irradiance.haydavies(
        tilt_deg, azimuth_deg, diffuse, beam, extra, solar_zenith=zenith_deg, solar_azimuth=azimuth
    )
    ground = pvlib.irradiance.get_ground_diffuse(tilt_deg, total, ALBEDO)
    plane = beam * np.maximum(incidence, 0.0) + np.maximum(np.asarray(sky), 0.0) + np.asarray(ground)
    return np.asarray(plane.sum(axis=2) * STEP_H / 1000.0)


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


@lru_cache(maxsize=256)
def plane_sun(
    latitude_deg: float,
    longitude_deg: float,
    elevation_m: float,
    allowance: float,
    tilt_deg: float,
    azimuth_deg: float,
) -> PlaneSun | None:
    """The sun on a plane at a place, or None where there is no resource.

    The allowance multiplies the sunshine on the flat; a day is scaled by its share of the month's extraterrestrial
    energy and never exceeds 1.05 times a clear one. Kept, as editing a load must not work out the sun again.
    """
    resource = resource_at(latitude_deg, longitude_deg)
    if resource is None:
        return None
    grid = sky_grid(latitude_deg)
    index = grid.month - 1
    month_h0 = np.array([grid.h0_kwh_m2[index == month].mean() for month in range(12)])
    scale = np.divide(grid.h0_kwh_m2, month_h0[index], out=np.zeros_like(grid.h0_kwh_m2), where=month_h0[index] > 0)
    ceiling = CLEAR_SKY_MARGIN * clear_day_kwh_m2(grid, elevation_m)[:, None]
    flat = np.minimum(resource.day_kwh_m2[index] * scale[:, None], ceiling) * allowance
    plane = plane_kwh_m2(grid, flat, tilt_deg, azimuth_deg)
    days = np.array([plane[index == month].mean(axis=0) for month in range(12)])
    dull, bright = np.quantile(days, (DULL_SHARE, BRIGHT_SHARE), axis=1)
    parts = (days, days.mean(axis=1), dull, bright, resource.day_kwh_m2.mean(axis=1))
    for part in parts:
        part.setflags(write=False)
    return PlaneSun(*parts)
