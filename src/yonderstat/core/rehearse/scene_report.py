"""A scene as it is told: hour by hour, a lane a load, what happened in words, and its figures."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..bus import volt_grades
from ..calendar import MONTH_NAMES
from ..data import rows
from ..design import Design
from ..draw import TIERS, pointless
from ..station import StationModel
from ..words import counted, hour_in_words, hours_in_words, kelvin
from ..working import Input, Key, Quantity, Workings, assumed, stated, used
from .brown_out import SetVolts, set_volts
from .kernel import (
    OUT_BACKED,
    OUT_COMFORT,
    OUT_DEFERRED,
    OUT_LOST,
    OUT_RESERVE,
    OUT_TAKEN,
    OUT_USEFUL,
    OUT_VITAL,
)
from .mitigation import Mitigation, mitigations
from .playing import Played, Stage, bus_volts_of, play, stage_at
from .scene import Happening, Scene
from .station import HOURS, HourlyStation, hourly_station

FloatArray = NDArray[np.float64]

TIER_OUT = (OUT_VITAL, OUT_USEFUL, OUT_COMFORT)
ON, PART, SHED, DARK, WAITS, OFF, LESS, BROWN = "o", "p", "s", "d", "w", "-", "l", "b"
"""What a lane's letters mean: on, on for part of the hour, shed, dark, waiting for sun, not wanted,
on with less output when keyed, browns out when keyed."""
BROWN_GRADES = {"less": LESS, "odd": BROWN, "off": BROWN}


@dataclass(frozen=True, slots=True, kw_only=True)
class SceneHour:
    """An hour of the rehearsal. Shares are of what may be used; tiers are vital, useful,
    comfort."""

    sun_w_m2: float
    source_a: float
    wanted_a: float
    served: tuple[float, ...]
    """Share of each tier's want that is served; 1 where it wants nothing."""
    charge_share: float
    reserve_ah: float
    bus_v: float


@dataclass(frozen=True, slots=True)
class Lane:
    """A load through the hours: one letter an hour, o on, p part, s shed, d dark, w waits for the
    sun, - not wanted.

    Of a set l is less output when keyed, b browns out when keyed.
    """

    id: str
    name: str
    tier: str
    hours: str


@dataclass(frozen=True, slots=True)
class SceneEvent:
    """Something worth telling, at an hour from the start."""

    hour: int
    sentence: str


@dataclass(frozen=True, slots=True, kw_only=True)
class SceneReport:
    """How it went. Figures are found by key in `working`."""

    hours: tuple[SceneHour, ...]
    lanes: tuple[Lane, ...]
    events: tuple[SceneEvent, ...]
    sentence: str
    dark_hours: Key
    first_dark_h: int | None
    left_share: Key
    drawn_ah: Key
    brought_ah: Key
    lowest_v: Key
    lowest_set_v: Key | None
    """At the set that stands lowest in its window, keyed in an hour in which it is on."""
    mitigations: tuple[Mitigation, ...]
    working: dict[Key, Quantity]


WORDS = {
    "string_lost": ("No current from {of}", "{of}: working again"),
    "panel_lost": ("{amount:g} panels of {of} give no current", "All panels of {of} work again"),
    "controller_lost": ("The controller of {of} fails", "The controller of {of} works again"),
    "charger_lost": ("The alternator charger fails", "The alternator charger works again"),
    "backup_lost": (
        "The mains or generator charger fails",
        "The mains or generator charger works again",
    ),
    "mains_back": ("Mains come back and charge at {amount:g} A", "Mains fail again"),
    "snow": ("Snow covers the panels", "The panels are clear again"),
    "battery_lost": ("One battery string fails", "The battery string works again"),
    "extra_load": ("An extra load takes {amount:g} A", "The extra load is off"),
    "cold_snap": ("It gets {kelvin} colder", "The cold snap is over"),
    "internet_down": (
        "The internet fails; loads that need it are switched off",
        "The internet is back",
    ),
    "low_power": ("Radios are turned down to {amount:g} W", "Radios are back at full power"),
    "generator": ("The generator starts and charges at {amount:g} A", "The generator stops"),
    "swap": (
        "The main battery goes out to charge; the other batteries run the station",
        "The main battery is back",
    ),
}


