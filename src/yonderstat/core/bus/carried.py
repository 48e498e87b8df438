"""What every run carries: the tree of taps, and the amps that flow through it."""

from collections.abc import Sequence
from dataclasses import dataclass

from ..array import ArrayModel
from ..design import POST, Design
from ..draw import LoadDraw, peak_a
from .conductors import (
    Carried,
)
from .topology import Leg


@dataclass(frozen=True, slots=True)
class Tap:
    """Where current leaves the tree: loads that hang on one run."""

    run: int
    loads: tuple[int, ...]
    idle_a: float
    grows: bool
    """Whether it takes more amps as the volts fall, whatever its loads do."""


def taps_of(legs: Sequence[Leg], design: Design, loads: Sequence[LoadDraw], bus_v: float) -> list[Tap]:
    found = []
    rails = {rail.id: rail for rail in design.draw.rails}
    for place, leg in enumerate(legs):
        if leg.feeds == "load":
            mine = tuple(number for number, item in enumerate(loads) if item.load.id == leg.of)
            found.append(Tap(place, mine, 0.0, loads[mine[0]].load.behaviour == "constant_power"))
        elif leg.feeds == "rail":
            mine = tuple(number for number, item in enumerate(loads) if item.load.rail == leg.of)
            found.append(Tap(place, mine, rails[leg.of].idle_w.value / bus_v, True))
    return found


def path_to(legs: Sequence[Leg], places: dict[str, int], place: int) -> list[int]:
    """The runs from the post to a run, the nearest the post first."""
    found = [place]
    while legs[found[-1]].fed_from != POST:
        found.append(places[legs[found[-1]].fed_from])
    return found[::-1]


def carried_by(
    legs: Sequence[Leg],
    paths: dict[int, list[int]],
    taps: list[Tap],
    loads: Sequence[LoadDraw],
    array: ArrayModel,
    bus_v: float,
    low_v: float,
) -> list[Carried]:
    """What every run carries. What grows as the volts fall counts at the lowest volts there are."""
    more = max(1.0, bus_v / max(low_v, 0.7 * bus_v))
    given_a = _given_a(legs, array)
    found = []
    for place in range(len(legs)):
        below = [tap for tap in taps if place in paths[tap.run]]
        steady = [loads[number] for tap in below if not tap.grows for number in tap.loads]
        growing = [loads[number] for tap in below if tap.grows for number in tap.loads]
        idle_a = sum(tap.idle_a for tap in below) * more
        on_end = _on_end_a(steady) + more * _on_end_a(growing) + idle_a
        standing = peak_a(steady)
        worst = standing + more * (peak_a([*steady, *growing]) - standing) + idle_a
        given = sum(amps for other, amps in given_a.items() if place in paths[other])
        found.append(Carried(max(on_end, given), max(worst, given)))
    return found


def _on_end_a(loads: Sequence[LoadDraw]) -> float:
    """What flows while they are on: their mean, or what they take without being keyed. [A]"""
    return sum(max(item.receive_a, item.mean_on_a) for item in loads)


def _given_a(legs: Sequence[Leg], array: ArrayModel) -> dict[int, float]:
    """The most that every source puts in, by the place of its run. [A]"""
    amps: dict[str, float] = {source.id: source.amps for source in array.sources}
    joined: dict[str, float] = {}
    for string in array.strings:
        leader = string.string.joins or string.string.id
        joined[leader] = joined.get(leader, 0.0) + amps.get(string.string.id, 0.0)
    return {
        place: joined.get(leg.of, 0.0) if leg.feeds == "charge" else amps.get(leg.of, 0.0)
        for place, leg in enumerate(legs)
        if leg.is_source
    }
