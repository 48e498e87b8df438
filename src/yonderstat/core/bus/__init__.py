"""Step 6, Bus: from the battery post to the radio; volts at every load, conductors and what
protects them."""

from .box import box_heat
from .conductors import Carried, Laid, most_fuse_a, proposed_gauge
from .conductors import fuse_a as fuse_for
from .converters import input_window, precharge
from .explain import bus_report
from .explain_box import inside_w
from .grades import grade_of, grades_of, volt_grades
from .leads import Lead, LeadFigures, leads_of
from .model import BusModel, bus_model, lowest_given_v
from .network import Beside, Network, Source
from .report import BusReport, Grade, LoadAtBus, RunFigures
from .runs import Run, part_rating_a
from .topology import load_run, rail_run
from .volts import LoadVolts

__all__ = [
    "Beside",
    "BusModel",
    "BusReport",
    "Carried",
    "Grade",
    "Laid",
    "Lead",
    "LeadFigures",
    "LoadAtBus",
    "LoadVolts",
    "Network",
    "Run",
    "RunFigures",
    "Source",
    "box_heat",
    "bus_model",
    "bus_report",
    "fuse_for",
    "grade_of",
    "grades_of",
    "input_window",
    "inside_w",
    "leads_of",
    "load_run",
    "lowest_given_v",
    "most_fuse_a",
    "part_rating_a",
    "precharge",
    "proposed_gauge",
    "rail_run",
    "volt_grades",
]
