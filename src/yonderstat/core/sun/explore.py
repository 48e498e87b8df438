"""Every tilt and direction at once: which would serve the hard month, and what the chosen one
loses."""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from ..calendar import DAYS_IN_MONTH, MONTH_NAMES
from ..climate import Here, here_of
from ..design import Design
from ..keeping import kept_for_places
from .conditions import Conditions, conditions_of
from .geometry import (
    STEP_H,
)
from .planes import MOUNT_WORDS, Plane, planes_of
from .site import SiteSun, plane_sun, site_sun

FloatArray = NDArray[np.float64]
TILTS_DEG = np.arange(0.0, 91.0, 5.0)
AZIMUTHS_DEG = np.arange(0.0, 360.0, 15.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class TiltMap:
    """Mean sun-hours a day by tilt (rows) and direction (columns), and the best of them."""

    months: tuple[int, ...]
    tilts_deg: tuple[float, ...]
    azimuths_deg: tuple[float, ...]
    hours: tuple[tuple[float, ...], ...]
    best_tilt_deg: float
    best_azimuth_deg: float
    best_hours: float
    takeaway: str = ""


def plane_hours(
    site: SiteSun, month: int, tilts_deg: FloatArray, azimuths_deg: FloatArray
) -> FloatArray:
    """Mean sun-hours a day of a month on many planes [h], shape (tilt, azimuth).

    The same sum as for one plane, its parts that do not depend on the plane added up first.

    Parameters
    ----------
    site : SiteSun
        The sun at the place.
    month : int
        1 to 12.
    tilts_deg : ndarray
        Shape (t,).
    azimuths_deg : ndarray
        Shape (a,).

    Returns
    -------
    ndarray of shape (t, a)
        Sun-hours a day. [kW·h/m²]
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


@kept_for_places
def _map(here: Here, conditions: Conditions, months: tuple[int, ...]) -> TiltMap | None:
    site = site_sun(here, conditions)
    if site is None:
        return None
    days = DAYS_IN_MONTH[np.array(months) - 1]
    by_month = [plane_hours(site, month, TILTS_DEG, AZIMUTHS_DEG) for month in months]
    hours = np.average(by_month, axis=0, weights=days)
    tilt, azimuth = np.unravel_index(int(np.argmax(hours)), hours.shape)
    return TiltMap(
        months=months,
        tilts_deg=tuple(float(value) for value in TILTS_DEG),
        azimuths_deg=tuple(float(value) for value in AZIMUTHS_DEG),
        hours=tuple(tuple(float(value) for value in row) for row in hours),
        best_tilt_deg=float(TILTS_DEG[tilt]),
        best_azimuth_deg=float(AZIMUTHS_DEG[azimuth]),
        best_hours=float(hours[tilt, azimuth]),
    )


def _takeaway(found: TiltMap, chosen: Plane | None, here: Here, conditions: Conditions) -> str:
    when = (
        f"in {MONTH_NAMES[found.months[0] - 1]}"
        if len(found.months) == 1
        else "over the months in use"
    )
    if found.best_hours <= 0:
        return f"No panel gets any sun {when}."
    best = (
        f"Best: tilt {found.best_tilt_deg:.0f}°, facing {found.best_azimuth_deg:.0f}°, "
        f"with {found.best_hours:.1f} sun-hours a day {when}"
    )
    mine = plane_sun(here, conditions, chosen.mounting) if chosen else None
    if chosen is None or mine is None:
        return f"{best}."
    index = np.array(found.months) - 1
    change = (
        float(np.average(mine.mean[index], weights=DAYS_IN_MONTH[index])) / found.best_hours - 1.0
    )
    if change > 0.005:
        return (
            f"{best}. {chosen.name}, {MOUNT_WORDS[chosen.mounting.mount]}: "
            f"{change * 100:.0f} % more than that."
        )
    return f"{best}. {chosen.name}: {-change * 100:.0f} % less."


def tilt_map(design: Design, months: tuple[int, ...]) -> TiltMap | None:
    """The map of some months' mean at the design's place, or None where the sun is not known."""
    here = here_of(design)
    if here is None:
        return None
    conditions = conditions_of(design.sun)
    found = _map(here, conditions, months)
    if found is None:
        return None
    chosen = planes_of(design, here.latitude_deg)[0] if design.array.strings else None
    return replace(found, takeaway=_takeaway(found, chosen, here, conditions))
