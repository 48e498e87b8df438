"""Long work as jobs: asked for by the web, done by `yonderstat worker`, stopped by a word in the
table."""

import json
import logging
import os
import time
from collections.abc import Callable
from dataclasses import dataclass
from functools import cache
from typing import Any
from uuid import UUID

import procrastinate
from pydantic import TypeAdapter
from sqlalchemy import Engine

from yonderstat.core.design import Design, Section
from yonderstat.core.rehearse import CancelledError, MapAsk, SizingMap, sizing_map
from yonderstat.memory import give_back
from yonderstat.records import LOCAL, Archive, Run, Runs, ShelfBook, open_engine

from .bringing import RECORD_IMPORT, bring_in
from .going import GoOn
from .judging import judge_waiting

LOG = logging.getLogger(__name__)

TASK, QUEUE = "run", "runs"
AT_ONCE = 2
NICE = 19
"""Long work steps back for people who edit."""
TELL_EVERY_S = 0.2
LEAVE_AFTER_S = 2.0


def _plain(url: str) -> str:
    """The address as the driver knows it, without SQLAlchemy's word for the driver."""
    return url.replace("postgresql+psycopg:", "postgresql:")


@cache
def _asking(url: str) -> procrastinate.App:
    """The queue from the asking side: one connection at a time, opened when first used."""
    app = procrastinate.App(
        connector=procrastinate.SyncPsycopgConnector(conninfo=_plain(url), min_size=0, max_size=2)
    )
    app.open()
    return app


@dataclass(frozen=True, slots=True)
class Task:
    """A piece of work in hand."""

    run: Run
    engine: Engine
    design: Design
    site_id: UUID
    go_on: GoOn


def _sizing_map(task: Task) -> dict[str, Any] | None:
    found = sizing_map(
        task.design, MapAsk.model_validate_json(json.dumps(task.run.ask)), task.go_on
    )
    return None if found is None else TypeAdapter(SizingMap).dump_python(found, mode="json")


def _record_import(task: Task) -> dict[str, Any] | None:
    return bring_in(task.engine, task.run, task.design, task.site_id, task.go_on)


KINDS: dict[str, Callable[[Task], dict[str, Any] | None]] = {
    "sizing_map": _sizing_map,
    RECORD_IMPORT: _record_import,
}
"""What can be asked for: JSON in, JSON out; None where the design does not allow it."""


def ask_for(
    engine: Engine, kind: str, design_id: UUID, revision: int, asked: Section, actor: str = LOCAL
) -> Run:
    """Have long work done, or find what was: the same of the same revision is not done twice.

    Parameters
    ----------
    kind : str
        What kind of run.
    revision : int
        Of the design.
    asked : Section
        What is asked, which makes it the same run or another.
    actor : str
        Who asks.
    """
    if kind not in KINDS:
        raise ValueError(f"no such work: {kind}")
    run, is_new = Runs(engine).ask(kind, design_id, revision, asked.model_dump(mode="json"), actor)
    if is_new:
        defer_run(engine, run.id)
    return run


def defer_run(engine: Engine, run_id: UUID) -> None:
    """Put a run into the queue."""
    url = engine.url.render_as_string(hide_password=False)
    _asking(url).configure_task(TASK, queue=QUEUE).defer(run_id=str(run_id))


def work_on(engine: Engine, run_id: UUID) -> None:
    """Do one piece of work, telling how far it is, unless it is stopped or in another's hands."""
    runs, archive, shelf = Runs(engine), Archive(engine), ShelfBook(engine)
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
        site_id = archive.site_of(run.design_id)
        design = shelf.beside(archive.design_at(run.design_id, run.revision), site_id)
        found = KINDS[run.kind](Task(run, engine, design, site_id, go_on))
    except CancelledError:
        return
    except Exception:
        runs.end(run_id, "failed")
        raise
    runs.end(run_id, "impossible" if found is None else "done", found)


def worker_app(url: str) -> procrastinate.App:
    """The queue from the working side."""
    engine = open_engine(url)
    runs, archive = Runs(engine), Archive(engine)
    app = procrastinate.App(connector=procrastinate.PsycopgConnector(conninfo=_plain(url)))

    @app.task(name=TASK, queue=QUEUE)
    def run(run_id: str) -> None:
        work_on(engine, UUID(run_id))
        give_back()

    @app.periodic(cron="* * * * * */20")
    @app.task(name="take_up_lost_runs", queue=QUEUE, queueing_lock="take_up_lost_runs")
    def take_up_lost_runs(timestamp: int) -> None:
        del timestamp
        for run_id in runs.silent():
            LOG.warning("run %s lost its worker; it starts again", run_id)
            run.defer(run_id=str(run_id))
        runs.forget_old()

    @app.periodic(cron="* * * * * */5")
    @app.task(
        name="judge_waiting_lines",
        queue=QUEUE,
        queueing_lock="judge_waiting_lines",
        lock="judge_waiting_lines",
    )
    def judge_waiting_lines(timestamp: int) -> None:
        del timestamp
        if judge_waiting(archive):
            give_back()

    return app


def run_worker(url: str, once: bool = False) -> None:
    """Work until told to stop; with `once`, until none waits."""
    if not once:
        os.nice(NICE)
    app = worker_app(url)
    app.run_worker(
        queues=[QUEUE],
        concurrency=AT_ONCE,
        wait=not once,
        install_signal_handlers=not once,
        shutdown_graceful_timeout=LEAVE_AFTER_S,
        fetch_job_polling_interval=1.0,
        delete_jobs="always",
    )
