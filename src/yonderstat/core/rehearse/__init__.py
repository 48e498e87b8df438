"""Step 7, Rehearse: hours of weather through the station before money is spent."""

from .assumed import assumed_figure
from .cases import begin_cases
from .failures import Failure, FailuresReport, failures_report
from .half_again import HalfAgain, half_again
from .kernel import COMFORT, DEFERRED, USEFUL, Hours, Rules
from .mitigation import Mitigation
from .onward import Life, charge_from, charge_of_year, dullest_year, hours_left, life_of
from .rationing import Ration, Rationing, RationReport, ration
from .reliability import Reliability, reliability_of, state_of
from .report import LENGTHS_D, YearBand, YearsReport, years_report
from .rotation import RotationReport, rotation_report
from .scene import Happening, Scene
from .scene_report import Lane, SceneEvent, SceneHour, SceneReport, rehearse
from .sizing_map import CancelledError, MapAsk, MapPoint, SizingMap, sizing_map
from .sources import backup_of
from .station import HourlyStation, hourly_loads, hourly_station
from .trainer import Evening, TrainerReport, Training, train
from .use import year_use
from .years import (
    Carried,
    Dark,
    DarkSpell,
    Served,
    carried_of,
    cheap_every_d,
    dark_of,
    hours_to_recharge,
    hours_without_source,
    longest_true,
    run_all,
    served_of,
    served_of_each,
    spread_of,
)

__all__ = [
    "COMFORT",
    "DEFERRED",
    "LENGTHS_D",
    "USEFUL",
    "CancelledError",
    "Carried",
    "Dark",
    "DarkSpell",
    "Evening",
    "Failure",
    "FailuresReport",
    "HalfAgain",
    "Happening",
    "HourlyStation",
    "Hours",
    "Lane",
    "Life",
    "MapAsk",
    "MapPoint",
    "Mitigation",
    "Ration",
    "RationReport",
    "Rationing",
    "Reliability",
    "RotationReport",
    "Rules",
    "Scene",
    "SceneEvent",
    "SceneHour",
    "SceneReport",
    "Served",
    "SizingMap",
    "TrainerReport",
    "Training",
    "YearBand",
    "YearsReport",
    "assumed_figure",
    "backup_of",
    "begin_cases",
    "carried_of",
    "charge_from",
    "charge_of_year",
    "cheap_every_d",
    "dark_of",
    "dullest_year",
    "failures_report",
    "half_again",
    "hourly_loads",
    "hourly_station",
    "hours_left",
    "hours_to_recharge",
    "hours_without_source",
    "life_of",
    "longest_true",
    "ration",
    "rehearse",
    "reliability_of",
    "rotation_report",
    "run_all",
    "served_of",
    "served_of_each",
    "sizing_map",
    "spread_of",
    "state_of",
    "train",
    "year_use",
    "years_report",
]
