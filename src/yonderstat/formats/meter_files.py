"""The table in a meter's file, a piece at a time: CSV in any usual encoding, OpenDocument or
Excel."""

import codecs
import csv
import io
import itertools
import zipfile
from collections.abc import Iterator
from dataclasses import dataclass
from typing import BinaryIO

import pandas as pd

from .sheets import SheetError, read_sheet

MOST_METER_ROWS, MOST_METER_COLUMNS = 600_000, 60
PIECE_ROWS = 50_000
MOST_UNPACKED, MOST_LINE = 300_000_000, 20_000
HEAD_BYTES = 65_536
PACKED = b"PK\x03\x04"


class MeterLogError(ValueError):
    """The file is refused whole; the message names line and column."""


@dataclass(frozen=True, slots=True, kw_only=True)
class MeterFile:
    """A file that was opened: its name, its heading, its encoding, and what was noticed of it."""

    name: str
    heading: list[str]
    file: BinaryIO
    kind: str
    encoding: str = "utf-8"
    separator: str = ","
    notes: tuple[str, ...] = ()

    def pieces(self) -> Iterator[tuple[int, pd.DataFrame]]:
        """Its rows as texts, some at a time, each with the number of its first line; from the
        beginning every time.

        Raises
        ------
        MeterLogError
            Where it has too many rows, or is no table.
        """
        rows = 0
        made = self._csv_pieces() if self.kind == "csv" else self._packed_pieces()
        for piece in made:
            rows += len(piece)
            if rows > MOST_METER_ROWS:
                raise MeterLogError(f"{self.name} has over {MOST_METER_ROWS} rows; split it")
            yield rows - len(piece) + 2, piece

    def _csv_pieces(self) -> Iterator[pd.DataFrame]:
        self.file.seek(0)
        # Universal line ends: some loggers still write bare carriage returns.
        text = io.TextIOWrapper(self.file, encoding=self.encoding, newline=None, errors="strict")
        try:
            with pd.read_csv(
                text,
                sep=self.separator,
                dtype=str,
                keep_default_na=False,
                header=None,
                skiprows=1,
                names=list(range(len(self.heading))),
                index_col=False,
                chunksize=PIECE_ROWS,
                skip_blank_lines=False,
            ) as pieces:
                for piece in pieces:
                    yield piece.fillna("")
        except pd.errors.EmptyDataError:
            return
        except UnicodeDecodeError:
            raise MeterLogError(
                f"{self.name} is no {self.encoding.upper()} text to its end; save it anew"
            ) from None
        except (pd.errors.ParserError, ValueError, OverflowError) as error:
            raise MeterLogError(f"{self.name} is no table: {str(error)[:200]}") from None
        finally:
            # The file is the caller's: it stays open. A reader that was left half-way ends after it
            # was closed.
            if not text.closed:
                text.detach()

    def _packed_pieces(self) -> Iterator[pd.DataFrame]:
        self.file.seek(0)
        rows = (
            _xlsx_rows(self.name, self.file)
            if self.kind == "xlsx"
            else iter(read_sheet(self.name, self.file.read()))
        )
        next(rows, None)
        width = len(self.heading)
        while piece := list(itertools.islice(rows, PIECE_ROWS)):
            yield pd.DataFrame([(row + [""] * width)[:width] for row in piece], dtype=str)


def _encoding(name: str, head: bytes, file: BinaryIO) -> tuple[str, tuple[str, ...]]:
    if head[:2] in (codecs.BOM_UTF16_LE, codecs.BOM_UTF16_BE):
        return "utf-16", ()
    if head.count(b"\0") > len(head) // 4:
        return ("utf-16-le" if head[1:2] == b"\0" else "utf-16-be"), ()
    if b"\0" in head:
        raise MeterLogError(
            f"{name} is no text, and no spreadsheet that is known here; save it as CSV"
        )
    decoder = codecs.getincrementaldecoder("utf-8-sig")()
    file.seek(0)
    try:
        while part := file.read(1_000_000):
            decoder.decode(part)
        decoder.decode(b"", final=True)
    except UnicodeDecodeError:
        return "cp1252", (
            (
                "It is no UTF-8, and was read as Windows text: look whether signs such as ° are "
                "right"
            ),
        )
    return "utf-8-sig", ()


