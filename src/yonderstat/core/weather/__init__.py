"""Weather: the air of a place, days in a row, and every hour of synthetic years."""

from .days import (
    buried_days,
    day_ranks,
    days_of_ranks,
    model_figure,
    persistent_normal,
    synthetic_days,
)
from .explain import WeatherReport, plane_days_kwh_m2, weather_report
from .hours import (
    YearsOfLight,
    clock_ahead_h,
    hourly_air_c,
    hourly_on_plane_w_m2,
    recorded_year_of_light,
    years_of_light,
)

__all__ = [
    "WeatherReport",
    "YearsOfLight",
    "buried_days",
    "clock_ahead_h",
    "day_ranks",
    "days_of_ranks",
    "hourly_air_c",
    "hourly_on_plane_w_m2",
    "model_figure",
    "persistent_normal",
    "plane_days_kwh_m2",
    "recorded_year_of_light",
    "synthetic_days",
    "weather_report",
    "years_of_light",
]
