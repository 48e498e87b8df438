"""What a bank asks of the place it lives in: air, and somebody to lift it."""

import math
from dataclasses import dataclass

from ..chemistries import ChemistryKind, kind_of
from ..design import MOST_CM2, Bank, KnownArea
from ..working import Input, Key, Quantity, Workings, assumed, given, stated, table, used
from .kind import cells_in_series

FLOW_FACTOR, OPENING_CM2_PER_M3_H = 0.05, 28.0


@dataclass(frozen=True, slots=True, kw_only=True)
class CareReport:
    """Weight, and for lead the air flow and the opening."""

    unit_kg: Key
    weight_kg: Key
    lost_month: Key
    """Share of its charge it loses in a month by itself."""
    air_m3_h: Key | None
    vent_cm2: Key | None
    spark_mm: Key | None
    """Nothing that sparks within this of the cells."""


def ventilation_m3_h(cells: int, gas_ma_ah: float, capacity_10h_ah: float) -> float:
    """Air a lead bank needs [m³/h].

    Parameters
    ----------
    cells : int
        In the whole bank, those in parallel too.
    gas_ma_ah : float
        Charge current that turns to gas. [mA/Ah]
    capacity_10h_ah : float
        Of one cell at the 10-hour rate. [A·h]

    Notes
    -----
    Q = 0.05 · n · I_gas · C_rt · 10⁻³  [1]_

    References
    ----------
    .. [1] EN IEC 62485-2 (formerly EN 50272-2).
    """
    return FLOW_FACTOR * cells * gas_ma_ah * capacity_10h_ah * 1e-3


def vent_opening_cm2(air_m3_h: float) -> float:
    """Free opening for natural ventilation, at the inlet and again at the outlet [cm²]: A = 28 ·
    Q."""
    return OPENING_CM2_PER_M3_H * air_m3_h


def safety_distance_mm(gas_ma_ah: float, capacity_10h_ah: float) -> float:
    """Round the cells nothing may spark or glow [mm]: d = 28.8 · ∛I_gas · ∛C_rt, EN IEC 62485-2."""
    return float(28.8 * (gas_ma_ah * capacity_10h_ah) ** (1.0 / 3.0))


def ten_hour_ah(label_ah: float, hour_rate_h: float, exponent: float) -> float:
    """Capacity at the 10-hour rate of a label at another [A·h], by Peukert: C₁₀ = C · (10 / H)^(1 −
    1/k).

    Parameters
    ----------
    label_ah : float
        Label capacity at `hour_rate_h`. [A·h]
    hour_rate_h : float
        Hours of discharge the label is for. [h]
    exponent : float
        Peukert's exponent.
    """
    return float(label_ah * (10.0 / hour_rate_h) ** (1.0 - 1.0 / exponent))


def vent_needed_cm2(bank: Bank) -> float:
    """Free opening a bank in a closed box needs, at the inlet and again at the outlet [cm²]; none
    for lithium."""
    kind = kind_of(bank.chemistry)
    cells = cells_in_series(bank.chemistry, bank.series * bank.unit_v)
    rated = ten_hour_ah(bank.unit_ah.value * bank.parallel, bank.hour_rate_h, kind.peukert_k)
    return (
        vent_opening_cm2(ventilation_m3_h(cells, kind.gas_boost_ma_ah, rated))
        if kind.is_lead
        else 0.0
    )


def vent_of_a_box(bank: Bank) -> KnownArea | None:
    """The vent to plan a closed box with: what is given where it is enough, or else what is needed,
    in whole tens."""
    need_cm2 = vent_needed_cm2(bank)
    if need_cm2 <= 0 or (bank.vent_cm2 and bank.vent_cm2.value >= need_cm2):
        return bank.vent_cm2
    return KnownArea(value=min(10.0 * math.ceil(need_cm2 / 10.0), MOST_CM2))


def class_unit_kg(bank: Bank) -> float:
    """Weight usual for a unit of this size and chemistry [kg]."""
    return bank.unit_ah.value * bank.unit_v / kind_of(bank.chemistry).wh_per_kg


def bank_kg(bank: Bank) -> float:
    """Weight of the whole bank [kg]: every unit as given, or usual for its kind."""
    unit_kg = bank.unit_kg.value if bank.unit_kg else class_unit_kg(bank)
    return unit_kg * bank.series * bank.parallel


def _unit_kg(bank: Bank, workings: Workings, prefix: str, at: str) -> Quantity:
    label = "usual for its size and chemistry"
    item: Input = (
        given("m₁", "one unit", bank.unit_kg, "kg", f"{at}/unit_kg")
        if bank.unit_kg
        else assumed("m₁", label, class_unit_kg(bank), "kg", "class-battery", f"{at}/unit_kg")
    )
    return workings.add(
        f"{prefix}.unit_kg",
        item.value,
        "kg",
        label="One unit",
        formula="m₁",
        words="as given, or usual",
        inputs=[item],
        source="class-battery",
    )


