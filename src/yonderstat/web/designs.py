"""Designs: reading, editing by JSON Patch on a revision, undo, redo, and the file to take away."""

import json
from dataclasses import dataclass
from uuid import UUID

from pydantic import TypeAdapter
from sqlalchemy import Engine

from yonderstat.core import Difference, Report, differences
from yonderstat.core.design import Design, document_of
from yonderstat.core.parts import Step, between, items_of
from yonderstat.core.reader_units import ReaderUnits
from yonderstat.core.rehearse import years_report
from yonderstat.core.station import StationModel
from yonderstat.core.sun import sun_tracks, tilt_map
from yonderstat.formats import (
    SHEETS,
    Paper,
    Sheet,
    card_pdf,
    load_rows,
    one_line,
    parts_rows,
    report_pdf,
    sheet_pdf,
    write_ods,
    write_parts,
)
from yonderstat.records import Archive, StoredDesign

from .access import require_read
from .actors import current_actor
from .api import Api
from .bodies import (
    AsBuilt,
    DesignView,
    FindingsView,
    NextActionsView,
    Patch,
    PatchOperation,
    SunPathView,
    TiltMapView,
)
from .clocks import zone_of
from .filenames import file_name
from .judged import Judge, report_on, with_line
from .patching import apply_patch, plain_operation
from .problems import Problem
from .transfer import ODS_TYPE, TakenAway
from .views import changed_since, design_view, next_steps, whole_report

READER = ("length", "degrees")
"""What a paper is asked for beside its size: the units of whoever reads it."""


