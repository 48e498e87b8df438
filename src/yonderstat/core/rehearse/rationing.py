"""Turned round: it must last so many days, so how long may the sets be on, and how many minutes on
the key?"""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Annotated

from pydantic import Field

from ..design import Design, KnownHours, KnownShare, Load
from ..draw import is_operated
from ..station import StationModel
from ..words import counted
from ..working import Key, Quantity, Workings, stated, table, used
from .playing import RANKS, Stage, play, stage_at, turned_down
from .scene import MOST_DAYS, FromADay, Scene, Sky
from .station import hourly_station

WATTS = (100.0, 50.0, 25.0, 10.0, 5.0)
CLEARLY_LESS = 0.99
"""A usual power nearer to the sets' own than this is the same setting."""
STEPS = 12
MOST_KEYED = 0.5
"""Nobody keys more than half of the time on."""


class Rationing(FromADay):
    """What must last: days, from when, in what weather, from how much."""

    days: Annotated[int, Field(ge=1, le=MOST_DAYS)] = 5
    sky: Sky = "poor"
    start_share: Annotated[float, Field(ge=0, le=1)] = 1.0
    """Of what may be used: 1 from full, less from what is left now."""
    vital_only: bool = True
    """Useful and Comfort are off."""


@dataclass(frozen=True, slots=True)
class Ration:
    """At a power setting: hours of listening a day with no word said, and minutes on the key at the
    hours as planned.

    Hours are of every set at once. None where even silence all day does not last; of minutes, where
    the hours as planned do not.
    """

    watts: float
    listening_h: Key
    key_min: Key


@dataclass(frozen=True, slots=True, kw_only=True)
class RationReport:
    """What carries the days. The sets are those an operator keys; everything else runs as
    planned."""

    sets: tuple[str, ...]
    planned_h: float
    """Hours a day they are on, all sets' together."""
    rows: tuple[Ration, ...]
    watt_hours_a_day: Key
    sentence: str
    working: dict[Key, Quantity]


def _worked(design: Design, hours: float | None, share: float) -> Design:
    """The design with its operated sets on for so many hours a day, or as planned, and so much of
    that on the key."""
    loads: list[Load] = []
    for load in design.draw.loads:
        if is_operated(load):
            changes: dict[str, object] = {"transmit_share": KnownShare(value=share, basis="stated")}
            if hours is not None:
                changes |= {"hours_per_day": KnownHours(value=hours, basis="stated")}
                changes |= {"pattern": None, "events": None, "thermostat": None}
            load = load.model_copy(update=changes)
        loads.append(load)
    tempo = next(tempo for tempo in design.draw.tempos if tempo.id == design.draw.sized_on)
    plain = tempo.model_copy(update={"transmit_share": None, "overrides": []})
    draw = design.draw.model_copy(update={"loads": loads, "tempos": [plain], "sized_on": plain.id})
    return design.model_copy(update={"draw": draw})


def _largest(holds: Callable[[float], bool], high: float) -> float | None:
    """The largest value up to `high` that holds, by halving; None where not even nothing does."""
    if not holds(0.0):
        return None
    if holds(high):
        return high
    low = 0.0
    for _ in range(STEPS):
        middle = (low + high) / 2.0
        low, high = (middle, high) if holds(middle) else (low, middle)
    return low


def _quantity(
    key: str, value: float | None, unit: str, label: str, asked: Rationing, workings: Workings
) -> Quantity:
    inputs = [
        stated("D", "days", float(asked.days), "d", ""),
        stated("s", "usable charge at the start", asked.start_share, "share", ""),
    ]
    if asked.sky in {"typical", "poor", "worst"}:
        inputs.append(
            table(
                "w",
                "how dull these days are among all years; 0 is the dullest",
                RANKS[asked.sky],
                "share",
                "rehearsal",
            )
        )
    return workings.add(
        key,
        value,
        unit,
        label=label,
        formula="the most that still works, from the hour-by-hour simulation",
        words=(
            "the days are run hour by hour with more and less of it, until no vital load loses "
            "power"
        ),
        inputs=inputs,
        source="rehearsal",
        note="" if value is not None else "the days don't work out even with none of it",
    )


