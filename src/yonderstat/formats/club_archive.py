"""The whole club as one file: a zip of JSON (sites with every revision, the shelf) and CSV (readings)."""

import csv
import io
import json
import re
import zipfile
from dataclasses import dataclass, field, replace
from datetime import date, datetime
from typing import Any
from uuid import UUID

from pydantic import TypeAdapter, ValidationError

from yonderstat.core.log import CHANNELS

from .cells import tame

FORMAT, VERSION = "yonderstat-club", 1
MOST_MEMBERS, MOST_UNPACKED, MOST_RATIO = 20_000, 400_000_000, 300
SITE = re.compile(r"sites/([0-9a-f-]{36})\.json")
READINGS = re.compile(r"readings/([0-9a-f-]{36})\.csv")
READING_COLUMNS = ("id", "taken_at", "said", "who", "kind", "value", "detail", "key", "created_at")
TAMED = {"said", "who", "kind", "detail", "key"}
SERIES = re.compile(r"series/([0-9a-f-]{36})\.csv")
MEMBERS = (SITE, READINGS, SERIES)


@dataclass(frozen=True, slots=True)
class RevisionRecord:
    """A state of a design or of the shelf."""

    number: int
    action: str
    actor: str
    parent: int | None
    restores: int | None
    document: dict[str, Any]
    created_at: datetime


@dataclass(frozen=True, slots=True)
class DesignRecord:
    """A design with its whole history."""

    id: UUID
    position: int
    as_built: bool
    created_at: datetime
    revisions: tuple[RevisionRecord, ...]


@dataclass(frozen=True, slots=True)
class ReadingRecord:
    """A line of the log."""

    id: UUID
    taken_at: datetime
    said: str
    who: str
    kind: str
    value: float | None
    detail: dict[str, Any] | None
    key: str | None
    created_at: datetime


@dataclass(frozen=True, slots=True)
class UpkeepRecord:
    """Upkeep that was done."""

    id: UUID
    task: str
    done_on: date
    who: str
    note: str
    created_at: datetime


@dataclass(frozen=True, slots=True)
class SiteRecord:
    """A site with its designs; its readings travel beside it."""

    id: UUID
    name: str
    created_at: datetime
    deleted_at: datetime | None
    place: dict[str, Any] | None
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
        row["detail"] = None if row["detail"] is None else json.dumps(row["detail"], ensure_ascii=False)
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
        raise ClubArchiveError(f"holds {len(infos)} files; at most {MOST_MEMBERS}")
    found: dict[str, zipfile.ZipInfo] = {}
    for info in infos:
        name = info.filename
        if name not in {"manifest.json", "shelf.json"} and not any(form.fullmatch(name) for form in MEMBERS):
            raise ClubArchiveError(f"holds “{name[:80]}”, which no archive of ours has")
        if name in found:
            raise ClubArchiveError(f"holds “{name}” twice")
        if info.file_size > 1_000_000 and info.file_size > MOST_RATIO * max(info.compress_size, 1):
            raise ClubArchiveError(f"“{name}” unpacks to {info.file_size / 1e6:.0f} MB out of nearly nothing")
        found[name] = info
    if sum(info.file_size for info in infos) > MOST_UNPACKED:
        raise ClubArchiveError(f"unpacks to over {MOST_UNPACKED // 1_000_000} MB")
    return found


def _read(packed: zipfile.ZipFile, info: zipfile.ZipInfo) -> bytes:
    """A member, no longer than it says it is."""
    with packed.open(info) as member:
        data = member.read(info.file_size + 1)
    if len(data) > info.file_size:
        raise ClubArchiveError(f"“{info.filename}” is longer than it says")
    return data


def _manifest(data: bytes) -> dict[str, Any]:
    try:
        manifest = json.loads(data)
    except ValueError as error:
        raise ClubArchiveError(f"manifest.json is no JSON: {error}") from None
    if not isinstance(manifest, dict) or manifest.get("format") != FORMAT:
        raise ClubArchiveError("manifest.json does not say that this is an archive of a club")
    if manifest.get("version") != VERSION:
        said = str(manifest.get("version"))[:20]
        raise ClubArchiveError(f"is of version {said}; this program reads {VERSION}: bring the program up to date")
    return manifest


