"""Longer, thinner, older, colder, shadier, fewer, hungrier: no such change makes anything
better."""

import json
from collections.abc import Callable, Iterator
from typing import Any

from yonderstat.core import Report, first_look
from yonderstat.core.design import Design, InvalidDesignError, design_from_document, document_of
from yonderstat.core.station import StationModel

Json = dict[str, Any]
RANK = {"good": 2, "edge": 1, "short": 0}
SHARE, DARK_H, DAYS, VOLTS = 0.004, 3.0, 1e-6, 1e-4
"""What is no more than an hour at a threshold that falls on its other side."""
MOSTLY_UP, OFTEN_DARK_H = 0.85, 876.0
BACK_SHARE = 0.04
"""A bank that was cut off comes back at a share of what may be used: a smaller one is there a
little sooner."""


def _strings(document: Json) -> list[Json]:
    found: list[Json] = document["array"]["strings"]
    return found


def longer_lead(document: Json) -> None:
    """Twice as far from the panels, and 5 m."""
    for string in _strings(document):
        known = (string.get("cable_m") or {"value": 5.0})["value"]
        string["cable_m"] = {"value": 2.0 * known + 5.0, "basis": "measured"}


def thinner_lead(document: Json) -> None:
    """Half the copper from the panels, where somebody has said how much."""
    for string in _strings(document):
        if string.get("cable_mm2"):
            string["cable_mm2"] = string["cable_mm2"] / 2.0


def shadier(document: Json) -> None:
    """A fifth of the light lost to things of its own."""
    for string in _strings(document):
        share = string["shaded_share"]["value"]
        string["shaded_share"] = {"value": share + 0.2 * (1.0 - share), "basis": "stated"}


def older_panels(document: Json) -> None:
    """A fifth of the panels' current gone with age."""
    for string in _strings(document):
        string["module"]["age_share"] = {"value": 0.5, "basis": "stated"}


def fewer_panels(document: Json) -> None:
    """Half the panels."""
    for string in _strings(document):
        string["parallel"] = max(1, string["parallel"] // 2)


def older_bank(document: Json) -> None:
    """A fifth less in the bank."""
    if bank := document["store"].get("bank"):
        bank["health"] = {"value": 0.8 * bank["health"]["value"], "basis": "stated"}


def colder_bank(document: Json) -> None:
    """The bank outside."""
    if (bank := document["store"].get("bank")) and bank["housing"] == "indoors":
        bank["housing"] = "outdoors"


def hungrier(document: Json) -> None:
    """Half an ampere more, whenever what is vital is on."""
    for load in document["draw"]["loads"]:
        if load["tier"] in {"vital", None} and load["rail"] == "bus" and not load["receive_w"]:
            load["receive_a"] = {"value": load["receive_a"]["value"] + 0.5, "basis": "stated"}
            if load["transmit_a"]:
                load["transmit_a"] = {"value": load["transmit_a"]["value"] + 0.5, "basis": "stated"}


def longer_runs(document: Json) -> None:
    """Runs of wire twice as long as somebody has measured."""
    for run in document["bus"]["runs"]:
        if run.get("length_m") and run.get("mm2"):
            run["length_m"] = {
                "value": min(2.0 * run["length_m"]["value"], 100.0),
                "basis": "measured",
            }


def thinner_runs(document: Json) -> None:
    """Runs of half the copper."""
    for run in document["bus"]["runs"]:
        if run.get("mm2"):
            run["mm2"] = {"value": run["mm2"]["value"] / 2.0, "basis": "label"}


WAYS: tuple[Callable[[Json], None], ...] = (
    longer_lead, thinner_lead, shadier, older_panels, fewer_panels, older_bank, colder_bank, hungrier, longer_runs,
    thinner_runs,
)  # fmt: skip


def _figures(design: Design, report: Report) -> Json:
    station, years = StationModel(design), report.rehearsed
    month = station.hard_month
    # What the sun carries of the use may rise where less is used, as it is dark for longer.
    by_service = years is not None and station.purpose.judged_by != "sun_share"
    return {
        "month": month,
        "state": RANK.get(report.verdict.state, -1),
        "share": report.number(years.share) if years and by_service else None,
        "dark": report.number(years.dark_h) if years else None,
        "days": station.days_without_sun(month) if station.bank else None,
        "volts": {
            item.item.load.id: item.keyed_v[2]
            for item in station.bus.loads
            if item.item.load.transmit_a
        },
    }


def _is_warmer(design: Design, changed: Design) -> bool:
    """Whether outside is warmer than a room in some month: no colder bank then."""
    one, two = StationModel(design).bank, StationModel(changed).bank
    return one is not None and two is not None and bool((two.month_c > one.month_c).any())


def troubles_of_worse(design: Design, report: Report, way: Callable[[Json], None]) -> Iterator[str]:
    """What gets better when something gets worse."""
    document = json.loads(json.dumps(document_of(design)))
    way(document)
    try:
        changed = design_from_document(document)
    except InvalidDesignError:
        return
    if changed == design or (way is colder_bank and _is_warmer(design, changed)):
        return
    before, after = _figures(design, report), _figures(changed, first_look(changed).report)
    name = way.__name__
    if before["share"] is not None and after["share"] is not None:
        # One that fails often is cut off and comes back: less of a bank then fails oftener and
        # shorter.
        if before["share"] > MOSTLY_UP and after["share"] > before["share"] + SHARE:
            yield f"{name}: share {before['share']:.4f} → {after['share']:.4f}"
        if after["state"] > before["state"]:
            yield f"{name}: {before['state']} → {after['state']}"
    # Where less is served in all, the hours that lack some of it may be fewer: it then fails for
    # longer at a time.
    both = None not in (before["dark"], after["dark"], before["share"], after["share"])
    both = both and after["share"] > before["share"] - SHARE
    # One dark for a tenth of the year lives by when it comes back, and a smaller bank is there
    # sooner.
    both = both and before["dark"] < OFTEN_DARK_H
    if both and after["dark"] < (1.0 - BACK_SHARE) * before["dark"] - DARK_H:
        yield f"{name}: dark {before['dark']:.1f} h → {after['dark']:.1f} h"
    known = None not in (before["days"], after["days"]) and before["month"] == after["month"]
    if known and after["days"] > before["days"] + DAYS:
        yield f"{name}: lasts {before['days']:.3f} → {after['days']:.3f} days"
    if way in {longer_runs, thinner_runs}:
        for load, volts in after["volts"].items():
            if volts > before["volts"].get(load, volts) + VOLTS:
                yield f"{name}: {load} {before['volts'][load]:.4f} → {volts:.4f} V on the key"
