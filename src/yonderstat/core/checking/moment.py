"""When a reading is taken: the hour, the sky, what is transmitting, how full the battery is."""

from typing import Annotated, Literal

from pydantic import Field

from ..design import Section
from ..design.base import Words
from ..station import StationModel

Sky = Literal["clear", "thin", "grey", "night"]
ChargeNow = Literal["full", "half", "low", "unknown"]
SKIES: dict[str, tuple[float, float]] = {
    "clear": (0.8, 1.0),
    "thin": (0.35, 0.8),
    "grey": (0.03, 0.35),
    "night": (0.0, 0.0),
}
"""Between which ranks of a month's days, hour by hour, a sky lies; the brightest is 1. [C]"""
CHARGES: dict[str, tuple[float, float]] = {
    "full": (0.95, 1.0),
    "half": (0.4, 0.65),
    "low": (0.08, 0.3),
    "unknown": (0.2, 1.0),
}
"""Between which states of charge a word lies. [C]"""


class Moment(Section):
    """When a reading is taken. What is not said counts as not known."""

    month: Annotated[int, Field(ge=1, le=12)] = 6
    hour: Annotated[int, Field(ge=0, le=23)] = 12
    """Of the site's own clock."""
    sky: Sky = "night"
    keyed: Annotated[Words, Field(max_length=80)] = ""
    """The load that is transmitting, or at its hardest; empty for none."""
    charger: bool = False
    """Whether a charger on the mains, a generator or the engine charges the battery now."""
    charge: ChargeNow = "unknown"
    """How full the battery is, by whatever tells it."""


def usual_moment(station: StationModel, month: int, hour: int) -> Moment:
    """A moment of which nobody has said more than when it is: by day the sky is taken for clear,
    as whoever measures then mostly does so for the sun.

    Parameters
    ----------
    month : int
        1 to 12.
    hour : int
        Of the site's own clock.
    """
    is_day = bool(station.design.array.strings) and DAY_FROM_H <= hour < DAY_TO_H
    return Moment(month=month, hour=hour, sky="clear" if is_day else "night")


DAY_FROM_H, DAY_TO_H = 8, 17
