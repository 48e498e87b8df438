"""The load ledger as a table of text: CSV out, and CSV or a spreadsheet's clipboard in, with a guess at the columns."""

import csv
import re
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError

from yonderstat.core.design import Design, Fault, Load, faults_of

from .sheets import Rows, write_csv

MOST_ROWS = 200
COLUMNS = (
    "name",
    "kind",
    "quantity",
    "standby_a",
    "receive_a",
    "transmit_a",
    "transmit_share_percent",
    "rated_w",
    "power_w",
    "mode",
    "hours_per_day",
    "rail",
    "tier",
    "interlock",
)
GUESSES: dict[str, tuple[str, ...]] = {
    "name": ("name", "load", "item", "device", "what"),
    "kind": ("kind", "type", "class"),
    "quantity": ("quantity", "qty", "count", "number", "how many", "x", "×"),
    "standby_a": ("standby", "sleep", "idle off"),
    "receive_a": ("receive", "rx", "on a", "idle", "amps", "current", "a"),
    "transmit_a": ("transmit a", "tx a", "tx", "transmit", "key down"),
    "transmit_share_percent": ("transmit share", "duty", "key %", "tx %", "share", "key"),
    "rated_w": ("rated", "max power"),
    "power_w": ("power", "setting", "watts"),
    "mode": ("mode",),
    "hours_per_day": ("hours", "h/day", "h a day", "time"),
    "rail": ("rail", "supply", "outlet"),
    "tier": ("tier", "worth", "priority"),
    "interlock": ("interlock", "never with", "group"),
}


@dataclass(frozen=True, slots=True)
class TableFault:
    """What is wrong in a table: the line, from 1 with the heading counted, the column, and why."""

    line: int
    column: str
    message: str


@dataclass(frozen=True, slots=True)
class ReadTable:
    """A table read: which column was taken for what, the loads, and every fault. Use the loads only without faults."""

    columns: list[str | None]
    had_heading: bool
    loads: list[Load]
    faults: list[TableFault]


def _known(item: Any) -> str:
    return "" if item is None else f"{item.value:g}"


def load_rows(design: Design) -> Rows:
    """The ledger as rows, a heading first."""
    rows = [[*COLUMNS]]
    for load in design.draw.loads:
        share = f"{load.transmit_share.value * 100:g}" if load.transmit_a else ""
        cells = [load.name, load.kind, load.quantity, _known(load.standby_a), _known(load.receive_a)]
        cells += [_known(load.transmit_a), share, _known(load.rated_w), _known(load.power_w), load.mode or ""]
        cells += [_known(load.hours_per_day), load.rail, load.tier or "", load.interlock]
        rows.append([str(cell) for cell in cells])
    return rows


def write_loads(design: Design) -> str:
    """The ledger as CSV."""
    return write_csv(load_rows(design))


def _cells(text: str) -> list[list[str]]:
    lines = [line for line in text.replace("\r\n", "\n").replace("\r", "\n").split("\n") if line.strip()]
    first = lines[0] if lines else ""
    delimiter = max("\t;,", key=first.count)
    rows = csv.reader(lines, delimiter=delimiter)
    return [[cell.strip().removeprefix("'") for cell in row] for row in rows]


def _bad_line(text: str) -> int:
    """The line with the longest cell a table reader refuses, from 1."""
    lines = text.splitlines()
    return max(range(len(lines)), key=lambda number: len(lines[number])) + 1


def _guess(heading: list[str]) -> list[str | None]:
    """Which field each heading names, each field once; exact names first, then the likeliest word in it."""
    found: list[str | None] = [None] * len(heading)
    plain = [re.sub(r"[\s_]+", " ", cell.lower()).strip(" ,.:") for cell in heading]
    matchers: list[Callable[[str, str], bool]] = [
        lambda cell, name: cell == name.replace("_", " "),
        lambda cell, name: cell in GUESSES[name],
        lambda cell, name: any(len(word) > 2 and word in cell for word in GUESSES[name]),
    ]
    for matches in matchers:
        for name in COLUMNS:
            if name in found:
                continue
            hit = next((i for i, cell in enumerate(plain) if found[i] is None and matches(cell, name)), None)
            if hit is not None:
                found[hit] = name
    return found


