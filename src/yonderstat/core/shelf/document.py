"""The shelf as a document: what lies on it, and what has been taken on an outing."""

from collections.abc import Sequence
from datetime import date
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, Field, ValidationError, model_validator

from ..design import (
    Bank,
    Charger,
    Chemistry,
    Fault,
    FuseKind,
    InvalidDesignError,
    Module,
    Regulator,
    Section,
    faults_of,
)
from ..design.base import KnownKilos, KnownMoney, KnownYears, Name, Readable, Slug, Words

FORMAT = "yonderstat-shelf"
VERSION = 1
MOST_PARTS, MOST_OUTINGS = 500, 60
ShelfKind = Literal[
    "panel", "battery", "controller", "charger", "cable", "fuse", "converter", "other"
]
NEEDS: dict[str, str] = {
    "panel": "module",
    "battery": "battery",
    "controller": "regulator",
    "charger": "charger",
}
"""The label a part of a kind has; the others have none that a design could take."""


def _day(text: str) -> str:
    if text == "":
        return text
    try:
        return date.fromisoformat(text).isoformat()
    except ValueError:
        raise ValueError(f"is {text[:20]!r}; it must be a day, such as 2026-07-10") from None


Day = Annotated[str, Field(max_length=20), AfterValidator(_day)]


class ShelfPart(Section):
    """Something that lies on the shelf: so many alike, or so many metres."""

    id: Slug
    name: Name
    kind: ShelfKind = "other"
    count: Annotated[float, Field(ge=0, le=100_000), Readable] = 1.0
    """How many, or metres of cable."""
    module: Module | None = None
    battery: Bank | None = None
    """One unit, as on its label and as measured; its series and parallel do not count."""
    controller: Literal["pwm", "mppt", "shunt"] = "pwm"
    """With a controller: its kind."""
    regulator: Regulator | None = None
    charger: Charger | None = None
    made_for: Annotated[list[Chemistry], Field(max_length=6)] = Field(default_factory=list)
    """Battery kinds a charger is made for; empty where nobody has looked."""
    mm2: Annotated[float, Field(gt=0, le=300), Readable] | None = None
    """Of a cable: one conductor."""
    cores: Annotated[int, Field(ge=1, le=40)] = 1
    """Conductors of a cable, side by side: a twin has two."""
    fuse: FuseKind | None = None
    """The family of a fuse: one of another does not go into its holder."""
    rating_a: Annotated[float, Field(gt=0, le=2000), Readable] | None = None
    """Of a fuse, a connector, a switch."""
    price: KnownMoney | None = None
    """Of one, or of a metre."""
    currency: Annotated[Words, Field(max_length=8)] = ""
    priced: Day = ""
    """The day of the price."""
    weight_kg: KnownKilos | None = None
    """Of one, or of a metre."""
    age_years: KnownYears | None = None
    condition: Annotated[Words, Field(max_length=120)] = ""
    owner: Annotated[Words, Field(max_length=60)] = ""
    """Whose it is, or who lends it."""
    kept: Annotated[Words, Field(max_length=80)] = ""
    """Where it is kept."""
    note: Annotated[Words, Field(max_length=500)] = ""

    @model_validator(mode="after")
    def _has_its_label(self) -> "ShelfPart":
        needed = NEEDS.get(self.kind)
        if needed is not None and getattr(self, needed) is None:
            raise ValueError(f"is a {self.kind} without “{needed}”; enter it from the label")
        return self

    @property
    def is_sound(self) -> bool:
        """Whether a design may count on it."""
        return not (
            self.module and (self.module.condition == "cracked" or self.module.own_inverter)
        )


class Away(Section):
    """So many of a part, taken along."""

    part: Slug
    count: Annotated[float, Field(gt=0, le=100_000), Readable]


class Outing(Section):
    """Kit taken out together. While it is out, it is missing where it is used."""

    id: Slug
    name: Name
    first_day: Day = ""
    last_day: Day = ""
    out: bool = False
    """It is away now."""
    takes: Annotated[list[Away], Field(max_length=200)] = Field(default_factory=list)

    @model_validator(mode="after")
    def _days_rise(self) -> "Outing":
        if self.first_day and self.last_day and self.last_day < self.first_day:
            raise ValueError("ends before it begins; swap the two dates")
        return self


class Shelf(Section):
    """All of the club's shelf: one for all sites."""

    format: Literal["yonderstat-shelf"] = "yonderstat-shelf"
    version: Literal[1] = 1
    parts: Annotated[list[ShelfPart], Field(max_length=MOST_PARTS)] = Field(default_factory=list)
    outings: Annotated[list[Outing], Field(max_length=MOST_OUTINGS)] = Field(default_factory=list)

    @model_validator(mode="after")
    def _fits_together(self) -> "Shelf":
        ids = [part.id for part in self.parts]
        known = _once("parts", ids)
        _once("outings", [outing.id for outing in self.outings])
        for outing in self.outings:
            for away in outing.takes:
                if away.part not in known:
                    raise ValueError(
                        f"has an outing “{outing.name}” that takes “{away.part}”, but the "
                        "club stores have no such part"
                    )
        return self

    def part(self, part_id: str) -> ShelfPart | None:
        """A part by id."""
        return next((part for part in self.parts if part.id == part_id), None)


def _once(word: str, ids: Sequence[str]) -> set[str]:
    if len(set(ids)) != len(ids):
        raise ValueError(f"two {word} have the same id; each needs its own")
    return set(ids)


class InvalidShelfError(InvalidDesignError):
    """The document cannot be read as a shelf; `faults` names every place."""


def shelf_from_document(document: Any) -> Shelf:
    """The shelf a decoded JSON document describes.

    Raises
    ------
    InvalidShelfError
        With every fault and its place.
    """
    if not isinstance(document, dict) or document.get("format") != FORMAT:
        raise InvalidShelfError(
            [Fault("/format", f'must be "{FORMAT}"; this is not a file of club stores')]
        )
    if document.get("version") != VERSION:
        raise InvalidShelfError(
            [Fault("/version", f"must be {VERSION}; this program reads only that version")]
        )
    try:
        return Shelf.model_validate(document)
    except ValidationError as error:
        raise InvalidShelfError(faults_of(error)) from None


def shelf_document_of(shelf: Shelf) -> dict[str, Any]:
    """The shelf as a JSON-ready document."""
    return shelf.model_dump(mode="json")
