"""What is done to the sky before it reaches a panel: whose figures, skyline, trees, ground, snow
and dust."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..design import Sun, WeatherRecord

FloatArray = NDArray[np.float64]
NOT_PARTED = -1
"""Stands where an hour's diffuse is not known."""


@dataclass(frozen=True, slots=True)
class RecordedHours:
    """Hours of a weather file as packed 16-bit numbers, so that they are compared in no time.
    [W/m²]"""

    first_index: int
    utc_offset_h: float | None
    longitude_deg: float | None
    total: bytes
    diffuse: bytes | None


@dataclass(frozen=True, slots=True)
class RecordedDays:
    """Days of a weather file: date of the first, and energy on the flat [W·h/m²], None in a gap."""

    first_day: str
    day_wh_m2: tuple[int | None, ...]
    hours: RecordedHours | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Conditions:
    """The sun section of a design as plain, comparable values."""

    own_hours: tuple[float, ...] | None
    record: RecordedDays | None
    horizon: tuple[tuple[float, float], ...]
    shade_morning: tuple[float, ...]
    shade_afternoon: tuple[float, ...]
    albedo: tuple[float, ...]
    snow_days: tuple[float, ...]
    soiling: float


def recorded(record: WeatherRecord) -> RecordedDays:
    """A design's weather file as plain, comparable values."""
    hours = record.hours
    if hours is None:
        return RecordedDays(record.first_day, tuple(record.day_wh_m2))
    dome = None
    if hours.diffuse_w_m2 is not None:
        dome = np.array(
            [NOT_PARTED if v is None else v for v in hours.diffuse_w_m2], dtype=np.int16
        ).tobytes()
    packed = RecordedHours(
        hours.first_index,
        hours.utc_offset_h,
        record.longitude_deg,
        np.array(hours.total_w_m2, dtype=np.int16).tobytes(),
        dome,
    )
    return RecordedDays(record.first_day, tuple(record.day_wh_m2), packed)


def conditions_of(sun: Sun) -> Conditions:
    """The conditions a design names."""
    record = sun.record if sun.source == "record" else None
    return Conditions(
        own_hours=tuple(sun.own_hours) if sun.source == "own" and sun.own_hours else None,
        record=recorded(record) if record else None,
        horizon=tuple((point.azimuth_deg, point.elevation_deg) for point in sun.horizon),
        shade_morning=tuple(sun.shade_morning),
        shade_afternoon=tuple(sun.shade_afternoon),
        albedo=tuple(sun.albedo),
        snow_days=tuple(sun.snow_days),
        soiling=sun.soiling.value,
    )


def horizon_elevation_deg(
    horizon: tuple[tuple[float, float], ...], azimuth_deg: FloatArray
) -> FloatArray:
    """Height of the skyline in each direction [°]: straight between points, closed round the
    compass, 0 without any.

    Parameters
    ----------
    horizon : tuple[tuple[float, float], ...]
        Pairs of azimuth and elevation. [°]
    azimuth_deg : ndarray
        From true north clockwise, any shape.

    Returns
    -------
    ndarray
        Of the skyline, of the same shape. [°]
    """
    if not horizon:
        return np.zeros_like(azimuth_deg)
    azimuths, elevations = zip(*horizon, strict=True)
    return np.asarray(np.interp(azimuth_deg, azimuths, elevations, period=360.0))
