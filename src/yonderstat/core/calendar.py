"""The common year that everything is worked out on: months, days, hours; their names, and keys of
figures by month."""

import calendar
from collections.abc import Sequence
from datetime import datetime

import numpy as np
from numpy.typing import NDArray

MONTH_NAMES = tuple(calendar.month_name[1:])
DAYS_IN_MONTH = np.array([31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31])
HOURS_A_DAY, DAYS_A_YEAR = 24, 365


def month_key(stem: str, month: int) -> str:
    """The key of a figure of one month, 1 to 12."""
    return f"{stem}.{month:02d}"


def year_days() -> tuple[NDArray[np.int64], NDArray[np.float64]]:
    """The month and the number of every day of a common year.

    Returns
    -------
    tuple of ndarray
        Month of each day of a common year, 1 to 12, and the day of the year, 1 to 365; shape (365,)
        each.
    """
    return np.repeat(np.arange(1, 13), DAYS_IN_MONTH), np.arange(1.0, 366.0)


def months_in_words(months: Sequence[int]) -> str:
    """Months as people say them: “May to July”, “November to February”, “May and September”."""
    chosen = sorted(set(months))
    if len(chosen) == 12:
        return "every month"
    if len(chosen) >= 10:
        return (
            "every month but "
            f"{months_in_words([month for month in range(1, 13) if month not in chosen])}"
        )
    return _listed([part for run in _runs(chosen) for part in _run_in_words(run)])


def when_in_words(months: Sequence[int]) -> str:
    """When something is so: “from June to August”, “in May and June”, “from April to June and in
    October”."""
    chosen = sorted(set(months))
    if len(chosen) >= 10:
        return f"in {months_in_words(chosen)}"
    runs = _runs(chosen)
    long = [f"from {_run_in_words(run)[0]}" for run in runs if len(run) > 2]
    short = [name for run in runs if len(run) <= 2 for name in _run_in_words(run)]
    return _listed([*long, *([f"in {_listed(short)}"] if short else [])])


def _listed(parts: list[str]) -> str:
    return parts[0] if len(parts) == 1 else ", ".join(parts[:-1]) + " and " + parts[-1]


def _runs(chosen: list[int]) -> list[list[int]]:
    """Months in a row, December and January too."""
    runs: list[list[int]] = []
    for month in chosen:
        if runs and month == runs[-1][-1] + 1:
            runs[-1].append(month)
        else:
            runs.append([month])
    if len(runs) > 1 and runs[0][0] == 1 and runs[-1][-1] == 12:
        runs[0] = runs.pop() + runs[0]
    return runs


def _run_in_words(run: list[int]) -> list[str]:
    names = [MONTH_NAMES[month - 1] for month in run]
    return names if len(run) <= 2 else [f"{names[0]} to {names[-1]}"]


def hour_of_year(at: datetime) -> int:
    """Hour of a common year, 0 to 8759, by the clock a moment is told in; a leap day is told as the
    day before it."""
    day = min(at.day, int(DAYS_IN_MONTH[at.month - 1]))
    return (int(sum(DAYS_IN_MONTH[: at.month - 1])) + day - 1) * HOURS_A_DAY + at.hour
