"""Findings of the weather years: how it goes dark, how it comes back, and how near the verdict is
to turning."""

from collections.abc import Iterator
from dataclasses import replace as replaced

from ...calendar import MONTH_NAMES
from ...changes import Gain, replace
from ...claim import Claim
from ...design import Design, with_bank
from ...draw import is_placed, pointless
from ...finding import Finding, Severity
from ...rehearse import (
    DarkSpell,
    HalfAgain,
    Served,
    assumed_figure,
    carried_of,
    cheap_every_d,
    half_again,
    hourly_loads,
    hourly_station,
    served_of,
    served_of_each,
)
from ...report import Report
from ...station import StationModel
from ...store import kind_of
from ...words import counted, hours_in_words, percent, times_in_words
from ..register import mild_rule, rule
from ..remedies import MAX_PARALLEL, parallel_that_lasts, try_change

HALF_YEAR = 0.5
OFTEN_BROWN = 0.01
"""Of the hours a set is on: less is chance."""
OFTEN = 50.0
"""So many cut-offs a year are flapping, not misfortune."""


MONTH_D = 30.5
DULL = 0.7
"""Under this share of the month's usual sun the days before and in a dark spell are a dull run."""

NIGHT_TOO_LONG = "The battery is full in the evening but too small for the night."
NOT_FILLED = (
    "The sun does not fill the battery by evening. More panels help more than a bigger battery."
)


def _cause(station: StationModel, spell: DarkSpell) -> str:
    """What put it out: a hand that is awaited, frost, a month whose mean sun is not enough, or a
    dull run."""
    bank, sun = station.design.store.bank, spell.sun_share
    if (
        bank is not None
        and bank.restart == "by_hand"
        and station.design.brief.attended != "present"
    ):
        return (
            "The low-voltage cut-off opened. Most of that time, the station waited for "
            "somebody to switch it on again."
        )
    if spell.locked_share > 0.5:
        return (
            f"For {percent(spell.locked_share)} of the sunny hours the battery was too cold "
            "to charge."
        )
    month = _leanest(station, spell)
    covered = station.covered(month)
    if sun is None or covered is None:
        return "There is no sun to charge it."
    share = f"Those days and the five before them had {percent(sun)} of the month’s usual sun"
    if covered < 1.0:
        name = MONTH_NAMES[month - 1]
        return (
            f"Even average sun replaces only {percent(covered)} of what you use in {name}. "
            f"No dull spell is needed. {share}."
        )
    if sun < DULL:
        return (
            f"{share}. In this dull spell the loads emptied the battery faster than the sun "
            "filled it."
        )
    return (
        f"{share}. It was not a dull spell: the battery cannot last through this many "
        "days and nights."
    )


