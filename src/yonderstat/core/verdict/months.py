"""Month by month: does the sun cover the draw, and does the asked spell carry through."""

import math

from ..calendar import MONTH_NAMES, month_key
from ..working import Quantity, Workings, used


def covered_share(stored_ah: float, daily_ah: float) -> float:
    """Share of the draw that what is stored in a day covers, at most 1."""
    return 1.0 if daily_ah <= 0 else min(1.0, stored_ah / daily_ah)


def carried_days(usable_ah: float, stored_ah: float, daily_ah: float) -> float:
    """Days a full bank lasts with this much coming in a day; infinite where the sun keeps up. [d]"""
    net_ah = daily_ah - stored_ah
    return math.inf if net_ah <= 0 else usable_ah / net_ah


def cover_quantity(month: int, stored: Quantity, drawn: Quantity, workings: Workings) -> Quantity:
    """Share of the draw covered in a month, with its working."""
    return workings.add(
        month_key("verdict.cover", month),
        covered_share(stored.number, drawn.number),
        "share",
        f"Draw covered, {MONTH_NAMES[month - 1]}",
        "min(1, Q_s / Q)",
        "kept by the bank a day over drawn a day, on mean weather",
        [used("Q_s", stored), used("Q", drawn)],
        "arithmetic",
        "" if drawn.number > 0 else "nothing draws current this month",
    )


def _carry_words(days: float, with_sun: bool) -> tuple[str, str]:
    """Formula and words of the spell carried."""
    if math.isinf(days):
        return "1", "mean sun brings as much as is drawn: a full bank carries any spell"
    if with_sun:
        return "min(1, Q / (Q_day − Q_s) / D)", "days a full bank lasts while mean sun comes in, over the days asked"
    return "min(1, Q / Q_day / D)", "days a full bank lasts with no sun, over the days asked"


def carry_quantity(
    month: int,
    usable: Quantity,
    stored: Quantity | None,
    drawn: Quantity,
    asked: Quantity,
    workings: Workings,
) -> Quantity:
    """Share of the asked spell carried from a full bank in a month, with its working."""
    days = carried_days(usable.number, stored.number if stored else 0.0, drawn.number)
    inputs = [used("Q", usable), used("Q_day", drawn), used("D", asked)]
    if stored:
        inputs.append(used("Q_s", stored))
    return workings.add(
        month_key("verdict.carry", month),
        min(1.0, days / asked.number),
        "share",
        f"Spell carried, {MONTH_NAMES[month - 1]}",
        *_carry_words(days, stored is not None),
        inputs,
        "arithmetic",
    )
