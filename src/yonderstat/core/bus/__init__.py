"""Step 6, Bus: from the battery post to the radio; volts at every load, conductors and what protects them."""

from .box import BoxHeat, box_heat
from .conductors import CONTINUOUS_FACTOR, Carried, Gauge, Laid, proposed_gauge
from .conductors import fuse_a as fuse_for
from .converters import InputWindow, Precharge, input_window, output_v, precharge
from .explain import bus_report
from .explain_box import inside_w
from .explain_converters import changeover_of
from .model import BusModel, LoadVolts, Run, bus_model, grade_of, grades_of, lowest_given_v
from .network import Network
from .report import BusReport, Grade, LoadAtBus, RunFigures
from .topology import charge_run, load_run, rail_run

__all__ = [
    "CONTINUOUS_FACTOR",
    "BoxHeat",
    "BusModel",
    "BusReport",
    "Carried",
    "Gauge",
    "Grade",
    "InputWindow",
    "Laid",
    "LoadAtBus",
    "LoadVolts",
    "Network",
    "Precharge",
    "Run",
    "RunFigures",
    "box_heat",
    "bus_model",
    "bus_report",
    "changeover_of",
    "charge_run",
    "fuse_for",
    "grade_of",
    "grades_of",
    "input_window",
    "inside_w",
    "load_run",
    "lowest_given_v",
    "output_v",
    "precharge",
    "proposed_gauge",
    "rail_run",
]