def _leanest(station: StationModel, spell: DarkSpell) -> int:
    """Of the months a dark spell runs through, the one whose mean sun covers least of the draw."""
    last_day = spell.day + spell.hours / 24.0
    through = {
        (spell.month - 1 + number) % 12 + 1 for number in range(int(last_day // MONTH_D) + 1)
    }
    return min(through, key=lambda month: station.covered(month) or 0.0)


def _night(tried: HalfAgain) -> str:
    """Why a night is too long, by which of the two shortens the dark more."""
    if round(tried.bank_h) == round(tried.panel_h):
        return "More panels and a bigger battery help equally."
    return NIGHT_TOO_LONG if tried.bank_h < tried.panel_h else NOT_FILLED


def _leaves(station: StationModel, tried: HalfAgain) -> str:
    """What each leaves, by itself; of a station without panels the bank alone, as half as much of
    none is none."""
    if not station.design.array.strings:
        return (
            "Even with half as much battery again it is without power for "
            f"{hours_in_words(tried.bank_h)} a year: it lacks charge, not storage."
        )
    return (
        f"With 50 % more panels it is without power {hours_in_words(tried.panel_h)} a "
        f"year; with 50 % more battery, {hours_in_words(tried.bank_h)}. The sizing map in "
        "Rehearse tries both together."
    )


@rule
def goes_dark(station: StationModel, report: Report) -> Iterator[Finding]:
    """Whether it is dark for days, or before dawn: the cures differ."""
    years = report.rehearsed
    if years is None or years.dark is None or years.dark.longest is None or years.state == "good":
        return
    hours = hourly_station(station, years.years)
    if hours is None:
        return
    tried = half_again(station, hours)
    dark_h, spell = report.number(years.dark_h) or 0.0, years.dark.longest
    claims = (
        Claim(kind="dark_year", of="main", value=dark_h, unit="h"),
        Claim(kind="dark_spell", of="main", value=float(spell.hours), unit="h"),
    )
    severity: Severity = "fix" if years.state == "short" else "mind"
    if years.dark.kind == "before_dawn" and station.design.array.strings:
        yield Finding(
            id="rehearse.dawn",
            severity=severity,
            step="rehearse",
            sentence=(
                f"Without power before dawn {hours_in_words(dark_h)} a year; never longer than "
                f"{hours_in_words(spell.hours)} at a time"
            ),
            why=f"{_night(tried)} {_leaves(station, tried)}",
            claims=claims,
        )
        return
    how = (
        "Without power for days"
        if years.dark.kind == "for_days"
        else "Without power for more than a night"
    )
    yield Finding(
        id="rehearse.days",
        severity=severity,
        step="rehearse",
        sentence=f"{how}: {spell.words} in the worst of {years.years} weather years",
        why=f"{_cause(station, spell)} {_leaves(station, tried)}",
        claims=claims[1:],
    )


@rule
def browns_out(station: StationModel, report: Report) -> Iterator[Finding]:
    """A set whose volts fail it when keyed, in hours in which the station is up."""
    if report.rehearsed is None:
        return
    for item in report.rehearsed.brown:
        on_h, brown_h = (report.number(key) or 0.0 for key in (item.on_h, item.brown_h))
        if brown_h < OFTEN_BROWN * on_h or brown_h < 1.0:
            continue
        load = station.draw.of(item.load_id).load
        yield Finding(
            id=f"rehearse.brown.{item.load_id}",
            severity="fix" if (load.tier or "vital") == "vital" else "mind",
            step="rehearse",
            sentence=(
                f"{item.name} gets too little voltage to transmit in {hours_in_words(brown_h)} "
                f"of the {hours_in_words(on_h)} a year it is on"
            ),
            alike="These radios get too little voltage to transmit for part of the year",
            why="When the battery runs low, the station still has power but this radio fails on "
            "transmit. Wiring shows where the volts are lost and what would raise them.",
            pointer="/bus/runs",
        )


@rule
def needs_a_hand(station: StationModel, report: Report) -> Iterator[Finding]:
    """A station that must be switched on again by hand, and where nobody is there to do it."""
    years, bank = report.rehearsed, station.design.store.bank
    if (
        years is None
        or bank is None
        or bank.restart != "by_hand"
        or station.design.brief.attended == "present"
    ):
        return
    if years.dark is None or not years.dark.trips_a_year:
        return

    def tried(changed: Design) -> Gain:
        hours = hourly_station(station.tried(changed), years.years)
        dark_h = None if hours is None else served_of(hours).dark_hours_a_year
        return Gain("dark_hours_a_year", report.number(years.dark_h), dark_h)

    changed, patch = (
        with_bank(station.design, restart="by_itself"),
        [replace("/store/bank/restart", "by_itself")],
    )
    waits = "a week or more" if station.design.brief.attended == "visits" else "two weeks or more"
    yield Finding(
        id="rehearse.hand",
        severity="fix",
        step="rehearse",
        sentence=(
            f"Cuts off {times_in_words(years.dark.trips_a_year)} a year, and each time stays "
            "off until somebody comes"
        ),
        why="After a low-voltage cut-off somebody must switch it on, and here that takes "
        f"{waits}. A cut-off that reconnects by itself, at a clearly higher voltage, "
        "turns days without power into hours.",
        pointer="/store/bank/restart",
        remedies=(
            try_change(station, "A cut-off that reconnects by itself", changed, patch, tried),
        ),
    )


@mild_rule
def flaps(station: StationModel, report: Report) -> Iterator[Finding]:
    """A station that is cut off again and again."""
    years, bank = report.rehearsed, station.design.store.bank
    if years is None or years.dark is None or bank is None or years.dark.trips_a_year < OFTEN:
        return
    lithium = not kind_of(bank.chemistry).is_lead
    wakes = (
        (
            " Check that the controller starts after the battery's electronics have switched "
            "off. Some need somebody to restart them."
        )
        if lithium
        else ""
    )
    yield Finding(
        id="rehearse.flaps",
        severity="mind",
        step="rehearse",
        sentence=f"Switches off and on again {times_in_words(years.dark.trips_a_year)} a year",
        why=(
            "The sun brings it up every morning; every night it goes down again."
            if station.design.array.strings
            else "Charging brings it up, and its loads take it down again."
        )
        + " A computer that is still booting, or cannot start alone, is off the air too. "
        "Test it once: open the main switch, close it, and watch the whole station "
        f"restart.{wakes}",
        pointer="/store/bank/reconnect_v",
    )


FAR_SHORT = 0.5


def _parallel_that_carries(station: StationModel, years: int) -> int | None:
    """The fewest units in parallel with which the asked share of starts comes through; None where
    no number would, or where more are wanted than last the days without any sun."""
    bank, most = station.design.store.bank, parallel_that_lasts(station)
    hours = hourly_station(station, years)
    if bank is None or hours is None:
        return None
    days, least = station.asked_days, assumed_figure("carry_chance")

    def carries(units: int) -> bool:
        run = carried_of(hours, days, cheap_every_d(hours, days), bank_scale=units / bank.parallel)
        return all(
            (run.chance(month, days) or 0.0) >= least for month in station.design.brief.months
        )

    low, high = bank.parallel, most or MAX_PARALLEL
    if high <= low or not carries(high):
        return None
    while high - low > 1:
        middle = (low + high) // 2
        low, high = (low, middle) if carries(middle) else (middle, high)
    return high


@rule
def spell_falls_short(station: StationModel, report: Report) -> Iterator[Finding]:
    """Days away or without mains, with the weather there is, that too few starts come through."""
    years, bank = report.rehearsed, station.design.store.bank
    if years is None or bank is None or not station.purpose.is_spell or years.state == "good":
        return
    share = report.number(years.share) or 0.0

    def tried(changed: Design) -> Gain:
        hours = hourly_station(station.tried(changed), years.years)
        if hours is None:
            return Gain("carried", share, None)
        days, used = station.asked_days, station.design.brief.months
        carried = carried_of(hours, days, cheap_every_d(hours, days))
        return Gain("carried", share, min(carried.chance(month, days) or 0.0 for month in used))

    remedies, looks = [], station.trial or station.first_look
    need = None if looks else _parallel_that_carries(station, years.years)
    if need is not None and need > bank.parallel:
        label = f"{need} batteries in parallel instead of {bank.parallel}"
        patch = [replace("/store/bank/parallel", need)]
        remedies.append(
            try_change(station, label, with_bank(station.design, parallel=need), patch, tried)
        )
    severity: Severity = "mind" if years.state == "edge" else "stop" if share < FAR_SHORT else "fix"
    yield Finding(
        id="rehearse.spell",
        severity=severity,
        step="rehearse",
        sentence=f"{percent(share)} of the time it lasts {counted(station.asked_days, 'day', 2)} "
        f"{station.purpose.spell} in the worst month",
        why="Each try starts with a full battery and the weather of one year, and counts as "
        "survived if the vital loads run. A bigger battery helps, and so does using less "
        "or switching low-priority loads off early.",
        pointer="/store/bank/parallel",
        remedies=tuple(remedies),
        claims=(Claim(kind="starts", of="worst", value=share),),
    )


MUCH = 0.05
"""Of the vital service: what hours that nobody has placed may move without a word."""
OTHER_HOURS = {
    "round": "spread round the clock",
    "day": "run in daylight",
    "evening": "run in the evening",
}


@mild_rule
def hours_decide(station: StationModel, report: Report) -> Iterator[Finding]:
    """Hours a day that nobody has placed, and a verdict that turns with where they fall."""
    years = report.rehearsed
    unplaced = [
        load for load in station.design.draw.loads if load.tier == "vital" and not is_placed(load)
    ]
    if years is None or years.dark is None or not unplaced:
        return
    hours, least = hourly_station(station, years.years), assumed_figure("up_share")
    if hours is None:
        return

    def holds(served: Served) -> bool:
        return min((value for value in served.by_month if value is not None), default=1.0) >= least

    cases = [hours]
    for how in OTHER_HOURS:
        laid = hourly_loads(station.design, station.draw_at(None, how), pointless(station.design))
        cases.append(replaced(hours, hours=hours.hours._replace(load_a=laid)))
    usual, *others = served_of_each(cases)
    now = holds(usual)
    for words, served in zip(OTHER_HOURS.values(), others, strict=True):
        if holds(served) != now or abs(served.share - usual.share) > MUCH:
            names = " and ".join(load.name for load in unplaced)
            yield Finding(
                id="rehearse.hours",
                severity="mind",
                step="rehearse",
                sentence=f"We guessed when {names} run. It matters: {words}, vital loads have "
                f"power {percent(served.share)} of the time instead of "
                f"{percent(usual.share)}",
                why=(
                    "Enter in Loads when they run. Evening use empties the battery; noon use "
                    "does not."
                ),
                pointer=f"/draw/loads/{station.design.draw.loads.index(unplaced[0])}/pattern",
            )
            return


@rule
def goes_under_the_plan(station: StationModel, report: Report) -> Iterator[Finding]:
    """A station that stays up by taking out more than is planned."""
    years, bank, life = report.rehearsed, station.design.store.bank, report.life
    days = report.number(years.worn_d) if years else None
    if years is None or bank is None or days is None or days < 1.0 or report.store is None:
        return
    depth = percent(report.number(report.store.depth) or 0.0)
    lasts = report.number(life.years) if life else None
    kept, flat_times = report.number(years.planned_years), report.number(years.flat) or 0.0
    least_share = report.number(years.least_share) or 0.0
    costs = ""
    if lasts is not None and kept is not None and kept >= lasts + HALF_YEAR:
        costs = (
            f" Used like this, the battery lasts {counted(lasts, 'year', 1)}; within the "
            f"planned depth it would last {counted(kept, 'year', 1)}."
        )
    flat = f" It is run flat {times_in_words(flat_times)} a year." if flat_times >= 0.5 else ""
    yield Finding(
        id="rehearse.wear",
        severity="fix" if years.wears else "mind",
        step="rehearse",
        sentence=f"Uses more than the planned {depth} of the battery on {counted(days, 'day')} a "
        f"year, down to {percent(least_share)} of its capacity",
        why=(
            "Nothing stops the loads there: they lose power only when a cut-off opens or the "
            f"battery is empty.{flat}{costs} "
        )
        + (
            "More panels, a bigger battery, "
            if station.design.array.strings
            else "A charger, a bigger battery, "
        )
        + (
            "or lower use helps. A low-voltage disconnect set to the planned depth also "
            "protects the battery, but then the station loses power instead."
        ),
        pointer="/store/bank/disconnect_v",
        claims=(Claim(kind="worn_days", of="main", value=days, unit="days"),),
    )


@mild_rule
def on_the_edge(station: StationModel, report: Report) -> Iterator[Finding]:
    """A verdict that turns with the guess of sun and draw."""
    years = report.rehearsed
    if years is None or years.state != "edge" or years.worst_month in years.wears:
        return
    low, high = (percent(report.number(key) or 0.0) for key in (years.worst_low, years.worst_high))
    month = MONTH_NAMES[years.worst_month - 1]
    yield Finding(
        id="rehearse.edge",
        severity="mind",
        step="rehearse",
        sentence=(
            f"On the edge in {month}: {low.removesuffix(' %')} to {high}, depending on "
            "our sun and load guesses"
        ),
        why="All the sun data may be too high or too low, and so may the loads. Measure the "
        "biggest loads, add a weather file, or leave a margin. Until then an honest answer "
        "is neither yes nor no.",
    )
