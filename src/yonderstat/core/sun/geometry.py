"""Where the sun stands, in solar time, on sample days of every month. Position formulas are
pvlib's."""

from dataclasses import dataclass

import numpy as np
import pvlib
from numpy.typing import NDArray

from ..calendar import DAYS_IN_MONTH
from ..keeping import kept_for_places

FloatArray = NDArray[np.float64]

SAMPLE_SHARES = (0.1, 0.3, 0.5, 0.7, 0.9)
"""Five sample days spread evenly over each month: within a month the sky can change fivefold at
65°."""

STEP_H = 0.5
SOLAR_CONSTANT_W_M2 = 1361.0
"""NASA TSIS-1 value, as pvlib's default of 1366.1 is the older one; daily sums are checked against
a book value."""


@dataclass(frozen=True, slots=True, kw_only=True)
class SkyGrid:
    """Sun positions on the sample days; arrays of shape (day, half-hour) unless said otherwise."""

    month: NDArray[np.int64]
    """Month 1–12 of each day, shape (day,)."""
    day_of_year: FloatArray
    hour_angle_rad: FloatArray
    zenith_rad: FloatArray
    azimuth_deg: FloatArray
    extra_w_m2: FloatArray
    """Extraterrestrial normal irradiance, shape (day,)."""
    sunset_rad: FloatArray
    """Sunset hour angle, 0 in polar night and π in midnight sun, shape (day,)."""
    h0_kwh_m2: FloatArray
    """Extraterrestrial energy on the horizontal in the day, shape (day,)."""


def sample_days() -> tuple[NDArray[np.int64], FloatArray]:
    """The month and the day of the year of every sample day (a common year).

    Returns
    -------
    tuple of ndarray
        Month of each day, 1 to 12, and its day of the year.
    """
    first = np.concatenate(([0], np.cumsum(DAYS_IN_MONTH)[:-1]))
    months = np.repeat(np.arange(1, 13), len(SAMPLE_SHARES))
    days = (first[:, None] + DAYS_IN_MONTH[:, None] * np.array(SAMPLE_SHARES)).ravel() + 0.5
    return months, days


def declination_rad(day_of_year: FloatArray) -> FloatArray:
    """Declination of the sun [rad], Spencer 1971 by pvlib.

    Parameters
    ----------
    day_of_year : ndarray
        1 to 366, any shape.

    Returns
    -------
    ndarray
        Of the same shape. [rad]
    """
    return np.asarray(pvlib.solarposition.declination_spencer71(day_of_year))


def sunset_hour_angle_rad(latitude_rad: float, declination: FloatArray) -> FloatArray:
    """Hour angle of sunset on the flat [rad]: 0 in polar night, π in midnight sun.

    Parameters
    ----------
    latitude_rad : float
        North positive.
    declination : ndarray
        Any shape. [rad]

    Returns
    -------
    ndarray
        Of the same shape. [rad]
    """
    cosine = -np.tan(latitude_rad) * np.tan(declination)
    return np.asarray(np.arccos(np.clip(cosine, -1.0, 1.0)))


def extraterrestrial_kwh_m2(latitude_rad: float, day_of_year: FloatArray) -> FloatArray:
    """Energy of a day on the horizontal above the air [kW·h/m²].

    Parameters
    ----------
    latitude_rad : float
        North positive.
    day_of_year : ndarray
        1 to 366, any shape.

    Returns
    -------
    ndarray
        On the flat over a day, of the same shape. [kW·h/m²]

    Notes
    -----
    H0 = 24/π · G_on · (cos φ cos δ sin ω_s + ω_s sin φ sin δ)  [1]_

    References
    ----------
    .. [1] Duffie & Beckman, Solar Engineering of Thermal Processes, eq. 1.10.3.
    """
    declination = declination_rad(day_of_year)
    sunset = sunset_hour_angle_rad(latitude_rad, declination)
    normal = np.asarray(
        pvlib.irradiance.get_extra_radiation(
            day_of_year, solar_constant=SOLAR_CONSTANT_W_M2, method="spencer"
        )
    )
    sky = np.cos(latitude_rad) * np.cos(declination) * np.sin(sunset) + sunset * np.sin(
        latitude_rad
    ) * np.sin(declination)
    return np.asarray(np.maximum(0.0, 24.0 / np.pi * normal * sky / 1000.0))


