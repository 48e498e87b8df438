"""Average currents and amp-hours of loads."""

import numpy as np
from numpy.typing import NDArray

from ..design import Load

FloatArray = NDArray[np.float64]


def mean_on_current_a(receive_a: float, transmit_a: float, transmit_share: float) -> float:
    """Mean current while a load is on: state current times share of time, summed over the states.

    Parameters
    ----------
    receive_a, transmit_a : float
        Current when receiving (or simply on) and when transmitting. [A]
    transmit_share : float
        Share of the time on spent transmitting, 0 to 1.
    """
    return receive_a * (1.0 - transmit_share) + transmit_a * transmit_share


def load_on_current_a(load: Load) -> float:
    """Mean current of all units of a load while on. [A]"""
    transmit_a = load.transmit_a.value if load.transmit_a else load.receive_a.value
    return load.quantity * mean_on_current_a(load.receive_a.value, transmit_a, load.transmit_share.value)


def load_daily_ah(load: Load) -> float:
    """Amp-hours a day of a load in a month it runs. [A·h]"""
    return load_on_current_a(load) * load.hours_per_day.value


def load_night_ah(load: Load, night_h: float) -> float:
    """Amp-hours of a load in one night, its hours all taken to fall in the dark as far as they fit. [A·h]"""
    return load_on_current_a(load) * min(load.hours_per_day.value, night_h)


def daily_ah_by_month(loads: list[Load]) -> FloatArray:
    """Amp-hours a day of all loads, by month January to December. [A·h]"""
    months = np.zeros(12)
    for load in loads:
        months[np.array(load.months) - 1] += load_daily_ah(load)
    return months