def _reading(row: list[str]) -> ReadingRecord:
    cells = [cell.removeprefix("'") if cell[:1] == "'" and tame(cell[1:]) == cell else cell for cell in row]
    named = dict(zip(READING_COLUMNS, cells, strict=True))
    detail = json.loads(named["detail"]) if named["detail"] else None
    told = {**named, "value": named["value"] or None, "detail": detail, "key": named["key"] or None}
    return READING_ADAPTER.validate_python(told)


def _readings(name: str, data: bytes) -> tuple[ReadingRecord, ...]:
    try:
        rows = list(csv.reader(io.StringIO(data.decode("utf-8"))))
    except (UnicodeDecodeError, csv.Error) as error:
        raise ClubArchiveError(f"{name} is no table: {error}") from None
    if not rows or tuple(rows[0]) != READING_COLUMNS:
        raise ClubArchiveError(f"{name}: line 1 must read {','.join(READING_COLUMNS)}")
    found = []
    for line, row in enumerate(rows[1:], start=2):
        try:
            found.append(_reading(row))
        except ValidationError as error:
            first = error.errors()[0]
            where = ".".join(str(step) for step in first["loc"])
            raise ClubArchiveError(f"{name}: line {line}, {where}: {first['msg']}") from None
        except ValueError as error:
            raise ClubArchiveError(f"{name}: line {line} cannot be read: {error}") from None
    return tuple(found)


def _series(name: str, data: bytes) -> str:
    """What meters recorded: a moment and a figure a channel on every line, or nothing for one."""
    text = data.decode()
    for line, row in enumerate(csv.reader(io.StringIO(text)), start=1):
        try:
            moment, *figures = (float(cell) if cell else None for cell in row)
        except ValueError:
            raise ClubArchiveError(f"{name}: line {line} holds what is no number") from None
        if moment is None or len(figures) != len(CHANNELS):
            raise ClubArchiveError(f"{name}: line {line} is no moment with {len(CHANNELS)} figures")
    return text


def _site(name: str, data: bytes) -> SiteRecord:
    try:
        site = SITE_ADAPTER.validate_json(data)
    except ValidationError as error:
        first = error.errors()[0]
        where = "/".join(str(step) for step in first["loc"]) or "the file"
        raise ClubArchiveError(f"{name}: {where}: {first['msg']}") from None
    if name != f"sites/{site.id}.json":
        raise ClubArchiveError(f"{name} holds the site {site.id}")
    for design in site.designs:
        numbers = [revision.number for revision in design.revisions]
        if numbers != list(range(1, len(numbers) + 1)) or not numbers:
            raise ClubArchiveError(f"{name}: the revisions of the design {design.id} do not count up from 1")
    return site


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
                raise ClubArchiveError("lacks manifest.json or shelf.json: it is no archive of a club")
            manifest = _manifest(_read(packed, members["manifest.json"]))
            shelf = SHELF_ADAPTER.validate_json(_read(packed, members["shelf.json"]))
            logs = {
                found[1]: _readings(name, _read(packed, info))
                for name, info in members.items()
                if (found := READINGS.fullmatch(name))
            }
            series = {
                found[1]: _series(name, _read(packed, info))
                for name, info in members.items()
                if (found := SERIES.fullmatch(name))
            }
            sites = [_site(name, _read(packed, info)) for name, info in members.items() if SITE.fullmatch(name)]
    except ValidationError as error:
        raise ClubArchiveError(f"shelf.json: {error.errors()[0]['msg']}") from None
    except UnicodeDecodeError as error:
        raise ClubArchiveError(f"holds a table that is no text: {error}") from None
    # The last two are what zipfile raises for a compression it does not know and for a file with a password.
    except (zipfile.BadZipFile, EOFError, OSError, NotImplementedError, RuntimeError) as error:
        raise ClubArchiveError(f"is no whole zip file: {error}") from None
    if len(sites) != manifest.get("sites"):
        raise ClubArchiveError(f"says it has {manifest.get('sites')} sites and has {len(sites)}")
    lost = (logs.keys() | series.keys()) - {str(site.id) for site in sites}
    if lost:
        raise ClubArchiveError(f"has readings of a site that is not in it: {sorted(lost)[0]}")
    whole = [
        replace(site, readings=logs.get(str(site.id), ()), series_csv=series.get(str(site.id), "")) for site in sites
    ]
    return ClubRecord(tuple(sorted(whole, key=lambda site: (site.created_at, str(site.id)))), shelf)
