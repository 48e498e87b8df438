"""Step 2, Draw: the loads, the rails they hang on, and how hard the station is worked."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from .base import (
    MAIN,
    KnownAmps,
    KnownCelsius,
    KnownHours,
    KnownIdleWatts,
    KnownShare,
    KnownUsableShare,
    KnownVolts,
    KnownWatts,
    Months,
    Name,
    Readable,
    Section,
    Slug,
    Words,
    all_year,
)

Tier = Literal["vital", "useful", "comfort"]
Mode = Literal["ssb", "cw", "fm", "data"]
Behaviour = Literal["constant_current", "constant_power"]
Need = Literal["mains", "internet", "neighbour"]
Restarts = Literal["yes", "no", "unknown"]
Converter = Literal["boost", "buck_boost", "buck", "outlet"]
Waveform = Literal["unknown", "sine", "stepped"]
Window = Literal["10", "15", "own", "none"]
LoadKind = Literal[
    "hf_set",
    "vhf_mobile",
    "handheld",
    "repeater",
    "amplifier",
    "computer",
    "monitor",
    "network",
    "light",
    "fan",
    "fridge",
    "heater",
    "tool",
    "other",
]
BUS = "bus"
"""The rail of loads that hang on the battery bus itself."""


class PowerPoint(Section):
    """A measured or quoted pair: at this transmit power the set takes this current."""

    watts: Annotated[float, Field(gt=0, le=100_000), Readable]
    amps: Annotated[float, Field(ge=0, le=2000), Readable]


class Events(Section):
    """So many times a day, for so many minutes each."""

    per_day: Annotated[float, Field(ge=0, le=1440), Readable]
    minutes: Annotated[float, Field(ge=0, le=1440), Readable]


class Thermostat(Section):
    """On while it is warmer, or colder, than a temperature."""

    when: Literal["above", "below"]
    at_c: KnownCelsius


class Load(Section):
    """A thing that draws current. Its amps are those at its rail: the battery bus unless it names
    another.

    `receive_a` is the current whenever it is on and not transmitting: receive, idle, or simply
    running. `transmit_a` is the key-down current at `rated_w`.
    """

    id: Slug
    name: Name
    kind: LoadKind = "other"
    quantity: Annotated[int, Field(ge=1, le=100)] = 1
    standby_a: KnownAmps | None = None
    """Current while it is not on; None where it is unplugged or nobody has looked."""
    receive_a: KnownAmps
    receive_w: KnownWatts | None = None
    """Watts on its label while it is on, in place of the amps: those then follow from its rail's
    volts."""
    transmit_a: KnownAmps | None = None
    transmit_share: KnownShare = KnownShare(value=0.0)
    rated_w: KnownWatts | None = None
    power_w: KnownWatts | None = None
    """Transmit power setting in use; None is full power."""
    power_table: Annotated[list[PowerPoint], Field(max_length=40)] = Field(default_factory=list)
    power_cap_w: KnownWatts | None = None
    power_cap_reason: Annotated[Words, Field(max_length=200)] = ""
    mode: Mode | None = None
    """None counts the key-down current in full."""
    behaviour: Behaviour = "constant_current"
    rail: Slug = BUS
    window: Window = "none"
    least_v: KnownVolts | None = None
    most_v: KnownVolts | None = None
    """The window a load of its own kind wants, with `window` "own"."""
    hours_per_day: KnownHours = KnownHours(value=24.0)
    pattern: (
        Annotated[list[Annotated[float, Field(ge=0, le=1)]], Field(min_length=24, max_length=24)]
        | None
    ) = None
    """Share of each clock hour it is on; takes the place of the hours a day."""
    events: Events | None = None
    thermostat: Thermostat | None = None
    months: Months = Field(default_factory=all_year)
    tier: Tier | None = "vital"
    interlock: Annotated[Words, Field(max_length=80)] = ""
    """Loads that name the same group never transmit together, and those that do not transmit are
    not on together with it; several groups are parted by commas."""
    deferrable: bool = False
    """May wait for the sun: recharging tools, a laptop, a pack."""
    needs: Annotated[list[Need], Field(max_length=3)] = Field(default_factory=list)
    restarts: Restarts = "unknown"
    """Whether it starts by itself when the power comes back after a cut-off."""
    ready_min: Annotated[float, Field(ge=0, le=1440), Readable] | None = None
    """Until it is in service again then."""
    waits_for: Slug | None = None
    """Another load that must be in service first, such as the router."""

    @model_validator(mode="after")
    def _one_when(self) -> "Load":
        given = [item for item in (self.pattern, self.events, self.thermostat) if item is not None]
        if len(given) > 1:
            raise ValueError(
                "has more than one schedule; keep only one of pattern, events and thermostat"
            )
        if self.least_v and self.most_v and self.least_v.value > self.most_v.value:
            raise ValueError("has a lowest voltage above its highest; swap the two")
        return self


class Rail(Section):
    """A supply fed from the battery bus: a converter's output, an outlet, an inverter."""

    id: Slug
    name: Name
    kind: Literal["dc", "inverter"] = "dc"
    volts: KnownVolts
    efficiency: KnownUsableShare
    idle_w: KnownIdleWatts = KnownIdleWatts(value=0.0)
    on_hours: KnownHours = KnownHours(value=24.0)
    limit_a: KnownAmps | None = None
    """What the outlet may carry."""
    rated_w: KnownWatts | None = None
    bank: Slug = MAIN
    """The bank it is fed from: the main one, or a layer or pack that then carries what hangs on it
    by itself."""
    outlet_of: Slug | None = None
    """The string whose controller's load terminals it is."""
    converter: Converter | None = None
    """How a DC rail makes its volts; None takes what its volts and efficiency say."""
    least_in_v: KnownVolts | None = None
    most_in_v: KnownVolts | None = None
    """The volts it works between; None takes what is usual for its kind."""
    surge_w: KnownWatts | None = None
    """What an inverter gives for a moment."""
    input_uf: Annotated[float, Field(gt=0, le=10_000_000), Readable] | None = None
    """Capacitance at an inverter's input. [µF]"""
    waveform: Waveform = "unknown"


