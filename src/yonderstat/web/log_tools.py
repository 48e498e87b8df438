"""The Log step: readings as they are said, and guided tests."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Annotated, Any
from uuid import UUID

from pydantic import Field
from sqlalchemy import Engine

from yonderstat.core import Report
from yonderstat.core.bounds import fault_of_moment
from yonderstat.core.calendar import hour_of_year
from yonderstat.core.changes import Change
from yonderstat.core.electrical import blocks_of_12v
from yonderstat.core.log import (
    Apart,
    FigureError,
    Leak,
    Left,
    Meaning,
    Notice,
    Procedure,
    Reach,
    ReadingError,
    dbm_of,
    due_of,
    exponent_meaning,
    held_of_test,
    judged_test,
    leak_of,
    left_of,
    line_of_test,
    meaning_of,
    notices_of,
    procedures_of,
    read_line,
)
from yonderstat.core.station import StationModel
from yonderstat.core.store import kind_of
from yonderstat.records import (
    Archive,
    Readings,
    Samples,
    StoredReading,
    UpkeepBook,
)

from .actors import current_actor
from .api import Api, Body, create_key, model_fault
from .clocks import AHEAD, zone_of
from .judged import report_on
from .upkeep_tools import last_done

SHOWN = 200
LEAST_REST_H, REST_SLACK_H = 168.0, 12.0
RECENT, BESIDE = timedelta(days=31), timedelta(minutes=20)
FRESH = timedelta(days=3)
"""Resting volts older than that say nothing of what is left now."""
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


@dataclass(frozen=True, slots=True, kw_only=True)
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
class NoiseRow:
    """What a device adds on a band, in dBm with it off and on."""

    device: str
    band_mhz: float
    off_dbm: float
    on_dbm: float
    added_db: float


@dataclass(frozen=True, slots=True)
class HeldRow:
    """What a test found the bank to hold."""

    taken_at: datetime
    held_ah: float
    label_share: float


@dataclass(frozen=True, slots=True, kw_only=True)
class LogView:
    """The newest readings of a site, as a design reads them, and how many there are."""

    readings: list[ReadingView]
    total: int
    contradicted: int
    """How many of those shown speak against the plan."""
    notices: list[Notice]
    left: Left | None
    """What is left by the newest resting volts, where they are no older than three days."""
    noise: list[NoiseRow]
    """What was measured by device and band, the newest of each."""
    held: list[HeldRow]
    """What the bank was tested to hold, the oldest first."""
    exponent: Meaning | None
    """What discharge tests at two currents say of Peukert's exponent."""


def _meaning(stored: StoredReading, station: StationModel, report: Report) -> Meaning:
    try:
        if stored.detail is not None:
            return judged_test(
                station, stored.detail["test"], stored.detail["subject"], stored.detail["values"]
            )
        return meaning_of(read_line(stored.said), station, report)
    except (ReadingError, FigureError, KeyError, TypeError, ValueError, ArithmeticError):
        # Kept by another program that read it otherwise: it stands as it was said, and the others
        # beside it.
        return Meaning("")


def _view(stored: StoredReading, station: StationModel, report: Report) -> ReadingView:
    meaning = _meaning(stored, station, report)
    return ReadingView(
        id=stored.id,
        taken_at=stored.taken_at,
        said=stored.said,
        who=stored.who,
        kind=stored.kind,
        words=meaning.words,
        contradicts=meaning.contradicts,
        change=meaning.change,
    )


def _taken_at(text: str | None) -> datetime:
    """When it was taken: now, unless it was told."""
    now = datetime.now(UTC)
    if text is None:
        return now
    try:
        at = datetime.fromisoformat(text)
    except ValueError:
        raise model_fault(
            "/taken_at", f"{text!r} isn't a time; type one such as 2026-07-10T08:00+12:00"
        ) from None
    fault = fault_of_moment(at)
    if fault:
        raise model_fault("/taken_at", fault)
    if at > now + AHEAD:
        raise model_fault("/taken_at", "lies in the future; a reading is of something that was")
    return at


