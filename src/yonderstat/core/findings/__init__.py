"""Checked statements about a design: Stop, Fix, Mind or Good, each with its reason and its remedy."""

from ..design import Design
from ..verdict import Figures
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
from .cautions import Caution, cautions_of
from .model import RULES, SEVERITY_ORDER, Finding, Severity, Step

__all__ = ["Caution", "Finding", "Severity", "Step", "cautions_of", "findings_of"]

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


def findings_of(design: Design, figures: Figures) -> tuple[Finding, ...]:
    """Everything the rules find, the worst first."""
    found = [finding for check in RULES for finding in check(design, figures)]
    return tuple(sorted(found, key=lambda finding: SEVERITY_ORDER.index(finding.severity)))
