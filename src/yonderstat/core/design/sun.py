"""Step 4, Sun: where the figures come from, and what stands in its way."""

from datetime import date
from itertools import pairwise
from typing import Annotated, Literal

from pydantic import AfterValidator, Field, model_validator

from .base import KnownShare, Name, Section, Words

Allowance = Literal["central", "planning", "cautious"]
SunSource = Literal["reanalysis", "own", "record"]
RecordKind = Literal["typical", "measured"]
RecordForm = Literal["epw", "tmy3", "tmy2", "csv"]
MAX_RECORD_DAYS = 20 * 366
KEPT_HOUR_DAYS = 365
"""Hours are kept of a record's newest year: enough to know how its days run, at some sixty thousand
characters."""


class HorizonPoint(Section):
    """How high the skyline stands in a direction. Between points it runs straight; round the
    compass it closes."""

    azimuth_deg: Annotated[float, Field(ge=0, lt=360)]
    elevation_deg: Annotated[float, Field(ge=0, le=85)]


def _rising(points: list[HorizonPoint]) -> list[HorizonPoint]:
    for before, after in pairwise(points):
        if after.azimuth_deg <= before.azimuth_deg:
            raise ValueError(
                f"must go round the compass in order, but {after.azimuth_deg:g}° comes after "
                f"{before.azimuth_deg:g}°"
            )
    return points


class MonthWarmth(Section):
    """The air of a month at a place. [°C], [K]"""

    mean_c: Annotated[float, Field(ge=-80, le=50)]
    swing_k: Annotated[float, Field(ge=0, le=40)]
    """From the coldest to the warmest hour of a usual day."""
    spread_k: Annotated[float, Field(ge=0, le=20)]
    """Standard deviation of the days' means."""
    lowest_c: Annotated[float, Field(ge=-90, le=50)]


def _real_date(text: str) -> str:
    try:
        return date.fromisoformat(text).isoformat()
    except ValueError:
        raise ValueError(f"is {text[:20]!r}; it must be a date, such as 2025-01-01") from None


HourWatts = Annotated[int, Field(ge=0, le=1600)]


class RecordHours(Section):
    """How the days of a weather file run: mean sunshine on the flat in every hour of its newest
    year."""

    first_index: Annotated[int, Field(ge=0, lt=MAX_RECORD_DAYS)]
    """Which of the record's days is the first here."""
    utc_offset_h: Annotated[float, Field(ge=-12, le=14)] | None = None
    """How far the file's clock is ahead of universal time; null where it does not say, then noon is
    found in it. [h]"""
    total_w_m2: Annotated[list[HourWatts], Field(min_length=24, max_length=24 * KEPT_HOUR_DAYS)]
    """24 for each day, of nothing in a day that is a gap. [W/m²]"""
    diffuse_w_m2: (
        Annotated[list[HourWatts | None], Field(min_length=24, max_length=24 * KEPT_HOUR_DAYS)]
        | None
    ) = None
    """What of it comes from the dome; null where the file does not part it. [W/m²]"""

    @model_validator(mode="after")
    def _as_long(self) -> "RecordHours":
        if len(self.total_w_m2) % 24 or (
            self.diffuse_w_m2 is not None and len(self.diffuse_w_m2) != len(self.total_w_m2)
        ):
            raise ValueError(
                "must hold 24 hours for each day, and as many of diffuse sunshine as of all"
            )
        return self


class WeatherRecord(Section):
    """Sunshine of real days, from a weather file: a typical year or a site's own log, as daily
    totals on the flat."""

    kind: RecordKind
    form: RecordForm
    name: Name
    """The station or file, as it calls itself."""
    latitude_deg: Annotated[float, Field(ge=-90, le=90)] | None = None
    longitude_deg: Annotated[float, Field(ge=-180, le=180)] | None = None
    elevation_m: Annotated[float, Field(ge=-430, le=8850)] | None = None
    """Height of the station, as the file says."""
    first_day: Annotated[str, AfterValidator(_real_date)]
    """Date of the first day; a typical year counts from 1 January of a common year."""
    day_wh_m2: Annotated[
        list[Annotated[int, Field(ge=0, le=16_000)] | None],
        Field(min_length=28, max_length=MAX_RECORD_DAYS),
    ]
    """Energy on the flat a day; null where the record has a gap. [W·h/m²]"""
    hours: RecordHours | None = None
    """How its days run; without it they run as an average sky does."""
    warmth: Annotated[list[MonthWarmth], Field(min_length=12, max_length=12)] | None = None
    repairs: Annotated[list[Annotated[Words, Field(max_length=200)]], Field(max_length=30)] = Field(
        default_factory=list
    )
    """What was mended on reading the file, and where."""

    @model_validator(mode="after")
    def _hours_of_its_days(self) -> "WeatherRecord":
        if self.hours and self.hours.first_index + len(self.hours.total_w_m2) // 24 > len(
            self.day_wh_m2
        ):
            raise ValueError("must not hold hours of more days than it has")
        return self


def _twelve(value: float) -> list[float]:
    return [value] * 12


TwelveShares = Annotated[
    list[Annotated[float, Field(ge=0, le=1)]], Field(min_length=12, max_length=12)
]


class Sun(Section):
    source: SunSource = "reanalysis"
    allowance: Allowance = "planning"
    own_hours: (
        Annotated[list[Annotated[float, Field(ge=0, le=14)]], Field(min_length=12, max_length=12)]
        | None
    ) = None
    """Own mean sun-hours a day on the flat, January to December, with `source` "own"."""
    record: WeatherRecord | None = None
    """A weather file, with `source` "record"."""
    horizon: Annotated[list[HorizonPoint], Field(max_length=72), AfterValidator(_rising)] = Field(
        default_factory=list
    )
    shade_morning: TwelveShares = Field(default_factory=lambda: _twelve(0.0))
    """Share of the light lost to trees and the like before solar noon, by month."""
    shade_afternoon: TwelveShares = Field(default_factory=lambda: _twelve(0.0))
    albedo: Annotated[
        list[Annotated[float, Field(ge=0, le=0.95)]], Field(min_length=12, max_length=12)
    ] = Field(default_factory=lambda: _twelve(0.2))
    """Ground reflection by month: 0.2 bare, 0.6 and more under snow."""
    snow_days: Annotated[
        list[Annotated[float, Field(ge=0, le=31)]], Field(min_length=12, max_length=12)
    ] = Field(default_factory=lambda: _twelve(0.0))
    """Days a month the panels lie under snow and give nothing."""
    soiling: KnownShare = KnownShare(value=0.03)
    """Share of the light that dust, droppings and leaves keep off the glass. [C] common
    practice."""

    @model_validator(mode="after")
    def _own_given(self) -> "Sun":
        if self.source == "own" and self.own_hours is None:
            raise ValueError("uses your own figures, but there are none; fill in all twelve months")
        if self.source == "record" and self.record is None:
            raise ValueError("uses a weather file, but none is loaded; load one first")
        return self
