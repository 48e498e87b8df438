"""A station that reports itself: what it is held to, what it is warned of, and what its next days
look like."""

from .alarms import (
    KINDS,
    AlarmEvent,
    Kind,
    Moment,
    Watching,
    next_moment,
    silence,
    silence_limit_s,
    title_of,
)
from .expected import Expected, expected_of
from .forecast import Band, Forecast, TempoDark, forecast_of

__all__ = [
    "KINDS",
    "AlarmEvent",
    "Band",
    "Expected",
    "Forecast",
    "Kind",
    "Moment",
    "TempoDark",
    "Watching",
    "expected_of",
    "forecast_of",
    "next_moment",
    "silence",
    "silence_limit_s",
    "title_of",
]
