"""The Rehearse step: weather years, an outage played, the trainer, rationing, rotation, and sizing
maps as jobs."""

import os
import threading
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from functools import cache, lru_cache
from typing import TypeVar
from uuid import UUID

from pydantic import TypeAdapter
from sqlalchemy import Engine

from yonderstat.core.design import Design
from yonderstat.core.rehearse import (
    FailuresReport,
    MapAsk,
    Rationing,
    RationReport,
    RotationReport,
    Scene,
    SceneReport,
    SizingMap,
    TrainerReport,
    Training,
    YearsReport,
    failures_report,
    ration,
    rehearse,
    rotation_report,
    sizing_map,
    train,
    years_report,
)
from yonderstat.jobs import ask_for
from yonderstat.records import Archive, Run, Runs, RunState, ShelfBook

from .actors import current_actor
from .api import Api
from .judged import ByRevision
from .problems import Problem

KEPT, NICE, YEARS_AT_ONCE = 32, 10, 10
MAPS = TypeAdapter(SizingMap)
Report = TypeVar("Report")


@dataclass(frozen=True, slots=True)
class YearsView:
    """All weather years of a revision; none where it cannot be rehearsed."""

    revision: int
    report: YearsReport | None


@dataclass(frozen=True, slots=True)
class FailuresView:
    """Every part of a revision lost in turn; none where it cannot be rehearsed."""

    revision: int
    report: FailuresReport | None


@dataclass(frozen=True, slots=True)
class RotationView:
    """Whether rotation closes; none without layers or panels."""

    revision: int
    report: RotationReport | None


@dataclass(frozen=True, slots=True)
class SceneView:
    """A scene played on a revision; none where it cannot be rehearsed."""

    revision: int
    report: SceneReport | None


@dataclass(frozen=True, slots=True)
class TrainerView:
    """The trainer as far as it is decided; none where the design cannot be rehearsed."""

    revision: int
    report: TrainerReport | None


@dataclass(frozen=True, slots=True)
class RationView:
    """What carries the days; none where nobody keys anything or the design cannot be rehearsed."""

    revision: int
    report: RationReport | None


@dataclass(frozen=True, slots=True, kw_only=True)
class MapRunView:
    """A sizing map that was asked for. `silent`: its worker is gone; it starts again by itself."""

    id: UUID
    design_id: UUID
    revision: int
    state: RunState
    progress: float
    silent: bool
    map: SizingMap | None


@dataclass(frozen=True, slots=True)
class MapView:
    """A sizing map of a revision, made at once; none where nothing can be grown."""

    revision: int
    map: SizingMap | None


def _step_back() -> None:
    """Let the thread, and those it starts, give way to people who edit: Linux keeps this a thread
    at a time."""
    os.setpriority(os.PRIO_PROCESS, threading.get_native_id(), NICE)


@cache
def _maps() -> ThreadPoolExecutor:
    """One map at a time in each web process."""
    return ThreadPoolExecutor(1, initializer=_step_back)


def _kept(work: Callable[[Design], Report]) -> Callable[[ByRevision], Report]:
    @lru_cache(maxsize=KEPT)
    def of(item: ByRevision) -> Report:
        return work(item.design)

    return of


def _view(run: Run) -> MapRunView:
    found = None if run.result is None else MAPS.validate_python(run.result)
    return MapRunView(
        id=run.id,
        design_id=run.design_id,
        revision=run.revision,
        state=run.state,
        progress=run.progress,
        silent=run.silent,
        map=found,
    )


