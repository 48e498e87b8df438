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


def notices_of(
    attended: str,
    newest: date | None,
    today: date,
    due: Sequence[Due],
    noise: Sequence[tuple[str, float]],
) -> tuple[Notice, ...]:
    """What stands out, the gravest first.

    Parameters
    ----------
    newest : date or None
        Of the newest reading or recorded row.
    noise : sequence of (str, float)
        What was measured by device, with the decibels it adds.
    """
    found = []
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
