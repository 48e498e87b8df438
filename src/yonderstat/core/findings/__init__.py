"""Checked statements about a design: Stop, Fix, Mind or Good, each with its reason and its
remedy."""

from collections.abc import Iterable, Sequence
from dataclasses import replace
from importlib import import_module
from typing import cast

from ..changes import Change, changed_for
from ..design import Design
from ..explained import explained, explained_change
from ..finding import SEVERITY_ORDER, Finding
from ..next_action import NextAction
from ..report import Report
from ..station import StationModel
from ..steps import STEPS
from .bus.rows import with_run_rows as _with_run_rows
from .cautions import cautions_of
from .ladder import steps_of as _steps_of
from .register import GRAVE_RULES, RULES, Rule
from .remedies import Tried
from .remedies import measure_of as _measure_of

__all__ = ["cautions_of", "findings_of", "first_findings_of", "next_actions_of"]

MUTABLE = frozenset({"fix", "mind"})
"""What somebody may live with, having read it; a Stop stays said."""

for _step in STEPS:
    # Importing a step's rules registers them.
    import_module(f"{__name__}.{_step.id}")


def _grave(found: Iterable[Finding]) -> set[str]:
    """Ids of what is a Stop or a Fix."""
    return {_known_as(finding) for finding in found if finding.severity in {"stop", "fix"}}


BUS_RULES = [check for check in GRAVE_RULES if check.__module__.startswith(f"{__name__}.bus.")]


def _only_the_bus(was: Design, design: Design) -> bool:
    """Whether a change touches nothing but runs of wire."""
    return all(
        getattr(design, name) is getattr(was, name) for name in Design.model_fields if name != "bus"
    )


def _found(station: StationModel, report: Report, rules: Sequence[Rule] = RULES) -> list[Finding]:
    return [finding for check in rules for finding in check(station, report)]


def _obedient(station: StationModel, report: Report, found: list[Finding]) -> list[Finding]:
    """The findings with the remedies that obey our own rules and do what they are for.

    Each is pressed in a trial run, weather years and all: none may earn a Stop or a Fix that was
    not there, and it must help by more than its figure is rounded to, or make its finding go or
    grow milder.
    """
    designs = {id(change): design for change, design in station.trials}
    if not designs:
        return found
    before = _grave(found)

    def obedient(finding: Finding, change: Change) -> Change | None:
        design = designs.get(id(change))
        if design is None:
            return change
        pressed = _pressed(station, report, change, station.tried(design), before)
        if pressed is not None and pressed[0] is not change:
            pressed = _measured_anew(station, change, *pressed)
        if pressed is None or not _is_worth_it(finding, *pressed, before):
            return None
        return pressed[0]

    kept = []
    for finding in found:
        remedies = tuple(
            after for change in finding.remedies if (after := obedient(finding, change)) is not None
        )
        kept.append(
            replace(finding, remedies=remedies) if remedies != finding.remedies else finding
        )
    return kept


def _pressed(
    station: StationModel, report: Report, change: Change, changed: StationModel, before: set[str]
) -> tuple[Change, StationModel] | None:
    """A change as it passes the rules of wire and parts, with the fuses it needs besides; None
    where it does not.

    Most that fail do so by rules that need no weather, and those take a fraction of the time.
    """
    if _only_the_bus(station.design, changed.design):
        new = any(_is_new(item, before) for item in _found(changed, report, BUS_RULES))
        return None if new else (change, changed)
    then = explained_change(changed, station.design, report)
    grave = [item for item in _found(changed, then, GRAVE_RULES) if _is_new(item, before)]
    return _with_its_fuses(change, changed, then, grave)


def _is_worth_it(finding: Finding, change: Change, changed: StationModel, before: set[str]) -> bool:
    """Whether a change that passes the rules of wire and parts passes those of the weather years
    too, and helps."""
    looked_at = changed.looked_at()
    found = _found(looked_at, explained(looked_at))
    # The hours of its years weigh megabytes, and nobody asks for them again.
    changed.memo.clear()
    if any(_is_new(item, before) for item in found):
        return False
    if change.gain is not None and change.gain.helps:
        return True
    left = next((item for item in found if item.id == finding.id), None)
    return left is None or SEVERITY_ORDER.index(left.severity) > SEVERITY_ORDER.index(
        finding.severity
    )


