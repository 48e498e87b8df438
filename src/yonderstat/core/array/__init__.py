"""Step 5, Array: what the panels, and the engine, put into the bank; and how much is enough by rule of thumb."""

from .harvest import charge_volts, class_working_volts, derate, string_daily_ah
from .report import ArrayReport, StringFigures, array_report, coulombic_share
from .sizing import SizingReport, is_critical, sizing_report

__all__ = [
    "ArrayReport",
    "SizingReport",
    "StringFigures",
    "array_report",
    "charge_volts",
    "class_working_volts",
    "coulombic_share",
    "derate",
    "is_critical",
    "sizing_report",
    "string_daily_ah",
]
