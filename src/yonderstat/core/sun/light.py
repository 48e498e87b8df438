"""From a day's sunshine on the flat to the light of its hours: from the sun's place, the dome and
the ground."""

from dataclasses import dataclass

import numpy as np
import pvlib
from numpy.typing import NDArray

from .file_days import DayShapes, hours_alike
from .geometry import STEP_H, SkyGrid

FloatArray = NDArray[np.float64]

BARE_GROUND = 0.2
"""Ground reflection without snow. [C] common practice."""

CLEAR_SKY_MARGIN = 1.05
"""No day is taken brighter than this times a clear one."""


LOWEST_SINE = 0.01745
"""Sine of a sun one degree high: lower, a beam is not divided by it. As in pvlib's Hay-Davies."""


def hour_profile(hour_angle: FloatArray, sunset: FloatArray) -> FloatArray:
    """Shares of a day's total sunshine by time of day, summing to 1 over the day (0 in polar
    night).

    Parameters
    ----------
    hour_angle : ndarray
        Shape (days, steps). [rad]
    sunset : ndarray
        Hour angle of the sunset, shape (days,). [rad]

    Returns
    -------
    ndarray
        Of the day's sum, of the shape of `hour_angle`.

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
    """Shares of a day's diffuse sunshine by time of day: r_d of Liu & Jordan 1960, normalised.

    Parameters
    ----------
    hour_angle : ndarray
        Shape (days, steps). [rad]
    sunset : ndarray
        Hour angle of the sunset, shape (days,). [rad]

    Returns
    -------
    ndarray
        Of the day's diffuse sum, of the shape of `hour_angle`.
    """
    ws = sunset[:, None]
    shape = np.cos(hour_angle) - np.cos(ws)
    return _normalised(np.where(np.abs(hour_angle) < ws, np.maximum(shape, 0.0), 0.0))


def _normalised(shape: FloatArray) -> FloatArray:
    total = shape.sum(axis=1, keepdims=True)
    return np.asarray(np.divide(shape, total, out=np.zeros_like(shape), where=total > 0))


def daily_diffuse_share(clearness: FloatArray, sunset_rad: FloatArray) -> FloatArray:
    """Diffuse share of a day's sunshine from its clearness index.

    Parameters
    ----------
    clearness : ndarray
        Of the day, any shape.
    sunset_rad : ndarray
        Hour angle of the sunset, of a shape that fits.

    Returns
    -------
    ndarray
        Diffuse over all, of the same shape.

    Notes
    -----
    Daily form of Erbs, Klein & Duffie [1]_, split at a sunset hour angle of 81.4°.

    References
    ----------
    .. [1] D.G. Erbs, S.A. Klein, J.A. Duffie, Solar Energy 28 (1982) 293–302.
    """
    k = np.clip(clearness, 0.0, 1.0)
    winter = np.where(
        k < 0.715, 1.0 - 0.2727 * k + 2.4495 * k**2 - 11.9514 * k**3 + 9.3879 * k**4, 0.143
    )
    summer = np.where(k < 0.722, 1.0 + 0.2832 * k - 2.5557 * k**2 + 0.8448 * k**3, 0.175)
    return np.clip(np.where(sunset_rad <= np.radians(81.4), winter, summer), 0.0, 1.0)


CLEAN_AIR_AOD_700, CLEAN_AIR_WATER_CM = 0.05, 0.5
"""The air of the clearest days: little dust and little water in it. [C] With the usual 0.1 and 1 cm
a low winter sun at 65° loses a third more than it does."""


def _clean_sky(grid: SkyGrid, elevation_m: float) -> dict[str, FloatArray]:
    """Sunshine under a cloudless sky in clean air [W/m²]: `ghi` on the flat, `dni` across the
    rays."""
    sky = pvlib.clearsky.simplified_solis(
        90.0 - np.degrees(grid.zenith_rad),
        aod700=CLEAN_AIR_AOD_700,
        precipitable_water=CLEAN_AIR_WATER_CM,
        pressure=pvlib.atmosphere.alt2pres(elevation_m),
        dni_extra=grid.extra_w_m2[:, None],
    )
    return {name: np.nan_to_num(np.asarray(sky[name]), nan=0.0) for name in ("ghi", "dni")}


def clear_day_kwh_m2(grid: SkyGrid, elevation_m: float) -> FloatArray:
    """Sunshine of a cloudless day in clean air on the flat [kW·h/m²], simplified Solis by pvlib,
    shape (day,).

    Parameters
    ----------
    grid : SkyGrid
        The sky of the sample days.
    elevation_m : float
        Of the site.

    Returns
    -------
    ndarray of shape (days,)
        On the flat. [kW·h/m²]
    """
    ghi = _clean_sky(grid, elevation_m)["ghi"]
    return np.asarray(np.where(grid.zenith_rad < np.pi / 2, ghi, 0.0).sum(axis=1) * STEP_H / 1000.0)


@dataclass(frozen=True, slots=True)
class DayLight:
    """Light on sample days, from which any plane follows; arrays of shape (day, k, half-hour)
    [W/m²].

    `direct` is what comes from the sun's place in the sky, measured across its rays: the beam and
    the bright ring around it; `sky` what comes evenly from the dome; `total` what falls on the
    flat.
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
    kept: FloatArray | None = None,
    shapes: DayShapes | None = None,
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
        Height of the skyline where the sun then stands: below it nothing comes from the sun's
        place. [°]
    kept : ndarray, shape (day, half-hour), optional
        Share of all light that trees and dust leave.
    shapes : DayShapes, optional
        Days of a weather file; days as bright run as they did. An average sky unless given.

    Returns
    -------
    DayLight
        Beam and diffuse through each day.
    """
    h0 = grid.h0_kwh_m2[:, None]
    clearness = np.divide(day_kwh_m2, h0, out=np.zeros_like(day_kwh_m2), where=h0 > 0)
    diffuse_share = daily_diffuse_share(clearness, grid.sunset_rad[:, None])
    per_step_w = 1000.0 / STEP_H
    total = (
        day_kwh_m2[:, :, None]
        * hour_profile(grid.hour_angle_rad, grid.sunset_rad)[:, None, :]
        * per_step_w
    )
    diffuse = (
        (day_kwh_m2 * diffuse_share)[:, :, None]
        * diffuse_profile(grid.hour_angle_rad, grid.sunset_rad)[:, None, :]
        * per_step_w
    )
    if shapes is not None:
        beam_w_m2 = CLEAR_SKY_MARGIN * _clean_sky(grid, 0.0)["dni"]
        total, diffuse = hours_alike(shapes, grid, day_kwh_m2, total, diffuse, beam_w_m2)
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
    sky = diffuse * (1.0 - ring_share)
    if kept is not None:
        direct, sky, total = (part * kept[:, None, :] for part in (direct, sky, total))
    return DayLight(grid, direct, sky, total, ground)


def chosen_days(light: DayLight, chosen: NDArray[np.bool_]) -> DayLight:
    """The light of some of the days.

    Parameters
    ----------
    chosen : ndarray of bool, shape (day,)
        Which days.

    Returns
    -------
    DayLight
        Those days alone.
    """
    grid = SkyGrid(
        **{name: getattr(light.grid, name)[chosen] for name in SkyGrid.__dataclass_fields__}
    )
    return DayLight(
        grid, light.direct[chosen], light.sky[chosen], light.total[chosen], light.albedo[chosen]
    )
