"""What is usual for a chemistry, from the table."""

from dataclasses import dataclass
from functools import cache

import numpy as np
from numpy.typing import NDArray

from ..data import column, rows, rows_by
from ..design import Bank, Brief, Chemistry
from ..purposes import purpose_of

LEAD_CELLS, LITHIUM_CELLS = 6, 4
"""Cells of the 12 V-class block that the tables of volts are for."""


@dataclass(frozen=True, slots=True, kw_only=True)
class ChemistryKind:
    """A row of the table of chemistries. Currents are shares of the label's amp-hours."""

    chemistry: Chemistry
    label: str
    family: str
    """lead or lithium"""
    peukert_k: float
    coulombic_efficiency: float
    depth_continuous: float
    depth_standby: float
    cells_v: float
    unit_v: float
    unit_ah: float
    wh_per_kg: float
    price_ratio: float
    calendar_years: float
    self_discharge_month: float
    cell_milliohm: float
    """Of a 12 V block of 100 Ah, bare."""
    electronics_milliohm: float
    """Of its management and terminals, whatever the size."""
    short_milliohm: float
    """Of such a block into a dead short, cells alone: the least there is, not what planning counts with."""
    short_electronics_milliohm: float
    """And of its management and terminals then."""
    charge_share_low: float
    charge_share_plan: float
    charge_share_max: float
    discharge_share_max: float
    charge_low_c: float
    charge_high_c: float
    discharge_low_c: float
    gas_boost_ma_ah: float

    @property
    def is_lead(self) -> bool:
        """Whether it gasses, sulphates and wants to be full."""
        return self.family == "lead"


_WORDS = {"chemistry", "label", "family"}


@cache
def kind_of(chemistry: Chemistry) -> ChemistryKind:
    """The chemistry's usual figures."""
    row = rows_by("chemistries", "chemistry")[chemistry]
    names = ChemistryKind.__dataclass_fields__
    return ChemistryKind(**{name: row[name] if name in _WORDS else float(row[name]) for name in names})  # type: ignore[arg-type]


def all_chemistries() -> tuple[Chemistry, ...]:
    """Every chemistry, in the table's order."""
    return tuple(row["chemistry"] for row in rows("chemistries"))  # type: ignore[misc]


def cells_in_series(chemistry: Chemistry, bus_v: float) -> int:
    """Cells that a nominal bus voltage stands for: 12 V lead is 6, 12.8 V LiFePO4 is 4."""
    return max(1, round(bus_v / kind_of(chemistry).cells_v))


def block_share(chemistry: Chemistry, bus_v: float) -> float:
    """The bank's volts over those of the 12 V-class block that the tables are for."""
    cells = LEAD_CELLS if kind_of(chemistry).is_lead else LITHIUM_CELLS
    return cells_in_series(chemistry, bus_v) / cells


def charge_low_c(bank: Bank) -> float:
    """The cold below which the bank must not be charged: its maker's, or its kind's. [°C]"""
    return bank.limits.charge_low_c.value if bank.limits.charge_low_c else kind_of(bank.chemistry).charge_low_c


def most_charge_a(bank: Bank) -> float:
    """The most the whole bank may be charged with: its maker's, or usual for its kind. [A]"""
    limit = bank.limits.max_charge_a
    if limit:
        return limit.value * bank.parallel
    return kind_of(bank.chemistry).charge_share_max * bank.unit_ah.value * bank.parallel


def planned_c(bank: Bank) -> float:
    """Amps a bank is meant to be charged with, over its amp-hours: as chosen, or usual for its kind."""
    return bank.plan_c or kind_of(bank.chemistry).charge_share_plan


def planned_charge_a(bank: Bank) -> float | None:
    """The most the whole bank is meant to be charged with [A]: as its maker advises, or as chosen; None where nobody
    has said."""
    if bank.limits.usual_charge_a:
        return bank.limits.usual_charge_a.value * bank.parallel
    return bank.plan_c * bank.unit_ah.value * bank.parallel if bank.plan_c else None


def peukert_of(bank: Bank) -> float:
    """Its Peukert exponent: its own, or usual for its kind."""
    return bank.peukert_k or kind_of(bank.chemistry).peukert_k


def usual_depth(chemistry: Chemistry, brief: Brief) -> float:
    """The usual depth limit: shallow where the bank cycles all year, deep where outages are rare."""
    kind = kind_of(chemistry)
    return kind.depth_standby if purpose_of(brief.purpose).deep_discharge else kind.depth_continuous


def depth_of(bank: Bank, brief: Brief) -> float:
    """The depth allowed: as set, or the usual limit."""
    return bank.depth.value if bank.depth else usual_depth(bank.chemistry, brief)


@cache
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
    row = rows_by("chemistries", "chemistry")[chemistry]
    volts = column(row["rest_table"], "rest_v_12v") + float(row["rest_raise_v"])
    volts.setflags(write=False)
    return column(row["rest_table"], "charge_share"), volts


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
    return *_usual_cycles(bank.chemistry), False


@cache
def _usual_cycles(chemistry: Chemistry) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    table = [row for row in rows("cycle_life") if row["chemistry"] == chemistry]
    found = np.array([float(row["depth"]) for row in table]), np.array([float(row["cycles"]) for row in table])
    for column_of in found:
        column_of.setflags(write=False)
    return found
