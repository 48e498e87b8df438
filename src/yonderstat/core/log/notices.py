"""What the log as a whole says: overdue upkeep, silence, the loudest device."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from ..finding import Severity
from ..words import counted
from .upkeep import Due

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


@dataclass(frozen=True, slots=True)
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
        shown = None if reach.most_share >= FULL_SHARE else f"{100 * reach.most_share:.0f} % at most"
    elif reach.most_v is not None:
        limit = reach.full_v - NEAR_FULL_12V * reach.blocks
        shown = None if reach.most_v >= limit else f"{reach.most_v:.1f} V at most, and full is {reach.full_v:.1f} V"
    if shown is None:
        return None
    harm = "Lead that is never full hardens and is lost" if reach.is_lead else "Its meter never finds its zero again"
    return Notice("fix" if reach.is_lead else "mind", f"Not full in {NOT_FULL_DAYS} days: {shown}. {harm}")


def _meters_apart(apart: Apart | None) -> Notice | None:
    if apart is None or abs(apart.by_hand_v - apart.by_meter_v) <= APART_12V * apart.blocks:
        return None
    told = f"By hand {apart.by_hand_v:.2f} V, by the meter on record {apart.by_meter_v:.2f} V at the same time"
    return Notice("mind", f"{told}: one of the two is wrong, or there are volts lost between them")


def notices_of(
    attended: str,
    newest: date | None,
    today: date,
    due: Sequence[Due],
    noise: Sequence[tuple[str, float]],
    reach: Reach | None = None,
    apart: Apart | None = None,
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
    """
    found = [notice for notice in (_never_full(reach), _meters_apart(apart)) if notice is not None]
    overdue = [item for item in due if item.last is not None and item.overdue_days > 0]
    if overdue:
        worst = max(overdue, key=lambda item: item.overdue_days)
        told = f"{worst.task.title}: {counted(worst.overdue_days, 'day')} overdue"
        more = f", and {len(overdue) - 1} more" if len(overdue) > 1 else ""
        found.append(Notice("mind", told + more))
    if newest is not None and (today - newest).days > SILENT_DAYS[attended]:
        found.append(Notice("mind", f"Nothing was read for {counted((today - newest).days, 'day')}"))
    loud = max(noise, key=lambda item: item[1], default=None)
    if loud is not None and loud[1] >= 3.0:
        found.append(Notice("mind", f"The loudest on the bands: {loud[0]}, {loud[1]:+.0f} dB"))
    return tuple(found)