def _happening_events(design: Design, happenings: list[Happening], hours: int) -> list[SceneEvent]:
    names = {string.id: string.name for string in design.array.strings}
    found = []
    for item in happenings:
        amount = item.amount or 0.0
        words = {
            "of": names.get(item.of or "", item.of or ""),
            "amount": amount,
            "kelvin": kelvin(amount),
        }
        begins, ends = (text.format(**words) for text in WORDS[item.kind])
        if item.from_h < hours:
            found.append(SceneEvent(item.from_h, begins))
        if item.to_h < hours:
            found.append(SceneEvent(item.to_h, ends))
    return found


OFF_WORDS = ("without power", "switched off", "switched off")


def _service_events(played: Played) -> list[SceneEvent]:
    """Tiers going off and coming back, and the bank passing its half and its end."""
    found: list[SceneEvent] = []
    on = [True, True, True]
    words = ("Vital loads", "Useful loads", "Nice-to-have loads")
    half_told = worn_told = False
    share = played.share
    for hour in range(share.size):
        for tier in range(3):
            wanted = played.wanted_a[hour, tier]
            if wanted <= 0:
                continue
            now = bool(played.out[hour, TIER_OUT[tier]] >= wanted - 1e-9)
            if now != on[tier]:
                said = "power is back" if now else OFF_WORDS[tier]
                found.append(SceneEvent(hour, f"{words[tier]}: {said}"))
                on[tier] = now
        if not half_told and share[hour] < 0.5:
            found.append(SceneEvent(hour, "Half of the usable charge is used"))
            half_told = True
        if not worn_told and played.worn[hour]:
            found.append(
                SceneEvent(hour, "Under the planned depth: from here it wears the battery")
            )
            worn_told = True
    return found


def _letter(played: Played, hour: int, tier: str, waits: bool) -> str:
    if waits:
        return ON if played.out[hour, OUT_DEFERRED] > 0 else WAITS
    column = TIERS.index(tier)
    wanted, served = played.wanted_a[hour, column], played.out[hour, TIER_OUT[column]]
    if served >= wanted - 1e-9:
        return ON
    if served > 0:
        return PART
    # A tier that was shed is off while the vital one is not.
    vital = played.wanted_a[hour, 0]
    return SHED if column > 0 and (vital <= 0 or played.out[hour, OUT_VITAL] > 0) else DARK


def _down(scene: Scene, hours: int) -> NDArray[np.bool_]:
    """Hours in which the internet is down."""
    down = np.zeros(hours, dtype=np.bool_)
    for item in scene.happenings:
        if item.kind == "internet_down":
            down[item.from_h : item.to_h] = True
    return down


def _lanes(
    design: Design, scene: Scene, played: Played, sets: tuple[SetVolts, ...]
) -> tuple[Lane, ...]:
    station = played.stage.station
    always, without = pointless(design), pointless(design, internet=False)
    down = _down(scene, played.stage.at.size)
    keyed = {item.load_id: item for item in sets}
    lanes = []
    for item in station.model.draw.loads:
        tier = item.load.tier or "vital"
        waits = item.load.deferrable and tier != "vital"
        # What sheds itself draws nothing, and is shown shed where it would run.
        wants = item.on_share if item.load.id in always else item.hourly_a
        asked = wants[station.months[played.stage.at], played.stage.at % HOURS] > 0
        letters = []
        for hour in range(played.stage.at.size):
            if item.load.id in always or (down[hour] and item.load.id in without):
                letters.append(SHED if asked[hour] else OFF)
            else:
                letter = _letter(played, hour, tier, waits) if asked[hour] else OFF
                volts = keyed.get(item.load.id)
                letters.append(
                    BROWN_GRADES.get(volts.grades[hour], ON) if volts and letter == ON else letter
                )
        lanes.append(Lane(item.load.id, item.load.name, tier, "".join(letters)))
    return tuple(lanes)


def _volt_events(lanes: tuple[Lane, ...], sets: tuple[SetVolts, ...]) -> list[SceneEvent]:
    """A set falling under its window when keyed, and coming back, told once each way."""
    letters = {lane.id: lane.hours for lane in lanes}
    words = {row["grade"]: row["label"] for row in rows("volt_grades")}
    order = [grade for grade, _ in volt_grades()]
    found = []
    for item in sets:
        worst = 0
        for hour, letter in enumerate(letters[item.load_id]):
            if letter not in {ON, LESS, BROWN}:
                continue
            grade = item.grades[hour]
            now = order.index(grade)
            if now > worst:
                told = f"{item.name}, transmitting, gets {item.keyed_v[hour]:.1f} V: {words[grade]}"
                found.append(SceneEvent(hour, told))
            elif now == 0 < worst:
                found.append(SceneEvent(hour, f"{item.name} has full output again"))
            worst = now if now == 0 or now > worst else worst
    return found


