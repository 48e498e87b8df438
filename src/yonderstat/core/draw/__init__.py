"""Step 2, Draw: what every load takes, on average and at its worst moment, at each tempo."""

from .load_report import LoadFigures, load_figures, month_shown
from .logged import Activity, BandMode, LoggedLoad, LoggedTempo, OverLength, is_hf, logged_tempo, usual_overs
from .peak import everything_keys_a, peak_a, supply_size_a
from .rails import bus_current_a, idle_daily_ah, inverter_efficiency, inverter_input_a, rail_efficiency, rail_of
from .report import (
    CurvePoint,
    DirectFigures,
    DrawReport,
    RailFigures,
    TierFigures,
    bus_volts,
    draw_report,
    heaviest_month,
)
from .station import (
    LoadDraw,
    StationDraw,
    at_tempo,
    is_operated,
    load_draw,
    mean_on_current_a,
    station_draw,
    tempo_of,
)
from .transmit import (
    KeyDown,
    key_down,
    mode_share,
    power_in_use_w,
    stage_current_a,
    table_current_a,
    transmitting_a,
)
from .when import on_share

__all__ = [
    "Activity",
    "BandMode",
    "CurvePoint",
    "DirectFigures",
    "DrawReport",
    "KeyDown",
    "LoadDraw",
    "LoadFigures",
    "LoggedLoad",
    "LoggedTempo",
    "OverLength",
    "RailFigures",
    "StationDraw",
    "TierFigures",
    "at_tempo",
    "bus_current_a",
    "bus_volts",
    "draw_report",
    "everything_keys_a",
    "heaviest_month",
    "idle_daily_ah",
    "inverter_efficiency",
    "inverter_input_a",
    "is_hf",
    "is_operated",
    "key_down",
    "load_draw",
    "load_figures",
    "logged_tempo",
    "mean_on_current_a",
    "mode_share",
    "month_shown",
    "on_share",
    "peak_a",
    "power_in_use_w",
    "rail_efficiency",
    "rail_of",
    "stage_current_a",
    "station_draw",
    "supply_size_a",
    "table_current_a",
    "tempo_of",
    "transmitting_a",
    "usual_overs",
]
