"""What is rehearsed: the outage you fear, on a date, in a kind of weather, at a tempo a day, with
what goes wrong."""

from typing import Annotated, Literal

from pydantic import Field, ValidationInfo, field_validator, model_validator

from ..calendar import DAYS_IN_MONTH, MONTH_NAMES
from ..design import Section
from ..design.base import Slug

Sky = Literal["typical", "poor", "worst", "record", "none"]
MOST_DAYS, HOURS = 30, 24
MOST_HAPPENINGS = 60
HappeningKind = Literal[
    "string_lost",
    "panel_lost",
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
    "panel_lost": "how many panels",
    "extra_load": "how many amps it uses",
    "cold_snap": "how many kelvin colder it gets",
    "low_power": "the lower transmit power in watts",
    "generator": "how many amps it gives",
    "mains_back": "how many amps the charger gives",
}
NEEDS_STRING = {"string_lost", "panel_lost", "controller_lost"}


class Happening(Section):
    """Something that goes wrong, or that somebody does, from an hour to an hour."""

    kind: HappeningKind
    from_h: Hour = 0
    to_h: Hour
    of: Slug | None = None
    """The string, with `string_lost`, `panel_lost` and `controller_lost`."""
    amount: Annotated[float, Field(gt=0, le=2000)] | None = None
    """Amps, kelvin, watts or panels, by kind."""
    every_day: bool = False
    """From and to are then hours of the day, and it happens on every day of the scene."""

    @model_validator(mode="after")
    def _complete(self) -> "Happening":
        if self.to_h <= self.from_h:
            raise ValueError(
                f"ends at hour {self.to_h}, before it begins at hour {self.from_h}; enter a "
                "later end"
            )
        if self.every_day and self.to_h > HOURS:
            raise ValueError(f"ends at hour {self.to_h} every day, but a day has {HOURS} hours")
        if self.kind in NEEDS_AMOUNT and self.amount is None:
            raise ValueError(f"doesn't say {NEEDS_AMOUNT[self.kind]}; enter a number")
        if self.kind in NEEDS_STRING and self.of is None:
            raise ValueError("doesn't say which panel string; choose one")
        return self


class FromADay(Section):
    """What begins on a day of the year; a month has the days it has."""

    month: Annotated[int, Field(ge=1, le=12)] = 6
    day: Annotated[int, Field(ge=1, le=31)] = 15

    @field_validator("day")
    @classmethod
    def _in_the_month(cls, day: int, info: ValidationInfo) -> int:
        month = info.data.get("month")
        if month is not None:
            last = int(DAYS_IN_MONTH[month - 1])
            if day > last:
                raise ValueError(
                    f"is {day}, but {MONTH_NAMES[month - 1]} has {last} days here; type 1 to {last}"
                )
        return day


class Scene(FromADay):
    """What is rehearsed."""

    days: Annotated[int, Field(ge=1, le=MOST_DAYS)] = 3
    sky: Sky = "typical"
    tempos: Annotated[list[Slug], Field(max_length=MOST_DAYS)] = Field(default_factory=list)
    """One a day; the last goes on, and none takes what the design is sized on."""
    start_share: Annotated[float, Field(ge=0, le=1)] = 1.0
    """Of what may be used, at the start."""
    shed_useful: Annotated[float, Field(ge=0, le=1)] = 0.0
    shed_comfort: Annotated[float, Field(ge=0, le=1)] = 0.0
    """Below this share of what may be used the tier is switched off."""
    happenings: Annotated[list[Happening], Field(max_length=MOST_HAPPENINGS)] = Field(
        default_factory=list
    )

    def day_by_day(self) -> "Scene":
        """The scene with what happens every day written out, day by day."""
        found = []
        for item in self.happenings:
            if not item.every_day:
                found.append(item)
                continue
            for day in range(self.days):
                moved = {
                    "from_h": item.from_h + day * HOURS,
                    "to_h": item.to_h + day * HOURS,
                    "every_day": False,
                }
                found.append(item.model_copy(update=moved))
        return self.model_copy(update={"happenings": found})
