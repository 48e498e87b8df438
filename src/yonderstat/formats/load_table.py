"""The load ledger as a table of text: CSV out, and CSV or a spreadsheet's clipboard in, with a
guess at the columns."""

import csv
import io
import math
import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
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
    "name": ("name", "load", "item", "device", "what", "gerät", "verbraucher", "nom", "appareil", "nombre", "equipo",
             "nome", "apparecchio", "naam", "apparaat"),
    "kind": ("kind", "type", "class", "art", "typ", "tipo", "soort"),
    "quantity": ("quantity", "qty", "count", "number", "how many", "x", "×", "anzahl", "stück", "quantité", "cantidad",
                 "quantità", "aantal"),
    "standby_a": ("standby", "sleep", "idle off", "bereitschaft", "veille", "reposo", "riposo", "slaap"),
    "receive_a": ("receive", "receiving", "rx", "on a", "idle", "amps", "current", "a", "empfang", "empfangsstrom",
                  "strom", "réception", "courant", "recepción", "corriente", "ricezione", "corrente", "ontvangst",
                  "stroom"),
    "transmit_a": ("transmit a", "tx a", "tx", "transmit", "transmitting", "key down", "senden", "sendestrom",
                   "émission", "transmisión", "trasmissione", "zenden", "zendstroom"),
    "transmit_share_percent": ("transmit share", "duty", "key %", "tx %", "share", "key", "sendeanteil", "anteil",
                               "part d'émission", "proporción", "quota"),
    "rated_w": ("rated", "max power", "nennleistung", "nominale", "nominal"),
    "power_w": ("power", "setting", "watts", "leistung", "puissance", "potencia", "potenza", "vermogen"),
    "mode": ("mode", "betriebsart", "modo", "modus"),
    "hours_per_day": ("hours", "h/day", "h a day", "time", "stunden", "heures", "horas", "ore", "uren"),
    "rail": ("rail", "supply", "outlet"),
    "tier": ("tier", "worth", "priority", "priorität", "priorité", "prioridad", "priorità", "prioriteit"),
    "interlock": ("interlock", "never with", "group", "not with"),
}  # fmt: skip
"""Words for each column, in six languages. [C]"""
MOST_CELL = 500
AMPS, WATTS, MILLI, HOURS, SHARE = (
    ("", "a", "amp", "amps", "ampere"), ("w", "watt", "watts"), ("ma",),
    ("", "h", "hour", "hours"), ("", "%"),
)  # fmt: skip
FIGURE = re.compile(r"([+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:[eE][+-]?\d{1,3})?) ?([^\d\s]{0,8})")


@dataclass(frozen=True, slots=True)
class TableFault:
    """What is wrong in a table: the line, from 1 with the heading counted, the column, and why."""

    line: int
    column: str
    message: str


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadTable:
    """A table read: which column was taken for what, the loads, and every fault. Use the loads only
    without faults."""

    columns: list[str | None]
    had_heading: bool
    loads: list[Load]
    faults: list[TableFault]
    headings: list[str] = field(default_factory=list)
    unknown: list[str] = field(default_factory=list)
    """Headings nobody here knows, over columns that hold something: ask what they are, or that they
    be left out."""


def _known(item: Any) -> str:
    return "" if item is None else f"{item.value:g}"


def load_rows(design: Design) -> Rows:
    """The ledger as rows, a heading first."""
    rows = [[*COLUMNS]]
    for load in design.draw.loads:
        share = f"{load.transmit_share.value * 100:g}" if load.transmit_a else ""
        cells = [
            load.name,
            load.kind,
            load.quantity,
            _known(load.standby_a),
            _known(load.receive_a),
        ]
        cells += [
            _known(load.transmit_a),
            share,
            _known(load.rated_w),
            _known(load.power_w),
            load.mode or "",
        ]
        cells += [_known(load.hours_per_day), load.rail, load.tier or "", load.interlock]
        rows.append([str(cell) for cell in cells])
    return rows


def write_loads(design: Design) -> str:
    """The ledger as CSV."""
    return write_csv(load_rows(design))


