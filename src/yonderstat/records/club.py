"""The whole club out of the database and back into one, empty or not: nothing twice, nothing
lost."""

from dataclasses import dataclass, replace
from uuid import UUID, uuid5

from sqlalchemy import Engine, func, select
from sqlalchemy.exc import DataError, IntegrityError
from sqlalchemy.orm import Session

from yonderstat.core.design import Fault, InvalidDesignError, design_from_document
from yonderstat.core.shelf import Shelf, shelf_document_of, shelf_from_document
from yonderstat.formats import (
    ClubArchiveError,
    ClubRecord,
    DesignRecord,
    ReadingRecord,
    RevisionRecord,
    SiteRecord,
    UpkeepRecord,
)

from .archive import LOCAL
from .schema import DesignRow, ReadingRow, RevisionRow, ShelfRevisionRow, SiteRow, UpkeepRow
from .series import bring_series, series_csv, series_of_csv

FROM_ARCHIVE = "from the archive"


@dataclass(frozen=True, slots=True, kw_only=True)
class Restored:
    """What bringing an archive in did."""

    sites_added: int
    designs_added: int
    revisions_added: int
    designs_beside: int
    """Designs that had gone different ways here and there: the archive's stands beside ours."""
    readings_added: int
    shelf_parts_added: int


def club_record(engine: Engine) -> ClubRecord:
    """All that is kept, sites put away included."""
    with Session(engine) as session:
        sites = session.scalars(select(SiteRow).order_by(SiteRow.created_at, SiteRow.id)).all()
        shelf = session.scalars(select(ShelfRevisionRow).order_by(ShelfRevisionRow.number)).all()
        return ClubRecord(
            tuple(_site_record(session, row) for row in sites),
            tuple(_revision_record(row) for row in shelf),
        )


def _revision_record(row: RevisionRow | ShelfRevisionRow) -> RevisionRecord:
    return RevisionRecord(
        number=row.number,
        action=row.action,  # type: ignore[arg-type]
        actor=row.actor,
        parent=row.parent,
        restores=row.restores,
        document=row.document,
        created_at=row.created_at,
    )


def _with_its_trouble(revision: RevisionRecord) -> RevisionRecord:
    """A state that this program cannot read says so in the file, and so does not bar the way for
    the others."""
    trouble = _trouble_of_design(revision.document)
    return replace(revision, unreadable=trouble[:600]) if trouble else revision


def _trouble_of_design(document: dict[str, object]) -> str:
    try:
        design_from_document(document)
    except InvalidDesignError as error:
        return _first(error.faults)
    return ""


def _site_record(session: Session, row: SiteRow) -> SiteRecord:
    designs = session.scalars(
        select(DesignRow)
        .where(DesignRow.site_id == row.id)
        .order_by(DesignRow.position, DesignRow.id)
    )
    readings = session.scalars(
        select(ReadingRow)
        .where(ReadingRow.site_id == row.id)
        .order_by(ReadingRow.taken_at, ReadingRow.id)
    )
    upkeep = session.scalars(
        select(UpkeepRow)
        .where(UpkeepRow.site_id == row.id)
        .order_by(UpkeepRow.done_on, UpkeepRow.id)
    )
    return SiteRecord(
        id=row.id,
        name=row.name,
        created_at=row.created_at,
        deleted_at=row.deleted_at,
        place=row.place,
        designs=tuple(
            DesignRecord(
                item.id,
                item.position,
                item.as_built,
                item.created_at,
                tuple(map(_with_its_trouble, _revisions(session, item.id))),
            )
            for item in designs
        ),
        upkeep=tuple(
            UpkeepRecord(
                id=item.id,
                task=item.task,
                done_on=item.done_on,
                who=item.who,
                note=item.note,
                created_at=item.created_at,
            )
            for item in upkeep
        ),
        readings=tuple(
            ReadingRecord(
                id=item.id,
                taken_at=item.taken_at,
                said=item.said,
                who=item.who,
                kind=item.kind,
                value=item.value,
                detail=item.detail,
                key=item.key,
                created_at=item.created_at,
            )
            for item in readings
        ),
        series_csv=series_csv(session, row.id),
    )


def _revisions(session: Session, design_id: UUID) -> tuple[RevisionRecord, ...]:
    rows = session.scalars(
        select(RevisionRow).where(RevisionRow.design_id == design_id).order_by(RevisionRow.number)
    )
    return tuple(_revision_record(row) for row in rows)


