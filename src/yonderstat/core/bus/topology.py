"""Which run leads where: every source, converter and load of the other steps hangs on a tree that
begins at the post.

What nobody has typed is proposed by the kind of site; a typed row of the document overrides what it
names.
"""

from dataclasses import dataclass, replace
from typing import Literal

from ..controllers import controller_type
from ..data import rows_by
from ..design import (
    BUS,
    MAIN,
    MAIN_RUN,
    POST,
    BusRun,
    Connector,
    Design,
    KnownLength,
    PartKind,
    RunPart,
)
from ..store import ALTERNATOR

Feeds = Literal["bus", "load", "rail", "charge", "source", "engine", "layer", "block"]
Ours = Literal["loop", "nowhere", "nothing"]
OWN_BLOCK = "block-"
"""Begins the id of a run of one's own: a second fuse block, a sub-panel."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Leg:
    """A run of the tree. `index` is its row in the document, None where all of it is proposed."""

    id: str
    name: str
    feeds: Feeds
    of: str
    """The id of what it feeds or carries."""
    fed_from: str
    length: KnownLength
    parts: tuple[RunPart, ...]
    connector: Connector | None
    """None is chosen by the current."""
    ambient_c: float
    row: BusRun | None = None
    index: int | None = None

    @property
    def is_source(self) -> bool:
        """Whether current comes in by it."""
        return self.feeds in {"charge", "source", "engine"}


@dataclass(frozen=True, slots=True)
class Amiss:
    """A row of the document that cannot be taken as it stands, and why."""

    index: int
    run: str
    why: Ours


def load_run(load_id: str) -> str:
    """The id of a load's run."""
    return f"load-{load_id}"


def rail_run(rail_id: str) -> str:
    """The id of a converter's run."""
    return f"rail-{rail_id}"


def charge_run(string_id: str) -> str:
    """The id of the run from a string's controller."""
    return f"charge-{string_id}"


def _proposed(design: Design) -> list[Leg]:
    usual = rows_by("bus_lengths", "kind")[design.brief.kind]
    ambient_c = float(usual["ambient_c"])

    def leg(
        run: str,
        name: str,
        feeds: Feeds,
        of: str,
        fed_from: str,
        length: str,
        parts: tuple[PartKind, ...] = (),
        connector: Connector | None = None,
    ) -> Leg:
        metres = KnownLength(value=float(usual[length]))
        return Leg(
            id=run,
            name=name,
            feeds=feeds,
            of=of,
            fed_from=fed_from,
            length=metres,
            parts=tuple(RunPart(kind=kind) for kind in parts),
            connector=connector,
            ambient_c=ambient_c,
        )

    takes_over = any(charger.kind == "changeover" for charger in design.array.chargers)
    on_the_way: tuple[PartKind, ...] = (
        ("switch", "shunt", "changeover") if takes_over else ("switch", "shunt")
    )
    found = [
        leg(
            MAIN_RUN,
            "Battery to bus",
            feeds="bus",
            of=BUS,
            fed_from=POST,
            length="main_m",
            parts=on_the_way,
            connector="lugs",
        )
    ]
    for load in design.draw.loads:
        if load.rail == BUS:
            found.append(leg(load_run(load.id), load.name, "load", load.id, MAIN_RUN, "branch_m"))
    leaders = {string.id: string.joins or string.id for string in design.array.strings}
    for rail in design.draw.rails:
        if rail.bank == MAIN:
            start = charge_run(leaders[rail.outlet_of]) if rail.outlet_of else MAIN_RUN
            found.append(leg(rail_run(rail.id), rail.name, "rail", rail.id, start, "branch_m"))
    for string in design.array.strings:
        if string.joins is None:
            name = (
                f"{string.name}, controller"
                if controller_type(string.controller).regulates
                else string.name
            )
            found.append(
                leg(
                    charge_run(string.id),
                    name,
                    feeds="charge",
                    of=string.id,
                    fed_from=POST,
                    length="charge_m",
                    parts=(),
                    connector="screw",
                )
            )
    for charger in design.array.chargers:
        start = MAIN_RUN if charger.kind in {"bench_supply", "selector", "changeover"} else POST
        found.append(
            leg(f"source-{charger.id}", charger.name, "source", charger.id, start, "source_m")
        )
    if design.array.alternator:
        found.append(
            leg(
                "engine",
                "Engine",
                feeds="engine",
                of=ALTERNATOR,
                fed_from=POST,
                length="source_m",
                parts=(),
                connector="lugs",
            )
        )
    for layer in design.store.layers:
        if layer.joining not in {"apart", "swap"}:
            found.append(
                leg(
                    f"layer-{layer.id}",
                    layer.name,
                    feeds="layer",
                    of=layer.id,
                    fed_from=POST,
                    length="main_m",
                    parts=("switch",),
                    connector="lugs",
                )
            )
    return found