SAME_TROUBLE = {"rehearse.days": "rehearse.dawn"}
"""A station that goes dark tells it in one of several findings; another one of them is nothing
new."""
MILDER = {"rehearse.wear": "rehearse.dawn"}
"""Where it went dark before, it is better off when it stays up and only wears its battery."""


def _known_as(finding: Finding) -> str:
    return SAME_TROUBLE.get(finding.id, finding.id)


def _is_new(finding: Finding, before: set[str]) -> bool:
    if finding.severity not in {"stop", "fix"} or _known_as(finding) in before:
        return False
    return MILDER.get(finding.id) not in before


def _with_its_fuses(
    change: Change, changed: StationModel, report: Report, new: list[Finding]
) -> tuple[Change, StationModel] | None:
    """A change that more current or more bank asks other fuses or wires of, together with them;
    None where it raises anything else, or where those would raise something of their own."""
    if not new:
        return change, changed
    also = [
        finding.remedies[0]
        for finding in new
        if finding.remedies and _types_runs(finding.remedies[0])
    ]
    if len(also) < len(new):
        return None
    design = changed.design
    for remedy in also:
        design = _with_run_rows(design, remedy.patch)
    mended = changed.changed(design)
    if _grave(_found(mended, report, BUS_RULES)) & {finding.id for finding in new}:
        return None
    label = f"{change.label}, with {' and '.join(_within(remedy.label) for remedy in also)}"
    patch = (*change.patch, *(item for remedy in also for item in remedy.patch))
    return replace(change, label=label, patch=patch), mended


def _measured_anew(
    station: StationModel, change: Change, fused: Change, mended: StationModel
) -> tuple[Change, StationModel]:
    """A change with its fuses promises what it does with them: other wire loses other volts."""
    measure = cast(Tried | None, station.memo.get(_measure_of(change)))
    if measure is None:
        return fused, mended
    return changed_for(fused.label, fused.patch, measure(mended.design)), mended


def _types_runs(change: Change) -> bool:
    """Whether a change puts in or replaces rows of runs, and nothing else."""
    return all(item.op != "remove" and item.path.startswith("/bus/runs/") for item in change.patch)


def _within(label: str) -> str:
    """A label in the middle of a sentence."""
    return label[0].lower() + label[1:]


def next_actions_of(
    station: StationModel, report: Report, findings: Sequence[Finding]
) -> tuple[NextAction, ...]:
    """What to do next about a verdict that is not good, each step pressed in a trial run by all the
    rules.

    Parameters
    ----------
    station : StationModel
        Of the design.
    report : Report
        On it.
    findings : sequence of Finding
        What the rules find on it as it is.

    Returns
    -------
    tuple of NextAction
        Up to three, the free ones first.
    """
    before = _grave(findings)

    def obeys(change: Change, changed: StationModel) -> tuple[Change, Design] | None:
        pressed = _pressed(station, report, change, changed, before)
        if pressed is None:
            return None
        looked_at = pressed[1].looked_at()
        if any(_is_new(item, before) for item in _found(looked_at, explained(looked_at))):
            return None
        return pressed[0], pressed[1].design

    return _steps_of(station, report, obeys)


def findings_of(station: StationModel, report: Report) -> tuple[Finding, ...]:
    """Everything the rules find, the worst first, with the remedies that were tried."""
    return _in_order(station, _obedient(station, report, _found(station, report)))


def first_findings_of(station: StationModel, report: Report) -> tuple[Finding, ...]:
    """The same without remedies: to try those takes longer than all else."""
    found = _found(station.looked_at(), report)
    return _in_order(
        station,
        [replace(finding, remedies=()) if finding.remedies else finding for finding in found],
    )


def _in_order(station: StationModel, findings: Sequence[Finding]) -> tuple[Finding, ...]:
    reasons = {item.finding: item.reason for item in station.design.muted}
    found = [
        replace(finding, muted=reasons[finding.id])
        if finding.id in reasons and finding.severity in MUTABLE
        else finding
        for finding in findings
    ]
    return tuple(
        sorted(
            found, key=lambda finding: (finding.muted != "", SEVERITY_ORDER.index(finding.severity))
        )
    )
