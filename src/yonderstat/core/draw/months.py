"""The twelve months by name, and keys of figures by month."""

import calendar

from ..working import Key

MONTH_NAMES = tuple(calendar.month_name[1:])


def month_key(stem: Key, month: int) -> Key:
    """The key of a figure of one month, 1 to 12."""
    return f"{stem}.{month:02d}"
