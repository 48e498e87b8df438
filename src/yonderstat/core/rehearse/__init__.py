"""Step 7, Rehearse: hours of weather through the station before money is spent."""

from .assumed import assumed_figure
from .failures import Failure, FailuresReport, failures_report
from .judged import JudgedYears, judged_years
from .kernel import Hours, Rules
from .report import LENGTHS_D, YearBand, YearsReport, years_report
from .rotation import RotationReport, rotation_report
from .scene import Happening, Scene
from .sizing_map import CancelledError, MapAsk, MapPoint, SizingMap, sizing_map
from .station import HourlyStation, hourly_station
from .told import Lane, SceneEvent, SceneHour, SceneReport, rehearse
from .trainer import Evening, TrainerReport, Training, train
from .turned import Ration, Rationing, RationReport, ration
from .use import year_use
from .years import (
    Carried,
    Dark,
    DarkSpell,
    Served,
    carried_of,
    dark_of,
    hours_to_recharge,
    hours_without_source,
    kind,
    longest_true,
    run_all,
    served_of,
    spread_of,
    unkind,
    vital_dark,
)

__all__ = [
    "LENGTHS_D",
    "CancelledError",
    "Carried",
    "Dark",
    "DarkSpell",
    "Evening",
    "Failure",
    "FailuresReport",
    "Happening",
    "HourlyStation",
    "Hours",
    "JudgedYears",
    "Lane",
    "MapAsk",
    "MapPoint",
    "Ration",
    "RationReport",
    "Rationing",
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
    "carried_of",
    "dark_of",
    "failures_report",
    "hourly_station",
    "hours_to_recharge",
    "hours_without_source",
    "judged_years",
    "kind",
    "longest_true",
    "ration",
    "rehearse",
    "rotation_report",
    "run_all",
    "served_of",
    "sizing_map",
    "spread_of",
    "train",
    "unkind",
    "vital_dark",
    "year_use",
    "years_report",
]
