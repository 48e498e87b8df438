"""Step 3, Store: the battery bank."""

from typing import Annotated, Literal

from pydantic import Field

from .base import KnownAmpHours, KnownCelsius, KnownUsableShare, Section

Chemistry = Literal["flooded", "agm", "gel", "lifepo4"]
Housing = Literal["indoors", "heated", "outdoors"]


class Bank(Section):
    """Like units in series and parallel."""

    chemistry: Chemistry = "agm"
    unit_v: Annotated[float, Field(gt=0, le=100)] = 12.0
    unit_ah: KnownAmpHours = KnownAmpHours(value=100.0)
    hour_rate_h: Annotated[float, Field(ge=1, le=240)] = 20.0
    """The label's rate: 100 A·h at 20 h."""
    series: Annotated[int, Field(ge=1, le=32)] = 1
    parallel: Annotated[int, Field(ge=1, le=64)] = 1
    health: KnownUsableShare = KnownUsableShare(value=1.0)
    """What age has left of the label."""
    depth: KnownUsableShare | None = None
    """Share of what it holds that may be taken out; None takes the usual limit for chemistry and purpose."""
    housing: Housing = "indoors"
    cold_c: KnownCelsius | None = None
    """Bank temperature in the hard month; None follows the housing."""


class Store(Section):
    bank: Bank | None = None
