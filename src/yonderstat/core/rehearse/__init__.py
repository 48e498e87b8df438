"""Step 7, Rehearse: hours of weather through the station before money is spent."""

from .scene import Scene, SceneEvent, SceneHour, SceneReport, rehearse
from .sizing_map import SizingMap, sizing_map
from .station import HourlyStation, engine_a, hourly_station
from .years import DarkSpell, YearsReport, YearsRun, carry_through, longest_true, run_all, years_report

__all__ = [
    "DarkSpell",
    "HourlyStation",
    "Scene",
    "SceneEvent",
    "SceneHour",
    "SceneReport",
    "SizingMap",
    "YearsReport",
    "YearsRun",
    "carry_through",
    "engine_a",
    "hourly_station",
    "longest_true",
    "rehearse",
    "run_all",
    "sizing_map",
    "years_report",
]
