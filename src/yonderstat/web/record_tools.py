"""Meters' records of a site: looked at, brought in, pictured, and the plan against them."""

import logging
from collections import OrderedDict
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta, tzinfo
from itertools import pairwise
from typing import Any
from uuid import UUID

import numpy as np
from numpy.typing import NDArray
from sqlalchemy import Engine

from yonderstat.core.bounds import fault_of_moment
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
    meter_reading,
    preview,
)
from yonderstat.jobs import RECORD_IMPORT, defer_run
from yonderstat.records import (
    Archive,
    Import,
    Imports,
    Readings,
    Run,
    Runs,
    RunState,
    Samples,
    Span,
    StoredDesign,
    Thinned,
    Uploads,
)

from .actors import current_actor
from .api import Api, model_fault
from .clocks import zone_of
from .guard import MOST_UPLOAD_BYTES
from .problems import Problem
from .transfer import Uploaded, UploadedFile

LOG = logging.getLogger(__name__)
FloatArray = NDArray[np.float64]
MOST_RECORD_BYTES, MOST_PREVIEW_BYTES = MOST_UPLOAD_BYTES, 400_000
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
    """Why it cannot be held against the plan, where that is a fault of the program; the record
    itself is kept."""


@dataclass(frozen=True, slots=True)
class BroughtIn:
    """What a file brought."""

    rows: int
    new: int
    notes: list[str]
    import_id: int | None
    """Under which all of it can be taken back."""


@dataclass(frozen=True, slots=True, kw_only=True)
class ImportRun:
    """A record on its way in."""

    id: UUID
    state: RunState
    progress: float
    stored: bool
    """Whether it is being kept, or is only looked through."""
    refused: str
    """What is wrong with the file; nothing of it is kept."""
    rows: int | None
    new: int | None
    notes: list[str]
    first: datetime | None
    last: datetime | None


@dataclass(frozen=True, slots=True)
class SeriesView:
    """A channel for a picture, with what the plan has at the same moments."""

    channel: str
    series: Thinned
    planned: PlannedBand | None
    """What the plan has at the same moments: the band of its weather years; None where it cannot be
    rehearsed."""


def _run_view(run: Run) -> ImportRun:
    told = run.result or {}
    first, last = (
        None if told.get(name) is None else datetime.fromisoformat(told[name])
        for name in ("first", "last")
    )
    return ImportRun(
        id=run.id,
        state=run.state,
        progress=run.progress,
        stored=bool(run.ask.get("store")),
        refused=told.get("refused", ""),
        rows=told.get("rows"),
        new=told.get("new"),
        notes=told.get("notes", []),
        first=first,
        last=last,
    )


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

    def band(
        self, stored: StoredDesign, channel: str, moments: list[datetime]
    ) -> PlannedBand | None:
        """The band at the buckets of a picture, which are as long as they are apart."""
        years = self._year(stored, channel) if moments else None
        if years is None:
            return None
        zone = zone_of(stored)
        first = np.array(
            [hour_of_year(moment.astimezone(zone)) for moment in moments], dtype=np.int64
        )
        # Where the record has gaps, buckets are missing: the shortest way between two is a bucket.
        gaps = [after - before for before, after in pairwise(moments)]
        apart = min(gaps, default=timedelta())
        return planned_band(years, first, round(apart / timedelta(hours=1)))


