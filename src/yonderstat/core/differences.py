"""What differs between two designs: every field that is not the same, with both values as they are
typed."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from .design import Design, document_of

Scalar = str | float | bool | None
LEFT_OUT = {"format", "version", "name", "muted"}
"""What says nothing about the station."""


@dataclass(frozen=True, slots=True)
class Difference:
    """A field that two designs fill differently; what a design has not is None."""

    pointer: str
    """In the first design, or in the second where the first has no such row."""
    place: tuple[str, ...]
    """The way there: section, the row's name, the field."""
    first: Scalar
    second: Scalar


def _is_known(value: Any) -> bool:
    """Whether it is a figure with its basis: what counts of it is the value."""
    return isinstance(value, dict) and set(value) == {"basis", "value"}


def _named(row: Any, number: int) -> str:
    name = row.get("name") if isinstance(row, dict) else None
    return str(name or number + 1)


def _rows(
    first: list[Any], second: list[Any], at: str, place: tuple[str, ...]
) -> Iterator[Difference]:
    """Rows with ids are met by id, others by their place."""

    def key(row: Any, number: int) -> object:
        return row.get("id", number) if isinstance(row, dict) else number

    theirs = {key(row, number): (number, row) for number, row in enumerate(second)}
    for number, row in enumerate(first):
        other = theirs.pop(key(row, number), None)
        where = (*place, _named(row, number))
        if other is None:
            yield Difference(f"{at}/{number}", where, "there", None)
        else:
            yield from _between(row, other[1], f"{at}/{number}", where)
    for number, row in theirs.values():
        yield Difference(f"{at}/{number}", (*place, _named(row, number)), None, "there")


def _between(first: Any, second: Any, at: str, place: tuple[str, ...]) -> Iterator[Difference]:
    if _is_known(first):
        first = first["value"]
    if _is_known(second):
        second = second["value"]
    if isinstance(first, dict) and isinstance(second, dict):
        for name in {**first, **second}:
            if name != "id":
                yield from _between(
                    first.get(name), second.get(name), f"{at}/{name}", (*place, name)
                )
    elif isinstance(first, list) and isinstance(second, list):
        if any(isinstance(row, dict) for row in (*first, *second)):
            yield from _rows(first, second, at, place)
        elif first != second:
            yield Difference(at, place, ", ".join(map(str, first)), ", ".join(map(str, second)))
    elif first != second:
        yield Difference(at, place, _plain(first), _plain(second))


def _plain(value: Any) -> Scalar:
    return "there" if isinstance(value, dict | list) else value


def differences(first: Design, second: Design) -> tuple[Difference, ...]:
    """What differs between two designs, in the order of the document."""
    mine, theirs = document_of(first), document_of(second)
    return tuple(
        item
        for name in mine
        if name not in LEFT_OUT
        for item in _between(mine[name], theirs[name], f"/{name}", (name,))
    )
