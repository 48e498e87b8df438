"""What is usual for a bank of its kind, where its own figures are not known."""

import numpy as np
from numpy.typing import NDArray

from ..chemistries import kind_of
from ..design import Bank, Brief, Chemistry
from ..purposes import purpose_of


def cells_in_series(chemistry: Chemistry, bus_v: float) -> int:
    """Cells that a nominal bus voltage stands for: 12 V lead is 6, 12.8 V LiFePO4 is 4."""
    return max(1, round(bus_v / kind_of(chemistry).cells_v))


def block_share(chemistry: Chemistry, bus_v: float) -> float:
    """The bank's volts over those of the 12 V-class block that the tables are for."""
    return cells_in_series(chemistry, bus_v) / kind_of(chemistry).block_cells


def charge_low_c(bank: Bank) -> float:
    """The cold below which the bank must not be charged: its maker's, or its kind's. [°C]"""
    return (
        bank.limits.charge_low_c.value
        if bank.limits.charge_low_c
        else kind_of(bank.chemistry).charge_low_c
    )


def most_charge_a(bank: Bank) -> float:
    """The most the whole bank may be charged with: its maker's, or usual for its kind. [A]"""
    limit = bank.limits.max_charge_a
    if limit:
        return limit.value * bank.parallel
    return kind_of(bank.chemistry).charge_share_max * bank.unit_ah.value * bank.parallel


def planned_c(bank: Bank) -> float:
    """Amps a bank is meant to be charged with, over its amp-hours: as chosen, or usual for its
    kind."""
    return bank.plan_c or kind_of(bank.chemistry).charge_share_plan


def planned_charge_a(bank: Bank) -> float | None:
    """The most the whole bank is meant to be charged with [A]: as its maker advises, or as chosen;
    None where nobody has said."""
    if bank.limits.usual_charge_a:
        return bank.limits.usual_charge_a.value * bank.parallel
    return bank.plan_c * bank.unit_ah.value * bank.parallel if bank.plan_c else None


def peukert_of(bank: Bank) -> float:
    """Its Peukert exponent: its own, or usual for its kind."""
    return bank.peukert_k or kind_of(bank.chemistry).peukert_k


def usual_depth(chemistry: Chemistry, brief: Brief) -> float:
    """The usual depth limit: shallow where the bank cycles all year, deep where outages are
    rare."""
    kind = kind_of(chemistry)
    return kind.depth_standby if purpose_of(brief.purpose).deep_discharge else kind.depth_continuous


def depth_of(bank: Bank, brief: Brief) -> float:
    """The depth allowed: as set, or the usual limit."""
    return bank.depth.value if bank.depth else usual_depth(bank.chemistry, brief)


def rest_curve(chemistry: Chemistry) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Shares of charge, rising, and the resting volts of a 12 V-class block at them [V].

    Parameters
    ----------
    chemistry : Chemistry
        Its kind.

    Returns
    -------
    tuple of ndarray
        Shares of charge, rising, and rested volts of a 12 V-class block. [V]
    """
    curve = kind_of(chemistry).rest
    return curve.at, curve.value


def cycle_table(bank: Bank) -> tuple[NDArray[np.float64], NDArray[np.float64], bool]:
    """Depths, rising, the cycles promised at them, and whether the table is the part's own.

    Parameters
    ----------
    bank : Bank
        The bank.

    Returns
    -------
    tuple
        Depths, rising, the cycles at each, and whether they are the bank's own.
    """
    if bank.cycle_life:
        return (
            np.array([point.depth for point in bank.cycle_life]),
            np.array([point.cycles for point in bank.cycle_life]),
            True,
        )
    usual = kind_of(bank.chemistry).cycles
    return usual.at, usual.value, False
