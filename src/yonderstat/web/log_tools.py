"""The Log step: readings of a site, and what each means for the design that is open."""

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Annotated
from uuid import UUID

from pydantic import Field
from sqlalchemy import Engine

from yonderstat.core import Report
from yonderstat.core.changes import Change
from yonderstat.core.log import Meaning, ReadingError, meaning_of, read_line
from yonderstat.core.station import StationModel
from yonderstat.records import Archive, Readings, StoredReading

from .api import Api, Body, model_fault
from .judged import report_on

SHOWN = 200
AHEAD = timedelta(days=1)
"""Clocks differ; a reading of tomorrow is a mistake."""


class NewReading(Body):
    """A line as it is said, by whom, and when where that is not now."""

    said: Annotated[str, Field(max_length=400)]
    who: Annotated[str, Field(max_length=40)] = ""
    taken_at: Annotated[str, Field(max_length=40)] | None = None


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


def _view(stored: StoredReading, station: StationModel, report: Report) -> ReadingView:
    try:
        meaning = meaning_of(read_line(stored.said), station, report)
    except ReadingError:
        # Kept by an older program that read it otherwise: it stands as it was said.
        meaning = Meaning("")
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


def log_api(archive: Archive, engine: Engine) -> Api:
    """The operations on readings."""
    api, kept = Api(), Readings(engine)

    @api.operation("GET", "/api/designs/{design_id}/log", access="read", answer=LogView)
    def read_log(design_id: UUID) -> LogView:
        """The newest readings of the design's site, and what they mean for it."""
        stored = archive.design(design_id)
        station, report = StationModel(stored.design), report_on(stored)
        readings, total = kept.at(stored.site_id, 0, SHOWN)
        views = [_view(item, station, report) for item in readings]
        return LogView(views, total, sum(bool(item.contradicts) for item in views))

    @api.operation("POST", "/api/designs/{design_id}/log", access="edit", body=NewReading, answer=ReadingView)
    def add_reading(design_id: UUID, body: NewReading) -> ReadingView:
        """Keep a line of the log: “12.62 rest 3h”."""
        try:
            reading = read_line(body.said)
        except ReadingError as error:
            raise model_fault("/said", str(error)) from None
        at = _taken_at(body.taken_at)
        stored = archive.design(design_id)
        said = " ".join(body.said.split())
        added = kept.add(stored.site_id, at, said, body.who.strip(), reading.kind, reading.value)
        return _view(added, StationModel(stored.design), report_on(stored))

    @api.operation("DELETE", "/api/readings/{reading_id}", access="edit", status=204)
    def remove_reading(reading_id: UUID) -> None:
        """Take a reading out."""
        kept.remove(reading_id)

    return api
