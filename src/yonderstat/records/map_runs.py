"""Sizing maps that were asked for, as they wait, run, end, or are stopped."""

import json
from dataclasses import dataclass
from datetime import timedelta
from typing import Any, Literal
from uuid import UUID, uuid4

from sqlalchemy import Engine, and_, func, or_, select, update
from sqlalchemy.orm import Session

from yonderstat.core.rehearse import MapAsk

from .archive import NotFoundError
from .schema import MapRunRow

RunState = Literal["waiting", "running", "cancelled", "done", "impossible", "failed"]
SILENT = timedelta(seconds=15)
"""A running map that gave no sign of life for so long lost its worker."""
ENDED = ("cancelled", "done", "impossible", "failed")
KEPT = timedelta(days=7)


@dataclass(frozen=True, slots=True)
class MapRun:
    """A map that was asked for. `silent`: its worker is gone, and another will take it up."""

    id: UUID
    design_id: UUID
    revision: int
    ask: MapAsk
    state: RunState
    progress: float
    silent: bool
    result: dict[str, Any] | None


class MapRuns:
    """The table of maps."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def ask(self, design_id: UUID, revision: int, asked: MapAsk) -> tuple[MapRun, bool]:
        """A run for what is asked, and whether it is new: the same map of the same revision is not run twice."""
        wanted = asked.model_dump(mode="json")
        with Session(self._engine) as session, session.begin():
            # Two askers at once would both find nothing: a lock on the design's id makes the second wait.
            session.execute(select(func.pg_advisory_xact_lock(func.hashtext(str(design_id)))))
            row = session.scalars(
                select(MapRunRow).where(
                    MapRunRow.design_id == design_id,
                    MapRunRow.revision == revision,
                    MapRunRow.ask == wanted,
                    MapRunRow.state.in_(("waiting", "running", "done", "impossible")),
                )
            ).first()
            if row is not None:
                return self._read(row, self._is_silent(session, row)), False
            row = MapRunRow(id=uuid4(), design_id=design_id, revision=revision, ask=wanted)
            session.add(row)
            session.flush()
            return self._read(row, False), True

    def run(self, run_id: UUID) -> MapRun:
        """A run by id.

        Raises
        ------
        NotFoundError
            If there is none.
        """
        with Session(self._engine) as session:
            row = session.get(MapRunRow, run_id)
            if row is None:
                raise NotFoundError
            return self._read(row, self._is_silent(session, row))

    def claim(self, run_id: UUID) -> bool:
        """Take a run to work on; not one that is stopped, ended, or in another's hands."""
        silent = and_(MapRunRow.state == "running", MapRunRow.updated_at < func.now() - SILENT)
        return self._change(run_id, or_(MapRunRow.state == "waiting", silent), {"state": "running", "progress": 0.0})

    def advance(self, run_id: UUID, progress: float) -> bool:
        """Tell how far it is; whether it is still wanted."""
        return self._change(run_id, MapRunRow.state == "running", {"progress": progress})

    def end(self, run_id: UUID, state: RunState, result: dict[str, Any] | None = None) -> bool:
        """Close a run that was not stopped meanwhile."""
        return self._change(run_id, MapRunRow.state == "running", {"state": state, "progress": 1.0, "result": result})

    def cancel(self, run_id: UUID) -> bool:
        """Stop a run; whether there was anything to stop."""
        return self._change(run_id, MapRunRow.state.in_(("waiting", "running")), {"state": "cancelled"})

    def silent(self) -> list[UUID]:
        """Runs whose worker is gone."""
        with Session(self._engine) as session:
            lost = and_(MapRunRow.state == "running", MapRunRow.updated_at < func.now() - SILENT)
            return list(session.scalars(select(MapRunRow.id).where(lost)))

    def forget_old(self) -> None:
        """Drop maps nobody will look at again."""
        with Session(self._engine) as session, session.begin():
            old = and_(MapRunRow.state.in_(ENDED), MapRunRow.updated_at < func.now() - KEPT)
            for row in session.scalars(select(MapRunRow).where(old)):
                session.delete(row)

    def _change(self, run_id: UUID, where: Any, values: dict[str, Any]) -> bool:
        with Session(self._engine) as session, session.begin():
            changed = session.execute(
                update(MapRunRow)
                .where(MapRunRow.id == run_id, where)
                .values(**values, updated_at=func.now())
                .returning(MapRunRow.id)
            )
            return changed.first() is not None

    @staticmethod
    def _is_silent(session: Session, row: MapRunRow) -> bool:
        now = session.scalar(select(func.now()))
        return row.state == "running" and now is not None and row.updated_at < now - SILENT

    @staticmethod
    def _read(row: MapRunRow, silent: bool) -> MapRun:
        return MapRun(
            row.id,
            row.design_id,
            row.revision,
            MapAsk.model_validate_json(json.dumps(row.ask)),
            row.state,  # type: ignore[arg-type]
            row.progress,
            silent,
            row.result,
        )