def _shown_hours(played: Played) -> tuple[SceneHour, ...]:
    out, wanted = played.out, played.wanted_a
    volts, share = bus_volts_of(played), played.share
    served = [
        np.divide(out[:, column], wanted[:, tier], out=np.ones(len(out)), where=wanted[:, tier] > 0)
        for tier, column in enumerate(TIER_OUT)
    ]
    return tuple(
        SceneHour(
            sun_w_m2=float(played.stage.sun_w_m2[hour]),
            source_a=float(out[hour, OUT_TAKEN] + out[hour, OUT_BACKED]),
            wanted_a=float(wanted[hour].sum()),
            served=(float(served[0][hour]), float(served[1][hour]), float(served[2][hour])),
            charge_share=float(share[hour]),
            reserve_ah=float(out[hour, OUT_RESERVE]),
            bus_v=float(volts[hour]),
        )
        for hour in range(len(out))
    )


def _browned(lanes: tuple[Lane, ...]) -> str:
    """Which sets brown out and from when, as the end of a sentence."""
    told = [
        f"{lane.name} distorts or resets from {hour_in_words(lane.hours.index(BROWN))}"
        for lane in lanes
        if BROWN in lane.hours
    ]
    return f" While transmitting, {' and '.join(told)}." if told else ""


def scene_sentence(played: Played, days: int) -> str:
    """How a scene went, in a sentence."""
    dark = played.dark
    left = float(played.share[-1])
    worn = bool(played.worn.any())
    if not dark.any() and worn and left <= 0.0:
        under = int(played.worn.sum())
        return (
            f"Lasts the {counted(days, 'day')}, but uses more than the planned depth for "
            f"{hours_in_words(under)}."
        )
    if not dark.any():
        where = " in the main battery" if played.stage.station.rules.reserve_ah > 0 else ""
        return (
            f"Lasts the {counted(days, 'day')}, with {left * 100:.0f} % of the usable "
            f"charge left{where}."
        )
    first = int(np.argmax(dark))
    return (
        f"Loses power after {hours_in_words(first)}, on day {first // HOURS + 1}. Vital "
        f"loads are without power for {counted(int(dark.sum()), 'hour')} in "
        f"{counted(days, 'day')}."
    )


@dataclass(frozen=True, slots=True)
class _Figures:
    dark: Quantity
    left: Quantity
    drawn: Quantity
    brought: Quantity
    lowest: Quantity


def _figures(played: Played, scene: Scene, volts: FloatArray, workings: Workings) -> _Figures:
    out, rules = played.out, played.stage.station.rules
    served = out[:, OUT_VITAL : OUT_DEFERRED + 1].sum(axis=1)

    def by_hour(symbol: str, label: str, value: float) -> Input:
        return Input(
            symbol=symbol,
            label=label,
            value=value,
            unit="A·h",
            origin="computed",
            source="rehearsal",
        )

    drawn = workings.add(
        "scene.drawn_ah",
        float(served.sum()),
        "A·h",
        label="Used by the loads",
        formula="Σ I_served · 1 h",
        words="what all loads got, hour by hour",
        inputs=[by_hour("Q_w", "wanted", float(played.wanted_a.sum()))],
        source="rehearsal",
    )
    brought = workings.add(
        "scene.brought_ah",
        float((out[:, OUT_TAKEN] + out[:, OUT_BACKED]).sum()),
        "A·h",
        label="Charge from sun and chargers",
        formula="Σ I_taken · 1 h",
        words="what loads and battery took from the sources",
        inputs=[by_hour("Q_s", "the panels could give", float(played.panels_a.sum()))],
        source="rehearsal",
    )
    floor = float(played.floor_ah[0])
    start = floor + scene.start_share * (rules.full_ah - floor)
    left = workings.add(
        "scene.left_share",
        float(played.share[-1]),
        "share",
        label="Left of what may be used",
        formula="(Q_end − F) / (C − F)",
        words=(
            "charge above the lowest charge allowed, followed hour by hour: charge in times "
            "efficiency, less charge out"
        ),
        inputs=[
            by_hour("Q₀", "charge at the start", start),
            used("Q_out", drawn),
            used("Q_in", brought),
            by_hour(
                "Q_l", "lost to self-discharge, idle use and heat", float(out[:, OUT_LOST].sum())
            ),
            by_hour("F", "lowest charge allowed", float(played.floor_ah[-1])),
            by_hour("C", "full capacity", float(played.full_ah[-1])),
        ],
        source="rehearsal",
    )
    dark = workings.add(
        "scene.dark_h",
        float(played.dark.sum()),
        "h",
        label="Hours a vital load is without power",
        formula="Σ [I_served < I_wanted]",
        words="hours when the vital loads get less than they need",
        inputs=[
            stated("n", "hours played", float(len(out)), "h", ""),
            by_hour("Q_v", "vital wanted", float(played.wanted_a[:, 0].sum())),
            by_hour("Q_g", "vital given", float(out[:, OUT_VITAL].sum())),
        ],
        source="rehearsal",
    )
    lowest = workings.add(
        "scene.lowest_v",
        float(volts.min()),
        "V",
        label="Lowest battery voltage",
        formula="V = V_rest(Q / C) − I · R",
        words=(
            "resting volts at the charge of that hour, less the drop in the battery at average "
            "current; while transmitting it is lower"
        ),
        inputs=[assumed("R", "internal resistance", rules.ohm * 1000.0, "mΩ", "resistance")],
        source="rehearsal",
    )
    return _Figures(dark, left, drawn, brought, lowest)


