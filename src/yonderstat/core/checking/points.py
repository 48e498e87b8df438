"""Where a meter can be put: every place of the station, with what it takes to measure there."""

from dataclasses import dataclass, replace
from typing import Literal

from ..array import label_of
from ..bus import Run
from ..design import MAIN
from ..electrical import size_name
from ..station import StationModel
from ..words import measure

PointKind = Literal["battery", "volts", "across", "amps", "charge", "open", "short", "draw"]
TIMES: dict[str, tuple[float, str]] = {
    "battery": (
        1.0,
        "A short circuit here melts tools: one hand, insulated tips, rings and watches off.",
    ),
    "volts": (1.0, "A slipped probe shorts the lead: one hand, insulated tips."),
    "across": (
        2.0,
        "A slipped probe here shorts the battery: one hand, insulated tips, rings off.",
    ),
    "amps": (
        2.0,
        "Clamp one conductor only, plus or minus; set the clamp to DC and zero it first.",
    ),
    "draw": (2.0, "Clamp one conductor only; set the clamp to DC and zero it first."),
    "charge": (2.0, "Clamp one conductor only; set the clamp to DC and zero it first."),
    "open": (
        6.0,
        (
            "Panels give volts as long as there is light: part their plugs without load, never "
            "under it."
        ),
    ),
    "short": (
        8.0,
        "A shorted string arcs when it is parted: cover the panels first, then join and part.",
    ),
}
"""Minutes, and the caution. [C]"""


TOUCH_V = 60.0
"""Volts of direct current above which touching is taken for dangerous. [C]"""
HIGH_VOLTS = (
    "These panels give more than 60 V: that can kill. Leave it to whoever is licensed for it."
)


@dataclass(frozen=True, slots=True, kw_only=True)
class Point:
    """A place where something can be measured."""

    id: str
    kind: PointKind
    name: str
    """As it is said: “at the HF set”."""
    short: str
    """As it stands in a diagram: “HF set”."""
    unit: str
    of: str
    """Of a run or a string: its id."""
    minutes: float
    caution: str


def _point(kind: PointKind, of: str, name: str, short: str, unit: str) -> Point:
    minutes, caution = TIMES[kind]
    return Point(
        id=f"{kind}:{of}" if of else kind,
        kind=kind,
        name=name,
        short=short,
        unit=unit,
        of=of,
        minutes=minutes,
        caution=caution,
    )


def measured_runs(station: StationModel) -> list[Run]:
    """Runs at whose end there is something to measure: loads, converters and the bus."""
    elsewhere = {rail.id for rail in station.design.draw.rails if rail.bank != MAIN}
    return [
        run
        for run in station.bus.runs
        if run.leg.feeds in {"load", "bus"}
        or (run.leg.feeds == "rail" and run.leg.of not in elsewhere)
    ]


def end_name(station: StationModel, run: Run) -> str:
    """What is at the far end of a run."""
    if run.leg.feeds == "bus":
        return "fuse block"
    design = station.design
    named = {item.id: item.name for item in design.draw.loads}
    # Where the battery's own volts are measured: at an inverter's output they kill.
    named |= {item.id: f"DC input of {item.name}" for item in design.draw.rails}
    return named.get(run.leg.of, run.leg.name)


def points_of(station: StationModel) -> tuple[Point, ...]:
    """Every place of a station a meter reaches, the battery first; none without a battery."""
    if station.bank is None:
        return ()
    found = [
        _point("battery", "", "at the battery posts", "Battery", "V"),
        _point("draw", "", "out of the battery, all loads", "All loads", "A"),
    ]
    for run in measured_runs(station):
        end = end_name(station, run)
        found.append(_point("volts", run.leg.id, f"at the {end}", end, "V"))
        if run.fuse.kind != "none" and run.leg.feeds != "bus":
            name = f"across the fuse and holder of the {end}"
            found.append(_point("across", run.leg.id, name, f"{end}: fuse", "V"))
        if run.leg.feeds == "load":
            found.append(_point("amps", run.leg.id, f"into the {end}", f"{end}: clamp", "A"))
    for string in station.design.array.strings:
        if string.joins is None:
            found.append(
                _point("charge", string.id, f"from the controller, {string.name}", string.name, "A")
            )
        opened = _point("open", string.id, f"{string.name}, open", f"{string.name}: open", "V")
        if label_of(string.module, string.series).v_oc * string.series > TOUCH_V:
            # Such volts hold an arc: nobody is asked to short them.
            found.append(replace(opened, caution=f"{HIGH_VOLTS} {opened.caution}"))
            continue
        found.append(opened)
        found.append(
            _point("short", string.id, f"{string.name}, shorted", f"{string.name}: shorted", "A")
        )
    return tuple(found)


@dataclass(frozen=True, slots=True, kw_only=True)
class RunOfDiagram:
    """A lead as the diagram of points draws it."""

    id: str
    end: str
    """What is at its far end."""
    fuse: str
    """As it stands on the fuse; empty without one."""
    wire: str
    """How long and how thick, in words."""


def runs_of_diagram(station: StationModel) -> tuple[RunOfDiagram, ...]:
    """The leads that are drawn: from the fuse block to loads and converters, in the order of the
    wiring."""
    found = []
    for run in measured_runs(station):
        if run.leg.feeds == "bus":
            continue
        fuse = f"{run.fuse.rating_a:g} A" if run.fuse.kind != "none" else ""
        size = size_name(station.bus.book, run.mm2)
        found.append(
            RunOfDiagram(
                id=run.leg.id,
                end=end_name(station, run),
                fuse=fuse,
                wire=f"{measure(run.laid.length_m, 'm', 1)} of {size}",
            )
        )
    return tuple(found)
