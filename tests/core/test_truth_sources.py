"""Chargers, paths and joined strings, each shown by a small station that once had it wrong."""

import pytest

from tests.core.judged import charged_by, find, ids, joined, lithium
from tests.core.rehearsed import station
from tests.samples import harrier_ridge, quay_street, with_bank
from tests.samples import with_string as with_first_string
from yonderstat.core import evaluate
from yonderstat.core.array import most_charge_v
from yonderstat.core.design import (
    Alternator,
    Bank,
    ChargePath,
    Design,
    KnownAmps,
    KnownCelsius,
    KnownVolts,
    KnownWattHours,
    Limits,
    Module,
    PowerPack,
    Regulator,
    with_array,
    with_store,
)
from yonderstat.core.rehearse import run_all, served_of

# -- chargers are sources
# ----------------------------------------------------------------------------------------------


@pytest.mark.parametrize(("chemistry", "volts"), [("lifepo4", 16.0), ("gel", 15.5)])
def test_volts_above_every_school_are_a_stop(chemistry: str, volts: float) -> None:
    """16.0 V on LiFePO4 and 15.5 V on gel read “fills it”."""
    unit_v = 12.8 if chemistry == "lifepo4" else 12.0
    design = charged_by(
        with_bank(quay_street(), chemistry=chemistry, unit_v=unit_v),
        kind="mains",
        volts=KnownVolts(value=volts),
    )
    report = evaluate(design)
    assert ids(design)["array.source_high.c"] == "stop"
    assert "overcharges" in report.charging.sources[0].words


def test_the_highest_school_is_still_allowed() -> None:
    bank = Bank(chemistry="lifepo4", unit_v=12.8)
    assert most_charge_v(bank) == pytest.approx(14.7)
    fine = charged_by(
        with_bank(quay_street(), chemistry="lifepo4"), kind="mains", volts=KnownVolts(value=14.6)
    )
    assert "array.source_high.c" not in ids(fine)


def test_a_maintainer_at_a_float_holds_agm() -> None:
    """13.3 V is inside our own float range: it holds the bank full, and is not “never fills”."""
    agm = with_bank(quay_street(), chemistry="agm", unit_v=12.0)
    design = charged_by(agm, kind="maintainer", volts=KnownVolts(value=13.3))
    assert "array.source_low.c" not in ids(design)
    assert "array.source_low.c" in ids(
        charged_by(agm, kind="maintainer", volts=KnownVolts(value=12.9))
    )


def test_a_generator_stops_at_the_end_of_bulk() -> None:
    design = charged_by(with_bank(quay_street(), chemistry="agm", unit_v=12.0), kind="generator")
    bulk = evaluate(design).number("array.charger.c.hours")
    full = evaluate(
        charged_by(
            with_bank(quay_street(), chemistry="agm", unit_v=12.0), kind="generator", to_full=True
        )
    )
    assert bulk is not None
    assert bulk < 0.8 * (full.number("array.charger.c.hours") or 0.0)


def test_hours_to_full_are_bounded_by_what_the_bank_takes() -> None:
    design = with_bank(quay_street(), limits=Limits(max_charge_a=KnownAmps(value=10.0)))
    strong, limit = (
        evaluate(charged_by(design, amps=KnownAmps(value=a))).number("array.charger.c.hours")
        for a in (300, 10)
    )
    assert strong == pytest.approx(limit)


def test_an_alternator_without_a_dc_dc_charger_can_be_recorded_and_is_a_stop_for_lithium() -> None:
    straight = with_array(quay_street(), alternator=Alternator(dc_dc=False))
    assert ids(straight)["array.no_dc_dc"] == "stop"
    lead = with_bank(straight, chemistry="agm", unit_v=12.0)
    assert ids(lead)["array.no_dc_dc"] == "fix"


def test_a_supply_on_panel_terminals_minds_their_rating() -> None:
    design = charged_by(
        with_first_string(
            quay_street(), controller="pwm", regulator=Regulator(max_charge_a=KnownAmps(value=10.0))
        ),
        kind="panel_supply",
        volts=KnownVolts(value=48.0),
        amps=KnownAmps(value=30.0),
        through="shed-roof",
    )
    found = ids(design)
    assert found["array.supply_over.c"] == "stop"
    assert found["array.supply_stiff.c"] == "fix"


