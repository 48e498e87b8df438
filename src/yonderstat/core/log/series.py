"""What a meter's record comes to by day: amp-hours in and out, the draw of the small hours, and its
resistance."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]
CHANNELS = ("volts", "charge_a", "load_a", "charge_share", "box_c")
"""What is recorded of a site, whoever tells it."""
DAY_S, HOUR_S = 86_400.0, 3600.0
MOST_GAP_S = 2.0 * HOUR_S
"""A longer silence is a gap: nothing is counted across it."""
WHOLE = 0.75
"""Share of a day that must be on record for its sums to count."""
SMALL_HOURS = (1.0, 4.0)
STEP_A, LEAST_STEPS = 0.5, 12
DARK_A, OFF_A = 0.05, 0.02


@dataclass(frozen=True, slots=True)
class Record:
    """Readings in time: seconds since 1970 at the site's own clock, and what was read; NaN where it
    was not."""

    at_s: FloatArray
    volts: FloatArray | None = None
    charge_a: FloatArray | None = None
    load_a: FloatArray | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Days:
    """Whole days of a record. Arrays are by day; None where the record has no such column."""

    first_day: NDArray[np.int64]
    """Days since 1970."""
    months: NDArray[np.int64]
    """1 to 12."""
    harvest_ah: FloatArray | None
    drawn_ah: FloatArray | None
    night_a: FloatArray | None
    """Median draw from one to four in the morning."""
    resistance_ohm: float | None
    """By how much the volts fall when the draw steps up, in the dark."""
    gaps: int
    """Silences of over two hours."""
    night_spikes_a: float = 0.0
    """By how much the mean of the small hours stands above their median: what a meter that looks
    now and then finds of overs, and one that tells means does not."""
    off_share: FloatArray | None = None
    """Of each day, the part in which next to nothing was drawn."""


def _months(days: NDArray[np.int64]) -> NDArray[np.int64]:
    months = days.astype("datetime64[D]").astype("datetime64[M]").astype(np.int64)
    return np.asarray(months % 12 + 1)


def _sums(amps: FloatArray, hours: FloatArray, index: NDArray[np.int64], count: int) -> FloatArray:
    known = np.isfinite(amps)
    sums = np.bincount(
        index[known], weights=np.maximum(amps[known], 0.0) * hours[known], minlength=count
    )
    return np.asarray(sums, dtype=np.float64)


def _off(amps: FloatArray, hours: FloatArray, index: NDArray[np.int64], count: int) -> FloatArray:
    known = np.isfinite(amps)
    whole = np.bincount(index[known], weights=hours[known], minlength=count)
    off = np.bincount(index[known], weights=hours[known] * (amps[known] < OFF_A), minlength=count)
    return np.asarray(
        np.divide(off, whole, out=np.zeros(count), where=whole > 0.0), dtype=np.float64
    )


def _night(amps: FloatArray, at_s: FloatArray, index: NDArray[np.int64], count: int) -> FloatArray:
    hour = at_s % DAY_S / HOUR_S
    chosen = (hour >= SMALL_HOURS[0]) & (hour < SMALL_HOURS[1]) & np.isfinite(amps)
    order = np.argsort(index[chosen], kind="stable")
    days, values = index[chosen][order], amps[chosen][order]
    found = np.full(count, np.nan)
    if not days.size:
        return found
    starts = np.flatnonzero(np.r_[True, days[1:] != days[:-1]])
    for start, end in zip(starts, np.r_[starts[1:], days.size], strict=True):
        found[days[start]] = np.median(values[start:end])
    return found


def _resistance(record: Record) -> float | None:
    """Ohms from steps of the draw in the dark: the bank's open-circuit volts hardly move between
    two readings."""
    if record.volts is None or record.load_a is None:
        return None
    steps_a, steps_v = np.diff(record.load_a), np.diff(record.volts)
    good = (np.abs(steps_a) > STEP_A) & np.isfinite(steps_v) & (np.diff(record.at_s) < MOST_GAP_S)
    if record.charge_a is not None:
        dark = np.nan_to_num(record.charge_a) < DARK_A
        good &= dark[1:] & dark[:-1]
    if good.sum() < LEAST_STEPS:
        return None
    # The median of the slopes: a stray reading pulls a least-squares line far.
    return float(np.median(-steps_v[good] / steps_a[good]))


def _spikes_a(amps: FloatArray, at_s: FloatArray) -> float:
    """By how much the mean of the small hours stands above their median, dark ones left out. [A]"""
    hour = (at_s % DAY_S) / HOUR_S
    small = (hour >= SMALL_HOURS[0]) & (hour < SMALL_HOURS[1]) & np.isfinite(amps)
    drawn = amps[small & (amps > DARK_A)]
    return float(drawn.mean() - np.median(drawn)) if drawn.size else 0.0


def days_of(record: Record) -> Days:
    """The whole days of a record.

    Parameters
    ----------
    record : Record
        Times rising; each reading stands until the next one, but over no gap.

    Returns
    -------
    Days
        Only days of which three quarters are on record.
    """
    at_s = record.at_s
    spans = np.diff(at_s, append=at_s[-1] if at_s.size else 0.0)
    gaps = int((spans > MOST_GAP_S).sum())
    hours = np.where(spans > MOST_GAP_S, 0.0, spans) / HOUR_S
    day = np.floor(at_s / DAY_S).astype(np.int64)
    first = int(day[0]) if day.size else 0
    index = day - first
    count = int(index[-1]) + 1 if index.size else 0
    covered = np.bincount(index, weights=hours, minlength=count) / 24.0 if count else np.zeros(0)
    whole = covered >= WHOLE
    days = (np.arange(count) + first)[whole]

    def by_day(column: FloatArray | None) -> FloatArray | None:
        if column is None:
            return None
        # A day on record for nine tenths stands for the whole of it.
        return _sums(column, hours, index, count)[whole] / covered[whole]

    night = None if record.load_a is None else _night(record.load_a, at_s, index, count)[whole]
    harvest, drawn, resistance = by_day(record.charge_a), by_day(record.load_a), _resistance(record)
    spikes_a = 0.0 if record.load_a is None else _spikes_a(record.load_a, at_s)
    off = None if record.load_a is None else _off(record.load_a, hours, index, count)[whole]
    return Days(
        first_day=days,
        months=_months(days),
        harvest_ah=harvest,
        drawn_ah=drawn,
        night_a=night,
        resistance_ohm=resistance,
        gaps=gaps,
        night_spikes_a=spikes_a,
        off_share=off,
    )
