"""Checked statements about a design: Stop, Fix, Mind or Good, each with its reason and its remedy."""

from importlib import import_module

from ..finding import SEVERITY_ORDER, Finding
from ..report import Report
from ..station import StationModel
from ..steps import STEPS
from .cautions import cautions_of
from .register import RULES

__all__ = ["cautions_of", "findings_of"]

for _step in STEPS:
    # Importing a step's rules registers them.
    import_module(f"{__name__}.{_step.id}")


def findings_of(station: StationModel, report: Report) -> tuple[Finding, ...]:
    """Everything the rules find, the worst first."""
    found = [finding for check in RULES for finding in check(station, report)]
    return tuple(sorted(found, key=lambda finding: SEVERITY_ORDER.index(finding.severity)))