def ration(design: Design, asked: Rationing) -> RationReport | None:
    """How the operated sets must be rationed; None where the design cannot be rehearsed or nobody
    keys anything."""
    sets = [load for load in design.draw.loads if is_operated(load)]
    station = hourly_station(StationModel(design), recorded=asked.sky == "record")
    if station is None or not sets:
        return None
    shed = 1.0 if asked.vital_only else 0.0
    scene = Scene(
        month=asked.month,
        day=asked.day,
        days=asked.days,
        sky=asked.sky,
        start_share=asked.start_share,
        shed_useful=shed,
        shed_comfort=shed,
    )
    stage = stage_at(station, scene)

    def lasts(watts: float, hours: float | None, share: float) -> bool:
        changed = _worked(turned_down(design, watts), hours, share)
        return not play(changed, stage, scene).dark.any()

    drawn = station.model.draw
    planned_h = sum(float(drawn.of(load.id).hours[asked.month - 1]) for load in sets)
    top = max((load.rated_w.value for load in sets if load.rated_w), default=0.0)
    steps = (
        sorted({top, *(watts for watts in WATTS if watts < CLEARLY_LESS * top)}, reverse=True)
        if top
        else [0.0]
    )
    workings, rows = Workings(), []
    for watts in steps:
        listening = _largest(lambda hours, at=watts: lasts(at, hours, 0.0), 24.0)  # type: ignore[misc]
        keyed = _largest(lambda share, at=watts: lasts(at, None, share), MOST_KEYED)  # type: ignore[misc]
        minutes = None if keyed is None else keyed * planned_h * 60.0
        name = f"{watts:.3g} W"
        rows.append(
            Ration(
                watts,
                _quantity(
                    f"turned.{watts:.3g}.listening_h",
                    listening,
                    "h",
                    f"Listening per day, {name}",
                    asked,
                    workings,
                ).key,
                _quantity(
                    f"turned.{watts:.3g}.key_min",
                    minutes,
                    "min",
                    f"Transmitting per day, {name}",
                    asked,
                    workings,
                ).key,
            )
        )
    budget = _budget(stage, asked, workings)
    energy = workings.add(
        "turned.wh_a_day",
        budget.number * station.bus_v,
        "W·h",
        label="Energy you can use per day",
        formula="E = Q · V",
        words="amp-hours per day times the nominal battery voltage",
        inputs=[used("Q", budget), stated("V", "bus", station.bus_v, "V", "/store/bank")],
        source="arithmetic",
    )
    return RationReport(
        sets=tuple(load.name for load in sets),
        planned_h=planned_h,
        rows=tuple(rows),
        watt_hours_a_day=energy.key,
        sentence=_sentence(asked, rows, planned_h, workings),
        working=workings.as_dict(),
    )


def _budget(stage: Stage, asked: Rationing, workings: Workings) -> Quantity:
    station = stage.station
    usable_ah = station.rules.full_ah - float(station.hours.floor_ah[stage.year, stage.at[0]])
    brought = sum(float(amps.sum()) for _, amps in stage.strings_a)
    return workings.add(
        "turned.ah_a_day",
        (usable_ah * asked.start_share + brought) / asked.days,
        "A·h",
        label="Amp-hours you can use per day",
        formula="(s · Q + Q_sun) / D",
        words=("usable charge in the battery plus what the panels give, divided by the days"),
        inputs=[
            stated("Q", "what may be used", usable_ah, "A·h", "/store/bank"),
            stated("s", "share of it at the start", asked.start_share, "share", ""),
            stated("Q_sun", "the panels give", brought, "A·h", "/array/strings"),
            stated("D", "days", float(asked.days), "d", ""),
        ],
        source="rehearsal",
    )


def _sentence(asked: Rationing, rows: list[Ration], planned_h: float, workings: Workings) -> str:
    full = workings[rows[0].key_min].value
    if full is not None and full >= 1.0:
        return (
            f"To last {counted(asked.days, 'day')}, transmit at most "
            f"{counted(full, 'minute')} a day at {rows[0].watts:.3g} W. The radios can be "
            f"on for {counted(planned_h, 'hour', 1)} a day in all."
        )
    hours = workings[rows[0].listening_h].value
    if hours is None:
        return (
            f"You can't last {counted(asked.days, 'day')}, even with every radio off. The "
            "other loads empty the battery."
        )
    listening = counted(hours, "hour", 1)
    return (
        f"To last {counted(asked.days, 'day')}, listen at most {listening} a day and "
        "transmit almost nothing."
    )