def designs_api(archive: Archive, engine: Engine) -> Api:
    """The operations on designs."""
    api = Api()

    def view_since(stored: StoredDesign, revision: int, working: str, remedies: str) -> DesignView:
        found = design_view(stored, remedies)
        return changed_since(found, revision) if working == "changed" else found

    @api.operation(
        "GET", "/api/designs/{design_id}", access="read", answer=DesignView, options=("remedies",)
    )
    def read_design(design_id: UUID, remedies: str) -> DesignView:
        """A design with its report; with `remedies=later` it does not wait until those are
        tried."""
        return design_view(archive.design(design_id), remedies)

    @api.operation("GET", "/api/designs/{design_id}/findings", access="read", answer=FindingsView)
    def read_findings(design_id: UUID) -> FindingsView:
        """The findings on a design's newest revision, their remedies tried."""
        stored = archive.design(design_id)
        return FindingsView(stored.revision, whole_report(stored).findings)

    @api.operation(
        "GET", "/api/designs/{design_id}/next-actions", access="read", answer=NextActionsView
    )
    def read_next_actions(design_id: UUID) -> NextActionsView:
        """What to do next about the verdict of a design's newest revision: up to three steps, what
        is free first."""
        stored = archive.design(design_id)
        return NextActionsView(stored.revision, next_steps(stored))

    @api.operation(
        "PATCH",
        "/api/designs/{design_id}",
        access="edit",
        body=Patch,
        answer=DesignView,
        on_revision=True,
        options=("working", "remedies"),
    )
    def edit_design(
        design_id: UUID, body: list[PatchOperation], on_revision: int, working: str, remedies: str
    ) -> DesignView:
        """Change a design by JSON Patch on the revision in If-Match; `working=changed` answers with
        what moved, and `remedies=later` before the remedies of its findings are tried."""
        operations, judge = [plain_operation(item) for item in body], Judge()
        stored = archive.edit(
            design_id,
            on_revision,
            lambda design: apply_patch(design, operations),
            judge,
            current_actor(),
        )
        return view_since(judge.keep_for(stored), on_revision, working, remedies)

    @api.operation(
        "POST",
        "/api/designs/{design_id}/undo",
        access="edit",
        answer=DesignView,
        on_revision=True,
        options=("working", "remedies"),
    )
    def undo_design(design_id: UUID, on_revision: int, working: str, remedies: str) -> DesignView:
        """Go back one edit."""
        stored = with_line(archive, archive.undo(design_id, on_revision, current_actor()))
        return view_since(stored, on_revision, working, remedies)

    @api.operation(
        "POST",
        "/api/designs/{design_id}/redo",
        access="edit",
        answer=DesignView,
        on_revision=True,
        options=("working", "remedies"),
    )
    def redo_design(design_id: UUID, on_revision: int, working: str, remedies: str) -> DesignView:
        """Go forward again."""
        stored = with_line(archive, archive.redo(design_id, on_revision, current_actor()))
        return view_since(stored, on_revision, working, remedies)

    @api.operation(
        "POST", "/api/designs/{design_id}/as-built", access="edit", body=AsBuilt, answer=DesignView
    )
    def mark_as_built(design_id: UUID, body: AsBuilt) -> DesignView:
        """Make this the design that stands there."""
        return design_view(archive.mark_as_built(design_id))

    @api.operation(
        "GET",
        "/api/designs/{design_id}/tilt-map",
        access="read",
        answer=TiltMapView,
        query=("over",),
    )
    def read_tilt_map(design_id: UUID, over: str) -> TiltMapView:
        """Sun-hours by tilt and direction over the hard month or the months in use; none where the
        sun is not known."""
        stored = archive.design(design_id)
        if over not in {"hard", "year"}:
            raise Problem(
                400,
                "bad-query",
                "“over” must be “hard” (the worst month) or “year” (the months in use)",
            )
        months = (
            (report_on(stored).verdict.hard_month,)
            if over == "hard"
            else tuple(stored.design.brief.months)
        )
        return TiltMapView(stored.revision, tilt_map(stored.design, months))

    @api.operation("GET", "/api/designs/{design_id}/sun-path", access="read", answer=SunPathView)
    def read_sun_path(design_id: UUID) -> SunPathView:
        """The sun's way over the sky at both solstices, an equinox and in the hard month."""
        stored = archive.design(design_id)
        place = stored.design.place
        months = tuple(sorted({3, 6, 12, report_on(stored).verdict.hard_month}))
        return SunPathView(stored.revision, sun_tracks(place.latitude_deg, months) if place else ())

    @api.operation(
        "GET",
        "/api/designs/{design_id}/differences",
        access="read",
        answer=list[Difference],
        query=("from",),
    )
    def read_differences(design_id: UUID, **words: str) -> list[Difference]:
        """What differs from another design to this one, field by field."""
        other = _other(engine, words)
        return list(differences(archive.design(other).design, archive.design(design_id).design))

    @api.operation(
        "GET",
        "/api/designs/{design_id}/parts-from",
        access="read",
        answer=PartsFrom,
        query=("from",),
    )
    def read_parts_from(design_id: UUID, **words: str) -> PartsFrom:
        """What this design takes beyond another, and what of that one it frees for the shelf."""
        first, second = (archive.design(key).design for key in (_other(engine, words), design_id))
        lists = (items_of(design, StationModel(design).bus) for design in (first, second))
        added, freed = between(*lists)
        return PartsFrom(list(added), list(freed))

    @api.operation("DELETE", "/api/designs/{design_id}", access="edit", status=204)
    def delete_design(design_id: UUID) -> None:
        """Remove a design that is not the one as built."""
        archive.delete_design(design_id)

    @api.operation("GET", "/api/designs/{design_id}/file", access="read", file="application/json")
    def take_design_away(design_id: UUID) -> TakenAway:
        """The design as a file in the open format."""
        return _design_file(archive.design(design_id))

    @api.operation(
        "GET",
        "/api/designs/{design_id}/drawing",
        access="read",
        file="image/svg+xml",
        query=("length",),
    )
    def draw_design(design_id: UUID, length: str) -> TakenAway:
        """The one-line diagram; `length` is “metric” or “feet”, which names conductors by gauge."""
        if length not in {"metric", "feet"}:
            raise Problem(400, "bad-query", "“length” must be “metric” or “feet”")
        stored = archive.design(design_id)
        drawing = one_line(stored.design, report_on(stored), ReaderUnits(feet=length == "feet"))
        return TakenAway(f"{file_name(stored)}.svg", drawing.svg.encode())

    @api.operation("GET", "/api/designs/{design_id}/parts.csv", access="read", file="text/csv")
    def take_parts_away(design_id: UUID) -> TakenAway:
        """The parts list as a CSV file."""
        stored = archive.design(design_id)
        return TakenAway(
            f"{file_name(stored)}-parts.csv", write_parts(stored.design, report_on(stored)).encode()
        )

    @api.operation(
        "GET",
        "/api/designs/{design_id}/card",
        access="read",
        file="application/pdf",
        query=("paper",),
        options=READER,
    )
    def print_card(design_id: UUID, paper: str, length: str, degrees: str) -> TakenAway:
        """The site card for the wall, one page of PDF; `paper` is “a4” or “letter”, `length`
        “metric” or “feet”, `degrees` “C” or “F”."""
        stored = archive.design(design_id)
        sheet = _sheet(stored, paper, length, degrees)
        card = card_pdf(stored.site_name, stored.design, report_on(stored), sheet)
        return TakenAway(f"{file_name(stored)}-card.pdf", card)

    @api.operation(
        "GET",
        "/api/designs/{design_id}/report",
        access="read",
        file="application/pdf",
        query=("paper",),
        options=(*READER, "formulas"),
    )
    def print_report(
        design_id: UUID, paper: str, length: str, degrees: str, formulas: str
    ) -> TakenAway:
        """The report as PDF: one page of answer, then charts, findings, diagram, runs, parts,
        cautions and sources; with `formulas=yes` every figure with its formula as well."""
        stored = archive.design(design_id)
        sheet = _sheet(stored, paper, length, degrees)
        if formulas not in {"", "yes", "no"}:
            raise Problem(400, "bad-query", "“formulas” must be “yes” or “no”")
        told = report_pdf(
            stored.site_name,
            stored.design,
            report_on(stored),
            sheet,
            years_report(stored.design),
            formulas == "yes",
        )
        return TakenAway(f"{file_name(stored)}-report.pdf", told)

    @api.operation(
        "GET",
        "/api/designs/{design_id}/sheet",
        access="read",
        file="application/pdf",
        query=("kind", "paper"),
        options=READER,
    )
    def print_sheet(design_id: UUID, kind: str, paper: str, length: str, degrees: str) -> TakenAway:
        """A sheet as PDF: `kind` is “parts”, “schedule” (cables and fuses) or “labels”."""
        if kind not in SHEETS:
            raise Problem(400, "bad-query", "“kind” must be “parts”, “schedule” or “labels”")
        stored = archive.design(design_id)
        sheet = _sheet(stored, paper, length, degrees)
        told = sheet_pdf(kind, stored.site_name, stored.design, report_on(stored), sheet)
        return TakenAway(f"{file_name(stored)}-{kind}.pdf", told)

    @api.operation("GET", "/api/designs/{design_id}/parts.ods", access="read", file=ODS_TYPE)
    def take_parts_ods(design_id: UUID) -> TakenAway:
        """The parts list as an OpenDocument spreadsheet."""
        stored = archive.design(design_id)
        return TakenAway(
            f"{file_name(stored)}-parts.ods",
            write_ods("Parts", parts_rows(stored.design, report_on(stored))),
        )

    @api.operation("GET", "/api/designs/{design_id}/loads.ods", access="read", file=ODS_TYPE)
    def take_loads_ods(design_id: UUID) -> TakenAway:
        """The load ledger as an OpenDocument spreadsheet."""
        return _loads_ods(archive.design(design_id))

    @api.operation(
        "GET", "/api/designs/{design_id}/report.json", access="read", file="application/json"
    )
    def take_report_away(design_id: UUID) -> TakenAway:
        """The whole report as JSON: every figure with its working."""
        stored = archive.design(design_id)
        return TakenAway(
            f"{file_name(stored)}-report.json", REPORT.dump_json(report_on(stored), indent=1)
        )

    return api