def _cells(text: str) -> list[list[str]]:
    """Rows of cells; a line break within a cell becomes a blank, and rows of nothing are left
    out."""
    plain = text.replace("\r\n", "\n").replace("\r", "\n").lstrip("\n")
    first = plain.split("\n", 1)[0]
    delimiter = max("\t;,", key=first.count)
    rows = csv.reader(io.StringIO(plain, newline=""), delimiter=delimiter)
    cells = [[" ".join(cell.split()).removeprefix("'") for cell in row] for row in rows]
    return [row for row in cells if any(row)]


def _bad_line(text: str) -> int:
    """The line with the longest cell a table reader refuses, from 1."""
    lines = text.splitlines()
    return max(range(len(lines)), key=lambda number: len(lines[number])) + 1


def _has_word(cell: str, word: str) -> bool:
    return re.search(rf"\b{re.escape(word)}\b", cell) is not None


def _guess(heading: list[str]) -> list[str | None]:
    """Which field each heading names, each field once; exact names first, then the likeliest word
    in it."""
    found: list[str | None] = [None] * len(heading)
    plain = [re.sub(r"[\s_]+", " ", cell.lower()).strip(" ,.:") for cell in heading]
    matchers: list[Callable[[str, str], bool]] = [
        lambda cell, name: cell == name.replace("_", " "),
        lambda cell, name: cell in GUESSES[name],
        lambda cell, name: any(
            len(word) > 1 and re.search(rf"\b{re.escape(word)}\b", cell) for word in GUESSES[name]
        ),
        lambda cell, name: any(len(word) > 3 and word in cell for word in GUESSES[name]),
    ]
    for matches in matchers:
        for name in COLUMNS:
            if name in found:
                continue
            hit = next(
                (i for i, cell in enumerate(plain) if found[i] is None and matches(cell, name)),
                None,
            )
            if hit is not None:
                found[hit] = name
    return found


def _figure(text: str, units: tuple[str, ...]) -> tuple[float, str]:
    """A figure with the unit behind it; another unit than these is no figure of the column's."""
    found = FIGURE.fullmatch(text.lower())
    if found is None:
        raise ValueError(f"“{text[:40]}” isn't a number")
    value = float(found[1].replace(",", "."))
    if not math.isfinite(value):
        raise ValueError(f"“{text[:40]}” is not a finite number")
    if found[2] not in units:
        known = ", ".join(unit for unit in units if unit)
        raise ValueError(f"“{text[:40]}” is in {found[2]}; type it in {known}")
    return value, found[2]


def _amps(text: str, volts: float) -> tuple[float, float | None]:
    """Amps from a cell of the amps columns, and the watts where it was watts: those by the volts of
    the load's rail."""
    value, unit = _figure(text, (*AMPS, *WATTS, *MILLI))
    if unit in WATTS:
        return value / volts, value
    return (value / 1000.0 if unit in MILLI else value), None


def _number(text: str) -> float:
    """A plain figure, or one with any of the units people write behind it."""
    return _figure(text, (*AMPS, *WATTS, *MILLI, *HOURS, *SHARE, "×", "x"))[0]


def _fields(row: dict[str, str], volts: float) -> dict[str, Any]:
    """The document of a load from its cells, the empty ones left out."""
    document: dict[str, Any] = {}
    for column, text in row.items():
        if text == "":
            continue
        try:
            if len(text) > MOST_CELL:
                raise ValueError(f"has {len(text)} characters; at most {MOST_CELL}")
            document |= _field(column, text, volts)
        except (ValueError, OverflowError) as error:
            raise _CellError(column, str(error)) from None
    return document


def _field(column: str, text: str, volts: float) -> dict[str, Any]:
    """What a cell says of a load."""
    if column in {"standby_a", "receive_a", "transmit_a"}:
        amps, watts = _amps(text, volts)
        said: dict[str, Any] = {column: {"value": amps, "basis": "stated"}}
        if watts is not None and column == "receive_a":
            said["receive_w"] = {"value": watts, "basis": "stated"}
        return said
    if column in {"rated_w", "power_w"}:
        return {column: {"value": _figure(text, ("", *WATTS))[0], "basis": "stated"}}
    if column == "hours_per_day":
        return {column: {"value": _figure(text, HOURS)[0], "basis": "stated"}}
    if column == "quantity":
        value = _figure(text, ("", "x", "×"))[0]
        return {column: int(value) if value == int(value) else value}
    if column == "transmit_share_percent":
        return {"transmit_share": {"value": _figure(text, SHARE)[0] / 100, "basis": "stated"}}
    return {column: text.lower() if column in {"kind", "mode", "tier"} else text}


