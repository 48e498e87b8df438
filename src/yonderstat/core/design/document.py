"""The whole design document, and reading it with every fault named at once."""

import json
from dataclasses import dataclass
from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError, model_validator
from pydantic_core import ErrorDetails

from .array import Array
from .base import MAIN, Name, Section, Words
from .brief import Brief
from .build import Build
from .bus import Bus
from .draw import Draw
from .labelled import UnfitLabelError, draw_as_labelled, store_as_labelled
from .migrations import migrated, readable_versions
from .place import Place
from .store import Store
from .sun import Sun

FORMAT = "yonderstat-design"
NO_BANK_V = 12.0
"""Nominal volts of the bus where there is no bank yet."""


class Muted(Section):
    """A finding somebody has read and lives with, and why. A Stop cannot be muted."""

    finding: Annotated[str, Field(min_length=1, max_length=200)]
    """Its id."""
    reason: Annotated[Words, Field(min_length=1, max_length=200)]


class Design(Section):
    """One design of one station. This is the stored record, the API body and the open file, all at
    once."""

    format: Literal["yonderstat-design"] = "yonderstat-design"
    version: Literal[3] = 3
    name: Name = "Unnamed design"
    brief: Brief = Field(default_factory=Brief)
    place: Place | None = None
    draw: Draw = Field(default_factory=Draw)
    store: Store = Field(default_factory=Store)
    sun: Sun = Field(default_factory=Sun)
    array: Array = Field(default_factory=Array)
    bus: Bus = Field(default_factory=Bus)
    build: Build = Field(default_factory=Build)
    muted: Annotated[list[Muted], Field(max_length=100)] = Field(default_factory=list)
    site: Annotated[
        Name | None,
        Field(exclude_if=lambda name: name is None, json_schema_extra={"x-left-out": True}),
    ] = None
    """In a file taken away: the name of its site. Kept designs stand under their site and do not
    carry it."""

    @model_validator(mode="after")
    def _ends_are_there(self) -> "Design":
        banks = {
            MAIN,
            *(item.id for item in self.store.layers),
            *(item.id for item in self.store.packs),
        }
        strings = {item.id for item in self.array.strings}
        for rail in self.draw.rails:
            if rail.bank not in banks:
                raise ValueError(
                    f"has a supply line “{rail.name}” on the battery “{rail.bank}”, which doesn't "
                    "exist"
                )
            if rail.outlet_of is not None and rail.outlet_of not in strings:
                raise ValueError(
                    f"has a supply line “{rail.name}” on the controller of “{rail.outlet_of}”, "
                    "which doesn't exist"
                )
        return self


def as_brought(design: Design) -> Design:
    """A design from a file, as it comes to stand under a site: without the site's name, and
    claiming no part of the club's shelf, which may be another club's."""
    parts = [part.model_copy(update={"shelf": None}) for part in design.build.parts]
    build = (
        design.build
        if parts == design.build.parts
        else design.build.model_copy(update={"parts": parts})
    )
    return design.model_copy(update={"site": None, "build": build})


@dataclass(frozen=True, slots=True)
class Bound:
    """A number beyond its limit, in SI, so that it can be said in the units of whoever typed it."""

    given: float
    word: Literal["at least", "more than", "at most", "less than"]
    limit: float


@dataclass(frozen=True, slots=True)
class Fault:
    """What is wrong with a document, and where (a JSON pointer, RFC 6901)."""

    pointer: str
    message: str
    bound: Bound | None = None
    """Where the message is that a number is beyond its limit."""


class InvalidDesignError(ValueError):
    """The document cannot be read as a design; `faults` names every place."""

    def __init__(self, faults: list[Fault]) -> None:
        super().__init__("; ".join(f"{fault.pointer or '/'}: {fault.message}" for fault in faults))
        self.faults = faults


_SENTENCES = {
    "extra_forbidden": "isn't a field of a design; remove it or check the spelling",
    "missing": "is missing",
}


def _refuse_constant(text: str) -> float:
    raise ValueError(f"{text} isn't allowed as a number in a design")


