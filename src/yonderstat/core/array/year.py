"""A string's amp-hours by month: the light of the month's days, the air, the curve, the
controller."""

import numpy as np
from numpy.typing import NDArray

from ..climate import Here
from ..keeping import kept_for_places
from ..sun import (
    STEP_H,
    Conditions,
    Mounting,
    chosen_days,
    on_plane_w_m2,
    site_sun,
)
from .electric import Electric, amps_into_bank

FloatArray = NDArray[np.float64]

WARMEST_H = 15.0
"""By the sun. [C] common practice."""


@kept_for_places
def month_ah(
    here: Here,
    conditions: Conditions,
    mounting: Mounting,
    air_c: tuple[float, ...],
    swing_k: tuple[float, ...],
    rise_k: float,
    electric: Electric,
) -> tuple[float, ...] | None:
    """Amp-hours a day a controller puts into the bank, by month; None where the sun is not known.

    Parameters
    ----------
    air_c, swing_k : tuple of float
        Mean air and its daily swing by month. [°C], [K]
    rise_k : float
        How much hotter than the air the cells run in full sun. [K]

    Notes
    -----
    The ten equally likely days of each month on its sample days, half-hour by half-hour; kept, so
    that editing a load does not work out the sun again.
    """
    values = [
        one_month_ah(
            here,
            conditions,
            mounting,
            (month, air_c[month - 1], swing_k[month - 1]),
            rise_k,
            electric,
        )
        for month in range(1, 13)
    ]
    return None if values[0] is None else tuple(value or 0.0 for value in values)


@kept_for_places
def _month_light(
    here: Here, conditions: Conditions, mounting: Mounting, month: int
) -> tuple[FloatArray, ...] | None:
    """Sun through a plane's glass on a month's days, shape (day, k, half-hour) [W/m²], and the hour
    by the sun."""
    site = site_sun(here, conditions)
    if site is None:
        return None
    chosen = site.light.grid.month == month
    light = chosen_days(site.light, chosen)
    sun = on_plane_w_m2(light, mounting, here.latitude_deg, glass=True)
    return (
        sun,
        np.degrees(light.grid.hour_angle_rad) / 15.0 + 12.0,
        np.array(site.served[month - 1]),
    )


def one_month_ah(
    here: Here,
    conditions: Conditions,
    mounting: Mounting,
    month_air: tuple[int, float, float],
    rise_k: float,
    electric: Electric,
) -> float | None:
    """Amp-hours a day in one month; None where the sun is not known.

    Parameters
    ----------
    month_air : tuple
        The month, its mean air and its daily swing. [°C], [K]
    """
    month, air_c, swing_k = month_air
    found = _month_light(here, conditions, mounting, month)
    if found is None:
        return None
    sun, solar_h, served = found
    air = air_c + swing_k / 2.0 * np.cos(np.radians(15.0) * (solar_h - WARMEST_H))
    amps = amps_into_bank(electric, sun, air[:, None, :] + rise_k * sun / 1000.0)
    day_ah = float(amps.sum(axis=2).mean() * STEP_H * served)
    return max(day_ah - 24.0 * electric.self_draw_a, 0.0)
