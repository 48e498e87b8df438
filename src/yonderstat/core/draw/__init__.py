"""Step 2, Draw: what every load takes, on average and at its worst moment."""

from .average import daily_ah_by_month, load_daily_ah, load_night_ah, load_on_current_a, mean_on_current_a
from .peak import peak_a, transmit_step_a
from .report import MONTH_NAMES, DrawReport, LoadFigures, bus_volts, draw_report, heaviest_month, month_key

__all__ = [
    "MONTH_NAMES",
    "DrawReport",
    "LoadFigures",
    "bus_volts",
    "daily_ah_by_month",
    "draw_report",
    "heaviest_month",
    "load_daily_ah",
    "load_night_ah",
    "load_on_current_a",
    "mean_on_current_a",
    "month_key",
    "peak_a",
    "transmit_step_a",
]
