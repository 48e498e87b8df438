"""Weather: the air of a place, days in a row, and every hour of synthetic years."""

from .days import buried_days, day_ranks, days_of_ranks, model_figure, persistent_normal, synthetic_days
from .hours import (
    YearsOfLight,
    clock_ahead_h,
    hourly_air_c,
    hourly_on_plane_w_m2,
    recorded_year_of_light,
    years_of_light,
)
from .report import AIR_SOURCES, WeatherReport, air_by_month, plane_days_kwh_m2, warmth_of, weather_report
from .warmth import (
    Warmth,
    estimated_year_c,
    left_out_errors_k,
    recorded_warmth,
    severe_minimum_c,
    usual_warmth,
    within_zone,
)
from .zone import climate_zone

__all__ = [
    "AIR_SOURCES",
    "Warmth",
    "WeatherReport",
    "YearsOfLight",
    "air_by_month",
    "buried_days",
    "climate_zone",
    "clock_ahead_h",
    "day_ranks",
    "days_of_ranks",
    "estimated_year_c",
    "hourly_air_c",
    "hourly_on_plane_w_m2",
    "left_out_errors_k",
    "model_figure",
    "persistent_normal",
    "plane_days_kwh_m2",
    "recorded_warmth",
    "recorded_year_of_light",
    "severe_minimum_c",
    "synthetic_days",
    "usual_warmth",
    "warmth_of",
    "weather_report",
    "within_zone",
    "years_of_light",
]
