"""Findings about the panels and what they bring."""

from collections.abc import Iterator

from ...calendar import MONTH_NAMES, months_in_words
from ...changes import Change, Gain, replace
from ...controllers import controller_type
from ...design import with_string
from ...finding import Finding, Severity
from ...rehearse import backup_of
from ...report import Report
from ...station import StationModel
from ..register import mild_rule, rule
from ..remedies import covering, mending, try_change
from ..severity import holds

FAR_SHORT, EDGE = 0.9, 1.1
STEEPER_DEG = 65.0
LEAST_TRACKED_W = 50.0
"""Nobody buys a tracker for less. [C]"""
TURNED = frozenset({"rack", "ground", "wall"})
"""Ways of fixing whose tilt can be changed: what is glued or lies on a roof stays as it is."""
CLOSES = 0.1
"""A remedy for a lean month closes at least so much of what it lacks."""


def _covers(station: StationModel, report: Report) -> dict[int, float]:
    covers = {}
    for month in station.design.brief.months:
        drawn = report.number(report.draw.months_ah[month - 1])
        stored = report.number(report.array.stored_ah[month - 1])
        if drawn and stored is not None:
            covers[month] = stored / drawn
    return covers


def _remedies(station: StationModel, report: Report) -> list[Change]:
    month = report.verdict.hard_month
    effect = covering(station, month)
    string = station.design.array.strings[0]
    at = "/array/strings/0"
    found = []
    watts = string.module.watts.value * string.series * string.parallel
    if controller_type(string.controller).passes_current and watts >= LEAST_TRACKED_W:
        changed = with_string(station.design, 0, controller="mppt")
        label = f"{string.name}: MPPT controller instead of PWM"
        found.append(
            try_change(station, label, changed, [replace(f"{at}/controller", "mppt")], effect)
        )
    if string.parallel < 64:
        changed = with_string(station.design, 0, parallel=string.parallel + 1)
        more = string.series
        label = (
            f"{string.name}: {'one more panel' if more == 1 else f'{more} more panels'} of "
            "the same kind"
        )
        found.append(
            try_change(
                station, label, changed, [replace(f"{at}/parallel", string.parallel + 1)], effect
            )
        )
    if (
        string.fitted in TURNED
        and string.mount != "flat"
        and abs(string.tilt_deg - STEEPER_DEG) > 10
    ):
        changed = with_string(station.design, 0, tilt_deg=STEEPER_DEG)
        label = f"{string.name}: tilt it to {STEEPER_DEG:.0f}°"
        found.append(
            try_change(station, label, changed, [replace(f"{at}/tilt_deg", STEEPER_DEG)], effect)
        )
    return found


def _worthwhile(remedies: list[Change]) -> tuple[Change, ...]:
    """Leave out what makes the hard month hardly better."""
    return tuple(remedy for remedy in remedies if remedy.gain is not None and _closes(remedy.gain))


def _closes(gain: Gain) -> bool:
    if gain.before is None or gain.after is None:
        return False
    return gain.helps and gain.after - gain.before >= CLOSES * max(0.0, 1.0 - gain.before)


def _made_up_by(station: StationModel) -> str:
    """What makes up for a harvest that need not balance the draw; empty where nothing does."""
    charger = backup_of(station.design, station.array.absorb_v)
    if charger is not None:
        return (
            "The generator makes up for it."
            if charger.kind == "generator"
            else "The mains make up for it."
        )
    if not station.purpose.is_spell:
        return ""
    full = "An outage begins" if station.purpose.mains_normally else "You leave"
    return f"{full} with a full battery: the sun only has to stretch it."


