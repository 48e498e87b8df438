"""What the Sun step brings in from outside: weather files, and towns by name."""

import math
from dataclasses import dataclass

import numpy as np

from yonderstat.core.design import WeatherRecord
from yonderstat.core.sun import recorded, recorded_days
from yonderstat.formats import MOST_CHARACTERS, WeatherFileError, locator_of, read_weather_file
from yonderstat.records import Archive

from .api import Api, model_fault
from .problems import Problem
from .transfer import Uploaded


@dataclass(frozen=True, slots=True)
class RecordMonth:
    """What a file says of a month: whole days it holds, and their mean on the flat [kW·h/m²]."""

    days: int
    mean_kwh_m2: float | None


@dataclass(frozen=True, slots=True)
class ReadWeather:
    """A weather file read, to look at before it is taken."""

    record: WeatherRecord
    months: tuple[RecordMonth, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class TownView:
    """A town found by name."""

    name: str
    country: str
    latitude_deg: float
    longitude_deg: float
    locator: str
    known_as: str
    """The spelling it was found by, where that is not its name here; else empty."""


def _months(record: WeatherRecord) -> tuple[RecordMonth, ...]:
    months, _, values = recorded_days(recorded(record))
    chosen = [values[months == month] for month in range(1, 13)]
    return tuple(
        RecordMonth(int(part.size), float(np.mean(part)) if part.size else None) for part in chosen
    )


def _near(text: str) -> tuple[float, float] | None:
    """The place a search is asked from; none where none is given."""
    if not text:
        return None
    try:
        latitude_deg, longitude_deg = (float(part) for part in text.split(","))
    except ValueError:
        latitude_deg = longitude_deg = math.nan
    if not (abs(latitude_deg) <= 90 and abs(longitude_deg) <= 180):
        raise Problem(400, "bad-query", "“near” must be a latitude and a longitude: -43.9,171.7")
    return latitude_deg, longitude_deg


def weather_tools_api(archive: Archive) -> Api:
    """The operations on weather files and towns."""
    api = Api()

    @api.operation(
        "POST",
        "/api/weather-files/read",
        access="read",
        about="nothing",
        upload=MOST_CHARACTERS,
        answer=ReadWeather,
    )
    def read_weather(upload: Uploaded) -> ReadWeather:
        """Read a weather file; nothing is kept until its record is put into a design."""
        try:
            record = read_weather_file(upload.name, upload.text)
        except WeatherFileError as error:
            raise model_fault("/upload", f"{upload.name}: {error}") from None
        return ReadWeather(record, _months(record))

    @api.operation(
        "GET",
        "/api/towns",
        access="read",
        about="nothing",
        answer=list[TownView],
        query=("text",),
        options=("near",),
    )
    def search_towns(text: str, near: str) -> list[TownView]:
        """Towns of a name, another spelling of it or one much like it, the likeliest first; none is
        an empty list. `near` is a latitude and a longitude, “-43.9,171.7”: of two alike the nearer
        comes first."""
        return [
            TownView(
                name=town.name,
                country=town.country,
                latitude_deg=town.latitude_deg,
                longitude_deg=town.longitude_deg,
                locator=locator_of(town.latitude_deg, town.longitude_deg),
                known_as=town.known_as,
            )
            for town in archive.towns(text[:80], _near(near))
        ]

    return api
