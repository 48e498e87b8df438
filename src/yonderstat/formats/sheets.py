"""Tables other programs read and write: CSV and OpenDocument (ODS), rows of texts in and out,
limited and as data."""

import csv
import io
import re
import zipfile
from collections.abc import Sequence

from .cells import tame

MOST_SHEET_ROWS, MOST_SHEET_COLUMNS, MOST_CELL = 5000, 60, 500
MOST_UNPACKED = 40_000_000
"""Bytes an ODS may unpack to: a sheet of this many rows has a tenth of it."""
SEPARATORS = ",;\t"
FIGURE = re.compile(r"-?(?:0|[1-9]\d{0,11})(?:\.\d{1,12})?")
Rows = list[list[str]]


class SheetError(ValueError):
    """The file is refused; the message says what, where and what to do."""


def write_csv(rows: Sequence[Sequence[str]]) -> str:
    """Rows as CSV, no cell a formula."""
    sink = io.StringIO()
    writer = csv.writer(sink, lineterminator="\n")
    writer.writerows([tame(cell) for cell in row] for row in rows)
    return sink.getvalue()


def write_ods(name: str, rows: Sequence[Sequence[str]]) -> bytes:
    """Rows as an OpenDocument spreadsheet of one sheet; what is a number is kept as one, all else
    is text."""
    from odfdo import Document, Row, Table

    document = Document("spreadsheet")
    body = document.body
    body.clear()
    sheet = Table(name[:30])
    for cells in rows:
        row = Row()
        row.set_values([_number_or_text(cell) for cell in cells])
        sheet.append_row(row)
    body.append(sheet)
    sink = io.BytesIO()
    document.save(sink)
    return sink.getvalue()


def _number_or_text(cell: str) -> float | str:
    """A figure as one; what only looks like one, such as 0012 or 1e5, stays the text it is."""
    return float(cell) if FIGURE.fullmatch(cell) else cell


def read_sheet(name: str, data: bytes) -> Rows:
    """The rows of a CSV or ODS file, as texts.

    Raises
    ------
    SheetError
        Where it is neither, too large, or no table.
    """
    rows = (
        _read_ods(name, data)
        if data[:4] == b"PK\x03\x04" or name.lower().endswith(".ods")
        else _read_csv(name, data)
    )
    if not rows:
        raise SheetError(f"{name} has no rows")
    if len(rows) > MOST_SHEET_ROWS:
        raise SheetError(f"{name} has more than {MOST_SHEET_ROWS} rows; split it")
    for number, row in enumerate(rows, start=1):
        if len(row) > MOST_SHEET_COLUMNS:
            raise SheetError(
                f"{name}: line {number} has {len(row)} columns; {MOST_SHEET_COLUMNS} are allowed"
            )
        long = next((cell for cell in row if len(cell) > MOST_CELL), None)
        if long is not None:
            raise SheetError(
                f"{name}: line {number} has a cell with {len(long)} characters; {MOST_CELL} "
                "are allowed"
            )
    return rows


def _read_csv(name: str, data: bytes) -> Rows:
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        line = data[: error.start].count(b"\n") + 1
        raise SheetError(
            f"{name}: line {line} isn't UTF-8 text. Save the file as plain text (UTF-8) and "
            "load it again"
        ) from None
    first = text.split("\n", 1)[0]
    separator = max(SEPARATORS, key=first.count)
    try:
        rows = [
            [cell.strip() for cell in row]
            for row in csv.reader(io.StringIO(text, newline=""), delimiter=separator)
        ]
    except csv.Error as error:
        raise SheetError(f"{name} is no table: {error}") from None
    return [row for row in rows if any(row)]


def _read_ods(name: str, data: bytes) -> Rows:
    from odfdo import Document, Table

    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            if sum(item.file_size for item in packed.infolist()) > MOST_UNPACKED:
                raise SheetError(
                    f"{name} unpacks to more than {MOST_UNPACKED // 1000000} MB, too much for a "
                    "parts list"
                )
            content = packed.read("content.xml")
        if b"<!DOCTYPE" in content or b"<!ENTITY" in content:
            raise SheetError(
                f"{name} has embedded definitions we don't accept; save it again as a plain "
                "spreadsheet"
            )
        sheets = Document(io.BytesIO(data)).body.get_elements("table:table")
    except SheetError:
        raise
    except Exception as error:
        # Whatever a damaged package breaks in the library, it is the file that is at fault.
        raise SheetError(
            f"{name} isn't a readable OpenDocument spreadsheet ({type(error).__name__}); "
            "save it again"
        ) from error
    sheet = next((item for item in sheets if isinstance(item, Table)), None)
    if sheet is None:
        raise SheetError(f"{name} has no sheet in it")
    sheet.rstrip(aggressive=True)
    if sheet.height > MOST_SHEET_ROWS or sheet.width > MOST_SHEET_COLUMNS:
        raise SheetError(
            f"{name} has over {MOST_SHEET_ROWS} rows or {MOST_SHEET_COLUMNS} columns; split it"
        )
    rows = [[_text(value) for value in row] for row in sheet.get_values()]
    return [row for row in rows if any(row)]


def _text(value: object) -> str:
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    return f"{float(str(value)):g}" if _is_number(value) else str(value).strip()


def _is_number(value: object) -> bool:
    return type(value).__name__ in {"int", "float", "Decimal"}
