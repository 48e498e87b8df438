"""Benchmarks of sites that report themselves: the reader's share of a core, device to screen, ten
years in views."""

import os
import statistics
import time
from contextlib import contextmanager
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any
from uuid import UUID

from selenium.webdriver import Chrome
from sqlalchemy import Engine, text

from tools.bench_records import COPY
from tools.browser import chromium
from tools.cluster import free_ports
from tools.served import reporting, served, throwaway_cluster
from yonderstat.core.design import design_from_document
from yonderstat.demo.harrier_ridge import HARRIER_AS_BUILT
from yonderstat.jobs import judge
from yonderstat.live_commands import asked_of_standins
from yonderstat.records import Archive, LiveBook, Samples, migrate, open_engine

SITES, INTERVAL_S, SETTLES_S, MEASURED_S = 100, 60.0, 75.0, 120.0
YEARS, EVERY_MIN, ROUNDS, POINTS = 10, 5, 5, 400
SPANS = {"day": timedelta(days=1), "year": timedelta(days=366), "decade": timedelta(days=3653)}
TRIES, WITHIN_S = 5, 20.0
NOON = "2026-01-20T12:00+13:00"
TEN_YEARS = """
    insert into samples (site_id, at, volts, charge_a, load_a, charge_share, box_c)
    select :site, at, 12.5 + random(), 3 * random(), 1.3, 0.5 + random() / 2, 10 * random()
    from generate_series(cast(:first as timestamptz), :last, make_interval(mins => :every)) at
"""
NOW_FIGURES = "return document.querySelector(\"section[aria-label='Now']\")?.innerText ?? ''"


def _stand_ins(first: int) -> dict[str, Any]:
    station = {
        "name": "bench",
        "design": HARRIER_AS_BUILT,
        "from_at": NOON,
        "dull_month": 6,
        "ports": {"sunspec-controller": first, "sunspec-monitor": first + 1},
        "speed": 1.0,
    }
    return {"control_port": first + 2, "stations": [station]}


def _watch(engine: Engine, sites: list[UUID], first: int, interval_s: float, speed: float) -> None:
    book = LiveBook(engine)
    for site in sites:
        book.add_endpoint(
            site,
            "Controller",
            "controller",
            protocol="sunspec",
            host="127.0.0.1",
            port=first,
            unit=1,
        )
        book.add_endpoint(
            site, "Monitor", "monitor", protocol="sunspec", host="127.0.0.1", port=first + 1, unit=1
        )
        book.keep_settings(site, interval_s=interval_s, speed=speed)


def _cpu_s(pid: int) -> float:
    fields = Path(f"/proc/{pid}/stat").read_text().rsplit(")", 1)[1].split()
    return (int(fields[11]) + int(fields[12])) / os.sysconf("SC_CLK_TCK")


def _reader(url: str) -> int:
    """The reader that works on a database."""
    for folder in Path("/proc").glob("[0-9]*"):
        try:
            environment = (folder / "environ").read_bytes()
            if (
                b"yonderstat.reader" in (folder / "cmdline").read_bytes()
                and url.encode() in environment
            ):
                return int(folder.name)
        except OSError:
            continue
    raise RuntimeError("no reader is found; the measure is wrong")


@contextmanager
def _club(sites: int) -> Any:
    with throwaway_cluster("bench-live") as cluster:
        migrate(cluster.url)
        engine = open_engine(cluster.url)
        design = design_from_document(HARRIER_AS_BUILT)
        Archive(engine).add_site("Site 1", design, line=judge(design).line)
        if sites > 1:
            with engine.begin() as connection:
                connection.execute(text(COPY), {"count": sites})
        with engine.begin() as connection:
            found = [
                row[0]
                for row in connection.execute(text("select id from sites limit :n"), {"n": sites})
            ]
        yield cluster.url, engine, found
        engine.dispose()


def poll_100_cpu() -> float:
    """The share of a core a reader takes that asks a hundred sites, two devices each, once a
    minute. [%]"""
    first = free_ports(3)
    with _club(SITES) as (url, engine, sites):
        _watch(engine, sites, first, INTERVAL_S, 1.0)
        with reporting(url, _stand_ins(first)):
            time.sleep(SETTLES_S)
            pid = _reader(url)
            before = _cpu_s(pid)
            time.sleep(MEASURED_S)
            share = (_cpu_s(pid) - before) / MEASURED_S
        with engine.connect() as connection:
            rows = connection.execute(text("select count(*) from samples")).scalar_one()
    if rows < 2 * SITES:
        raise RuntimeError(f"only {rows} readings came in; the measure is wrong")
    return 100.0 * share


def _until(driver: Chrome, holds: Any) -> float:
    began = time.monotonic()
    while not holds(driver.execute_script(NOW_FIGURES)):
        if time.monotonic() - began > WITHIN_S:
            raise RuntimeError("the page does not follow the device")
        time.sleep(0.02)
    return time.monotonic() - began


def live_latency_s() -> float:
    """From a change at the device to the page that shows it, asked once a second; the slowest of a
    few. [s]"""
    first = free_ports(3)
    with _club(1) as (url, engine, (site,)):
        _watch(engine, [site], first, 1.0, 1.0)
        head = LiveBook(engine).design_head(site)
        if head is None:
            raise RuntimeError("the site has no design")
        with served(url) as address, reporting(url, _stand_ins(first)), chromium() as driver:
            driver.get(f"{address}/designs/{head[0]}/live")
            _until(driver, lambda shown: "charging" in shown)
            found = []
            for _ in range(TRIES):
                for is_lost in (True, False):
                    asked_of_standins(first + 2, {"fault": "panel_lost", "on": is_lost})
                    found.append(
                        _until(
                            driver,
                            lambda shown, lost=is_lost: ("charging, 0\u2009W" in shown) is lost,
                        )
                    )
    return max(found)


def live_views_ms() -> float:
    """The slowest of the views of a day, a year and a decade of a site's ten years by five minutes.
    [ms]"""
    last = datetime(2026, 6, 1, tzinfo=UTC)
    with _club(1) as (_, engine, (site,)):
        with engine.begin() as connection:
            first = last - timedelta(days=3653)
            words = {"site": site, "first": first, "last": last, "every": EVERY_MIN}
            connection.execute(text(TEN_YEARS), words)
        with engine.connect().execution_options(isolation_level="AUTOCOMMIT") as connection:
            connection.execute(text("vacuum analyze samples"))
        samples = Samples(engine)
        found = []
        for span in SPANS.values():
            times = []
            for _ in range(ROUNDS):
                began = time.perf_counter()
                samples.thinned(site, "charge_share", last - span, last, POINTS)
                times.append(time.perf_counter() - began)
            found.append(statistics.median(times))
    return 1000.0 * max(found)


def live_figures() -> dict[str, tuple[float, str]]:
    """All of them, on databases, ports and devices of their own."""
    return {
        "live_views_ms": (live_views_ms(), "ms"),
        "live_latency_s": (live_latency_s(), "s"),
        "poll_100_cpu": (poll_100_cpu(), "%"),
    }
