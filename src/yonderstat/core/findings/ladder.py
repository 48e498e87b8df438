"""What to do next about a verdict that is not good: what is free first, then what costs least.

Every step is pressed in a trial run, weather years and all, and judged by all the rules before it
is shown.
"""

import itertools
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass

from ..changes import Change, Gain, Operation, add, changed_for, replace
from ..chemistries import kind_of
from ..controllers import controller_type
from ..design import (
    Bank,
    Charger,
    Chemistry,
    Design,
    KnownAmps,
    KnownHours,
    KnownLitres,
    KnownWatts,
    Load,
    PanelString,
    with_array,
    with_bank,
    with_draw,
    with_load,
    with_rail,
    with_string,
)
from ..draw import is_operated
from ..next_action import NextAction, Rung
from ..parts import cost_words, largest_current_a
from ..rehearse import carried_of, cheap_every_d, hourly_station, served_of, state_of
from ..report import Report
from ..station import StationModel
from ..store import most_charge_a
from ..verdict import State
from ..words import counted
from .remedies import MAX_PARALLEL, parallel_that_lasts

RUNGS: tuple[Rung, ...] = ("free", "aim", "controller", "panel", "battery", "generator")
"""What costs least comes first: a switch, a hand on the panel, a controller, a panel, a battery, and
what must be started, fed and borne by the neighbours."""
MOST_SHOWN = 3
TURNED_DOWN = 0.5
"""Half the power is 3 dB less, half an S unit; whoever listens hardly notices. [C]"""
LIGHT: Chemistry = "lifepo4"
OF_THE_KIND = (
    "unit_kg",
    "unit_price",
    "tested_ah",
    "depth",
    "age_years",
    "unit_milliohm",
    "school",
)
"""Fields of a bank that another kind makes untrue."""
STEEP_DEG, LEAST_TURN_DEG = 60.0, 15.0
TURNED = frozenset({"rack", "ground"})
"""Ways of fixing whose tilt somebody can change."""
MORE_PANELS, MORE_BATTERIES = (1, 2), 4
"""Nobody is told to lay more than so many beside what is there: past that the sizing map in
Rehearse is the way."""
GENERATOR_A, GENERATOR_W, LITRES_PER_H = 20.0, 1000.0, 0.6
"""The smallest of its kind with a charger on it. [C] assumed."""
UNSEEN_H = 0.5
MOST_STRINGS = 2
"""The largest ones: a document may hold thirty-two, and each try plays the weather years."""
STATES: dict[State, int] = {"unknown": 0, "short": 0, "edge": 1, "good": 2}


@dataclass(frozen=True, slots=True, kw_only=True)
class _Try:
    rung: Rung
    cost: str
    label: str
    design: Design
    patch: tuple[Operation, ...]


def _names(loads: Sequence[Load]) -> str:
    names = [load.name for load in loads]
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"


def _can_be_left_off(load: Load) -> bool:
    """What runs by hours a day or by the clock; what a thermostat or an event starts is not left to
    anybody."""
    runs = any(load.pattern) if load.pattern else load.hours_per_day.value > 0.0
    return runs and not (load.events or load.thermostat)


def _left_off(design: Design, tiers: frozenset[str]) -> Iterator[_Try]:
    """Switched off for good: what is worth less than vital."""
    chosen = [
        (index, load)
        for index, load in enumerate(design.draw.loads)
        if load.tier in tiers and _can_be_left_off(load)
    ]
    if not chosen:
        return
    off = KnownHours(value=0.0, basis="stated")
    changed, patch = design, []
    for index, load in chosen:
        changed = with_load(changed, index, hours_per_day=off, pattern=None)
        at = f"/draw/loads/{index}"
        patch.append(replace(f"{at}/hours_per_day", off.model_dump(mode="json")))
        if load.pattern is not None:
            patch.append(replace(f"{at}/pattern", None))
    left = {load.rail for load in changed.draw.loads if load.hours_per_day.value > 0.0}
    for index, rail in enumerate(design.draw.rails):
        # What idles for nobody is switched off as well.
        if rail.id not in left and any(load.rail == rail.id for _, load in chosen):
            changed = with_rail(changed, index, on_hours=off)
            patch.append(replace(f"/draw/rails/{index}/on_hours", off.model_dump(mode="json")))
    label = f"Leave {_names([load for _, load in chosen])} off"
    yield _Try(rung="free", cost="free", label=label, design=changed, patch=tuple(patch))


