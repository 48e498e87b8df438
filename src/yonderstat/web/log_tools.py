"""The Log step: readings, guided tests, meters' records, the plan against them, and upkeep."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta, tzinfo
from typing import Annotated, Any
from uuid import UUID
from zoneinfo import ZoneInfo

from pydantic import Field
from sqlalchemy import Engine

from yonderstat.core import Report
from yonderstat.core.changes import Change
from yonderstat.core.log import (
    Due,
    FigureError,
    Left,
    Meaning,
    Notice,
    PlanFit,
    Procedure,
    ReadingError,
    days_of,
    due_of,
    fit_of,
    judged_test,
    left_of,
    line_of_test,
    meaning_of,
    noise_words,
    notices_of,
    procedures_of,
    read_line,
    tasks_of,
)
from yonderstat.core.station import StationModel
from yonderstat.formats import (
    CHANNELS,
    MeterLogError,
    MeterPreview,
    preview,
    read_meter_log,
    write_calendar,
)
from yonderstat.records import (
    Archive,
    DoneTask,
    Readings,
    Samples,
    Span,
    StoredDesign,
    StoredReading,
    Thinned,
    UpkeepBook,
)

from .api import Api, Body, create_key, model_fault
from .judged import report_on
from .problems import Problem
from .transfer import TakenAway, Uploaded

SHOWN = 200
AHEAD = timedelta(days=1)
"""Clocks differ; a reading of tomorrow is a mistake."""
FRESH = timedelta(days=3)
"""Resting volts older than that say nothing of what is left now."""
MOST_RECORD_BYTES, MOST_PREVIEW_BYTES = 80_000_000, 400_000
MOST_POINTS = 800
Short = Annotated[str, Field(max_length=40)]


class NewReading(Body):
    """A line as it is said, by whom, and when where that is not now."""

    said: Annotated[str, Field(max_length=400)]
    who: Short = ""
    taken_at: Short | None = None


class NewTest(Body):
    """The figures of a guided test."""

    kind: Short
    subject: Annotated[str, Field(max_length=60)]
    values: dict[Short, float]
    who: Short = ""
    taken_at: Short | None = None


class NewUpkeep(Body):
    """That something was done, when and by whom."""

    task: Short
    done_on: Short
    who: Annotated[str, Field(min_length=1, max_length=12)]
    note: Annotated[str, Field(max_length=200)] = ""


@dataclass(frozen=True, slots=True)
class ReadingView:
    """A reading, what it means, and what it speaks against."""

    id: UUID
    taken_at: datetime
    said: str
    who: str
    kind: str
    words: str
    contradicts: str
    change: Change | None


@dataclass(frozen=True, slots=True)
class LogView:
    """The newest readings of a site, as a design reads them, and how many there are."""

    readings: list[ReadingView]
    total: int
    contradicted: int
    """How many of those shown speak against the plan."""
    notices: list[Notice]
    left: Left | None
    """What is left by the newest resting volts, where they are no older than three days."""


@dataclass(frozen=True, slots=True)
class DueView:
    """A task with when it is due and when it was last done."""

    task: str
    title: str
    why: str
    months: int
    last: date | None
    due: date
    overdue_days: int


@dataclass(frozen=True, slots=True)
class UpkeepView:
    """What is due at a site, and what was done."""

    due: list[DueView]
    done: list[DoneTask]


@dataclass(frozen=True, slots=True)
class RecordView:
    """What meters recorded at a site, and the plan against it."""

    span: Span
    fit: PlanFit | None
    days: int
    gaps: int


@dataclass(frozen=True, slots=True)
class BroughtIn:
    """What a file brought."""

    rows: int
    new: int
    notes: list[str]


@dataclass(frozen=True, slots=True)
class SeriesView:
    """A channel for a picture, with what the plan has at the same moments."""

    channel: str
    series: Thinned
    planned: list[float] | None
    """Of amp-hours a day by month the plan has, as mean amps at each moment; None where it has none."""


def _meaning(stored: StoredReading, station: StationModel, report: Report) -> Meaning:
    try:
        if stored.detail is not None:
            return judged_test(station, stored.detail["test"], stored.detail["subject"], stored.detail["values"])
        return meaning_of(read_line(stored.said), station, report)
    except (ReadingError, FigureError, KeyError):
        # Kept by another program that read it otherwise: it stands as it was said.
        return Meaning("")


def _view(stored: StoredReading, station: StationModel, report: Report) -> ReadingView:
    meaning = _meaning(stored, station, report)
    return ReadingView(
        stored.id,
        stored.taken_at,
        stored.said,
        stored.who,
        stored.kind,
        meaning.words,
        meaning.contradicts,
        meaning.change,
    )


def _taken_at(text: str | None) -> datetime:
    """When it was taken: now, unless it was told."""
    now = datetime.now(UTC)
    if text is None:
        return now
    try:
        at = datetime.fromisoformat(text)
    except ValueError:
        raise model_fault("/taken_at", f"{text!r} is no time; type one such as 2026-07-10T08:00+12:00") from None
    if at.tzinfo is None:
        raise model_fault("/taken_at", "has no time zone; give one, such as 2026-07-10T08:00+12:00")
    if at > now + AHEAD:
        raise model_fault("/taken_at", "lies in the future; a reading is of something that was")
    return at


def _day(text: str) -> date:
    try:
        day = date.fromisoformat(text)
    except ValueError:
        raise model_fault("/done_on", f"{text[:20]!r} is no day; type one such as 2026-07-10") from None
    if day > datetime.now(UTC).date() + AHEAD:
        raise model_fault("/done_on", "lies in the future; say it when it is done")
    return day


def _zone(stored: StoredDesign) -> tzinfo:
    place = stored.design.place
    return ZoneInfo(place.time_zone) if place is not None and place.time_zone else UTC


def _columns(text: str) -> list[str | None]:
    return [word.strip() or None for word in text.split(",")] if text else []


def _name_of(procedure: Procedure, subject: str) -> str | None:
    return next((item.name for item in procedure.subjects if item.id == subject), None)


def _due(due: tuple[Due, ...]) -> list[DueView]:
    return [
        DueView(item.task.id, item.task.title, item.task.why, item.task.months, item.last, item.due, item.overdue_days)
        for item in due
    ]


def _last_done(done: list[DoneTask]) -> Mapping[str, date]:
    found: dict[str, date] = {}
    for item in done:
        found.setdefault(item.task, item.done_on)
    return found


def _planned(channel: str, station: StationModel, moments: list[datetime], zone: tzinfo) -> list[float] | None:
    months = {"charge_a": station.array.harvest_ah, "load_a": station.draw.by_month}.get(channel)
    if months is None:
        return None
    return [float(months[moment.astimezone(zone).month - 1]) / 24.0 for moment in moments]


def _noise(readings: list[StoredReading]) -> list[tuple[str, float]]:
    """What was measured by device: the newest reading of each, with the decibels it adds."""
    found: dict[str, tuple[str, float]] = {}
    for item in readings:
        if item.kind == "test.noise" and item.detail is not None:
            values = item.detail["values"]
            _, added = noise_words(values["band_mhz"], values["off"], values["on"], None)
            found.setdefault(item.detail["subject"], (item.said.split(", ", 1)[1].split(": ")[0], added))
    return list(found.values())


def _left(readings: list[StoredReading], station: StationModel) -> Left | None:
    newest = next((item for item in readings if item.kind == "rest" and item.value is not None), None)
    if newest is None or newest.value is None or datetime.now(UTC) - newest.taken_at > FRESH:
        return None
    try:
        return left_of(station, newest.value, read_line(newest.said).second)
    except ReadingError:
        return None


def log_api(archive: Archive, engine: Engine) -> Api:
    """The operations on readings and tests."""
    api, kept, samples, upkeep = Api(), Readings(engine), Samples(engine), UpkeepBook(engine)

    @api.operation("GET", "/api/designs/{design_id}/log", access="read", answer=LogView)
    def read_log(design_id: UUID) -> LogView:
        """The newest readings of the design's site, and what they mean for it."""
        stored = archive.design(design_id)
        station, report = StationModel(stored.design), report_on(stored)
        readings, total = kept.at(stored.site_id, 0, SHOWN)
        views = [_view(item, station, report) for item in readings]
        against = sum(bool(item.contradicts) for item in views)
        span = samples.span(stored.site_id)
        moments = [*([readings[0].taken_at] if readings else []), *([span.last] if span.last else [])]
        zone = _zone(stored)
        today = datetime.now(zone).date()
        notices = notices_of(
            stored.design.brief.attended,
            max(moments).astimezone(zone).date() if moments else None,
            today,
            due_of(stored.design, _last_done(upkeep.of(stored.site_id)), today),
            _noise(readings),
        )
        return LogView(views, total, against, list(notices), _left(readings, station))

    @api.operation("POST", "/api/designs/{design_id}/log", access="edit", body=NewReading, answer=ReadingView)
    def add_reading(design_id: UUID, body: NewReading) -> ReadingView:
        """Keep a line of the log: “12.62 rest 3h”; under a create key it is kept once."""
        try:
            reading = read_line(body.said)
        except ReadingError as error:
            raise model_fault("/said", str(error)) from None
        at = _taken_at(body.taken_at)
        stored = archive.design(design_id)
        said = " ".join(body.said.split())
        added = kept.add(stored.site_id, at, said, body.who.strip(), reading.kind, reading.value, key=create_key())
        return _view(added, StationModel(stored.design), report_on(stored))

    @api.operation("DELETE", "/api/readings/{reading_id}", access="edit", status=204)
    def remove_reading(reading_id: UUID) -> None:
        """Take a reading out."""
        kept.remove(reading_id)

    @api.operation("GET", "/api/designs/{design_id}/tests", access="read", answer=list[Procedure])
    def list_tests(design_id: UUID) -> list[Procedure]:
        """The guided tests a station can be put to, with what to expect of each."""
        return list(procedures_of(StationModel(archive.design(design_id).design)))

    @api.operation("POST", "/api/designs/{design_id}/tests", access="edit", body=NewTest, answer=ReadingView)
    def add_test(design_id: UUID, body: NewTest) -> ReadingView:
        """Keep a test: its figures stand in the log, and what they mean for the design is worked out each time."""
        stored = archive.design(design_id)
        station = StationModel(stored.design)
        procedure = next((item for item in procedures_of(station) if item.id == body.kind), None)
        name = _name_of(procedure, body.subject) if procedure else None
        if procedure is None or name is None:
            raise model_fault("/subject", "is nothing this station has to test")
        unknown = body.values.keys() - {asked.id for asked in procedure.asks}
        if unknown:
            raise model_fault(f"/values/{min(unknown)}", "is no figure of this test; leave it out")
        try:
            judged_test(station, body.kind, body.subject, body.values)
        except FigureError as error:
            raise model_fault(f"/values/{error.field}", str(error)) from None
        detail = {"test": body.kind, "subject": body.subject, "values": body.values}
        said = line_of_test(body.kind, name, body.values)
        at = _taken_at(body.taken_at)
        added = kept.add(stored.site_id, at, said, body.who.strip(), f"test.{body.kind}", None, detail, create_key())
        return _view(added, station, report_on(stored))

    return api


