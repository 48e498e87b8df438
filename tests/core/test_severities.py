"""A severity is the consequence: what only wastes is no Fix where the station holds, and never one
more than it is."""

import pytest

from tests.core.judged import PLACED, find, ids
from tests.samples import quay_street, with_bank
from yonderstat.core import evaluate, propose
from yonderstat.core.chemistries import kind_of
from yonderstat.core.design import (
    Bank,
    Charger,
    Design,
    KnownAmpHours,
    KnownAmps,
    KnownHours,
    Layer,
    Place,
    with_array,
    with_store,
    with_string,
)
from yonderstat.core.words import counted

AMPLE = with_bank(with_string(PLACED, 0, parallel=12), unit_ah=KnownAmpHours(value=2000.0))


def on_the_mains(design: Design) -> Design:
    charger = Charger(
        id="m",
        name="Mains charger",
        amps=KnownAmps(value=20.0),
        hours_per_day=KnownHours(value=24.0),
    )
    return with_array(design, chargers=[charger])


def turned(design: Design) -> Design:
    return with_string(design, 0, azimuth_deg=180.0, tilt_deg=40.0)


def test_a_panel_that_faces_away_is_a_fix_only_where_the_station_falls_short() -> None:
    assert ids(turned(PLACED))[f"sun.away.{PLACED.array.strings[0].id}"] == "fix"
    report = evaluate(turned(with_string(AMPLE, 0, parallel=40)))
    assert report.verdict.state == "good"
    found = find(report, f"sun.away.{PLACED.array.strings[0].id}")
    assert found is not None
    assert found.severity == "mind"


def test_a_harvest_short_on_mean_sun_is_no_stop_where_the_mains_carry_the_station() -> None:
    report = evaluate(on_the_mains(PLACED))
    found = find(report, "array.short")
    assert report.verdict.state == "good"
    assert found is not None
    assert found.severity == "mind"
    assert "another source" in found.why
    assert ids(PLACED)["array.short"] == "stop"


def test_mains_that_are_there_all_year_hold_lead_full() -> None:
    assert "store.seldom_full" in ids(PLACED)
    assert "store.seldom_full" not in ids(on_the_mains(PLACED))


def test_a_night_the_mains_take_over_is_no_stop() -> None:
    everyday = quay_street()
    everyday = everyday.model_copy(
        update={"brief": everyday.brief.model_copy(update={"purpose": "everyday"})}
    )
    small = with_bank(everyday, unit_ah=KnownAmpHours(value=5.0))
    found = find(evaluate(small), "store.night")
    assert found is not None
    assert found.severity == "mind"
    assert "mains take over" in found.sentence
    away = small.model_copy(
        update={"brief": small.brief.model_copy(update={"purpose": "deployment"})}
    )
    assert ids(away)["store.night"] == "stop"


@pytest.mark.parametrize("kind", ["go_box", "vehicle"])
def test_what_nothing_charges_out_there_needs_no_warm_box(kind: str) -> None:
    """Above what lithium may be discharged at, that is."""
    proposed = propose(kind, "standby", Place(latitude_deg=49.0, longitude_deg=12.0))  # type: ignore[arg-type]
    assert proposed.store.bank is not None
    assert proposed.store.bank.housing == "outdoors"
    assert proposed.array.strings == []
    assert all(charger.at_home for charger in proposed.array.chargers)
    assert {"stop", "fix"}.isdisjoint(item.severity for item in evaluate(proposed).findings)


@pytest.mark.parametrize("kind", ["trailer", "go_box", "vehicle"])
def test_a_proposal_for_a_continental_winter_stands_in_a_warm_vented_box(kind: str) -> None:
    proposed = propose(kind, "standby", Place(latitude_deg=49.9, longitude_deg=-97.1))  # type: ignore[arg-type]
    bank = proposed.store.bank
    assert bank is not None
    assert bank.housing == "heated"
    assert (bank.vent_cm2 is not None) == kind_of(bank.chemistry).is_lead
    report = evaluate(proposed)
    assert not [item.sentence for item in report.findings if item.severity in {"stop", "fix"}]
    if bank.vent_cm2 is not None and report.store is not None:
        assert bank.vent_cm2.value >= (report.number(report.store.care.vent_cm2) or 0.0)


@pytest.mark.parametrize(
    ("value", "words"), [(1.0, "1 day"), (0.96, "1 day"), (2.5, "2.5 days"), (10.0, "10 days")]
)
def test_one_of_a_thing_is_not_told_as_several(value: float, words: str) -> None:
    assert counted(value, "day", 1) == words


def test_a_layer_of_nearly_the_same_volts_may_take_over() -> None:
    """Four lithium cells on a bus of lead: 12.8 V beside 12 V."""
    layer = Layer(
        id="two", name="Two", joining="automatic", bank=Bank(chemistry="lifepo4", unit_v=12.8)
    )
    lead = with_bank(quay_street(), chemistry="agm", unit_v=12.0)
    assert "store.volts.two" not in ids(with_store(lead, layers=[layer]))
    twice = layer.model_copy(update={"bank": layer.bank.model_copy(update={"series": 2})})
    assert ids(with_store(lead, layers=[twice]))["store.volts.two"] == "stop"


@pytest.mark.parametrize(
    ("purpose", "said"), [("standby", False), ("deployment", True), ("continuous", True)]
)
def test_a_bank_that_nothing_fills_is_said_unless_the_mains_keep_it_full(
    purpose: str, said: bool
) -> None:
    bare = with_array(quay_street(), strings=[], chargers=[], alternator=None)
    bare = bare.model_copy(update={"brief": bare.brief.model_copy(update={"purpose": purpose})})
    assert ("store.uncharged.main" in ids(bare)) == said