def _typed(leg: Leg, row: BusRun, index: int) -> Leg:
    parts = leg.parts if row.parts is None else tuple(row.parts)
    return replace(
        leg,
        name=row.name or leg.name,
        fed_from=row.fed_from or leg.fed_from,
        length=row.length_m or leg.length,
        parts=parts,
        connector=row.connector or leg.connector,
        ambient_c=row.ambient_c.value if row.ambient_c else leg.ambient_c,
        row=row,
        index=index,
    )


def _own_block(row: BusRun, index: int, design: Design) -> Leg:
    usual = rows_by("bus_lengths", "kind")[design.brief.kind]
    leg = Leg(
        id=row.id,
        name=row.name or row.id.removeprefix(OWN_BLOCK).replace("-", " "),
        feeds="block",
        of=row.id,
        fed_from=MAIN_RUN,
        length=KnownLength(value=float(usual["branch_m"])),
        parts=(RunPart(kind="block"),),
        connector="lugs",
        ambient_c=float(usual["ambient_c"]),
    )
    return _typed(leg, row, index)


def _begins_at_the_post(legs: dict[str, Leg], run: str) -> bool:
    seen: set[str] = set()
    while run != POST:
        if run in seen or run not in legs:
            return False
        seen.add(run)
        run = legs[run].fed_from
    return True


def _passing(legs: dict[str, Leg], design: Design) -> dict[str, Leg]:
    """The same with a changeover rated for what its row among the sources says it passes, where the
    run is silent."""
    passes = [
        item.passes_a
        for item in design.array.chargers
        if item.kind == "changeover" and item.passes_a
    ]
    if not passes:
        return legs

    def rated(part: RunPart) -> RunPart:
        unrated = part.kind == "changeover" and part.rating_a is None
        return part.model_copy(update={"rating_a": passes[0]}) if unrated else part

    return {
        run: replace(leg, parts=tuple(rated(part) for part in leg.parts))
        for run, leg in legs.items()
    }


def topology_of(design: Design) -> tuple[tuple[Leg, ...], tuple[Amiss, ...]]:
    """Every run, those nearer the post first, and the rows of the document that could not be taken
    as they stand.

    A row for what is not there is left out; one that begins nowhere, or leads back into itself,
    begins where it is proposed to, so that any document gives a tree.
    """
    proposed = {leg.id: leg for leg in _proposed(design)}
    legs, amiss = dict(proposed), []
    for index, row in enumerate(design.bus.runs):
        if row.id in proposed:
            legs[row.id] = _typed(proposed[row.id], row, index)
        elif row.id.startswith(OWN_BLOCK):
            legs[row.id] = _own_block(row, index, design)
        else:
            amiss.append(Amiss(index, row.id, "nothing"))
    legs = _passing(legs, design)
    for run, leg in list(legs.items()):
        if leg.index is None or leg.fed_from == POST:
            continue
        nowhere = leg.fed_from not in legs
        if nowhere or not _begins_at_the_post(legs, run):
            amiss.append(Amiss(leg.index, run, "nowhere" if nowhere else "loop"))
            start = proposed[run].fed_from if run in proposed else MAIN_RUN
            legs[run] = replace(leg, fed_from=start)
    return tuple(sorted(legs.values(), key=lambda leg: _depth(legs, leg))), tuple(amiss)


def _depth(legs: dict[str, Leg], leg: Leg) -> int:
    depth, run = 0, leg.fed_from
    while run != POST and depth <= len(legs):
        depth, run = depth + 1, legs[run].fed_from
    return depth