def _turned_down(design: Design) -> Iterator[_Try]:
    """Every set at half its power."""
    loads, patch, names = list(design.draw.loads), [], []
    for index, load in enumerate(loads):
        now = load.power_w or load.rated_w
        if now is None or load.rated_w is None or not is_operated(load) or load.power_table:
            continue
        half = KnownWatts(value=round(TURNED_DOWN * load.rated_w.value, 1), basis="stated")
        if now.value <= half.value:
            continue
        loads[index] = load.model_copy(update={"power_w": half})
        patch.append(replace(f"/draw/loads/{index}/power_w", half.model_dump(mode="json")))
        names.append(f"{load.name}, to {half.value:g} W")
    if patch:
        label = f"Turn down {'; '.join(names)}"
        yield _Try(
            rung="free",
            cost="free",
            label=label,
            design=with_draw(design, loads=loads),
            patch=tuple(patch),
        )


def _largest(design: Design) -> list[tuple[int, PanelString]]:
    """The strings with most watts, each with its place."""
    rows = list(enumerate(design.array.strings))
    return sorted(
        rows, key=lambda row: -row[1].module.watts.value * row[1].series * row[1].parallel
    )[:MOST_STRINGS]


def _aimed(design: Design) -> Iterator[_Try]:
    """Panels on a stand or a rack put up steeper."""
    for index, string in _largest(design):
        near = abs(string.tilt_deg - STEEP_DEG) < LEAST_TURN_DEG
        if string.mount != "fixed" or string.fitted not in TURNED or near:
            continue
        yield _Try(
            rung="aim",
            cost="free, by hand",
            label=f"{string.name}: tilt {STEEP_DEG:.0f}°",
            design=with_string(design, index, tilt_deg=STEEP_DEG),
            patch=(replace(f"/array/strings/{index}/tilt_deg", STEEP_DEG),),
        )


def _controller_cost(design: Design, string: PanelString) -> str:
    limit = string.regulator.max_charge_a
    amps = limit.value if limit else largest_current_a(design, string)
    return cost_words(design.brief, 1.0, None, "controller-mppt", amps)


def _tracked(design: Design) -> Iterator[_Try]:
    for index, string in _largest(design):
        if string.joins is None and controller_type(string.controller).passes_current:
            yield _Try(
                rung="controller",
                cost=f"a controller, {_controller_cost(design, string)}",
                label=(
                    f"{string.name}: MPPT controller instead of "
                    f"{controller_type(string.controller).label}"
                ),
                design=with_string(design, index, controller="mppt"),
                patch=(replace(f"/array/strings/{index}/controller", "mppt"),),
            )


def _more_panels(design: Design) -> Iterator[_Try]:
    if not design.array.strings:
        return
    string = design.array.strings[0]
    watts = string.module.watts.value
    for more in MORE_PANELS:
        parallel = string.parallel + more
        if parallel > MAX_PARALLEL:
            return
        count = more * string.series
        yield _Try(
            rung="panel",
            cost=(
                f"{counted(count, 'panel')}, "
                f"{cost_words(design.brief, count, None, 'panel', watts)}"
            ),
            label=f"{string.name}: {counted(count, 'more panel')} like yours",
            design=with_string(design, 0, parallel=parallel),
            patch=(replace("/array/strings/0/parallel", parallel),),
        )


def _batteries(count: int, which: str = "") -> str:
    return f"{count} {which}{'battery' if count == 1 else 'batteries'}"


def _priced(design: Design, bank: Bank, count: int) -> str:
    """So many batteries like those of a bank, with what they cost."""
    size = bank.unit_v * bank.unit_ah.value
    named = f"battery-{bank.chemistry}"
    return f"{_batteries(count)}, {cost_words(design.brief, count, bank.unit_price, named, size)}"


def _more_batteries(station: StationModel) -> Iterator[_Try]:
    bank, need = station.design.store.bank, parallel_that_lasts(station)
    if bank is None:
        return
    limit = bank.limits.max_parallel or MAX_PARALLEL
    for parallel in sorted({bank.parallel + 1, bank.parallel + 2, need or 0}):
        if not bank.parallel < parallel <= min(limit, bank.parallel + MORE_BATTERIES):
            continue
        count = (parallel - bank.parallel) * bank.series
        yield _Try(
            rung="battery",
            cost=_priced(station.design, bank, count),
            label=f"{_batteries(count, 'more ')} like yours",
            design=with_bank(station.design, parallel=parallel),
            patch=(replace("/store/bank/parallel", parallel),),
        )


