"""The twelve months of the strip: what the weather years say, and the rule of thumb beside it."""

import math

from ..array import ArrayReport
from ..calendar import MONTH_NAMES, month_key
from ..draw import DrawReport
from ..rehearse import Reliability
from ..station import StationModel
from ..working import Input, Quantity, Workings, used
from .report import MonthCell


def covered_share(stored_ah: float, daily_ah: float) -> float:
    """Share of the draw that what is stored in a day covers, at most 1."""
    return 1.0 if daily_ah <= 0 else min(1.0, stored_ah / daily_ah)


def carried_days(usable_ah: float, stored_ah: float, daily_ah: float) -> float:
    """Days a full bank lasts with this much coming in a day; infinite where the sun keeps up.
    [d]

    Parameters
    ----------
    usable_ah : float
        What a full bank gives. [A·h]
    stored_ah : float
        What comes in a day. [A·h]
    daily_ah : float
        What is drawn a day. [A·h]
    """
    net_ah = daily_ah - stored_ah
    return math.inf if net_ah <= 0 else usable_ah / net_ah


def cover_quantity(month: int, stored: Quantity, drawn: Quantity, workings: Workings) -> Quantity:
    """Share of the draw covered in a month, with its working.

    Parameters
    ----------
    month : int
        1 to 12.
    stored : Quantity
        What the bank keeps of a mean day's sun.
    drawn : Quantity
        What is drawn a day.
    """
    return workings.add(
        month_key("verdict.cover", month),
        covered_share(stored.number, drawn.number),
        "share",
        label=f"Use covered by the sun, {MONTH_NAMES[month - 1]}",
        formula="min(1, Q_s / Q)",
        words="amp-hours stored per day divided by amp-hours used per day, in average weather",
        inputs=[used("Q_s", stored), used("Q", drawn)],
        source="arithmetic",
        note="" if drawn.number > 0 else "nothing uses power this month",
    )


def _carry_words(days: float, with_sun: bool) -> tuple[str, str]:
    """Formula and words of the spell carried."""
    if math.isinf(days):
        return "1", (
            "average sun gives as much as the loads use: a full battery lasts any number of days"
        )
    if with_sun:
        return (
            "min(1, Q / (Q_day − Q_s) / D)"
        ), "days a full battery lasts in average sun, divided by the days asked for"
    return (
        "min(1, Q / Q_day / D)",
        "days a full battery lasts without sun, divided by the days asked for",
    )


def carry_quantity(
    month: int,
    usable: Quantity,
    stored: Quantity | None,
    drawn: Quantity,
    asked: Quantity,
    workings: Workings,
) -> Quantity:
    """Share of the asked spell carried from a full bank in a month, with its working.

    Parameters
    ----------
    month : int
        1 to 12.
    usable : Quantity
        What a full bank gives.
    stored : Quantity or None
        What comes in a day; None where it is not known or does not count.
    drawn : Quantity
        What is drawn a day.
    asked : Quantity
        The days the brief asks for.
    """
    days = carried_days(usable.number, stored.number if stored else 0.0, drawn.number)
    inputs = [used("Q", usable), used("Q_day", drawn), used("D", asked)]
    if stored:
        inputs.append(used("Q_s", stored))
    return workings.add(
        month_key("verdict.carry", month),
        min(1.0, days / asked.number),
        "share",
        f"Share of the days asked for that it lasts, {MONTH_NAMES[month - 1]}",
        *_carry_words(days, stored is not None),
        inputs,
        "arithmetic",
    )


def rules_of_thumb(
    station: StationModel, draw: DrawReport, array: ArrayReport, asked: Quantity, workings: Workings
) -> list[Quantity | None]:
    """By month: what mean sun covers of the draw, or how much of a spell it carries; None where
    nothing is known.

    Parameters
    ----------
    asked : Quantity
        The days the brief asks for.
    """
    brief, usable = (
        station.design.brief,
        workings.get("store.carries_ah") or workings.get("store.usable_ah"),
    )
    found: list[Quantity | None] = []
    for month in range(1, 13):
        drawn = workings[draw.months_ah[month - 1]]
        stored = workings[array.stored_ah[month - 1]] if array.stored_ah else None
        share: Quantity | None = None
        if station.design.draw.loads and month in brief.months:
            if station.purpose.is_spell and usable is not None:
                share = carry_quantity(month, usable, stored, drawn, asked, workings)
            elif not station.purpose.is_spell and stored is not None:
                share = cover_quantity(month, stored, drawn, workings)
        found.append(share)
    return found


def month_ground(draw: DrawReport, array: ArrayReport, workings: Workings) -> list[list[Input]]:
    """By month, the figures that its share of the weather years rests on."""
    found = []
    for month in range(12):
        inputs = [
            used("Q_day", workings[draw.months_ah[month]]),
            used("Q", workings["store.usable_ah"]),
        ]
        if array.harvest_ah:
            inputs.append(used("Q_h", workings[array.harvest_ah[month]]))
        found.append(inputs)
    return found


def month_cells(
    months_in_use: list[int], means: list[Quantity | None], rehearsed: Reliability | None
) -> tuple[MonthCell, ...]:
    """The strip, January to December.

    Parameters
    ----------
    months_in_use : list of int
        In which the station works, 1 to 12.
    means : list of Quantity or None
        By the rule of thumb, January first.
    rehearsed : Reliability or None
        What the played years say, where they were.
    """
    cells = []
    for month in range(1, 13):
        mean = means[month - 1]
        share = rehearsed.by_month[month - 1] if rehearsed else None
        state = rehearsed.month_states[month - 1] if rehearsed else None
        wears = rehearsed is not None and month in rehearsed.wears
        cells.append(
            MonthCell(
                month=month,
                in_use=month in months_in_use,
                share=share,
                mean=mean.key if mean else None,
                state=state,
                wears=wears,
            )
        )
    return tuple(cells)
