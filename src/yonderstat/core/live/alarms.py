"""Alarms: moments of a device in, alarms raised and cleared out. One alarm a cause, each once until
it is over.

A rule says of a moment whether what it looks for is there, is not, or cannot be told. It must be
there for a while before the alarm is raised, and gone for a while before it is cleared; what cannot
be told changes nothing. Which kinds there are, for how long, and which of them explains another is
a table (`core/data/live_alarms.toml`).
"""

from collections.abc import Callable
from dataclasses import asdict, dataclass, field, replace
from typing import Any, Literal

from pydantic import TypeAdapter

from ..data import toml_table
from ..finding import Severity
from ..words import celsius, days_in_words, hours_in_words
from .expected import HOURS, Expected

Json = dict[str, Any]
Kind = Literal[
    "silent",
    "clock",
    "stuck",
    "cold_lock",
    "not_charging",
    "low_charge",
    "temperature",
    "regulation",
    "volts",
    "disagree",
]
TABLE: dict[Kind, Json] = toml_table("live_alarms")  # type: ignore[assignment]
KINDS: tuple[Kind, ...] = tuple(TABLE)
HOUR_S = 3600.0
LONGEST_STEP_H = 3.0
"""Between two moments further apart nothing is counted: nobody knows what flowed."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Moment:
    """What a site told of a moment by its own clock. What is not known is None. Positive amps
    charge, or are drawn."""

    at_s: float
    """Seconds since 1970."""
    month: int
    """1 to 12, by the site's clock, as the hour is."""
    hour: float
    volts: float | None = None
    charge_a: float | None = None
    load_a: float | None = None
    charge_share: float | None = None
    box_c: float | None = None
    clock_off_s: float | None = None
    """How far the device's clock is off."""
    dark_share: float | None = None
    """Of all weather years, those in which it goes dark within the hours the table names."""
    dark_in_h: float | None = None
    """Until then, in the middle one of them."""


@dataclass(frozen=True, slots=True)
class Said:
    """What a rule says of a moment: there or not, None where it cannot be told; and in words."""

    there: bool | None
    words: str = ""
    severity: Severity | None = None
    """Where it is graver than the table has it."""


UNKNOWN = Said(None)


@dataclass(frozen=True, slots=True, kw_only=True)
class Watching:
    """What is remembered from moment to moment."""

    last_s: float | None = None
    since_s: dict[str, float] = field(default_factory=dict)
    """Since when what a rule looks for is there, or, of an open alarm, is gone; by kind."""
    open: dict[str, str] = field(default_factory=dict)
    """Severities of the alarms that are raised, by kind."""
    still: dict[str, tuple[float, float, float]] = field(default_factory=dict)
    """By channel: its value, the amp-hours that went in less those that went out since it last
    moved, and the most that either came to."""
    began_s: float | None = None
    """When the count against the monitor began."""
    began_share: float = 0.0
    counted_ah: float = 0.0
    apart_share: float | None = None
    """How far monitor and count were apart when a count last ended."""

    def as_json(self) -> Json:
        """As it is kept."""
        return asdict(self)

    @classmethod
    def from_json(cls, kept: Json) -> "Watching":
        """As it was kept.

        Raises
        ------
        ValueError
            If it was kept by another program in another shape.
        """
        return _WATCHING.validate_python(kept)


_WATCHING: TypeAdapter[Watching] = TypeAdapter(Watching)


@dataclass(frozen=True, slots=True)
class AlarmEvent:
    """An alarm that is raised, grows worse, goes on, or is cleared."""

    kind: Kind
    what: Literal["raised", "worse", "still", "cleared"]
    """Still there: its words are those of now; nobody is told again."""
    severity: Severity
    words: str
    at_s: float


Rule = Callable[[Moment, Expected, Watching], Said]


def title_of(kind: Kind) -> str:
    """An alarm in two or three words."""
    return str(TABLE[kind]["title"])


def _bright_a(now: Moment, expected: Expected) -> float:
    """What this hour brings when it is bright; 0 where the sun is too low to tell."""
    row = expected.bright_a[now.month - 1]
    amps = float(row[int(now.hour) % HOURS])
    return amps if amps > TABLE["not_charging"]["bright_share"] * float(row.max()) else 0.0


def _no_charge(now: Moment, expected: Expected, is_open: bool) -> bool | None:
    """Whether nothing comes in though the sun is up; None at night and near full."""
    table, bright_a = TABLE["not_charging"], _bright_a(now, expected)
    if now.charge_a is None or bright_a <= 0.0:
        return None
    if now.charge_share is not None and now.charge_share >= table["nearly_full"]:
        return None if not is_open else now.charge_a <= table["least_a"]
    least = table["again_share"] if is_open else table["nothing_share"]
    return bool(now.charge_a < max(least * bright_a, table["least_a"]))


