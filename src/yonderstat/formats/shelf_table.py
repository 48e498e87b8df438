"""The club's shelf as a table: one row a part, out and in."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError

from yonderstat.core.design import Fault, faults_of
from yonderstat.core.shelf import MOST_PARTS, Shelf, ShelfPart, Stock

from .sheets import Rows

Read = Callable[[str], Any]


@dataclass(frozen=True, slots=True)
class _Column:
    """A column: where its figure is in a part, and whether it is a figure with a basis."""

    name: str
    way: tuple[str, ...]
    read: Read = str
    known: bool = False


def _number(text: str) -> float:
    """A figure, with a decimal comma where somebody writes one."""
    return float(text.replace(",", "."))


def _whole(text: str) -> int:
    value = _number(text)
    if value != int(value):
        raise ValueError
    return int(value)


COLUMNS = (
    _Column("id", ("id",)),
    _Column("kind", ("kind",)),
    _Column("name", ("name",)),
    _Column("count", ("count",), _number),
    _Column("watts", ("module", "watts"), _number, True),
    _Column("cells", ("module", "cells"), _whole),
    _Column("v_mp", ("module", "v_mp"), _number, True),
    _Column("v_oc", ("module", "v_oc"), _number, True),
    _Column("i_sc", ("module", "i_sc"), _number, True),
    _Column("measured_v_oc", ("module", "measured_v_oc"), _number, True),
    _Column("measured_i_sc", ("module", "measured_i_sc"), _number, True),
    _Column("panel_condition", ("module", "condition")),
    _Column("chemistry", ("battery", "chemistry")),
    _Column("unit_v", ("battery", "unit_v"), _number),
    _Column("unit_ah", ("battery", "unit_ah"), _number, True),
    _Column("tested_ah", ("battery", "tested_ah"), _number, True),
    _Column("controller", ("controller",)),
    _Column("max_v", ("regulator", "max_v"), _number, True),
    _Column("max_charge_a", ("regulator", "max_charge_a"), _number, True),
    _Column("shows", ("regulator", "shows")),
    _Column("charger_kind", ("charger", "kind")),
    _Column("charger_a", ("charger", "amps"), _number, True),
    _Column("charger_v", ("charger", "volts"), _number, True),
    _Column("mm2", ("mm2",), _number),
    _Column("cores", ("cores",), _whole),
    _Column("fuse", ("fuse",)),
    _Column("rating_a", ("rating_a",), _number),
    _Column("price", ("price",), _number, True),
    _Column("currency", ("currency",)),
    _Column("priced", ("priced",)),
    _Column("weight_kg", ("weight_kg",), _number, True),
    _Column("age_years", ("age_years",), _number, True),
    _Column("condition", ("condition",)),
    _Column("owner", ("owner",)),
    _Column("kept", ("kept",)),
    _Column("note", ("note",)),
)
BY_NAME = {column.name: column for column in COLUMNS}
LABEL_OF = {
    "panel": "module",
    "battery": "battery",
    "controller": "regulator",
    "charger": "charger",
}
OUT_ONLY = ("free", "reserved", "away")


class ShelfTableError(ValueError):
    """The table is refused; `faults` says what is wrong in which line and column."""

    def __init__(self, faults: list[Fault]) -> None:
        super().__init__("; ".join(fault.message for fault in faults[:5]))
        self.faults = faults


def _cell(document: Mapping[str, Any], column: _Column) -> str:
    value: Any = document
    for step in column.way:
        value = value.get(step) if isinstance(value, Mapping) else None
    if column.known and isinstance(value, Mapping):
        value = value["value"]
    if value is None:
        return ""
    return f"{value:g}" if isinstance(value, float) else str(value)


def shelf_rows(shelf: Shelf, stock: Mapping[str, Stock]) -> Rows:
    """The shelf as rows, a heading first; what is free, reserved and away stands at the end and is
    not read back."""
    rows = [[*BY_NAME, *OUT_ONLY]]
    for part in shelf.parts:
        document = part.model_dump(mode="json")
        label = LABEL_OF.get(part.kind)
        told = {
            key: value
            for key, value in document.items()
            if key not in LABEL_OF.values() or key == label
        }
        if part.kind != "controller":
            told.pop("controller")
        if part.kind != "cable":
            told.pop("cores")
        held = stock[part.id]
        rows.append(
            [
                *(_cell(told, column) for column in COLUMNS),
                f"{held.free:g}",
                f"{held.reserved:g}",
                f"{held.away:g}",
            ]
        )
    return rows


def _put(document: dict[str, Any], column: _Column, value: Any) -> None:
    at = document
    for step in column.way[:-1]:
        at = at.setdefault(step, {"id": "charger", "name": "charger"} if step == "charger" else {})
    at[column.way[-1]] = {"value": value, "basis": "label"} if column.known else value


def _part(row: list[str], columns: list[_Column | None], line: int) -> ShelfPart | list[Fault]:
    document: dict[str, Any] = {}
    faults = []
    for column, cell in zip(columns, row, strict=False):
        if column is None or cell == "":
            continue
        text = cell.removeprefix("'") if cell[:2] in {"'=", "'+", "'-", "'@"} else cell
        try:
            _put(document, column, column.read(text))
        except ValueError:
            message = f"line {line}: {column.name} must be a number, not “{cell[:40]}”"
            faults.append(Fault("/upload", message))
    if faults:
        return faults
    kind = document.get("kind", "other")
    label = LABEL_OF.get(kind)
    if label is not None:
        document.setdefault(label, {})
    document.setdefault("id", f"row-{line}")
    try:
        return ShelfPart.model_validate(document)
    except ValidationError as error:
        return [
            Fault(
                "/upload",
                f"line {line}: {fault.pointer.lstrip('/') or 'the row'} {fault.message}",
            )
            for fault in faults_of(error)
        ]


def parts_of_rows(rows: Rows) -> list[ShelfPart]:
    """The parts a table holds, its first row naming the columns.

    Raises
    ------
    ShelfTableError
        With every fault: nothing of a table with one is taken.
    """
    heading = [cell.strip().lower() for cell in rows[0]]
    if "name" not in heading:
        known = ", ".join(list(BY_NAME)[:8])
        raise ShelfTableError(
            [
                Fault(
                    "/upload",
                    f"line 1 must hold the column names, such as {known}; “name” is missing",
                )
            ]
        )
    unknown = [cell for cell in heading if cell and cell not in BY_NAME and cell not in OUT_ONLY]
    if unknown:
        raise ShelfTableError(
            [
                Fault(
                    "/upload", f"line 1 has “{unknown[0]}”, which isn't a column of the club stores"
                )
            ]
        )
    columns = [BY_NAME.get(cell) for cell in heading]
    faults: list[Fault] = []
    found: list[ShelfPart] = []
    for line, row in enumerate(rows[1:], start=2):
        part = _part(row, columns, line)
        if isinstance(part, list):
            faults += part
        else:
            found.append(part)
    if len(found) > MOST_PARTS:
        faults.append(
            Fault(
                "/upload",
                f"the table has {len(found)} parts; the club stores hold {MOST_PARTS} at most",
            )
        )
    if faults:
        raise ShelfTableError(faults[:50])
    return found
