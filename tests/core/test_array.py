"""The Array step: checks, ladder, both kinds of controller, sources, the shelf; and the findings on
them."""

from typing import Any

import pytest

from tests.core.test_findings import find, patched
from tests.samples import harrier_ridge, quay_street, with_string
from yonderstat.core import Report, evaluate
from yonderstat.core.array import Bench, strings_that_fit
from yonderstat.core.design import (
    Design,
    InvalidDesignError,
    KnownAmps,
    Regulator,
    design_from_document,
    document_of,
)
from yonderstat.core.shelf import shelf_from_document, stock_of, with_shelf
from yonderstat.core.station import StationModel
from yonderstat.demo.packhorse import PACKHORSE
from yonderstat.demo.quay_street import QUAY_STREET
from yonderstat.demo.shelf import SHELF


def ridge(
    module: dict[str, Any] | None = None, regulator: dict[str, Any] | None = None, **string: Any
) -> Design:
    """Harrier Ridge with another first string."""
    document = document_of(harrier_ridge())
    first = document["array"]["strings"][0]
    first.update(string)
    first["module"].update(module or {})
    first["regulator"].update(regulator or {})
    return design_from_document(document)


def charger(**fields: Any) -> Design:
    one = {"id": "c", "name": "Charger", **fields}
    return design_from_document(
        {**QUAY_STREET, "array": {**QUAY_STREET["array"], "chargers": [one]}}
    )


def number(report: Report, key: str) -> float:
    return report.working[key].number


def bench(design: Design) -> Bench:
    sky, report = StationModel(design).sky, evaluate(design)
    assert sky is not None
    assert report.weather is not None
    return Bench(
        sky=sky,
        plane=design.array.strings[0],
        charge_v=number(report, report.array.charge_v),
        absorb_v=number(report, "array.absorb_v"),
        cold_c=number(report, report.weather.cold_c),
        hottest_c=32.0,
        month=report.verdict.hard_month,
    )


def test_two_in_series_are_too_much_for_the_old_controller() -> None:
    """Two panels of 21.8 V at −15 °C by the code's table: 43.6 · 1.16 = 50.6 V on a 30 V
    controller."""
    report = evaluate(ridge(series=2, parallel=1))
    check = report.charging.strings[0]
    assert number(report, check.cold_v) == pytest.approx(43.6 * 1.16)
    assert "it is rated for 30 V" in check.takeaway
    cold = find(report, "array.cold.hut-north-wall")
    assert cold is not None
    assert cold.severity == "stop"
    fixed = evaluate(patched(ridge(series=2, parallel=1), cold.remedies[0].patch))
    assert find(fixed, "array.cold.hut-north-wall") is None


def test_the_ladder_holds_panel_controller_bank_and_radio() -> None:
    rungs = evaluate(harrier_ridge()).charging.strings[0].rungs
    assert {rung.side for rung in rungs} == {"panel", "controller", "bank", "radio"}
    assert all(rung.low_v <= rung.high_v for rung in rungs)


def test_the_ladders_numbers_are_the_checks() -> None:
    report = evaluate(harrier_ridge())
    check = report.charging.strings[0]
    by_label = {rung.label: rung for rung in check.rungs}
    assert by_label["open, coldest"].low_v == number(report, check.cold_v)
    assert by_label["takes"].high_v == number(report, check.limit_v) == 30.0


def test_both_controllers_side_by_side() -> None:
    """The kind in use is the harvest itself; MPPT is ahead in a cold June."""
    report = evaluate(harrier_ridge())
    pwm, mppt = report.charging.beside
    month = report.verdict.hard_month - 1
    assert number(report, pwm.months_ah[month]) == pytest.approx(
        number(report, report.array.harvest_ah[month])
    )
    assert number(report, mppt.months_ah[month]) > number(report, pwm.months_ah[month])
    assert "PWM would need" in report.charging.beside_takeaway


def test_a_mains_charger_has_its_hours() -> None:
    """[C] 20 A into 100 A·h of lithium: about five hours."""
    report = evaluate(charger(kind="mains", amps={"value": 20.0}, volts={"value": 14.4}))
    source = report.charging.sources[0]
    assert source.works
    assert 4.0 <= number(report, source.hours) <= 5.5


