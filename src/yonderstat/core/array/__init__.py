"""Step 5, Array: what panels, engine and chargers put into the bank; and how much is enough by rule
of thumb."""

from .charging import ChargingReport, SourceFigures, absorb_quantity, charging_report
from .checks import (
    ENOUGH_LEFT,
    NOTHING_LEFT,
    ColdVolts,
    cold_open_v,
    conductor_a,
    hot_working_v,
    nec_factor,
    source_circuit_a,
)
from .controller_comparison import ComparedController
from .diode import current_at_v, curve_grid, fit_diode, interpolated, power_grid
from .electric import (
    Electric,
    amps_into_bank,
    amps_table,
    cell_rise_k,
    controller_figure,
    electric_of,
    group_of,
    leader_of,
    left_when_hot,
    rated_input_v,
)
from .explain import ArrayReport, StringFigures, array_report
from .fits import Bench, Fit, strings_that_fit
from .harvest import charge_volts, class_working_volts, derate, hardest_month
from .labels import ModuleLabel, label_of
from .model import (
    ArrayModel,
    ChargeSource,
    SkyOver,
    StringModel,
    array_model,
    sky_over,
    string_months_ah,
)
from .sizing import SizingBasis, SizingReport, is_critical, sizing_report
from .string_checks import Rung, StringBasis, StringCheck
from .supplies import is_too_high, most_charge_v, panel_terminal_v, supply_verdict

__all__ = [
    "ENOUGH_LEFT",
    "NOTHING_LEFT",
    "ArrayModel",
    "ArrayReport",
    "Bench",
    "ChargeSource",
    "ChargingReport",
    "ColdVolts",
    "ComparedController",
    "Electric",
    "Fit",
    "ModuleLabel",
    "Rung",
    "SizingBasis",
    "SizingReport",
    "SkyOver",
    "SourceFigures",
    "StringBasis",
    "StringCheck",
    "StringFigures",
    "StringModel",
    "absorb_quantity",
    "amps_into_bank",
    "amps_table",
    "array_model",
    "array_report",
    "cell_rise_k",
    "charge_volts",
    "charging_report",
    "class_working_volts",
    "cold_open_v",
    "conductor_a",
    "controller_figure",
    "current_at_v",
    "curve_grid",
    "derate",
    "electric_of",
    "fit_diode",
    "group_of",
    "hardest_month",
    "hot_working_v",
    "interpolated",
    "is_critical",
    "is_too_high",
    "label_of",
    "leader_of",
    "left_when_hot",
    "most_charge_v",
    "nec_factor",
    "panel_terminal_v",
    "power_grid",
    "rated_input_v",
    "sizing_report",
    "sky_over",
    "source_circuit_a",
    "string_months_ah",
    "strings_that_fit",
    "supply_verdict",
]
