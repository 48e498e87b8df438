"""Checked statements about a design: Stop, Fix, Mind or Good, each with its reason and its remedy."""

from ..finding import SEVERITY_ORDER, Finding
from ..report import Report
from ..station import StationModel
from . import (
    array_rules,
    battery_rules,
    draw_rules,
    general_rules,
    layer_rules,
    rehearse_rules,
    source_rules,
    store_rules,
    string_rules,
    sun_rules,
    weather_rules,
)
from .cautions import cautions_of
from .register import RULES

__all__ = ["cautions_of", "findings_of"]

_REGISTERED = (
    array_rules,
    battery_rules,
    draw_rules,
    general_rules,
    layer_rules,
    rehearse_rules,
    source_rules,
    store_rules,
    string_rules,
    sun_rules,
    weather_rules,
)
"""Importing a rule module registers its rules."""


def findings_of(station: StationModel, report: Report) -> tuple[Finding, ...]:
    """Everything the rules find, the worst first."""
    found = [finding for check in RULES for finding in check(station, report)]
    return tuple(sorted(found, key=lambda finding: SEVERITY_ORDER.index(finding.severity)))
