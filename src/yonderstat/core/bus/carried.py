"""What every run carries: the tree of taps, and the amps that flow through it."""

from collections.abc import Sequence
from dataclasses import dataclass

from ..array import ArrayModel
from ..design import POST, Design, Layer, Rail
from ..draw import LoadDraw, inverter_input_a, peak_a, rail_efficiency
from .conductors import (
    Carried,
)
from .converters import input_window
from .topology import Leg


@dataclass(frozen=True, slots=True)
class Tap:
    """Where current leaves the tree: loads that hang on one run."""

    run: int
    loads: tuple[int, ...]
    idle_a: float
    grows: bool
    """Whether it takes more amps as the volts fall, whatever its loads do."""
    rated_a: float = 0.0
    """What an inverter takes at its whole rating and the lowest volts it works at; 0 where it names
    none."""


def taps_of(
    legs: Sequence[Leg], design: Design, loads: Sequence[LoadDraw], bus_v: float
) -> list[Tap]:
    found = []
    rails = {rail.id: rail for rail in design.draw.rails}
    for place, leg in enumerate(legs):
        if leg.feeds == "load":
            mine = tuple(number for number, item in enumerate(loads) if item.load.id == leg.of)
            found.append(Tap(place, mine, 0.0, loads[mine[0]].load.behaviour == "constant_power"))
        elif leg.feeds == "rail":
            mine = tuple(number for number, item in enumerate(loads) if item.load.rail == leg.of)
            found.append(
                Tap(
                    place,
                    mine,
                    rails[leg.of].idle_w.value / bus_v,
                    True,
                    _rated_a(rails[leg.of], bus_v),
                )
            )
    return found


def _rated_a(rail: Rail, bus_v: float) -> float:
    if rail.kind != "inverter" or rail.rated_w is None:
        return 0.0
    rated_w = rail.rated_w.value
    return inverter_input_a(
        rated_w, rail_efficiency(rail, rated_w), input_window(rail, bus_v).least_v
    )


def path_to(legs: Sequence[Leg], places: dict[str, int], place: int) -> list[int]:
    """The runs from the post to a run, the nearest the post first.

    Parameters
    ----------
    legs : sequence of Leg
        Every run of the station.
    places : dict[str, int]
        Where a run stands in them, by its id.
    place : int
        The run asked about.
    """
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
    links: dict[str, Layer],
    volts: tuple[float, float],
) -> list[Carried]:
    """What every run carries. What grows as the volts fall counts at the lowest volts there are;
    `volts` are the nominal ones and those.

    The link to a bank that takes over carries what the station does while that bank feeds it; one
    through a converter what the converter passes, where somebody has said so.

    Parameters
    ----------
    paths : dict[int, list[int]]
        For each tap, the runs between it and the post.
    links : dict[str, Layer]
        Banks that take over the station, by the id of their run.
    volts : tuple[float, float]
        Nominal, and the lowest there are. [V]
    """
    bus_v, low_v = volts
    more = max(1.0, bus_v / max(low_v, 0.7 * bus_v))
    given_a = _given_a(legs, array)
    found = []
    for place, leg in enumerate(legs):
        passes = (
            links[leg.of].converter_a
            if leg.feeds == "layer" and links[leg.of].joining == "converter"
            else None
        )
        if passes is not None:
            found.append(Carried(passes.value, passes.value))
            continue
        below = [tap for tap in taps if leg.feeds == "layer" or place in paths[tap.run]]
        steady = [loads[number] for tap in below if not tap.grows for number in tap.loads]
        growing = [loads[number] for tap in below if tap.grows for number in tap.loads]
        idle_a = sum(tap.idle_a for tap in below) * more
        on_end = _on_end_a(steady) + more * _on_end_a(growing) + idle_a
        standing = peak_a(steady)
        worst = standing + more * (peak_a([*steady, *growing]) - standing) + idle_a
        given = sum(amps for other, amps in given_a.items() if place in paths[other])
        found.append(Carried(max(on_end, given), max(worst, given)))
    return found


def laid_for(
    carried: Sequence[Carried],
    paths: dict[int, list[int]],
    taps: Sequence[Tap],
    loads: Sequence[LoadDraw],
    links: frozenset[int],
) -> list[Carried]:
    """What wire and fuse are proposed for: what the runs carry, and an inverter at its whole
    rating, whatever hangs on it today.

    Parameters
    ----------
    carried : sequence of Carried
        What every run carries, every set at full power.
    links : frozenset of int
        Places of the runs to banks that take over the whole station.
    """
    found = list(carried)
    for tap in taps:
        if tap.rated_a <= 0:
            continue
        mine = [loads[number] for number in tap.loads]
        lacks = Carried(
            max(0.0, tap.rated_a - tap.idle_a - _on_end_a(mine)),
            max(0.0, tap.rated_a - tap.idle_a - peak_a(mine)),
        )
        for place in {*paths[tap.run], *links}:
            now = found[place]
            found[place] = Carried(now.continuous_a + lacks.continuous_a, now.peak_a + lacks.peak_a)
    return found


def _on_end_a(loads: Sequence[LoadDraw]) -> float:
    """What flows while they are on: their mean, or what they take without being keyed. [A]"""
    return sum(max(item.receive_a, item.mean_on_a) for item in loads)


def _given_a(legs: Sequence[Leg], array: ArrayModel) -> dict[int, float]:
    """The most that every source puts in, by the place of its run. [A]"""
    amps: dict[str, float] = {source.id: source.lead_a for source in array.sources}
    joined: dict[str, float] = {}
    for string in array.strings:
        leader = string.string.joins or string.string.id
        joined[leader] = joined.get(leader, 0.0) + amps.get(string.string.id, 0.0)
    return {
        place: joined.get(leg.of, 0.0) if leg.feeds == "charge" else amps.get(leg.of, 0.0)
        for place, leg in enumerate(legs)
        if leg.is_source
    }
