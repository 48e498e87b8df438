"""The one climate of a site: the air of the year by month, and how cold and hot it gets. Every step
reads this."""

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from scipy.special import ndtr

from ..calendar import HOURS_A_DAY
from ..design import Brief, Design, WeatherRecord
from ..keeping import kept_for_places
from .grid import surface_year_c
from .here import Here, here_of
from .zone import climate_zone, zone_figure

FloatArray = NDArray[np.float64]
AirYear = tuple[FloatArray, FloatArray, FloatArray]
"""Means, swings and spreads by month, each of shape (12,)."""
Basis = Literal["record", "grid", "brief"]

GRID_ERROR_K = 1.0
"""How far the grid's month is off, root mean square, over 270 cities' normals (tests/reference):
0.94 K, rounded up."""
GRID_MOST_OFF_K = 2.0
"""Within this in 95 of 100 months of those cities."""
USUAL_COLDEST_C, USUAL_HOTTEST_C = -10.0, 32.0
"""[C] taken where nobody says where the station is."""
PLACELESS_SWING_K, PLACELESS_SPREAD_K = 10.0, 3.0
"""[C] a usual day's swing, and the spread of days, without a place."""
WARMEST_HOUR, HOTTEST_MONTH_NORTH = 15.0, 7.0
LEAST_SPREAD_K = 0.5


@dataclass(frozen=True, slots=True, kw_only=True)
class Climate:
    """The air of a site. Arrays of shape (12,), read-only."""

    mean_c: FloatArray
    swing_k: FloatArray
    """From the coldest to the warmest hour of a usual day."""
    spread_k: FloatArray
    """Standard deviation of the days' means."""
    basis: Basis
    """A weather file, the packaged grid, or without a place what the brief says."""
    zone: str
    coldest_c: float
    """The coldest night of a year."""
    coldest_given: bool
    hottest_c: float
    """The hottest afternoon of a year."""
    hottest_given: bool

    @property
    def error_k(self) -> float | None:
        """How far a month's mean may be off, root mean square; None where it was measured or nobody
        knows the place."""
        return GRID_ERROR_K if self.basis == "grid" else None

    def hourly_c(self) -> FloatArray:
        """Mean air by month and clock hour, shape (12, 24) [°C]: a sine through the day, warmest in
        mid-afternoon.

        Returns
        -------
        ndarray of shape (12, 24)
            The mean day of each month. [°C]
        """
        hours = np.cos(2 * np.pi * (np.arange(HOURS_A_DAY) + 0.5 - WARMEST_HOUR) / HOURS_A_DAY)
        return np.asarray(self.mean_c[:, None] + self.swing_k[:, None] / 2 * hours[None, :])

    def share_above(self, limit_c: float) -> FloatArray:
        """Share of the days on which an hour is warmer than a limit, by month and clock hour, shape
        (12, 24).

        Parameters
        ----------
        limit_c : float
            The temperature. [°C]

        Returns
        -------
        ndarray of shape (12, 24)
            Share of each clock hour of each month that is warmer.
        """
        spread = np.maximum(self.spread_k, LEAST_SPREAD_K)[:, None]
        return np.asarray(ndtr((self.hourly_c() - limit_c) / spread))


def guessed_coldest_c(mean_c: FloatArray) -> float:
    """The coldest night of a year from monthly means [°C], on the cold side. [C]

    Parameters
    ----------
    mean_c : ndarray
        Monthly means, shape (12,). [°C]

    Returns
    -------
    float
        The coldest night of a usual year. [°C]

    Notes
    -----
    T = T_coldest month − min(24, 9 + 0.5 · yearly range) K, down to a whole degree. Against nine
    stations' usual yearly minimum, from memory, it is never warmer by more than 1 K.
    """
    low, high = float(mean_c.min()), float(mean_c.max())
    return math.floor(low - min(24.0, 9.0 + 0.5 * (high - low)))


def guessed_hottest_c(mean_c: FloatArray) -> float:
    """The hottest afternoon of a year from monthly means [°C], on the hot side. [C]

    Parameters
    ----------
    mean_c : ndarray
        Monthly means, shape (12,). [°C]

    Returns
    -------
    float
        The hottest afternoon of a usual year. [°C]

    Notes
    -----
    T = T_warmest month + 13 K, and 8 K more where the year ranges over less than 8 K, up to a whole
    degree.
    """
    low, high = float(mean_c.min()), float(mean_c.max())
    return math.ceil(high + 13.0 + (8.0 if high - low < 8.0 else 0.0))