def _lithium(design: Design) -> Iterator[_Try]:
    """Lithium of the same label in place of lead: more of it may be used, and it weighs a third."""
    bank = design.store.bank
    if bank is None or not kind_of(bank.chemistry).is_lead:
        return
    kind = kind_of(LIGHT)
    volts = round(kind.unit_v * bank.unit_v / kind_of(bank.chemistry).unit_v, 1)
    if volts < kind.cells_v:
        # No battery is a part of a cell, whatever somebody typed.
        return
    changes = dict.fromkeys(OF_THE_KIND) | {"chemistry": LIGHT, "unit_v": volts}
    count = bank.series * bank.parallel
    light = bank.model_copy(update=changes)
    yield _Try(
        rung="battery",
        cost=_priced(design, light, count),
        label=f"{kind.label} of the same amp-hours instead of {kind_of(bank.chemistry).label}",
        design=with_bank(design, **changes),
        patch=tuple(replace(f"/store/bank/{name}", value) for name, value in changes.items()),
    )


def _generator(design: Design) -> Iterator[_Try]:
    """A small generator with a charger, for whoever is there to start it."""
    bank, chargers = design.store.bank, design.array.chargers
    if bank is None or design.brief.attended != "present":
        return
    if any(charger.kind == "generator" for charger in chargers):
        return
    amps = float(min(GENERATOR_A, max(1.0, most_charge_a(bank) // 1)))
    one = Charger(
        id=_free_id("generator", {charger.id for charger in chargers}),
        name="Generator",
        kind="generator",
        amps=KnownAmps(value=amps),
        litres_per_h=KnownLitres(value=LITRES_PER_H),
    )
    priced = cost_words(design.brief, 1.0, None, "generator", GENERATOR_W)
    charger = cost_words(design.brief, 1.0, None, "charger", amps)
    yield _Try(
        rung="generator",
        cost=f"a generator, {priced}, its charger, {charger}, and fuel",
        label=f"A generator with a {amps:g} A charger, started by day when the battery runs low",
        design=with_array(design, chargers=[*chargers, one]),
        patch=(add("/array/chargers/-", one.model_dump(mode="json")),),
    )


def _free_id(wanted: str, taken: set[str]) -> str:
    numbered = (f"{wanted}-{number}" for number in itertools.count(2))
    return wanted if wanted not in taken else next(one for one in numbered if one not in taken)


def _tries(station: StationModel) -> Iterator[_Try]:
    design = station.design
    yield from _left_off(design, frozenset({"comfort"}))
    yield from _left_off(design, frozenset({"comfort", "useful"}))
    yield from _turned_down(design)
    yield from _aimed(design)
    yield from _tracked(design)
    yield from _more_panels(design)
    yield from _more_batteries(station)
    yield from _lithium(design)
    yield from _generator(design)


def _measure(station: StationModel, years: int) -> Callable[[StationModel], Gain]:
    """What a step is measured by: starts that come through, else the hours of a year in which the
    station fails."""
    days, months = station.asked_days, station.design.brief.months

    def carried(model: StationModel) -> float | None:
        hours = hourly_station(model, years)
        if hours is None:
            return None
        run = carried_of(hours, days, cheap_every_d(hours, days))
        return min((run.chance(month, days) or 0.0 for month in months), default=0.0)

    def failed(model: StationModel) -> tuple[float, float]:
        hours = hourly_station(model, years)
        served = served_of(hours) if hours is not None else None
        return (served.dark_hours_a_year, served.mute_hours_a_year) if served else (0.0, 0.0)

    if station.purpose.is_spell:
        before = carried(station)
        return lambda model: Gain("carried", before, carried(model))
    dark_h, mute_h = failed(station)

    def gain(model: StationModel) -> Gain:
        dark_then_h, mute_then_h = failed(model)
        if mute_h < UNSEEN_H and mute_then_h < UNSEEN_H:
            return Gain("dark_hours_a_year", dark_h, dark_then_h)
        return Gain("failed_hours_a_year", dark_h + mute_h, dark_then_h + mute_then_h)

    return gain


def _gained(station: StationModel, changed: StationModel, measured: Gain) -> Gain | None:
    """By the verdict's own figure, else by the days the bank lasts; None where neither is seen to
    move."""
    if measured.helps:
        return measured
    month = station.hard_month
    lasts = Gain(
        "days_without_sun", station.days_without_sun(month), changed.days_without_sun(month)
    )
    return lasts if lasts.helps else None


Obeys = Callable[[Change, StationModel], tuple[Change, Design] | None]


def steps_of(station: StationModel, report: Report, obeys: Obeys) -> tuple[NextAction, ...]:
    """Up to three steps, the free ones first; none where the verdict is good or cannot be told.

    Parameters
    ----------
    station : StationModel
        Of the design.
    report : Report
        On it.
    obeys : callable
        The change as it passes all our rules, with what it needs besides, and what it makes; None
        where it does not.

    Returns
    -------
    tuple of NextAction
        In the order of what they cost.
    """
    judged = report.rehearsed
    if (
        judged is None
        or report.verdict.state not in {"short", "edge"}
        or station.purpose.judged_by == "sun_share"
    ):
        return ()
    walk = _Walk(station, _measure(station, judged.years), STATES[report.verdict.state], obeys)
    found = [best for rung in RUNGS if (best := walk.best_of(rung, station)) is not None]
    if not any(item.step.state == "good" for item in found):
        # None does it alone: what is free with what is bought, or a panel with a battery.
        for first in found:
            both = walk.on_top_of(first)
            if both is not None:
                found.append(both)
                break
    return _chosen([item.step for item in found])


@dataclass(frozen=True, slots=True)
class _Found:
    """A step that helps, and the design it makes."""

    step: NextAction
    design: Design


@dataclass(frozen=True, slots=True)
class _Walk:
    """Steps tried one after the other, each measured, judged and pressed."""

    station: StationModel
    measure: Callable[[StationModel], Gain]
    now: int
    obeys: Obeys

    def best_of(
        self, rung: Rung, base: StationModel, first: NextAction | None = None
    ) -> _Found | None:
        """The best step of one rung on a station; the first that does it is enough, a longer one is
        not looked for.

        Parameters
        ----------
        rung : Rung
            Steps of one kind, the smallest first.
        base : StationModel
            The station as it stands.
        first : NextAction or None
            A step that is taken already, when two are looked for.
        """
        best: _Found | None = None
        for attempt in (item for item in _tries(base) if item.rung == rung):
            if best is not None and best.step.state == "good":
                break
            found = self._pressed(attempt, first)
            if found is not None and (best is None or _is_better(found.step, best.step)):
                best = found
        return best

    def _pressed(self, attempt: _Try, first: NextAction | None) -> _Found | None:
        changed = self.station.tried(attempt.design)
        gain, state = (
            _gained(self.station, changed, self.measure(changed)),
            state_of(changed) or "unknown",
        )
        if gain is None or STATES[state] < self.now:
            return None
        label, patch, cost = attempt.label, attempt.patch, attempt.cost
        if first is not None:
            label, patch = f"{first.change.label}, and {label}", (*first.change.patch, *patch)
            cost = cost if first.cost == "free" else f"{first.cost}, {cost}"
        obeyed = self.obeys(changed_for(label, patch, gain), changed)
        changed.memo.clear()
        if obeyed is None:
            return None
        change, design = obeyed
        if design is not attempt.design:
            # With the fuses and the wire it needs other volts are lost.
            fused = self.station.changed(design)
            anew = _gained(self.station, fused, self.measure(fused))
            state = state_of(fused) or "unknown"
            fused.memo.clear()
            if anew is None or STATES[state] < self.now:
                return None
            change = changed_for(change.label, change.patch, anew)
        return _Found(NextAction(rung=attempt.rung, cost=cost, change=change, state=state), design)

    def on_top_of(self, first: _Found) -> _Found | None:
        """The cheapest step that does it together with another; None where none does."""
        base = self.station.changed(first.design)
        for rung in RUNGS[RUNGS.index(first.step.rung) + 1 :]:
            both = self.best_of(rung, base, first.step)
            if both is not None and both.step.state == "good":
                return both
        return None


def _is_better(step: NextAction, than: NextAction) -> bool:
    if STATES[step.state] != STATES[than.state]:
        return STATES[step.state] > STATES[than.state]
    gain, other = step.change.gain, than.change.gain
    if gain is None or other is None or other.of != gain.of:
        return gain is not None and gain.of != "days_without_sun"
    return Gain(gain.of, other.after, gain.after).helps


FREE = frozenset({"free", "aim"})


def _worth_their_price(found: list[NextAction]) -> list[NextAction]:
    """Without what is bought for more and helps less than something cheaper that is bought."""
    kept: list[NextAction] = []
    for step in found:
        cheaper = [item for item in kept if item.rung not in FREE]
        if step.rung in FREE or all(_is_better(step, item) for item in cheaper):
            kept.append(step)
    return kept


def _chosen(found: list[NextAction]) -> tuple[NextAction, ...]:
    """The first that is free, the cheapest that does it, and the cheapest of the others, in the
    order of their cost."""
    found = _worth_their_price(sorted(found, key=lambda item: RUNGS.index(item.rung)))
    does_it = next((item for item in found if item.state == "good"), None)
    wanted = [item for item in (does_it, *found) if item is not None]
    kept: list[NextAction] = []
    for item in wanted:
        if item not in kept and len(kept) < MOST_SHOWN:
            kept.append(item)
    return tuple(sorted(kept, key=lambda item: RUNGS.index(item.rung)))
