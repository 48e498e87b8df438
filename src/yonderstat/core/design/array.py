"""Step 5, Array: panels in strings, their controllers, and what the engine adds."""

from typing import Annotated, Literal, get_args

from pydantic import Field, model_validator

from .base import (
    KnownAmps,
    KnownCelsius,
    KnownHours,
    KnownLitres,
    KnownMetres,
    KnownMoney,
    KnownPercentPerKelvin,
    KnownShare,
    KnownUsableShare,
    KnownVolts,
    KnownWatts,
    Name,
    Readable,
    Section,
    Slug,
    Words,
)
from .store import Answer, Chemistry

ControllerKind = Literal["pwm", "mppt", "shunt", "none"]
Mount = Literal["fixed", "flat", "reaimed", "rotator", "two_axis"]
Fitted = Literal["rack", "ground", "wall", "roof", "glued"]
Condition = Literal["good", "aged", "cracked"]
LoadProgram = Literal["none", "always", "dusk_to_dawn", "daylight", "timer"]
ChargerKind = Literal[
    "mains", "bench_supply", "selector", "panel_supply", "maintainer", "changeover", "generator"
]


class PanelReading(Section):
    """What a meter found on one panel, in full sun."""

    panel: Annotated[Words, Field(max_length=40)] = ""
    """Which one: a number or a mark on its back."""
    v_oc: Annotated[float, Field(ge=0, le=1000), Readable] | None = None
    i_sc: Annotated[float, Field(ge=0, le=200), Readable] | None = None
    i_mp: Annotated[float, Field(ge=0, le=200), Readable] | None = None
    """Current while it works into the bank."""


class Module(Section):
    """One panel, from its label. What the label does not say takes the figures of its class."""

    watts: KnownWatts = KnownWatts(value=100.0)
    cells: Literal[36, 60, 72] = 36
    """Cell count, half-cut cells counted half: it tells the class."""
    v_mp: KnownVolts | None = None
    """Volts at maximum power."""
    v_oc: KnownVolts | None = None
    i_sc: KnownAmps | None = None
    v_oc_pct_per_k: KnownPercentPerKelvin | None = None
    """Temperature coefficient of the open-circuit volts."""
    p_mp_pct_per_k: KnownPercentPerKelvin | None = None
    noct_c: KnownCelsius | None = None
    """Cell temperature at 800 W/m² and 20 °C of air, from the data sheet (NOCT)."""
    condition: Condition = "good"
    measured_v_oc: KnownVolts | None = None
    """In full sun, nothing connected."""
    measured_i_sc: KnownAmps | None = None
    measured_i_mp: KnownAmps | None = None
    """Working current in full sun, into a bank that takes all of it."""
    readings: Annotated[list[PanelReading], Field(max_length=64)] = Field(default_factory=list)
    """Of each panel, where they were measured one by one; the single measured figures then do not
    count."""
    age_share: KnownUsableShare | None = None
    """What age has left of its current, in place of what the condition makes us guess."""
    own_inverter: bool = False
    """A panel that gives out mains volts: it cannot charge a battery."""
    bypass_lost: bool = False
    """A bypass diode is gone: shade on a cell then stops the whole string."""


class Regulator(Section):
    """The charge controller between a string and the bank. None takes what is usual for its
    kind."""

    max_v: KnownVolts | None = None
    """What its panel terminals stand."""
    max_charge_a: KnownAmps | None = None
    max_array_w: KnownWatts | None = None
    """At this bank's volts."""
    start_v: KnownVolts | None = None
    """How far an MPPT's panel volts must stand above the bank's."""
    efficiency: KnownUsableShare | None = None
    drop_v: KnownVolts | None = None
    """What it loses itself between panel and bank."""
    absorb_v: KnownVolts | None = None
    """As it is set, or fixed at purchase."""
    float_v: KnownVolts | None = None
    self_draw_a: KnownAmps | None = None
    buck_boost: bool = False
    set_for: Chemistry | None = None
    """The battery kind its strap, jumper or menu is set for; None where nobody has looked."""
    can_do: Annotated[list[Chemistry], Field(max_length=len(get_args(Chemistry)))] = Field(
        default_factory=list
    )
    """The battery kinds it can be set for at all, or was fixed for at purchase; empty where nobody
    has looked."""
    lives: Annotated[Words, Field(max_length=80)] = ""
    """Where it is mounted: indoors, in the battery's box, behind the panel."""
    auto_volts: bool = False
    """It senses 12 or 24 V by itself."""
    sensor: Answer = "unknown"
    """A temperature sensor at the bank."""
    over_volts_guard: Answer = "unknown"
    """An alarm or cut-off, should it lose its regulation."""
    load_out_a: KnownAmps | None = None
    load_program: LoadProgram = "none"
    """What its load terminals do, where loads hang on them."""
    load_draw_a: KnownAmps | None = None
    """What hangs on them, at most."""
    shows: Annotated[Words, Field(max_length=120)] = ""
    """What it displays, and how it connects."""
    noise: Annotated[Words, Field(max_length=200)] = ""
    """What it does on the bands in use."""
    price: KnownMoney | None = None


