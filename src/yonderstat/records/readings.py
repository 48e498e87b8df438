"""Readings of a site, by the time they were taken."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID, uuid4

from sqlalchemy import Engine, delete, func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from .archive import LOCAL, NotFoundError
from .devices import there
from .schema import ReadingRow


@dataclass(frozen=True, slots=True, kw_only=True)
class StoredReading:
    """A line as it was said, when, and by whom."""

    id: UUID
    taken_at: datetime
    said: str
    who: str
    kind: str
    value: float | None
    detail: dict[str, Any] | None


class Readings:
    """The readings of all sites."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def at(self, site_id: UUID, offset: int, limit: int) -> tuple[list[StoredReading], int]:
        """A page of a site's readings, the newest first, and how many there are.

        Parameters
        ----------
        offset : int
            So many are passed over.
        limit : int
            At most so many.
        """
        with Session(self._engine) as session:
            there(session, site_id)
            mine = ReadingRow.site_id == site_id
            total = session.scalar(select(func.count()).select_from(ReadingRow).where(mine)) or 0
            order = (ReadingRow.taken_at.desc(), ReadingRow.created_at.desc(), ReadingRow.id)
            rows = session.scalars(
                select(ReadingRow).where(mine).order_by(*order).offset(offset).limit(limit)
            )
            return [_reading(row) for row in rows], total

    def add(
        self,
        site_id: UUID,
        taken_at: datetime,
        said: str,
        who: str,
        kind: str,
        value: float | None,
        detail: dict[str, Any] | None = None,
        key: str | None = None,
        actor: str = LOCAL,
    ) -> StoredReading:
        """Keep a reading. One that comes again under the same key is the one that is there.

        Parameters
        ----------
        taken_at : datetime
            When it was read.
        said : str
            As it was typed.
        who : str
            Who read it.
        kind : str
            What was read.
        value : float or None
            In the unit of its kind.
        detail : dict[str, Any] or None
            What else belongs to it.
        key : str or None
            Under which it is kept once, however often it is sent.
        actor : str
            Who keeps it, whoever read it.
        """
        with Session(self._engine) as session, session.begin():
            there(session, site_id)
            columns = {
                "said": said,
                "who": who,
                "kind": kind,
                "value": value,
                "detail": detail,
                "key": key,
                "actor": actor,
            }
            made = insert(ReadingRow).values(
                id=uuid4(), site_id=site_id, taken_at=taken_at, **columns
            )
            session.execute(
                made.on_conflict_do_nothing(index_elements=["site_id", "key"]).returning(
                    ReadingRow.id
                )
            )
            mine = ReadingRow.site_id == site_id
            named = (
                ReadingRow.key == key
                if key is not None
                else ReadingRow.id == made.compile().params["id"]
            )
            return _reading(session.scalars(select(ReadingRow).where(mine, named)).one())

    def newest(self, site_id: UUID, kind: str) -> StoredReading | None:
        """The newest reading of a kind."""
        with Session(self._engine) as session:
            mine = (ReadingRow.site_id == site_id, ReadingRow.kind == kind)
            row = session.scalars(
                select(ReadingRow).where(*mine).order_by(ReadingRow.taken_at.desc()).limit(1)
            ).first()
            return None if row is None else _reading(row)

    def remove(self, reading_id: UUID) -> None:
        """Take a reading out."""
        with Session(self._engine) as session, session.begin():
            gone = session.execute(
                delete(ReadingRow).where(ReadingRow.id == reading_id).returning(ReadingRow.id)
            ).all()
            if not gone:
                raise NotFoundError(f"there is no reading {reading_id}")


def _reading(row: ReadingRow) -> StoredReading:
    return StoredReading(
        id=row.id,
        taken_at=row.taken_at,
        said=row.said,
        who=row.who,
        kind=row.kind,
        value=row.value,
        detail=row.detail,
    )
