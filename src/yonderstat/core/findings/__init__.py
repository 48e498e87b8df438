"""Checked statements about a design: Stop, Fix, Mind or Good, each with its reason and its remedy."""

from collections.abc import Iterable, Sequence
from dataclasses import replace
from importlib import import_module

from ..changes import Change
from ..design import Design
from ..explained import explained_change
from ..finding import SEVERITY_ORDER, Finding
from ..report import Report
from ..station import StationModel
from ..steps import STEPS
from .cautions import cautions_of
from .register import RULES, Rule

__all__ = ["cautions_of", "findings_of"]

MUTABLE = frozenset({"fix", "mind"})
"""What somebody may live with, having read it; a Stop stays said."""

for _step in STEPS:
    # Importing a step's rules registers them.
    import_module(f"{__name__}.{_step.id}")


def _grave(found: Iterable[Finding]) -> set[str]:
    """Ids of what is a Stop or a Fix."""
    return {finding.id for finding in found if finding.severity in {"stop", "fix"}}


BUS_RULES = [check for check in RULES if check.__module__.startswith(f"{__name__}.bus.")]


def _only_the_bus(was: Design, design: Design) -> bool:
    """Whether a change touches nothing but runs of wire."""
    return all(getattr(design, name) is getattr(was, name) for name in Design.model_fields if name != "bus")


def _found(station: StationModel, report: Report, rules: Sequence[Rule] = RULES) -> list[Finding]:
    return [finding for check in rules for finding in check(station, report)]


def _obedient(station: StationModel, report: Report, found: list[Finding]) -> list[Finding]:
    """The findings with the remedies that obey our own rules: none may earn a Stop or a Fix that was not there.

    A change is judged by all rules but those of the weather years, which its gain speaks of.
    """
    designs = {id(change): design for change, design in station.trials}
    if not designs:
        return found
    base, before = StationModel(station.design, trial=True).adopting(station), _grave(found)

    def obeys(change: Change) -> bool:
        design = designs.get(id(change))
        if design is None:
            return True
        changed = base.changed(design)
        if _only_the_bus(station.design, design):
            # What hangs where on which wire moves nothing but the Bus's own findings.
            return _grave(_found(changed, report, BUS_RULES)) <= before
        return _grave(_found(changed, explained_change(changed, station.design, report))) <= before

    kept = []
    for finding in found:
        remedies = tuple(change for change in finding.remedies if obeys(change))
        kept.append(replace(finding, remedies=remedies) if len(remedies) < len(finding.remedies) else finding)
    return kept


def findings_of(station: StationModel, report: Report) -> tuple[Finding, ...]:
    """Everything the rules find, the worst first."""
    reasons = {item.finding: item.reason for item in station.design.muted}
    found = [
        replace(finding, muted=reasons[finding.id])
        if finding.id in reasons and finding.severity in MUTABLE
        else finding
        for finding in _obedient(station, report, _found(station, report))
    ]
    return tuple(sorted(found, key=lambda finding: (finding.muted != "", SEVERITY_ORDER.index(finding.severity))))