def bank_weight(bank: Bank, workings: Workings, prefix: str, at: str) -> tuple[Quantity, Quantity]:
    """Weight of one unit and of the whole bank.

    Parameters
    ----------
    prefix : str
        Where its quantities stand, before their own key.
    at : str
        Pointer to the bank in the design.
    """
    unit = _unit_kg(bank, workings, prefix, at)
    whole = workings.add(
        f"{prefix}.weight_kg",
        bank_kg(bank),
        "kg",
        label="Weight of the battery",
        formula="m = m₁ · s · p",
        words="every unit",
        inputs=[
            used("m₁", unit),
            stated("s", "in series", bank.series, "", f"{at}/series"),
            stated("p", "in parallel", bank.parallel, "", f"{at}/parallel"),
        ],
        source="arithmetic",
    )
    return unit, whole


MOST_DOUBLINGS = 20.0
"""Any bank is empty long before."""


def self_discharge(kind: ChemistryKind, temperature_c: float) -> float:
    """Share of its charge a bank loses in a month by itself: a figure at 20 °C that doubles every
    10 K."""
    doublings = min((temperature_c - 20.0) / 10.0, MOST_DOUBLINGS)
    return float(min(1.0, kind.self_discharge_month * 2.0**doublings))


def _lost(bank: Bank, mean_c: float, workings: Workings) -> Quantity:
    kind = kind_of(bank.chemistry)
    return workings.add(
        "store.lost_month",
        self_discharge(kind, mean_c),
        "share",
        label="Self-discharge in a month",
        formula="q · 2^((T − 20) / 10)",
        words=(
            "charge lost while nothing is connected, its own electronics included; it doubles "
            "every 10 K"
        ),
        inputs=[
            table(
                "q", f"at 20 °C, {kind.label}", kind.self_discharge_month, "share", "class-battery"
            ),
            table("T", "average of the battery", mean_c, "°C", "box-heat"),
        ],
        source="class-battery",
    )


def care_report(
    bank: Bank, bus_v: float, label: Quantity, mean_c: float, workings: Workings
) -> CareReport:
    """What the main bank asks for.

    Parameters
    ----------
    bus_v : float
        Nominal volts. [V]
    label : Quantity
        Label capacity of the whole bank.
    mean_c : float
        Of the bank over a year. [°C]
    """
    lost = _lost(bank, mean_c, workings)
    unit, whole = bank_weight(bank, workings, "store", "/store/bank")
    kind = kind_of(bank.chemistry)
    if not kind.is_lead:
        return CareReport(
            unit_kg=unit.key,
            weight_kg=whole.key,
            lost_month=lost.key,
            air_m3_h=None,
            vent_cm2=None,
            spark_mm=None,
        )
    cells, gas = cells_in_series(bank.chemistry, bus_v), kind.gas_boost_ma_ah
    rated = ten_hour_ah(label.number, bank.hour_rate_h, kind.peukert_k)
    air = workings.add(
        "store.air_m3_h",
        ventilation_m3_h(cells, gas, rated),
        "m³/h",
        label="Fresh air needed while charging",
        formula="Q = 0.05 · n · I_gas · C₁₀ · 10⁻³",
        words=(
            "keeps hydrogen far below what can burn; from cells in series, gassing current and "
            "ten-hour capacity"
        ),
        inputs=[
            table("n", "cells in series", cells, "", "arithmetic"),
            table("I_gas", "gassing while boosting", gas, "mA/A·h", "ventilation"),
            table("C₁₀", "ten-hour capacity", rated, "A·h", "peukert"),
            used("C", label),
        ],
        source="ventilation",
    )
    opening = workings.add(
        "store.vent_cm2",
        vent_opening_cm2(air.number),
        "cm²",
        label="Vent area, each for inlet and outlet",
        formula="A = 28 · Q",
        words="open area without a fan: one vent low on one side, one high on the other",
        inputs=[used("Q", air)],
        source="ventilation",
    )
    spark = workings.add(
        "store.spark_mm",
        safety_distance_mm(gas, rated),
        "mm",
        label="Keep sparks away at least",
        formula="d = 28.8 · ∛I_gas · ∛C₁₀",
        words="distance around the cells where the gas can still burn",
        inputs=[
            table("I_gas", "gassing while boosting", gas, "mA/A·h", "ventilation"),
            table("C₁₀", "ten-hour capacity", rated, "A·h", "peukert"),
        ],
        source="ventilation",
    )
    return CareReport(
        unit_kg=unit.key,
        weight_kg=whole.key,
        lost_month=lost.key,
        air_m3_h=air.key,
        vent_cm2=opening.key,
        spark_mm=spark.key,
    )