def open_meter_file(name: str, file: BinaryIO) -> MeterFile:
    """Look at a file: what it is, and its heading.

    Raises
    ------
    MeterLogError
        Where it is no table.
    """
    file.seek(0)
    head = file.read(HEAD_BYTES)
    if not head.strip():
        raise MeterLogError(f"{name} is empty")
    if head[:4] == PACKED:
        return _open_packed(name, file)
    if head[:8] == b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1":
        raise MeterLogError(
            f"{name} is a spreadsheet of the old kind (.xls); save it as .xlsx, .ods or CSV"
        )
    encoding, notes = _encoding(name, head, file)
    first = (
        head.decode(encoding, errors="ignore")
        .replace("\r\n", "\n")
        .replace("\r", "\n")
        .split("\n", 1)[0]
    )
    first = first.removeprefix("\ufeff")
    if len(first) > MOST_LINE:
        raise MeterLogError(f"{name}: line 1 has over {MOST_LINE} characters; that is no heading")
    separator = max(";\t,", key=first.count)
    heading = [
        cell.strip() for cell in next(csv.reader(io.StringIO(first), delimiter=separator), [])
    ]
    _check_width(name, heading)
    return MeterFile(
        name=name,
        heading=heading,
        file=file,
        kind="csv",
        encoding=encoding,
        separator=separator,
        notes=notes,
    )


def _check_width(name: str, heading: list[str]) -> None:
    if len(heading) > MOST_METER_COLUMNS:
        raise MeterLogError(
            f"{name}: line 1 has {len(heading)} columns; {MOST_METER_COLUMNS} are allowed"
        )
    if not heading:
        raise MeterLogError(f"{name}: line 1 has no heading")


def _open_packed(name: str, file: BinaryIO) -> MeterFile:
    try:
        with zipfile.ZipFile(file) as packed:
            names = {item.filename for item in packed.infolist()}
            unpacked = sum(item.file_size for item in packed.infolist())
    except (zipfile.BadZipFile, OSError, ValueError, NotImplementedError) as error:
        raise MeterLogError(f"{name} is no whole spreadsheet: {error}") from None
    if unpacked > MOST_UNPACKED:
        raise MeterLogError(
            f"{name} unpacks to over {MOST_UNPACKED // 1_000_000} MB; save it as CSV"
        )
    file.seek(0)
    if "xl/workbook.xml" in names:
        heading = [cell.strip() for cell in next(_xlsx_rows(name, file), [])]
        _check_width(name, heading)
        return MeterFile(name=name, heading=heading, file=file, kind="xlsx")
    try:
        rows = read_sheet(name, file.read())
    except SheetError as error:
        raise MeterLogError(str(error)) from None
    _check_width(name, rows[0])
    return MeterFile(name=name, heading=rows[0], file=file, kind="ods")


def _xlsx_rows(name: str, file: BinaryIO) -> Iterator[list[str]]:
    """The rows of the first sheet of a workbook, as texts; figures and moments as they are kept,
    not as shown."""
    from openpyxl import load_workbook
    from openpyxl.utils.exceptions import InvalidFileException

    try:
        book = load_workbook(file, read_only=True, data_only=True, keep_links=False)
        try:
            for row in book.worksheets[0].iter_rows(
                values_only=True, max_col=MOST_METER_COLUMNS + 1
            ):
                cells = ["" if cell is None else str(cell) for cell in row]
                while cells and not cells[-1]:
                    cells.pop()
                if cells:
                    yield cells
        finally:
            book.close()
    except MeterLogError:
        raise
    except (
        InvalidFileException,
        zipfile.BadZipFile,
        KeyError,
        IndexError,
        ValueError,
        TypeError,
        OSError,
    ) as error:
        raise MeterLogError(
            f"{name} is no workbook that can be read ({type(error).__name__}); save it as CSV"
        ) from None
    except Exception as error:
        # Whatever a damaged workbook breaks in the library, it is the file that is at fault.
        raise MeterLogError(
            f"{name} is no workbook that can be read ({type(error).__name__}); save it as CSV"
        ) from error
