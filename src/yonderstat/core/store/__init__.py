"""Step 3, Store: what the bank really holds, how it fills, how long it lasts, and what it asks for."""

from .capacity import (
    below_temperature_table,
    lead_temperature_factor,
    peukert_hours,
    rate_factor,
    temperature_factor,
    temperature_source,
)
from .care import (
    CareReport,
    bank_weight,
    class_unit_kg,
    self_discharge,
    ten_hour_ah,
    vent_opening_cm2,
    ventilation_m3_h,
)
from .charge import (
    ChargeSetting,
    ChargeTimes,
    charge_settings,
    charge_times,
    lead_charge,
    lithium_charge,
)
from .compare import ComparedChemistry
from .kind import (
    ChemistryKind,
    all_chemistries,
    block_share,
    cells_in_series,
    charge_low_c,
    cycle_table,
    kind_of,
    most_charge_a,
    rest_curve,
)
from .layers import LayerFigures, LayersSummary
from .life import calendar_years, counted_cycles, cycles_a_year, cycles_at_depth, year_damage
from .paths import ALTERNATOR, ChargedBank, charged_banks
from .report import ChargeFigures, StationLoad, StoreReport, asked_days, days_held, store_report
from .resting import (
    RestingRow,
    blocks_of_12v,
    charge_range_from_rest,
    reading_in_words,
    rest_hours,
    resting_table,
)
from .temperature import Surroundings, bank_temperature, box_rise_k
from .volts import DischargePoint, bank_resistance_ohm, discharge_curve, loaded_v, rest_v
from .waterfall import default_depth, waterfall

__all__ = [
    "ALTERNATOR",
    "CareReport",
    "ChargeFigures",
    "ChargeSetting",
    "ChargeTimes",
    "ChargedBank",
    "ChemistryKind",
    "ComparedChemistry",
    "DischargePoint",
    "LayerFigures",
    "LayersSummary",
    "RestingRow",
    "StationLoad",
    "StoreReport",
    "Surroundings",
    "all_chemistries",
    "asked_days",
    "bank_resistance_ohm",
    "bank_temperature",
    "bank_weight",
    "below_temperature_table",
    "block_share",
    "blocks_of_12v",
    "box_rise_k",
    "calendar_years",
    "cells_in_series",
    "charge_low_c",
    "charge_range_from_rest",
    "charge_settings",
    "charge_times",
    "charged_banks",
    "class_unit_kg",
    "counted_cycles",
    "cycle_table",
    "cycles_a_year",
    "cycles_at_depth",
    "days_held",
    "default_depth",
    "discharge_curve",
    "kind_of",
    "lead_charge",
    "lead_temperature_factor",
    "lithium_charge",
    "loaded_v",
    "most_charge_a",
    "peukert_hours",
    "rate_factor",
    "reading_in_words",
    "rest_curve",
    "rest_hours",
    "rest_v",
    "resting_table",
    "self_discharge",
    "store_report",
    "temperature_factor",
    "temperature_source",
    "ten_hour_ah",
    "vent_opening_cm2",
    "ventilation_m3_h",
    "waterfall",
    "year_damage",
]
