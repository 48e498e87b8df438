"""From label amp-hours to what can be used: temperature, rate, health, depth."""

import numpy as np

from ..data import column, rows_by
from ..design import Chemistry

FREEZING_FULL_C = -50.0
"""The electrolyte of a full lead-acid cell freezes near here. [M] from memory."""


def freezes_at_c(charge_share: float) -> float:
    """Where the acid of a lead cell freezes, by how full it is [°C]; table from memory."""
    return float(np.interp(charge_share, column("freezing", "charge_share"), column("freezing", "freezes_c")))


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
    """Capacity at this current over the label capacity; never above 1, as a plan should not lean on slow draws."""
    if current_a <= rated_ah / hour_rate_h:
        return 1.0
    return peukert_hours(rated_ah, hour_rate_h, current_a, exponent) * current_a / rated_ah


def lead_temperature_factor(temperature_c: float) -> float:
    """Capacity of lead-acid at a temperature over that at 25 °C: one over the IEEE Std 485 cell-size factor.

    Below the table (−3.9 °C) it is extrapolated in a straight line to nothing where a full cell freezes;
    whoever shows the figure says so. Above the table the last row holds.
    """
    temperatures, sizes = (
        column("lead_temperature", "temperature_c"),
        column("lead_temperature", "size_factor"),
    )
    return float(np.interp(temperature_c, np.append(FREEZING_FULL_C, temperatures), np.append(0.0, 1.0 / sizes)))


TABLE_SOURCES = {"lead": "ieee485", "lifepo4": "lfp-cold", "nmc": "nmc-cold"}


def _table_of(chemistry: Chemistry) -> str:
    return rows_by("chemistries", "chemistry")[chemistry]["temperature_table"]


def temperature_source(chemistry: Chemistry) -> str:
    """Where the chemistry's temperature factors come from."""
    return TABLE_SOURCES[_table_of(chemistry)]


def temperature_factor(chemistry: Chemistry, temperature_c: float) -> float:
    """Capacity at a temperature over that at 25 °C, by chemistry. Of lithium the table's ends hold beyond it."""
    name = _table_of(chemistry)
    if name == "lead":
        return lead_temperature_factor(temperature_c)
    table = f"{name}_temperature"
    return float(np.interp(temperature_c, column(table, "temperature_c"), column(table, "capacity_share")))


def below_temperature_table(chemistry: Chemistry, temperature_c: float) -> bool:
    """Whether the temperature lies below the published table, so that the factor is an extrapolation."""
    return temperature_c < float(column(f"{_table_of(chemistry)}_temperature", "temperature_c")[0])
