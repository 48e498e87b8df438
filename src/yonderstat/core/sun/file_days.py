"""How the days of a weather file run: its own hours, beam and dome, as the shape of days as bright
as they were."""

from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np
import pvlib
from numpy.typing import NDArray

from ..keeping import kept_for_places
from .conditions import NOT_PARTED, RecordedDays, RecordedHours
from .geometry import STEP_H, SkyGrid, sky_grid

FloatArray = NDArray[np.float64]
HOURS = 24
NOON_H = 12.0
FEWEST_SHAPES = 8
"""A month with fewer days of hours than this is no sample of how its days run. [C]"""


@dataclass(frozen=True, slots=True)
class DayShapes:
    """Days of a weather file, in the hours of their own clock."""

    month: NDArray[np.int64]
    """Shape (day,)."""
    clearness: FloatArray
    """Energy of the day over what reaches the air, shape (day,)."""
    ahead_h: FloatArray
    """How far the file's clock is ahead of the sun, shape (day,). [h]"""
    through_the_air: FloatArray
    """Share of what reaches the air that comes down, hour by hour, shape (day, 24)."""
    dome_share: FloatArray
    """Diffuse over all, hour by hour, shape (day, 24)."""


def _calendar(
    record: RecordedDays, hours: RecordedHours, count: int
) -> tuple[NDArray[np.int64], FloatArray]:
    """Month and day of a common year of each day that has hours."""
    first = date.fromisoformat(record.first_day)
    # The calendar repeats every 400 years: in this one a record cannot run past the last year there
    # is.
    first = first.replace(year=2000 + first.year % 400)
    days = [first + timedelta(days=hours.first_index + number) for number in range(count)]
    months = np.array([day.month for day in days], dtype=np.int64)
    common = [
        date(2001, day.month, 28 if (day.month, day.day) == (2, 29) else day.day) for day in days
    ]
    return months, np.array([day.timetuple().tm_yday for day in common], dtype=float)


def _ahead_h(
    hours: RecordedHours, months: NDArray[np.int64], days: FloatArray, total: FloatArray
) -> FloatArray:
    """How far the file's clock is ahead of the sun on each of its days [h].

    Notes
    -----
    From the offset and longitude its header names. A file that names none says it by its own
    sunshine: the middle of a month's energy is noon by the sun, which finds summer time as well.
    [C]
    """
    if hours.utc_offset_h is not None and hours.longitude_deg is not None:
        equation_h = np.asarray(pvlib.solarposition.equation_of_time_spencer71(days)) / 60.0
        return np.asarray(hours.utc_offset_h - hours.longitude_deg / 15.0 - equation_h)
    middle_h = np.arange(HOURS) + 0.5
    ahead = np.zeros(days.size)
    for month in np.unique(months):
        chosen = months == month
        energy = total[chosen].sum(axis=0)
        if energy.sum() > 0:
            ahead[chosen] = float((energy * middle_h).sum() / energy.sum()) - NOON_H
    return ahead


def _dome_share(
    own: FloatArray | None, total: FloatArray, above_w_m2: FloatArray, grid: SkyGrid
) -> FloatArray:
    """Diffuse over all by the hour: the file's own, else from the hour's clearness by Erbs, Klein &
    Duffie (pvlib)."""
    zenith = np.degrees(grid.zenith_rad.reshape(total.shape[0], HOURS, -1).mean(axis=2))
    by_law = pvlib.irradiance.erbs(total, zenith, grid.day_of_year[:, None])["dhi"]
    dome = np.nan_to_num(np.asarray(by_law), nan=0.0)
    if own is not None:
        dome = np.where(own == NOT_PARTED, dome, own)
    share = np.divide(dome, total, out=np.ones_like(total), where=total > 0)
    return np.asarray(np.clip(np.where(above_w_m2 > 0, share, 1.0), 0.0, 1.0))


def _unpacked(packed: bytes) -> FloatArray:
    return np.frombuffer(packed, dtype=np.int16).reshape(-1, HOURS).astype(float)