def record_api(archive: Archive, engine: Engine) -> Api:
    """The operations on meters' records."""
    api, samples, kept, planned = Api(), Samples(engine), Readings(engine), Planned()
    runs, uploads, imports = Runs(engine), Uploads(engine), Imports(engine)

    @api.operation(
        "POST",
        "/api/records/look",
        access="read",
        about="nothing",
        upload=MOST_PREVIEW_BYTES,
        answer=MeterPreview,
    )
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
        on_disk=True,
        options=("columns", "dates"),
        answer=BroughtIn,
    )
    def bring_record_in(
        design_id: UUID, upload: UploadedFile, columns: str, dates: str
    ) -> BroughtIn:
        """A meter's record at once: CSV, ODS or XLSX; `columns` names what each is, parted by
        commas: time, date, clock, volts, charge_a, load_a, net_a, charge_share, box_c, or nothing;
        `dates` is day_first or month_first where the file leaves it open. What is there already is
        not kept twice."""
        stored = archive.design(design_id)
        try:
            reading = meter_reading(
                upload.name, upload.file, _columns(columns), zone_of(stored), dates
            )
            new, import_id = samples.add(
                stored.site_id, reading.tables(), upload.name, current_actor()
            )
        except MeterLogError as error:
            raise model_fault("/upload", str(error)) from None
        return BroughtIn(reading.rows, new, list(reading.notes), import_id)

    @api.operation(
        "POST",
        "/api/designs/{design_id}/record-imports",
        access="edit",
        upload=MOST_RECORD_BYTES,
        on_disk=True,
        options=("columns", "dates"),
        answer=ImportRun,
        status=202,
    )
    def start_record_import(
        design_id: UUID, upload: UploadedFile, columns: str, dates: str
    ) -> ImportRun:
        """Have a record looked through to its end by the worker, before anything of it is kept."""
        stored = archive.design(design_id)
        asked = {"name": upload.name, "columns": _columns(columns), "dates": dates, "store": False}
        run = uploads.keep(
            RECORD_IMPORT, stored.id, stored.revision, asked, upload.file, current_actor()
        )
        defer_run(engine, run.id)
        return _run_view(run)

    @api.operation("GET", "/api/record-imports/{run_id}", access="read", answer=ImportRun)
    def read_record_import(run_id: UUID) -> ImportRun:
        """How far a record is, and what it comes to once it was looked through or brought in."""
        return _run_view(runs.run(run_id))

    @api.operation(
        "POST", "/api/record-imports/{run_id}/store", access="edit", answer=ImportRun, status=202
    )
    def store_record_import(run_id: UUID) -> ImportRun:
        """Bring in a record that was looked through: all of it, or nothing."""
        run = runs.run(run_id)
        if (
            run.kind != RECORD_IMPORT
            or run.state != "done"
            or run.result is None
            or run.result["refused"]
        ):
            raise Problem(
                409,
                "nothing-to-do",
                "That record cannot be imported",
                "Have it checked first.",
            )
        if run.ask["store"]:
            return _run_view(run)
        again = runs.again(run_id, run.ask | {"store": True})
        defer_run(engine, run_id)
        return _run_view(again)

    @api.operation("POST", "/api/record-imports/{run_id}/cancel", access="edit", answer=ImportRun)
    def cancel_record_import(run_id: UUID) -> ImportRun:
        """Stop it, and let its file go; one that was brought in stays."""
        runs.run(run_id)
        if runs.cancel(run_id) or not runs.run(run_id).ask.get("store"):
            uploads.drop(run_id)
        return _run_view(runs.run(run_id))

    @api.operation(
        "GET", "/api/designs/{design_id}/record-imports", access="read", answer=list[Import]
    )
    def list_record_imports(design_id: UUID) -> list[Import]:
        """The files that were brought into the record of the design's site, the newest first."""
        return imports.of(archive.design(design_id).site_id)

    @api.operation(
        "DELETE",
        "/api/designs/{design_id}/record-imports",
        access="edit",
        query=("file",),
        answer=BroughtIn,
    )
    def take_record_import_back(design_id: UUID, file: str) -> BroughtIn:
        """Take everything out of the record again that one file brought."""
        if not (file.isascii() and file.isdigit() and len(file) < 10):
            raise Problem(400, "bad-query", "“file” must be the number of an imported file")
        return BroughtIn(
            imports.take_back(archive.design(design_id).site_id, int(file)), 0, [], None
        )

    @api.operation("GET", "/api/designs/{design_id}/record", access="read", answer=RecordView)
    def read_record(design_id: UUID) -> RecordView:
        """How much is on record, and which input of the plan it speaks against most."""
        stored = archive.design(design_id)
        span = samples.span(stored.site_id)
        try:
            station = StationModel(stored.design)
            tested = _tested_ah(kept, stored.site_id, station)
            days = days_of(samples.record(stored.site_id, _offset_s(span, zone_of(stored))))
            return RecordView(
                span, fit_of(days, station, tested), int(days.first_day.size), days.gaps
            )
        except (ArithmeticError, ValueError, LookupError, TypeError) as error:
            # The record belongs to the site: the rest of the page must live beside one that brings
            # out a fault.
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
        series = samples.thinned(stored.site_id, channel, first, last, MOST_POINTS, zone_of(stored))
        return SeriesView(channel, series, planned.band(stored, channel, series.at))

    @api.operation("DELETE", "/api/designs/{design_id}/record", access="edit", answer=BroughtIn)
    def clear_record(design_id: UUID) -> BroughtIn:
        """Take all of the site's record out."""
        return BroughtIn(samples.clear(archive.design(design_id).site_id), 0, [], None)

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
        raise Problem(
            400, "bad-query", "“from” and “to” must be times, such as 2026-07-10T08:00+12:00"
        ) from None
    moment = moment if moment.tzinfo else moment.replace(tzinfo=UTC)
    fault = fault_of_moment(moment)
    if fault:
        raise Problem(400, "bad-query", f"“from” or “to” {fault}")
    return moment


def _tested_ah(kept: Readings, site_id: UUID, station: StationModel) -> float | None:
    """What the newest discharge test found of the whole bank; a line of the log counts as one."""
    said = kept.newest(site_id, "capacity")
    test = kept.newest(site_id, "test.discharge")
    values: Any = (test.detail or {}).get("values") if test is not None else None
    if (
        test is not None
        and isinstance(values, dict)
        and (said is None or test.taken_at > said.taken_at)
    ):
        change = judged_test(station, "discharge", "bank", values).change
        if change is None or station.bank is None:
            return None
        return float(change.patch[0].value["value"]) * station.bank.bank.parallel
    return said.value if said else None
