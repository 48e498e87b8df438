"""Month by month: does the sun cover the draw, and does the asked spell carry through."""

import math
from collections.abc import Sequence

from ..draw import MONTH_NAMES, month_key
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
        "min(1, Q / (Q_day − Q_s) / D)" if stored else "min(1, Q / Q_day / D)",
        "days a full bank lasts while mean sun comes in, over the days asked"
        if stored
        else "days a full bank lasts with no sun, over the days asked",
        inputs,
        "arithmetic",
    )


def months_in_words(months: Sequence[int]) -> str:
    """Months as people say them: “May to July”, “November to February”, “May and September”."""
    chosen = sorted(set(months))
    if len(chosen) == 12:
        return "every month"
    if len(chosen) >= 10:
        return f"every month but {months_in_words([month for month in range(1, 13) if month not in chosen])}"
    runs: list[list[int]] = []
    for month in chosen:
        if runs and month == runs[-1][-1] + 1:
            runs[-1].append(month)
        else:
            runs.append([month])
    if len(runs) > 1 and runs[0][0] == 1 and runs[-1][-1] == 12:
        runs[0] = runs.pop() + runs[0]
    parts = [part for run in runs for part in _run_in_words(run)]
    return parts[0] if len(parts) == 1 else ", ".join(parts[:-1]) + " and " + parts[-1]


def _run_in_words(run: list[int]) -> list[str]:
    names = [MONTH_NAMES[month - 1] for month in run]
    return names if len(run) <= 2 else [f"{names[0]} to {names[-1]}"]
