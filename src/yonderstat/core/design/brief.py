"""Step 1, Brief: what must stay on, for whom, how long, and who is there to act."""

from typing import Annotated, Literal

from pydantic import Field

from .base import (
    KnownCelsius,
    KnownDays,
    KnownKilos,
    KnownPrice,
    KnownRate,
    KnownShare,
    Months,
    Section,
    Words,
    all_year,
)

Kind = Literal["home", "trailer", "go_box", "vehicle", "unattended"]
Purpose = Literal["continuous", "standby", "deployment", "everyday", "mobile"]
Preparing = Literal["night", "storm", "weeks", "always"]
Attended = Literal["nobody", "visits", "present"]


class Brief(Section):
    kind: Kind = "home"
    purpose: Purpose = "standby"
    preparing_for: Preparing = "storm"
    attended: Attended = "present"
    asked_days: KnownDays | None = None
    """Days to last without sun; None takes the usual figure for what is being prepared for."""
    coldest_c: KnownCelsius | None = None
    """The coldest night of a year; None takes our guess from the climate."""
    hottest_c: KnownCelsius | None = None
    """The hottest afternoon of a year; None takes our guess from the climate."""
    months: Months = Field(default_factory=all_year)
    price_per_kwh: KnownPrice | None = None
    currency: Annotated[Words, Field(max_length=8)] = ""
    usd_rate: KnownRate | None = None
    """What one US dollar is in that currency; class prices are in dollars."""
    on_top: KnownShare | None = None
    """Freight, duty and tax, as a share of what parts cost; None counts none."""
    payload_kg: KnownKilos | None = None
    """What hitch, roof, back or tower will carry of batteries."""
    note: Annotated[Words, Field(max_length=4000)] = ""