@rule
def array_short(station: StationModel, report: Report) -> Iterator[Finding]:
    """The harvest against the draw, month by month, on mean sun."""
    if not station.design.array.strings or not report.array.stored_ah:
        return
    covers = _covers(station, report)
    if not covers:
        return
    month = min(covers, key=lambda item: covers[item])
    name, covered = MONTH_NAMES[month - 1], covers[month]
    if covered >= EDGE:
        yield Finding(
            id="array.covers",
            severity="good",
            step="array",
            sentence=(
                f"Charging covers what you use in every month: {covered:.1f} times over in "
                f"{name}, the worst"
            ),
            why=(
                "Amp-hours stored divided by amp-hours used, in average sun, for the months you "
                "use the station."
            ),
        )
        return
    short = [item for item, value in covers.items() if value < 1]
    leans_on = "" if station.purpose.sun_must_balance else _made_up_by(station)
    made_up = bool(leans_on) or holds(report)
    severity: Severity = (
        "mind" if made_up or covered >= 1 else "fix" if covered >= FAR_SHORT else "stop"
    )
    sentence = (
        f"In {name} the panels replace only {covered * 100:.0f} % of what you use"
        if covered < 1
        else f"On the edge in {name}: the panels give at most 10 % more than you use"
    )
    why = f"In average sun it falls short in {months_in_words(short)}. " if short else ""
    why += leans_on or (
        (
            "The vital loads still have power in the weather years: the battery or another "
            "source makes up for it."
        )
        if holds(report)
        else "That is average sun: dull weeks give less."
    )
    yield Finding(
        id="array.short",
        severity=severity,
        step="array",
        sentence=sentence,
        why=why,
        pointer="/array/strings/0",
        remedies=_worthwhile(_remedies(station, report)),
    )


@rule
def no_controller(station: StationModel, report: Report) -> Iterator[Finding]:
    """A panel straight on a battery: recorded as built, and judged."""
    for index, string in enumerate(station.design.array.strings):
        if not controller_type(string.controller).regulates:
            volts = report.working[f"array.string.{string.id}.working_v"].number
            yield Finding(
                id=f"array.no_controller.{string.id}",
                severity="stop",
                step="array",
                sentence=f"{string.name} is connected straight to the battery, without a controller",
                why="Nothing stops the charging. If the battery disconnects, the radios get the "
                f"panel's {volts:.0f} V and more. The battery's last-ditch protection does not "
                "replace a charge controller.",
                pointer=f"/array/strings/{index}/controller",
                remedies=tuple(
                    mending(
                        station,
                        label,
                        "charging stops when the battery is full",
                        with_string(station.design, index, controller=kind),
                        [replace(f"/array/strings/{index}/controller", kind)],
                    )
                    for kind, label in (
                        ("pwm", "Add a PWM controller"),
                        ("mppt", "An MPPT controller"),
                    )
                ),
            )


@rule
def works_below_charge(station: StationModel, report: Report) -> Iterator[Finding]:
    """A string that brings nothing into this bank, its volts too low."""
    charge_v = report.working[report.array.charge_v].number
    for index, string in enumerate(station.design.array.strings):
        volts = report.working[f"array.string.{string.id}.working_v"].number
        flows = report.working[f"array.string.{string.id}.best_a"].number > 0
        if volts < charge_v and not flows and not string.regulator.buck_boost:
            yield Finding(
                id=f"array.too_low.{string.id}",
                severity="stop",
                step="array",
                sentence=(
                    f"{string.name} works at {volts:.1f} V, but the battery charges at "
                    f"{charge_v:.1f} V"
                ),
                why=(
                    "Current only flows from a higher voltage to a lower one. This string "
                    "never fills the battery."
                ),
                pointer=f"/array/strings/{index}/series",
            )


@rule
def no_panels(station: StationModel, report: Report) -> Iterator[Finding]:
    """Nothing that charges the bank by day."""
    design = station.design
    if design.array.strings or design.array.alternator is not None:
        return
    chargers = [charger.name for charger in design.array.chargers]
    yield Finding(
        id="array.none",
        severity="stop" if station.purpose.fails_without_source and not chargers else "mind",
        step="array",
        sentence="There are no panels",
        why=f"The battery is recharged only by {' and '.join(chargers)}."
        if chargers
        else "Nothing recharges the battery.",
        pointer="/array/strings",
    )


@mild_rule
def string_astray(station: StationModel, report: Report) -> Iterator[Finding]:
    """A string whose path leads to another bank alone: the main one gets nothing of it."""
    banks = {layer.id: layer.name for layer in station.design.store.layers}
    banks.update({pack.id: pack.name for pack in station.design.store.packs})
    for index, string in enumerate(station.design.array.strings):
        if string.id in station.array.astray:
            served = [
                banks.get(path.bank, path.bank)
                for path in station.design.store.paths
                if path.source == string.id
            ]
            yield Finding(
                id=f"array.astray.{string.id}",
                severity="mind",
                step="array",
                sentence=(
                    f"{string.name} charges only {' and '.join(served)}: the main battery gets "
                    "nothing from it"
                ),
                why="Its energy is not counted in the solar yield, the months and the weather "
                "years. If a switch can connect it to the main battery, add that path in "
                "Battery.",
                pointer=f"/array/strings/{index}",
            )