@kept_for_places
def day_shapes(latitude_deg: float, record: RecordedDays) -> DayShapes | None:
    """How the days of a record run, None where it holds no hours.

    Parameters
    ----------
    latitude_deg : float
        Of the place the record stands for.
    record : RecordedDays
        The weather file.

    Returns
    -------
    DayShapes or None
        Its days with any sunshine at all.
    """
    hours = record.hours
    if hours is None:
        return None
    total = _unpacked(hours.total)
    own = None if hours.diffuse is None else _unpacked(hours.diffuse)
    months, days = _calendar(record, hours, total.shape[0])
    lit = total.sum(axis=1) > 0
    total, months, days, own = total[lit], months[lit], days[lit], None if own is None else own[lit]
    ahead = _ahead_h(hours, months, days, total)
    grid = sky_grid(latitude_deg, (months, days), ahead)
    above = grid.extra_w_m2[:, None] * np.maximum(np.cos(grid.zenith_rad), 0.0)
    above = above.reshape(total.shape[0], HOURS, -1).mean(axis=2)
    through = np.divide(total, above, out=np.zeros_like(total), where=above > 0)
    energy, h0 = total.sum(axis=1) / 1000.0, grid.h0_kwh_m2
    clearness = np.divide(energy, h0, out=np.zeros(days.size), where=h0 > 0)
    return DayShapes(months, clearness, ahead, through, _dome_share(own, total, above, grid))


def alike(shapes: DayShapes, month: int, clearness: FloatArray) -> NDArray[np.int64] | None:
    """Which day of a month was most nearly as bright, for every clearness; None where the month has
    too few.

    Parameters
    ----------
    shapes : DayShapes
        The days to choose from.
    month : int
        1 to 12.
    clearness : ndarray
        Any shape.

    Returns
    -------
    ndarray of int or None
        Index of a day, of the same shape.
    """
    of_month = np.flatnonzero(shapes.month == month)
    if of_month.size < FEWEST_SHAPES:
        return None
    order = of_month[np.argsort(shapes.clearness[of_month], kind="stable")]
    levels = shapes.clearness[order]
    halfway = (levels[1:] + levels[:-1]) / 2.0
    return np.asarray(order[np.searchsorted(halfway, clearness)])


def hours_alike(
    shapes: DayShapes,
    grid: SkyGrid,
    day_kwh_m2: FloatArray,
    total: FloatArray,
    diffuse: FloatArray,
    clearest_beam_w_m2: FloatArray,
) -> tuple[FloatArray, FloatArray]:
    """Let days run as the file's days of that brightness did; what the file cannot tell stays as it
    is.

    Parameters
    ----------
    shapes : DayShapes
        The file's days.
    grid : SkyGrid
        The sky of the days wanted.
    day_kwh_m2 : ndarray, shape (day, k)
        Their totals on the flat.
    total, diffuse : ndarray, shape (day, k, half-hour)
        What an average sky makes of them. [W/m²]
    clearest_beam_w_m2 : ndarray, shape (day, half-hour)
        The most that clean air lets through across the rays: an hour's mean, taken at the half-hour
        in which the sun stands on the horizon, would be a beam that no air lets through. [W/m²]

    Returns
    -------
    tuple of ndarray
        Total and diffuse of the same shape. [W/m²]
    """
    total, diffuse = total.copy(), diffuse.copy()
    above = grid.extra_w_m2[:, None] * np.maximum(np.cos(grid.zenith_rad), 0.0)
    solar_h = np.degrees(grid.hour_angle_rad) / 15.0 + NOON_H
    brightest = clearest_beam_w_m2 * np.maximum(np.cos(grid.zenith_rad), 0.0)
    h0 = grid.h0_kwh_m2
    for number in range(grid.month.size):
        if h0[number] <= 0:
            continue
        day = alike(shapes, int(grid.month[number]), day_kwh_m2[number] / h0[number])
        if day is None:
            continue
        hour = np.floor((solar_h[number][None, :] + shapes.ahead_h[day][:, None]) % HOURS).astype(
            np.int64
        )
        run = shapes.through_the_air[day[:, None], hour] * above[number]
        energy = run.sum(axis=1, keepdims=True) * STEP_H / 1000.0
        known = energy[:, 0] > 0
        run = np.divide(
            run * day_kwh_m2[number][:, None], energy, out=np.zeros_like(run), where=energy > 0
        )
        dome = np.maximum(run * shapes.dome_share[day[:, None], hour], run - brightest[number])
        total[number, known] = run[known]
        diffuse[number, known] = dome[known]
    return total, diffuse
