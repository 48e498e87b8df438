"""What the Draw step brings in from outside: contact logs, tables of loads; and usual loads and
rails to start from."""

from dataclasses import dataclass
from typing import Annotated
from uuid import UUID

from pydantic import ConfigDict, Field

from yonderstat.core.design import NO_BANK_V
from yonderstat.core.draw import Activity, LoggedTempo, OverLength, logged_tempo, usual_overs
from yonderstat.formats import (
    ContactLogError,
    LogDigest,
    LogForm,
    ReadTable,
    SheetError,
    digest_log,
    read_loads,
    read_sheet,
    write_loads,
)
from yonderstat.records import Archive

from .api import Api, Body, model_fault
from .filenames import file_name
from .transfer import TakenAway, Uploaded

MOST_ACTIVITY = 60_000
MOST_TABLE_BYTES = 2_000_000


@dataclass(frozen=True, slots=True)
class TableAsText:
    """The cells of a table, parted by tabs and line breaks."""

    text: str


class LogPart(Body):
    """A part of a contact log, cut between records."""

    form: LogForm
    text: Annotated[str, Field(max_length=2_500_000)]


class LoggedRequest(Body):
    """What a whole log said, part by part, and the assumption on overs; none takes the usual."""

    # Strict reading takes dataclasses only as such, and these come as plain objects.
    model_config = ConfigDict(strict=False)

    activity: Annotated[list[Activity], Field(max_length=MOST_ACTIVITY)]
    overs: Annotated[list[OverLength], Field(max_length=4)] | None = None


class LoggedAnswer(Body):
    """The tempo proposed, and the assumption it rests on."""

    proposal: LoggedTempo
    overs: list[OverLength]


class TableText(Body):
    """A table of loads as text: CSV, or a spreadsheet's clipboard."""

    text: Annotated[str, Field(max_length=2_000_000)]
    columns: Annotated[list[str | None], Field(max_length=60)] = Field(default_factory=list)
    """What each column is, where somebody said so; empty takes the guess."""


def draw_tools_api(archive: Archive) -> Api:
    """The operations behind the Draw step."""
    api = Api()

    @api.operation(
        "POST",
        "/api/contact-logs/digest",
        access="read",
        about="nothing",
        body=LogPart,
        answer=LogDigest,
    )
    def digest_contact_log(body: LogPart) -> LogDigest:
        """What a part of a contact log says."""
        try:
            return digest_log(body.text, body.form)
        except ContactLogError as error:
            raise model_fault("/text", str(error)) from None

    @api.operation(
        "POST",
        "/api/designs/{design_id}/logged-tempo",
        access="read",
        body=LoggedRequest,
        answer=LoggedAnswer,
    )
    def propose_logged_tempo(design_id: UUID, body: LoggedRequest) -> LoggedAnswer:
        """A tempo proposed from a contact log; nothing is stored."""
        if not body.activity:
            raise model_fault("/activity", "has no contacts")
        overs = body.overs if body.overs is not None else usual_overs()
        if len({item.mode for item in overs}) != 4:
            raise model_fault("/overs", "must name each of the four modes once")
        design = archive.design(design_id).design
        return LoggedAnswer(proposal=logged_tempo(design, body.activity, overs), overs=overs)

    @api.operation(
        "POST",
        "/api/designs/{design_id}/loads/read",
        access="read",
        body=TableText,
        answer=ReadTable,
    )
    def read_load_table(design_id: UUID, body: TableText) -> ReadTable:
        """A table of loads read, with the columns guessed and every fault; nothing is stored."""
        design = archive.design(design_id).design
        rails = {rail.id: rail.volts.value for rail in design.draw.rails}
        bank = design.store.bank
        taken = [load.id for load in design.draw.loads]
        return read_loads(
            body.text, rails, taken, bank.series * bank.unit_v if bank else NO_BANK_V, body.columns
        )

    @api.operation(
        "POST",
        "/api/tables/text",
        access="read",
        about="nothing",
        upload=MOST_TABLE_BYTES,
        answer=TableAsText,
    )
    def read_table_as_text(upload: Uploaded) -> TableAsText:
        """A table file, CSV or ODS, as text with tabs: what a clipboard would hold of it. Nothing
        is stored."""
        try:
            rows = read_sheet(upload.name, upload.data)
        except SheetError as error:
            raise model_fault("/upload", str(error)) from None
        return TableAsText(
            "\n".join("\t".join(" ".join(cell.split()) for cell in row) for row in rows)
        )

    @api.operation("GET", "/api/designs/{design_id}/loads.csv", access="read", file="text/csv")
    def take_loads_away(design_id: UUID) -> TakenAway:
        """The load ledger as a CSV file."""
        stored = archive.design(design_id)
        return TakenAway(f"{file_name(stored)}-loads.csv", write_loads(stored.design).encode())

    return api
