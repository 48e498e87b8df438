"""Step 8, Build: what is there, what is bought, and what has been done."""

from typing import Annotated

from pydantic import Field, model_validator

from .base import KnownKilos, KnownMoney, Readable, Section, Slug, Words

PartId = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9.-]{0,79}$")]


class OwnPart(Section):
    """What somebody knows of a line of the parts list; the line itself follows from the design."""

    id: PartId
    have: Annotated[float, Field(ge=0, le=100_000), Readable] = 0.0
    """How many, or how many metres, are there already."""
    price: KnownMoney | None = None
    """Of one, or of a metre."""
    weight_kg: KnownKilos | None = None
    """Of one, or of a metre."""
    where: Annotated[Words, Field(max_length=80)] = ""
    """Where it sits, or is kept."""
    bought: Annotated[Words, Field(max_length=40)] = ""
    """Where the price is from and when."""
    shelf: Slug | None = None
    """The part of the club's shelf these are, where they are."""


class Tick(Section):
    """One thing of a checklist that is done."""

    id: PartId
    by: Annotated[Words, Field(min_length=1, max_length=12)]
    """Initials."""
    at: Annotated[Words, Field(max_length=40)] = ""
    """Day and time, as the person's clock had it."""


class Build(Section):
    parts: Annotated[list[OwnPart], Field(max_length=400)] = Field(default_factory=list)
    ticks: Annotated[list[Tick], Field(max_length=400)] = Field(default_factory=list)
    call: Annotated[Words, Field(max_length=200)] = ""
    """Who to call, for the card on the wall."""

    @model_validator(mode="after")
    def _once(self) -> "Build":
        for word, ids in (("parts", [part.id for part in self.parts]), ("ticks", [tick.id for tick in self.ticks])):
            if len(set(ids)) != len(ids):
                raise ValueError(f"two {word} carry the same id; each line is told once")
        return self
