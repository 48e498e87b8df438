"""How grave a finding is: by what comes of it, never by how clumsy it looks.

Stop: someone is hurt, something breaks, or the purpose fails. Fix: it will fall short. Mind: know it.
"""

from ..finding import Severity
from ..report import Report
from ..station import StationModel


def holds(report: Report) -> bool:
    """Whether the weather years carry the station as it stands, every source counted."""
    return report.rehearsed is not None and report.rehearsed.state == "good"


def of_waste(station: StationModel, report: Report) -> Severity:
    """What only wastes is to be known where the station holds all the same, and mended where it falls short.

    A change that is tried has no weather years to tell: waste then is no reason to drop it.
    """
    return "mind" if station.trial or holds(report) else "fix"
