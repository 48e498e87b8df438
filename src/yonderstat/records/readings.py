"""Readings of a site, by the time they were taken."""

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from sqlalchemy import Engine, delete, func, select
from sqlalchemy.orm import Session

from .archive import NotFoundError
from .devices import there
from .schema import ReadingRow


@dataclass(frozen=True, slots=True)
class StoredReading:
    """A line as it was said, when, and by whom."""

    id: UUID
    taken_at: datetime
    said: str
    who: str
    kind: str
    value: float | None


class Readings:
    """The readings of all sites."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def at(self, site_id: UUID, offset: int, limit: int) -> tuple[list[StoredReading], int]:
        """A page of a site's readings, the newest first, and how many there are."""
        with Session(self._engine) as session:
            there(session, site_id)
            mine = ReadingRow.site_id == site_id
            total = session.scalar(select(func.count()).select_from(ReadingRow).where(mine)) or 0
            order = (ReadingRow.taken_at.desc(), ReadingRow.created_at.desc(), ReadingRow.id)
            rows = session.scalars(select(ReadingRow).where(mine).order_by(*order).offset(offset).limit(limit))
            return [_reading(row) for row in rows], total

    def add(
        self, site_id: UUID, taken_at: datetime, said: str, who: str, kind: str, value: float | None
    ) -> StoredReading:
        """Keep a reading."""
        with Session(self._engine) as session, session.begin():
            there(session, site_id)
            row = ReadingRow(site_id=site_id, taken_at=taken_at, said=said, who=who, kind=kind, value=value)
            session.add(row)
            session.flush()
            return _reading(row)

    def remove(self, reading_id: UUID) -> None:
        """Take a reading out."""
        with Session(self._engine) as session, session.begin():
            gone = session.execute(delete(ReadingRow).where(ReadingRow.id == reading_id).returning(ReadingRow.id)).all()
            if not gone:
                raise NotFoundError(f"there is no reading {reading_id}")


def _reading(row: ReadingRow) -> StoredReading:
    return StoredReading(row.id, row.taken_at, row.said, row.who, row.kind, row.value)