def rehearse_tools_api(archive: Archive, engine: Engine) -> Api:
    """The operations behind the Rehearse step."""
    api, runs, shelf = Api(), Runs(engine), ShelfBook(engine)
    years_of, failures_of, rotation_of = (
        _kept(years_report),
        _kept(failures_report),
        _kept(rotation_report),
    )

    @api.operation("GET", "/api/designs/{design_id}/years", access="read", answer=YearsView)
    def read_years(design_id: UUID) -> YearsView:
        """Served share, dark spells, carry-through and the year's course over all weather years."""
        stored = archive.design(design_id)
        return YearsView(stored.revision, years_of(ByRevision(stored)))

    @api.operation("GET", "/api/designs/{design_id}/failures", access="read", answer=FailuresView)
    def read_failures(design_id: UUID) -> FailuresView:
        """Every part lost in turn, over ten weather years."""
        stored = archive.design(design_id)
        return FailuresView(stored.revision, failures_of(ByRevision(stored)))

    @api.operation("GET", "/api/designs/{design_id}/rotation", access="read", answer=RotationView)
    def read_rotation(design_id: UUID) -> RotationView:
        """Whether the swapped-out bank refills before the layers are spent."""
        stored = archive.design(design_id)
        return RotationView(stored.revision, rotation_of(ByRevision(stored)))

    @api.operation(
        "POST", "/api/designs/{design_id}/rehearse", access="read", body=Scene, answer=SceneView
    )
    def play_scene(design_id: UUID, body: Scene) -> SceneView:
        """Play an outage hour by hour; nothing is kept."""
        stored = archive.design(design_id)
        return SceneView(stored.revision, rehearse(stored.design, body))

    @api.operation(
        "POST", "/api/designs/{design_id}/trainer", access="read", body=Training, answer=TrainerView
    )
    def play_trainer(design_id: UUID, body: Training) -> TrainerView:
        """An outage day by day, the weather hidden; nothing is kept."""
        stored = archive.design(design_id)
        return TrainerView(stored.revision, train(stored.design, body))

    @api.operation(
        "POST", "/api/designs/{design_id}/ration", access="read", body=Rationing, answer=RationView
    )
    def work_out_ration(design_id: UUID, body: Rationing) -> RationView:
        """Turned round: hours of listening and minutes on the key that last so many days."""
        stored = archive.design(design_id)
        return RationView(stored.revision, ration(stored.design, body))

    @api.operation(
        "POST", "/api/designs/{design_id}/sizing-map", access="read", body=MapAsk, answer=MapView
    )
    def draw_sizing_map(design_id: UUID, body: MapAsk) -> MapView:
        """A sizing map at once, of ten years at most; longer ones are asked for as work to be
        done."""
        if body.years > YEARS_AT_ONCE:
            raise Problem(
                400,
                "too-long",
                f"A map of more than {YEARS_AT_ONCE} years takes a while",
                f"Ask for {YEARS_AT_ONCE} years at most here, or have it made: POST …/sizing-maps.",
            )
        stored = archive.design(design_id)
        return MapView(
            stored.revision,
            _maps().submit(sizing_map, shelf.beside(stored.design, stored.site_id), body).result(),
        )

    @api.operation(
        "POST",
        "/api/designs/{design_id}/sizing-maps",
        access="edit",
        body=MapAsk,
        answer=MapRunView,
        status=202,
    )
    def start_sizing_map(design_id: UUID, body: MapAsk) -> MapRunView:
        """Have a sizing map of the newest revision made; one that was made before is found
        again."""
        return _view(
            ask_for(
                engine,
                "sizing_map",
                design_id,
                archive.design(design_id).revision,
                body,
                current_actor(),
            )
        )

    @api.operation("GET", "/api/sizing-maps/{run_id}", access="read", answer=MapRunView)
    def read_sizing_map(run_id: UUID) -> MapRunView:
        """How far a map is, and the map once it is done."""
        return _view(runs.run(run_id))

    @api.operation("POST", "/api/sizing-maps/{run_id}/cancel", access="edit", answer=MapRunView)
    def cancel_sizing_map(run_id: UUID) -> MapRunView:
        """Stop a map; one that has ended stays as it is."""
        runs.run(run_id)
        runs.cancel(run_id)
        return _view(runs.run(run_id))

    return api
