"""Step 7, Rehearse: hours of weather through the station before money is spent."""

from .scene import Scene, SceneEvent, SceneHour, SceneReport, rehearse
from .station import HourlyStation, hourly_station
from .years import DarkSpell, YearsReport, YearsRun, carry_through, longest_true, run_all, years_report

__all__ = [
    "DarkSpell",
    "HourlyStation",
    "Scene",
    "SceneEvent",
    "SceneHour",
    "SceneReport",
    "YearsReport",
    "YearsRun",
    "carry_through",
    "hourly_station",
    "longest_true",
    "rehearse",
    "run_all",
    "years_report",
]
