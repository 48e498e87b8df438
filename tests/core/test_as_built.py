"""What the document must hold of a station as it was built, and what each of it changes."""

from typing import Any

import pytest

from tests.core.judged import PLACED, charged_by, find, ids, lithium
from tests.samples import load, quay_street, with_bank, with_loads, with_string
from yonderstat.core import evaluate
from yonderstat.core.array import label_of
from yonderstat.core.design import (
    Bank,
    Design,
    InvalidDesignError,
    KnownAmpHours,
    KnownAmps,
    KnownShare,
    KnownUsableShare,
    KnownVolts,
    KnownWattHours,
    KnownWatts,
    KnownYears,
    Layer,
    Limits,
    Module,
    PanelReading,
    Rail,
    design_from_document,
    document_of,
    with_array,
    with_draw,
    with_store,
)
from yonderstat.core.rehearse import hourly_station
from yonderstat.core.station import StationModel
from yonderstat.core.store import charge_settings, comes_on, cut_off_v, planned_charge_a


def opened(design: Design, **sections: dict[str, Any]) -> Design:
    """The design after a round through its document, with some fields of it changed."""
    document = document_of(design)
    for name, fields in sections.items():
        document[name] = {**document[name], **fields}
    return design_from_document(document)


# Labels in watts and watt-hours


def test_a_load_known_by_its_watts_draws_amps_at_its_own_volts() -> None:
    inverter = Rail(
        id="inv",
        name="Inverter",
        kind="inverter",
        volts=KnownVolts(value=120.0),
        efficiency=KnownUsableShare(value=0.9),
        rated_w=KnownWatts(value=600.0),
    )
    lamp = load("lamp").model_copy(update={"receive_w": KnownWatts(value=24.0, basis="label")})
    screen = load("screen").model_copy(update={"receive_w": KnownWatts(value=65.0), "rail": "inv"})
    design = opened(with_draw(with_loads(quay_street(), lamp, screen), rails=[inverter]))
    bus_v = StationModel(design).bus_v
    assert [item.receive_a.value for item in design.draw.loads] == pytest.approx(
        [24.0 / bus_v, 65.0 / 120.0]
    )
    assert design.draw.loads[0].receive_a.basis == "label"
    twice = opened(with_bank(design, series=2))
    assert twice.draw.loads[0].receive_a.value == pytest.approx(24.0 / (2 * bus_v))


def test_a_bank_known_by_its_watt_hours_holds_them() -> None:
    design = opened(
        with_bank(quay_street(), unit_wh=KnownWattHours(value=1280.0, basis="label"), unit_v=12.8)
    )
    assert design.store.bank is not None
    assert design.store.bank.unit_ah == KnownAmpHours(value=100.0, basis="label")


@pytest.mark.parametrize(
    ("change", "pointer"),
    [
        ({"store": {"bank": {"unit_v": 0.001, "unit_wh": {"value": 1e6}}}}, "/store/bank/unit_wh"),
        (
            {
                "draw": {
                    "loads": [document_of(with_loads(quay_street(), load("x")))["draw"]["loads"][0]]
                }
            },
            "/draw/loads/0/receive_w",
        ),
    ],
)
def test_a_label_past_what_a_design_holds_is_named(change: dict[str, Any], pointer: str) -> None:
    if "draw" in change:
        change["draw"]["loads"][0]["receive_w"] = {"value": 90_000.0}
    with pytest.raises(InvalidDesignError) as refused:
        opened(quay_street(), **change)
    assert [fault.pointer for fault in refused.value.faults] == [pointer]


# Panels


def test_readings_of_each_panel_count_the_weakest_in_series_and_the_mean_side_by_side() -> None:
    module = Module(
        i_sc=KnownAmps(value=6.0), readings=[PanelReading(i_sc=5.4), PanelReading(i_sc=3.0)]
    )
    assert label_of(module, series=2).plan_share == pytest.approx(0.5)
    assert label_of(module, series=1).plan_share == pytest.approx(0.7)


def test_amps_at_work_and_what_age_has_left_are_planned_on() -> None:
    at_work = Module(
        watts=KnownWatts(value=90.0),
        v_mp=KnownVolts(value=18.0),
        measured_i_mp=KnownAmps(value=4.0),
    )
    assert label_of(at_work).plan_share == pytest.approx(0.8)
    assert label_of(Module(age_share=KnownUsableShare(value=0.85))).plan_share == pytest.approx(
        0.85
    )
    assert (
        label_of(Module(condition="cracked", age_share=KnownUsableShare(value=0.85))).plan_share
        == 0.0
    )


# Controllers, chargers, terminals


def regulated(**fields: Any) -> Design:
    regulator = PLACED.array.strings[0].regulator.model_copy(update=fields)
    return with_string(PLACED, regulator=regulator)


@pytest.mark.parametrize(
    ("can_do", "severity"), [(["lifepo4"], "stop"), (["gel", "flooded"], "fix"), (["agm"], None)]
)
def test_a_controller_that_cannot_be_set_for_the_bank_is_named(
    can_do: list[str], severity: str | None
) -> None:
    key = f"array.cannot_set.{PLACED.array.strings[0].id}"
    assert ids(regulated(can_do=can_do)).get(key) == severity


