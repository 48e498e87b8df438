"""The Store figures: months, layers, life, comparison, paths; and the findings on them."""

from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.test_findings import find, patched
from tests.samples import harrier_ridge, quay_street, with_loads
from yonderstat.core import Report, evaluate
from yonderstat.core.changes import replace
from yonderstat.core.design import Design, InvalidDesignError, design_from_document
from yonderstat.demo.packhorse import PACKHORSE
from yonderstat.demo.patrol import PATROL_2
from yonderstat.demo.quay_street import QUAY_STREET

LAYER: dict[str, Any] = {
    "id": "box",
    "name": "Go-box",
    "role": "carry_out",
    "bank": {"chemistry": "agm"},
}


def quay(bank: dict[str, Any] | None = None, **store: Any) -> Design:
    """Quay Street with another store."""
    changed = {**QUAY_STREET["store"]["bank"], **(bank or {})}
    return design_from_document({**QUAY_STREET, "store": {"bank": changed, **store}})


def number(report: Report, key: str | None) -> float:
    assert key is not None
    return report.working[key].number


def test_the_hard_month_is_the_waterfalls() -> None:
    report = evaluate(harrier_ridge())
    assert report.store is not None
    month = report.verdict.hard_month - 1
    assert number(report, report.store.months_ah[month]) == pytest.approx(
        number(report, report.store.usable_ah)
    )
    assert number(report, report.store.months_c[month]) == -4.0


def test_the_bank_is_warmer_in_summer_and_holds_more() -> None:
    """A southern site: January is summer."""
    report = evaluate(harrier_ridge())
    assert report.store is not None
    temperatures = [number(report, key) for key in report.store.months_c]
    held = [number(report, key) for key in report.store.months_ah]
    assert temperatures[0] > temperatures[6]
    assert int(np.argsort(held)[0]) == int(np.argsort(temperatures)[0])


def test_a_test_takes_the_place_of_label_and_age() -> None:
    report = evaluate(quay({"tested_ah": {"value": 70.0, "basis": "measured"}}))
    assert number(report, "store.after_health_ah") == 70.0
    worn = find(report, "store.worn")
    assert worn is not None
    assert "70 %" in worn.sentence


def test_patrol_2_is_not_charged_at_five_below() -> None:
    """The bank was measured at −5 °C: hours to full have no value, say why, and the finding is a
    Stop."""
    report = evaluate(design_from_document(PATROL_2))
    assert report.store is not None
    for row in report.store.charging:
        assert report.working[row.hours].value is None
        assert "too cold to be charged" in report.working[row.hours].note
    frost = find(report, "store.lithium_frost")
    assert frost is not None
    assert frost.severity == "stop"
    warmed = evaluate(patched(design_from_document(PATROL_2), frost.remedies[0].patch))
    assert find(warmed, "store.lithium_frost") is None
    assert warmed.store is not None
    assert (
        report.working["store.temperature_c"].number
        < 0
        <= warmed.working["store.temperature_c"].number
    )


def test_the_packhorse_by_weight() -> None:
    """Enough AGM for two days is beyond the hitch; the finding names the cheapest chemistry that is
    not."""
    design = design_from_document(PACKHORSE)
    bigger = patched(design, (replace("/store/bank/parallel", 3),))
    report = evaluate(bigger)
    heavy = find(report, "store.too_heavy")
    assert heavy is not None
    assert "93 kg" in heavy.sentence
    assert "LiFePO4" in heavy.why
    assert report.store is not None
    by_name = {item.chemistry: item for item in report.store.compared}
    assert (
        number(report, by_name["lifepo4"].weight_kg) < 60 < number(report, by_name["agm"].weight_kg)
    )


def test_the_same_use_in_every_chemistry() -> None:
    """The compared bank of one's own kind, new, is the bank itself; lead asks for air, lithium does
    not."""
    report = evaluate(quay_street())
    assert report.store is not None
    own = next(item for item in report.store.compared if item.in_use)
    assert own.chemistry == "lifepo4"
    assert number(report, own.label_ah) == pytest.approx(100.0, rel=1e-3)
    assert {item.chemistry for item in report.store.compared if item.vent_cm2} == {
        "flooded",
        "agm",
        "gel",
        "starting",
    }


