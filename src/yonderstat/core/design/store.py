"""Step 3, Store: the battery bank, layers beside it, and which source charges what."""

from itertools import pairwise
from typing import Annotated, Literal

from pydantic import Field, model_validator

from .base import (
    MAIN,
    KnownAmpHours,
    KnownAmps,
    KnownArea,
    KnownCelsius,
    KnownIdleWatts,
    KnownKilos,
    KnownMoney,
    KnownShare,
    KnownUsableShare,
    KnownVolts,
    KnownWattHours,
    KnownYears,
    Name,
    Readable,
    Section,
    Slug,
    Words,
)

Chemistry = Literal["flooded", "agm", "gel", "lifepo4", "nmc", "lto", "starting"]
Housing = Literal["indoors", "heated", "vented_box", "insulated_box", "outdoors"]
Answer = Literal["yes", "no", "unknown"]
Restart = Literal["by_itself", "by_hand"]
Role = Literal["secondary", "standby", "relay", "carry_out"]
Joining = Literal["switch", "automatic", "changeover", "converter", "lead", "swap", "apart"]
School = Literal["usual", "vigorous", "gentle", "long_life", "top_and_stop", "hold_low"]
"""How a battery is charged: schools of thought that differ by chemistry."""


class CyclePoint(Section):
    """From a label or data sheet: at this depth, so many cycles."""

    depth: Annotated[float, Field(gt=0, le=1), Readable]
    cycles: Annotated[float, Field(gt=0, le=1_000_000), Readable]


class Limits(Section):
    """What the maker of a unit allows. None takes the usual figure of the chemistry where there is
    one."""

    max_charge_a: KnownAmps | None = None
    usual_charge_a: KnownAmps | None = None
    """What the maker advises for a long life, of one unit."""
    cutoff_v: KnownVolts | None = None
    """Where the electronics of one unit cut off by themselves, under load."""
    max_discharge_a: KnownAmps | None = None
    """Continuous, of one unit."""
    peak_discharge_a: KnownAmps | None = None
    """For some seconds, of one unit."""
    max_series: Annotated[int, Field(ge=1, le=64)] | None = None
    max_parallel: Annotated[int, Field(ge=1, le=64)] | None = None
    charge_low_c: KnownCelsius | None = None
    slow_below_c: KnownCelsius | None = None
    slow_charge_a: KnownAmps | None = None
    """Below that temperature one unit may only be charged with so much; both are the maker's."""
    charge_high_c: KnownCelsius | None = None
    discharge_low_c: KnownCelsius | None = None
    cold_cutoff: Answer = "unknown"
    """Whether it stops charging itself when too cold."""
    heater_w: KnownIdleWatts | None = None