def noon_sun_deg(latitude_deg: float) -> FloatArray:
    """How high the sun stands at noon in the middle of each month, shape (12,) [°]; negative below
    the horizon.

    Parameters
    ----------
    latitude_deg : float
        North positive.

    Returns
    -------
    ndarray of shape (12,)
        Elevation. [°]
    """
    _, days = sample_days()
    declination = np.degrees(declination_rad(days[len(SAMPLE_SHARES) // 2 :: len(SAMPLE_SHARES)]))
    return np.asarray(90.0 - np.abs(latitude_deg - declination))


@kept_for_places
def night_hours_by_month(latitude_deg: float) -> FloatArray:
    """The longest night of each month on a flat horizon [h], shape (12,).

    Every day of the month is looked at: near a pole the longest night is not the fifteenth's.

    Parameters
    ----------
    latitude_deg : float
        North positive.

    Returns
    -------
    ndarray of shape (12,)
        [h]
    """
    days = np.arange(1.0, 366.0)
    month = np.repeat(np.arange(12), DAYS_IN_MONTH)
    sunset = sunset_hour_angle_rad(np.radians(latitude_deg), declination_rad(days))
    night_h = 24.0 * (1.0 - sunset / np.pi)
    longest = np.array([night_h[month == index].max() for index in range(12)])
    longest.setflags(write=False)
    return longest


def sky_grid(
    latitude_deg: float,
    days: tuple[NDArray[np.int64], FloatArray] | None = None,
    clock_ahead_h: FloatArray | None = None,
) -> SkyGrid:
    """Sun positions at every half-hour of some days at a latitude.

    Parameters
    ----------
    days : pair of ndarray, optional
        Month and day of the year of each day; the sample days unless given.
    clock_ahead_h : ndarray of shape (day,), optional
        How far the clock is ahead of the sun. The half-hours are then the clock's; without it the
        sun's. [h]

    Returns
    -------
    SkyGrid
        Where the sun stands through each day.
    """
    months, day_of_year = sample_days() if days is None else days
    # At a pole tan φ has no end and azimuth no meaning; a hair off it both are fine.
    latitude = np.radians(np.clip(latitude_deg, -89.99, 89.99))
    declination = declination_rad(day_of_year)
    clock_h = np.arange(0.0, 24.0, STEP_H) + STEP_H / 2.0
    ahead = np.zeros(day_of_year.size) if clock_ahead_h is None else clock_ahead_h
    solar_h = (clock_h[None, :] - ahead[:, None]) % 24.0
    hour_angle = np.radians(15.0 * (solar_h - 12.0))
    zenith = pvlib.solarposition.solar_zenith_analytical(latitude, hour_angle, declination[:, None])
    azimuth = pvlib.solarposition.solar_azimuth_analytical(
        latitude, hour_angle, declination[:, None], zenith
    )
    normal = pvlib.irradiance.get_extra_radiation(
        day_of_year, solar_constant=SOLAR_CONSTANT_W_M2, method="spencer"
    )
    return SkyGrid(
        month=months,
        day_of_year=day_of_year,
        hour_angle_rad=hour_angle,
        zenith_rad=np.asarray(zenith),
        azimuth_deg=np.degrees(np.asarray(azimuth)) % 360.0,
        extra_w_m2=np.asarray(normal),
        sunset_rad=sunset_hour_angle_rad(float(latitude), declination),
        h0_kwh_m2=extraterrestrial_kwh_m2(float(latitude), day_of_year),
    )