def _is_locked(now: Moment, expected: Expected) -> bool:
    return now.box_c is not None and now.box_c < expected.charge_low_c


def _clock(now: Moment, expected: Expected, was: Watching) -> Said:
    if now.clock_off_s is None:
        return UNKNOWN
    off_h = abs(now.clock_off_s) / HOUR_S
    ahead = "ahead" if now.clock_off_s > 0 else "behind"
    told = f"{off_h * 60:.0f} minutes" if off_h < 1.0 else hours_in_words(off_h)
    return Said(
        abs(now.clock_off_s) > TABLE["clock"]["off_s"],
        (
            f"The device's clock is {told} {ahead}; its readings get the time of the "
            "computer that collects them"
        ),
    )


def _stuck(now: Moment, expected: Expected, was: Watching) -> Said:
    names = {"volts": ("Voltage stays", "V"), "charge_share": ("State of charge stays", "share")}
    for channel, (value, _, moved_ah) in sorted(was.still.items()):
        if abs(moved_ah) > TABLE["stuck"]["moved_share"] * expected.full_ah:
            stands, unit = names[channel]
            shown = f"{value:.2f} V" if unit == "V" else f"{100 * value:.0f} %"
            went = "went in" if moved_ah > 0 else "went out"
            return Said(
                True,
                (
                    f"{stands} at {shown} although {abs(moved_ah):.0f} Ah {went}: check the "
                    "sensor and its lead"
                ),
            )
    return Said(False)


def _cold_lock(now: Moment, expected: Expected, was: Watching) -> Said:
    nothing = _no_charge(now, expected, "cold_lock" in was.open)
    if nothing is None:
        return UNKNOWN
    cold = "" if now.box_c is None else f"{celsius(now.box_c)} in the box"
    return Said(
        nothing and _is_locked(now, expected),
        (
            f"{cold}; charging is allowed only from {celsius(expected.charge_low_c)} up. "
            "The sun is up, but nothing charges"
        ),
    )


def _not_charging(now: Moment, expected: Expected, was: Watching) -> Said:
    nothing = _no_charge(now, expected, "not_charging" in was.open)
    if nothing is None:
        return UNKNOWN
    bright_a = _bright_a(now, expected)
    return Said(
        nothing and not _is_locked(now, expected),
        f"{now.charge_a or 0.0:.1f} A, although a bright hour gives {bright_a:.1f} A. "
        "Check for snow on the panels, a failed string, a blown fuse or a failed controller",
    )


def _low_charge(now: Moment, expected: Expected, was: Watching) -> Said:
    if now.dark_share is None:
        return UNKNOWN
    table, is_open = TABLE["low_charge"], "low_charge" in was.open
    there = now.dark_share >= (table["clear_years"] if is_open else table["raise_years"])
    return Said(there, dark_words(now))


def dark_words(now: Moment) -> str:
    """How soon it goes dark, in words; empty where that is not known."""
    if now.dark_share is None:
        return ""
    within = f"{TABLE['low_charge']['within_h']:.0f} hours"
    years = (
        "every weather year"
        if now.dark_share >= 1.0
        else f"{100 * now.dark_share:.0f} % of weather years"
    )
    if now.dark_in_h is None:
        return f"In {years} it loses power within {within}"
    if now.dark_in_h < 1.0:
        return "Without power now, or within the hour: the usable charge is spent"
    return (
        f"Likely to lose power in {days_in_words(now.dark_in_h / 24.0)}; within {within} in {years}"
    )


def _temperature(now: Moment, expected: Expected, was: Watching) -> Said:
    if now.box_c is None:
        return UNKNOWN
    back_k = TABLE["temperature"]["back_k"] if "temperature" in was.open else 0.0
    if now.box_c > expected.hottest_c - back_k:
        return Said(
            True,
            (
                f"{celsius(now.box_c)} in the box; the battery may be charged only up to "
                f"{celsius(expected.hottest_c)}"
            ),
        )
    if now.box_c < expected.coldest_c + back_k:
        return Said(
            True,
            (
                f"{celsius(now.box_c)} in the box; the battery may be used only down to "
                f"{celsius(expected.coldest_c)}"
            ),
        )
    in_frost = not expected.is_lead and _is_locked(now, expected) and (now.charge_a or 0.0) > 1.0
    if in_frost:
        low = celsius(expected.charge_low_c)
        return Said(
            True,
            (
                f"This ruins lithium cells: charging at {celsius(now.box_c)}, below the limit of "
                f"{low}"
            ),
            "stop",
        )
    return Said(False)


