"""How the days of each month are spread at a place, whichever source speaks: reanalysis, own
figures or a file."""

from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np
from numpy.typing import NDArray

from ..calendar import DAYS_IN_MONTH, year_days
from ..climate import Here
from ..keeping import kept_for_places
from .conditions import Conditions, RecordedDays
from .geometry import (
    extraterrestrial_kwh_m2,
)
from .resource import PARTS, equal_parts, resource_at

FloatArray = NDArray[np.float64]

STANDARD_SPREAD = np.repeat(
    np.array([0.30, 0.55, 0.75, 0.90, 1.02, 1.12, 1.21, 1.30, 1.38, 1.47]), PARTS // 10
)
"""Equally likely days over their mean, where no cell tells how days differ. [C] an assumption; its
mean is one."""

FEWEST_DAYS = 20
"""A month of a record with fewer days than this speaks for nobody; the reanalysis fills in."""


@dataclass(frozen=True, slots=True)
class DaySpread:
    """Fifty equally likely days a month on the flat, before any allowance [kW·h/m²], and what of it
    is planned on."""

    day_kwh_m2: FloatArray
    """Shape (12, 50), dullest first."""
    planned_share: FloatArray
    """Shape (12,): the allowance where the reanalysis speaks, 1 where own figures or a file do."""
    recorded: tuple[bool, ...]
    """Which months a file speaks for."""


def month_means(day_values: FloatArray) -> FloatArray:
    """Means by month of a common year's daily values, shape (12,).

    Parameters
    ----------
    day_values : ndarray
        Of a common year, shape (365,) or (365, years).

    Returns
    -------
    ndarray
        Shape (12,).
    """
    ends = np.cumsum(DAYS_IN_MONTH)
    return np.array([part.mean() for part in np.split(day_values, ends[:-1])])


def recorded_days(record: RecordedDays) -> tuple[NDArray[np.int64], NDArray[np.int64], FloatArray]:
    """Month (1–12), day of a common year (1–365) and energy [kW·h/m²] of the days a record holds.

    29 February counts as the 28th; gaps are left out.

    Parameters
    ----------
    record : RecordedDays
        A weather file.

    Returns
    -------
    tuple of ndarray
        Month, day of the year and sum on the flat [kW·h/m²] of every day recorded.
    """
    first = date.fromisoformat(record.first_day)
    # The calendar repeats every 400 years: in this one a record cannot run past the last year there
    # is.
    first = first.replace(year=2000 + first.year % 400)
    months, days, values = [], [], []
    for number, value in enumerate(record.day_wh_m2):
        if value is None:
            continue
        day = first + timedelta(days=number)
        common = date(2001, day.month, 28 if (day.month, day.day) == (2, 29) else day.day)
        months.append(day.month)
        days.append(common.timetuple().tm_yday)
        values.append(value / 1000.0)
    return np.array(months, dtype=np.int64), np.array(days, dtype=np.int64), np.array(values)


@kept_for_places
def _record_spread(latitude_deg: float, record: RecordedDays) -> dict[int, FloatArray]:
    """The months a record speaks for. A day counts as it would in mid-month: over its own sky,
    times the month's."""
    months, days, values = recorded_days(record)
    h0 = extraterrestrial_kwh_m2(np.radians(latitude_deg), year_days()[1])
    mean_h0 = month_means(h0)[months - 1]
    own_h0 = h0[days - 1]
    level = np.divide(values * mean_h0, own_h0, out=np.zeros_like(values), where=own_h0 > 0)
    found = {}
    for month in range(1, 13):
        chosen = level[months == month]
        if chosen.size >= FEWEST_DAYS:
            found[month] = equal_parts(chosen, np.ones(chosen.size))
    return found


def _own(own_hours: tuple[float, ...], near: FloatArray | None) -> FloatArray:
    mean = None if near is None else near.mean(axis=1, keepdims=True)
    shape = np.tile(STANDARD_SPREAD, (12, 1))
    if near is not None and mean is not None:
        shape = np.divide(near, mean, out=shape, where=mean > 0)
    return np.asarray(np.array(own_hours)[:, None] * shape)


@kept_for_places
def day_spread(here: Here, conditions: Conditions) -> DaySpread | None:
    """The spread of days the design plans on, or None where nobody knows it."""
    resource = resource_at(here.latitude_deg, here.longitude_deg)
    near = None if resource is None else resource.day_kwh_m2
    if conditions.own_hours is not None:
        return DaySpread(_own(conditions.own_hours, near), np.ones(12), (False,) * 12)
    found = _record_spread(here.latitude_deg, conditions.record) if conditions.record else {}
    if near is None and len(found) < 12:
        return None
    fallback = np.zeros((12, PARTS)) if near is None else near
    days = np.array([found.get(month, fallback[month - 1]) for month in range(1, 13)])
    recorded = tuple(month in found for month in range(1, 13))
    return DaySpread(days, np.where(recorded, 1.0, here.allowance), recorded)