def test_what_runs_together_adds_up() -> None:
    """Two mains chargers of 10 A are as good as one of 20; one that must run alone is left out."""
    both = [
        {
            "id": f"c{number}",
            "name": f"C{number}",
            "amps": {"value": 10.0},
            "volts": {"value": 14.4},
        }
        for number in (1, 2)
    ]
    array = {**QUAY_STREET["array"], "chargers": both}
    report = evaluate(design_from_document({**QUAY_STREET, "array": array}))
    assert number(report, "array.charger.together.amps") == 20.0
    array = {**array, "chargers": [both[0], {**both[1], "alone": True}]}
    alone = evaluate(design_from_document({**QUAY_STREET, "array": array}))
    assert "array.charger.together.amps" not in alone.working


def test_a_controller_is_proposed() -> None:
    """[C] 1.25 · 6.7 A · 2 = 16.75 A on PWM: the next usual size is 20 A; on MPPT 220 W / 13.6 V =
    16.2 A, 20 A too."""
    for kind in ("pwm", "mppt"):
        report = evaluate(ridge(controller=kind))
        assert number(report, report.charging.strings[0].proposed_a) == 20.0


def test_quiet_hours_make_days_of_it() -> None:
    """A 5 A charger for 4 h a day, 22 of 24 hours quiet: two hours a day are left to it."""
    fields = {"amps": {"value": 5.0}, "volts": {"value": 14.4}, "hours_per_day": {"value": 4.0}}
    report = evaluate(charger(kind="mains", quiet_h={"value": 22.0}, **fields))
    assert "At 2 h a day, that takes" in report.charging.sources[0].words


def test_the_engine_gives_no_more_than_it_may() -> None:
    alternator = {
        "charge_a": {"value": 25.0},
        "engine_limit_a": {"value": 10.0},
        "driving_h_per_day": {"value": 2.0},
    }
    array = {**QUAY_STREET["array"], "alternator": alternator}
    report = evaluate(design_from_document({**QUAY_STREET, "array": array}))
    assert number(report, "array.alternator_ah") == 20.0


def test_a_generator_burns_by_the_hour() -> None:
    report = evaluate(charger(kind="generator", amps={"value": 20.0}, litres_per_h={"value": 0.6}))
    source = report.charging.sources[0]
    assert source.fuel_l is not None
    assert number(report, source.fuel_l) == pytest.approx(0.6 * number(report, source.hours))


@pytest.mark.parametrize(("volts", "works"), [(14.0, False), (15.0, False), (18.0, True)])
def test_a_supply_on_panel_terminals(volts: float, works: bool) -> None:
    """[C] a 14 V supply feeding a controller that drops a volt or two never fills a 14.2 V bank."""
    report = evaluate(charger(kind="panel_supply", volts={"value": volts}, through="shed-roof"))
    assert report.charging.sources[0].works is works
    assert (find(report, "array.source_low.c") is None) is works


def test_the_clubs_shelf_is_told_which_way_works() -> None:
    """Two sound panels in parallel win; two in series pass the old controller's limit; the crazed
    one is scrap."""
    own = design_from_document(PACKHORSE)
    shelf = shelf_from_document({"format": "yonderstat-shelf", "version": 1, "parts": list(SHELF)})
    design = with_shelf(own, shelf, stock_of(shelf, []))
    fits = strings_that_fit(design, bench(design))
    best = fits[0]
    assert best.trouble == ""
    assert best.name == "Spare 85 W: 2 in parallel"
    by_name = {(fit.name, fit.controller): fit for fit in fits}
    assert "crazed" in by_name[("Crazed 85 W: one", "Old PWM, 15 A")].trouble
    assert "it is rated for 25 V" in by_name[("Spare 85 W: 2 in series", "Old PWM, 15 A")].trouble
    working = [fit.hard_ah for fit in fits if not fit.trouble]
    assert working == sorted(working, reverse=True)


def test_a_shared_controller_shares_out_its_limit() -> None:
    """Two strings on one 6 A controller never bring more than 6 A together."""
    document = document_of(harrier_ridge())
    first = document["array"]["strings"][0]
    first["regulator"]["max_charge_a"] = {"value": 6.0, "basis": "label"}
    second = {**first, "id": "second", "name": "Second", "joins": "hut-north-wall"}
    document["array"]["strings"].append(second)
    report = evaluate(design_from_document(document))
    assert sum(number(report, check.best_a) for check in report.charging.strings) <= 6.0 + 1e-6


