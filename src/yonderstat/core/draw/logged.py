"""From a contact log to a tempo: what the station really does, with the assumption shown."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated

from pydantic import Field

from ..data import rows_by
from ..design import Design, KnownHours, KnownShare, Load, Mode, Override, Tempo
from .model import is_operated

LOGGED_ID, LOGGED_NAME = "as-logged", "From your contact log"


@dataclass(frozen=True, slots=True)
class Activity:
    """Contacts on one band in one mode, in one clock hour of one day (UTC)."""

    day: Annotated[str, Field(pattern=r"^\d{1,4}-\d{2}-\d{2}$")]
    hour: Annotated[int, Field(ge=0, le=23)]
    band: Annotated[str, Field(min_length=1, max_length=12)]
    mode: Mode
    contacts: Annotated[int, Field(ge=0, le=100_000)]


@dataclass(frozen=True, slots=True)
class OverLength:
    """The assumption of one mode: seconds of one's own over, and how many to a contact."""

    mode: Mode
    over_s: Annotated[float, Field(ge=0, le=3600)]
    overs: Annotated[float, Field(ge=0, le=1000)]


@dataclass(frozen=True, slots=True, kw_only=True)
class LoggedLoad:
    """What the log says of one load: hours on the air a day, and the share of them on the key."""

    load_id: str
    name: str
    contacts: int
    hours_per_day: float
    transmit_share: float
    by_hour: tuple[float, ...]
    """Contacts a day by clock hour (UTC)."""


@dataclass(frozen=True, slots=True)
class BandMode:
    """Contacts on a band in a mode, over the whole log."""

    band: str
    mode: Mode
    contacts: int


@dataclass(frozen=True, slots=True, kw_only=True)
class LoggedTempo:
    """A tempo proposed from a log, and how it came about."""

    tempo: Tempo
    days: int
    contacts: int
    loads: tuple[LoggedLoad, ...]
    by_band: tuple[BandMode, ...]
    """The busiest first."""
    unplaced: int
    """Contacts on bands no load of the design covers."""


def usual_overs() -> list[OverLength]:
    """The usual length of an over and overs to a contact, by mode. [C] common practice, to be
    edited."""
    table = rows_by("modes", "mode")
    modes: tuple[Mode, ...] = ("ssb", "cw", "fm", "data")
    return [
        OverLength(mode, float(table[mode]["over_s"]), float(table[mode]["overs_per_contact"]))
        for mode in modes
    ]


def is_hf(band: str) -> bool:
    """Whether an HF set usually covers the band; one we do not know is taken as not."""
    row = rows_by("bands", "band").get(band)
    return row is not None and row["hf"] == "yes"


def _set_for(design: Design, band: str) -> Load | None:
    """The first set an operator keys that covers the band."""
    kinds = {"hf_set"} if is_hf(band) else {"vhf_mobile", "handheld"}
    return next(
        (load for load in design.draw.loads if load.kind in kinds and is_operated(load)), None
    )


def logged_tempo(
    design: Design, activity: Sequence[Activity], overs: Sequence[OverLength]
) -> LoggedTempo:
    """Propose a tempo from a log.

    Hours on the air a day are the clock hours with a contact in them, over the days with any; the
    share on the key is contacts times overs times their length, over those hours. An hour with a
    contact in it counts as an hour on the air, and none without: listening leaves no log. [C] an
    assumption.

    Parameters
    ----------
    activity : sequence of Activity
        Hours of the clock with a contact in them.
    overs : sequence of OverLength
        How long an over of this operator lasts, by mode.
    """
    seconds = {item.mode: item.over_s * item.overs for item in overs}
    days = len({item.day for item in activity})
    unplaced = 0
    on_hours: dict[str, set[tuple[str, int]]] = {}
    keyed_s: Counter[str] = Counter()
    contacts: Counter[str] = Counter()
    by_hour: Counter[tuple[str, int]] = Counter()
    by_band: Counter[tuple[str, Mode]] = Counter()
    for item in activity:
        by_band[item.band, item.mode] += item.contacts
        load = _set_for(design, item.band)
        if load is None:
            unplaced += item.contacts
            continue
        on_hours.setdefault(load.id, set()).add((item.day, item.hour))
        keyed_s[load.id] += round(item.contacts * seconds[item.mode])
        contacts[load.id] += item.contacts
        by_hour[load.id, item.hour] += item.contacts
    loads = []
    for load in design.draw.loads:
        if load.id not in on_hours:
            continue
        hours = len(on_hours[load.id])
        share = min(1.0, keyed_s[load.id] / (hours * 3600.0))
        a_day = tuple(by_hour[load.id, hour] / days for hour in range(24))
        loads.append(
            LoggedLoad(
                load_id=load.id,
                name=load.name,
                contacts=contacts[load.id],
                hours_per_day=hours / days,
                transmit_share=share,
                by_hour=a_day,
            )
        )
    overrides = [
        Override(
            load=item.load_id,
            transmit_share=KnownShare(value=round(item.transmit_share, 4), basis="measured"),
            hours_per_day=KnownHours(
                value=round(min(24.0, item.hours_per_day), 3), basis="measured"
            ),
        )
        for item in loads
    ]
    tempo = Tempo(id=LOGGED_ID, name=LOGGED_NAME, overrides=overrides)
    bands = tuple(BandMode(band, mode, count) for (band, mode), count in by_band.most_common())
    return LoggedTempo(
        tempo=tempo,
        days=days,
        contacts=sum(item.contacts for item in activity),
        loads=tuple(loads),
        by_band=bands,
        unplaced=unplaced,
    )
