"""Every tilt and direction at once: which would serve the hard month, and what the chosen one loses."""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from ..data import rows_by
from ..design import Design
from .conditions import Conditions, conditions_of
from .geometry import STEP_H
from .report import relief_m
from .tilted import SiteSun, site_sun

FloatArray = NDArray[np.float64]
TILTS_DEG = np.arange(0.0, 91.0, 5.0)
AZIMUTHS_DEG = np.arange(0.0, 360.0, 15.0)


@dataclass(frozen=True, slots=True)
class TiltMap:
    """Sun-hours of a month by tilt (rows) and direction (columns), and the best of them."""

    month: int
    tilts_deg: tuple[float, ...]
    azimuths_deg: tuple[float, ...]
    hours: tuple[tuple[float, ...], ...]
    best_tilt_deg: float
    best_azimuth_deg: float
    best_hours: float


def plane_hours(site: SiteSun, month: int, tilts_deg: FloatArray, azimuths_deg: FloatArray) -> FloatArray:
    """Mean sun-hours a day of a month on many planes [h], shape (tilt, azimuth).

    The same sum as for one plane, its parts that do not depend on the plane added up first.
    """
    grid, light = site.light.grid, site.light
    chosen = grid.month == month
    direct = light.direct[chosen].mean(axis=1)
    sky = float(light.sky[chosen].mean(axis=1).sum())
    ground = float((light.total[chosen].mean(axis=1).sum(axis=1) * light.albedo[chosen]).sum())
    zenith, sun_azimuth = grid.zenith_rad[chosen], np.radians(grid.azimuth_deg[chosen])
    tilt = np.radians(tilts_deg)[:, None, None, None]
    turned = sun_azimuth - np.radians(azimuths_deg)[None, :, None, None]
    incidence = np.cos(zenith) * np.cos(tilt) + np.sin(zenith) * np.sin(tilt) * np.cos(turned)
    beam = (direct * np.maximum(incidence, 0.0)).sum(axis=(2, 3))
    open_sky = (1.0 + np.cos(np.radians(tilts_deg)))[:, None] / 2.0
    whole = beam + sky * open_sky + ground * (1.0 - open_sky)
    return np.asarray(whole * STEP_H / 1000.0 / chosen.sum() * site.served[month - 1])


@lru_cache(maxsize=128)
def _map(
    latitude_deg: float, longitude_deg: float, elevation_m: float, allowance: float, conditions: Conditions, month: int
) -> TiltMap | None:
    site = site_sun(latitude_deg, longitude_deg, elevation_m, allowance, conditions)
    if site is None:
        return None
    hours = plane_hours(site, month, TILTS_DEG, AZIMUTHS_DEG)
    tilt, azimuth = np.unravel_index(int(np.argmax(hours)), hours.shape)
    return TiltMap(
        month,
        tuple(float(value) for value in TILTS_DEG),
        tuple(float(value) for value in AZIMUTHS_DEG),
        tuple(tuple(float(value) for value in row) for row in hours),
        float(TILTS_DEG[tilt]),
        float(AZIMUTHS_DEG[azimuth]),
        float(hours[tilt, azimuth]),
    )


def tilt_map(design: Design, month: int) -> TiltMap | None:
    """The map of a month at the design's place, or None where the sun is not known."""
    place = design.place
    if place is None:
        return None
    elevation = place.elevation_m
    height_m = elevation.value if elevation else relief_m(round(place.latitude_deg, 3), round(place.longitude_deg, 3))
    conditions = conditions_of(design.sun)
    own = conditions.own_hours is not None
    allowance = 1.0 if own else float(rows_by("allowances", "allowance")[design.sun.allowance]["factor"])
    return _map(place.latitude_deg, place.longitude_deg, height_m, allowance, conditions, month)
