"""How long service failed, and whether mains are there: asked of the station, not of its
purpose."""

import json
from typing import Any

import numpy as np
import pytest

from yonderstat.core import evaluate, propose
from yonderstat.core.design import Design, Place, design_from_document, document_of
from yonderstat.core.draw import has_mains, has_mains_when_judged, pointless
from yonderstat.core.log import due_of
from yonderstat.core.rehearse import hourly_station
from yonderstat.core.rehearse.tally import tally_of
from yonderstat.core.rehearse.years import dark_of, spells_of_failure
from yonderstat.core.station import StationModel
from yonderstat.demo.harrier_ridge import HARRIER_AS_BUILT
from yonderstat.demo.quay_street import QUAY_STREET

NORTH = Place(latitude_deg=57.0, longitude_deg=-4.0)


def test_a_spell_goes_on_over_hours_in_which_nobody_wants_power() -> None:
    """“3 hours” were said of 25 days in a row without a vital hour served."""
    hour = np.arange(60 * 24)
    wanted = hour % 24 >= 21
    dark = wanted & (hour // 24 >= 10) & (hour // 24 < 35)
    starts, lengths = spells_of_failure(dark, wanted)
    assert starts.tolist() == [10 * 24 + 21]
    assert lengths.tolist() == [24 * 24 + 3]
    # Service in one wanted hour ends it.
    dark[20 * 24 + 22] = False
    assert len(spells_of_failure(dark, wanted)[0]) == 2
    assert spells_of_failure(np.zeros(5, bool), np.ones(5, bool))[0].size == 0


def evening_station(hours: float) -> Design:
    """A vital net an hour or more in the evening, with far too little panel."""
    document: dict[str, Any] = json.loads(json.dumps(HARRIER_AS_BUILT))
    document["draw"]["loads"] = [
        {
            **document["draw"]["loads"][0],
            "hours_per_day": {"value": hours, "basis": "stated"},
            "tier": "vital",
        }
    ]
    document["array"]["strings"] = document["array"]["strings"][:1]
    document["array"]["strings"][0]["module"]["watts"] = {"value": 5.0, "basis": "label"}
    document["array"]["strings"][0]["parallel"] = 1
    return design_from_document(document)


def test_the_longest_spell_of_a_run_is_that_of_its_failed_days() -> None:
    station = hourly_station(StationModel(evening_station(6.0)), 4)
    assert station is not None
    tally = tally_of(station)
    found = dark_of(tally)
    assert found.longest is not None
    wanted = np.tile(station.hours.load_a[:, 0] > 0, 4)
    # Worked out again, hour by hour, without the arrays' help.
    longest = run = 0
    last_dark = first_dark = None
    for at, (want, dark) in enumerate(zip(wanted, tally.dark.ravel(), strict=True)):
        if dark:
            first_dark = at if first_dark is None else first_dark
            last_dark = at
            run = last_dark - first_dark + 1
            longest = max(longest, run)
        elif want:
            first_dark = None
    assert found.longest.hours == longest > 48


def test_before_dawn_is_said_only_of_hours_before_dawn() -> None:
    station = hourly_station(StationModel(evening_station(6.0)), 4)
    assert station is not None
    tally = tally_of(station)
    found = dark_of(tally)
    hours = np.flatnonzero(tally.dark.ravel()) % 24
    assert found.before_dawn <= float((hours < 12).mean()) + 1e-9
    if found.before_dawn <= 0.5:
        assert found.kind != "before_dawn"


def words_of(design: Design) -> str:
    report = evaluate(design)
    said = [report.verdict.headline, report.verdict.rest]
    for finding in report.findings:
        said += [finding.sentence, finding.why, *(remedy.label for remedy in finding.remedies)]
    return "\n".join(said)


@pytest.mark.parametrize("purpose", ["continuous", "mobile", "deployment", "everyday"])
@pytest.mark.parametrize("latitude_deg", [57.0, -44.0, 5.0])
def test_no_sentence_names_mains_the_station_has_not(purpose: str, latitude_deg: float) -> None:
    place = Place(latitude_deg=latitude_deg, longitude_deg=10.0)
    design = propose("unattended", purpose, place)  # type: ignore[arg-type]
    document = document_of(design)
    document["array"]["chargers"] = []
    document["draw"]["loads"][0]["needs"] = []
    design = design_from_document(document)
    for words in ("mains take over", "mains make up", "Pull the plug"):
        assert words not in words_of(design)
    if purpose == "continuous":
        assert not has_mains(design)
        assert not has_mains_when_judged(design)


def test_upkeep_pulls_no_plug_that_is_not_there() -> None:
    from datetime import date

    ridge, quay = design_from_document(HARRIER_AS_BUILT), design_from_document(QUAY_STREET)
    assert "outage" not in {item.task.id for item in due_of(ridge, {}, date(2026, 11, 30))}
    assert "outage" in {item.task.id for item in due_of(quay, {}, date(2026, 11, 30))}


def test_a_load_that_needs_mains_sheds_itself_where_there_are_none() -> None:
    document: dict[str, Any] = json.loads(json.dumps(HARRIER_AS_BUILT))
    document["draw"]["loads"][-1] |= {"needs": ["mains"], "tier": "comfort"}
    design = design_from_document(document)
    assert design.draw.loads[-1].id in pointless(design)
    plug = {"id": "c", "name": "Charger", "kind": "mains", "amps": {"value": 10.0}}
    document["array"]["chargers"] = [plug]
    assert design.draw.loads[-1].id not in pointless(design_from_document(document))


def test_a_mains_charger_behind_the_bank_takes_over() -> None:
    document = document_of(propose("unattended", "continuous", NORTH))
    document["array"]["chargers"] = [
        {"id": "c", "name": "Charger", "kind": "mains", "amps": {"value": 10.0}}
    ]
    assert has_mains_when_judged(design_from_document(document))