REPORT = TypeAdapter(Report)


@dataclass(frozen=True, slots=True)
class PartsFrom:
    """From one design to the next: what is added, and what is free again."""

    added: list[Step]
    freed: list[Step]


def _other(engine: Engine, words: dict[str, str]) -> UUID:
    try:
        other = UUID(words["from"])
    except ValueError:
        raise Problem(400, "bad-query", "“from” must be the id of a design") from None
    require_read(engine, "design_id", other)
    return other


PAPERS: dict[str, Paper] = {"a4": "a4", "letter": "letter"}


def _sheet(stored: StoredDesign, paper: str, length: str, degrees: str) -> Sheet:
    """How a paper is set for its reader, with what it is of at its foot."""
    if paper not in PAPERS:
        raise Problem(400, "bad-query", "“paper” must be “a4” or “letter”")
    if length not in {"", "metric", "feet"} or degrees not in {"", "C", "F"}:
        raise Problem(400, "bad-query", "“length” must be “metric” or “feet”, “degrees” “C” or “F”")
    return Sheet(
        paper=PAPERS[paper],
        units=ReaderUnits(feet=length == "feet", fahrenheit=degrees == "F"),
        stamp=f"{stored.site_name}, {stored.design.name}, revision {stored.revision}, "
        f"saved {stored.saved_at.astimezone(zone_of(stored)):%Y-%m-%d}",
    )


def _loads_ods(stored: StoredDesign) -> TakenAway:
    return TakenAway(f"{file_name(stored)}-loads.ods", write_ods("Loads", load_rows(stored.design)))


def _design_file(stored: StoredDesign) -> TakenAway:
    # As it is stored where this program cannot read it: an export must never depend on what is
    # wrong.
    document = document_of(stored.read) if isinstance(stored.read, Design) else stored.document
    if isinstance(stored.read, Design):
        document = {**document, "site": stored.site_name}
    text = json.dumps(document, ensure_ascii=False, indent=2) + "\n"
    return TakenAway(f"{file_name(stored)}.yonderstat.json", text.encode())
