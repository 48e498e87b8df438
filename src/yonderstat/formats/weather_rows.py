"""Weather files row by row: EPW, TMY3, TMY2 and plain CSV, each reading told with its line, checked
as it is read."""

import csv
import math
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, datetime

from yonderstat.core.design import RecordForm

MISSING_FROM, MISSING_TO = -9000.0, 9999.0
"""EPW and the TMY formats write -9900 or 9999 where there is nothing."""
MOST_W_M2 = 1600.0
SLIGHTLY_NEGATIVE_W_M2 = -20.0
"""Instruments read a few watts below nothing at night; more than that is a fault."""
TEMPERATURES_C = (-90.0, 60.0)
ELEVATIONS_M = (-430.0, 8850.0)
"""From the shore of the lowest lake to the highest summit."""


class WeatherFileError(ValueError):
    """The file is refused; the message says what, where and what to do."""

    def __init__(self, message: str, line: int | None = None) -> None:
        super().__init__(f"line {line} {message}" if line else message)


@dataclass(frozen=True, slots=True)
class Header:
    """What a file says of itself."""

    name: str
    latitude_deg: float | None
    longitude_deg: float | None
    elevation_m: float | None = None
    utc_offset_h: float | None = None
    """How far its clock is ahead of universal time; None where it does not say."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Reading:
    """One row. `w_m2` is mean sunshine on the flat, with `whole_day` the day's W·h/m²; None where
    missing."""

    line: int
    day: date
    hour: float
    w_m2: float | None
    air_c: float | None
    whole_day: bool = False
    diffuse_w_m2: float | None = None
    """What of it comes from the dome; None where the row does not part it."""


def form_of(name: str, text: str) -> RecordForm:
    """The form of a file, from its ending and its first lines."""
    ending = name.lower().rsplit(".", 1)[-1]
    start = text[:2000]
    if ending == "epw" or start.startswith("LOCATION,"):
        return "epw"
    if ending in {"tm2", "tmy2"}:
        return "tmy2"
    second = start.split("\n")[1:2]
    if second and second[0].startswith("Date (MM/DD/YYYY)"):
        return "tmy3"
    return "csv"


def _number(text: str, what: str, line: int) -> float | None:
    tidy = text.strip()
    if tidy == "":
        return None
    try:
        value = float(tidy)
    except ValueError:
        raise WeatherFileError(f"has “{tidy[:30]}” as {what}; it must be a number", line) from None
    if not math.isfinite(value):
        raise WeatherFileError(
            f"has “{tidy[:30]}” for the {what}; it must be a finite number", line
        )
    return None if value <= MISSING_FROM or value >= MISSING_TO else value


def _date(year: str, month: str, day: str, line: int) -> date:
    try:
        return date(int(year), int(month), int(day))
    except (ValueError, OverflowError):
        named = f"year {year[:10]}, month {month[:10]}, day {day[:10]}"
        raise WeatherFileError(f"has a date that doesn't exist: {named}", line) from None


def _hour_before(text: str, line: int) -> float:
    """These formats stamp the end of the hour, 1 to 24; what is wanted is its beginning."""
    hour = _number(text, "hour", line)
    if hour is None or not 1 <= hour <= 24:
        raise WeatherFileError(f"has hour “{text.strip()[:10]}”; it must be 1 to 24", line)
    return hour - 1.0


def _checked(
    line: int,
    day: date,
    hour: float,
    w_m2: float | None,
    air_c: float | None,
    diffuse_w_m2: float | None = None,
) -> Reading:
    for what, value in (("sunshine", w_m2), ("diffuse sunshine", diffuse_w_m2)):
        if value is not None and not SLIGHTLY_NEGATIVE_W_M2 <= value <= MOST_W_M2:
            raise WeatherFileError(
                (
                    f"has {value:g} W/m² of {what}. It must be 0 to {MOST_W_M2:.0f}. Is it in "
                    "another unit?"
                ),
                line,
            )
    if air_c is not None and not TEMPERATURES_C[0] <= air_c <= TEMPERATURES_C[1]:
        raise WeatherFileError(
            f"has an air temperature of {air_c:g} °C; it must be -90 to 60", line
        )
    return Reading(line=line, day=day, hour=hour, w_m2=w_m2, air_c=air_c, diffuse_w_m2=diffuse_w_m2)


def _cells(text: str, line: int) -> list[str]:
    try:
        return next(csv.reader([text]), [])
    except csv.Error as error:
        raise WeatherFileError(f"cannot be read: {error}", line) from None


def _coordinate(text: str, what: str, most: float, line: int) -> float:
    value = _number(text, what, line)
    if value is None or abs(value) > most:
        raise WeatherFileError(f"has no {what} between -{most:g} and {most:g}", line)
    return value


def _of_the_header(text: str, least: float, most: float) -> float | None:
    """A figure of the header that a file can do without: None where it is not there or cannot
    be."""
    try:
        value = float(text)
    except ValueError:
        return None
    return value if least <= value <= most else None


def _height_m(text: str) -> float | None:
    return _of_the_header(text, *ELEVATIONS_M)


def _zone_h(text: str) -> float | None:
    return _of_the_header(text, -12.0, 14.0)


def _need(cells: list[str], count: int, line: int) -> None:
    if len(cells) < count:
        raise WeatherFileError(f"is too short: it has {len(cells)} columns and needs {count}", line)


def epw(lines: list[str]) -> tuple[Header, Iterator[Reading]]:
    """An EPW file: eight header lines, the first with the place; sunshine in column 14, diffuse 16,
    air 7."""
    head = _cells(lines[0], 1)
    _need(head, 10, 1)
    header = Header(
        head[1].strip() or "EPW file",
        _coordinate(head[6], "latitude", 90, 1),
        _coordinate(head[7], "longitude", 180, 1),
        _height_m(head[9]),
        _zone_h(head[8]),
    )

    def rows() -> Iterator[Reading]:
        for line, text in enumerate(lines[8:], start=9):
            if not text.strip():
                continue
            cells = _cells(text, line)
            _need(cells, 14, line)
            day = _date(cells[0], cells[1], cells[2], line)
            sun = _number(cells[13], "sunshine", line)
            air = _number(cells[6], "air temperature", line)
            diffuse = _number(cells[15], "diffuse sunshine", line) if len(cells) > 15 else None
            # EPW writes 99.9 where it has no temperature.
            yield _checked(
                line, day, _hour_before(cells[3], line), sun, None if air == 99.9 else air, diffuse
            )

    return header, rows()


def tmy3(lines: list[str]) -> tuple[Header, Iterator[Reading]]:
    """A TMY3 file: the place in line 1, column names in line 2."""
    head, names = _cells(lines[0], 1), _cells(lines[1], 2)
    _need(head, 7, 1)
    header = Header(
        head[1].strip() or "TMY3 file",
        _coordinate(head[4], "latitude", 90, 1),
        _coordinate(head[5], "longitude", 180, 1),
        _height_m(head[6]),
        _zone_h(head[3]),
    )
    diffuse_at = names.index("DHI (W/m^2)") if "DHI (W/m^2)" in names else None
    try:
        sun_at, air_at = names.index("GHI (W/m^2)"), names.index("Dry-bulb (C)")
    except ValueError:
        raise WeatherFileError("lacks a column “GHI (W/m^2)” or “Dry-bulb (C)”", 2) from None

    def rows() -> Iterator[Reading]:
        for line, text in enumerate(lines[2:], start=3):
            if not text.strip():
                continue
            cells = _cells(text, line)
            _need(cells, max(sun_at, air_at) + 1, line)
            parts = cells[0].split("/")
            if len(parts) != 3:
                raise WeatherFileError(
                    f"has “{cells[0][:20]}” as the date; write month/day/year", line
                )
            day = _date(parts[2], parts[0], parts[1], line)
            hour = _hour_before(cells[1].split(":")[0], line)
            sun, air = (
                _number(cells[sun_at], "sunshine", line),
                _number(cells[air_at], "air temperature", line),
            )
            parted = diffuse_at is not None and len(cells) > diffuse_at
            diffuse = _number(cells[diffuse_at or 0], "diffuse sunshine", line) if parted else None
            yield _checked(line, day, hour, sun, air, diffuse)

    return header, rows()


def tmy2(lines: list[str]) -> tuple[Header, Iterator[Reading]]:
    """A TMY2 file: fixed columns; the place in line 1 in degrees and minutes; air in tenths of a
    degree."""
    parts = lines[0].split()
    try:
        name, north, east = " ".join(parts[1:-8]) or "TMY2 file", parts[-7], parts[-4]
        latitude = (int(parts[-6]) + int(parts[-5]) / 60.0) * (1 if north == "N" else -1)
        longitude = (int(parts[-3]) + int(parts[-2]) / 60.0) * (1 if east == "E" else -1)
    except (ValueError, IndexError, OverflowError):
        raise WeatherFileError("is not the heading of a TMY2 file", 1) from None
    if abs(latitude) > 90 or abs(longitude) > 180:
        raise WeatherFileError("has coordinates that do not exist", 1)

    def rows() -> Iterator[Reading]:
        for line, text in enumerate(lines[1:], start=2):
            if not text.strip():
                continue
            if len(text) < 71:
                raise WeatherFileError(
                    f"is too short: it has {len(text)} characters and needs 71", line
                )
            day = _date("19" + text[1:3], text[3:5], text[5:7], line)
            air = _number(text[67:71], "air temperature", line)
            sun, diffuse = (
                _number(text[17:21], "sunshine", line),
                _number(text[29:33], "diffuse sunshine", line),
            )
            yield _checked(
                line,
                day,
                _hour_before(text[7:9], line),
                sun,
                None if air is None else air / 10.0,
                diffuse,
            )

    return Header(name, latitude, longitude, _height_m(parts[-1]), _zone_h(parts[-8])), rows()


TIME_NAMES = ("time", "timestamp", "date", "datetime", "day")
POWER_NAMES = ("ghi_w_m2", "ghi", "w_m2", "irradiance", "irradiance_w_m2", "solar_w_m2")
KWH_NAMES = ("kwh_m2", "ghi_kwh_m2", "sun_hours")
WH_NAMES = ("wh_m2", "ghi_wh_m2")
DIFFUSE_NAMES = ("dhi_w_m2", "dhi", "diffuse_w_m2", "diffuse")
AIR_NAMES = ("air_c", "temp_c", "temperature_c", "temp_air", "temperature")


def _column(names: list[str], wanted: tuple[str, ...]) -> int | None:
    return next((names.index(name) for name in wanted if name in names), None)


def _moment(text: str, line: int) -> datetime:
    try:
        return datetime.fromisoformat(text.strip().replace(" ", "T", 1)).replace(tzinfo=None)
    except ValueError:
        raise WeatherFileError(
            f"has “{text.strip()[:30]}” as the time; write it like 2025-06-21 13:00", line
        ) from None


def plain_csv(lines: list[str]) -> tuple[Header, Iterator[Reading]]:
    """A CSV with a heading: a time or date, mean W/m² or a day's kW·h/m² (or W·h/m²), diffuse and
    air in °C if any.

    Comma, semicolon or tab between columns; with semicolons or tabs a decimal comma is understood.
    """
    divider = next((mark for mark in (";", "\t") if mark in lines[0]), ",")

    def split(text: str, line: int) -> list[str]:
        try:
            cells = next(csv.reader([text], delimiter=divider), [])
        except csv.Error as error:
            raise WeatherFileError(f"cannot be read: {error}", line) from None
        return [cell.replace(",", ".") for cell in cells] if divider != "," else cells

    names = [name.strip().lower() for name in split(lines[0].lstrip("﻿"), 1)]
    time_at, air_at = _column(names, TIME_NAMES), _column(names, AIR_NAMES)
    diffuse_at = _column(names, DIFFUSE_NAMES)
    power_at, kwh_at, wh_at = (
        _column(names, POWER_NAMES),
        _column(names, KWH_NAMES),
        _column(names, WH_NAMES),
    )
    if time_at is None or (power_at is None and kwh_at is None and wh_at is None):
        raise WeatherFileError(
            "must name the columns: “time” and “ghi_w_m2”, or “date” and “kwh_m2”. Add "
            "“dhi_w_m2” and “air_c” if you have them",
            1,
        )
    sun_at, factor = (
        (power_at, 1.0)
        if power_at is not None
        else (kwh_at, 1000.0)
        if kwh_at is not None
        else (wh_at, 1.0)
    )

    def rows() -> Iterator[Reading]:
        for line, text in enumerate(lines[1:], start=2):
            if not text.strip():
                continue
            cells = split(text, line)
            _need(
                cells,
                max(item for item in (time_at, sun_at, air_at, diffuse_at) if item is not None) + 1,
                line,
            )
            when = _moment(cells[time_at], line)
            sun = _number(cells[sun_at or 0], "sunshine", line)
            air = _number(cells[air_at], "air temperature", line) if air_at is not None else None
            if power_at is not None:
                diffuse = (
                    _number(cells[diffuse_at], "diffuse sunshine", line)
                    if diffuse_at is not None
                    else None
                )
                yield _checked(line, when.date(), when.hour + when.minute / 60.0, sun, air, diffuse)
                continue
            energy = None if sun is None else sun * factor
            if energy is not None and not 0 <= energy <= 16_000:
                raise WeatherFileError(
                    f"has {sun:g} as a day's sunshine, which isn't possible", line
                )
            yield Reading(
                line=line, day=when.date(), hour=0.0, w_m2=energy, air_c=air, whole_day=True
            )

    return Header("CSV record", None, None), rows()


READERS = {"epw": epw, "tmy3": tmy3, "tmy2": tmy2, "csv": plain_csv}