class Override(Section):
    """What a tempo changes on one load."""

    load: Slug
    transmit_share: KnownShare | None = None
    hours_per_day: KnownHours | None = None


class Tempo(Section):
    """How hard the station is worked. `transmit_share` goes for every set an operator keys; None
    keeps each its own."""

    id: Slug
    name: Name
    transmit_share: KnownShare | None = None
    overrides: Annotated[list[Override], Field(max_length=200)] = Field(default_factory=list)


def usual_tempos() -> list[Tempo]:
    """Listening, net control and heavy traffic. [C] shares are common practice; net control is what
    the loads themselves say."""
    return [
        Tempo(id="listening", name="Listening", transmit_share=KnownShare(value=0.01)),
        Tempo(id="net", name="Net control"),
        Tempo(id="full-tilt", name="Heavy traffic", transmit_share=KnownShare(value=0.3)),
    ]


class Draw(Section):
    loads: Annotated[list[Load], Field(max_length=200)] = Field(default_factory=list)
    rails: Annotated[list[Rail], Field(max_length=20)] = Field(default_factory=list)
    tempos: Annotated[list[Tempo], Field(min_length=1, max_length=12)] = Field(
        default_factory=usual_tempos
    )
    sized_on: Slug = "net"
    supply_a: KnownAmps | None = None
    """What the bench supply at hand can give."""

    @model_validator(mode="after")
    def _names_fit(self) -> "Draw":
        for word, ids in (
            ("loads", [load.id for load in self.loads]),
            ("rails", [rail.id for rail in self.rails]),
            ("tempos", [tempo.id for tempo in self.tempos]),
        ):
            if len(set(ids)) != len(ids):
                raise ValueError(f"two {word} have the same id; each needs its own")
        rails = {rail.id for rail in self.rails}
        for load in self.loads:
            if load.rail != BUS and load.rail not in rails:
                raise ValueError(
                    f"“{load.name}” uses the supply line “{load.rail}”, which doesn't exist"
                )
        if self.sized_on not in {tempo.id for tempo in self.tempos}:
            raise ValueError(
                f"is sized on the activity level “{self.sized_on}”, which doesn't exist"
            )
        return self