def record_api(archive: Archive, engine: Engine) -> Api:
    """The operations on meters' records."""
    api, samples, kept = Api(), Samples(engine), Readings(engine)

    @api.operation("POST", "/api/records/look", access="read", upload=MOST_PREVIEW_BYTES, answer=MeterPreview)
    def look_at_record(upload: Uploaded) -> MeterPreview:
        """The beginning of a record looked at: its columns as guessed. Nothing is stored."""
        try:
            return preview(upload.name, upload.data)
        except MeterLogError as error:
            raise model_fault("/upload", str(error)) from None

    @api.operation(
        "POST",
        "/api/designs/{design_id}/record",
        access="edit",
        upload=MOST_RECORD_BYTES,
        options=("columns",),
        answer=BroughtIn,
    )
    def bring_record_in(design_id: UUID, upload: Uploaded, columns: str) -> BroughtIn:
        """A meter's record, CSV or ODS; `columns` names what each is, parted by commas: time, volts, charge_a, load_a,
        charge_share, box_c, or nothing. What is there already is not kept twice."""
        stored = archive.design(design_id)
        try:
            table = read_meter_log(upload.name, upload.data, _columns(columns), _zone(stored))
        except MeterLogError as error:
            raise model_fault("/upload", str(error)) from None
        return BroughtIn(table.rows, samples.add(stored.site_id, table), list(table.notes))

    @api.operation("GET", "/api/designs/{design_id}/record", access="read", answer=RecordView)
    def read_record(design_id: UUID) -> RecordView:
        """How much is on record, and which input of the plan it speaks against most."""
        stored = archive.design(design_id)
        span = samples.span(stored.site_id)
        station = StationModel(stored.design)
        tested = _tested_ah(kept, stored.site_id, station)
        days = days_of(samples.record(stored.site_id, _offset_s(span, _zone(stored))))
        return RecordView(span, fit_of(days, station, tested), int(days.first_day.size), days.gaps)

    @api.operation(
        "GET",
        "/api/designs/{design_id}/series",
        access="read",
        query=("channel",),
        options=("from", "to"),
        answer=SeriesView,
    )
    def read_series(design_id: UUID, channel: str, **words: str) -> SeriesView:
        """A channel thinned for a picture, with the plan's mean beside it."""
        if channel not in CHANNELS:
            raise Problem(400, "bad-query", f"“channel” must be one of {', '.join(CHANNELS)}")
        stored = archive.design(design_id)
        span = samples.span(stored.site_id)
        first, last = _moment(words["from"], span.first), _moment(words["to"], span.last)
        if first is None or last is None or first >= last:
            return SeriesView(channel, Thinned([], [], [], []), None)
        series = samples.thinned(stored.site_id, channel, first, last, MOST_POINTS)
        return SeriesView(channel, series, _planned(channel, StationModel(stored.design), series.at, _zone(stored)))

    @api.operation("DELETE", "/api/designs/{design_id}/record", access="edit", answer=BroughtIn)
    def clear_record(design_id: UUID) -> BroughtIn:
        """Take all of the site's record out."""
        return BroughtIn(samples.clear(archive.design(design_id).site_id), 0, [])

    return api