@pytest.mark.parametrize(
    ("fields", "key"),
    [
        (
            {"volts": KnownVolts(value=14.4), "most_v": KnownVolts(value=13.8)},
            "array.supply_range.c",
        ),
        ({"most_v": KnownVolts(value=13.8)}, "array.supply_low.c"),
        ({"volts": KnownVolts(value=14.4), "least_v": KnownVolts(value=13.0)}, None),
    ],
)
def test_a_supply_is_held_to_what_it_can_be_turned_to(
    fields: dict[str, Any], key: str | None
) -> None:
    found = ids(
        charged_by(quay_street(), kind="bench_supply", amps=KnownAmps(value=30.0), **fields)
    )
    assert {
        item for item in found if item.startswith(("array.supply_range", "array.supply_low"))
    } == {key} - {None}


def test_a_selector_charges_nothing_and_waits_for_a_hand() -> None:
    design = charged_by(quay_street(), kind="selector")
    report = evaluate(design)
    without = StationModel(with_array(design, chargers=[])).array.together_a()[0]
    assert StationModel(design).array.together_a()[0] == without
    assert report.working["array.charger.c.hours"].value is None
    alone = design.model_copy(
        update={"brief": design.brief.model_copy(update={"attended": "nobody"})}
    )
    assert (ids(design)["array.selector.c"], ids(alone)["array.selector.c"]) == ("mind", "fix")


def test_what_hangs_on_load_terminals_is_added_up_from_the_loads() -> None:
    string = PLACED.array.strings[0]
    outlet = Rail(
        id="out",
        name="Load terminals",
        volts=KnownVolts(value=12.0),
        efficiency=KnownUsableShare(value=1.0),
        outlet_of=string.id,
    )
    hung = with_draw(
        with_loads(
            regulated(load_out_a=KnownAmps(value=5.0), load_program="daylight"),
            load("x", 8.0, rail="out"),
        ),
        rails=[outlet],
    )
    found = evaluate(hung)
    over, programme = (
        find(found, f"array.load_out.{string.id}"),
        find(found, f"array.load_program.{string.id}"),
    )
    assert over is not None
    assert "8 A of loads on load terminals rated 5 A" in over.sentence
    assert programme is not None


# Banks


def second_bank(**layer: Any) -> Design:
    return with_store(
        quay_street(), layers=[Layer(id="two", name="Second battery", bank=Bank(), **layer)]
    )


def on_the_second(design: Design) -> Design:
    rail = Rail(
        id="aux",
        name="Second bus",
        volts=KnownVolts(value=12.0),
        efficiency=KnownUsableShare(value=1.0),
        bank="two",
    )
    loads = [*design.draw.loads, load("lamp", 1.0, hours_per_day=24.0, rail="aux")]
    return with_draw(design, loads=loads, rails=[*design.draw.rails, rail])


def test_a_load_on_a_second_bank_draws_on_that_one_alone() -> None:
    plain, hung = second_bank(joining="automatic"), on_the_second(second_bank(joining="automatic"))
    assert StationModel(hung).draw.by_month == pytest.approx(StationModel(plain).draw.by_month)
    assert comes_on(plain, plain.store.layers[0])
    assert not comes_on(hung, hung.store.layers[0])
    report = evaluate(hung)
    days, drawn = (report.working[f"store.layer.two.own_{name}"] for name in ("days", "wh"))
    assert days.number == pytest.approx(
        report.working["store.layer.two.usable_wh"].number / drawn.number
    )
    found = find(report, "store.own_loads.two")
    assert found is not None
    # 1 A at 12 V round the clock: 288 Wh a day of the 100 Ah AGM's share for stand-by.
    assert "288 Wh a day" in found.sentence


def test_a_rail_on_a_bank_or_controller_that_is_not_there_is_refused() -> None:
    for fields in ({"bank": "gone"}, {"outlet_of": "gone"}):
        rail = {
            "id": "r",
            "name": "R",
            "volts": {"value": 12.0},
            "efficiency": {"value": 1.0},
            **fields,
        }
        with pytest.raises(InvalidDesignError, match="doesn't exist"):
            opened(quay_street(), draw={"rails": [rail]})


def test_a_bank_that_is_swapped_by_hand_needs_somebody() -> None:
    design = second_bank(joining="swap")
    layer = design.store.layers[0]
    assert comes_on(design, layer)
    alone = design.model_copy(
        update={"brief": design.brief.model_copy(update={"attended": "nobody"})}
    )
    assert not comes_on(alone, layer)


@pytest.mark.parametrize(
    ("bank", "key"),
    [
        (
            {
                "parallel": 2,
                "age_years": KnownYears(value=1.0),
                "oldest_years": KnownYears(value=6.0),
            },
            "store.mixed_ages",
        ),
        ({"parallel": 2, "series": 2, "unit_v": 6.0, "midpoints_joined": "yes"}, "store.midpoints"),
    ],
)
def test_old_beside_new_and_joined_middles_are_said(bank: dict[str, Any], key: str) -> None:
    assert key in ids(with_bank(PLACED, **bank))
    assert key not in ids(PLACED)


