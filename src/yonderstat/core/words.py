"""Figures in words, the same wherever they are told."""

import re

HOURS_UNTIL_D = 3
"""Below so many days a stretch of time is told in hours."""


def days_in_words(days: float) -> str:
    """A stretch of time as people say it: “41 hours”, “5.2 days”."""
    if days < HOURS_UNTIL_D:
        hours = days * 24
        return f"{hours:.0f} hours" if hours >= 1.5 else f"{hours * 60:.0f} minutes"
    return f"{days:.1f} days" if days < 20 else f"{days:.0f} days"


def counted(value: float, what: str, digits: int = 0) -> str:
    """So many of something: “1 day”, “3 days”, “2.5 days”; trailing zeros are left out.

    Parameters
    ----------
    what : str
        In the singular.
    digits : int
        At most so many after the point.
    """
    number = f"{value:.{digits}f}"
    number = number.rstrip("0").rstrip(".") if "." in number else number
    return f"{number} {what}" if number == "1" else f"{number} {what}s"


def hours_in_words(hours: float) -> str:
    """Whole hours: “1 hour”, “48 hours”; what rounds to none but is some is “less than an hour”."""
    whole = round(hours)
    if whole == 0 and hours > 0:
        return "less than an hour"
    return "1 hour" if whole == 1 else f"{whole} hours"


def hours_and_minutes(hours: float) -> str:
    """Hours as they were read off a clock: “4 h 30 min”, “45 min”, “5 h”."""
    whole, minutes = divmod(round(hours * 60.0), 60)
    parts = [f"{whole} h" if whole else "", f"{minutes} min" if minutes or not whole else ""]
    return " ".join(part for part in parts if part)


def hour_in_words(hour: int) -> str:
    """An hour from the start as people say it: “day 2, 18:00”."""
    return f"day {hour // 24 + 1}, {hour % 24:02d}:00"


def times_in_words(times: float) -> str:
    """How often: “less than once”, “once”, “12 times”."""
    whole = round(times)
    if whole == 0:
        return "less than once" if times > 0 else "never"
    return "once" if whole == 1 else f"{whole} times"


MOST_DIGITS = 4


def apart(value: float, limit: float, unit: str, least_digits: int = 0) -> tuple[str, str]:
    """Two figures that are compared, with as many digits as show which is more: “10.4 A” and “10
    A”.

    Parameters
    ----------
    limit : float
        The figure it is compared with.
    least_digits : int
        So many after the point, or as many more as part the two.
    """
    digits = next(
        (so for so in range(least_digits, MOST_DIGITS) if f"{value:.{so}f}" != f"{limit:.{so}f}"),
        MOST_DIGITS,
    )
    return _told(value, digits, unit), _told(limit, digits, unit)


def _told(value: float, digits: int, unit: str) -> str:
    number = f"{value:,.{digits}f}"
    number = number.rstrip("0").rstrip(".") if "." in number else number
    return f"{number} {unit}"


def signed(value: float) -> str:
    """A whole number with its sign: “+15”, “−6”, “0”."""
    whole = round(value)
    return "0" if whole == 0 else f"{'+' if whole > 0 else '−'}{abs(whole)}"


def measure(value: float, unit: str, digits: int = 0) -> str:
    """A figure whose unit people choose, marked so that whoever shows the sentence can say it in
    theirs: “{−9 °C}”.

    Never “-0”; trailing zeros are left out.

    Parameters
    ----------
    unit : str
        In SI, as figures are kept.
    digits : int
        At most so many after the point.
    """
    number = f"{abs(value):.{digits}f}"
    number = number.rstrip("0").rstrip(".") if "." in number else number
    return f"{{{'−' if value < 0 and number.strip('0.') else ''}{number} {unit}}}"


def celsius(degrees_c: float) -> str:
    """A temperature in whole degrees, in the reader's unit: “{−9 °C}”."""
    return measure(degrees_c, "°C")


def kelvin(degrees_k: float) -> str:
    """A difference of temperatures in whole degrees, in the reader's unit: “{43 K}”."""
    return measure(degrees_k, "K")


def metres(length_m: float) -> str:
    """A length, in the reader's unit: “{2.5 m}”."""
    return measure(length_m, "m", 0 if length_m >= 20 else 1)


def kilometres(distance_km: float) -> str:
    """A distance, in the reader's unit: “{120 km}”."""
    return measure(distance_km, "km")


def kilos(weight_kg: float) -> str:
    """A weight, in the reader's unit: “{31 kg}”."""
    return measure(weight_kg, "kg", 0 if weight_kg >= 20 else 1)


def wire(area_mm2: float) -> str:
    """A conductor, in the reader's way: “{4 mm²}”, which is a gauge to others."""
    return measure(area_mm2, "mm²", 2)


MEASURE = re.compile(r"\{(−?[\d.]+) (°C|K|m|km|kg|mm²)\}")
"""A marked figure in a sentence: its number, and the unit it is kept in."""


def plain(text: str) -> str:
    """A sentence with its marked figures in metric units, for those who have chosen none."""
    return MEASURE.sub(r"\1 \2", text)


def percent(share: float) -> str:
    """A share as people read it: never rounded up to all of it, nor down to nothing."""
    value = 100.0 * share
    if 99.0 < value < 100.0:
        return f"{min(value, 99.9):.1f} %"
    return "under 1 %" if 0.0 < value < 1.0 else f"{value:.0f} %"
