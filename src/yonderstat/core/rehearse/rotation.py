"""Rotation: does the bank that was swapped out refill before the layer left behind is spent?"""

from dataclasses import dataclass, replace

import numpy as np

from ..calendar import MONTH_NAMES
from ..design import Design
from ..station import StationModel
from ..words import hours_in_words
from ..working import Key, Quantity, Workings, stated, table, used
from .assumed import assumed_figure
from .kernel import Hours, hours_to_full
from .station import HOURS, HourlyStation, hourly_station
from .tally import AS_IT_IS, spells_of

MOST_D = 30
MOST_PANELS = 8.0
"""Times what there is; more is not tried."""
CLOSE = 0.01
"""The panels that close it are found to so much of what there is, from above."""


@dataclass(frozen=True, slots=True, kw_only=True)
class RotationReport:
    """The hard month: hours the layers carry, hours the bank takes to fill meanwhile, and the
    panels that close it."""

    month: int
    carries_h: Key
    refills_h: Key
    closes: bool
    enough_w: Key | None
    """Panel watts with which it refills in time; None where it does, or no panels would."""
    sentence: str
    working: dict[Key, Quantity]


def _put_out_at(station: HourlyStation) -> int:
    """The hour of the year at which, on the first of the hard month, the bank is put out."""
    first = int(np.flatnonzero(station.months == station.hard_month - 1)[0])
    return first + int(assumed_figure("carried_out_at_h"))


def _starts(station: HourlyStation) -> np.ndarray:
    out_at = _put_out_at(station)
    return np.array(
        [(year, out_at + day * HOURS) for year in range(station.years) for day in range(0, 28, 4)],
        dtype=np.int64,
    )


def _layers_carry_h(station: HourlyStation) -> float:
    """Hours the layers alone carry every load, the least of a week's mornings."""
    rules, hours = station.rules, station.hours
    layer = rules._replace(
        full_ah=rules.reserve_ah, reserve_ah=0.0, reserve_charge_a=0.0, idle_a=0.0, low_v=0.0
    )
    still = np.zeros((1, hours.load_a.shape[0]))
    alone = hours._replace(
        fixed_a=still[0],
        panels_a=still,
        backup_a=still[0],
        floor_ah=still,
        end_ah=still,
        locked=hours.locked[:1],
    )
    starts = np.array([(0, _put_out_at(station) + day * HOURS) for day in range(7)], dtype=np.int64)
    carried, _, _ = spells_of(
        replace(station, rules=layer, hours=alone), [AS_IT_IS], starts, MOST_D * HOURS
    )
    return float(carried.min())


def _refills_h(station: HourlyStation, hours: Hours) -> float:
    starts = _starts(station)
    found = np.empty(len(starts))
    hours_to_full(station.rules, hours, starts, assumed_figure("full_share"), MOST_D * HOURS, found)
    return float(np.median(found))


def _panels_that_close(station: HourlyStation, away: Hours, carries_h: float) -> float | None:
    """Times the panels there are with which the bank is back in time; None where the most tried are
    too few."""

    def closes(scale: float) -> bool:
        return _refills_h(station, away._replace(panels_a=away.panels_a * scale)) <= carries_h

    too_few, enough = 1.0, MOST_PANELS
    if not closes(enough):
        return None
    while enough - too_few > CLOSE:
        middle = (too_few + enough) / 2
        too_few, enough = (too_few, middle) if closes(middle) else (middle, enough)
    return enough


def rotation_report(design: Design) -> RotationReport | None:
    """Whether rotation closes in the hard month; None without a layer, panels, or a sun that is
    known."""
    station = hourly_station(StationModel(design))
    if station is None or station.rules.reserve_ah <= 0 or not station.strings_a:
        return None
    workings, month = Workings(), station.hard_month
    away = station.hours._replace(load_a=np.zeros_like(station.hours.load_a))
    carries = _layers_carry_h(station)
    refills = _refills_h(station, away)
    carried = workings.add(
        "rotation.carries_h",
        carries,
        "h",
        label="The other batteries run the station for",
        formula="by rehearsal",
        words=(
            "every load on the other batteries, full at the start, in "
            f"{MONTH_NAMES[month - 1]}, with the main battery away"
        ),
        inputs=[
            stated(
                "Q",
                "usable charge of the other batteries",
                station.rules.reserve_ah,
                "A·h",
                "/store/layers",
            )
        ],
        source="rehearsal",
    )
    refilled = workings.add(
        "rotation.refills_h",
        refills,
        "h",
        label="The main battery recharges in",
        formula="by rehearsal",
        words="middle case, in hours: put out in the morning at the lowest charge allowed, "
        "charged to 98 % by the panels alone, with no load",
        inputs=[
            stated("C", "its capacity", station.rules.full_ah, "A·h", "/store/bank"),
            table("η", "charge kept", station.rules.efficiency, "share", "rehearsal"),
        ],
        source="rehearsal",
    )
    enough = None
    watts = sum(
        item.module.watts.value * item.series * item.parallel for item in design.array.strings
    )
    scale = None if refills <= carries else _panels_that_close(station, away, carries)
    if scale is not None:
        enough = workings.add(
            "rotation.enough_w",
            watts * scale,
            "W",
            label="Panels needed for swapping to work",
            formula="P · k",
            words=("the fewest panel watts with which the battery is back in time, found by trial"),
            inputs=[stated("P", "panels now", watts, "W", "/array/strings"), used("t", carried)],
            source="rehearsal",
        )
    return RotationReport(
        month=month,
        carries_h=carried.key,
        refills_h=refilled.key,
        closes=refills <= carries,
        enough_w=enough.key if enough else None,
        sentence=_sentence(carries, refills, enough, month),
        working=workings.as_dict(),
    )


def _sentence(carries: float, refills: float, enough: Quantity | None, month: int) -> str:
    name = MONTH_NAMES[month - 1]
    filled = (
        f"is full again in {hours_in_words(refills)}"
        if refills < MOST_D * HOURS
        else f"is not full again within {MOST_D} days"
    )
    carried = hours_in_words(carries)
    told = (
        f"In {name}, the other batteries run the station for {carried}. The main "
        f"battery, put out to charge, {filled}."
    )
    if refills <= carries:
        return f"{told} Swapping works."
    if enough is not None:
        return f"{told} That's too slow. Swapping would work with {enough.number:.0f} W of panels."
    return f"{told} That's too slow, even with {MOST_PANELS:.0f} times the panels."
