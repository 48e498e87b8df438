"""When a load runs: the share of each clock hour it is on, by month."""

import numpy as np
from numpy.typing import NDArray

from ..climate import Climate
from ..design import Load

FloatArray = NDArray[np.float64]


def on_share(load: Load, climate: Climate) -> FloatArray:
    """Share of each clock hour the load is on, by month, shape (12, 24); zero in months it rests.

    Hours a day and events without a pattern are spread evenly: nobody has said when they fall. A thermostat runs on the
    share of the days that are past it at that hour.
    """
    share = np.zeros((12, 24))
    months = np.array(load.months) - 1
    if load.thermostat is not None:
        above = climate.share_above(load.thermostat.at_c.value)
        running = above if load.thermostat.when == "above" else 1.0 - above
        share[months] = running[months]
    elif load.pattern is not None:
        share[months] = np.array(load.pattern)
    elif load.events is not None:
        share[months] = min(1.0, load.events.per_day * load.events.minutes / 60.0 / 24.0)
    else:
        share[months] = load.hours_per_day.value / 24.0
    return share
