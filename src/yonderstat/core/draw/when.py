"""When a load runs: the share of each clock hour it is on, by month."""

from functools import cache

import numpy as np
from numpy.typing import NDArray

from ..calendar import HOURS_A_DAY
from ..climate import Climate
from ..data import rows_by
from ..design import Load

NOTHING = 1e-6
"""A share of an hour, or amp-hours a day, under this are none: the tail of a chance divides what it
should not."""
FloatArray = NDArray[np.float64]


def usual_hours(load: Load) -> str:
    """When a load of its kind usually runs, where nobody has said: evening, day, or round (the
    clock)."""
    return rows_by("load_kinds", "kind")[load.kind]["hours"]


def is_placed(load: Load) -> bool:
    """Whether it is known when a load runs: by a pattern, a thermostat, or as it is always on."""
    return (
        load.pattern is not None
        or load.thermostat is not None
        or load.hours_per_day.value >= HOURS_A_DAY
    )


def hours_in_words(load: Load) -> str:
    """When it is taken to run, where that is our guess; empty where it is known."""
    if is_placed(load) or load.events is not None:
        return ""
    return rows_by("usual_hours", "hours")[usual_hours(load)]["label"]


@cache
def _filled(hours: float, how: str) -> tuple[float, ...]:
    """So many hours laid into the day in the order of their kind, whole hours first."""
    order = rows_by("usual_hours", "hours")[how]["order"]
    if not order:
        return (hours / HOURS_A_DAY,) * HOURS_A_DAY
    share, left = [0.0] * HOURS_A_DAY, hours
    for hour in order.split():
        share[int(hour)] = min(1.0, max(0.0, left))
        left -= 1.0
    return tuple(share)


def on_share(load: Load, climate: Climate, how: str | None = None) -> FloatArray:
    """Share of each clock hour the load is on, by month, shape (12, 24); zero in months it rests.

    Hours a day without a pattern are laid where loads of the kind usually run, as our guess; events
    are spread evenly. A thermostat runs on the share of the days that are past it at that hour.

    Parameters
    ----------
    how : str, optional
        Another way to lay hours that nobody has placed: evening, day or round.

    Returns
    -------
    ndarray of shape (12, 24)
        Share of each clock hour it is on, by month.
    """
    share = np.zeros((12, HOURS_A_DAY))
    months = np.array(load.months) - 1
    if load.thermostat is not None:
        above = climate.share_above(load.thermostat.at_c.value)
        running = above if load.thermostat.when == "above" else 1.0 - above
        share[months] = running[months]
    elif load.pattern is not None:
        share[months] = np.array(load.pattern)
    elif load.events is not None:
        share[months] = min(1.0, load.events.per_day * load.events.minutes / 60.0 / HOURS_A_DAY)
    else:
        share[months] = np.array(_filled(load.hours_per_day.value, how or usual_hours(load)))
    return np.where(share < NOTHING, 0.0, share)