def _usual_spread_k(zone: str, mean_c: FloatArray) -> FloatArray:
    """Between the zone's winter and summer figures, by how far the month stands between its
    extremes."""
    winter, summer = zone_figure(zone, "winter_spread_k"), zone_figure(zone, "summer_spread_k")
    low, high = mean_c.min(), mean_c.max()
    share = (mean_c - low) / (high - low) if high > low else np.ones(12)
    return np.asarray(winter + (summer - winter) * share)


def _kept(*arrays_: FloatArray) -> None:
    for part in arrays_:
        part.setflags(write=False)


@kept_for_places
def usual_year(latitude_deg: float, longitude_deg: float, elevation_m: float) -> AirYear:
    """Means, swings and spreads of the days by month without a weather file. [°C], [K], [K]

    Parameters
    ----------
    latitude_deg : float
        North positive. [°]
    longitude_deg : float
        East positive. [°]
    elevation_m : float
        Above the sea. [m]
    """
    zone = climate_zone(latitude_deg, longitude_deg)
    mean_c = surface_year_c(latitude_deg, longitude_deg, elevation_m)
    swing_k, spread_k = np.full(12, zone_figure(zone, "swing_k")), _usual_spread_k(zone, mean_c)
    _kept(mean_c, swing_k, spread_k)
    return mean_c, swing_k, spread_k


def _recorded_year(record: WeatherRecord) -> AirYear | None:
    months = record.warmth
    if months is None:
        return None
    found = tuple(
        np.array([getattr(month, name) for month in months])
        for name in ("mean_c", "swing_k", "spread_k")
    )
    _kept(*found)
    return found[0], found[1], found[2]


def _placeless_year(coldest_c: float, hottest_c: float) -> AirYear:
    """A year between two extremes: a sine, hottest in July, as nobody says on which side of the
    equator."""
    swing = min(PLACELESS_SWING_K, hottest_c - coldest_c)
    season = (hottest_c - coldest_c - swing) / 2
    turn = np.cos(2 * np.pi * (np.arange(1, 13) - HOTTEST_MONTH_NORTH) / 12)
    found = (
        (coldest_c + hottest_c) / 2 + season * turn,
        np.full(12, swing),
        np.full(12, PLACELESS_SPREAD_K),
    )
    _kept(*found)
    return found


def _given(brief: Brief) -> tuple[float | None, float | None]:
    return (
        brief.coldest_c.value if brief.coldest_c else None,
        brief.hottest_c.value if brief.hottest_c else None,
    )


def _climate(
    parts: AirYear, basis: Basis, zone: str, brief: Brief, extremes_c: tuple[float, float]
) -> Climate:
    mean_c, swing_k, spread_k = parts
    coldest_c, hottest_c = extremes_c
    return Climate(
        mean_c=mean_c,
        swing_k=swing_k,
        spread_k=spread_k,
        basis=basis,
        zone=zone,
        coldest_c=coldest_c,
        coldest_given=brief.coldest_c is not None,
        hottest_c=hottest_c,
        hottest_given=brief.hottest_c is not None,
    )


def climate_at(here: Here | None, brief: Brief, record: WeatherRecord | None) -> Climate:
    """The climate of a site: a weather file's air where it has any, the grid's, or without a place
    the brief's.

    Parameters
    ----------
    here : Here or None
        The place; None where the site has none.
    record : WeatherRecord or None
        An imported weather file.
    """
    coldest, hottest = _given(brief)
    if here is None:
        low = USUAL_COLDEST_C if coldest is None else coldest
        high = max(USUAL_HOTTEST_C if hottest is None else hottest, low)
        parts: AirYear = _placeless_year(low, high)
        return _climate(parts, "brief", "", brief, (low, high))
    recorded = _recorded_year(record) if record else None
    parts = recorded or usual_year(here.latitude_deg, here.longitude_deg, here.elevation_m)
    low = guessed_coldest_c(parts[0]) if coldest is None else coldest
    if recorded and record and record.warmth and coldest is None:
        low = min(low, *(month.lowest_c for month in record.warmth))
    high = guessed_hottest_c(parts[0]) if hottest is None else hottest
    zone = climate_zone(here.latitude_deg, here.longitude_deg)
    basis: Basis = "record" if recorded else "grid"
    return _climate(parts, basis, zone, brief, (low, max(high, low)))


def climate_of(design: Design) -> Climate:
    """The climate a design stands in."""
    record = design.sun.record if design.sun.source == "record" else None
    return climate_at(here_of(design), design.brief, record)