def _regulation(now: Moment, expected: Expected, was: Watching) -> Said:
    if now.volts is None:
        return UNKNOWN
    table = TABLE["regulation"]
    if (
        "regulation" in was.open
        and now.charge_a is not None
        and now.charge_a <= TABLE["not_charging"]["least_a"]
    ):
        # At night no controller has anything to hold.
        return UNKNOWN
    over = table["back_12v"] if "regulation" in was.open else table["over_12v"]
    limit_v = expected.absorb_v + over * expected.blocks
    return Said(
        now.volts > limit_v,
        (
            f"{now.volts:.2f} V at the battery posts, above the charging limit of "
            f"{expected.absorb_v:.2f} V. The controller has failed: switch the panels off"
        ),
    )


def _volts(now: Moment, expected: Expected, was: Watching) -> Said:
    if now.volts is None:
        return UNKNOWN
    back_v = TABLE["volts"]["back_12v"] * expected.blocks if "volts" in was.open else 0.0
    if now.volts < expected.least_v + back_v:
        return Said(
            True,
            (
                f"{now.volts:.2f} V at the battery posts; {expected.least_v:.1f} V is the "
                "lowest charge allowed"
            ),
        )
    if now.volts > expected.most_v - back_v and now.volts > expected.absorb_v:
        return Said(
            True,
            (
                f"{now.volts:.2f} V at the battery posts; the loads allow {expected.most_v:.1f} "
                "V at most"
            ),
        )
    return Said(False)


def _disagree(now: Moment, expected: Expected, was: Watching) -> Said:
    if was.apart_share is None:
        return UNKNOWN
    table = TABLE["disagree"]
    limit = table["clear_share"] if "disagree" in was.open else table["raise_share"]
    way = "more" if was.apart_share > 0 else "less"
    return Said(
        abs(was.apart_share) > limit,
        f"In one day the monitor's charge rose {100 * abs(was.apart_share):.0f} points "
        f"{way} than the measured amps explain. Reset it at a full charge, and look for a "
        "lead that bypasses its shunt",
    )


RULES: dict[Kind, Rule] = {
    "clock": _clock,
    "stuck": _stuck,
    "cold_lock": _cold_lock,
    "not_charging": _not_charging,
    "low_charge": _low_charge,
    "temperature": _temperature,
    "regulation": _regulation,
    "volts": _volts,
    "disagree": _disagree,
}
"""The rules that look at moments; silence is the lack of them."""


def _counted(was: Watching, now: Moment, expected: Expected) -> Watching:
    """The amp-hours since the last moment counted: against channels that stand still, and against
    the monitor."""
    step_h = 0.0 if was.last_s is None else (now.at_s - was.last_s) / HOUR_S
    known = now.charge_a is not None and now.load_a is not None and 0.0 < step_h <= LONGEST_STEP_H
    net_ah = ((now.charge_a or 0.0) - (now.load_a or 0.0)) * step_h if known else 0.0
    still = dict(was.still)
    for channel in ("volts", "charge_share"):
        value = getattr(now, channel)
        if value is None:
            still.pop(channel, None)
        elif channel in still and still[channel][0] == value and not _at_an_end(channel, value):
            net = still[channel][1] + net_ah
            still[channel] = (value, net, max(still[channel][2], net, key=abs))
        else:
            still[channel] = (value, 0.0, 0.0)
    return _against_the_monitor(
        replace(was, last_s=now.at_s, still=still), now, expected, step_h, known
    )


def _at_an_end(channel: str, value: float) -> bool:
    """A monitor that says full or empty stands still by right."""
    return channel == "charge_share" and not 0.02 < value < 0.98


def _against_the_monitor(
    was: Watching, now: Moment, expected: Expected, step_h: float, known: bool
) -> Watching:
    share = now.charge_share
    if share is None or not known or _at_an_end("charge_share", share):
        # A gap, or a bank at an end: what is counted there says nothing. The count begins anew.
        return replace(was, began_s=None)
    if was.began_s is None:
        return replace(was, began_s=now.at_s, began_share=share, counted_ah=0.0)
    net_a = (now.charge_a or 0.0) - (now.load_a or 0.0)
    flown_a = net_a * expected.efficiency if net_a > 0 else net_a
    lost_a = expected.leak_per_h * share * expected.full_ah
    counted = was.counted_ah + (flown_a - lost_a) * step_h
    if now.at_s - was.began_s < TABLE["disagree"]["over_h"] * HOUR_S:
        return replace(was, counted_ah=counted)
    apart = share - was.began_share - counted / expected.full_ah
    return replace(was, began_s=now.at_s, began_share=share, counted_ah=0.0, apart_share=apart)


