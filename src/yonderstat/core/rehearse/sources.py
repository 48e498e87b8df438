"""What fills the bank, hour by hour: panels, the engine, and a backup that is started when it runs
low."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..array import Electric, amps_into_bank, cell_rise_k, supply_verdict
from ..calendar import year_days
from ..climate import Here
from ..design import Charger, Design, PanelString
from ..draw import MAINS_KINDS, has_mains_when_judged
from ..keeping import kept_hours
from ..lagging import lagged
from ..store import reaches
from ..sun import (
    Conditions,
    Mounting,
    mounting_of,
)
from ..weather import (
    YearsOfLight,
    hourly_air_c,
    hourly_on_plane_w_m2,
    recorded_year_of_light,
    years_of_light,
)
from .assumed import assumed_figure

FloatArray = NDArray[np.float64]
AirKey = tuple[tuple[float, ...], tuple[float, ...], tuple[float, ...]]

DAYS, HOURS = 365, 24
DRIVING_ORDER = (8, 17, 9, 16, 10, 15, 11, 14, 12, 13, 7, 18)
"""Hours of the day in which an engine runs, the likeliest first. [C]"""


@dataclass(frozen=True, slots=True, kw_only=True)
class Site:
    """What the weather depends on, comparable so that years are kept."""

    here: Here
    conditions: Conditions
    time_zone: str | None
    years: int
    seed: int
    recorded: bool = False
    """The days of the weather file themselves, as one year."""


def _light(site: Site) -> YearsOfLight | None:
    if site.recorded:
        return recorded_year_of_light(site.here, site.conditions, site.time_zone)
    return years_of_light(site.here, site.conditions, site.time_zone, site.years, site.seed)


@kept_hours
def air_c(site: Site, air: AirKey) -> FloatArray | None:
    """The air in every hour, shape (years, 8760) [°C]; None where the sun is not known.

    Parameters
    ----------
    site : Site
        Place, sun and years.
    air : AirKey
        Monthly means, swings and spreads of the air.

    Returns
    -------
    ndarray of shape (years, 8760) or None
        [°C]; None where the sun is not known.
    """
    light = _light(site)
    if light is None:
        return None
    mean_c, swing_k, spread_k = (np.array(part) for part in air)
    return hourly_air_c(light, mean_c, swing_k, spread_k).reshape(site.years, -1)


@kept_hours
def lagged_departure_k(site: Site, air: AirKey, lag_h: float) -> FloatArray | None:
    """How a mass that follows the air with a time constant departs in every hour from the mean of
    its month.

    Parameters
    ----------
    site : Site
        Place, sun and years.
    air : AirKey
        Monthly means, swings and spreads of the air.
    lag_h : float
        Time constant of the mass. [h]

    Returns
    -------
    ndarray of shape (years, 8760) or None
        [K]; None where the sun is not known.
    """
    hourly = air_c(site, air)
    if hourly is None:
        return None
    keep = float(np.exp(-1.0 / lag_h)) if lag_h > 0 else 0.0
    flat = hourly.ravel()
    felt_c = lagged((1.0 - keep) * flat, keep, float(flat[:240].mean())).reshape(site.years, -1)
    months = np.repeat(year_days()[0], HOURS) - 1
    means = np.array([felt_c[:, months == month].mean() for month in range(12)])
    departs = np.asarray(felt_c - means[months])
    departs.setflags(write=False)
    return departs


@kept_hours
def plane_w_m2(site: Site, mounting: Mounting) -> FloatArray | None:
    """Sun on a plane in every hour, shape (years, 8760) [W/m²]; None where it is not known.

    Parameters
    ----------
    site : Site
        Place, sun and years.
    mounting : Mounting
        How the panels stand.

    Returns
    -------
    ndarray of shape (years, 8760) or None
        [W/m²]; None where the sun is not known.
    """
    light = _light(site)
    return None if light is None else hourly_on_plane_w_m2(light, mounting).reshape(site.years, -1)


@kept_hours
def _string_a(
    site: Site, air: AirKey, mounting: Mounting, rise_k: float, electric: Electric
) -> FloatArray:
    sun, hourly = plane_w_m2(site, mounting), air_c(site, air)
    assert sun is not None
    assert hourly is not None
    amps = np.asarray(amps_into_bank(electric, sun, hourly + rise_k * sun / 1000.0))
    amps.setflags(write=False)
    return amps


def string_a(site: Site, air: AirKey, string: PanelString, electric: Electric) -> FloatArray | None:
    """What a string puts into the bank at the mean charging volts, shape (years, 8760) [A]; None
    without known sun.

    Parameters
    ----------
    site : Site
        Place, sun and years.
    air : AirKey
        Monthly means, swings and spreads of the air.
    string : PanelString
        The string.
    electric : Electric
        The string on its controller.

    Returns
    -------
    ndarray of shape (years, 8760) or None
        [A]; None where the sun is not known.
    """
    mounting = mounting_of(string)
    if plane_w_m2(site, mounting) is None:
        return None
    return _string_a(site, air, mounting, cell_rise_k(string), electric)


def engine_a(design: Design) -> FloatArray:
    """What the engine gives in each hour of the day, its driving spread from eight in the morning,
    shape (24,). [A]

    Parameters
    ----------
    design : Design
        The design.

    Returns
    -------
    ndarray of shape (24,)
        [A]
    """
    engine = design.array.alternator
    day = np.zeros(HOURS)
    if engine is not None:
        left = engine.driving_h_per_day.value
        for hour in DRIVING_ORDER:
            part = min(1.0, left)
            day[hour] = engine.into_bank_a * part
            left -= part
    return day


def backup_of(design: Design, absorb_v: float) -> Charger | None:
    """What is started when the bank runs low: of the sources that fill it the strongest; None
    without any.

    Mains stand behind a bank in continuous or everyday use, for in the other purposes they are what
    failed or is not there. A generator stands behind any bank with somebody there to start it. What
    charges another bank, or only at home, does not count.
    """
    mains = has_mains_when_judged(design)
    hand = design.brief.attended == "present"
    found = [
        charger
        for charger in design.array.chargers
        if reaches(design, charger.id)
        and not charger.at_home
        and ((charger.kind in MAINS_KINDS and mains) or (charger.kind == "generator" and hand))
        and supply_verdict(charger, design, absorb_v)[0]
    ]
    return max(found, key=lambda charger: charger.amps.value, default=None)


def backup_day(charger: Charger | None) -> FloatArray:
    """What a backup could give in each hour of the day, shape (24,). A generator runs by day only.
    [A]

    Parameters
    ----------
    charger : Charger or None
        The charger, or none.

    Returns
    -------
    ndarray of shape (24,)
        [A]
    """
    day = np.zeros(HOURS)
    if charger is not None:
        day[:] = charger.amps.value
        if charger.kind == "generator":
            day[: int(assumed_figure("generator_from_h"))] = 0.0
            day[int(assumed_figure("generator_to_h")) :] = 0.0
    return day
