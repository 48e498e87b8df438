"""The whole club as one file: a zip of JSON (sites with every revision, the shelf) and CSV
(readings)."""

import csv
import io
import json
import math
import re
import zipfile
import zlib
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

import numpy as np
import pandas as pd
from pydantic import AfterValidator, Field, TypeAdapter, ValidationError

from yonderstat.core.bounds import (
    FIRST_S,
    LAST_S,
    Day,
    Figure,
    JsonObject,
    Moment,
    Position,
    plain_text,
)
from yonderstat.core.design import Place
from yonderstat.core.design.base import Name
from yonderstat.core.log import CHANNELS

from .cells import tame
from .meter_log import RECORD_LIMITS

FORMAT, VERSION = "yonderstat-club", 1
MOST_MEMBERS, MOST_UNPACKED, MOST_RATIO = 20_000, 400_000_000, 300
SITE = re.compile(r"sites/([0-9a-f-]{36})\.json")
READINGS = re.compile(r"readings/([0-9a-f-]{36})\.csv")
READING_COLUMNS = ("id", "taken_at", "said", "who", "kind", "value", "detail", "key", "created_at")
TAMED = {"said", "who", "kind", "detail", "key"}
SERIES = re.compile(r"series/([0-9a-f-]{36})\.csv")
MEMBERS = (SITE, READINGS, SERIES)
MOST_READINGS, MOST_MARKS = 200_000, 6_000_000
"""Rows of all logs, and brackets and commas of one part: what they come to in memory is bounded by
these."""
Action = Literal["create", "edit", "undo", "redo"]
Short = Annotated[str, Field(max_length=80), AfterValidator(plain_text)]
Words = Annotated[str, Field(max_length=600), AfterValidator(plain_text)]


@dataclass(frozen=True, slots=True, kw_only=True)
class RevisionRecord:
    """A state of a design or of the shelf."""

    number: Position
    action: Action
    actor: Short
    parent: Position | None
    restores: Position | None
    document: JsonObject
    created_at: Moment
    unreadable: Words = ""
    """Why the program that wrote the file could not read this state either; empty where it
    could."""


