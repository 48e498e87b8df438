"""A first design for a new site: the cheapest of sizes that are sold which holds there."""

import math
from collections.abc import Iterator
from itertools import product

from ..controllers import controller_type
from ..design import (
    Bank,
    Chemistry,
    Design,
    Kind,
    KnownAmps,
    Place,
    Purpose,
    with_array,
    with_bank,
    with_string,
)
from ..explained import explained
from ..station import StationModel
from ..store import kind_of
from .search import Found, Search, with_mains
from .sold import Bounds, array_sizes, bank_sizes, bounds_of
from .starting import starting_design

LIGHT: Chemistry = "lifepo4"
DC_DC_A = (40.0, 60.0)
"""Chargers from the vehicle that are sold, beyond the usual one. [C]"""
MOST_UNITS, MOST_PANELS = 4, 4
"""Of one size beside each other, where no weather can be played."""


def _by_rule(design: Design) -> Design:
    """As many units and panels as the worst-month rule asks for: without a place no years can be
    played."""
    sizing = explained(StationModel(design))
    units = sizing.number(sizing.sizing.worst_month.bank_units)
    panels = sizing.number(sizing.sizing.worst_month.array_panels)
    if units:
        design = with_bank(design, parallel=min(max(1, math.ceil(units)), MOST_UNITS))
    if panels:
        parallel = min(max(1, math.ceil(panels)), MOST_PANELS)
        design = with_string(design, 0, parallel=parallel)
    return with_mains(design)


def _variants(design: Design) -> Iterator[tuple[Design, Bank]]:
    """A station as its kind usually is; then with a tracker, with lithium, and in a heated box."""
    bank = design.store.bank
    if bank is None:
        return
    light = bank.model_copy(update={"chemistry": LIGHT, "unit_v": kind_of(LIGHT).unit_v})
    tracked = design
    if controller_type(design.array.strings[0].controller).passes_current:
        tracked = with_string(design, 0, controller="mppt")
    warm = light.model_copy(update={"housing": "heated"})
    outdoors = bank.housing not in {"indoors", "heated"}
    yield design, bank
    if tracked is not design:
        yield tracked, bank
    if bank.chemistry != LIGHT:
        yield tracked, light
    if outdoors:
        yield tracked, bank.model_copy(update={"housing": "heated"})
        if bank.chemistry != LIGHT:
            yield tracked, warm
    yield from _stronger_alternator(tracked, bank if bank.chemistry == LIGHT else warm)


def _stronger_alternator(design: Design, *banks: Bank) -> Iterator[tuple[Design, Bank]]:
    """A vehicle with larger chargers from its engine: what a flat roof cannot give, the road does."""
    alternator = design.array.alternator
    if alternator is None:
        return
    for amps, bank in product(DC_DC_A, banks):
        larger = alternator.model_copy(update={"charge_a": KnownAmps(value=amps)})
        yield with_array(design, alternator=larger), bank


def _search(design: Design, bank: Bank, bounds: Bounds, wanted: frozenset[str]) -> Search:
    base = StationModel(with_bank(design, **{name: getattr(bank, name) for name in VARIED}))
    banks = bank_sizes(bank, bank.chemistry, bounds)
    return Search(base, banks, array_sizes(design.array.strings[0], bounds), wanted)


def _best(design: Design, bounds: Bounds, wanted: frozenset[str]) -> Found | None:
    """The cheapest of all variants that our rules hold nothing grave against, or the one they hold
    least against; None where none holds."""
    searches = [_search(variant, bank, bounds, wanted) for variant, bank in _variants(design)]
    best: Found | None = None
    # Where nothing near the cheapest obeys all rules, what is dearer is looked at as well.
    for dearer in (NOT_MUCH_DEARER, math.inf):
        found = _judged(searches, dearer)
        if best is None or (found is not None and found.rank < best.rank):
            best = found
        if best is None or best.rank[:2] == (0, 0):
            break
    return best


def _judged(searches: list[Search], dearer: float) -> Found | None:
    """Of each variant the cheapest that holds, judged from the cheapest on until one is clean."""
    pairs: list[tuple[float, int, tuple[int, int]]] = []
    least = math.inf
    for number, search in enumerate(searches):
        pair = search.cheapest(least * dearer)
        if pair is not None:
            least = min(least, search.cost(*pair))
            pairs.append((search.cost(*pair), number, pair))
    found: list[Found] = []
    for cost, number, pair in sorted(pairs):
        if any(item.rank[:2] == (0, 0) and item.cost <= cost for item in found):
            break
        found.append(searches[number].cleanest(*pair))
    return min(found, key=lambda item: item.rank, default=None)


NOT_MUCH_DEARER = 1.5
"""How much dearer another variant may be to be judged beside the cheapest."""
VARIED = ("chemistry", "unit_v", "housing")
SURE, GUESSED = frozenset({"good"}), frozenset({"good", "edge"})
"""It holds however we err with sun and draw; or as guessed."""


def propose(kind: Kind, purpose: Purpose, place: Place | None) -> Design:
    """A design that already runs, every figure marked as our guess.

    It is the cheapest by usual prices, of sizes that are sold and within what the kind of site
    takes, whose verdict is good and that our own rules hold nothing grave against. Where none is
    good there, it is the cheapest that holds as guessed, else the largest the place takes; the
    verdict then says what it lacks.

    Parameters
    ----------
    place : Place or None
        Where it is; without it the array keeps what the worst-month rule asks for, as no weather
        can be played.
    """
    design = starting_design(kind, purpose, place)
    if place is None:
        return _by_rule(design)
    bounds = bounds_of(kind, design.brief.payload_kg)
    sure = _best(design, bounds, SURE)
    if sure is not None and sure.stops == 0:
        return sure.design
    guessed = _best(design, bounds, GUESSED)
    found = [item for item in (sure, guessed) if item is not None]
    for variant, bank in _variants(design) if not found else ():
        search = _search(variant, bank, bounds, GUESSED)
        found.append(search.judged(*search.largest()))
    return min(found, key=lambda item: item.rank).design
