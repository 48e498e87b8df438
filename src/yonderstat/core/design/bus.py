"""Step 6, Bus: the runs of wire between the battery post, the sources and the loads, with what
protects them.

Every source, converter and load of the other steps has a run of its own, proposed until something
of it is typed here: a row of this section overrides the proposed run of the same id, and leaves
proposed what it does not say.
"""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from .base import (
    KnownAmps,
    KnownArea,
    KnownCelsius,
    KnownIdleWatts,
    KnownLength,
    KnownVolts,
    KnownWire,
    Name,
    Readable,
    Section,
    Words,
)
from .store import Answer

FuseKind = Literal[
    "none", "blade", "maxi", "bolt_down", "post", "cylinder", "class_t", "breaker", "glass"
]
FuseLead = Literal["plus", "minus", "both"]
PartKind = Literal[
    "switch",
    "selector",
    "shunt",
    "relay",
    "block",
    "diode",
    "ideal_diode",
    "changeover",
    "breaker",
    "cutout",
    "junction",
]
Connector = Literal[
    "lugs",
    "flat_15",
    "flat_30",
    "flat_45",
    "two_pin",
    "barrel",
    "socket",
    "banana",
    "screw",
    "tabs",
    "panel",
    "clips",
]
WiringSchool = Literal["nec", "iec"]
Ingress = Literal["open", "ip44", "ip54", "ip65", "ip67"]
RunId = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9-]{0,63}$")]

POST, MAIN_RUN = "post", "main"
"""Where all runs begin, and the run from there to the bus."""


class RunFuse(Section):
    """What protects a run. None of a figure takes the usual one of the kind."""

    kind: FuseKind = "blade"
    rating_a: KnownAmps | None = None
    dc_v: KnownVolts | None = None
    interrupt_a: Annotated[float, Field(gt=0, le=1_000_000), Readable] | None = None
    """The most current it can break. [A]"""
    from_start_m: KnownLength | None = None
    """How far along the run it sits, from the end that can feed a short."""
    lead: FuseLead = "plus"
    """Which lead it is in, or one in each."""


class RunPart(Section):
    """Something the current passes on its way. None of a figure takes the usual one of the kind."""

    kind: PartKind
    milliohm: Annotated[float, Field(ge=0, le=10_000), Readable] | None = None
    drop_v: Annotated[float, Field(ge=0, le=10), Readable] | None = None
    rating_a: KnownAmps | None = None


class BusRun(Section):
    """A run of wire there and back. None of a field takes what is proposed for the run."""

    id: RunId
    name: Name | None = None
    """Of a run of one's own, such as a second fuse block; the others are named after what they
    feed."""
    fed_from: RunId | None = None
    """`post`, or the run at whose far end it begins."""
    length_m: KnownLength | None = None
    """One way."""
    mm2: KnownWire | None = None
    insulation_c: Literal[60, 70, 75, 90, 105] | None = None
    bundled: Annotated[int, Field(ge=1, le=40)] | None = None
    """Conductors that carry current side by side."""
    ambient_c: KnownCelsius | None = None
    """Of the air it lies in, at its hottest."""
    fuse: RunFuse | None = None
    parts: Annotated[list[RunPart], Field(max_length=12)] | None = None
    connector: Connector | None = None


class Box(Section):
    """The box that controllers, radios and converters live in."""

    ingress: Ingress = "open"
    clear: bool = False
    """A clear lid lets the sun in."""
    in_sun: bool = False
    wall_cm2: KnownArea | None = None
    """All its walls."""
    inside_w: KnownIdleWatts | None = None
    """Watts let go inside; None takes what controllers, converters and sets lose."""
    vent_cm2: KnownArea | None = None
    fan_m3_h: Annotated[float, Field(gt=0, le=5000), Readable] | None = None
    fan_on_c: KnownCelsius | None = None
    """Where its thermostat starts the fan; None leaves it always on."""
    limit_c: KnownCelsius | None = None
    """What the electronics in it stand."""
    conductive_wrap: bool = False
    """Foil or conductive cloth inside or around it."""


class Bus(Section):
    runs: Annotated[list[BusRun], Field(max_length=300)] = Field(default_factory=list)
    school: WiringSchool | None = None
    """Whose tables propose gauge and fuse; None takes that of the place."""
    box: Box | None = None
    all_through_shunt: Answer = "unknown"
    """Whether every minus lead goes to the far side of the meter's shunt."""
    panel_switch: Answer = "unknown"
    """A disconnect between panels and controller."""
    earthed: Answer = "unknown"
    """Negative, frames, mast and antenna entry bonded to one earth."""
    meter_at: Annotated[Words, Field(max_length=80)] = ""
    """Where the battery monitor can be read."""

    @model_validator(mode="after")
    def _is_a_tree(self) -> "Bus":
        ids = [run.id for run in self.runs]
        if len(set(ids)) != len(ids):
            raise ValueError("two cables have the same id; each needs its own")
        parents = {run.id: run.fed_from for run in self.runs}
        for run in self.runs:
            seen, at = {run.id}, run.fed_from
            while at is not None and at != POST:
                if at in seen:
                    raise ValueError(
                        f"makes the cable “{run.id}” a loop; let one of them begin at the battery"
                    )
                seen.add(at)
                at = parents.get(at)
        return self
