"""Step 3, Store: what the bank really holds, and how long it lasts."""

from .capacity import (
    below_temperature_table,
    lead_temperature_factor,
    lifepo4_temperature_factor,
    peukert_hours,
    rate_factor,
    temperature_factor,
)
from .report import StoreReport, asked_days, default_depth, store_report
from .resting import RestingRow, blocks_of_12v, charge_range_from_rest, resting_table

__all__ = [
    "RestingRow",
    "StoreReport",
    "asked_days",
    "below_temperature_table",
    "blocks_of_12v",
    "charge_range_from_rest",
    "default_depth",
    "lead_temperature_factor",
    "lifepo4_temperature_factor",
    "peukert_hours",
    "rate_factor",
    "resting_table",
    "store_report",
    "temperature_factor",
]