# -- paths and joined strings
# ------------------------------------------------------------------------------------------


def on_a_pack(design: Design) -> Design:
    pack = PowerPack(id="pack", name="Pack", energy_wh=KnownWattHours(value=900.0))
    paths = [ChargePath(source=design.array.strings[0].id, bank="pack")]
    return with_store(design, packs=[pack], paths=paths)


def test_a_string_wired_to_a_pack_alone_brings_the_main_bank_nothing() -> None:
    """200 W on the pack made the main bank “carry”."""
    design = on_a_pack(harrier_ridge())
    report = evaluate(design)
    assert report.array.harvest_ah
    assert [report.number(key) for key in report.array.harvest_ah] == [0.0] * 12
    assert served_of(station(design)).share < served_of(station(harrier_ridge())).share
    assert find(report, "array.astray.hut-north-wall") is not None


def test_a_joined_string_is_checked_against_the_controller_it_is_on() -> None:
    """Its own limit was a default, and its volts were not looked at."""
    report = evaluate(
        joined(quay_street(), controller="mppt", regulator=Regulator(max_v=KnownVolts(value=60.0)))
    )
    assert report.number("array.string.two.limit_v") == 60.0
    found = find(report, "array.cold.two")
    assert found is not None
    assert found.severity == "stop"


def test_joined_strings_ask_their_controller_for_amps_together() -> None:
    alone = with_first_string(
        quay_street(), controller="mppt", regulator=Regulator(max_charge_a=KnownAmps(value=20.0))
    )
    assert "array.clips.shed-roof" not in ids(alone)
    both = joined(alone)
    found = find(evaluate(both), "array.clips.shed-roof")
    assert found is not None
    assert "Second string" in found.sentence


def test_a_panel_without_a_controller_has_no_limit_on_the_ladder() -> None:
    report = evaluate(with_first_string(harrier_ridge(), controller="none"))
    assert not [rung for rung in report.charging.strings[0].rungs if rung.side == "controller"]
    assert "array.cold.hut-north-wall" not in {item.id for item in report.findings}


def test_a_usual_pwm_controller_is_not_taken_for_fifty_volts() -> None:
    pair = with_first_string(
        quay_street(), controller="pwm", series=2, regulator=Regulator(), module=Module()
    )
    report = evaluate(pair)
    assert report.number("array.string.shed-roof.limit_v") == 30.0
    assert find(report, "array.cold.shed-roof") is not None


# -- adding a source never darkens
# -------------------------------------------------------------------------------------


@pytest.mark.parametrize("purpose", ["continuous", "everyday", "mobile"])
def test_adding_a_source_never_darkens(purpose: str) -> None:
    bare = harrier_ridge()
    bare = bare.model_copy(
        update={"brief": bare.brief.model_copy(update={"purpose": purpose, "attended": "present"})}
    )
    for more in (
        with_array(bare, alternator=Alternator()),
        charged_by(bare, kind="generator", amps=KnownAmps(value=15.0)),
        with_array(
            bare,
            strings=[*bare.array.strings, bare.array.strings[0].model_copy(update={"id": "more"})],
        ),
    ):
        before, after = station(bare), station(more)
        assert served_of(after).share >= served_of(before).share - 1e-9
        assert (run_all(after)[:, :, 1].sum(axis=(0, 1))) >= run_all(before)[:, :, 1].sum(
            axis=(0, 1)
        ) - 1e-6


def test_a_typed_bank_temperature_is_that_of_a_cold_day() -> None:
    """The capacity took it for a cold day and the hours for the month's mean: one of them was wrong
    by 1.28 σ."""
    found = station(lithium(cold_c=KnownCelsius(value=2.0)))
    hard = found.months == found.hard_month - 1
    hours = found.bank_c[:, hard]
    colder = float((hours.reshape(found.years, -1, 24).mean(axis=2) < 2.0).mean())
    assert 0.0 < colder < 0.25