_BOUNDS: dict[str, tuple[Literal["at least", "more than", "at most", "less than"], str]] = {
    "greater_than_equal": ("at least", "ge"),
    "greater_than": ("more than", "gt"),
    "less_than_equal": ("at most", "le"),
    "less_than": ("less than", "lt"),
}


def _bound(error: ErrorDetails) -> Bound | None:
    known, given = _BOUNDS.get(error["type"]), error["input"]
    if known is None or not isinstance(given, int | float):
        return None
    word, name = known
    return Bound(float(given), word, float(error["ctx"][name]))


def _sentence(error: ErrorDetails) -> str:
    kind, limits = error["type"], error.get("ctx", {})
    if kind in _BOUNDS:
        word, limit = _BOUNDS[kind]
        return f"is {error['input']}; it must be {word} {limits[limit]:g}"
    if kind == "int_type" and isinstance(error["input"], float):
        return f"is {_shown(error['input'])}; it must be a whole number"
    if kind in {"float_type", "int_type"}:
        return f"is {_shown(error['input'])}; it must be a number"
    if kind == "finite_number":
        return "is not a finite number"
    if kind == "literal_error":
        return f"is {_shown(error['input'])}; it must be one of {limits['expected']}"
    if kind == "string_pattern_mismatch":
        return f"is {_shown(error['input'])}; use small letters, digits and hyphens"
    if kind == "value_error":
        return str(limits["error"])
    return _SENTENCES.get(kind, error["msg"][0].lower() + error["msg"][1:])


def _shown(value: object) -> str:
    text = json.dumps(value, ensure_ascii=False, default=str)
    return text if len(text) <= 60 else text[:57] + "…"


def pointer_of(path: tuple[int | str, ...]) -> str:
    """The JSON pointer of a path, escaped as RFC 6901 asks."""
    return "".join("/" + str(step).replace("~", "~0").replace("/", "~1") for step in path)


def faults_of(error: ValidationError) -> list[Fault]:
    """Every fault of a pydantic refusal, in our words."""
    return [
        Fault(pointer_of(detail["loc"]), _sentence(detail), _bound(detail))
        for detail in error.errors(include_url=False)
    ]


def as_labelled(design: Design) -> Design:
    """The design with amp-hours and amps that follow from the watt-hours and watts of a label,
    where those are given.

    Told once: the watts on the label are what was typed, and the amps beside them are worked out
    from them.
    """
    store = store_as_labelled(design.store)
    bank = store.bank
    draw = draw_as_labelled(design.draw, bank.series * bank.unit_v if bank else NO_BANK_V)
    if store is design.store and draw is design.draw:
        return design
    return design.model_copy(update={"store": store, "draw": draw})


def design_from_document(document: Any) -> Design:
    """The design a decoded JSON document describes.

    Raises
    ------
    InvalidDesignError
        With every fault and its place.
    """
    if not isinstance(document, dict):
        raise InvalidDesignError([Fault("", "is not a design: the file must hold one JSON object")])
    if not document:
        raise InvalidDesignError(
            [Fault("", f'is empty; a design starts with "format": "{FORMAT}"')]
        )
    if document.get("format") != FORMAT:
        raise InvalidDesignError([Fault("/format", f'must be "{FORMAT}"')])
    if type(document.get("version")) is not int or document["version"] not in readable_versions():
        known = ", ".join(str(version) for version in readable_versions())
        raise InvalidDesignError(
            [Fault("/version", f"must be one of {known}: those this program reads")]
        )
    try:
        return as_labelled(Design.model_validate(migrated(document)))
    except ValidationError as error:
        raise InvalidDesignError(faults_of(error)) from None
    except UnfitLabelError as error:
        raise InvalidDesignError([Fault(error.pointer, str(error))]) from None


def design_from_json(text: str | bytes) -> Design:
    """The design in a JSON text; see `design_from_document`."""
    try:
        document = json.loads(text, parse_constant=_refuse_constant)
    except (ValueError, RecursionError) as error:
        raise InvalidDesignError([Fault("", f"is not JSON: {error}")]) from None
    return design_from_document(document)


def document_of(design: Design) -> dict[str, Any]:
    """The design as a JSON-ready document, every field written out."""
    return design.model_dump(mode="json")
