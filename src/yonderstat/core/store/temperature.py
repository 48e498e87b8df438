"""How cold and how hot the bank gets, month by month, and what holding it warm takes."""

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from scipy.special import ndtr

from ..climate import Climate
from ..data import rows_by
from ..design import Bank

FloatArray = NDArray[np.float64]

INDOORS_C, HEATED_C = 15.0, 5.0
"""What a room is warmed to in winter, and a heated box. [C] common practice."""
BARE_K_PER_W = 0.5
"""How much a heater inside a battery that stands free warms it, for each watt. [C]"""
HOT_DAY_SIGMAS = 2.33
BRIGHT_DAY = 1.3
"""Sun on a box on a bright day, over the month's mean. [C]"""
COLD_DAY_SIGMAS = 1.28
"""One day in ten is colder than this many standard deviations below the mean."""

ColdBy = Literal[
    "given",
    "as_the_air",
    "indoors",
    "placeless",
    "placeless_heated",
    "box",
    "box_heated",
    "box_helped",
]
"""How a cold day's temperature came about: typed in, typed in and moved with the air, where the
bank lives, the coldest given without a place, or the air about its box; `heated` where a heater
holds it up, `helped` where the heater is too small to."""


@dataclass(frozen=True, slots=True)
class ColdDay:
    """The bank on a cold day of a month. [°C]"""

    celsius: float
    by: ColdBy
    rise_k: float = 0.0
    """How much warmer than the air its box is."""


def box_rise_k(bank: Bank, sun_w_m2: float) -> float:
    """How much warmer than the air it is where the bank lives [K]: sun on the box, and watts let go
    inside."""
    row = rows_by("housings", "housing")[bank.housing]
    inside_w = bank.box_w.value if bank.box_w else 0.0
    sun_k = float(row["sun_k_per_w_m2"]) * sun_w_m2 if bank.box_in_sun else 0.0
    return inside_w * float(row["kelvin_per_w"]) + sun_k


def cold_day(
    bank: Bank, month: int, hard_month: int, climate: Climate, sun_w_m2: FloatArray
) -> ColdDay:
    """The bank on a cold day of a month: one day in ten is colder.

    Parameters
    ----------
    hard_month : int
        The month a typed temperature is of.
    sun_w_m2 : ndarray of shape (12,)
        On the box, the mean of day and night. [W/m²]

    Returns
    -------
    ColdDay
        How cold it gets, and how that came about.
    """
    placed, housing = climate.basis != "brief", bank.housing
    if bank.cold_c is not None:
        if not placed or housing in {"indoors", "heated"} or month == hard_month:
            return ColdDay(bank.cold_c.value, "given")
        warmer_k = float(climate.mean_c[month - 1] - climate.mean_c[hard_month - 1])
        return ColdDay(bank.cold_c.value + warmer_k, "as_the_air")
    if housing == "indoors":
        # A room is warmed in winter, and no cooler than the air in summer.
        return ColdDay(
            max(INDOORS_C, float(climate.mean_c[month - 1])) if placed else INDOORS_C, "indoors"
        )
    heated = housing == "heated"
    if not placed:
        held = heated and climate.coldest_c < HEATED_C
        return (
            ColdDay(HEATED_C, "placeless_heated")
            if held
            else ColdDay(climate.coldest_c, "placeless")
        )
    rise_k = box_rise_k(bank, float(sun_w_m2[month - 1]))
    value = (
        float(climate.mean_c[month - 1])
        - COLD_DAY_SIGMAS * float(climate.spread_k[month - 1])
        + rise_k
    )
    if not heated or value >= HEATED_C:
        return ColdDay(value, "box", rise_k)
    helped_c = value + heater_help_k(bank)
    return (
        ColdDay(HEATED_C, "box_heated", rise_k)
        if helped_c >= HEATED_C
        else ColdDay(helped_c, "box_helped", rise_k)
    )


def kelvin_per_w(bank: Bank) -> float:
    """How much warmer each watt inside makes it where the bank lives. [K/W]"""
    return float(rows_by("housings", "housing")[bank.housing]["kelvin_per_w"]) or BARE_K_PER_W


def heater_help_k(bank: Bank) -> float:
    """How far the bank's heater can hold it above what it would be [K]; without end in a heated box
    whose heater nobody has given."""
    heater = bank.limits.heater_w
    if heater is None:
        return math.inf if bank.housing == "heated" else 0.0
    return heater.value * kelvin_per_w(bank)


def heating_w(bank: Bank, climate: Climate, sun_w_m2: FloatArray) -> FloatArray:
    """Mean watts by month that hold a heated box at its temperature, shape (12,); nothing in any
    other housing.

    Parameters
    ----------
    bank : Bank
        The bank.
    climate : Climate
        The air of the site.
    sun_w_m2 : ndarray
        On the box, the mean of day and night, shape (12,). [W/m²]

    Returns
    -------
    ndarray of shape (12,)
        [W]

    Notes
    -----
    With days of mean μ and spread σ, P = [(T_set − μ) Φ(z) + σ φ(z)] / R, z = (T_set − μ)/σ, and R
    kelvin per watt of the box: the mean of what is missing on the days that are too cold.
    """
    if bank.housing != "heated":
        return np.zeros(12)
    rise_k = np.array([box_rise_k(bank, float(value)) for value in sun_w_m2])
    missing_k = HEATED_C - climate.mean_c - rise_k
    spread_k = np.maximum(climate.spread_k, 1e-6)
    z = missing_k / spread_k
    density = np.exp(-(z**2) / 2.0) / math.sqrt(2.0 * math.pi)
    watts = (missing_k * ndtr(z) + spread_k * density) / kelvin_per_w(bank)
    heater = bank.limits.heater_w
    return np.asarray(
        np.minimum(np.maximum(watts, 0.0), math.inf if heater is None else heater.value)
    )


def hot_air_c(month: int, climate: Climate) -> float:
    """Mean air of the hottest day of a month [°C]: one in a hundred is hotter; or by the hottest
    given."""
    index = month - 1
    day_c = float(climate.mean_c[index] + HOT_DAY_SIGMAS * climate.spread_k[index])
    if not climate.hottest_given:
        return day_c
    warmest = float(climate.mean_c.max() - climate.mean_c[index])
    return max(day_c, climate.hottest_c - float(climate.swing_k[index]) / 2.0 - warmest)


def hot_day_c(bank: Bank, month: int, climate: Climate, sun_w_m2: FloatArray) -> float:
    """The bank on the hottest day of a month [°C].

    Its mass follows the day's mean; sun on the box and watts inside warm it further. A typed
    temperature is of the hard month and says nothing of summer.

    Parameters
    ----------
    bank : Bank
        The bank.
    month : int
        1 to 12.
    climate : Climate
        The air of the site.
    sun_w_m2 : ndarray
        On the box, the mean of day and night, shape (12,). [W/m²]

    Returns
    -------
    float
        [°C]
    """
    index = month - 1
    day_c = hot_air_c(month, climate)
    if bank.housing == "indoors":
        return max(INDOORS_C, day_c)
    hot = day_c + box_rise_k(bank, BRIGHT_DAY * float(sun_w_m2[index]))
    return max(HEATED_C, hot) if bank.housing == "heated" else hot


def follows_the_air(bank: Bank, climate: Climate) -> bool:
    """Whether the bank is as warm as the air of the day makes it."""
    return climate.basis != "brief" and bank.housing not in {"indoors", "heated"}
