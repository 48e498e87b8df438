"""Meters' records of a site: looked at, brought in, pictured, and the plan against them."""

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta, tzinfo
from typing import Any
from uuid import UUID

from sqlalchemy import Engine

from yonderstat.core.log import (
    PlanFit,
    days_of,
    fit_of,
    judged_test,
)
from yonderstat.core.station import StationModel
from yonderstat.formats import (
    CHANNELS,
    MeterLogError,
    MeterPreview,
    preview,
    read_meter_log,
)
from yonderstat.records import (
    Archive,
    Readings,
    Samples,
    Span,
    Thinned,
)

from .api import Api, model_fault
from .clocks import zone_of
from .problems import Problem
from .transfer import Uploaded

MOST_RECORD_BYTES, MOST_PREVIEW_BYTES = 80_000_000, 400_000
MOST_POINTS = 800


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


def _columns(text: str) -> list[str | None]:
    return [word.strip() or None for word in text.split(",")] if text else []


def _planned(channel: str, station: StationModel, moments: list[datetime], zone: tzinfo) -> list[float] | None:
    months = {"charge_a": station.array.harvest_ah, "load_a": station.draw.by_month}.get(channel)
    if months is None:
        return None
    return [float(months[moment.astimezone(zone).month - 1]) / 24.0 for moment in moments]


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
            table = read_meter_log(upload.name, upload.data, _columns(columns), zone_of(stored))
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
        days = days_of(samples.record(stored.site_id, _offset_s(span, zone_of(stored))))
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
        return SeriesView(channel, series, _planned(channel, StationModel(stored.design), series.at, zone_of(stored)))

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
