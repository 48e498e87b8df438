"""Step 2, Draw: what every load takes, on average and at its worst moment, at each tempo."""

from .exclusions import Step, groups_of, keyed_together, most_together_a
from .explain import CurvePoint, DirectFigures, DrawReport, RailFigures, TierFigures, bus_volts, draw_report
from .load_report import LoadFigures, load_figures, month_shown
from .logged import Activity, BandMode, LoggedLoad, LoggedTempo, OverLength, is_hf, logged_tempo, usual_overs
from .model import (
    TIERS,
    LoadDraw,
    StationDraw,
    at_tempo,
    heaviest_month,
    is_operated,
    load_draw,
    mean_on_current_a,
    nominal_bus_v,
    station_draw,
    tempo_of,
)
from .needs import pointless
from .night import NightFigures, night_figures
from .peak import everything_keys_a, peak_a, supply_size_a
from .profile import DayProfile
from .rails import (
    bus_current_a,
    busiest_w,
    elsewhere_wh,
    idle_daily_ah,
    inverter_efficiency,
    inverter_input_a,
    rail_efficiency,
    rail_of,
)
from .tempos import TempoReport, tempo_report
from .transmit import (
    KeyDown,
    key_down,
    mode_share,
    power_in_use_w,
    power_within_w,
    stage_current_a,
    table_current_a,
    transmitting_a,
)
from .usual import load_of, usual_load, usual_rails
from .when import hours_in_words, is_placed, on_share, usual_hours

__all__ = [
    "TIERS",
    "Activity",
    "BandMode",
    "CurvePoint",
    "DayProfile",
    "DirectFigures",
    "DrawReport",
    "KeyDown",
    "LoadDraw",
    "LoadFigures",
    "LoggedLoad",
    "LoggedTempo",
    "NightFigures",
    "OverLength",
    "RailFigures",
    "StationDraw",
    "Step",
    "TempoReport",
    "TierFigures",
    "at_tempo",
    "bus_current_a",
    "bus_volts",
    "busiest_w",
    "draw_report",
    "elsewhere_wh",
    "everything_keys_a",
    "groups_of",
    "heaviest_month",
    "hours_in_words",
    "idle_daily_ah",
    "inverter_efficiency",
    "inverter_input_a",
    "is_hf",
    "is_operated",
    "is_placed",
    "key_down",
    "keyed_together",
    "load_draw",
    "load_figures",
    "load_of",
    "logged_tempo",
    "mean_on_current_a",
    "mode_share",
    "month_shown",
    "most_together_a",
    "night_figures",
    "nominal_bus_v",
    "on_share",
    "peak_a",
    "pointless",
    "power_in_use_w",
    "power_within_w",
    "rail_efficiency",
    "rail_of",
    "stage_current_a",
    "station_draw",
    "supply_size_a",
    "table_current_a",
    "tempo_of",
    "tempo_report",
    "transmitting_a",
    "usual_hours",
    "usual_load",
    "usual_overs",
    "usual_rails",
]
