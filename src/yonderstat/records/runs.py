"""Long work that was asked for, as it waits, runs, ends, or is stopped: a kind, what was asked,
what came out."""

from dataclasses import dataclass
from datetime import timedelta
from typing import Any, Literal
from uuid import UUID, uuid4

from sqlalchemy import Engine, and_, func, or_, select, update
from sqlalchemy.orm import Session

from .archive import LOCAL, NotFoundError
from .schema import RunRow

RunState = Literal["waiting", "running", "cancelled", "done", "impossible", "failed"]
SILENT = timedelta(seconds=15)
"""Running work that gave no sign of life for so long lost its worker."""
ENDED = ("cancelled", "done", "impossible", "failed")
KEPT = timedelta(days=7)


@dataclass(frozen=True, slots=True, kw_only=True)
class Run:
    """Work that was asked for. `silent`: its worker is gone, and another will take it up."""

    id: UUID
    kind: str
    design_id: UUID
    revision: int
    ask: dict[str, Any]
    state: RunState
    progress: float
    silent: bool
    result: dict[str, Any] | None
    actor: str
    """Who asked for it."""


class Runs:
    """The table of long work, whatever its kind."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def ask(
        self,
        kind: str,
        design_id: UUID,
        revision: int,
        asked: dict[str, Any],
        actor: str = LOCAL,
    ) -> tuple[Run, bool]:
        """A run for what is asked, and whether it is new: the same of the same revision is not run
        twice.

        Parameters
        ----------
        kind : str
            What kind of run.
        revision : int
            Of the design.
        asked : dict[str, Any]
            What is asked, which makes it the same run or another.
        actor : str
            Who asks.
        """
        with Session(self._engine) as session, session.begin():
            # Two askers at once would both find nothing: a lock on the design's id makes the second
            # wait.
            session.execute(select(func.pg_advisory_xact_lock(func.hashtext(str(design_id)))))
            row = session.scalars(
                select(RunRow).where(
                    RunRow.kind == kind,
                    RunRow.design_id == design_id,
                    RunRow.revision == revision,
                    RunRow.ask == asked,
                    RunRow.state.in_(("waiting", "running", "done", "impossible")),
                )
            ).first()
            if row is not None:
                return self._read(row, self._is_silent(session, row)), False
            row = RunRow(
                id=uuid4(),
                design_id=design_id,
                revision=revision,
                kind=kind,
                ask=asked,
                actor=actor,
            )
            session.add(row)
            session.flush()
            return self._read(row, False), True

    def run(self, run_id: UUID) -> Run:
        """A run by id.

        Raises
        ------
        NotFoundError
            If there is none.
        """
        with Session(self._engine) as session:
            row = session.get(RunRow, run_id)
            if row is None:
                raise NotFoundError
            return self._read(row, self._is_silent(session, row))

    def again(self, run_id: UUID, asked: dict[str, Any]) -> Run:
        """Have a run that is done done once more, with something else asked of it."""
        values = {"ask": asked, "state": "waiting", "progress": 0.0, "result": None}
        self._change(run_id, RunRow.state == "done", values)
        return self.run(run_id)

    def claim(self, run_id: UUID) -> bool:
        """Take a run to work on; not one that is stopped, ended, or in another's hands."""
        silent = and_(RunRow.state == "running", RunRow.updated_at < func.now() - SILENT)
        return self._change(
            run_id, or_(RunRow.state == "waiting", silent), {"state": "running", "progress": 0.0}
        )

    def advance(self, run_id: UUID, progress: float) -> bool:
        """Tell how far it is; whether it is still wanted."""
        return self._change(run_id, RunRow.state == "running", {"progress": progress})

    def end(self, run_id: UUID, state: RunState, result: dict[str, Any] | None = None) -> bool:
        """Close a run that was not stopped meanwhile.

        Parameters
        ----------
        state : RunState
            How it ended.
        result : dict[str, Any] or None
            What came of it.
        """
        return self._change(
            run_id, RunRow.state == "running", {"state": state, "progress": 1.0, "result": result}
        )

    def cancel(self, run_id: UUID) -> bool:
        """Stop a run; whether there was anything to stop."""
        return self._change(
            run_id, RunRow.state.in_(("waiting", "running")), {"state": "cancelled"}
        )

    def silent(self) -> list[UUID]:
        """Runs whose worker is gone."""
        with Session(self._engine) as session:
            lost = and_(RunRow.state == "running", RunRow.updated_at < func.now() - SILENT)
            return list(session.scalars(select(RunRow.id).where(lost)))

    def forget_old(self) -> None:
        """Drop work nobody will look at again."""
        with Session(self._engine) as session, session.begin():
            old = and_(RunRow.state.in_(ENDED), RunRow.updated_at < func.now() - KEPT)
            for row in session.scalars(select(RunRow).where(old)):
                session.delete(row)

    def _change(self, run_id: UUID, where: Any, values: dict[str, Any]) -> bool:
        with Session(self._engine) as session, session.begin():
            changed = session.execute(
                update(RunRow)
                .where(RunRow.id == run_id, where)
                .values(**values, updated_at=func.now())
                .returning(RunRow.id)
            )
            return changed.first() is not None

    @staticmethod
    def _is_silent(session: Session, row: RunRow) -> bool:
        now = session.scalar(select(func.now()))
        return row.state == "running" and now is not None and row.updated_at < now - SILENT

    @staticmethod
    def _read(row: RunRow, silent: bool) -> Run:
        return Run(
            id=row.id,
            kind=row.kind,
            design_id=row.design_id,
            revision=row.revision,
            ask=row.ask,
            state=row.state,  # type: ignore[arg-type]
            progress=row.progress,
            silent=silent,
            result=row.result,
            actor=row.actor,
        )
