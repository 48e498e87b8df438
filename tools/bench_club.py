"""Benchmarks of what a club keeps: the archive of a hundred sites, a meter's year by the minute,
its fit."""

import statistics
import time
from datetime import UTC, datetime, timedelta
from io import BytesIO
from typing import Any
from zoneinfo import ZoneInfo

import numpy as np
import pandas as pd
from sqlalchemy import text

from tools.bench_records import COPY
from tools.served import throwaway_cluster
from yonderstat.core.design import design_from_document
from yonderstat.core.log import days_of, fit_of
from yonderstat.core.station import StationModel
from yonderstat.demo.harrier_ridge import HARRIER_AS_BUILT
from yonderstat.formats import meter_reading, read_club, write_club
from yonderstat.jobs import judge
from yonderstat.records import Archive, Samples, club_record, migrate, open_engine, restore_club

SITES, ROWS, ROUNDS = 100, 500_000, 5
START = datetime(2025, 1, 1)


def _record() -> bytes:
    """A year by the minute, as a monitor writes it."""
    at = pd.date_range(START, periods=ROWS, freq="min")
    hour = (at.hour + at.minute / 60.0).to_numpy()
    charge = np.clip(np.sin((hour - 6.0) / 12.0 * np.pi), 0.0, None) * 6.0
    table = pd.DataFrame({"Time": at.strftime("%Y-%m-%d %H:%M"), "Battery V": 12.4 + charge / 10.0})
    table["Charge A"], table["Load A"] = charge, 1.3
    return table.to_csv(index=False, float_format="%.3f").encode()


def club_figures() -> dict[str, tuple[float, str]]:
    """Archive and log, on a database of their own."""
    with throwaway_cluster("bench-club") as cluster:
        migrate(cluster.url)
        engine = open_engine(cluster.url)
        design = design_from_document(HARRIER_AS_BUILT)
        site = Archive(engine).add_site("Site 1", design, line=judge(design).line)
        with engine.begin() as connection:
            connection.execute(text(COPY), {"count": SITES})
        began = time.perf_counter()
        data = write_club(club_record(engine), datetime.now(UTC))
        restore_club(engine, read_club(data))
        archive_s = time.perf_counter() - began
        samples, file = Samples(engine), _record()
        began = time.perf_counter()
        reading = meter_reading("year.csv", BytesIO(file), [], ZoneInfo("Pacific/Auckland"))
        samples.add(site.id, reading.tables(), "year.csv")
        import_s = time.perf_counter() - began
        station = StationModel(design)
        began = time.perf_counter()
        fit_of(days_of(samples.record(site.id, 0.0)), station)
        fit_s = time.perf_counter() - began
        span = samples.span(site.id)
        first, last = (
            span.first or datetime.now(UTC),
            span.last or datetime.now(UTC) + timedelta(days=1),
        )
        times = [
            _timed(lambda: samples.thinned(site.id, "volts", first, last, 800))
            for _ in range(ROUNDS)
        ]
        engine.dispose()
    return {
        "archive_100_s": (archive_s, "s"),
        "log_import_s": (import_s, "s"),
        "log_chart_ms": (statistics.median(times) * 1000.0, "ms"),
        "fit_s": (fit_s, "s"),
    }


def _timed(work: Any) -> float:
    began = time.perf_counter()
    work()
    return time.perf_counter() - began
