"""Step 2, Draw: the loads."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from .base import KnownAmps, KnownHours, KnownShare, Months, Name, Section, Slug, Words, all_year

Tier = Literal["vital", "useful", "comfort"]


class Load(Section):
    """A thing that draws current from the battery bus.

    `receive_a` is the current whenever it is on and not transmitting: receive, idle, or simply running.
    """

    id: Slug
    name: Name
    quantity: Annotated[int, Field(ge=1, le=100)] = 1
    receive_a: KnownAmps
    transmit_a: KnownAmps | None = None
    transmit_share: KnownShare = KnownShare(value=0.0)
    hours_per_day: KnownHours = KnownHours(value=24.0)
    months: Months = Field(default_factory=all_year)
    tier: Tier = "vital"
    interlock: Annotated[Words, Field(max_length=40)] = ""
    """Loads that name the same group never transmit together."""


class Draw(Section):
    loads: Annotated[list[Load], Field(max_length=200)] = Field(default_factory=list)

    @model_validator(mode="after")
    def _ids_once(self) -> "Draw":
        ids = [load.id for load in self.loads]
        if len(set(ids)) != len(ids):
            raise ValueError("two loads carry the same id; every load needs its own")
        return self