def _explained(kind: Kind, was: Watching) -> str | None:
    """The open alarm that explains one of this kind."""
    return next((cause for cause in TABLE[kind]["after"] if cause in was.open), None)


def _judged(
    kind: Kind, said: Said, at_s: float, was: Watching
) -> tuple[Watching, AlarmEvent | None]:
    """One rule's word on a moment, through its delays."""
    if said.there is None:
        return was, None
    table, since, is_open = TABLE[kind], dict(was.since_s), kind in was.open
    if bool(said.there) == is_open:
        since.pop(kind, None)
        still = AlarmEvent(kind, "still", was.open[kind], said.words, at_s) if is_open else None  # type: ignore[arg-type]
        return replace(was, since_s=since), still
    began = since.setdefault(kind, at_s)
    wait_h = table["clear_h"] if is_open else table["raise_h"]
    held_back = not is_open and said.severity != "stop" and _explained(kind, was) is not None
    if at_s - began < wait_h * HOUR_S or held_back:
        return replace(was, since_s=since), None
    since.pop(kind)
    severity: Severity = said.severity or table["severity"]
    if is_open:
        left = {name: grade for name, grade in was.open.items() if name != kind}
        gone = AlarmEvent(kind, "cleared", severity, f"Cleared: {title_of(kind)}", at_s)
        return replace(was, since_s=since, open=left), gone
    opened = replace(was, since_s=since, open={**was.open, kind: severity})
    return opened, AlarmEvent(kind, "raised", severity, said.words, at_s)


GROWS_WORSE: tuple[Kind, ...] = ("cold_lock", "not_charging")


def _worse(was: Watching, now: Moment) -> tuple[Watching, AlarmEvent | None]:
    """An open cause that will make it dark becomes grave itself: it is one alarm, not two."""
    if now.dark_share is None or now.dark_share < TABLE["low_charge"]["raise_years"]:
        return was, None
    for kind in GROWS_WORSE:
        if was.open.get(kind) not in (None, "stop"):
            event = AlarmEvent(
                kind, "worse", "stop", f"{title_of(kind)}. {dark_words(now)}", now.at_s
            )
            return replace(was, open={**was.open, kind: "stop"}), event
    return was, None


def next_moment(
    was: Watching, now: Moment, expected: Expected
) -> tuple[Watching, list[AlarmEvent]]:
    """What a moment raises and clears.

    A moment no newer than the last says nothing: sent twice, it raises nothing twice.

    Parameters
    ----------
    was : Watching
        What is remembered.
    now : Moment
        What the site told.
    expected : Expected
        What it is held to.

    Returns
    -------
    tuple of Watching and list of AlarmEvent
        What is remembered from now on, and what happened.
    """
    if was.last_s is not None and now.at_s <= was.last_s:
        return was, []
    watching, events = _counted(was, now, expected), []
    for kind, rule in RULES.items():
        watching, event = _judged(kind, rule(now, expected, watching), now.at_s, watching)
        events += [event] if event else []
    watching, event = _worse(watching, now)
    return watching, [*events, event] if event else events


def silence_limit_s(interval_s: float) -> float:
    """How long a device that is asked every so many seconds may say nothing. [s]"""
    return max(
        float(TABLE["silent"]["least_s"]), float(TABLE["silent"]["missed_polls"]) * interval_s
    )


def silence(
    was: Watching, silent_s: float, interval_s: float, at_s: float, who: str
) -> tuple[Watching, list[AlarmEvent]]:
    """Whether nothing was heard for too long.

    Parameters
    ----------
    silent_s : float
        Since a device last answered, by the reader's clock. [s]
    interval_s : float
        Between two times it is asked. [s]
    at_s : float
        Now, by the site's clock. [s]
    who : str
        The device.
    """
    minutes = silent_s / 60.0
    told = (
        f"{silent_s:.0f} seconds"
        if minutes < 2
        else f"{minutes:.0f} minutes"
        if minutes < 120
        else ""
    )
    words = (
        f"{who}: no data for {told or hours_in_words(silent_s / HOUR_S)}. Check its "
        "power, its link and the network in between"
    )
    said = Said(silent_s > silence_limit_s(interval_s), words)
    watching, event = _judged("silent", said, at_s, was)
    return watching, [event] if event else []
