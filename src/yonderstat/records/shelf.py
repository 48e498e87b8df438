"""The club's shelf in PostgreSQL: one document for all sites, with the revisions, undo and redo of
a design."""

from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime
from uuid import UUID

from sqlalchemy import Engine, func, select, text
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from yonderstat.core.design import Design
from yonderstat.core.shelf import (
    Shelf,
    Use,
    shelf_document_of,
    shelf_from_document,
    stock_of,
    with_shelf,
)

from .archive import LOCAL, NothingToDoError, StaleRevisionError
from .schema import ShelfRevisionRow

USES = text(
    """
    select row ->> 'shelf', sites.id, sites.name, designs.id, revisions.document ->> 'name', designs.as_built,
           row ->> 'id', (row ->> 'have')::float
    from designs
    join sites on sites.id = designs.site_id and sites.deleted_at is null
    join revisions on revisions.design_id = designs.id and revisions.number = designs.revision
    cross join lateral jsonb_array_elements(
        case jsonb_typeof(revisions.document -> 'build' -> 'parts')
            when 'array' then revisions.document -> 'build' -> 'parts' else '[]'::jsonb end) as row
    where jsonb_typeof(row -> 'shelf') = 'string' and jsonb_typeof(row -> 'have') = 'number'
    order by sites.created_at, designs.position
    """
)


@dataclass(frozen=True, slots=True)
class StoredShelf:
    """The shelf as kept. Revision 0 is one nobody has put anything on yet."""

    revision: int
    shelf: Shelf
    saved_at: datetime | None
    can_undo: bool
    can_redo: bool


class ShelfBook:
    """The shelf and its history. Every method is one transaction."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def read(self) -> StoredShelf:
        """The shelf at its newest revision."""
        with Session(self._engine) as session:
            return _stored(session)

    def uses(self) -> tuple[Use, ...]:
        """Every line of a design's parts list that is taken from the shelf."""
        with Session(self._engine) as session:
            return tuple(
                Use(
                    part=part,
                    site_id=str(site),
                    site=name,
                    design_id=str(design),
                    design=design_name or "?",
                    as_built=as_built,
                    line=line,
                    count=count,
                )
                for part, site, name, design, design_name, as_built, line, count in session.execute(
                    USES
                )
            )

    def beside(self, design: Design, site_id: UUID) -> Design:
        """A design of a site with the club's free panels and controllers beside its own."""
        shelf = self.read().shelf
        return with_shelf(design, shelf, stock_of(shelf, self.uses(), str(site_id)))

    def edit(
        self, on_revision: int, change: Callable[[Shelf], Shelf], actor: str = LOCAL
    ) -> StoredShelf:
        """Add a revision made by `change` on the newest, which must be `on_revision`.

        Parameters
        ----------
        on_revision : int
            The newest the asker knows.
        change : Callable[[Shelf], Shelf]
            Makes the new shelf of the old one.
        actor : str
            Who does it.

        Raises
        ------
        StaleRevisionError
            If somebody else has edited since.
        """
        with Session(self._engine) as session:
            base = _at(session, on_revision)
            changed = change(base.shelf)
            if changed == base.shelf:
                return base
            _append(
                session, on_revision, "edit", changed, actor, parent=_position(session, on_revision)
            )
            return _stored(session)

    def undo(self, on_revision: int, actor: str = LOCAL) -> StoredShelf:
        """Go back one edit, by adding a revision that says so."""
        with Session(self._engine) as session:
            _at(session, on_revision)
            here = _position(session, on_revision)
            if here == 0:
                raise NothingToDoError("there is nothing to undo: this is how the shelf began")
            parent = session.get_one(ShelfRevisionRow, here).parent or 0
            _append(
                session, on_revision, "undo", _document_at(session, parent), actor, restores=parent
            )
            return _stored(session)

    def redo(self, on_revision: int, actor: str = LOCAL) -> StoredShelf:
        """Go forward again to the edit last undone."""
        with Session(self._engine) as session:
            _at(session, on_revision)
            child = _child(session, _position(session, on_revision))
            if child is None:
                raise NothingToDoError("there is nothing to redo")
            _append(
                session, on_revision, "redo", _document_at(session, child), actor, restores=child
            )
            return _stored(session)


def _newest(session: Session) -> int:
    return session.scalar(select(func.max(ShelfRevisionRow.number))) or 0


def _document_at(session: Session, number: int) -> Shelf:
    return (
        Shelf()
        if number == 0
        else shelf_from_document(session.get_one(ShelfRevisionRow, number).document)
    )


def _position(session: Session, number: int) -> int:
    """Where a revision stands in the tree of edits: an undo stands where it went back to."""
    if number == 0:
        return 0
    row = session.get_one(ShelfRevisionRow, number)
    return row.number if row.restores is None else row.restores


def _child(session: Session, position: int) -> int | None:
    return session.scalar(
        select(func.max(ShelfRevisionRow.number)).where(ShelfRevisionRow.parent == position)
    )


def _at(session: Session, on_revision: int) -> StoredShelf:
    found = _stored(session)
    if found.revision != on_revision:
        raise StaleRevisionError(found.revision)
    return found


def _append(
    session: Session,
    on_revision: int,
    action: str,
    shelf: Shelf,
    actor: str,
    parent: int | None = None,
    restores: int | None = None,
) -> None:
    row = ShelfRevisionRow(
        number=on_revision + 1,
        action=action,
        actor=actor,
        parent=parent,
        restores=restores,
        document=shelf_document_of(shelf),
        created_at=datetime.now(UTC),
    )
    session.add(row)
    try:
        session.commit()
    except IntegrityError:
        # Somebody else wrote that revision between our reading and our writing.
        session.rollback()
        raise StaleRevisionError(_newest(session)) from None


def _stored(session: Session) -> StoredShelf:
    number = _newest(session)
    here = _position(session, number)
    saved_at = session.get_one(ShelfRevisionRow, number).created_at if number else None
    return StoredShelf(
        number,
        _document_at(session, number),
        saved_at,
        here != 0,
        _child(session, here) is not None,
    )