def _name_of(procedure: Procedure, subject: str) -> str | None:
    return next((item.name for item in procedure.subjects if item.id == subject), None)


NEEDED = {"noise": ("band_mhz", "off", "on"), "discharge": ("amps", "hours")}
"""The figures without which a test says nothing."""


@dataclass(frozen=True, slots=True)
class _Test:
    said: str
    taken_at: datetime
    detail: dict[str, Any]


def _tests(readings: list[StoredReading], kind: str) -> Iterator[_Test]:
    """The guided tests of a kind that hold what such a test needs; one that another program kept
    may not."""
    for item in readings:
        values = (item.detail or {}).get("values")
        if item.kind != f"test.{kind}" or item.detail is None or not isinstance(values, dict):
            continue
        if (
            all(isinstance(values.get(name), (int, float, str)) for name in NEEDED[kind])
            and "subject" in item.detail
        ):
            yield _Test(item.said, item.taken_at, item.detail)


def _noise(readings: list[StoredReading]) -> list[NoiseRow]:
    """What was measured by device and band: the newest of each, the loudest first."""
    found: dict[tuple[str, float], NoiseRow] = {}
    for item in _tests(readings, "noise"):
        values = item.detail["values"]
        band = float(values["band_mhz"])
        off, on = dbm_of(values["off"], band), dbm_of(values["on"], band)
        name = item.said.split(", ", 1)[-1].split(": ")[0]
        found.setdefault((item.detail["subject"], band), NoiseRow(name, band, off, on, on - off))
    return sorted(found.values(), key=lambda row: -row.added_db)


def _discharges(readings: list[StoredReading]) -> list[tuple[float, float]]:
    tests = [item.detail["values"] for item in _tests(readings, "discharge")]
    return [(float(values["amps"]), float(values["hours"])) for values in tests]


def _held(readings: list[StoredReading], station: StationModel) -> list[HeldRow]:
    """Every test of what the bank holds: by the guided test, or a line of the log."""
    bank, found = station.bank, []
    if bank is None:
        return []
    for item in readings:
        if item.kind == "capacity" and item.value is not None:
            found.append(HeldRow(item.taken_at, item.value, item.value / bank.label_ah))
    for test in _tests(readings, "discharge"):
        held = held_of_test(station, test.detail["values"])
        if held is not None:
            found.append(HeldRow(test.taken_at, held, held / bank.label_ah))
    return sorted(found, key=lambda row: row.taken_at)


def _reach(
    samples: Samples, site_id: UUID, last: datetime | None, station: StationModel
) -> Reach | None:
    if last is None or station.bank is None:
        return None
    volts, share, days = samples.most(site_id, last - RECENT, last)
    kind = kind_of(station.bank.bank.chemistry)
    return Reach(
        days=days,
        most_v=volts,
        most_share=share,
        full_v=station.array.absorb_v,
        blocks=blocks_of_12v(station.bus_v),
        is_lead=kind.is_lead,
    )


def _apart(
    samples: Samples, site_id: UUID, readings: list[StoredReading], station: StationModel
) -> Apart | None:
    """The newest resting reading that a record has a moment beside."""
    for item in readings:
        if item.kind == "rest" and item.value is not None:
            near = samples.volts_near(site_id, item.taken_at, BESIDE)
            return None if near is None else Apart(item.value, near, blocks_of_12v(station.bus_v))
    return None


def _rested_h(item: StoredReading) -> float:
    try:
        return read_line(item.said).second or 0.0
    except ReadingError:
        return 0.0


def _leak(readings: list[StoredReading], station: StationModel) -> Leak | None:
    """The newest rest whose other end was read too: a reading at rest within the hours another has
    rested."""
    rests = [item for item in readings if item.kind == "rest" and item.value is not None]
    for place, last in enumerate(rests):
        rested_h = _rested_h(last)
        for first in rests[place + 1 :]:
            apart_h = (last.taken_at - first.taken_at).total_seconds() / 3600.0
            if apart_h > rested_h + REST_SLACK_H:
                break
            if apart_h >= LEAST_REST_H and first.value is not None and last.value is not None:
                return leak_of(station, first.value, last.value, apart_h)
    return None


