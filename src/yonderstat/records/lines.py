"""A revision's line on the list of sites, kept beside it, so that a list judges nothing."""

import hashlib
from dataclasses import dataclass
from datetime import datetime
from functools import cache
from importlib import resources
from importlib.resources.abc import Traversable
from typing import Any
from uuid import UUID

from sqlalchemy import Engine, func, select, update
from sqlalchemy.orm import Session

from .schema import DesignRow, RevisionRow, SiteRow


@dataclass(frozen=True, slots=True)
class Line:
    """What a list shows of a revision: a summary, or why it cannot be judged."""

    summary: dict[str, Any] | None
    trouble: str | None = None


@dataclass(frozen=True, slots=True)
class DesignHead:
    """A design of a site, in short."""

    id: UUID
    name: str
    as_built: bool
    revision: int


@dataclass(frozen=True, slots=True, kw_only=True)
class ListedSite:
    """A site as a list shows it. `shown` is the design as built; its line is None while it waits to
    be judged."""

    id: UUID
    name: str
    created_at: datetime
    designs: tuple[DesignHead, ...]
    shown: DesignHead
    line: Line | None


COMPILED = (".pyc", ".nbi", ".nbc")
"""Made from the files beside them, and differing from machine to machine."""


def _files(folder: Traversable) -> list[tuple[str, bytes]]:
    found = []
    for item in sorted(folder.iterdir(), key=lambda entry: entry.name):
        if item.is_dir():
            found += [(f"{item.name}/{name}", data) for name, data in _files(item)]
        elif not item.name.endswith(COMPILED):
            found.append((item.name, item.read_bytes()))
    return found


@cache
def edition() -> str:
    """Which program judges: a digest of the computation and its tables. Another one judges every
    line again."""
    return edition_of(resources.files("yonderstat.core"))


def edition_of(folder: Traversable) -> str:
    """A digest of every file of a program's folder that is not compiled from another."""
    digest = hashlib.sha256()
    for name, data in _files(folder):
        digest.update(name.encode() + b"\0" + data + b"\0")
    return digest.hexdigest()[:16]


def _line_in(kept: Any) -> Line | None:
    return Line(kept.get("summary"), kept.get("trouble")) if isinstance(kept, dict) else None


def line_of(row: RevisionRow) -> Line | None:
    """The line this program keeps with a revision; None where it has none yet."""
    return _line_in(row.line) if row.line_by == edition() else None


def document_of_line(line: Line) -> dict[str, Any]:
    """A line as it is kept."""
    return {"summary": line.summary, "trouble": line.trouble}


def listed_sites(
    engine: Engine,
    offset: int = 0,
    limit: int | None = None,
    only: frozenset[UUID] | None = None,
) -> tuple[list[ListedSite], int]:
    """Sites that are not put away, oldest first, in one look at the database; and how many there
    are in all.

    Parameters
    ----------
    offset : int
        So many are passed over.
    limit : int or None
        At most so many; None for all.
    only : frozenset[UUID] or None
        Of these sites alone; None for every one.
    """
    there = select(SiteRow.id).where(SiteRow.deleted_at.is_(None))
    if only is not None:
        there = there.where(SiteRow.id.in_(only))
    counted = select(func.count()).select_from(there.subquery())
    shown = there.order_by(SiteRow.created_at, SiteRow.id).offset(offset).limit(limit)
    query = (
        select(
            SiteRow.id,
            SiteRow.name,
            SiteRow.created_at,
            DesignRow.id,
            DesignRow.as_built,
            DesignRow.revision,
            RevisionRow.line,
            counted.scalar_subquery(),
        )
        .join(DesignRow, DesignRow.site_id == SiteRow.id)
        .join(
            RevisionRow,
            (RevisionRow.design_id == DesignRow.id) & (RevisionRow.number == DesignRow.revision),
        )
        .where(SiteRow.id.in_(shown.scalar_subquery()))
        .order_by(SiteRow.created_at, SiteRow.id, DesignRow.position, DesignRow.created_at)
    )
    with engine.connect() as connection:
        rows = connection.execute(query).all()
        total = rows[0][7] if rows else connection.execute(counted).scalar_one()
        # The whole document is read only where no line holds its name.
        nameless = [row[3] for row in rows if not _name_in(row[6])]
        names = dict(connection.execute(_names_of(nameless)).all()) if nameless else {}
    sites: dict[UUID, tuple[str, datetime, list[DesignHead], dict[UUID, Any]]] = {}
    for site_id, name, created_at, design_id, as_built, revision, line, _ in rows:
        _, _, heads, lines = sites.setdefault(site_id, (name, created_at, [], {}))
        called = _name_in(line) or names.get(design_id) or "?"
        heads.append(DesignHead(design_id, called, as_built, revision))
        lines[design_id] = line
    return [_listed(site_id, *parts) for site_id, parts in sites.items()], total


def _name_in(line: Any) -> str | None:
    summary = line.get("summary") if isinstance(line, dict) else None
    return summary.get("name") if isinstance(summary, dict) else None


def _names_of(design_ids: list[UUID]) -> Any:
    return (
        select(RevisionRow.design_id, RevisionRow.document["name"].astext)
        .join(
            DesignRow,
            (RevisionRow.design_id == DesignRow.id) & (RevisionRow.number == DesignRow.revision),
        )
        .where(RevisionRow.design_id.in_(design_ids))
    )


def _listed(
    site_id: UUID, name: str, created_at: datetime, heads: list[DesignHead], lines: dict[UUID, Any]
) -> ListedSite:
    shown = next((head for head in heads if head.as_built), heads[0])
    return ListedSite(
        id=site_id,
        name=name,
        created_at=created_at,
        designs=tuple(heads),
        shown=shown,
        line=_line_in(lines[shown.id]),
    )


@dataclass(frozen=True, slots=True)
class Unjudged:
    """A newest revision whose line is missing or was made by another program."""

    design_id: UUID
    revision: int
    document: Any


def unjudged(engine: Engine, most: int) -> list[Unjudged]:
    """Some of the newest revisions to be judged, those without any line first."""
    query = (
        select(RevisionRow.design_id, RevisionRow.number, RevisionRow.document)
        .join(
            DesignRow,
            (RevisionRow.design_id == DesignRow.id) & (RevisionRow.number == DesignRow.revision),
        )
        .join(SiteRow, SiteRow.id == DesignRow.site_id)
        .where(RevisionRow.line_by.is_distinct_from(edition()), SiteRow.deleted_at.is_(None))
        .order_by(RevisionRow.line_by.is_not(None), RevisionRow.created_at)
        .limit(most)
    )
    with Session(engine) as session:
        return [Unjudged(*row) for row in session.execute(query)]


def keep_line(engine: Engine, design_id: UUID, revision: int, line: Line) -> None:
    """Keep a line beside its revision. The document itself never changes.

    Parameters
    ----------
    revision : int
        Which of the design's.
    line : Line
        What the list of sites says of it.
    """
    with Session(engine) as session, session.begin():
        session.execute(
            update(RevisionRow)
            .where(RevisionRow.design_id == design_id, RevisionRow.number == revision)
            .values(line=document_of_line(line), line_by=edition())
        )
