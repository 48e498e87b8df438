"""Sites and designs in PostgreSQL: append-only revisions, optimistic locking, undo and redo across
visits."""

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from functools import cache
from typing import Any
from uuid import UUID

from sqlalchemy import Engine, Select, bindparam, func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session, aliased

from yonderstat.core.design import (
    Design,
    Fault,
    InvalidDesignError,
    design_from_document,
    document_of,
)

from .gazetteer import Town, find_towns
from .lines import (
    DesignHead,
    Line,
    ListedSite,
    Unjudged,
    document_of_line,
    edition,
    keep_line,
    line_of,
    listed_sites,
    unjudged,
)
from .schema import CreatedRow, DesignRow, RevisionRow, SiteRow


class NotFoundError(LookupError):
    """There is no such site or design."""


class StaleRevisionError(RuntimeError):
    """The edit was made on a revision that is no longer the newest; `current` is."""

    def __init__(self, current: int) -> None:
        super().__init__(f"the design is at revision {current}")
        self.current = current


class NothingToDoError(RuntimeError):
    """There is nothing to undo or redo, or a rule of the records forbids it."""


class KeyReusedError(RuntimeError):
    """A create key came a second time with something else to create."""


class UnknownOutcomeError(RuntimeError):
    """The database went away while it was storing: whether it did is not known."""


class UnreadableDesignError(RuntimeError):
    """A stored document that this program cannot read; `revision` is where it stands."""

    def __init__(self, revision: int, faults: list[Fault]) -> None:
        super().__init__(
            "; ".join(f"{fault.pointer or '/'}: {fault.message}" for fault in faults[:5])
        )
        self.revision = revision


@dataclass(frozen=True, slots=True, kw_only=True)
class StoredDesign:
    """A design as kept: the newest document and where it stands in its history."""

    id: UUID
    site_id: UUID
    position: int
    as_built: bool
    revision: int
    saved_at: datetime
    can_undo: bool
    can_redo: bool
    document: Any
    line: Line | None
    read: Design | InvalidDesignError
    site_name: str
    stands_at: int
    """Its place in the tree of edits: an undo stands where it went back to."""

    @property
    def design(self) -> Design:
        """The document read.

        Raises
        ------
        UnreadableDesignError
            If it cannot be.
        """
        if isinstance(self.read, Design):
            return self.read
        raise UnreadableDesignError(self.revision, self.read.faults)


@dataclass(frozen=True, slots=True)
class StoredSite:
    """A site with its designs in order."""

    id: UUID
    name: str
    designs: tuple[DesignHead, ...]
    place: dict[str, Any] | None = None
    """Where it really stands, once that is not where its design as built says."""


LOCAL = "local"
"""Whoever sits at this machine: the one actor there is until there are people."""
Edit = Callable[[Design], Design]
Judge = Callable[[Design], Line]