class PanelString(Section):
    """Like panels on one plane behind one controller."""

    id: Slug
    name: Name
    module: Module = Module()
    series: Annotated[int, Field(ge=1, le=24)] = 1
    parallel: Annotated[int, Field(ge=1, le=64)] = 1
    mount: Mount = "fixed"
    """How it stands: flat ignores the tilt, a rotator or a hand turns it after the sun, two axes
    tilt it as well."""
    aims_per_day: Annotated[int, Field(ge=2, le=12)] = 3
    """With `mount` "reaimed": how often somebody turns it in a day."""
    fitted: Fitted = "rack"
    """What is behind it: it sets how hot the cells run."""
    tilt_deg: Annotated[float, Field(ge=0, le=90)] = 30.0
    azimuth_deg: Annotated[float, Field(ge=0, lt=360)] = 180.0
    """The way the panel faces, from true north clockwise."""
    controller: ControllerKind = "pwm"
    regulator: Regulator = Regulator()
    joins: Slug | None = None
    """Another string whose controller it shares, in parallel; its own `controller` then does not
    count."""
    blocking_diode: bool = False
    fused: Answer = "unknown"
    """Whether each of its parallel panels has a fuse of its own."""
    cable_m: KnownMetres | None = None
    """One way, from panels to controller."""
    cable_mm2: Annotated[float, Field(gt=0, le=300), Readable] | None = None
    shaded_share: KnownShare = KnownShare(value=0.0)
    """Share of this string's light lost to things of its own: a mast, a rail."""


class Alternator(Section):
    """Charging from the engine, through a DC-DC charger."""

    charge_a: KnownAmps = KnownAmps(value=20.0)
    dc_dc: bool = True
    """Through a DC-DC charger; without one the alternator itself lies on the bank."""
    engine_limit_a: KnownAmps | None = None
    """What the engine may give to charging, at the bank's volts."""
    driving_h_per_day: KnownHours = KnownHours(value=1.0)

    @property
    def into_bank_a(self) -> float:
        """The charger's amps, held to what the engine may give. [A]"""
        return (
            min(self.charge_a.value, self.engine_limit_a.value)
            if self.engine_limit_a
            else self.charge_a.value
        )


class Charger(Section):
    """Another way to fill the bank."""

    id: Slug
    name: Name
    kind: ChargerKind = "mains"
    amps: KnownAmps = KnownAmps(value=10.0)
    """What it charges the bank with, at most."""
    passes_a: KnownAmps | None = None
    """What a changeover passes to the station while the mains are there: its other rating."""
    volts: KnownVolts | None = None
    """Set or stated output volts."""
    least_v: KnownVolts | None = None
    most_v: KnownVolts | None = None
    """How far its volts can be turned, where they can."""
    shows: Annotated[Words, Field(max_length=120)] = ""
    """What it displays."""
    hours_per_day: KnownHours = KnownHours(value=8.0)
    efficiency: KnownUsableShare = KnownUsableShare(value=0.85)
    blocks_back: Answer = "unknown"
    """A diode or ideal diode keeps the bank from feeding back when it is off."""
    litres_per_h: KnownLitres | None = None
    """A generator's fuel."""
    quiet_h: KnownHours | None = None
    """Hours a day it may not run: neighbours, nets."""
    noise: Annotated[Words, Field(max_length=200)] = ""
    """What it does on the bands in use."""
    through: Slug | None = None
    """With a supply on panel terminals: the string whose controller it feeds."""
    alone: bool = False
    """Must not run together with the others."""
    at_home: bool = False
    """Only there before the station leaves, or where it comes home to."""
    stops_when_full: bool = False
    """Switches off, or down to a float of its own, once the bank is full."""
    to_full: bool = False
    """A generator is run through the tail to full; by default it stops where the bulk ends."""

    @model_validator(mode="after")
    def _range_rises(self) -> "Charger":
        if self.least_v and self.most_v and self.least_v.value > self.most_v.value:
            raise ValueError("has a lowest voltage above its highest; swap the two")
        return self

    @property
    def running_h(self) -> float:
        """Hours a day it may run: as stated, outside its quiet hours. [h]"""
        return min(self.hours_per_day.value, 24.0 - (self.quiet_h.value if self.quiet_h else 0.0))


class ShelfModule(Section):
    """Panels at hand, for finding out which strings fit."""

    id: Slug
    name: Name
    count: Annotated[int, Field(ge=1, le=64)] = 1
    module: Module = Module()


class ShelfController(Section):
    """A controller at hand."""

    id: Slug
    name: Name
    kind: Literal["pwm", "mppt", "shunt"] = "pwm"
    regulator: Regulator = Regulator()


class Array(Section):
    strings: Annotated[list[PanelString], Field(max_length=32)] = Field(default_factory=list)
    alternator: Alternator | None = None
    chargers: Annotated[list[Charger], Field(max_length=16)] = Field(default_factory=list)
    shelf_modules: Annotated[list[ShelfModule], Field(max_length=12)] = Field(default_factory=list)
    shelf_controllers: Annotated[list[ShelfController], Field(max_length=12)] = Field(
        default_factory=list
    )

    @model_validator(mode="after")
    def _ids_once(self) -> "Array":
        ids = [string.id for string in self.strings]
        if len(set(ids)) != len(ids):
            raise ValueError("two strings have the same id; each needs its own")
        for string in self.strings:
            leader = next((item for item in self.strings if item.id == string.joins), None)
            if string.joins is not None and (
                leader is None or leader.joins is not None or leader is string
            ):
                raise ValueError(
                    f"“{string.name}” shares the controller of “{string.joins}”, but that string "
                    "has no controller of its own"
                )
        for word, rows in (
            ("chargers", [charger.id for charger in self.chargers]),
            ("panels on hand", [item.id for item in self.shelf_modules]),
            ("controllers on hand", [item.id for item in self.shelf_controllers]),
        ):
            if len(set(rows)) != len(rows):
                raise ValueError(f"two {word} have the same id; each needs its own")
        return self
