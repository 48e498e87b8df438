"""What a meter sees of the sun: not what the panels could give, but what battery and loads take of
it; and how that moves with more sun or more draw."""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from ..rehearse import HourlyStation, hourly_station
from ..station import StationModel
from .planned import planned_year
from .series import DARK_A, SMALL_HOURS

FloatArray = NDArray[np.float64]
YEARS = 10
LEAST_APART = 0.04
"""A right plan and a good meter are no surer of a month than that. [C]"""
LESS, MORE = 0.8, 1.2
"""By how much sun and draw are moved to see what follows."""


@dataclass(frozen=True, slots=True)
class Taken:
    """By month, shape (12,): amp-hours taken a day, and by how many per cent that moves with a per
    cent more sun, and with a per cent more draw."""

    ah: FloatArray
    scatter: FloatArray
    """How far a month's sum lies beside the mean of all years, as a logarithm."""
    by_sun: FloatArray
    by_draw: FloatArray
    night_a: FloatArray
    """Drawn in the small hours, heating included."""


def _years_ah(station: HourlyStation) -> FloatArray:
    """Taken a day in every month of every year, shape (years, 12). [A·h]"""
    amps = planned_year(station, "charge_a")
    days = np.bincount(station.months, minlength=12) / 24.0
    return np.array(
        [np.bincount(station.months, weights=year, minlength=12) / days for year in amps]
    )


def _moves(with_it: FloatArray, without: FloatArray, times: float) -> FloatArray:
    """By how many per cent a figure moves with one per cent of what was changed, from 0 to 1."""
    ratio = np.maximum(with_it, 1e-3) / np.maximum(without, 1e-3)
    return np.asarray(np.clip(np.log(ratio) / np.log(times), 0.0, 1.0))


def taken_of(station: StationModel) -> Taken | None:
    """What the rehearsed years take of the sun; None where they cannot be played."""
    hourly = hourly_station(station, YEARS)
    if hourly is None:
        return None
    hours = hourly.hours
    years = _years_ah(hourly)
    now = years.mean(axis=0)
    dimmer = replace(hourly, hours=hours._replace(panels_a=hours.panels_a * LESS))
    busier = replace(hourly, hours=hours._replace(load_a=hours.load_a * MORE))
    apart = np.log(np.maximum(years, 1e-3) / np.maximum(now, 1e-3))
    return Taken(
        now,
        np.maximum(apart.std(axis=0), LEAST_APART),
        _moves(_years_ah(dimmer).mean(axis=0), now, LESS),
        _moves(_years_ah(busier).mean(axis=0), now, MORE),
        _night_a(hourly),
    )


def _night_a(station: HourlyStation) -> FloatArray:
    """The median of what is drawn in the small hours of each month, dark ones left out. [A]"""
    amps = planned_year(station, "load_a")
    hour = np.arange(station.months.size) % 24
    small = (hour >= SMALL_HOURS[0]) & (hour < SMALL_HOURS[1])
    found = np.zeros(12)
    for month in range(12):
        chosen = amps[:, small & (station.months == month)]
        drawn = chosen[chosen > DARK_A]
        found[month] = float(np.median(drawn)) if drawn.size else 0.0
    return found