def _number(text: str) -> float:
    tidy = re.sub(r"\s*(a|amps?|w|h|hours?|%|×|x)$", "", text.strip().lower()).replace(",", ".")
    return float(tidy)


def _fields(row: dict[str, str]) -> dict[str, Any]:
    """The document of a load from its cells, the empty ones left out."""
    document: dict[str, Any] = {}
    known = {"standby_a", "receive_a", "transmit_a", "rated_w", "power_w", "hours_per_day"}
    for column, text in row.items():
        if text == "":
            continue
        try:
            if column in known:
                document[column] = {"value": _number(text), "basis": "stated"}
            elif column == "quantity":
                value = _number(text)
                document[column] = int(value) if value == int(value) else value
            elif column == "transmit_share_percent":
                document["transmit_share"] = {"value": _number(text) / 100, "basis": "stated"}
            else:
                document[column] = text.lower() if column in {"kind", "mode", "tier"} else text
        except (ValueError, OverflowError):
            raise _CellError(column, f"“{text[:40]}” is not a number") from None
    return document


class _CellError(ValueError):
    def __init__(self, column: str, message: str) -> None:
        super().__init__(message)
        self.column = column


def read_loads(text: str, rails: list[str], taken: list[str]) -> ReadTable:
    """Loads from a table of text.

    Parameters
    ----------
    rails : list of str
        The rails the design has besides the bus; another name is a fault.
    taken : list of str
        Ids that are in use; new loads get others.
    """
    try:
        cells = _cells(text)
    except csv.Error as error:
        return ReadTable([], False, [], [TableFault(_bad_line(text), "", f"cannot be read: {error}")])
    if not cells:
        return ReadTable([], False, [], [TableFault(1, "", "there is nothing in it")])
    guess = _guess(cells[0])
    had_heading = "name" in guess or sum(item is not None for item in guess) >= 2
    columns: list[str | None] = guess if had_heading else _by_content(cells[0])
    body = cells[1:] if had_heading else cells
    if len(body) > MOST_ROWS:
        fault = TableFault(MOST_ROWS + 2, "", f"there are {len(body)} rows; a design holds at most {MOST_ROWS} loads")
        return ReadTable(columns, had_heading, [], [fault])
    loads: list[Load] = []
    faults: list[TableFault] = []
    ids = set(taken)
    for line, row in enumerate(body, start=2 if had_heading else 1):
        pairs = {name: cell for name, cell in zip(columns, row, strict=False) if name is not None}
        try:
            loads.append(_load(pairs, rails, ids))
        except _CellError as error:
            faults.append(TableFault(line, error.column, str(error)))
        except ValidationError as error:
            faults += [TableFault(line, _field_of(item), item.message) for item in faults_of(error)]
    return ReadTable(columns, had_heading, loads, faults)


def _field_of(fault: Fault) -> str:
    return fault.pointer.removeprefix("/").split("/")[0]


def _by_content(row: list[str]) -> list[str | None]:
    """Without a heading: the first text is the name, then the numbers in the order people write them."""
    order = iter(("receive_a", "transmit_a", "transmit_share_percent", "hours_per_day"))
    columns: list[str | None] = []
    for cell in row:
        try:
            _number(cell)
        except ValueError:
            columns.append("name" if "name" not in columns else None)
        else:
            columns.append(next(order, None))
    return columns


def _load(pairs: dict[str, str], rails: list[str], ids: set[str]) -> Load:
    document = _fields(pairs)
    if "rail" in document and document["rail"] not in {"bus", *rails}:
        raise _CellError("rail", f"“{document['rail'][:40]}” is not a rail of this design")
    number = len(ids) + 1
    while f"load-{number}" in ids:
        number += 1
    ids.add(f"load-{number}")
    document.setdefault("receive_a", {"value": 0.0, "basis": "default"})
    return Load.model_validate({"id": f"load-{number}", "name": "Load", **document})
