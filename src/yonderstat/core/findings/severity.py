"""How grave a finding is: by what comes of it, never by how clumsy it looks.

Stop: someone is hurt, something breaks, or the purpose fails. Fix: it will fall short. Mind: know
it.
"""

from ..finding import Severity
from ..report import Report
from ..station import StationModel


def holds(report: Report) -> bool:
    """Whether the weather years carry the station as it stands, every source counted."""
    return report.rehearsed is not None and report.rehearsed.state == "good"


def may_still_be_rehearsed(station: StationModel, report: Report) -> bool:
    """Whether it is a change looked at by the rules of parts and wire alone, before its weather
    years are run."""
    has_years = station.sky is not None or not station.design.array.strings
    return station.trial and report.rehearsed is None and has_years


def of_waste(station: StationModel, report: Report) -> Severity:
    """What only wastes is to be known where the station holds all the same, and mended where it
    falls short."""
    return "mind" if holds(report) or may_still_be_rehearsed(station, report) else "fix"
