"""Step 8, Build: what is there, what is bought, and what has been done."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from .base import KnownKilos, KnownLength, KnownMoney, Name, Readable, Section, Slug, Words

PartId = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9.-]{0,79}$")]


Ahead = Annotated[float, Field(ge=-20, le=20)]
Stage = Literal["now", "next", "later"]


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
    ahead_m: Ahead | None = None
    """Where it stands in the trailer: metres ahead of the axle, behind it negative."""
    shelf: Slug | None = None
    """The part of the club's shelf these are, where they are."""


class Cargo(Section):
    """Something that travels along and is no part of the station's power: radios, people, water."""

    id: Slug
    name: Name
    kg: KnownKilos
    ahead_m: Ahead = 0.0


class Haul(Section):
    """The trailer it all stands in."""

    hitch_m: KnownLength
    """From the axle, or the middle of its axles, to the hitch."""
    empty_kg: KnownKilos
    empty_nose_kg: KnownKilos
    """On the hitch when empty."""
    nose_limit_kg: KnownKilos | None = None
    """What hitch and car allow; the lesser of the two."""
    gross_limit_kg: KnownKilos | None = None
    cargo: Annotated[list[Cargo], Field(max_length=60)] = Field(default_factory=list)

    @model_validator(mode="after")
    def _can_tip(self) -> "Haul":
        ids = [cargo.id for cargo in self.cargo]
        if len(set(ids)) != len(ids):
            raise ValueError("two pieces of cargo have the same id; each needs its own")
        if self.hitch_m.value < 0.2:
            raise ValueError(
                "has its hitch less than 0.2 m from the axle; measure from the axle to the tow ball"
            )
        return self


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
    stage: Stage | None = None
    """When it is to be built: now, next, or when money allows."""
    haul: Haul | None = None

    @model_validator(mode="after")
    def _once(self) -> "Build":
        for word, ids in (
            ("parts", [part.id for part in self.parts]),
            ("ticks", [tick.id for tick in self.ticks]),
        ):
            if len(set(ids)) != len(ids):
                raise ValueError(f"two {word} have the same id; each line needs its own")
        return self
