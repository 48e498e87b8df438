"""Records on their way in: files that wait in pieces until they are read, and what each file
brought."""

import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import datetime
from typing import Any, BinaryIO, cast
from uuid import UUID, uuid4

from sqlalchemy import Engine, delete, insert, select
from sqlalchemy.orm import Session

from .archive import LOCAL, NotFoundError
from .devices import there
from .runs import Run, Runs
from .schema import ImportRow, RunRow, SampleRow, UploadRow

PIECE_BYTES, IN_MEMORY_BYTES = 1_000_000, 2_000_000


@dataclass(frozen=True, slots=True, kw_only=True)
class Import:
    """A file that was brought in: how many rows of it were new, and from when to when it
    reached."""

    id: int
    name: str
    rows: int
    first: datetime | None
    last: datetime | None
    created_at: datetime


class Uploads:
    """Files that wait for the worker, a megabyte a row: no process ever holds one whole."""

    def __init__(self, engine: Engine) -> None:
        self._engine, self._runs = engine, Runs(engine)

    def keep(
        self,
        kind: str,
        design_id: UUID,
        revision: int,
        asked: dict[str, Any],
        file: BinaryIO,
        actor: str = LOCAL,
    ) -> Run:
        """A run with its file, both or neither.

        Parameters
        ----------
        kind : str
            What kind of run.
        revision : int
            Of the design.
        asked : dict[str, Any]
            What is asked.
        file : BinaryIO
            Kept in pieces, read once.
        actor : str
            Who brings it.
        """
        file.seek(0)
        with Session(self._engine) as session, session.begin():
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
            number = 0
            while data := file.read(PIECE_BYTES):
                piece = {"run_id": row.id, "number": number, "data": data}
                session.execute(insert(UploadRow), piece)
                number += 1
            run_id = row.id
        return self._runs.run(run_id)

    @contextmanager
    def opened(self, run_id: UUID) -> Iterator[BinaryIO]:
        """The file of a run, put together on disk."""
        with (
            tempfile.SpooledTemporaryFile(max_size=IN_MEMORY_BYTES) as file,
            Session(self._engine) as session,
        ):
            numbers = session.scalars(
                select(UploadRow.number)
                .where(UploadRow.run_id == run_id)
                .order_by(UploadRow.number)
            ).all()
            if not numbers:
                raise NotFoundError(f"the file of {run_id} is no longer there; bring it again")
            for number in numbers:
                piece = (UploadRow.run_id == run_id, UploadRow.number == number)
                file.write(session.scalars(select(UploadRow.data).where(*piece)).one())
            session.rollback()
            file.seek(0)
            yield cast(BinaryIO, file)

    def drop(self, run_id: UUID) -> None:
        """Let a file go: it was read, or nobody wants it any more."""
        with Session(self._engine) as session, session.begin():
            session.execute(delete(UploadRow).where(UploadRow.run_id == run_id))


class Imports:
    """What files brought, by site."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def of(self, site_id: UUID) -> list[Import]:
        """The files that were brought in at a site, the newest first."""
        with Session(self._engine) as session:
            there(session, site_id)
            mine = (
                select(ImportRow).where(ImportRow.site_id == site_id).order_by(ImportRow.id.desc())
            )
            names = Import.__dataclass_fields__
            return [
                Import(**{name: getattr(row, name) for name in names})
                for row in session.scalars(mine)
            ]

    def take_back(self, site_id: UUID, import_id: int) -> int:
        """Take everything out again that a file brought; how many rows that were."""
        with Session(self._engine) as session, session.begin():
            there(session, site_id)
            row = session.get(ImportRow, import_id, with_for_update=True)
            if row is None or row.site_id != site_id:
                raise NotFoundError(f"there is no file {import_id} that was brought in here")
            mine = (SampleRow.site_id == site_id, SampleRow.import_id == import_id)
            done: Any = session.execute(delete(SampleRow).where(*mine))
            session.delete(row)
            return int(done.rowcount)


def begin_import(session: Session, site_id: UUID, name: str, actor: str = LOCAL) -> ImportRow:
    """A file that begins to come in.

    Parameters
    ----------
    name : str
        Of the file.
    actor : str
        Who brings it.
    """
    row = ImportRow(site_id=site_id, name=name[:200], rows=0, actor=actor)
    session.add(row)
    session.flush()
    return row