def _lowest_set(
    lanes: tuple[Lane, ...], sets: tuple[SetVolts, ...], workings: Workings
) -> Key | None:
    """The lowest volts that reach a keyed set while it is on; None where no set names a window."""
    letters = {lane.id: lane.hours for lane in lanes}
    found: list[tuple[float, float, SetVolts]] = []
    for item in sets:
        on = [
            hour for hour, letter in enumerate(letters[item.load_id]) if letter in {ON, LESS, BROWN}
        ]
        if on:
            volts = float(item.keyed_v[on].min())
            found.append((volts / max(item.window.low_v, 1.0), volts, item))
    if not found:
        return None
    _, volts, lowest = min(found, key=lambda one: one[0])
    return workings.add(
        "scene.lowest_set_v",
        volts,
        "V",
        label=f"Lowest voltage at {lowest.name}, transmitting",
        formula="V = V_rest(Q / C) − Σ V_lost",
        words=(
            "resting volts at the charge of that hour, less the drop in battery and cables "
            "while it transmits"
        ),
        inputs=[
            assumed("V_low", "lowest volts of its range", lowest.window.low_v, "V", "practice")
        ],
        source="kirchhoff",
    ).key


def report_of(design: Design, scene: Scene, played: Played, saving: bool = True) -> SceneReport:
    """A played scene as it is told; with what would have saved it where it went dark.

    Parameters
    ----------
    played : Played
        How it went.
    saving : bool
        Whether to look for what would have saved it.
    """
    asked, scene, workings = scene, scene.day_by_day(), Workings()
    hours = _shown_hours(played)
    figures = _figures(played, scene, np.array([hour.bus_v for hour in hours]), workings)
    dark = played.dark
    when = f"{scene.day} {MONTH_NAMES[scene.month - 1]}"
    sets = set_volts(played, scene)
    lanes = _lanes(design, scene, played, sets)
    events = [
        *_happening_events(design, scene.happenings, len(hours)),
        *_service_events(played),
        *_volt_events(lanes, sets),
    ]
    return SceneReport(
        hours=hours,
        lanes=lanes,
        events=(
            SceneEvent(0, f"Starts at midnight, {when}"),
            *sorted(events, key=lambda event: event.hour),
        ),
        sentence=scene_sentence(played, scene.days) + _browned(lanes),
        dark_hours=figures.dark.key,
        first_dark_h=int(np.argmax(dark)) if dark.any() else None,
        left_share=figures.left.key,
        drawn_ah=figures.drawn.key,
        brought_ah=figures.brought.key,
        lowest_v=figures.lowest.key,
        lowest_set_v=_lowest_set(lanes, sets, workings),
        mitigations=mitigations(design, asked, played) if saving and dark.any() else (),
        working=workings.as_dict(),
    )


def stage_of(design: Design, scene: Scene, year: int | None = None) -> Stage | None:
    """Where a scene plays; None where the design cannot be rehearsed, or has no weather file it
    asks for.

    Parameters
    ----------
    year : int or None
        A weather year; by the scene's own luck where none is named.
    """
    station: HourlyStation | None = hourly_station(
        StationModel(design), recorded=scene.sky == "record"
    )
    return None if station is None else stage_at(station, scene, year)


def rehearse(design: Design, scene: Scene) -> SceneReport | None:
    """Play a scene; None where the design cannot be rehearsed."""
    stage = stage_of(design, scene)
    return None if stage is None else report_of(design, scene, play(design, stage, scene))
