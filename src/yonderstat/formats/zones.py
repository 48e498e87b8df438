"""The time zone of a place, from the packaged shapes."""

from functools import cache
from typing import Any


@cache
def _finder() -> Any:
    # Its shapes are large: only whoever asks for a zone opens them.
    from timezonefinder import TimezoneFinder

    return TimezoneFinder()


def time_zone_at(latitude_deg: float, longitude_deg: float) -> str | None:
    """The IANA name of a place's time zone, such as Pacific/Auckland; None at sea, where ships keep
    their own."""
    found = _finder().timezone_at(lat=latitude_deg, lng=min(max(longitude_deg, -180.0), 180.0))
    return None if found is None or str(found).startswith("Etc/") else str(found)
