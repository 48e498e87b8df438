"""The day by the clock, and what the pictures of the draw say in a line."""

from dataclasses import dataclass

import numpy as np

from ..calendar import HOURS_A_DAY, MONTH_NAMES
from ..words import hours_in_words
from .model import TIERS, StationDraw
from .when import FloatArray

FLAT_SHARE = 0.02
"""Within so much of its largest hour a day counts as the same round the clock."""
SPARED_A = 0.5
UNWORTHED = "none"


@dataclass(frozen=True, slots=True)
class DayProfile:
    """Mean amps by clock hour in the design's month, stacked by worth; what idles and warms counts
    as vital."""

    tiers: tuple[str, ...]
    """Those that draw anything, worthiest first; none is what nobody has said the worth of."""
    hours_a: tuple[tuple[float, ...], ...]
    """By hour, then in the order of `tiers`."""
    total_a: tuple[float, ...]
    takeaway: str


def day_profile(station: StationDraw, month: int) -> DayProfile:
    """The day of a month, 1 to 12."""
    stacks = {tier: np.zeros(HOURS_A_DAY) for tier in (*TIERS, UNWORTHED)}
    for item in station.loads:
        stacks[item.load.tier or UNWORTHED] += item.hourly_a[month - 1]
    steady = float(station.heating_ah[month - 1]) / HOURS_A_DAY
    stacks["vital"] += steady
    for rail_id, idle_ah in station.idle_ah.items():
        stacks[station.idle_tier(rail_id)] += idle_ah / HOURS_A_DAY
    shown = tuple(tier for tier, amps in stacks.items() if amps.any())
    total = station.hourly_a[month - 1]
    rows = tuple(tuple(float(stacks[tier][hour]) for tier in shown) for hour in range(HOURS_A_DAY))
    return DayProfile(shown, rows, tuple(float(amps) for amps in total), _day_words(total, month))


def _day_words(total: FloatArray, month: int) -> str:
    most, name = float(total.max()), MONTH_NAMES[month - 1]
    if most <= 0:
        return f"{name}: nothing uses power."
    if most - float(total.min()) < FLAT_SHARE * most:
        return f"{name}: the same all day, {most:.2g} A."
    hour = int(np.argmax(total))
    return f"{name}: most current from {hour}:00 to {hour + 1}:00, {most:.2g} A on average."


def share_words(station: StationDraw) -> str:
    """Which load takes most of the year's amp-hours."""
    if not station.loads or station.by_month.sum() <= 0:
        return ""
    first = max(station.loads, key=lambda item: float(item.daily_ah.sum()))
    share = float(first.daily_ah.sum() / station.by_month.sum())
    return f"{first.load.name}: {100 * share:.0f} % of the year’s amp-hours."


def peak_words(peak_a: float, everything_a: float) -> str:
    """What never keying together spares."""
    spared = everything_a - peak_a
    if spared > SPARED_A:
        return (
            f"The largest current is {spared:.0f} A lower, because some loads are never used "
            "at the same time."
        )
    return "No loads are marked “not at the same time”, so the peak counts them all."


def turn_down_words(hours: list[float]) -> str:
    """What the gentlest of the power steps is worth.

    Parameters
    ----------
    hours : list of float
        Hours to dark at every step; empty without a bank or without a set that can be turned down.
    """
    if not hours:
        return "Transmit watts and amp-hours per day."
    gain = max(hours) - min(hours)
    return f"The lowest power gives {hours_in_words(gain)} more. Receive current stays the same."
