"""When a load runs: the share of each clock hour it is on, by month."""

import numpy as np
from numpy.typing import NDArray

from ..design import Brief, Load, Place

FloatArray = NDArray[np.float64]

DAY_SWING_K = 10.0
"""From the coolest to the warmest hour. [C] an assumption until the site's weather is known."""
WARMEST_HOUR = 15.0
HOTTEST_MONTH_NORTH = 7.0


def temperatures_c(brief: Brief, place: Place | None) -> FloatArray:
    """Air temperature by month and clock hour, shape (12, 24), between the coldest and hottest of the brief. [°C]

    Two sines: the year's and the day's. In the south the year is turned round.
    """
    coldest, hottest = brief.coldest_c.value, max(brief.hottest_c.value, brief.coldest_c.value)
    swing = min(DAY_SWING_K, hottest - coldest)
    season = (hottest - coldest - swing) / 2
    peak = HOTTEST_MONTH_NORTH if place is None or place.latitude_deg >= 0 else HOTTEST_MONTH_NORTH - 6
    months = np.cos(2 * np.pi * (np.arange(1, 13) - peak) / 12)
    hours = np.cos(2 * np.pi * (np.arange(24) + 0.5 - WARMEST_HOUR) / 24)
    return np.asarray((coldest + hottest) / 2 + season * months[:, None] + swing / 2 * hours[None, :])


def on_share(load: Load, brief: Brief, place: Place | None) -> FloatArray:
    """Share of each clock hour the load is on, by month, shape (12, 24); nought in months it rests.

    Hours a day and events without a pattern are spread evenly: nobody has said when they fall.
    """
    share = np.zeros((12, 24))
    months = np.array(load.months) - 1
    if load.thermostat is not None:
        air = temperatures_c(brief, place)
        limit = load.thermostat.at_c.value
        running = air > limit if load.thermostat.when == "above" else air < limit
        share[months] = running[months]
    elif load.pattern is not None:
        share[months] = np.array(load.pattern)
    elif load.events is not None:
        share[months] = min(1.0, load.events.per_day * load.events.minutes / 60.0 / 24.0)
    else:
        share[months] = load.hours_per_day.value / 24.0
    return share