@dataclass(frozen=True, slots=True)
class DesignRecord:
    """A design with its whole history."""

    id: UUID
    position: Position
    as_built: bool
    created_at: Moment
    revisions: tuple[RevisionRecord, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadingRecord:
    """A line of the log."""

    id: UUID
    taken_at: Moment
    said: Words
    who: Short
    kind: Short
    value: Figure | None
    detail: JsonObject | None
    key: Words | None
    created_at: Moment


@dataclass(frozen=True, slots=True, kw_only=True)
class UpkeepRecord:
    """Upkeep that was done."""

    id: UUID
    task: Short
    done_on: Day
    who: Short
    note: Words
    created_at: Moment


@dataclass(frozen=True, slots=True, kw_only=True)
class SiteRecord:
    """A site with its designs; its readings travel beside it."""

    id: UUID
    name: Name
    created_at: Moment
    deleted_at: Moment | None
    place: JsonObject | None
    designs: tuple[DesignRecord, ...]
    upkeep: tuple[UpkeepRecord, ...] = ()
    readings: tuple[ReadingRecord, ...] = field(default=())
    series_csv: str = field(default="")
    """What meters recorded, as the database copies it out."""


@dataclass(frozen=True, slots=True)
class ClubRecord:
    """All that is kept of a club."""

    sites: tuple[SiteRecord, ...]
    shelf: tuple[RevisionRecord, ...]


class ClubArchiveError(ValueError):
    """The file is refused whole; `faults` names what is wrong in which part of it."""

    def __init__(self, *faults: str) -> None:
        super().__init__("; ".join(faults[:5]))
        self.faults = faults


SITE_ADAPTER = TypeAdapter(SiteRecord)
SHELF_ADAPTER = TypeAdapter(tuple[RevisionRecord, ...])
READING_ADAPTER = TypeAdapter(ReadingRecord)


def _readings_csv(readings: tuple[ReadingRecord, ...]) -> str:
    sink = io.StringIO()
    writer = csv.writer(sink, lineterminator="\n")
    writer.writerow(READING_COLUMNS)
    for reading in readings:
        row = READING_ADAPTER.dump_python(reading, mode="json")
        row["detail"] = (
            None if row["detail"] is None else json.dumps(row["detail"], ensure_ascii=False)
        )
        cells = {name: "" if row[name] is None else str(row[name]) for name in READING_COLUMNS}
        writer.writerow([tame(cell) if name in TAMED else cell for name, cell in cells.items()])
    return sink.getvalue()


def write_club(club: ClubRecord, made_at: datetime) -> bytes:
    """The club as a zip file."""
    sink = io.BytesIO()
    with zipfile.ZipFile(sink, "w", zipfile.ZIP_DEFLATED, compresslevel=6) as packed:
        manifest = {
            "format": FORMAT,
            "version": VERSION,
            "made_at": made_at.isoformat(),
            "sites": len(club.sites),
            "designs": sum(len(site.designs) for site in club.sites),
            "readings": sum(len(site.readings) for site in club.sites),
        }
        packed.writestr("manifest.json", json.dumps(manifest, indent=1))
        packed.writestr("shelf.json", SHELF_ADAPTER.dump_json(club.shelf))
        for site in club.sites:
            told = SITE_ADAPTER.dump_python(site, mode="json", exclude={"readings", "series_csv"})
            packed.writestr(f"sites/{site.id}.json", json.dumps(told, ensure_ascii=False))
            if site.readings:
                packed.writestr(f"readings/{site.id}.csv", _readings_csv(site.readings))
            if site.series_csv:
                packed.writestr(f"series/{site.id}.csv", site.series_csv)
    return sink.getvalue()


def _members(packed: zipfile.ZipFile) -> dict[str, zipfile.ZipInfo]:
    """What the file holds, by name; anything else than an archive of ours has is refused."""
    infos = packed.infolist()
    if len(infos) > MOST_MEMBERS:
        raise ClubArchiveError(f"holds {len(infos)} files; {MOST_MEMBERS} are allowed")
    found: dict[str, zipfile.ZipInfo] = {}
    for info in infos:
        name = info.filename
        if name not in {"manifest.json", "shelf.json"} and not any(
            form.fullmatch(name) for form in MEMBERS
        ):
            raise ClubArchiveError(
                f"holds “{name[:80]}”, which doesn't belong in a backup from this program"
            )
        if name in found:
            raise ClubArchiveError(f"holds “{name}” twice")
        if info.file_size > 1_000_000 and info.file_size > MOST_RATIO * max(info.compress_size, 1):
            raise ClubArchiveError(
                f"“{name}” would unpack to {info.file_size / 1000000.0:.0f} MB from a tiny "
                "file, so it is refused"
            )
        found[name] = info
    if sum(info.file_size for info in infos) > MOST_UNPACKED:
        raise ClubArchiveError(f"would unpack to more than {MOST_UNPACKED // 1000000} MB")
    return found


def _read(packed: zipfile.ZipFile, info: zipfile.ZipInfo) -> bytes:
    """A member, no longer than it says it is."""
    with packed.open(info) as member:
        data = member.read(info.file_size + 1)
    if len(data) > info.file_size:
        raise ClubArchiveError(f"“{info.filename}” is larger than the zip file says")
    return data


def _manifest(data: bytes) -> dict[str, Any]:
    try:
        manifest = json.loads(data)
    except ValueError as error:
        raise ClubArchiveError(f"manifest.json isn't valid JSON: {error}") from None
    if not isinstance(manifest, dict) or manifest.get("format") != FORMAT:
        raise ClubArchiveError("manifest.json doesn't say that this is a club backup")
    if manifest.get("version") != VERSION:
        said = str(manifest.get("version"))[:20]
        raise ClubArchiveError(
            f"is version {said}, and this program reads {VERSION}; update the program"
        )
    return manifest


def _reading(row: list[str]) -> ReadingRecord:
    cells = [
        cell.removeprefix("'") if cell[:1] == "'" and tame(cell[1:]) == cell else cell
        for cell in row
    ]
    named = dict(zip(READING_COLUMNS, cells, strict=True))
    detail = json.loads(named["detail"]) if named["detail"] else None
    told = {**named, "value": named["value"] or None, "detail": detail, "key": named["key"] or None}
    return READING_ADAPTER.validate_python(told)


def _readings(name: str, data: bytes, most: int) -> tuple[ReadingRecord, ...]:
    found: list[ReadingRecord] = []
    line = 1
    try:
        rows = csv.reader(io.TextIOWrapper(io.BytesIO(data), encoding="utf-8", newline=""))
        if tuple(next(rows, ())) != READING_COLUMNS:
            raise ClubArchiveError(f"{name}: line 1 must read {','.join(READING_COLUMNS)}")
        for line, row in enumerate(rows, start=2):
            if len(found) >= most:
                raise ClubArchiveError(
                    f"{name}: line {line}: more than {MOST_READINGS} readings at once are not "
                    "accepted"
                )
            found.append(_reading(row))
    except (UnicodeDecodeError, csv.Error) as error:
        raise ClubArchiveError(f"{name} isn't a table: {error}") from None
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(str(step) for step in first["loc"])
        raise ClubArchiveError(f"{name}: line {line}, {where}: {first['msg']}") from None
    except (ValueError, RecursionError) as error:
        raise (
            error
            if isinstance(error, ClubArchiveError)
            else ClubArchiveError(f"{name}: line {line} cannot be read: {error}")
        ) from None
    _once(name, "reading", [item.id for item in found])
    _once(name, "reading's key", [item.key for item in found if item.key is not None])
    return tuple(found)


def _once(name: str, what: str, values: Sequence[object]) -> None:
    """Refuse what stands in a file twice and can be there once."""
    if len(set(values)) != len(values):
        twice = next(value for value in values if values.count(value) > 1)
        raise ClubArchiveError(f"{name}: the {what} {str(twice)[:80]} is there twice")


def _series(name: str, data: bytes) -> str:
    """What meters recorded: a moment and a figure a channel on every line, or nothing for one; all
    within bounds."""
    try:
        columns = pd.read_csv(
            io.BytesIO(data),
            header=None,
            dtype=np.float64,
            names=["at", *CHANNELS],
            index_col=False,
        )
    except (ValueError, pd.errors.ParserError, pd.errors.EmptyDataError, UnicodeDecodeError):
        raise ClubArchiveError(f"{name}: {_bad_line(data)}") from None
    limits = {"at": (FIRST_S, LAST_S, "moment"), **RECORD_LIMITS}
    for column, (low, high, what) in limits.items():
        values = columns[column].to_numpy()
        bad = ~(
            (values >= low) & (values <= high) | (np.isnan(values) if column != "at" else False)
        )
        if bad.any():
            row = int(bad.argmax())
            raise ClubArchiveError(
                f"{name}: line {row + 1}: {values[row]:g} is not a possible {what}"
            )
    widths = {line.count(b",") for line in io.BytesIO(data)}
    if widths - {len(CHANNELS)} or b"nan" in data.lower():
        raise ClubArchiveError(f"{name}: {_bad_line(data)}")
    return data.decode("ascii")


def _bad_line(data: bytes) -> str:
    """Which line is no moment with a figure a channel."""
    for line, row in enumerate(io.BytesIO(data), start=1):
        cells = row.strip().split(b",")
        try:
            figures = [float(cell) if cell else math.nan for cell in cells]
        except ValueError:
            return f"line {line} has a value that isn't a number"
        if len(cells) != len(CHANNELS) + 1 or math.isnan(figures[0]) or b"nan" in row.lower():
            return f"line {line} must have a time and {len(CHANNELS)} figures"
    return "is no table"


def _site(name: str, data: bytes) -> SiteRecord:
    try:
        site = SITE_ADAPTER.validate_json(data)
    except ValidationError as error:
        first = error.errors()[0]
        where = "/".join(str(step) for step in first["loc"]) or "the file"
        raise ClubArchiveError(f"{name}: {where}: {first['msg']}") from None
    if name != f"sites/{site.id}.json":
        raise ClubArchiveError(f"{name} holds another site, {site.id}")
    for number, design in enumerate(site.designs):
        _check_history(f"{name}: designs/{number}", design.revisions)
    _once(name, "design", [design.id for design in site.designs])
    _once(name, "upkeep", [item.id for item in site.upkeep])
    if sum(design.as_built for design in site.designs) > 1:
        raise ClubArchiveError(f"{name}: more than one design is marked as built")
    if not site.designs:
        raise ClubArchiveError(f"{name}: holds a site without a design")
    _check_place(name, site.place)
    return site


def _check_place(name: str, place: dict[str, Any] | None) -> None:
    """A place is read as the live page reads it, and its time zone must be one that is known."""
    if place is None:
        return
    try:
        zone = Place.model_validate(place).time_zone
        if zone:
            ZoneInfo(zone)
    except ValidationError as error:
        first = error.errors()[0]
        where = "/".join(str(step) for step in first["loc"])
        raise ClubArchiveError(f"{name}: place/{where}: {first['msg']}") from None
    except (ZoneInfoNotFoundError, ValueError, OSError):
        raise ClubArchiveError(
            f"{name}: place/time_zone: “{str(zone)[:40]}” isn't a time zone we know"
        ) from None


def _check_history(name: str, revisions: tuple[RevisionRecord, ...], first: int = 1) -> None:
    """Numbers count up, and what a state stands on came before it. The documents are read by
    whoever keeps them."""
    if [revision.number for revision in revisions] != list(
        range(first, first + len(revisions))
    ) or not revisions:
        raise ClubArchiveError(f"{name}: versions are missing or out of order")
    for revision in revisions:
        where = f"{name}/revisions/{revision.number - 1}"
        for word, before in (("parent", revision.parent), ("restores", revision.restores)):
            if before is not None and not before < revision.number:
                raise ClubArchiveError(f"{where}: {word} {before} does not come before it")
        if revision.action in {"undo", "redo"} and not revision.restores:
            raise ClubArchiveError(
                f"{where}: says {revision.action} but not which version it went back to"
            )
        if (
            revision.parent is not None
            and revision.parent < 1
            and first == 1
            and revision.action != "edit"
        ):
            raise ClubArchiveError(f"{where}: parent {revision.parent} isn't a revision")


def _light(name: str, data: bytes) -> bytes:
    """JSON that does not come to many times its size in memory."""
    marks = sum(data.count(mark) for mark in (b",", b"[", b"{"))
    if marks > MOST_MARKS:
        raise ClubArchiveError(
            f"{name}: holds {marks} values; more than {MOST_MARKS} at once are not accepted"
        )
    return data


def read_club(data: bytes) -> ClubRecord:
    """The club a zip file holds.

    Raises
    ------
    ClubArchiveError
        Where it is cut short, holds what it must not, or cannot be read as a whole.
    """
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            members = _members(packed)
            if not {"manifest.json", "shelf.json"} <= members.keys():
                raise ClubArchiveError(
                    "isn't a club backup: manifest.json or shelf.json is missing"
                )
            manifest = _manifest(_read(packed, members["manifest.json"]))
            shelf = SHELF_ADAPTER.validate_json(
                _light("shelf.json", _read(packed, members["shelf.json"]))
            )
            if shelf:
                _check_history("shelf.json", shelf)
            logs: dict[str, tuple[ReadingRecord, ...]] = {}
            for name, info in members.items():
                if found := READINGS.fullmatch(name):
                    left = MOST_READINGS - sum(map(len, logs.values()))
                    logs[found[1]] = _readings(name, _read(packed, info), left)
            series = {
                found[1]: _series(name, _read(packed, info))
                for name, info in members.items()
                if (found := SERIES.fullmatch(name))
            }
            sites = [
                _site(name, _light(name, _read(packed, info)))
                for name, info in members.items()
                if SITE.fullmatch(name)
            ]
    except ValidationError as error:
        raise ClubArchiveError(f"shelf.json: {error.errors()[0]['msg']}") from None
    except ClubArchiveError:
        raise
    except (UnicodeDecodeError, RecursionError) as error:
        raise ClubArchiveError(f"holds a table that isn't text: {error}") from None
    # The last ones are what zipfile raises for a compression it does not know, a file with a
    # password, broken sizes.
    except (
        zipfile.BadZipFile,
        zlib.error,
        EOFError,
        OSError,
        NotImplementedError,
        RuntimeError,
        ValueError,
    ) as error:
        raise ClubArchiveError(f"isn't a complete zip file: {error}") from None
    if len(sites) != manifest.get("sites"):
        raise ClubArchiveError(f"should hold {manifest.get('sites')} sites but holds {len(sites)}")
    _once("the file", "design", [design.id for site in sites for design in site.designs])
    _once("the file", "reading", [item.id for log in logs.values() for item in log])
    _once("the file", "upkeep", [item.id for site in sites for item in site.upkeep])
    lost = (logs.keys() | series.keys()) - {str(site.id) for site in sites}
    if lost:
        raise ClubArchiveError(f"has readings for a site that isn't in it: {sorted(lost)[0]}")
    whole = [
        replace(site, readings=logs.get(str(site.id), ()), series_csv=series.get(str(site.id), ""))
        for site in sites
    ]
    return ClubRecord(tuple(sorted(whole, key=lambda site: (site.created_at, str(site.id)))), shelf)