def test_the_electronics_of_a_unit_cut_off_at_their_own_volts_times_their_count() -> None:
    design = lithium(
        series=2,
        limits=Limits(cutoff_v=KnownVolts(value=10.0)),
        disconnect_v=KnownVolts(value=19.0),
    )
    assert design.store.bank is not None
    assert cut_off_v(design.store.bank) == 20.0
    hours = hourly_station(StationModel(design), 1)
    assert hours is not None
    assert hours.rules.low_v == 20.0


def test_a_planned_charge_rate_is_a_figure_and_a_word_where_it_is_passed() -> None:
    ten = with_bank(quay_street(), plan_c=0.1, unit_ah=KnownAmpHours(value=100.0))
    design = charged_by(ten, kind="mains", amps=KnownAmps(value=25.0))
    bank = design.store.bank
    assert bank is not None
    assert planned_charge_a(bank) == pytest.approx(10.0 * bank.parallel)
    advised = bank.model_copy(update={"limits": Limits(usual_charge_a=KnownAmps(value=7.0))})
    assert planned_charge_a(advised) == pytest.approx(7.0 * bank.parallel)
    assert evaluate(design).working["store.charge.planned.amps"].number == pytest.approx(
        10.0 * bank.parallel
    )
    assert ids(design).get("store.charge_planned") == "mind"


def test_a_school_of_charging_is_what_the_station_is_charged_by() -> None:
    usual, held = lithium(series=1), lithium(series=1, school="hold_low")
    assert StationModel(usual).array.absorb_v == pytest.approx(14.2)
    assert StationModel(held).array.absorb_v == pytest.approx(14.0)
    assert held.store.bank is not None
    first = charge_settings(held.store.bank, 12.8, 100.0, 25.0)[0]
    assert (first.school, first.is_chosen, first.is_default) == ("hold low", True, False)
    # A school the chemistry does not have falls back on our default.
    assert (
        StationModel(with_bank(PLACED, school="hold_low")).array.absorb_v
        == StationModel(PLACED).array.absorb_v
    )


def test_a_set_behind_a_converter_is_not_on_the_ladder_of_the_bus() -> None:
    def radio_rungs(design: Design) -> list[float]:
        rungs = evaluate(design).charging.strings[0].rungs
        return [rung.low_v for rung in rungs if rung.side == "radio"]

    booster = Rail(
        id="up",
        name="Booster",
        volts=KnownVolts(value=13.8),
        efficiency=KnownUsableShare(value=0.9),
    )
    radio = load("set", 1.0, transmit_a=20.0, transmit_share=0.1, window="10", kind="hf_set")
    direct = with_loads(PLACED, radio)
    behind = with_draw(with_loads(PLACED, radio.model_copy(update={"rail": "up"})), rails=[booster])
    assert radio_rungs(direct)[0] == pytest.approx(12.42)
    assert radio_rungs(behind) == []


def test_a_set_that_sags_is_offered_both_schools_of_regulation() -> None:
    radio = load("set", 1.0, transmit_a=20.0, transmit_share=0.1, window="10", kind="hf_set")
    lamp = load("lamp", 0.2)
    report = evaluate(with_loads(PLACED, radio, lamp))
    found = find(report, "bus.under_volts.set")
    assert found is not None
    labels = [change.label for change in found.remedies if "converter" in change.label]
    assert [label.split(" through a converter")[0] for label in labels] == [
        "Feed only set",
        "Feed the whole bus",
    ]


def test_the_sun_alone_fills_the_bank_in_so_many_days() -> None:
    report = evaluate(PLACED)
    assert report.charging.sun_days is not None
    days, usable = (
        report.working[report.charging.sun_days].number,
        report.number(report.store and report.store.usable_ah),
    )
    kept = report.number(report.array.stored_ah[report.verdict.hard_month - 1])
    assert usable is not None
    assert kept is not None
    assert days == pytest.approx(usable / kept)
    dark = with_string(PLACED, shaded_share=KnownShare(value=1.0))
    assert evaluate(dark).working["array.sun_days"].value is None


@pytest.mark.parametrize(
    ("amps", "words"),
    [
        (1.0, "Receiving alone uses all that it gives"),
        (1.9, "It can supply 50 % of the transmitting you planned"),
        (2.0, None),
    ],
)
def test_a_supply_says_how_much_keying_it_carries(amps: float, words: str | None) -> None:
    """By hand: 1 A received and 9 A more keyed a fifth of the time is 2.8 A; 1.9 A leaves half of
    the keying."""
    radio = load(
        "set",
        1.0,
        transmit_a=10.0,
        transmit_share=0.2,
        hours_per_day=24.0,
        kind="hf_set",
        mode=None,
    )
    told = charged_by(
        with_loads(PLACED, radio), kind="maintainer", amps=KnownAmps(value=amps if words else 3.0)
    )
    found = find(evaluate(told), "array.supply_small.c")
    if words is None:
        assert found is None or "on the key" not in found.why
    else:
        assert found is not None
        assert words in found.why
