"""What may come in at all, whoever brings it: moments, days, figures, texts. One rule for every
entrance.

See docs/decisions/0027-boundaries.md. A moment that no clock of a station shows, or a figure no
meter reads, makes nothing better further in: it is refused where it comes in, with a word why.
"""

import math
from datetime import UTC, date, datetime
from typing import Annotated, Any

from pydantic import AfterValidator, Field

FIRST_YEAR, LAST_YEAR = 1970, 2100
FIRST_MOMENT, LAST_MOMENT = (
    datetime(FIRST_YEAR, 1, 1, tzinfo=UTC),
    datetime(LAST_YEAR + 1, 1, 1, tzinfo=UTC),
)
FIRST_S, LAST_S = FIRST_MOMENT.timestamp(), LAST_MOMENT.timestamp()
MOST_NESTED = 64
MOST_POSITION = 1_000_000
MOST_FIGURE = 1e12


def fault_of_moment(moment: datetime) -> str:
    """Why a moment cannot be taken; empty where it can."""
    if moment.tzinfo is None or moment.utcoffset() is None:
        return "has no time zone; give one, such as 2026-07-10T08:00+12:00"
    # Compared by its parts: near the ends of the calendar another zone's moment cannot be worked
    # out.
    if not FIRST_YEAR <= moment.year <= LAST_YEAR:
        return f"is in the year {moment.year}; years from {FIRST_YEAR} to {LAST_YEAR} are kept"
    return ""


def fault_of_day(day: date) -> str:
    """Why a day cannot be taken; empty where it can."""
    if not FIRST_YEAR <= day.year <= LAST_YEAR:
        return f"is in the year {day.year}; years from {FIRST_YEAR} to {LAST_YEAR} are kept"
    return ""


def fault_of_text(text: str) -> str:
    """Why a text cannot be taken: what no table can hold, and halves of characters."""
    if "\x00" in text:
        return "contains the character NUL; use plain text"
    if not text.isascii() and any("\ud800" <= char <= "\udfff" for char in text):
        return "contains half a character; use plain text"
    return ""


def fault_of_value(value: Any, of_document: bool = False) -> tuple[str, str] | None:
    """Where and why a decoded JSON value cannot be taken: nested past any use, no finite figure, no
    text.

    Parameters
    ----------
    of_document : bool
        Whether a document's own model looks at its texts and whole numbers afterwards, and says it
        better.

    Returns
    -------
    tuple of str, or None
        A JSON pointer, and the reason.
    """
    queue: list[tuple[Any, str, int]] = [(value, "", 0)]
    while queue:
        item, pointer, depth = queue.pop()
        if depth > MOST_NESTED:
            return pointer[:200], f"is nested over {MOST_NESTED} deep"
        if isinstance(item, str):
            fault = fault_of_text(item.replace("\x00", "") if of_document else item)
            if fault:
                return pointer[:200], fault
        elif isinstance(item, float) and not math.isfinite(item):
            return pointer[:200], "is no finite number"
        elif isinstance(item, int) and not of_document and not -MOST_FIGURE <= item <= MOST_FIGURE:
            return pointer[:200], "is larger than any figure of a station"
        elif isinstance(item, dict):
            for key, inner in item.items():
                queue += [(key, pointer, depth), (inner, f"{pointer}/{key}", depth + 1)]
        elif isinstance(item, list):
            queue += [
                (inner, f"{pointer}/{number}", depth + 1) for number, inner in enumerate(item)
            ]
    return None


def _checked(fault: str) -> None:
    if fault:
        raise ValueError(fault)


def _moment(moment: datetime) -> datetime:
    _checked(fault_of_moment(moment))
    return moment


def _day(day: date) -> date:
    _checked(fault_of_day(day))
    return day


def plain_text(text: str) -> str:
    """The text itself; a `ValueError` where it is none."""
    _checked(fault_of_text(text))
    return text


def _json(value: Any) -> Any:
    found = fault_of_value(value)
    _checked("" if found is None else f"{found[0] or '/'} {found[1]}")
    return value


Moment = Annotated[datetime, AfterValidator(_moment)]
Day = Annotated[date, AfterValidator(_day)]
Position = Annotated[int, Field(ge=0, le=MOST_POSITION)]
Figure = Annotated[float, Field(ge=-MOST_FIGURE, le=MOST_FIGURE, allow_inf_nan=False)]
JsonObject = Annotated[dict[str, Any], AfterValidator(_json)]
