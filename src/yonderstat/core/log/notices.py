"""What the log as a whole says: overdue upkeep, silence, the loudest device."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from ..finding import Severity
from ..station import StationModel
from ..store import METER_SHARE, charge_range_from_rest, kind_of, self_discharge
from ..store import Reading as RestReading
from ..words import counted
from .upkeep import Due

HOURS_A_MONTH = 730.0
SILENT_DAYS = {"nobody": 90, "visits": 60, "present": 30}
"""Without a reading for so long nobody knows how it does, by who is there. [C]"""


@dataclass(frozen=True, slots=True)
class Notice:
    """A checked statement about the log."""

    severity: Severity
    words: str


NOT_FULL_DAYS, FULL_SHARE, NEAR_FULL_12V = 30, 0.97, 0.3
"""A bank on record for so long that never came so near to full. [C]"""
APART_12V = 0.15
"""Two meters on one bank that differ by more, for every block of 12 V, cannot both be right. [C]"""


@dataclass(frozen=True, slots=True, kw_only=True)
class Reach:
    """The most a record has over its last days, and what full would be."""

    days: float
    most_v: float | None
    most_share: float | None
    full_v: float
    blocks: float
    is_lead: bool


@dataclass(frozen=True, slots=True)
class Apart:
    """Volts of one moment by two meters."""

    by_hand_v: float
    by_meter_v: float
    blocks: float


def _never_full(reach: Reach | None) -> Notice | None:
    if reach is None or reach.days < NOT_FULL_DAYS:
        return None
    shown = None
    if reach.most_share is not None:
        shown = (
            None if reach.most_share >= FULL_SHARE else f"it reached {100 * reach.most_share:.0f} %"
        )
    elif reach.most_v is not None:
        limit = reach.full_v - NEAR_FULL_12V * reach.blocks
        shown = (
            None
            if reach.most_v >= limit
            else f"it reached {reach.most_v:.1f} V, and full is {reach.full_v:.1f} V"
        )
    if shown is None:
        return None
    harm = (
        "A lead battery that is never full hardens inside and is ruined"
        if reach.is_lead
        else "Its meter loses count, because only a full charge resets it"
    )
    return Notice(
        "fix" if reach.is_lead else "mind",
        f"{harm}. The battery has not been full for {NOT_FULL_DAYS} days: {shown}",
    )


def _meters_apart(apart: Apart | None) -> Notice | None:
    if apart is None or abs(apart.by_hand_v - apart.by_meter_v) <= APART_12V * apart.blocks:
        return None
    told = (
        f"You measured {apart.by_hand_v:.2f} V; the recorded meter showed "
        f"{apart.by_meter_v:.2f} V at the same time"
    )
    return Notice("mind", f"{told}. One of them is wrong, or volts are lost between them")


LEAST_REST_H, MOST_LEAK, LEAST_LEAK = 168.0, 3.0, 0.05
"""Over so long a rest, a bank that loses so many times what is usual for its kind, and so much of
its charge a month at the least, has something on it or a bad cell. [C]"""


@dataclass(frozen=True, slots=True)
class Leak:
    """A bank read at rest at both ends of a long rest: the charge lost, as a share a month, and
    what is usual."""

    rested_h: float
    month_share: float
    usual_share: float


def leak_of(station: StationModel, before_v: float, after_v: float, apart_h: float) -> Leak | None:
    """What a rest cost a bank; None without one.

    Parameters
    ----------
    before_v, after_v : float
        Resting volts at its two ends. [V]
    apart_h : float
        How long it lasted. [h]
    """
    bank = station.bank
    if bank is None or apart_h <= 0.0:
        return None
    taken = RestReading(METER_SHARE, bank.mean_c, bank.mean_c, True)
    chemistry = bank.bank.chemistry
    before, after = (
        sum(charge_range_from_rest(chemistry, station.bus_v, volts, taken)) / 2.0
        for volts in (before_v, after_v)
    )
    lost = max(0.0, before - after) * HOURS_A_MONTH / apart_h
    return Leak(apart_h, lost, self_discharge(kind_of(chemistry), bank.mean_c))


def _leaks(leak: Leak | None) -> Notice | None:
    if leak is None or leak.rested_h < LEAST_REST_H:
        return None
    if leak.month_share < max(MOST_LEAK * leak.usual_share, LEAST_LEAK):
        return None
    told = (
        f"At rest, the battery lost {100 * leak.month_share:.0f} % a month; "
        f"{100 * leak.usual_share:.1f} % is normal for its type"
    )
    return Notice(
        "fix",
        (
            f"{told}. Something is still connected, or a cell is bad. Disconnect its leads "
            "and measure again"
        ),
    )


def notices_of(
    attended: str,
    newest: date | None,
    today: date,
    due: Sequence[Due],
    noise: Sequence[tuple[str, float]],
    reach: Reach | None = None,
    apart: Apart | None = None,
    leak: Leak | None = None,
) -> tuple[Notice, ...]:
    """What stands out, the gravest first.

    Parameters
    ----------
    newest : date or None
        Of the newest reading or recorded row.
    noise : sequence of (str, float)
        What was measured by device, with the decibels it adds.
    reach : Reach, optional
        How full the bank got lately, by its record.
    apart : Apart, optional
        A resting reading by hand, and what the meter had then.
    leak : Leak, optional
        What the longest rest on record cost.
    """
    found = [
        notice
        for notice in (_never_full(reach), _leaks(leak), _meters_apart(apart))
        if notice is not None
    ]
    overdue = [item for item in due if item.last is not None and item.overdue_days > 0]
    if overdue:
        worst = max(overdue, key=lambda item: item.overdue_days)
        told = f"Overdue by {counted(worst.overdue_days, 'day')}: {worst.task.title}"
        more = f". {len(overdue) - 1} more tasks are due" if len(overdue) > 1 else ""
        found.append(Notice("mind", told + more))
    if newest is not None and (today - newest).days > SILENT_DAYS[attended]:
        found.append(Notice("mind", f"Last reading: {counted((today - newest).days, 'day')} ago"))
    loud = max(noise, key=lambda item: item[1], default=None)
    if loud is not None and loud[1] >= 3.0:
        found.append(Notice("mind", f"Loudest noise source: {loud[0]}, {loud[1]:+.0f} dB"))
    return tuple(found)