class Bank(Section):
    """Like units in series and parallel."""

    chemistry: Chemistry = "agm"
    unit_v: Annotated[float, Field(gt=0, le=100), Readable] = 12.0
    unit_ah: KnownAmpHours = KnownAmpHours(value=100.0)
    unit_wh: KnownWattHours | None = None
    """Watt-hours on the label of one unit, in place of the amp-hours: those then follow from its
    volts."""
    hour_rate_h: Annotated[float, Field(ge=1, le=240)] = 20.0
    """The label's rate: 100 Ah at 20 h."""
    series: Annotated[int, Field(ge=1, le=32)] = 1
    parallel: Annotated[int, Field(ge=1, le=64)] = 1
    health: KnownUsableShare = KnownUsableShare(value=1.0)
    """What age has left of the label."""
    tested_ah: KnownAmpHours | None = None
    """What a discharge test found in one unit; it takes the place of the health."""
    age_years: KnownYears | None = None
    oldest_years: KnownYears | None = None
    """The oldest unit, where they are not all of one age."""
    midpoints_joined: Answer = "unknown"
    """Whether the middles of its series strings are joined, where there are several."""
    school: School | None = None
    """How it is charged; None takes our default of the chemistry."""
    plan_c: Annotated[float, Field(gt=0, le=5), Readable] | None = None
    """Amps it is meant to be charged with, over its amp-hours; None takes 0.2."""
    depth: KnownUsableShare | None = None
    """Share of what it holds that may be taken out; None takes the usual limit for chemistry and
    purpose."""
    housing: Housing = "indoors"
    cold_c: KnownCelsius | None = None
    """The bank on a cold day of the hard month, one day in ten being colder; None follows the
    housing."""
    box_w: KnownIdleWatts | None = None
    """Heat let go inside its box: controllers, radios."""
    box_in_sun: bool = False
    vent_cm2: KnownArea | None = None
    """Free opening at the inlet, and again at the outlet, where it lives."""
    peukert_k: Annotated[float, Field(ge=1, le=2)] | None = None
    """Its Peukert exponent, from a test or data sheet; None takes what is usual for its kind."""
    unit_milliohm: Annotated[float, Field(gt=0, le=10_000)] | None = None
    """Internal resistance of one unit at 25 °C, measured or from its data sheet; None takes what is
    usual."""
    disconnect_v: KnownVolts | None = None
    """Under this at the posts the loads are cut off; None leaves it to the depth allowed."""
    reconnect_v: KnownVolts | None = None
    """Rested volts at which the loads come on again; None takes a fifth of what may be used."""
    restart: Restart = "by_itself"
    """Whether the station comes up again by itself after a cut-off, or a hand must switch it on."""
    limits: Limits = Limits()
    cycle_life: Annotated[list[CyclePoint], Field(max_length=20)] = Field(default_factory=list)
    """Empty takes the usual table of the chemistry."""
    calendar_years: KnownYears | None = None
    unit_kg: KnownKilos | None = None
    unit_price: KnownMoney | None = None
    bought: Annotated[Words, Field(max_length=40)] = ""
    """Where the price is from and when, such as a shop and 2026-11."""

    @model_validator(mode="after")
    def _depths_rise(self) -> "Bank":
        if (
            self.disconnect_v
            and self.reconnect_v
            and self.reconnect_v.value <= self.disconnect_v.value
        ):
            raise ValueError(
                "makes the loads switch on and off all the time: the reconnect voltage must be "
                "above the cut-off voltage"
            )
        depths = [point.depth for point in self.cycle_life]
        if any(after <= before for before, after in pairwise(depths)):
            raise ValueError("lists depths out of order; go from shallow to deep, each only once")
        cycles = [point.cycles for point in self.cycle_life]
        if any(after > before for before, after in pairwise(cycles)):
            raise ValueError("gives more cycles for a deeper discharge; check the data sheet")
        return self


class Layer(Section):
    """Another bank beside the main one."""

    id: Slug
    name: Name
    role: Role = "secondary"
    joining: Joining = "switch"
    """How it comes on: a switch 1/2/both, automatically after the main one, a changeover unit, a
    converter that charges through, a lead that levels the two, a hand that swaps the leads, or
    apart."""
    bank: Bank = Bank()
    converter_a: KnownAmps | None = None
    """What a converter that charges through it may pass."""


class PowerPack(Section):
    """A closed box with battery, charger and outlets of its own: a layer, not a bank."""

    id: Slug
    name: Name
    energy_wh: KnownWattHours
    cutoff_share: KnownShare = KnownShare(value=0.1)
    """What it keeps back before it switches off by itself."""
    input_w: KnownIdleWatts | None = None
    dc_out_a: KnownAmps | None = None
    """At its 12 V outlet."""
    ac_out_w: KnownIdleWatts | None = None
    usb_out_w: KnownIdleWatts | None = None
    idle_w: KnownIdleWatts = KnownIdleWatts(value=3.0)
    """What it takes for itself while switched on."""
    efficiency: KnownUsableShare = KnownUsableShare(value=0.85)
    """Out of its DC outlet over out of its cells."""
    unit_kg: KnownKilos | None = None


class ChargePath(Section):
    """This source charges that bank, in this switch position; no position is always."""

    source: Slug
    """The id of a string, of a charger, `alternator`, or of a bank that charges through a
    converter."""
    bank: Slug
    position: Annotated[Words, Field(max_length=40)] = ""


class Store(Section):
    bank: Bank | None = None
    layers: Annotated[list[Layer], Field(max_length=8)] = Field(default_factory=list)
    packs: Annotated[list[PowerPack], Field(max_length=8)] = Field(default_factory=list)
    paths: Annotated[list[ChargePath], Field(max_length=64)] = Field(default_factory=list)
    """Which source reaches which bank. None said: every source charges the main bank and nothing
    else."""

    @model_validator(mode="after")
    def _ids_once(self) -> "Store":
        ids = [MAIN, *(item.id for item in self.layers), *(item.id for item in self.packs)]
        if len(set(ids)) != len(ids):
            raise ValueError(
                f"two batteries have the same id; give each its own (“{MAIN}” is the main battery)"
            )
        known = set(ids)
        for path in self.paths:
            if path.bank not in known:
                raise ValueError(f"has a charging path to “{path.bank}”, which doesn't exist")
            if path.bank == path.source:
                raise ValueError(f"has a charging path from “{path.bank}” to itself")
        return self
