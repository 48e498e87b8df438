"""The club's shelf: one for all sites, edited like a design, taken from in any design, as a table
out and in."""

import json
from dataclasses import dataclass, replace
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import Engine

from yonderstat.core import Report, evaluate
from yonderstat.core.design import Design
from yonderstat.core.parts import items_of
from yonderstat.core.shelf import (
    Pick,
    Shelf,
    ShelfPart,
    Stock,
    Use,
    picks_for,
    refreshed,
    shelf_document_of,
    shelf_from_document,
    stock_of,
    without_away,
)
from yonderstat.core.station import StationModel
from yonderstat.core.words import counted
from yonderstat.formats import (
    SheetError,
    ShelfTableError,
    parts_of_rows,
    read_sheet,
    shelf_rows,
    write_csv,
    write_ods,
)
from yonderstat.records import Archive, ShelfBook, StoredDesign, StoredShelf

from .actors import current_actor
from .api import Api, Body, model_fault
from .bodies import DesignView, Patch, PatchOperation
from .judged import Judge, report_on
from .patching import apply_patch, patched, plain_operation
from .problems import Problem
from .transfer import ODS_TYPE, TakenAway, Uploaded
from .views import design_view

MOST_TABLE_BYTES = 4_000_000
JSON_TYPE = "application/json"


@dataclass(frozen=True, slots=True, kw_only=True)
class UseView:
    """A design that takes from the shelf, and whether it still says what the part's label says."""

    part: str
    site: str
    design_id: UUID
    design: str
    as_built: bool
    line: str
    count: float
    differs: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class StockView:
    """What is free of a part."""

    part: str
    count: float
    reserved: float
    away: float
    free: float
    over: float


@dataclass(frozen=True, slots=True, kw_only=True)
class ShelfView:
    """The shelf, how each part stands, and who uses it."""

    revision: int
    saved_at: datetime | None
    can_undo: bool
    can_redo: bool
    document: Shelf
    stock: list[StockView]
    uses: list[UseView]
    takeaway: str


@dataclass(frozen=True, slots=True)
class PicksView:
    """What the shelf has for a design, and what is missing of it while kit is away."""

    revision: int
    picks: list[Pick]
    missing: list[str]
    headline_without: str | None
    """The verdict on what is left while that is away."""


class TakenIn(Body):
    """Which part and line: a design is made to say again what the label says."""

    line: str


def _takeaway(shelf: Shelf, stock: dict[str, Stock]) -> str:
    if not shelf.parts:
        return "No club parts yet. Add the parts you have, and every design can use them."
    over = [part.name for part in shelf.parts if stock[part.id].over > 0]
    out = [outing.name for outing in shelf.outings if outing.out]
    free = sum(stock[part.id].free > 0 for part in shelf.parts)
    told = [f"{counted(len(shelf.parts), 'kind')} of parts; {free} of them with some free"]
    if over:
        told.append(f"promised twice: {', '.join(over[:3])}")
    if out:
        told.append(f"out now: {', '.join(out[:3])}")
    return "; ".join(told) + "."