def _check(club: ClubRecord) -> None:
    """Refuse an archive with a state of a design or the shelf that cannot be read; which, and why.

    Every state of a history, for an undo may go back to it. One that the program that wrote the
    file could not read either is taken as it is: it was so where it comes from, and the pages say
    so.
    """
    faults = []
    for site in club.sites:
        for number, design in enumerate(site.designs):
            for revision in design.revisions:
                trouble = "" if revision.unreadable else _trouble_of_design(revision.document)
                if trouble:
                    where = (
                        f"sites/{site.id}.json: designs/{number}/revisions/{revision.number - 1}"
                    )
                    faults.append(f"“{site.name}”, {where}: the document {trouble}")
    for revision in club.shelf:
        try:
            shelf_from_document(revision.document)
        except InvalidDesignError as error:
            faults.append(f"shelf.json: {revision.number - 1}: the shelf {_first(error.faults)}")
    if faults:
        raise ClubArchiveError(*faults)


def _first(faults: list[Fault]) -> str:
    return f"{faults[0].pointer or '/'} {faults[0].message}"


def restore_club(engine: Engine, club: ClubRecord) -> Restored:
    """Bring a club in, in one transaction.

    A site or design that is here already is not made again; revisions it lacks are added. Where
    both went on in different ways, ours stays and the archive's stands beside it. Doing it twice
    does nothing the second time.

    Raises
    ------
    ClubArchiveError
        Where a document cannot be read: nothing is brought in.
    """
    _check(club)
    counts = {"sites": 0, "designs": 0, "revisions": 0, "beside": 0, "readings": 0}
    try:
        with Session(engine) as session, session.begin():
            for site in club.sites:
                _restore_site(session, site, counts)
            parts = _restore_shelf(session, club.shelf)
    except (DataError, IntegrityError) as error:
        why = str(error.orig).strip().splitlines()[0][:200]
        raise ClubArchiveError(f"holds what cannot be kept beside what is here: {why}") from None
    return Restored(
        sites_added=counts["sites"],
        designs_added=counts["designs"],
        revisions_added=counts["revisions"],
        designs_beside=counts["beside"],
        readings_added=counts["readings"],
        shelf_parts_added=parts,
    )


def _restore_site(session: Session, site: SiteRecord, counts: dict[str, int]) -> None:
    is_new = session.get(SiteRow, site.id, with_for_update=True) is None
    if is_new:
        session.add(
            SiteRow(
                id=site.id,
                name=site.name,
                created_at=site.created_at,
                deleted_at=site.deleted_at,
                place=site.place,
            )
        )
        session.flush()
        counts["sites"] += 1
    for design in site.designs:
        _restore_design(session, site.id, design, is_new, counts)
    kept = set(
        session.scalars(
            select(ReadingRow.id).where(ReadingRow.id.in_([item.id for item in site.readings]))
        )
    )
    keys = set(session.scalars(select(ReadingRow.key).where(ReadingRow.site_id == site.id)))
    # A phone's own key stands for the same line under another id.
    fresh = [
        item
        for item in site.readings
        if item.id not in kept and (item.key is None or item.key not in keys)
    ]
    session.add_all(
        ReadingRow(
            id=item.id,
            site_id=site.id,
            taken_at=item.taken_at,
            said=item.said,
            who=item.who,
            kind=item.kind,
            value=item.value,
            detail=item.detail,
            key=item.key,
            created_at=item.created_at,
        )
        for item in fresh
    )
    counts["readings"] += len(fresh)
    _restore_upkeep(session, site)
    if site.series_csv:
        bring_series(session, site.id, [series_of_csv(site.series_csv)])


def _restore_upkeep(session: Session, site: SiteRecord) -> None:
    kept = set(
        session.scalars(
            select(UpkeepRow.id).where(UpkeepRow.id.in_([item.id for item in site.upkeep]))
        )
    )
    session.add_all(
        UpkeepRow(
            id=item.id,
            site_id=site.id,
            task=item.task,
            done_on=item.done_on,
            who=item.who,
            note=item.note,
            created_at=item.created_at,
        )
        for item in site.upkeep
        if item.id not in kept
    )


def _same(one: RevisionRecord, other: RevisionRecord) -> bool:
    return (one.number, one.action, one.document, one.created_at) == (
        other.number,
        other.action,
        other.document,
        other.created_at,
    )


