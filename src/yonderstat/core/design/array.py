"""Step 5, Array: panels in strings, their controllers, and what the engine adds."""

from typing import Annotated, Literal

from pydantic import Field, model_validator

from .base import KnownAmps, KnownHours, KnownVolts, KnownWatts, Name, Section, Slug

ControllerKind = Literal["pwm", "mppt", "none"]
Mount = Literal["fixed", "flat", "reaimed", "rotator", "two_axis"]
Fitted = Literal["rack", "ground", "wall", "roof", "glued"]


class Module(Section):
    """One panel, from its label."""

    watts: KnownWatts = KnownWatts(value=100.0)
    cells: Literal[36, 60, 72] = 36
    """Cell count, half-cut cells counted half: it tells the class."""
    working_v: KnownVolts | None = None
    """Volts at maximum power; None takes the class figure for the cell count."""


class PanelString(Section):
    """Like panels on one plane behind one controller."""

    id: Slug
    name: Name
    module: Module = Module()
    series: Annotated[int, Field(ge=1, le=24)] = 1
    parallel: Annotated[int, Field(ge=1, le=64)] = 1
    mount: Mount = "fixed"
    """How it stands: flat ignores the tilt, a rotator or a hand turns it after the sun, two axes tilt it as well."""
    aims_per_day: Annotated[int, Field(ge=2, le=12)] = 3
    """With `mount` "reaimed": how often somebody turns it in a day."""
    fitted: Fitted = "rack"
    """What is behind it: it sets how hot the cells run."""
    tilt_deg: Annotated[float, Field(ge=0, le=90)] = 30.0
    azimuth_deg: Annotated[float, Field(ge=0, lt=360)] = 180.0
    """The way the panel faces, from true north clockwise."""
    controller: ControllerKind = "pwm"


class Alternator(Section):
    """Charging from the engine, through a DC-DC charger."""

    charge_a: KnownAmps = KnownAmps(value=20.0)
    driving_h_per_day: KnownHours = KnownHours(value=1.0)


class Array(Section):
    strings: Annotated[list[PanelString], Field(max_length=32)] = Field(default_factory=list)
    alternator: Alternator | None = None

    @model_validator(mode="after")
    def _ids_once(self) -> "Array":
        ids = [string.id for string in self.strings]
        if len(set(ids)) != len(ids):
            raise ValueError("two strings carry the same id; every string needs its own")
        return self
