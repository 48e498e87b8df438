"""Copper: its area from a gauge, its resistance by temperature, and what a length of it loses.

References
----------
.. [1] ASTM B258, Standard Specification for Standard Nominal Diameters and Cross-Sectional Areas of
       AWG Sizes.
.. [2] IEC 60028, International Standard of Resistance for Copper: 0.017241 Ω·mm²/m and 0.00393/K at
       20 °C.
.. [3] IEC 60228, class 5 copper at 20 °C.
.. [4] NEC chapter 9 table 8: stranded against solid copper.
"""

import math
from functools import cache, lru_cache

from ..data import rows

COPPER_20_OHM_MM2_M, COPPER_PER_K = 0.017241, 0.00393
WARM_C = 50.0
"""Wire in the sun, or under load in a box. [C] common practice."""
STRANDED = 1.02
"""Strands run a little longer than the cable [4]_."""
SAME_METRIC = 0.005


def awg_mm2(number: int) -> float:
    """Area of a gauge [mm²]: d = 0.127 · 92^((36 − n)/39) mm [1]_; 1/0 to 4/0 are 0 to −3."""
    diameter_mm = 0.127 * 92.0 ** ((36.0 - number) / 39.0)
    return float(math.pi / 4.0 * diameter_mm**2)


def copper_ohm_per_m(area_mm2: float, temperature_c: float = WARM_C) -> float:
    """Resistance of a metre of solid copper [Ω/m], ρ₂₀ (1 + α (T − 20)) / A [2]_."""
    return COPPER_20_OHM_MM2_M * (1.0 + COPPER_PER_K * (temperature_c - 20.0)) / area_mm2


@cache
def _metric_ohm_per_m() -> tuple[tuple[float, float], ...]:
    return tuple(
        (float(row["mm2"]), float(row["ohm_km_20"]) / 1000.0)
        for row in rows("wire_sizes")
        if row["ohm_km_20"]
    )


@lru_cache(maxsize=4096)
def cable_ohm_per_m(mm2: float, temperature_c: float) -> float:
    """Resistance of a metre of stranded copper [Ω/m]: the table's for a metric size [3]_, else by
    its area."""
    for area, ohm in _metric_ohm_per_m():
        if abs(mm2 / area - 1.0) < SAME_METRIC:
            return ohm * (1.0 + COPPER_PER_K * (temperature_c - 20.0))
    return STRANDED * copper_ohm_per_m(mm2, temperature_c)


def loop_ohm(length_m: float, area_mm2: float, temperature_c: float = WARM_C) -> float:
    """Resistance there and back [Ω].

    Parameters
    ----------
    length_m : float
        One way. [m]
    """
    return 2.0 * length_m * cable_ohm_per_m(area_mm2, temperature_c)


def loop_drop_v(
    length_m: float, area_mm2: float, current_a: float, temperature_c: float = WARM_C
) -> float:
    """Volts lost there and back: 2 · L · I · R. [V]

    Parameters
    ----------
    length_m : float
        One way. [m]
    area_mm2 : float
        Of one conductor. [mm²]
    current_a : float
        That flows. [A]
    temperature_c : float
        Of the copper. [°C]
    """
    return loop_ohm(length_m, area_mm2, temperature_c) * current_a