def test_a_layer_and_a_pack_carry_their_hours() -> None:
    pack = {"id": "pack", "name": "Pack", "energy_wh": {"value": 500.0}, "idle_w": {"value": 10.0}}
    report = evaluate(quay(layers=[LAYER], packs=[pack]))
    assert report.store is not None
    layer, figures = report.store.layers
    # 100 A·h AGM indoors in stand-by use: 12 V · 100 A·h · f(15 °C) · 0.8
    assert number(report, layer.usable_wh) == pytest.approx(1200 * 0.8 / 1.1155, rel=0.01)
    mean_w = number(report, "store.mean_w")
    assert number(report, figures.hours) == pytest.approx(450.0 / (mean_w / 0.85 + 10.0))


def test_one_big_bank_or_layers() -> None:
    """By hand: a layer as good as the main bank doubles the hours; lose either and half is left."""
    twin = {"id": "twin", "name": "Twin", "bank": QUAY_STREET["store"]["bank"]}
    report = evaluate(quay(layers=[twin]))
    assert report.store is not None
    summary = report.store.layered
    assert summary is not None
    assert number(report, summary.together_wh) == pytest.approx(
        2 * number(report, "store.usable_wh"), rel=5e-3
    )
    assert number(report, summary.one_bank_kg) == pytest.approx(
        number(report, summary.layers_kg), rel=5e-3
    )
    alone = number(evaluate(quay()), "store.hours_without_sun")
    assert number(report, summary.left_h) == pytest.approx(alone, rel=5e-3)
    assert number(report, "store.hours_without_sun") == pytest.approx(2 * alone, rel=5e-3)
    assert report.verdict.figures[1].beside == "second battery included"


def test_without_a_path_only_the_main_bank_is_charged() -> None:
    report = evaluate(quay(layers=[LAYER]))
    assert report.store is not None
    everything = ("Shed roof", "Changeover unit, 20 A", "Bench supply at 13.5 V")
    assert [item.sources for item in report.store.charged] == [everything, ()]
    assert find(report, "store.uncharged.box") is not None
    paths = [
        {"source": "shed-roof", "bank": "main", "position": "1"},
        {"source": "shed-roof", "bank": "box"},
    ]
    told = evaluate(quay(layers=[LAYER], paths=paths))
    assert told.store is not None
    assert told.store.charged[0].sources == ("Shed roof (1)", *everything[1:])
    assert find(told, "store.uncharged.box") is None


def test_unlike_banks_are_not_laid_in_parallel() -> None:
    report = evaluate(quay(layers=[{**LAYER, "joining": "lead"}]))
    unlike = find(report, "store.unlike.box")
    assert unlike is not None
    assert unlike.severity == "stop"
    design = patched(quay(layers=[{**LAYER, "joining": "lead"}]), unlike.remedies[0].patch)
    assert find(evaluate(design), "store.unlike.box") is None


@pytest.mark.parametrize(
    ("design", "key", "severity"),
    [
        (quay({"chemistry": "starting", "unit_v": 12.0}), "store.starting", "fix"),
        (quay({"parallel": 5, "limits": {"max_parallel": 4}}), "store.too_many_parallel", "stop"),
        (quay({"series": 2, "limits": {"max_series": 1}}), "store.too_many_series", "stop"),
        (quay({"limits": {"max_charge_a": {"value": 10.0}}}), "store.charge_fast", "stop"),
        (
            quay({"chemistry": "agm", "unit_v": 12.0, "unit_ah": {"value": 1900.0}}),
            "store.charge_slow",
            "mind",
        ),
        (quay({"limits": {"max_discharge_a": {"value": 12.0}}}), "store.trips", "stop"),
        (quay({"limits": {"max_discharge_a": {"value": 21.0}}}), "store.trips", "fix"),
        (
            quay({"chemistry": "agm", "unit_v": 12.0, "housing": "insulated_box"}),
            "store.vent_unknown",
            "fix",
        ),
        (
            quay({"chemistry": "agm", "unit_v": 12.0, "vent_cm2": {"value": 2.0}}),
            "store.vent_small",
            "fix",
        ),
        (quay(), "store.indoors", "mind"),
        (quay({"cold_c": {"value": -30.0}}), "store.too_cold", "fix"),
        (quay({"cold_c": {"value": 52.0}}), "store.too_hot", "fix"),
        (harrier_ridge(), "store.seldom_full", "fix"),
        (harrier_ridge(), "store.old", "mind"),
        (quay(layers=[{**LAYER, "bank": {"series": 2}}]), "store.volts.box", "stop"),
        (
            quay(
                packs=[
                    {
                        "id": "p",
                        "name": "P",
                        "energy_wh": {"value": 500.0},
                        "dc_out_a": {"value": 10.0},
                    }
                ]
            ),
            "store.pack_outlet.p",
            "fix",
        ),
        (
            quay(
                packs=[{"id": "pack", "name": "Pack", "energy_wh": {"value": 900.0}}],
                paths=[{"source": "main", "bank": "pack"}, {"source": "shed-roof", "bank": "main"}],
            ),
            "store.cascade.pack",
            "fix",
        ),
    ],
)
def test_a_finding_and_its_weight(design: Design, key: str, severity: str) -> None:
    finding = find(evaluate(design), key)
    assert finding is not None
    assert finding.severity == severity
    assert finding.sentence
    assert finding.why