def _offset_s(span: Span, zone: tzinfo) -> float:
    """The site's clock against UTC, as it was when its record began. [s]"""
    if span.first is None:
        return 0.0
    return (span.first.astimezone(zone).utcoffset() or timedelta()).total_seconds()


def _moment(text: str, otherwise: datetime | None) -> datetime | None:
    if not text:
        return otherwise
    try:
        moment = datetime.fromisoformat(text)
    except ValueError:
        raise Problem(400, "bad-query", "“from” and “to” must be times, such as 2026-07-10T08:00+12:00") from None
    return moment if moment.tzinfo else moment.replace(tzinfo=UTC)


def _tested_ah(kept: Readings, site_id: UUID, station: StationModel) -> float | None:
    """What the newest discharge test found of the whole bank; a line of the log counts as one."""
    said = kept.newest(site_id, "capacity")
    test = kept.newest(site_id, "test.discharge")
    if test is not None and test.detail is not None and (said is None or test.taken_at > said.taken_at):
        values: dict[str, Any] = test.detail["values"]
        change = judged_test(station, "discharge", "bank", values).change
        if change is None or station.bank is None:
            return None
        return float(change.patch[0].value["value"]) * station.bank.bank.parallel
    return said.value if said else None


def upkeep_api(archive: Archive, engine: Engine) -> Api:
    """The operations on upkeep."""
    api, book = Api(), UpkeepBook(engine)

    def due_now(stored: StoredDesign) -> tuple[tuple[Due, ...], list[DoneTask]]:
        done = book.of(stored.site_id)
        return due_of(stored.design, _last_done(done), datetime.now(_zone(stored)).date()), done

    @api.operation("GET", "/api/designs/{design_id}/upkeep", access="read", answer=UpkeepView)
    def read_upkeep(design_id: UUID) -> UpkeepView:
        """What is due, by what the station has, and what was done."""
        due, done = due_now(archive.design(design_id))
        return UpkeepView(_due(due), done)

    @api.operation("POST", "/api/designs/{design_id}/upkeep", access="edit", body=NewUpkeep, answer=DoneTask)
    def add_upkeep(design_id: UUID, body: NewUpkeep) -> DoneTask:
        """Keep that a task was done."""
        stored = archive.design(design_id)
        if body.task not in {task.id for task in tasks_of(stored.design)}:
            raise model_fault("/task", "is no upkeep of this station")
        return book.add(stored.site_id, body.task, _day(body.done_on), body.who.strip(), body.note.strip())

    @api.operation("DELETE", "/api/upkeep/{done_id}", access="edit", status=204)
    def remove_upkeep(done_id: UUID) -> None:
        """Take back that it was done."""
        book.remove(done_id)

    @api.operation("GET", "/api/designs/{design_id}/upkeep.ics", access="read", file="text/calendar")
    def take_upkeep_away(design_id: UUID) -> TakenAway:
        """What is due, as a calendar."""
        stored = archive.design(design_id)
        due, _ = due_now(stored)
        name = archive.site_name(stored.site_id)
        return TakenAway("upkeep.ics", write_calendar(name, str(stored.site_id), due, datetime.now(UTC)))

    return api