def shelf_api(archive: Archive, engine: Engine) -> Api:
    """The operations on the shelf."""
    api, book = Api(), ShelfBook(engine)

    def view(stored: StoredShelf) -> ShelfView:
        uses = book.uses()
        stock = stock_of(stored.shelf, uses)
        return ShelfView(
            revision=stored.revision,
            saved_at=stored.saved_at,
            can_undo=stored.can_undo,
            can_redo=stored.can_redo,
            document=stored.shelf,
            stock=[
                StockView(
                    part=item.part,
                    count=item.count,
                    reserved=item.reserved,
                    away=item.away,
                    free=item.free,
                    over=item.over,
                )
                for item in stock.values()
            ],
            uses=[
                _use_view(archive, use, stored.shelf) for use in uses if stored.shelf.part(use.part)
            ],
            takeaway=_takeaway(stored.shelf, stock),
        )

    @api.operation("GET", "/api/shelf", access="read", about="club", answer=ShelfView)
    def read_shelf() -> ShelfView:
        """The club's shelf."""
        return view(book.read())

    @api.operation(
        "PATCH",
        "/api/shelf",
        access="edit",
        about="club",
        body=Patch,
        answer=ShelfView,
        on_revision=True,
    )
    def edit_shelf(body: list[PatchOperation], on_revision: int) -> ShelfView:
        """Change the shelf by JSON Patch on the revision in If-Match."""
        operations = [plain_operation(item) for item in body]

        def change(shelf: Shelf) -> Shelf:
            return shelf_from_document(patched(shelf_document_of(shelf), operations, "shelf"))

        return view(book.edit(on_revision, change, current_actor()))

    @api.operation(
        "POST", "/api/shelf/undo", access="edit", about="club", answer=ShelfView, on_revision=True
    )
    def undo_shelf(on_revision: int) -> ShelfView:
        """Go back one edit of the shelf."""
        return view(book.undo(on_revision, current_actor()))

    @api.operation(
        "POST", "/api/shelf/redo", access="edit", about="club", answer=ShelfView, on_revision=True
    )
    def redo_shelf(on_revision: int) -> ShelfView:
        """Go forward again."""
        return view(book.redo(on_revision, current_actor()))

    @api.operation("GET", "/api/shelf.csv", access="read", about="club", file="text/csv")
    def take_shelf_csv() -> TakenAway:
        """The shelf as a CSV file."""
        shelf = book.read().shelf
        return TakenAway(
            "shelf.csv", write_csv(shelf_rows(shelf, stock_of(shelf, book.uses()))).encode()
        )

    @api.operation("GET", "/api/shelf.ods", access="read", about="club", file=ODS_TYPE)
    def take_shelf_ods() -> TakenAway:
        """The shelf as an OpenDocument spreadsheet."""
        shelf = book.read().shelf
        return TakenAway(
            "shelf.ods", write_ods("Shelf", shelf_rows(shelf, stock_of(shelf, book.uses())))
        )

    @api.operation("GET", "/api/shelf.json", access="read", about="club", file=JSON_TYPE)
    def take_shelf_json() -> TakenAway:
        """The shelf as a file in the open format."""
        text = json.dumps(shelf_document_of(book.read().shelf), ensure_ascii=False, indent=2)
        return TakenAway("shelf.yonderstat.json", f"{text}\n".encode())

    @api.operation(
        "POST",
        "/api/shelf/table",
        access="edit",
        about="nothing",
        upload=MOST_TABLE_BYTES,
        answer=ShelfView,
    )
    def bring_shelf_in(upload: Uploaded) -> ShelfView:
        """A table (CSV, ODS) or a shelf file: parts it names by id are set to it, the others are
        put on."""
        parts = _parts_in(upload)
        stored = book.read()
        return view(
            book.edit(stored.revision, lambda shelf: _merged(shelf, parts), current_actor())
        )

    @api.operation("GET", "/api/designs/{design_id}/from-shelf", access="read", answer=PicksView)
    def read_picks(design_id: UUID) -> PicksView:
        """What of the shelf a design could take, line by line, and what it lacks while kit is
        away."""
        stored = archive.design(design_id)
        design, shelf = stored.design, book.read().shelf
        stock = stock_of(shelf, book.uses(), str(stored.site_id))
        picks = picks_for(design, items_of(design, StationModel(design).bus), shelf, stock)
        picks = tuple(_tried(design, report_on(stored), pick) for pick in picks)
        left = without_away(design, shelf)
        headline = evaluate(left[0]).verdict.headline if left else None
        return PicksView(stored.revision, list(picks), list(left[1]) if left else [], headline)

    @api.operation(
        "POST",
        "/api/designs/{design_id}/from-shelf",
        access="edit",
        body=TakenIn,
        answer=DesignView,
        on_revision=True,
    )
    def refresh_from_shelf(design_id: UUID, body: TakenIn, on_revision: int) -> DesignView:
        """Make a design say again what the label of the part says that it takes for a line."""
        shelf, judge = book.read().shelf, Judge()
        operations = refreshed(archive.design(design_id).design, shelf, body.line)
        if not operations:
            raise Problem(
                409,
                "nothing-to-do",
                "You can't do that now",
                "the design says what the label says",
            )
        told = [{"op": item.op, "path": item.path, "value": item.value} for item in operations]
        stored = archive.edit(
            design_id, on_revision, lambda design: apply_patch(design, told), judge, current_actor()
        )
        return _view(archive, judge.keep_for(stored))

    return api


def _tried(design: Design, report: Report, pick: Pick) -> Pick:
    """A pick that changes the design is judged first: what it would be stopped for, or have to
    mend, is no proposal."""
    if all(item.path.startswith("/build/") for item in pick.patch):
        return pick
    told = [{"op": item.op, "path": item.path, "value": item.value} for item in pick.patch]
    before = {(finding.id, finding.severity) for finding in report.findings}
    stops = {finding.id for finding in report.findings if finding.severity == "stop"}
    after = [
        item
        for item in evaluate(apply_patch(design, told)).findings
        if item.severity in {"stop", "fix"}
    ]
    # What was a Stop and is a Fix now is no worse; what was a Fix and is a Stop now is.
    new = next(
        (item for item in after if (item.id, item.severity) not in before and item.id not in stops),
        None,
    )
    if new is None:
        return pick
    return replace(pick, patch=(), fits=False, takes=0.0, words=f"can't be used: {new.sentence}")


def _stock_view(item: Stock) -> StockView:
    return StockView(
        part=item.part,
        count=item.count,
        reserved=item.reserved,
        away=item.away,
        free=item.free,
        over=item.over,
    )


def _view(archive: Archive, stored: StoredDesign) -> DesignView:
    report_on(stored)
    return design_view(stored)


def _use_view(archive: Archive, use: Use, shelf: Shelf) -> UseView:
    design = archive.design(UUID(use.design_id)).read
    differs = not isinstance(design, Exception) and bool(refreshed(design, shelf, use.line))
    return UseView(
        part=use.part,
        site=use.site,
        design_id=UUID(use.design_id),
        design=use.design,
        as_built=use.as_built,
        line=use.line,
        count=use.count,
        differs=differs,
    )


def _parts_in(upload: Uploaded) -> list[ShelfPart]:
    """The parts of a file, whatever it is; refused whole with what is wrong and where."""
    if upload.data.lstrip()[:1] == b"{":
        try:
            document: Any = json.loads(upload.text)
        except (ValueError, RecursionError) as error:
            raise model_fault("/upload", f"{upload.name} is no JSON: {error}") from None
        return shelf_from_document(document).parts
    try:
        return parts_of_rows(read_sheet(upload.name, upload.data))
    except SheetError as error:
        raise model_fault("/upload", str(error)) from None
    except ShelfTableError as error:
        detail = "; ".join(fault.message for fault in error.faults[:3])
        raise Problem(
            422, "bad-table", "The table cannot be imported", detail, error.faults
        ) from None


def _merged(shelf: Shelf, parts: list[ShelfPart]) -> Shelf:
    """The shelf with parts of a table: those with an id that is there replace it, the others come
    at the end."""
    brought = {part.id: part for part in parts}
    if len(brought) != len(parts):
        raise model_fault("/upload", "two rows have the same id; each part needs its own")
    kept = [brought.pop(part.id, part) for part in shelf.parts]
    document = shelf_document_of(shelf.model_copy(update={"parts": [*kept, *brought.values()]}))
    return shelf_from_document(document)