def _is_prefix(short: tuple[RevisionRecord, ...], long: tuple[RevisionRecord, ...]) -> bool:
    return len(short) <= len(long) and all(
        _same(one, other) for one, other in zip(short, long, strict=False)
    )


def _restore_design(
    session: Session, site_id: UUID, design: DesignRecord, site_is_new: bool, counts: dict[str, int]
) -> None:
    row = session.get(DesignRow, design.id, with_for_update=True)
    if row is None:
        _add(session, design.id, site_id, design, site_is_new, design.revisions)
        counts["designs"] += 1
        counts["revisions"] += len(design.revisions)
        return
    ours = _revisions(session, row.id)
    if _is_prefix(design.revisions, ours):
        return
    if _is_prefix(ours, design.revisions):
        more = design.revisions[len(ours) :]
        session.add_all(_row(row.id, revision) for revision in more)
        row.revision = design.revisions[-1].number
        counts["revisions"] += len(more)
        return
    last = design.revisions[-1]
    beside = uuid5(design.id, f"{last.number} {last.created_at.isoformat()}")
    if session.get(DesignRow, beside) is None:
        named = last.document | {"name": f"{last.document.get('name', '')} ({FROM_ARCHIVE})"[:120]}
        only = RevisionRecord(
            number=1,
            action="create",
            actor=LOCAL,
            parent=None,
            restores=None,
            document=named,
            created_at=last.created_at,
        )
        _add(session, beside, row.site_id, design, False, (only,))
        counts["beside"] += 1


def _add(
    session: Session,
    design_id: UUID,
    site_id: UUID,
    design: DesignRecord,
    as_it_was: bool,
    revisions: tuple[RevisionRecord, ...],
) -> None:
    """A design that is not here; in a site that is, ours keeps what stands there and the places in
    order."""
    last = session.scalar(select(func.max(DesignRow.position)).where(DesignRow.site_id == site_id))
    session.add(
        DesignRow(
            id=design_id,
            site_id=site_id,
            position=design.position if as_it_was else (-1 if last is None else last) + 1,
            as_built=design.as_built and as_it_was,
            revision=revisions[-1].number,
            created_at=design.created_at,
        )
    )
    session.flush()
    session.add_all(_row(design_id, revision) for revision in revisions)
    session.flush()


def _row(design_id: UUID, revision: RevisionRecord) -> RevisionRow:
    return RevisionRow(
        design_id=design_id,
        number=revision.number,
        action=revision.action,
        actor=revision.actor,
        parent=revision.parent,
        restores=revision.restores,
        document=revision.document,
        created_at=revision.created_at,
    )


def _restore_shelf(session: Session, theirs: tuple[RevisionRecord, ...]) -> int:
    """The shelf's history where ours is the beginning of it; where both went on, parts we lack are
    put on ours."""
    rows = session.scalars(select(ShelfRevisionRow).order_by(ShelfRevisionRow.number))
    ours = tuple(_revision_record(row) for row in rows)
    if _is_prefix(theirs, ours):
        return 0
    here = shelf_from_document(ours[-1].document) if ours else Shelf()
    there = shelf_from_document(theirs[-1].document)
    if _is_prefix(ours, theirs):
        more = theirs[len(ours) :]
        session.add_all(_shelf_row(revision) for revision in more)
        return max(0, len(there.parts) - len(here.parts))
    known = {part.id: part for part in here.parts}
    fresh = [part for part in there.parts if part.id not in known]
    if not fresh:
        return 0
    outings = [
        outing for outing in there.outings if outing.id not in {item.id for item in here.outings}
    ]
    merged = Shelf(parts=[*here.parts, *fresh], outings=[*here.outings, *outings])
    last = ours[-1]
    position = last.number if last.restores is None else last.restores
    edit = RevisionRecord(
        number=last.number + 1,
        action="edit",
        actor=LOCAL,
        parent=position,
        restores=None,
        document=shelf_document_of(merged),
        created_at=theirs[-1].created_at,
    )
    session.add(_shelf_row(edit))
    return len(fresh)


def _shelf_row(revision: RevisionRecord) -> ShelfRevisionRow:
    return ShelfRevisionRow(
        number=revision.number,
        action=revision.action,
        actor=revision.actor,
        parent=revision.parent,
        restores=revision.restores,
        document=revision.document,
        created_at=revision.created_at,
    )
