"""What the API takes and gives."""

from dataclasses import dataclass
from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import ConfigDict, Field

from yonderstat.core import Firsts, Report, Summary
from yonderstat.core.array import Fit
from yonderstat.core.design import Design, Kind, Load, Place, Purpose, Rail
from yonderstat.core.design.base import Name
from yonderstat.core.finding import Finding
from yonderstat.core.next_action import NextAction
from yonderstat.core.schools import Disagreement
from yonderstat.core.sun import SunTrack, TiltMap

from .api import Body

MAX_OPERATIONS = 2000


class NewSite(Body):
    """A new site: a first design is proposed for its kind, purpose and place, or a design file is
    taken."""

    name: Name
    kind: Kind = "home"
    purpose: Purpose = "standby"
    place: Place | None = None
    document: dict[str, Any] | None = None


class SiteChange(Body):
    """A site's name, or a place of its own; what is not given stays as it is, and no place takes
    its design's."""

    name: Name | None = None
    place: Place | None = None


class NewChannel(Body):
    """A quantity a device reads, and the unit of its readings."""

    quantity: Annotated[Name, Field(max_length=40)]
    unit: Annotated[str, Field(max_length=12)]


class NewDevice(Body):
    """Something at a site that is read: by a person, or by itself."""

    name: Name
    kind: Literal["meter", "controller", "monitor", "sensor"]
    channels: Annotated[list[NewChannel], Field(min_length=1, max_length=40)]


class AsBuilt(Body):
    as_built: Literal[True]


class PatchOperation(Body):
    """One operation of a JSON Patch (RFC 6902)."""

    model_config = ConfigDict(populate_by_name=True)

    op: Literal["add", "remove", "replace", "move", "copy", "test"]
    path: Annotated[str, Field(max_length=500)]
    from_: Annotated[str | None, Field(alias="from", max_length=500)] = None
    value: Any = None


Patch = Annotated[list[PatchOperation], Field(min_length=1, max_length=MAX_OPERATIONS)]


class NewDesign(Body):
    """Another design for a site: a copy of one it has, or a design file."""

    copy_of: str | None = None
    patch: Annotated[list[PatchOperation], Field(max_length=100)] = Field(default_factory=list)
    """Changes the copy begins with."""
    document: dict[str, Any] | None = None


@dataclass(frozen=True, slots=True)
class DesignTab:
    """A design of a site, in short."""

    id: UUID
    name: str
    as_built: bool
    revision: int


@dataclass(frozen=True, slots=True, kw_only=True)
class SiteLine:
    """A site on the home page, with its design as built in a line.

    Without a summary the design waits to be judged, or `trouble` says why it cannot be.
    """

    id: UUID
    name: str
    locator: str | None
    design_id: UUID
    designs: list[DesignTab]
    summary: Summary | None
    trouble: str | None


@dataclass(frozen=True, slots=True)
class PutAwaySite:
    """A site that was put away; it can be brought back."""

    id: UUID
    name: str
    since: datetime


@dataclass(frozen=True, slots=True)
class SiteView:
    """A site and its designs in order."""

    id: UUID
    name: str
    designs: list[DesignTab]
    place: Place | None
    """Where it really stands, where that is not where its design as built says."""


@dataclass(frozen=True, slots=True, kw_only=True)
class DesignView:
    """A design at its newest revision, judged."""

    id: UUID
    site_id: UUID
    site_name: str
    as_built: bool
    revision: int
    saved_at: datetime
    can_undo: bool
    can_redo: bool
    document: Design
    report: Report
    working_since: int | None = None
    """Where only changed figures were asked for: `report.working` holds those that are not as they
    were at this revision, and `working_gone` those that are no more."""
    working_gone: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class FindingsView:
    """What the rules find on a revision, with the remedies that were tried."""

    revision: int
    findings: tuple[Finding, ...]


@dataclass(frozen=True, slots=True)
class NextActionsView:
    """What to do next about the verdict of a revision, what is free first; none where it is
    good."""

    revision: int
    next_actions: tuple[NextAction, ...]


@dataclass(frozen=True, slots=True)
class SunPathView:
    """The sun's way through a revision's sky, to lay a skyline against; empty without a place."""

    revision: int
    tracks: tuple[SunTrack, ...]


@dataclass(frozen=True, slots=True)
class FitsView:
    """Every way to wire the shelf on a revision, the best first; empty without a place or a
    shelf."""

    revision: int
    month: int
    fits: tuple[Fit, ...]


@dataclass(frozen=True, slots=True)
class TiltMapView:
    """The map of a revision's hard month, or of its months in use."""

    revision: int
    map: TiltMap | None


@dataclass(frozen=True, slots=True, kw_only=True)
class PlaceView:
    """A place read from what was typed."""

    latitude_deg: float
    longitude_deg: float
    locator: str
    elevation_m: float
    has_sun_data: bool
    time_zone: str | None


@dataclass(frozen=True, slots=True)
class Choice:
    """One of the values a field may take, with its name for people."""

    value: str
    label: str
    hint: str = ""


@dataclass(frozen=True, slots=True)
class UsualLoad:
    """A kind of load with the figures usual for it, ready to be put in a ledger."""

    kind: str
    label: str
    load: Load


@dataclass(frozen=True, slots=True, kw_only=True)
class Catalogue:
    """The choices of the document's fields, and the figures that stand behind them."""

    kinds: list[Choice]
    usual_purpose: dict[Kind, Purpose]
    """What a station of a kind is usually for."""
    purposes: list[Choice]
    preparing: list[Choice]
    attended: list[Choice]
    tiers: list[Choice]
    load_kinds: list[UsualLoad]
    modes: list[Choice]
    usual_rails: list[Rail]
    chemistries: list[Choice]
    housings: list[Choice]
    roles: list[Choice]
    joinings: list[Choice]
    restarts: list[Choice]
    answers: list[Choice]
    allowances: list[Choice]
    sun_sources: list[Choice]
    controllers: list[Choice]
    charger_kinds: list[Choice]
    load_programs: list[Choice]
    conditions: list[Choice]
    mounts: list[Choice]
    fitted: list[Choice]
    cells: list[Choice]
    schools: list[Choice]
    """Of charging, by name."""
    fuse_kinds: list[Choice]
    fuse_leads: list[Choice]
    connectors: list[Choice]
    bus_parts: list[Choice]
    converters: list[Choice]
    waveforms: list[Choice]
    ingress: list[Choice]
    wiring_schools: list[Choice]
    disagreements: list[Disagreement]
    firsts: Firsts
    """What each new row starts from, every figure a guess."""
