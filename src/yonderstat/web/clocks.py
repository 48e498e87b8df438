"""The clock a site goes by."""

from datetime import timedelta, tzinfo

from yonderstat.jobs import zone_of_design
from yonderstat.records import StoredDesign

AHEAD = timedelta(days=1)
"""Clocks differ; what was read or done further ahead than this is a mistake."""


def zone_of(stored: StoredDesign) -> tzinfo:
    """The time zone of a design's place; UTC where it has none."""
    return zone_of_design(stored.design)