def test_a_string_cannot_share_with_one_that_shares() -> None:
    document = document_of(harrier_ridge())
    document["array"]["strings"][0]["joins"] = "hut-north-wall"
    with pytest.raises(InvalidDesignError):
        design_from_document(document)


@pytest.mark.parametrize(
    ("design", "key", "severity"),
    [
        (
            ridge({"watts": {"value": 250.0}, "cells": 60, "v_mp": {"value": 30.5}}),
            "array.pwm_waste",
            "fix",
        ),
        (ridge({"own_inverter": True}), "array.own_inverter", "stop"),
        (ridge({"condition": "cracked"}), "array.cracked", "fix"),
        (ridge({"i_sc": {"value": 5.0}}), "array.label", "mind"),
        (ridge({"measured_v_oc": {"value": 21.0}}), "array.volts_only", "mind"),
        (ridge({"measured_i_sc": {"value": 5.0}}), "array.weak", "mind"),
        (ridge({"bypass_lost": True}), "array.bypass", "mind"),
        (ridge({}, {"max_charge_a": {"value": 10.0}}), "array.clips", "fix"),
        (ridge({}, {"set_for": "lifepo4"}), "array.set_for", "stop"),
        (ridge({}, {"auto_volts": True}), "array.auto_volts", "mind"),
        (ridge(), "array.no_guard", "fix"),
        (ridge(), "array.sensor", "mind"),
        (
            ridge({}, {"load_out_a": {"value": 5.0}, "load_draw_a": {"value": 8.0}}),
            "array.load_out",
            "stop",
        ),
        (
            ridge({}, {"load_draw_a": {"value": 1.0}, "load_program": "dusk_to_dawn"}),
            "array.load_program",
            "fix",
        ),
        (ridge(parallel=3), "array.string_fuse", "mind"),
        (ridge(series=3, parallel=1, controller="mppt"), "array.shock", "mind"),
        (
            ridge({"watts": {"value": 93.0}, "v_mp": {"value": 15.0}, "v_oc": {"value": 18.3}}),
            "array.hot",
            "mind",
        ),
    ],
)
def test_a_string_finding_and_its_weight(design: Design, key: str, severity: str) -> None:
    finding = find(evaluate(design), f"{key}.hut-north-wall")
    assert finding is not None
    assert finding.severity == severity


@pytest.mark.parametrize(
    ("fields", "key", "severity"),
    [
        ({"kind": "bench_supply", "blocks_back": "no"}, "array.back_feed.c", "fix"),
        ({"kind": "bench_supply"}, "array.back_feed.c", "mind"),
        (
            {"kind": "changeover", "volts": {"value": 14.5}, "amps": {"value": 20.0}},
            "array.held_high.c",
            "fix",
        ),
        (
            {"kind": "maintainer", "volts": {"value": 13.5}, "amps": {"value": 0.8}},
            "array.supply_small.c",
            "fix",
        ),
        ({"kind": "mains", "volts": {"value": 12.6}}, "array.source_low.c", "stop"),
    ],
)
def test_a_source_finding_and_its_weight(fields: dict[str, Any], key: str, severity: str) -> None:
    finding = find(evaluate(charger(**fields)), key)
    assert finding is not None
    assert finding.severity == severity


def changeover(chemistry: str = "lifepo4", purpose: str = "standby", **fields: Any) -> Design:
    design = charger(
        **{"kind": "changeover", "volts": {"value": 14.5}, "amps": {"value": 20.0}, **fields}
    )
    bank = design.store.bank.model_copy(
        update={"chemistry": chemistry, "unit_v": 12.0 if chemistry == "agm" else 12.8}
    )
    store = design.store.model_copy(update={"bank": bank})
    brief = design.brief.model_copy(update={"purpose": purpose})
    return design.model_copy(update={"store": store, "brief": brief})


