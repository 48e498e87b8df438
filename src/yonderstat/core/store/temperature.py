"""How cold the bank gets, month by month."""

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ..climate import Climate
from ..data import rows_by
from ..design import Bank

FloatArray = NDArray[np.float64]

INDOORS_C, HEATED_C = 15.0, 5.0
"""Bank temperature taken indoors and in a heated box in the hard month. [C] common practice."""
COLD_DAY_SIGMAS = 1.28
"""One day in ten is colder than this many standard deviations below the mean."""

ColdBy = Literal["given", "as_the_air", "indoors", "placeless", "placeless_heated", "box", "box_heated"]
"""How a cold day's temperature came about: typed in, typed in and moved with the air, where the bank lives, the coldest
given without a place, or the air about its box; `heated` where a heater holds it up."""


@dataclass(frozen=True, slots=True)
class ColdDay:
    """The bank on a cold day of a month. [°C]"""

    celsius: float
    by: ColdBy
    rise_k: float = 0.0
    """How much warmer than the air its box is."""


def box_rise_k(bank: Bank, sun_w_m2: float) -> float:
    """How much warmer than the air it is where the bank lives [K]: sun on the box, and watts let go inside."""
    row = rows_by("housings", "housing")[bank.housing]
    inside_w = bank.box_w.value if bank.box_w else 0.0
    sun_k = float(row["sun_k_per_w_m2"]) * sun_w_m2 if bank.box_in_sun else 0.0
    return inside_w * float(row["kelvin_per_w"]) + sun_k


def cold_day(bank: Bank, month: int, hard_month: int, climate: Climate, sun_w_m2: FloatArray) -> ColdDay:
    """The bank on a cold day of a month: one day in ten is colder.

    Parameters
    ----------
    hard_month : int
        The month a typed temperature is of.
    sun_w_m2 : ndarray of shape (12,)
        On the box, the mean of day and night. [W/m²]
    """
    placed, housing = climate.basis != "brief", bank.housing
    if bank.cold_c is not None:
        if not placed or housing in {"indoors", "heated"} or month == hard_month:
            return ColdDay(bank.cold_c.value, "given")
        warmer_k = float(climate.mean_c[month - 1] - climate.mean_c[hard_month - 1])
        return ColdDay(bank.cold_c.value + warmer_k, "as_the_air")
    if housing == "indoors":
        return ColdDay(INDOORS_C, "indoors")
    heated = housing == "heated"
    if not placed:
        held = heated and climate.coldest_c < HEATED_C
        return ColdDay(HEATED_C, "placeless_heated") if held else ColdDay(climate.coldest_c, "placeless")
    rise_k = box_rise_k(bank, float(sun_w_m2[month - 1]))
    value = float(climate.mean_c[month - 1]) - COLD_DAY_SIGMAS * float(climate.spread_k[month - 1]) + rise_k
    return ColdDay(HEATED_C, "box_heated", rise_k) if heated and value < HEATED_C else ColdDay(value, "box", rise_k)


def follows_the_air(bank: Bank, climate: Climate) -> bool:
    """Whether the bank is as warm as the air of the day makes it."""
    return climate.basis != "brief" and bank.housing not in {"indoors", "heated"}
