"""Step 7, Rehearse: hours of weather through the station before money is spent."""

from .failures import Failure, FailuresReport, failures_report
from .scene import Scene, SceneEvent, SceneHour, SceneReport, rehearse
from .sizing_map import SizingMap, sizing_map
from .station import HourlyStation, engine_a, hourly_station
from .years import (
    DarkSpell,
    YearsReport,
    YearsRun,
    carry_through,
    dark_hours,
    longest_true,
    run_all,
    vital_dark,
    years_report,
)

__all__ = [
    "DarkSpell",
    "Failure",
    "FailuresReport",
    "HourlyStation",
    "Scene",
    "SceneEvent",
    "SceneHour",
    "SceneReport",
    "SizingMap",
    "YearsReport",
    "YearsRun",
    "carry_through",
    "dark_hours",
    "engine_a",
    "failures_report",
    "hourly_station",
    "longest_true",
    "rehearse",
    "run_all",
    "sizing_map",
    "vital_dark",
    "years_report",
]