def test_absorption_volts_behind_a_changeover_are_a_school_until_they_are_held_for_weeks() -> None:
    """[handbook, C] such units ask for 14.3 V with AGM and 14.5 V with lithium iron phosphate."""
    for chemistry, volts in (("lifepo4", 14.5), ("agm", 14.3)):
        held = find(evaluate(changeover(chemistry, volts={"value": volts})), "array.held_high.c")
        assert held is not None
        assert held.severity == "fix"
        assert f"often fed at {volts:.1f} V" in held.why
    some_hours = changeover(hours_per_day={"value": 4.0, "basis": "stated"})
    assert find(evaluate(some_hours), "array.held_high.c") is None
    away = changeover(purpose="deployment")
    assert find(evaluate(away), "array.held_high.c") is None
    assert (
        find(evaluate(changeover(purpose="deployment", at_home=True)), "array.held_high.c")
        is not None
    )
    other = find(evaluate(changeover(volts={"value": 14.3})), "array.held_high.c")
    assert other is not None
    assert "often fed" not in other.why


def test_a_changeover_has_two_ratings() -> None:
    """It charges with 0.5 A and passes 40: the draw is held against what passes, the bank against
    the charge."""
    alone = charger(kind="changeover", amps={"value": 0.5})
    assert find(evaluate(alone), "array.supply_small.c") is not None
    both = charger(kind="changeover", amps={"value": 0.5}, passes_a={"value": 40.0})
    report = evaluate(both)
    assert find(report, "array.supply_small.c") is None
    assert report.working["array.charger.c.amps"].number == 0.5
    runs = {run.leg.id: run for run in StationModel(both).bus.runs}
    assert runs["source-c"].carried.continuous_a == 40.0
    few = evaluate(charger(kind="changeover", amps={"value": 20.0}, passes_a={"value": 5.0}))
    passing = [item for item in few.findings if item.id.startswith("bus.part.main.")]
    assert any("changeover unit, rated for 5 A" in item.sentence for item in passing)


def test_a_mended_harrier_ridge() -> None:
    """Design A with its controller changed by the remedy: June is better, and the ladder's trouble
    is gone."""
    before = evaluate(harrier_ridge())
    short = find(before, "array.short")
    assert short is not None
    remedy = next(item for item in short.remedies if "MPPT" in item.label)
    after = evaluate(patched(harrier_ridge(), remedy.patch))
    month = before.verdict.hard_month - 1
    assert number(after, after.array.harvest_ah[month]) > number(
        before, before.array.harvest_ah[month]
    )


def test_a_labels_figure_and_a_class_figure_say_which_they_are() -> None:
    """What the label says is asked back to its field; what the class fills in is a guess that names
    the same field."""
    told = evaluate(harrier_ridge()).working["array.string.hut-north-wall.cold_v"].inputs[0]
    assert (told.origin, told.pointer) == ("label", "/array/strings/0/module/v_oc")
    silent = evaluate(ridge({"v_oc": None})).working["array.string.hut-north-wall.cold_v"].inputs[0]
    assert (silent.origin, silent.pointer) == ("default", "/array/strings/0/module/v_oc")


def test_a_shunt_controller_passes_current_and_shorts_what_feeds_it() -> None:
    """[M] Behind its own diode it brings about what PWM does; a supply in the panel's place is a
    Stop."""
    shunt, pwm, mppt = (
        with_string(quay_street(), controller=kind) for kind in ("shunt", "pwm", "mppt")
    )
    brought = [
        sum(item.months_ah or ())
        for item in (StationModel(design).array.strings[0] for design in (shunt, pwm, mppt))
    ]
    assert brought[0] == pytest.approx(brought[1], rel=0.03)
    assert brought[1] < brought[2]
    string = quay_street().array.strings[0].id
    supply = {
        "kind": "panel_supply",
        "through": string,
        "volts": {"value": 18.0},
        "amps": {"value": 5.0},
    }
    fed = with_string(charger(**supply), controller="shunt")
    shorted = find(evaluate(fed), "array.supply_shorted.c")
    assert shorted is not None
    assert shorted.severity == "stop"
    assert "shunt controller" in shorted.sentence
    assert (
        find(evaluate(with_string(charger(**supply), controller="pwm")), "array.supply_shorted.c")
        is None
    )
    small = Regulator(max_charge_a=KnownAmps(value=2.0))
    clips = find(evaluate(with_string(shunt, regulator=small)), f"array.clips.{string}")
    assert clips is not None
    assert clips.why.startswith("A shunt controller carries")
