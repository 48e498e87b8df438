"""The clock a site goes by."""

from datetime import UTC, timedelta, tzinfo
from zoneinfo import ZoneInfo

from yonderstat.records import StoredDesign

AHEAD = timedelta(days=1)
"""Clocks differ; what was read or done further ahead than this is a mistake."""


def zone_of(stored: StoredDesign) -> tzinfo:
    """The time zone of a design's place; UTC where it has none."""
    place = stored.design.place
    return ZoneInfo(place.time_zone) if place is not None and place.time_zone else UTC
