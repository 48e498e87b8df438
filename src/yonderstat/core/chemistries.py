"""Kinds of battery: a file each in `data/chemistries`, with everything in which they differ.

Nobody else asks which kind a bank is; one asks the kind. To add one: its file, and its name in
`design/store.py`.
"""

from dataclasses import dataclass
from functools import cache
from typing import Any, get_args

import numpy as np
from numpy.typing import NDArray

from .data import column, toml_table
from .design import Chemistry

FloatArray = NDArray[np.float64]
FREEZING_FULL_C = -50.0
"""A full lead battery freezes here; that is taken as where it gives nothing. From memory."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Curve:
    """One figure against another, the first rising; read-only arrays of shape (n,)."""

    source: str
    at: FloatArray
    value: FloatArray


@dataclass(frozen=True, slots=True, kw_only=True)
class ChargeSchool:
    """What to key in, in one school of thought, for a 12 V-class block."""

    school: str
    absorb_v_12v: float
    absorb_h: float
    tail_share: float
    """Absorption ends where the current falls to this share of the amp-hours."""
    mv_per_k_cell: float
    low_v_12v: float
    back_v_12v: float
    why: str
    mark: str
    float_v_12v: float | None = None
    equalise_v_12v: float | None = None
    default: bool = False


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class ChemistryKind:
    """All in which a kind of battery differs from others. Currents are shares of the label's
    amp-hours."""

    chemistry: Chemistry
    label: str
    family: str
    """lead or lithium"""
    block_cells: int
    """Cells in series of the 12 V-class block that the tables of volts are for."""
    free_acid: bool
    """Whether one could draw it up: a hydrometer reads it, a fall spills it."""
    made_to_cycle: bool
    """Not where it is made to turn an engine."""
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
    """Of such a block into a dead short, cells alone: the least there is, not what planning counts
    with."""
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
    peak_share: float
    """For moments."""
    full_tail_share: float
    """Held at its absorption volts it is full where its current is this share of the amp-hours."""
    rest_h: float
    """Least hours without charge or load before volts mean anything."""
    rest: Curve
    """Resting volts of a 12 V-class block by share of charge."""
    charging: Curve
    """Volts such a block takes at a trickle, by share of charge."""
    cold: Curve
    """Capacity over that at 25 °C, by temperature."""
    cold_from_c: float
    """Where its table begins: what is colder is drawn on from it."""
    schools: tuple[ChargeSchool, ...]
    """How it is charged, our default first."""
    cycles: Curve
    """Cycles to the end of its life, by depth."""

    @property
    def is_lead(self) -> bool:
        """Whether it gasses, sulphates and wants to be full."""
        return self.family == "lead"

    @property
    def has_electronics(self) -> bool:
        """Whether a management system of its own may cut it off, and must be woken."""
        return self.family == "lithium"

    @property
    def flat_shares(self) -> tuple[float, float] | None:
        """Between which shares of charge its resting volts hardly change; None where they always
        tell."""
        slope = np.diff(self.rest.value) / np.diff(self.rest.at)
        flat = np.flatnonzero(slope < FLAT_V)
        return (
            (float(self.rest.at[flat[0]]), float(self.rest.at[flat[-1] + 1])) if flat.size else None
        )


FLAT_V = 0.55
"""Where the volts of a 12 V block rise by less than this over a whole charge they tell nothing: a
hand meter is off by a tenth of it. [C]"""


def _kept(values: list[float]) -> FloatArray:
    found = np.array(values, dtype=float)
    found.setflags(write=False)
    return found


def _lead_cold(source: str) -> Curve:
    """Lead by the table of sizes: one over the factor, and nothing where a full battery freezes."""
    temperatures = np.append(FREEZING_FULL_C, column("lead_temperature", "temperature_c"))
    shares = np.append(0.0, 1.0 / column("lead_temperature", "size_factor"))
    return Curve(source=source, at=_kept(list(temperatures)), value=_kept(list(shares)))


def _cold(table: dict[str, Any]) -> Curve:
    if table.get("law") == "lead":
        return _lead_cold(table["source"])
    at, value = _kept(table["temperature_c"]), _kept(table["capacity_share"])
    return Curve(source=table["source"], at=at, value=value)


def _cold_from_c(table: dict[str, Any]) -> float:
    known = (
        column("lead_temperature", "temperature_c")
        if table.get("law") == "lead"
        else table["temperature_c"]
    )
    return float(known[0])


def _volts(table: dict[str, Any]) -> Curve:
    return Curve(
        source=table["source"], at=_kept(table["charge_share"]), value=_kept(table["v_12v"])
    )


@cache
def kind_of(chemistry: Chemistry) -> ChemistryKind:
    """All that a kind of battery is."""
    table = toml_table(f"chemistries/{chemistry}")
    rest, cycles = _volts(table["rest"]), table["cycles"]
    schools = sorted(
        (ChargeSchool(**row) for row in table["charge"]), key=lambda item: not item.default
    )
    return ChemistryKind(
        chemistry=chemistry,
        label=table["label"],
        family=table["family"],
        block_cells=table["block_cells"],
        free_acid=table["free_acid"],
        made_to_cycle=table["made_to_cycle"],
        **table["figures"],
        rest_h=table["rest"]["hours"],
        rest=rest,
        charging=_volts(table["charging"]) if "charging" in table else rest,
        cold=_cold(table["cold"]),
        cold_from_c=_cold_from_c(table["cold"]),
        schools=tuple(schools),
        cycles=Curve(source="cycle-life", at=_kept(cycles["depth"]), value=_kept(cycles["count"])),
    )


def all_chemistries() -> tuple[Chemistry, ...]:
    """Every chemistry, in the order they are told."""
    return get_args(Chemistry)