class _CellError(ValueError):
    def __init__(self, column: str, message: str) -> None:
        super().__init__(message)
        self.column = column


def read_loads(
    text: str,
    rails: Mapping[str, float],
    taken: list[str],
    bus_v: float = 12.0,
    said: Sequence[str | None] = (),
) -> ReadTable:
    """Loads from a table of text.

    Parameters
    ----------
    rails : mapping of str to float
        The rails the design has besides the bus, with their volts; another name is a fault. [V]
    taken : list of str
        Ids that are in use; new loads get others.
    bus_v : float
        Nominal volts of the bus, for watts in a column of amps. [V]
    said : sequence of str or None
        What a person said each column is; empty takes the guess.
    """
    try:
        cells = _cells(text)
    except csv.Error as error:
        return ReadTable(
            columns=[],
            had_heading=False,
            loads=[],
            faults=[TableFault(_bad_line(text), "", f"cannot be read: {error}")],
        )
    if not cells:
        return ReadTable(
            columns=[],
            had_heading=False,
            loads=[],
            faults=[TableFault(1, "", "it is empty")],
        )
    guess = _guess(cells[0])
    had_heading = bool(said) or "name" in guess or sum(item is not None for item in guess) >= 2
    columns = list(said) or (guess if had_heading else _by_content(cells[0]))
    headings = cells[0] if had_heading else []
    wrong = [item for item in columns if item is not None and item not in COLUMNS]
    if wrong or len(columns) != len(cells[0]):
        why = (
            f"“{wrong[0][:40]}” is nothing a column can be"
            if wrong
            else f"{len(cells[0])} columns are to be named"
        )
        return ReadTable(
            columns=columns,
            had_heading=had_heading,
            loads=[],
            faults=[TableFault(1, "", why)],
            headings=headings,
        )
    body = cells[1:] if had_heading else cells
    if len(body) > MOST_ROWS:
        fault = TableFault(
            MOST_ROWS + 2,
            "",
            f"it has {len(body)} rows; a design holds {MOST_ROWS} loads at most",
        )
        return ReadTable(
            columns=columns, had_heading=had_heading, loads=[], faults=[fault], headings=headings
        )
    unknown = [] if said or not had_heading else _unknown(headings, columns, body)
    volts = {"bus": bus_v, **rails}
    loads: list[Load] = []
    faults: list[TableFault] = []
    ids = set(taken)
    for line, row in enumerate(body, start=2 if had_heading else 1):
        pairs = {name: cell for name, cell in zip(columns, row, strict=False) if name is not None}
        try:
            loads.append(_load(pairs, volts, ids))
        except _CellError as error:
            faults.append(TableFault(line, error.column, str(error)))
        except ValidationError as error:
            faults += [TableFault(line, _field_of(item), item.message) for item in faults_of(error)]
    return ReadTable(
        columns=columns,
        had_heading=had_heading,
        loads=loads,
        faults=faults,
        headings=headings,
        unknown=unknown,
    )


def _unknown(headings: list[str], columns: list[str | None], body: list[list[str]]) -> list[str]:
    """The headings that are taken for nothing over columns that hold something."""
    return [
        heading or f"column {place + 1}"
        for place, (heading, column) in enumerate(zip(headings, columns, strict=True))
        if column is None and any(place < len(row) and row[place] for row in body)
    ]


def _field_of(fault: Fault) -> str:
    return fault.pointer.removeprefix("/").split("/")[0]


def _by_content(row: list[str]) -> list[str | None]:
    """Without a heading: the first text is the name, then the numbers in the order people write
    them."""
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


def _load(pairs: dict[str, str], volts: Mapping[str, float], ids: set[str]) -> Load:
    rail = pairs.get("rail") or "bus"
    if rail not in volts:
        raise _CellError("rail", f"this design has no supply line called “{rail[:40]}”")
    document = _fields(pairs, volts[rail])
    number = len(ids) + 1
    while f"load-{number}" in ids:
        number += 1
    ids.add(f"load-{number}")
    document.setdefault("receive_a", {"value": 0.0, "basis": "default"})
    return Load.model_validate({"id": f"load-{number}", "name": "Load", **document})
