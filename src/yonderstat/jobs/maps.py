"""Sizing maps as jobs: asked for by the web, worked on by `yonderstat worker`, stopped by a word in the table."""

import logging
import os
import time
from functools import cache
from uuid import UUID

import procrastinate
from pydantic import TypeAdapter
from sqlalchemy import Engine

from yonderstat.core import warm_up
from yonderstat.core.rehearse import CancelledError, MapAsk, SizingMap, sizing_map
from yonderstat.records import Archive, MapRun, MapRuns, open_engine

from .judging import judge_waiting

LOG = logging.getLogger(__name__)

TASK = "run_map"
AT_ONCE = 2
NICE = 19
"""Maps step back for people who edit."""
TELL_EVERY_S = 0.2
LEAVE_AFTER_S = 2.0


def _plain(url: str) -> str:
    """The address as the driver knows it, without SQLAlchemy's word for the driver."""
    return url.replace("postgresql+psycopg:", "postgresql:")


@cache
def _asking(url: str) -> procrastinate.App:
    """The queue from the asking side: one connection at a time, opened when first used."""
    app = procrastinate.App(connector=procrastinate.SyncPsycopgConnector(conninfo=_plain(url), min_size=0, max_size=2))
    app.open()
    return app


def ask_for_map(engine: Engine, design_id: UUID, revision: int, asked: MapAsk) -> MapRun:
    """Have a map made, or find the one that was: the same map of the same revision is not run twice."""
    runs = MapRuns(engine)
    run, is_new = runs.ask(design_id, revision, asked)
    if is_new:
        url = engine.url.render_as_string(hide_password=False)
        _asking(url).configure_task(TASK, queue="maps").defer(run_id=str(run.id))
    return run


def work_on(runs: MapRuns, archive: Archive, run_id: UUID) -> None:
    """Make one map, telling how far it is, unless it is stopped or in another's hands."""
    if not runs.claim(run_id):
        return
    run = runs.run(run_id)
    told = time.monotonic()

    def go_on(progress: float) -> bool:
        nonlocal told
        if time.monotonic() - told < TELL_EVERY_S and progress < 1.0:
            return True
        told = time.monotonic()
        return runs.advance(run_id, progress)

    try:
        design = archive.design_at(run.design_id, run.revision)
        found = sizing_map(design, run.ask, go_on)
    except CancelledError:
        return
    except Exception:
        runs.end(run_id, "failed")
        raise
    if found is None:
        runs.end(run_id, "impossible")
    else:
        runs.end(run_id, "done", TypeAdapter(SizingMap).dump_python(found, mode="json"))


def worker_app(url: str) -> procrastinate.App:
    """The queue from the working side."""
    engine = open_engine(url)
    runs, archive = MapRuns(engine), Archive(engine)
    app = procrastinate.App(connector=procrastinate.PsycopgConnector(conninfo=_plain(url)))

    @app.task(name=TASK, queue="maps")
    def run_map(run_id: str) -> None:
        work_on(runs, archive, UUID(run_id))

    @app.periodic(cron="* * * * * */20")
    @app.task(name="take_up_lost_maps", queue="maps", queueing_lock="take_up_lost_maps")
    def take_up_lost_maps(timestamp: int) -> None:
        del timestamp
        for run_id in runs.silent():
            LOG.warning("map %s lost its worker; it starts again", run_id)
            run_map.defer(run_id=str(run_id))
        runs.forget_old()

    @app.periodic(cron="* * * * * */5")
    @app.task(name="judge_waiting_lines", queue="maps", queueing_lock="judge_waiting_lines", lock="judge_waiting_lines")
    def judge_waiting_lines(timestamp: int) -> None:
        del timestamp
        judge_waiting(archive)

    return app


def run_worker(url: str, once: bool = False) -> None:
    """Work on maps until told to stop; with `once`, until none waits."""
    if not once:
        os.nice(NICE)
        if os.environ.get("YONDERSTAT_WARM", "1") != "0":
            warm_up()
    app = worker_app(url)
    app.run_worker(
        queues=["maps"],
        concurrency=AT_ONCE,
        wait=not once,
        install_signal_handlers=not once,
        shutdown_graceful_timeout=LEAVE_AFTER_S,
        fetch_job_polling_interval=1.0,
        delete_jobs="always",
    )
