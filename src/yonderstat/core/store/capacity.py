"""From label amp-hours to what can be used: temperature, rate, health, depth."""

import numpy as np

from ..chemistries import kind_of
from ..data import column
from ..design import Chemistry


def freezes_at_c(charge_share: float) -> float:
    """Where the acid of a lead cell freezes, by how full it is [°C]; table from memory."""
    return float(
        np.interp(charge_share, column("freezing", "charge_share"), column("freezing", "freezes_c"))
    )


def peukert_hours(rated_ah: float, hour_rate_h: float, current_a: float, exponent: float) -> float:
    """Hours a battery lasts at a steady current.

    Parameters
    ----------
    rated_ah : float
        Label capacity at its hour rate. [A·h]
    hour_rate_h : float
        The hour rate of the label. [h]
    current_a : float
        Discharge current, above zero. [A]
    exponent : float
        Peukert exponent k, 1 or more.

    Notes
    -----
    t = H · (C / (I · H))^k  [1]_

    References
    ----------
    .. [1] W. Peukert, Elektrotechnische Zeitschrift 20, 1897.
    """
    return float(hour_rate_h * (rated_ah / (current_a * hour_rate_h)) ** exponent)


def rate_factor(rated_ah: float, hour_rate_h: float, current_a: float, exponent: float) -> float:
    """Capacity at this current over the label capacity; never above 1, as a plan should not lean on
    slow draws.

    Parameters
    ----------
    rated_ah : float
        Label capacity at `hour_rate_h`. [A·h]
    hour_rate_h : float
        Hours of discharge the label is for. [h]
    current_a : float
        That flows. [A]
    exponent : float
        Peukert's exponent.
    """
    if current_a <= rated_ah / hour_rate_h:
        return 1.0
    return peukert_hours(rated_ah, hour_rate_h, current_a, exponent) * current_a / rated_ah


def temperature_source(chemistry: Chemistry) -> str:
    """Where the chemistry's temperature factors come from."""
    return kind_of(chemistry).cold.source


def temperature_factor(chemistry: Chemistry, temperature_c: float) -> float:
    """Capacity at a temperature over that at 25 °C, by chemistry.

    Below its table lead goes in a straight line to nothing where a full cell freezes, and whoever
    shows the figure says so; of lithium the table's ends hold beyond it.
    """
    cold = kind_of(chemistry).cold
    return float(np.interp(temperature_c, cold.at, cold.value))


def below_temperature_table(chemistry: Chemistry, temperature_c: float) -> bool:
    """Whether the temperature lies below the published table, so that the factor is an
    extrapolation."""
    return temperature_c < kind_of(chemistry).cold_from_c
