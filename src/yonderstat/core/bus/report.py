"""What the Bus step reports: figures by key, and the few words that go with them."""

from dataclasses import dataclass
from typing import Literal

from ..working import Key
from .leads import LeadFigures

Grade = Literal["full", "less", "odd", "off"]


@dataclass(frozen=True, slots=True)
class WalkHop:
    """What is lost at one hop on the way from the post to a load, receiving and keyed, full and at
    the end."""

    run: str
    """Empty for the inside of the bank."""
    name: str
    lost_v: tuple[Key, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class LoadAtBus:
    """The volts that reach a load at full, half and the end of what may be used; with a window, how
    it does there."""

    load_id: str
    name: str
    through: str
    """The converter it hangs on; empty on the bus itself."""
    window: str
    low_v: float | None
    high_v: float | None
    receive_v: tuple[Key, ...]
    keyed_v: tuple[Key, ...]
    receive_grade: tuple[Grade, ...] | None
    keyed_grade: tuple[Grade, ...] | None
    cold_v: Key
    warm_v: Key
    most_full_w: Key | None
    most_half_w: Key | None
    walk: tuple[WalkHop, ...]
    """From the rested bank to the load; nothing for what has no window."""
    takeaway: str


@dataclass(frozen=True, slots=True, kw_only=True)
class RunFigures:
    """A run of wire with what it carries, what is proposed, and what protects it."""

    id: str
    name: str
    feeds: str
    fed_from: str
    fed_from_name: str
    index: int | None
    """Its row in the document; None where all of it is proposed."""
    length_m: float
    mm2: float
    mm2_typed: bool
    proposed_mm2: Key
    binds: str
    binds_why: str
    """What stops a thinner conductor, in words."""
    connector: str
    parts: tuple[str, ...]
    fuse_kind: str
    fuse_label: str
    fuse_typed: bool
    fuse_a: Key
    needed_fuse_a: Key
    continuous_a: Key
    peak_a: Key
    drop_v: Key
    ampacity_a: Key
    prospective_a: Key
    number: int
    """Of its fuse on the map and the drawing, from 1."""


@dataclass(frozen=True, slots=True, kw_only=True)
class InverterFigures:
    """An inverter on the bus: amps at low volts, its surge, and how it is joined without a
    spark."""

    rail_id: str
    name: str
    input_a: Key
    surge_a: Key | None
    precharge_ohm: Key
    precharge_s: Key
    precharge_j: Key
    least_v: float
    waveform: str


@dataclass(frozen=True, slots=True, kw_only=True)
class ConverterFigures:
    """A DC rail: the volts it works between, and the lowest it is given."""

    rail_id: str
    name: str
    converter: str
    least_v: float
    most_v: float
    lowest_v: Key | None


@dataclass(frozen=True, slots=True, kw_only=True)
class ChangeoverOption:
    """One way from mains to battery and back, on this bus."""

    id: str
    label: str
    lost_v: Key
    gap_ms: float
    back_feed: str
    charges: str
    limit: str
    used: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class BoxFigures:
    """The box of electronics on its hottest day."""

    inside_w: Key
    sun_w: Key
    rise_k: Key
    hottest_c: Key
    limit_c: Key
    closed_c: Key | None
    """With its fan still and its vents shut; None where it has neither."""


@dataclass(frozen=True, slots=True)
class Card:
    """An order in which something is done, with the reading to expect where there is one."""

    id: str
    title: str
    caution: str
    steps: tuple["CardStep", ...]


@dataclass(frozen=True, slots=True)
class CardStep:
    """One thing to do."""

    text: str
    expect: Key | None = None


@dataclass(frozen=True, slots=True)
class Advice:
    """A word on radio noise by layout, and why it concerns this design."""

    text: str
    why: str


@dataclass(frozen=True, slots=True, kw_only=True)
class BusReport:
    """From the battery post to the radio."""

    takeaway: str
    tradition_label: str
    lowest_v: Key | None
    lowest_load: str
    highest_power_w: Key | None
    prospective_a: Key | None
    main_peak_a: Key
    loads: tuple[LoadAtBus, ...]
    runs: tuple[RunFigures, ...]
    inverters: tuple[InverterFigures, ...]
    converters: tuple[ConverterFigures, ...]
    changeovers: tuple[ChangeoverOption, ...]
    box: BoxFigures | None
    cards: tuple[Card, ...]
    advice: tuple[Advice, ...]
    leads: tuple[LeadFigures, ...]
    """From the panels to their controllers, where somebody has said how long they are."""
