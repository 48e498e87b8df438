"""What a part in the way of the current takes along when it fails: a fuse, a switch, a converter, a
network."""

from collections.abc import Iterator
from dataclasses import dataclass

from ..bus import BusModel, Run
from ..design import MAIN_RUN, POST, Design, Load
from ..station import StationModel

NETWORKS = (("internet", "The internet"), ("neighbour", "A neighbour's network"))


@dataclass(frozen=True, slots=True)
class TakesAlong:
    """A part, and the loads that are dark without it."""

    part: str
    loads: tuple[Load, ...]


def _under(bus: BusModel, run: Run) -> frozenset[str]:
    """Ids of the loads and rails that hang under a run, itself included."""
    legs = {item.leg.id: item.leg for item in bus.runs}
    found = set()
    for leg in legs.values():
        at = leg.id
        while at != POST:
            if at == run.leg.id and leg.feeds in {"load", "rail"}:
                found.add(f"{leg.feeds} {leg.of}")
            at = legs[at].fed_from
    return frozenset(found)


def _hang_on(design: Design, under: frozenset[str]) -> tuple[Load, ...]:
    return tuple(
        load
        for load in design.draw.loads
        if f"load {load.id}" in under or f"supply line {load.rail}" in under
    )


def taken_along(model: StationModel) -> Iterator[TakesAlong]:
    """Every part in the way that fails by itself, the one nearest the battery first.

    A load's own fuse is told where something vital hangs on it: what is not vital is missed by
    nobody for long.
    """
    design = model.design
    for run in model.bus.runs:
        loads = _hang_on(design, _under(model.bus, run))
        if not loads:
            continue
        ways = [run.fuse.label] if run.fuse.kind != "none" else []
        ways += [
            "switch" if part.kind == "switch" else part.kind.replace("_", " ") for part in run.parts
        ]
        if run.leg.id == MAIN_RUN:
            yield TakesAlong(f"Main fuse, or {' or '.join(ways[1:]) or 'main run'}", loads)
        elif run.leg.feeds == "rail":
            yield TakesAlong(f"{run.leg.name}, or its fuse", loads)
        elif ways and (
            run.leg.feeds == "block" or any((load.tier or "vital") == "vital" for load in loads)
        ):
            yield TakesAlong(f"{run.leg.name}: its {ways[0]}", loads)
    for need, name in NETWORKS:
        waiting = tuple(load for load in design.draw.loads if need in load.needs)
        if waiting:
            yield TakesAlong(name, waiting)