class Archive:
    """All that is kept. Every method is one transaction."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    @contextmanager
    def _session(self) -> Iterator[Session]:
        with (
            Session(self._engine, expire_on_commit=False) as session,
            session.begin() as transaction,
        ):
            yield session
            try:
                transaction.commit()
            except DBAPIError as error:
                if error.connection_invalidated:
                    raise UnknownOutcomeError(
                        "the database went away while it was storing"
                    ) from error
                raise

    def towns(self, text: str, near: tuple[float, float] | None = None) -> list[Town]:
        """Towns of a name or one much like it; see `find_towns`."""
        return find_towns(self._engine, text, near)

    def sites(
        self, offset: int = 0, limit: int | None = None, only: frozenset[UUID] | None = None
    ) -> tuple[list[ListedSite], int]:
        """Sites with their lines, oldest first, from one on and at most so many; and how many there
        are in all."""
        return listed_sites(self._engine, offset, limit, only)

    def was_ever_used(self) -> bool:
        """Whether any site was ever kept, be it put away now."""
        with self._session() as session:
            return session.scalar(select(SiteRow.id).limit(1)) is not None

    def mark(self, actor: str, key: str) -> None:
        """Remember that something was done; see `marked`."""
        with self._session() as session:
            values = {"actor": actor, "key": key, "resource_id": UUID(int=1)}
            session.execute(insert(CreatedRow).values(**values).on_conflict_do_nothing())

    def marked(self, actor: str, key: str) -> bool:
        """Whether something was remembered as done."""
        with self._session() as session:
            return session.get(CreatedRow, (actor, key)) is not None

    def unjudged(self, most: int) -> list[Unjudged]:
        """Some of the newest revisions whose line is missing or was made by another program."""
        return unjudged(self._engine, most)

    def keep_line(self, design_id: UUID, revision: int, line: Line) -> None:
        """Keep a line beside its revision.

        Parameters
        ----------
        revision : int
            Which of the design's.
        line : Line
            What the list of sites says of it.
        """
        keep_line(self._engine, design_id, revision, line)

    def site(self, site_id: UUID) -> StoredSite:
        """One site."""
        with self._session() as session:
            return _site(session, _site_row(session, site_id))

    def add_site(
        self,
        name: str,
        design: Design,
        key: str | None = None,
        line: Line | None = None,
        asked: str = "",
        actor: str = LOCAL,
    ) -> StoredSite:
        """A new site with its first design, marked as built. A key already used gives what it made
        then.

        Parameters
        ----------
        line : Line, optional
            The design judged; without one it waits to be.
        asked : str
            A digest of what was asked for; the key is good for that alone.
        """
        with self._session() as session:
            made = _made_before(session, actor, key, asked)
            if made:
                return _site(session, _site_row(session, made))
            row = SiteRow(name=name)
            session.add(row)
            session.flush()
            _add_design(
                session, row.id, position=0, as_built=True, design=design, line=line, actor=actor
            )
            _remember(session, actor, key, row.id)
            return _site(session, row)

    def change_site(self, site_id: UUID, changes: dict[str, Any]) -> StoredSite:
        """The site with another name, or a place of its own; none takes that of its design as
        built."""
        with self._session() as session:
            row = _site_row(session, site_id)
            for field in {"name", "place"} & set(changes):
                setattr(row, field, changes[field])
            return _site(session, row)

    def delete_site(self, site_id: UUID) -> None:
        """Put a site away; `restore_site` brings it back."""
        with self._session() as session:
            _site_row(session, site_id).deleted_at = datetime.now(UTC)

    def put_away(self) -> list[tuple[UUID, str, datetime]]:
        """Sites that were put away: id, name and when, the last first."""
        with self._session() as session:
            query = (
                select(SiteRow)
                .where(SiteRow.deleted_at.is_not(None))
                .order_by(SiteRow.deleted_at.desc())
            )
            return [
                (row.id, row.name, row.deleted_at)
                for row in session.scalars(query)
                if row.deleted_at
            ]

    def restore_site(self, site_id: UUID) -> StoredSite:
        """Bring back a site that was put away."""
        with self._session() as session:
            row = session.get(SiteRow, site_id)
            if row is None:
                raise NotFoundError(f"there is no site {site_id}")
            row.deleted_at = None
            return _site(session, row)

    def design(self, design_id: UUID) -> StoredDesign:
        """One design at its newest revision."""
        with self._session() as session:
            return _stored(session, design_id)

    def design_at(self, design_id: UUID, revision: int) -> Design:
        """The document of a design as it stood at a revision."""
        with self._session() as session:
            _design_row(session, design_id)
            return design_from_document(_revision(session, design_id, revision).document)

    def site_of(self, design_id: UUID) -> UUID:
        """The site of a design."""
        with self._session() as session:
            return _design_row(session, design_id).site_id

    def add_design(
        self,
        site_id: UUID,
        design: Design,
        key: str | None = None,
        line: Line | None = None,
        asked: str = "",
        actor: str = LOCAL,
    ) -> StoredDesign:
        """Another design of a site, after the ones it has; see `add_site`.

        Parameters
        ----------
        key : str or None
            Under which it is asked for once, however often it is sent.
        line : Line or None
            What the list of sites says of it.
        asked : str
            What was sent, kept with the key.
        actor : str
            Who does it.
        """
        with self._session() as session:
            site = _site_row(session, site_id, lock=True)
            made = _made_before(session, actor, key, asked)
            if made:
                return _stored(session, made)
            last = session.scalar(
                select(func.max(DesignRow.position)).where(DesignRow.site_id == site.id)
            )
            row = _add_design(
                session,
                site.id,
                position=0 if last is None else last + 1,
                as_built=last is None,
                design=design,
                line=line,
                actor=actor,
            )
            _remember(session, actor, key, row.id)
            return _stored(session, row.id)

    def mark_as_built(self, design_id: UUID) -> StoredDesign:
        """Make this the design that stands there; the site has only one."""
        with self._session() as session:
            row = _locked_with_its_site(session, design_id)
            others = select(DesignRow).where(
                DesignRow.site_id == row.site_id, DesignRow.as_built, DesignRow.id != row.id
            )
            for other in session.scalars(others.with_for_update()):
                other.as_built = False
            session.flush()
            row.as_built = True
            return _stored(session, row.id)

    def delete_design(self, design_id: UUID) -> None:
        """Remove a design that is not the one as built."""
        with self._session() as session:
            row = _locked_with_its_site(session, design_id)
            if row.as_built:
                raise NothingToDoError("the design as built stays; mark another as built first")
            session.delete(row)

    def edit(
        self,
        design_id: UUID,
        on_revision: int,
        change: Edit,
        judge: Judge | None = None,
        actor: str = LOCAL,
    ) -> StoredDesign:
        """Add a revision made by `change` on the newest one, which must be `on_revision`.

        The change is made and judged before anything is locked: a revision never changes, so what
        it comes to does not either, and nobody waits for it.

        Parameters
        ----------
        on_revision : int
            The newest the asker knows.
        change : Edit
            Makes the new document of the old one.
        judge : Judge or None
            What a report says of it, for the list of sites.
        actor : str
            Who does it.

        Raises
        ------
        StaleRevisionError
            If somebody else has edited since.
        """
        base = self.design(design_id)
        if base.revision != on_revision:
            raise StaleRevisionError(base.revision)
        changed = change(base.design)
        document = document_of(changed)
        if document == base.document:
            return base
        line = judge(changed) if judge else None
        with self._session() as session:
            row = _locked_at(session, design_id, on_revision)
            added = _append(session, row, "edit", document, line, actor, parent=base.stands_at)
        # What was stored is at hand: nothing is left to read back.
        made = replace(
            base, document=document, line=line, read=changed, can_undo=True, can_redo=False
        )
        return replace(
            made, revision=added.number, stands_at=added.number, saved_at=added.created_at
        )

    def undo(self, design_id: UUID, on_revision: int, actor: str = LOCAL) -> StoredDesign:
        """Go back one edit, by adding a revision that says so.

        Parameters
        ----------
        on_revision : int
            The newest the asker knows.
        actor : str
            Who does it.
        """
        with self._session() as session:
            row = _locked_at(session, design_id, on_revision)
            here = _position(_revision(session, row.id, row.revision))
            parent = _revision(session, row.id, here).parent
            if parent is None:
                raise NothingToDoError("there is nothing to undo: this is how the design began")
            _go_to(session, row, "undo", parent, actor)
            return _stored(session, row.id)

    def redo(self, design_id: UUID, on_revision: int, actor: str = LOCAL) -> StoredDesign:
        """Go forward again to the edit last undone.

        Parameters
        ----------
        on_revision : int
            The newest the asker knows.
        actor : str
            Who does it.
        """
        with self._session() as session:
            row = _locked_at(session, design_id, on_revision)
            here = _position(_revision(session, row.id, row.revision))
            child = _child(session, row.id, here)
            if child is None:
                raise NothingToDoError("there is nothing to redo")
            _go_to(session, row, "redo", child, actor)
            return _stored(session, row.id)


def _site_row(session: Session, site_id: UUID, lock: bool = False) -> SiteRow:
    row = session.get(SiteRow, site_id, with_for_update=lock or None)
    if row is None or row.deleted_at is not None:
        raise NotFoundError(f"there is no site {site_id}")
    return row


@cache
def _row_query(lock: bool) -> Select[DesignRow]:
    """Put together once, as every edit asks it; so is the next one."""
    query = select(DesignRow).join(SiteRow, SiteRow.id == DesignRow.site_id)
    query = query.where(DesignRow.id == bindparam("design_id"), SiteRow.deleted_at.is_(None))
    return query.with_for_update(of=DesignRow) if lock else query


def _design_row(session: Session, design_id: UUID, lock: bool = False) -> DesignRow:
    row = session.scalar(_row_query(lock), {"design_id": design_id})
    if row is None:
        raise NotFoundError(f"there is no design {design_id}")
    return row


def _locked_with_its_site(session: Session, design_id: UUID) -> DesignRow:
    """A design under its site's lock, read after it: what stands there is decided by one at a
    time."""
    site_id = session.scalar(select(DesignRow.site_id).where(DesignRow.id == design_id))
    if site_id is None:
        raise NotFoundError(f"there is no design {design_id}")
    _site_row(session, site_id, lock=True)
    return _design_row(session, design_id, lock=True)


def _locked_at(session: Session, design_id: UUID, on_revision: int) -> DesignRow:
    row = _design_row(session, design_id, lock=True)
    if row.revision != on_revision:
        raise StaleRevisionError(row.revision)
    return row


def _revision(session: Session, design_id: UUID, number: int) -> RevisionRow:
    return session.get_one(RevisionRow, (design_id, number))


def _position(row: RevisionRow) -> int:
    """Where a revision stands in the tree of edits: an undo stands where it went back to."""
    return row.number if row.restores is None else row.restores


def _child(session: Session, design_id: UUID, position: int) -> int | None:
    """The latest edit made on a position."""
    return session.scalar(
        select(func.max(RevisionRow.number)).where(
            RevisionRow.design_id == design_id, RevisionRow.parent == position
        )
    )


def _go_to(session: Session, row: DesignRow, action: str, number: int, actor: str) -> None:
    """Add a revision that holds what another one held, with its line if this program judged it."""
    wanted = _revision(session, row.id, number)
    _append(session, row, action, wanted.document, line_of(wanted), actor, restores=number)


def _append(
    session: Session,
    row: DesignRow,
    action: str,
    document: dict[str, object],
    line: Line | None,
    actor: str,
    parent: int | None = None,
    restores: int | None = None,
) -> RevisionRow:
    row.revision += 1
    added = RevisionRow(
        design_id=row.id,
        number=row.revision,
        action=action,
        actor=actor,
        parent=parent,
        restores=restores,
        document=document,
        line=document_of_line(line) if line else None,
        line_by=edition() if line else None,
        created_at=datetime.now(UTC),
    )
    session.add(added)
    session.flush()
    return added


def _add_design(
    session: Session,
    site_id: UUID,
    position: int,
    as_built: bool,
    design: Design,
    line: Line | None,
    actor: str,
) -> DesignRow:
    row = DesignRow(site_id=site_id, position=position, as_built=as_built, revision=0)
    session.add(row)
    session.flush()
    _append(session, row, "create", document_of(design), line, actor)
    return row


def _read(document: dict[str, Any]) -> Design | InvalidDesignError:
    try:
        return design_from_document(document)
    except InvalidDesignError as error:
        return error


@cache
def _stored_query() -> Select[DesignRow, str, RevisionRow, int | None, bool]:
    here, later = aliased(RevisionRow), aliased(RevisionRow)
    position = func.coalesce(RevisionRow.restores, RevisionRow.number)
    edited = (
        select(later.number)
        .where(later.design_id == DesignRow.id, later.parent == position)
        .exists()
    )
    return (
        select(DesignRow, SiteRow.name, RevisionRow, here.parent, edited)
        .join(SiteRow, SiteRow.id == DesignRow.site_id)
        .join(
            RevisionRow,
            (RevisionRow.design_id == DesignRow.id) & (RevisionRow.number == DesignRow.revision),
        )
        .join(here, (here.design_id == DesignRow.id) & (here.number == position))
        .where(DesignRow.id == bindparam("design_id"), SiteRow.deleted_at.is_(None))
    )


def _stored(session: Session, design_id: UUID) -> StoredDesign:
    """A design of a site that is not put away, asked for at once: an edit waits for nothing so
    often as for this."""
    found = session.execute(_stored_query(), {"design_id": design_id}).one_or_none()
    if found is None:
        raise NotFoundError(f"there is no design {design_id}")
    row, site_name, newest, parent, can_redo = found
    return StoredDesign(
        id=row.id,
        site_id=row.site_id,
        position=row.position,
        as_built=row.as_built,
        revision=row.revision,
        saved_at=newest.created_at,
        can_undo=parent is not None,
        can_redo=bool(can_redo),
        document=newest.document,
        line=line_of(newest),
        read=_read(newest.document),
        site_name=site_name,
        stands_at=_position(newest),
    )


def _site(session: Session, row: SiteRow) -> StoredSite:
    designs = session.execute(
        select(DesignRow, RevisionRow.document["name"].astext)
        .join(
            RevisionRow,
            (RevisionRow.design_id == DesignRow.id) & (RevisionRow.number == DesignRow.revision),
        )
        .where(DesignRow.site_id == row.id)
        .order_by(DesignRow.position, DesignRow.created_at)
    )
    heads = [
        DesignHead(design.id, name or "?", design.as_built, design.revision)
        for design, name in designs
    ]
    return StoredSite(row.id, row.name, tuple(heads), row.place)


def _made_before(session: Session, actor: str, key: str | None, asked: str) -> UUID | None:
    """What this key made before. A fresh key is claimed here, so that a twin of the request waits
    for this one."""
    if key is None:
        return None
    claim = (
        insert(CreatedRow)
        .values(actor=actor, key=key, asked=asked, resource_id=UUID(int=0))
        .on_conflict_do_nothing()
    )
    session.execute(claim)
    row = session.get_one(CreatedRow, (actor, key))
    if row.resource_id.int and row.asked and row.asked != asked:
        raise KeyReusedError("this create key was used for something else; use a fresh one")
    return row.resource_id if row.resource_id.int else None


def _remember(session: Session, actor: str, key: str | None, resource_id: UUID) -> None:
    if key is not None:
        session.get_one(CreatedRow, (actor, key)).resource_id = resource_id
