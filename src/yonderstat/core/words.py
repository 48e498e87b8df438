"""Figures in words, the same wherever they are told."""

HOURS_UNTIL_D = 3
"""Below so many days a stretch of time is told in hours."""


def days_in_words(days: float) -> str:
    """A stretch of time as people say it: “41 hours”, “5.2 days”."""
    if days < HOURS_UNTIL_D:
        hours = days * 24
        return f"{hours:.0f} hours" if hours >= 1.5 else f"{hours * 60:.0f} minutes"
    return f"{days:.1f} days" if days < 20 else f"{days:.0f} days"


def counted(value: float, what: str, digits: int = 0) -> str:
    """So many of something: “1 day”, “3 days”, “2.5 days”; trailing zeros are left out."""
    number = f"{value:.{digits}f}"
    number = number.rstrip("0").rstrip(".") if "." in number else number
    return f"{number} {what}" if number == "1" else f"{number} {what}s"


def hours_in_words(hours: float) -> str:
    """Whole hours: “1 hour”, “48 hours”; what rounds to none but is some is “less than an hour”."""
    whole = round(hours)
    if whole == 0 and hours > 0:
        return "less than an hour"
    return "1 hour" if whole == 1 else f"{whole} hours"


def times_in_words(times: float) -> str:
    """How often: “less than once”, “once”, “12 times”."""
    whole = round(times)
    if whole == 0:
        return "less than once" if times > 0 else "never"
    return "once" if whole == 1 else f"{whole} times"


def signed(value: float) -> str:
    """A whole number with its sign: “+15”, “−6”, “0”."""
    whole = round(value)
    return "0" if whole == 0 else f"{'+' if whole > 0 else '−'}{abs(whole)}"


def celsius(degrees_c: float) -> str:
    """A temperature in whole degrees: “21 °C”, “−9 °C”, never “-0 °C”."""
    degrees = round(degrees_c)
    return f"{'−' if degrees < 0 else ''}{abs(degrees)} °C"


def percent(share: float) -> str:
    """A share as people read it: never rounded up to all of it, nor down to nothing."""
    value = 100.0 * share
    if 99.0 < value < 100.0:
        return f"{min(value, 99.9):.1f} %"
    return "under 1 %" if 0.0 < value < 1.0 else f"{value:.0f} %"
