"""What a plane takes of the light: fixed, flat, turned by hand, by a rotator, or on two axes."""

from dataclasses import dataclass
from functools import cache

import numpy as np
import pvlib
from numpy.typing import NDArray

from ..design import Mount, PanelString
from .geometry import STEP_H, SkyGrid, declination_rad
from .light import DayLight

FloatArray = NDArray[np.float64]
JUST_AFTER_NOON_RAD = 1e-6


@dataclass(frozen=True, slots=True)
class Mounting:
    """How a plane stands. [°]"""

    tilt_deg: float
    azimuth_deg: float
    """The way it faces from true north clockwise; without meaning where it follows the sun."""
    mount: Mount = "fixed"
    aims_per_day: int = 3


def mounting_of(string: PanelString) -> Mounting:
    """How a string of a design stands."""
    tilt_deg = 0.0 if string.mount == "flat" else string.tilt_deg
    return Mounting(tilt_deg, string.azimuth_deg, string.mount, string.aims_per_day)


def _hand_azimuth_deg(grid: SkyGrid, latitude_deg: float, aims: int) -> FloatArray:
    """The way a panel faces that somebody turns so many times a day, each time to the middle of its
    share of the day.

    Shape (day, half-hour). [°]
    """
    sunset = np.maximum(grid.sunset_rad, 1e-6)[:, None]
    share = (grid.hour_angle_rad + sunset) / (2.0 * sunset)
    turn = np.clip(np.floor(share * aims), 0, aims - 1)
    middle = -sunset + (turn + 0.5) * 2.0 * sunset / aims
    # At noon to the dot the formula below says south on either side of the equator; a hair later it
    # knows better.
    middle = np.where(np.abs(middle) < JUST_AFTER_NOON_RAD, JUST_AFTER_NOON_RAD, middle)
    latitude = np.radians(np.clip(latitude_deg, -89.99, 89.99))
    declination = declination_rad(grid.day_of_year)[:, None]
    zenith = pvlib.solarposition.solar_zenith_analytical(latitude, middle, declination)
    azimuth = pvlib.solarposition.solar_azimuth_analytical(latitude, middle, declination, zenith)
    return np.asarray(np.degrees(np.asarray(azimuth)) % 360.0)


def _faces_deg(grid: SkyGrid, mounting: Mounting, latitude_deg: float) -> FloatArray:
    if mounting.mount == "rotator":
        return grid.azimuth_deg
    if mounting.mount == "reaimed":
        return _hand_azimuth_deg(grid, latitude_deg, mounting.aims_per_day)
    return np.full((1, 1), mounting.azimuth_deg)


@dataclass(frozen=True, slots=True)
class _Glass:
    """What a panel's glass lets through of the light from the dome and from the ground, as
    shares."""

    sky: float
    ground: float


FOLLOWS = _Glass(0.95, 0.9)
"""Of a plane on two axes, whose tilt differs by the hour: about what Marion's integrals give
between 30 and 60°."""
NO_GLASS = _Glass(1.0, 1.0)


@cache
def _glass(tilt_deg: float) -> _Glass:
    """By Marion's integrals of the physical model over the dome and the ground [1]_.

    References
    ----------
    .. [1] B. Marion, Numerical method for angle-of-incidence correction factors for diffuse
           radiation incident
       photovoltaic modules, Solar Energy 147, 2017; in pvlib.
    """
    found = pvlib.iam.marion_diffuse("physical", tilt_deg)
    return _Glass(float(found["sky"]), float(found["ground"]))


def _through_glass(incidence: FloatArray) -> FloatArray:
    """Of the light from the sun's place, by the cosine of its incidence: Snell, Fresnel and a
    little absorption, for plain glass, over what passes straight [De Soto et al. 2006, in
    pvlib]."""
    angles = np.degrees(np.arccos(np.clip(incidence, 0.0, 1.0)))
    return np.asarray(pvlib.iam.physical(angles))


def on_plane_w_m2(
    light: DayLight, mounting: Mounting, latitude_deg: float, glass: bool = False
) -> FloatArray:
    """Light on a plane at every half-hour, shape (day, k, half-hour) [W/m²].

    Parameters
    ----------
    latitude_deg : float
        Of the place the light belongs to. [°]
    glass : bool
        Whether only what a panel's glass lets through counts, over what passes straight.

    Returns
    -------
    ndarray of shape (days, levels, steps)
        [W/m²]

    Notes
    -----
    What comes from the sun's place counts by the cosine of its incidence, the dome by (1 + cos β)/2
    and the ground by (1 − cos β)/2. A two-axis mount is taken to find the brightest tilt itself:
    under overcast it lies flat, in the sun it looks into it. With D, S, G from sun, dome and ground
    that tilt is the maximum of D cos(β − z) + S (1 + cos β)/2 + G (1 − cos β)/2, which is a sine of
    β.
    """
    grid = light.grid
    ground = light.total * light.albedo[:, None, None]
    zenith = grid.zenith_rad
    if mounting.mount == "two_axis":
        along = light.direct * np.cos(zenith)[:, None, :] + (light.sky - ground) / 2.0
        across = light.direct * np.sin(zenith)[:, None, :]
        best = np.where(along >= 0.0, np.hypot(along, across), across)
        passes = FOLLOWS if glass else NO_GLASS
        # It looks into the sun, whose light passes straight; what it takes of dome and ground comes
        # from all sides.
        half = (light.sky + ground) / 2.0
        return np.asarray(
            best
            + half
            - (1.0 - passes.sky) * light.sky / 2.0
            - (1.0 - passes.ground) * ground / 2.0
        )
    faces = _faces_deg(grid, mounting, latitude_deg)
    tilt = np.radians(mounting.tilt_deg)
    incidence = np.cos(zenith) * np.cos(tilt) + np.sin(zenith) * np.sin(tilt) * np.cos(
        np.radians(grid.azimuth_deg - faces)
    )
    open_sky = (1.0 + np.cos(tilt)) / 2.0
    passes = _glass(float(mounting.tilt_deg)) if glass else NO_GLASS
    taken = np.maximum(incidence, 0.0)
    if glass:
        taken = taken * _through_glass(incidence)
    direct = light.direct * taken[:, None, :]
    return np.asarray(
        direct + light.sky * open_sky * passes.sky + ground * (1.0 - open_sky) * passes.ground
    )


def on_plane_kwh_m2(light: DayLight, mounting: Mounting, latitude_deg: float) -> FloatArray:
    """Sunshine of days on a plane, shape (day, k) [kW·h/m²]; see `on_plane_w_m2`.

    Parameters
    ----------
    light : DayLight
        The light on the flat.
    mounting : Mounting
        How the panels stand.
    latitude_deg : float
        North positive.

    Returns
    -------
    ndarray of shape (days, levels)
        [kW·h/m²]
    """
    return np.asarray(on_plane_w_m2(light, mounting, latitude_deg).sum(axis=2) * STEP_H / 1000.0)
