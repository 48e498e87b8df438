"""A line of help for every field of the document, by its way into it."""

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache
from types import UnionType
from typing import Annotated, Any, Union, get_args, get_origin

from pydantic import BaseModel

from ..data import toml_table
from .base import Known
from .document import Design

ROW = "*"
"""Stands for any row of a list in a way."""


@dataclass(frozen=True, slots=True)
class FieldHelp:
    """What a field wants, and the range that is usual, in SI; None where no range says anything."""

    words: str
    low: float | None = None
    high: float | None = None


def _inside(annotation: Any) -> tuple[list[type[BaseModel]], bool]:
    """The models in a field's type, and whether it lists them."""
    origin = get_origin(annotation)
    if origin is Annotated:
        return _inside(get_args(annotation)[0])
    if origin in (Union, UnionType):
        parts = [_inside(part) for part in get_args(annotation)]
        return [model for models, _ in parts for model in models], any(
            listed for _, listed in parts
        )
    if origin is list:
        return _inside(get_args(annotation)[0])[0], True
    if isinstance(annotation, type) and issubclass(annotation, BaseModel):
        return [annotation], False
    return [], False


def ways(model: type[BaseModel] = Design, before: str = "") -> Iterator[tuple[str, str, str]]:
    """Every field of the document: the way to it, the section that has it, and its name there."""
    for name, field in model.model_fields.items():
        way = f"{before}/{name}" if before else name
        yield way, model.__name__, name
        models, listed = _inside(field.annotation)
        for inner in models:
            if not issubclass(inner, Known):
                yield from ways(inner, f"{way}/{ROW}" if listed else way)


@cache
def field_help(model: type[BaseModel] = Design) -> dict[str, FieldHelp]:
    """The help of every field of a document that has one, by the way to it:
    `draw/loads/*/receive_a`."""
    table = toml_table("field_help")
    found = {}
    for way, section, name in ways(model):
        entry = table.get(section, {}).get(name)
        if entry is not None:
            words, low, high = (*entry, None, None)[:3]
            found[way] = FieldHelp(words, low, high)
    return found
