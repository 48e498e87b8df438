"""Every remedy of a report pressed, as a person would press it, and what came of it."""

from collections.abc import Iterator
from typing import Any

import jsonpatch

from yonderstat.core import Report, evaluate
from yonderstat.core.calendar import MONTH_NAMES
from yonderstat.core.changes import Change, Gain
from yonderstat.core.design import Design, InvalidDesignError, design_from_document, document_of
from yonderstat.core.finding import SEVERITY_ORDER, Finding
from yonderstat.core.station import StationModel

HALF_SHOWN = {
    "days_without_sun": 0.05, "covered": 0.005, "carried": 0.005, "set_volts": 0.05, "dark_hours": 0.5,
    "dark_hours_a_year": 0.5,
}  # fmt: skip
"""Half of the last digit that is shown of a gain."""
ASKS_FOR_MORE = ("draw.tempo",)
"""Sizing on a harder tempo is no remedy: it asks more of the station on purpose."""
MOST_DAYS = 3650.0
WENT_DARK = {"rehearse.days": "rehearse.dawn"}
"""One trouble told in one of two findings, by its kind."""


def pressed(design: Design, change: Change) -> Design:
    """The design after a press: the patch on the document, read as what comes from outside is."""
    operations = [
        {"op": item.op, "path": item.path} | ({} if item.op == "remove" else {"value": item.value})
        for item in change.patch
    ]
    document: Any = jsonpatch.apply_patch(document_of(design), operations)
    return design_from_document(document)


def grave(report: Report) -> dict[str, str]:
    """What is a Stop or a Fix, by id."""
    return {
        WENT_DARK.get(item.id, item.id): item.sentence
        for item in report.findings
        if item.severity in {"stop", "fix"}
    }


def came(
    before: Design, after: Design, report: Report, gain: Gain, finding: Finding
) -> float | None:
    """The figure a remedy promised, read off the station that was pressed."""
    station = StationModel(after)
    month = StationModel(before).hard_month
    if gain.of == "days_without_sun":
        return station.days_without_sun(month)
    if gain.of == "covered":
        return station.covered(MONTH_NAMES.index(gain.name) + 1)
    if gain.of == "dark_hours_a_year":
        return report.number(report.rehearsed.dark_h) if report.rehearsed else None
    if gain.of == "carried":
        return report.number(report.rehearsed.share) if report.rehearsed else None
    if gain.of == "set_volts":
        found = station.bus.of_load(finding.id.removeprefix("bus.under_volts."))
        return None if found is None else found.keyed_v[1 if "half charged" in gain.name else 2]
    return None


def _is_milder(finding: Finding, then: Report) -> bool:
    left = next((item for item in then.findings if item.id == finding.id), None)
    return left is None or SEVERITY_ORDER.index(left.severity) > SEVERITY_ORDER.index(
        finding.severity
    )


def _promise(gain: Gain, got: float | None) -> str:
    if gain.after is None or got is None:
        return "" if gain.after == got else f"promised {gain.after}, and {got} came"
    half = HALF_SHOWN[gain.of]
    if abs(min(gain.after, MOST_DAYS) - min(got, MOST_DAYS)) > half + 1e-6 * abs(got):
        return f"promised {gain.after:.3f}, and {got:.3f} came"
    return ""


def _help(gain: Gain) -> str:
    """Whether it helps by more than it rounds to; None before is a figure nobody knows, or a bank
    without end."""
    if gain.before is None or gain.after is None:
        return "" if gain.helps else f"helps nothing: {gain}"
    better = (
        gain.after - gain.before
        if gain.of not in {"dark_hours", "dark_hours_a_year"}
        else gain.before - gain.after
    )
    return (
        ""
        if better > HALF_SHOWN[gain.of]
        else f"helps by less than it rounds to: {gain.before:.3f} → {gain.after:.3f}"
    )


def troubles_of_presses(design: Design, report: Report) -> Iterator[str]:
    """What is wrong with the remedies of a report."""
    before = grave(report)
    for finding in report.findings:
        for change in finding.remedies:
            at = f"{finding.id} [{change.label}]"
            try:
                after = pressed(design, change)
            except InvalidDesignError as error:
                yield f"{at} cannot be pressed: {error}"
                continue
            if after == design:
                yield f"{at} changes nothing"
                continue
            try:
                once = any(item.op == "remove" for item in change.patch)
                if not once and pressed(after, change) != after:
                    yield f"{at} pressed twice does more"
            except (InvalidDesignError, jsonpatch.JsonPatchException):
                # What it adds is there once: the second press is refused. A row is taken out once:
                # so is that.
                pass
            then = evaluate(after)
            if not finding.id.startswith(ASKS_FOR_MORE):
                new = {key: said for key, said in grave(then).items() if key not in before}
                if "rehearse.dawn" in before:
                    # It went dark; that it only wears its battery now is no new trouble.
                    new.pop("rehearse.wear", None)
                if new:
                    yield f"{at} earns {new}"
            if change.gain is None:
                if not _is_milder(finding, then):
                    yield f"{at} promises “{change.effect}”, and the finding stays"
                continue
            trouble = _promise(change.gain, came(design, after, then, change.gain, finding))
            if trouble:
                yield f"{at}: {trouble}"
            if finding.id.startswith(ASKS_FOR_MORE) or _is_milder(finding, then):
                continue
            if trouble := _help(change.gain):
                yield f"{at}: {trouble}"