def _left(readings: list[StoredReading], station: StationModel, now: datetime) -> Left | None:
    newest = next(
        (item for item in readings if item.kind == "rest" and item.value is not None), None
    )
    if newest is None or newest.value is None or now - newest.taken_at > FRESH:
        return None
    try:
        return left_of(station, newest.value, read_line(newest.said).second, hour_of_year(now))
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
        moments = [
            *([readings[0].taken_at] if readings else []),
            *([span.last] if span.last else []),
        ]
        zone = zone_of(stored)
        today = datetime.now(zone).date()
        noise = _noise(readings)
        notices = notices_of(
            stored.design.brief.attended,
            max(moments).astimezone(zone).date() if moments else None,
            today=today,
            due=due_of(stored.design, last_done(upkeep.of(stored.site_id)), today),
            noise=[(row.device, row.added_db) for row in noise],
            reach=_reach(samples, stored.site_id, span.last, station),
            apart=_apart(samples, stored.site_id, readings, station),
            leak=_leak(readings, station),
        )
        return LogView(
            readings=views,
            total=total,
            contradicted=against,
            notices=list(notices),
            left=_left(readings, station, datetime.now(zone)),
            noise=noise,
            held=_held(readings, station),
            exponent=exponent_meaning(station, _discharges(readings)),
        )

    @api.operation(
        "POST", "/api/designs/{design_id}/log", access="edit", body=NewReading, answer=ReadingView
    )
    def add_reading(design_id: UUID, body: NewReading) -> ReadingView:
        """Keep a line of the log: “12.62 rest 3h”; under a create key it is kept once."""
        try:
            reading = read_line(body.said)
        except ReadingError as error:
            raise model_fault("/said", str(error)) from None
        at = _taken_at(body.taken_at)
        stored = archive.design(design_id)
        said = " ".join(body.said.split())
        added = kept.add(
            stored.site_id,
            at,
            said,
            body.who.strip(),
            reading.kind,
            reading.value,
            key=create_key(),
            actor=current_actor(),
        )
        return _view(added, StationModel(stored.design), report_on(stored))

    @api.operation("DELETE", "/api/readings/{reading_id}", access="edit", status=204)
    def remove_reading(reading_id: UUID) -> None:
        """Take a reading out."""
        kept.remove(reading_id)

    @api.operation("GET", "/api/designs/{design_id}/tests", access="read", answer=list[Procedure])
    def list_tests(design_id: UUID) -> list[Procedure]:
        """The guided tests a station can be put to, with what to expect of each."""
        return list(procedures_of(StationModel(archive.design(design_id).design)))

    @api.operation(
        "POST", "/api/designs/{design_id}/tests", access="edit", body=NewTest, answer=ReadingView
    )
    def add_test(design_id: UUID, body: NewTest) -> ReadingView:
        """Keep a test: its figures stand in the log, and what they mean for the design is worked
        out each time."""
        stored = archive.design(design_id)
        station = StationModel(stored.design)
        procedure = next((item for item in procedures_of(station) if item.id == body.kind), None)
        name = _name_of(procedure, body.subject) if procedure else None
        if procedure is None or name is None:
            raise model_fault("/subject", "is nothing this station has to test")
        unknown = body.values.keys() - {asked.id for asked in procedure.asks}
        if unknown:
            raise model_fault(
                f"/values/{min(unknown)}", "is not a figure of this test; leave it out"
            )
        try:
            judged_test(station, body.kind, body.subject, body.values)
        except FigureError as error:
            raise model_fault(f"/values/{error.field}", str(error)) from None
        detail = {"test": body.kind, "subject": body.subject, "values": body.values}
        said = line_of_test(body.kind, name, body.values)
        at = _taken_at(body.taken_at)
        added = kept.add(
            stored.site_id,
            at,
            said,
            who=body.who.strip(),
            kind=f"test.{body.kind}",
            value=None,
            detail=detail,
            key=create_key(),
            actor=current_actor(),
        )
        return _view(added, station, report_on(stored))

    return api
