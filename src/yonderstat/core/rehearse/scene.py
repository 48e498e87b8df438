"""What is rehearsed: the outage you fear, on a date, in a kind of weather, at a tempo a day, with what goes wrong."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from ..design import Section
from ..design.base import Slug

Sky = Literal["typical", "poor", "worst", "record", "none"]
MOST_DAYS = 30
MOST_HAPPENINGS = 60
HappeningKind = Literal[
    "string_lost",
    "controller_lost",
    "charger_lost",
    "backup_lost",
    "mains_back",
    "snow",
    "battery_lost",
    "extra_load",
    "cold_snap",
    "internet_down",
    "low_power",
    "generator",
    "swap",
]
Hour = Annotated[int, Field(ge=0, le=MOST_DAYS * 24)]

NEEDS_AMOUNT = {
    "extra_load": "how many amps it takes",
    "cold_snap": "how many kelvin colder it gets",
    "low_power": "the transmit watts it is turned down to",
    "generator": "how many amps it gives",
    "mains_back": "how many amps the charger gives",
}
NEEDS_STRING = {"string_lost", "controller_lost"}


class Happening(Section):
    """Something that goes wrong, or that somebody does, from an hour to an hour."""

    kind: HappeningKind
    from_h: Hour = 0
    to_h: Hour
    of: Slug | None = None
    """The string, with `string_lost` and `controller_lost`."""
    amount: Annotated[float, Field(gt=0, le=2000)] | None = None
    """Amps, kelvin or watts, by kind."""

    @model_validator(mode="after")
    def _complete(self) -> "Happening":
        if self.to_h <= self.from_h:
            raise ValueError(f"ends at hour {self.to_h}, before it begins at hour {self.from_h}; give a later end")
        if self.kind in NEEDS_AMOUNT and self.amount is None:
            raise ValueError(f"does not say {NEEDS_AMOUNT[self.kind]}; give a number")
        if self.kind in NEEDS_STRING and self.of is None:
            raise ValueError("does not say which string; name one")
        return self


class Scene(Section):
    """What is rehearsed."""

    month: Annotated[int, Field(ge=1, le=12)] = 6
    day: Annotated[int, Field(ge=1, le=31)] = 15
    days: Annotated[int, Field(ge=1, le=MOST_DAYS)] = 3
    sky: Sky = "typical"
    tempos: Annotated[list[Slug], Field(max_length=MOST_DAYS)] = Field(default_factory=list)
    """One a day; the last goes on, and none takes what the design is sized on."""
    start_share: Annotated[float, Field(ge=0, le=1)] = 1.0
    """Of what may be used, at the start."""
    shed_useful: Annotated[float, Field(ge=0, le=1)] = 0.0
    shed_comfort: Annotated[float, Field(ge=0, le=1)] = 0.0
    """Below this share of what may be used the tier is switched off."""
    happenings: Annotated[list[Happening], Field(max_length=MOST_HAPPENINGS)] = Field(default_factory=list)