@pytest.mark.parametrize(
    "store",
    [
        {"layers": [LAYER, LAYER]},
        {"layers": [{**LAYER, "id": "main"}]},
        {"paths": [{"source": "shed-roof", "bank": "nowhere"}]},
        {"paths": [{"source": "main", "bank": "main"}]},
        {
            "bank": {
                "cycle_life": [{"depth": 0.8, "cycles": 100.0}, {"depth": 0.5, "cycles": 200.0}]
            }
        },
        {
            "bank": {
                "cycle_life": [{"depth": 0.5, "cycles": 100.0}, {"depth": 0.8, "cycles": 200.0}]
            }
        },
    ],
)
def test_a_store_that_contradicts_itself_is_refused(store: dict[str, Any]) -> None:
    with pytest.raises(InvalidDesignError):
        design_from_document({**QUAY_STREET, "store": store})


@settings(max_examples=12, deadline=None)
@given(
    st.integers(1, 4),
    st.integers(1, 4),
    st.sampled_from(["flooded", "agm", "gel", "lifepo4", "nmc", "starting"]),
)
def test_parallel_adds_amp_hours_and_series_does_not(
    parallel: int, series: int, chemistry: str
) -> None:
    one, more, taller = (
        evaluate(quay({"chemistry": chemistry, "series": s, "parallel": p}))
        for s, p in ((1, 1), (1, parallel), (series, 1))
    )
    assert number(more, "store.label_ah") == pytest.approx(parallel * number(one, "store.label_ah"))
    assert number(taller, "store.label_ah") == number(one, "store.label_ah")


@pytest.mark.parametrize(
    ("mode", "peak_a", "severity", "words"),
    [
        ("ssb", None, "fix", "Voice peaks"),
        ("cw", None, "fix", "Morse dashes"),
        ("cw", 21.0, "stop", "Morse dashes"),
        ("ssb", 21.0, "fix", "Voice peaks"),
        ("cw", 60.0, None, ""),
        ("ssb", 60.0, None, ""),
        ("data", 60.0, "stop", "Long transmissions"),
    ],
)
def test_a_morse_key_holds_its_current(
    mode: str, peak_a: float | None, severity: str | None, words: str
) -> None:
    """A syllable is over before electronics count it; a dash is not; a carrier is held against the
    steady rating."""
    limits: dict[str, Any] = {"max_discharge_a": {"value": 21.0}}
    if peak_a is not None:
        limits["peak_discharge_a"] = {"value": peak_a}
    design = quay({"limits": limits})
    loads = [
        load.model_copy(
            update={"mode": mode} if load.transmit_a and load.transmit_a.value > 10.0 else {}
        )
        for load in design.draw.loads
    ]
    trips = find(evaluate(with_loads(design, *loads)), "store.trips")
    assert (trips and trips.severity) == severity
    if trips is not None:
        assert trips.sentence.startswith(words)


def test_lithium_titanate_is_charged_in_the_frost() -> None:
    """[M] It is charged down to −30 °C, holds three quarters there and lasts; heavy for lithium."""
    frozen = {"chemistry": "lto", "unit_v": 12.0, "housing": "outdoors", "cold_c": {"value": -20.0}}
    report = evaluate(quay(frozen))
    ids_ = {item.id for item in report.findings}
    assert not {"store.frozen_charge", "store.locked", "store.too_cold"} & ids_
    assert (
        find(evaluate(quay({**frozen, "chemistry": "lifepo4", "unit_v": 12.8})), "store.too_cold")
        is not None
    )
    compared = {item.chemistry: item for item in report.store.compared}
    years = {name: report.number(item.years) for name, item in compared.items()}
    kilos_ = {name: report.number(item.weight_kg) for name, item in compared.items()}
    assert years["lto"] >= max(years.values())
    assert kilos_["lifepo4"] < kilos_["lto"] < kilos_["agm"]
    assert report.store.settings[0].absorb_v == 13.5
    assert report.store.settings[0].float_v is None
