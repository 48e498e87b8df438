"""Meters' records of a site: looked at, brought in, pictured, and the plan against them."""

import logging
from collections import OrderedDict
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta, tzinfo
from typing import Any
from uuid import UUID

import numpy as np
from numpy.typing import NDArray
from sqlalchemy import Engine

from yonderstat.core.calendar import hour_of_year
from yonderstat.core.log import (
    CHANNELS,
    PlanFit,
    PlannedBand,
    days_of,
    fit_of,
    judged_test,
    planned_band,
    planned_year,
)
from yonderstat.core.rehearse import hourly_station
from yonderstat.core.station import StationModel
from yonderstat.formats import (
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
    StoredDesign,
    Thinned,
)

from .api import Api, model_fault
from .clocks import zone_of
from .problems import Problem
from .transfer import Uploaded

LOG = logging.getLogger(__name__)
FloatArray = NDArray[np.float64]
MOST_RECORD_BYTES, MOST_PREVIEW_BYTES = 80_000_000, 400_000
MOST_POINTS = 800
PLANNED_YEARS, PLANS = 10, 10


@dataclass(frozen=True, slots=True)
class RecordView:
    """What meters recorded at a site, and the plan against it."""

    span: Span
    fit: PlanFit | None
    days: int
    gaps: int
    trouble: str = ""
    """Why it cannot be held against the plan, where that is a fault of the program; the record itself is kept."""


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
    planned: PlannedBand | None
    """What the plan has at the same moments: the band of its weather years; None where it cannot be rehearsed."""


def _columns(text: str) -> list[str | None]:
    return [word.strip() or None for word in text.split(",")] if text else []


class Planned:
    """What designs have planned hour by hour, kept for the few that are looked at."""

    def __init__(self) -> None:
        self._kept: OrderedDict[tuple[UUID, int, str], FloatArray | None] = OrderedDict()

    def _year(self, stored: StoredDesign, channel: str) -> FloatArray | None:
        key = (stored.id, stored.revision, channel)
        if key not in self._kept:
            station = hourly_station(StationModel(stored.design), PLANNED_YEARS)
            self._kept[key] = None if station is None else planned_year(station, channel)
            if len(self._kept) > PLANS:
                self._kept.popitem(last=False)
        return self._kept[key]

    def band(self, stored: StoredDesign, channel: str, moments: list[datetime]) -> PlannedBand | None:
        """The band at the buckets of a picture, which are as long as they are apart."""
        years = self._year(stored, channel) if moments else None
        if years is None:
            return None
        zone = zone_of(stored)
        first = np.array([hour_of_year(moment.astimezone(zone)) for moment in moments], dtype=np.int64)
        apart = (moments[-1] - moments[0]) / max(len(moments) - 1, 1)
        return planned_band(years, first, round(apart / timedelta(hours=1)))


def record_api(archive: Archive, engine: Engine) -> Api:
    """The operations on meters' records."""
    api, samples, kept, planned = Api(), Samples(engine), Readings(engine), Planned()

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
        try:
            station = StationModel(stored.design)
            tested = _tested_ah(kept, stored.site_id, station)
            days = days_of(samples.record(stored.site_id, _offset_s(span, zone_of(stored))))
            return RecordView(span, fit_of(days, station, tested), int(days.first_day.size), days.gaps)
        except (ArithmeticError, ValueError, LookupError, TypeError) as error:
            # The record belongs to the site: the rest of the page must live beside one that brings out a fault.
            LOG.exception("the record of site %s cannot be read", stored.site_id)
            return RecordView(span, None, 0, 0, f"{type(error).__name__}: {error}"[:200])

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
        return SeriesView(channel, series, planned.band(stored, channel, series.at))

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
