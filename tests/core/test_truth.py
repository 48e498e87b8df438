"""Small stations that each show one thing the figures once had wrong."""

import re
from typing import Any

import numpy as np
import pytest

from tests.core.rehearsed import station, with_layer
from tests.samples import harrier_ridge, load, packhorse, quay_street, with_bank, with_loads
from tests.samples import with_string as with_first_string
from yonderstat.core import Report, evaluate
from yonderstat.core.array import most_charge_v
from yonderstat.core.design import (
    Alternator,
    Bank,
    ChargePath,
    Charger,
    Design,
    KnownAmpHours,
    KnownAmps,
    KnownCelsius,
    KnownIdleWatts,
    KnownUsableShare,
    KnownVolts,
    KnownWattHours,
    KnownWatts,
    Limits,
    Module,
    PowerPack,
    Rail,
    Regulator,
    with_array,
    with_load,
    with_store,
)
from yonderstat.core.draw import key_down
from yonderstat.core.electrical import usual_window
from yonderstat.core.finding import Finding
from yonderstat.core.rehearse import Scene, rehearse, run_all, served_of
from yonderstat.core.rehearse.station import hourly_station
from yonderstat.core.station import StationModel
from yonderstat.core.store import loaded_v

PLACED = harrier_ridge()


def ids(design: Design) -> dict[str, str]:
    return {finding.id: finding.severity for finding in evaluate(design).findings}


def find(report: Report, key: str) -> Finding | None:
    return next((finding for finding in report.findings if finding.id == key), None)


def charged_by(design: Design, **charger: Any) -> Design:
    return with_array(design, chargers=[Charger(id="c", name="Charger", **charger)])


def lithium(**bank: Any) -> Design:
    whole = {"chemistry": "lifepo4", "unit_v": 12.8, "housing": "outdoors", "cold_c": None, **bank}
    return with_bank(PLACED, **whole)


# -- chargers are sources ----------------------------------------------------------------------------------------------


@pytest.mark.parametrize(("chemistry", "volts"), [("lifepo4", 16.0), ("gel", 15.5)])
def test_volts_above_every_school_are_a_stop(chemistry: str, volts: float) -> None:
    """16.0 V on LiFePO4 and 15.5 V on gel read “fills it”."""
    unit_v = 12.8 if chemistry == "lifepo4" else 12.0
    design = charged_by(
        with_bank(quay_street(), chemistry=chemistry, unit_v=unit_v), kind="mains", volts=KnownVolts(value=volts)
    )
    report = evaluate(design)
    assert ids(design)["array.source_high.c"] == "stop"
    assert "overcharges" in report.charging.sources[0].words


def test_the_highest_school_is_still_allowed() -> None:
    bank = Bank(chemistry="lifepo4", unit_v=12.8)
    assert most_charge_v(bank) == pytest.approx(14.7)
    fine = charged_by(with_bank(quay_street(), chemistry="lifepo4"), kind="mains", volts=KnownVolts(value=14.6))
    assert "array.source_high.c" not in ids(fine)


def test_a_maintainer_at_a_float_holds_agm() -> None:
    """13.3 V is inside our own float range: it holds the bank full, and is not “never fills”."""
    agm = with_bank(quay_street(), chemistry="agm", unit_v=12.0)
    design = charged_by(agm, kind="maintainer", volts=KnownVolts(value=13.3))
    assert "array.source_low.c" not in ids(design)
    assert "array.source_low.c" in ids(charged_by(agm, kind="maintainer", volts=KnownVolts(value=12.9)))


def test_a_generator_stops_at_the_end_of_bulk() -> None:
    design = charged_by(with_bank(quay_street(), chemistry="agm", unit_v=12.0), kind="generator")
    bulk = evaluate(design).number("array.charger.c.hours")
    full = evaluate(charged_by(with_bank(quay_street(), chemistry="agm", unit_v=12.0), kind="generator", to_full=True))
    assert bulk is not None
    assert bulk < 0.8 * (full.number("array.charger.c.hours") or 0.0)


def test_hours_to_full_are_bounded_by_what_the_bank_takes() -> None:
    design = with_bank(quay_street(), limits=Limits(max_charge_a=KnownAmps(value=10.0)))
    strong, limit = (
        evaluate(charged_by(design, amps=KnownAmps(value=a))).number("array.charger.c.hours") for a in (300, 10)
    )
    assert strong == pytest.approx(limit)


def test_an_alternator_without_a_dc_dc_charger_can_be_recorded_and_is_a_stop_for_lithium() -> None:
    straight = with_array(quay_street(), alternator=Alternator(dc_dc=False))
    assert ids(straight)["array.no_dc_dc"] == "stop"
    lead = with_bank(straight, chemistry="agm", unit_v=12.0)
    assert ids(lead)["array.no_dc_dc"] == "fix"


def test_a_supply_on_panel_terminals_minds_their_rating() -> None:
    design = charged_by(
        with_first_string(quay_street(), controller="pwm", regulator=Regulator(max_charge_a=KnownAmps(value=10.0))),
        kind="panel_supply",
        volts=KnownVolts(value=48.0),
        amps=KnownAmps(value=30.0),
        through="shed-roof",
    )
    found = ids(design)
    assert found["array.supply_over.c"] == "stop"
    assert found["array.supply_stiff.c"] == "fix"


# -- paths and joined strings ------------------------------------------------------------------------------------------


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


def joined(design: Design, **first: Any) -> Design:
    one = design.array.strings[0].model_copy(update=first)
    two = one.model_copy(
        update={"id": "two", "name": "Second string", "joins": one.id, "regulator": Regulator(), "series": 3}
    )
    return with_array(design, strings=[one, two])


def test_a_joined_string_is_checked_against_the_controller_it_is_on() -> None:
    """Its own limit was a default, and its volts were not looked at."""
    report = evaluate(joined(quay_street(), controller="mppt", regulator=Regulator(max_v=KnownVolts(value=60.0))))
    assert report.number("array.string.two.limit_v") == 60.0
    found = find(report, "array.cold.two")
    assert found is not None
    assert found.severity == "stop"


def test_joined_strings_ask_their_controller_for_amps_together() -> None:
    alone = with_first_string(quay_street(), controller="mppt", regulator=Regulator(max_charge_a=KnownAmps(value=20.0)))
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
    pair = with_first_string(quay_street(), controller="pwm", series=2, regulator=Regulator(), module=Module())
    report = evaluate(pair)
    assert report.number("array.string.shed-roof.limit_v") == 30.0
    assert find(report, "array.cold.shed-roof") is not None


# -- rails -------------------------------------------------------------------------------------------------------------


def inverter(**more: Any) -> Rail:
    whole = {"efficiency": KnownUsableShare(value=0.9), "idle_w": KnownIdleWatts(value=5.0), **more}
    return Rail(id="inv", name="Inverter", kind="inverter", volts=KnownVolts(value=230.0), **whole)


def test_a_transmitter_on_an_inverter_draws_its_keyed_watts_there() -> None:
    """The busiest moment counted what it receives with."""
    rail = inverter(rated_w=KnownWatts(value=300.0))
    set_ = load("set", 0.2, transmit_a=2.0, rail="inv")
    design = with_loads(quay_street(), set_)
    design = design.model_copy(update={"draw": design.draw.model_copy(update={"rails": [rail]})})
    report = evaluate(design)
    assert report.number("draw.rail.inv.peak_w") == pytest.approx(460.0)
    assert ids(design)["draw.overload.inv"] == "stop"


def test_shedding_all_on_an_inverter_sheds_what_it_idles_away() -> None:
    rail = inverter(idle_w=KnownIdleWatts(value=12.0))
    lamp = load("lamp", 0.1, rail="inv", tier="comfort")
    design = with_loads(quay_street(), load("set", 1.0), lamp)
    design = design.model_copy(update={"draw": design.draw.model_copy(update={"rails": [rail]})})
    report = evaluate(design)
    kept = report.number(report.tempo_runtime.shed[0].daily_ah)
    assert kept == pytest.approx(report.number("draw.load.set.daily_ah"))


# -- when loads run ----------------------------------------------------------------------------------------------------


def test_hours_nobody_has_placed_lie_where_such_loads_run() -> None:
    """Spread over the day they made a dark evening look served."""
    set_ = load("set", 2.0, kind="hf_set", hours_per_day=3.0)
    drawn = StationModel(with_loads(PLACED, set_)).draw.loads[0].hourly_a[0]
    assert np.flatnonzero(drawn).tolist() == [19, 20, 21]
    always = load("net", 0.5, kind="network", hours_per_day=12.0)
    assert StationModel(with_loads(PLACED, always)).draw.loads[0].hourly_a[0] == pytest.approx([0.25] * 24)


def test_it_is_said_where_unplaced_hours_decide() -> None:
    """The same three hours read as an evening turn a verdict round."""
    set_ = load("set", 6.0, kind="hf_set", hours_per_day=3.0)
    bank = {"unit_ah": KnownAmpHours(value=12.0), "parallel": 1, "tested_ah": None}
    small = with_bank(with_loads(with_first_string(PLACED, parallel=8), set_), **bank)
    found = find(evaluate(small), "rehearse.hours")
    assert found is not None
    placed = with_load(small, 0, pattern=[0.0] * 19 + [1.0] * 3 + [0.0] * 2)
    assert find(evaluate(placed), "rehearse.hours") is None


def test_a_daylight_load_passes_the_night() -> None:
    tool = load("tool", 20.0, kind="tool", hours_per_day=3.0)
    report = evaluate(with_loads(PLACED, tool))
    assert report.number("store.night_ah") == pytest.approx(0.0)


def test_peukert_feels_the_current_while_it_flows() -> None:
    """[closed form] 12 A·h in two hours leave at 6 A, not at the day's half an ampere."""
    short = load("short", 6.0, kind="hf_set", hours_per_day=2.0)
    assert StationModel(with_loads(PLACED, short)).draw.flowing_a(1) == pytest.approx(6.0)
    assert StationModel(with_loads(PLACED, load("even", 0.5))).draw.flowing_a(1) == pytest.approx(0.5)


# -- spells, months, shares --------------------------------------------------------------------------------------------


def test_without_panels_the_sun_carries_nothing() -> None:
    design = with_array(quay_street(), strings=[])
    everyday = design.model_copy(update={"brief": design.brief.model_copy(update={"purpose": "everyday"})})
    report = evaluate(everyday)
    assert report.rehearsed is not None
    assert report.number(report.rehearsed.share) == 0.0


def test_what_the_sun_carries_is_of_what_is_wanted() -> None:
    """Served in full by nobody else, a starved station read as carried whole."""
    tiny = with_first_string(
        with_array(quay_street(), chargers=[]), parallel=1, module=Module(watts=KnownWatts(value=20.0))
    )
    everyday = tiny.model_copy(update={"brief": tiny.brief.model_copy(update={"purpose": "everyday"})})
    report = evaluate(everyday)
    assert report.rehearsed is not None
    assert (report.number(report.rehearsed.share) or 1.0) < 0.3


def test_a_month_out_of_use_is_used_when_a_scene_is_played_in_it() -> None:
    summer = packhorse()
    summer = summer.model_copy(update={"brief": summer.brief.model_copy(update={"months": [1, 2]})})
    told = rehearse(summer, Scene(month=7, day=1, days=3))
    assert told is not None
    assert sum(hour.wanted_a for hour in told.hours) > 0


# -- cold and heat -----------------------------------------------------------------------------------------------------


def test_a_heated_box_draws_its_watts() -> None:
    """[closed form] air at −5 °C without any spread needs 10 K / 0.8 K/W = 12.5 W."""
    cold, warm = (lithium(housing=housing) for housing in ("vented_box", "heated"))
    drawn = StationModel(warm).draw.heating_ah
    assert drawn[6] > drawn[0] > 0
    assert StationModel(cold).draw.heating_ah.max() == 0.0
    assert StationModel(warm).daily_ah > StationModel(cold).daily_ah
    assert served_of(station(warm)).share < 1.0
    report = evaluate(warm)
    month = report.verdict.hard_month
    assert report.number("draw.heating_w") == pytest.approx(drawn[month - 1] * StationModel(warm).bus_v / 24.0)


def test_a_heater_too_small_unlocks_nothing() -> None:
    """A maker's heater of any size cleared the frost and unlocked charging within the hour."""
    weak, strong = (lithium(limits=Limits(heater_w=KnownIdleWatts(value=watts))) for watts in (1.0, 60.0))
    assert ids(weak)["store.lithium_frost"] == "stop"
    assert "store.lithium_frost" not in ids(strong)
    assert (station(weak).hours.locked == 2).any()
    assert not (station(strong).hours.locked == 2).any()


def test_frost_is_judged_by_hours_in_which_charging_is_locked() -> None:
    """Outdoors at 48° N nothing was said while some hundred hours a year are locked."""
    place = PLACED.place.model_copy(update={"latitude_deg": 48.0, "longitude_deg": 2.0, "elevation_m": None})  # type: ignore[union-attr]
    report = evaluate(lithium().model_copy(update={"place": place}))
    assert report.rehearsed is not None
    locked = report.number(report.rehearsed.locked_h)
    assert locked is not None
    assert locked > 10
    found = find(report, "store.lithium_frost")
    assert found is not None
    assert f"{locked:.0f} hours a year" in found.sentence


def test_heat_is_judged_on_the_hottest_day_of_any_month() -> None:
    place = PLACED.place.model_copy(update={"latitude_deg": 33.0, "longitude_deg": -112.0, "elevation_m": None})  # type: ignore[union-attr]
    boxed = lithium(housing="insulated_box", box_in_sun=True, box_w=KnownIdleWatts(value=12.0))
    winter = boxed.brief.model_copy(update={"months": [12, 1]})
    assert ids(boxed.model_copy(update={"place": place, "brief": winter}))["store.too_hot"] == "fix"


def test_a_room_follows_the_summer() -> None:
    place = PLACED.place.model_copy(update={"latitude_deg": 19.1, "longitude_deg": 72.9, "elevation_m": None})  # type: ignore[union-attr]
    model = StationModel(lithium(housing="indoors").model_copy(update={"place": place}))
    assert model.bank is not None
    assert model.bank.month_c.min() > 20.0


def test_no_hour_is_colder_than_the_coldest_night() -> None:
    found = station(lithium(cold_c=None))
    assert found.bank_c.min() >= found.model.climate.coldest_c - 1e-9


# -- volts at a set ----------------------------------------------------------------------------------------------------


def test_a_set_for_13_8_v_on_24_v_is_a_stop() -> None:
    """Nothing was raised: the ladder doubled the window instead."""
    design = with_bank(with_loads(PLACED, load("set", 1.0, kind="hf_set")), series=4, unit_v=6.0)
    assert ids(design)["draw.system_volts.set"] == "stop"


def test_charging_above_a_sets_window_is_a_fix() -> None:
    nmc = with_bank(
        with_loads(PLACED, load("set", 1.0, kind="hf_set", window="15")), chemistry="nmc", unit_v=14.8, series=1
    )
    found = find(evaluate(nmc), "draw.over_volts.set")
    assert found is not None
    assert found.severity == "fix"
    assert "16.4 V" in found.sentence


def test_equalising_above_a_window_is_said() -> None:
    design = with_bank(with_loads(PLACED, load("set", 1.0, window="10")), chemistry="flooded")
    assert ids(design)["draw.equalise"] == "mind"


def test_too_few_volts_on_the_key_are_a_finding() -> None:
    sagging = with_loads(PLACED, load("set", 1.0, transmit_a=60.0, window="10"))
    assert ids(sagging)["draw.under_volts.set"] == "fix"


def test_the_power_a_bank_carries_is_where_its_posts_meet_the_window() -> None:
    """By hand: so many amps bring the posts just to the set's least volts."""
    tx = load("set", 1.0, transmit_a=300.0, rated_w=200.0, window="own", least_v=KnownVolts(value=12.33))
    model = StationModel(with_loads(PLACED, tx))
    found = find(evaluate(model.design), "draw.under_volts.set")
    assert found is not None
    bank, window = model.bank, usual_window(tx)
    assert bank is not None
    assert window is not None
    powers = re.findall(r"carries (\d+) W of it, a half full one (\d+) W", found.why)
    full_w, half_w = (float(power) for power in powers[0])
    assert 0.0 < half_w < full_w < 200.0
    for share, power_w in ((1.0, full_w), (0.5, half_w)):
        pressed = key_down(tx.model_copy(update={"power_w": KnownWatts(value=power_w)}))
        assert pressed is not None
        posts_v = loaded_v(bank.bank, model.bus_v, share, pressed.amps, bank.hard_c)
        assert posts_v == pytest.approx(window.low_v, abs=0.03)


# -- hydrogen ----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("housing", ["insulated_box", "heated"])
def test_too_small_a_vent_in_a_closed_box_is_a_stop(housing: str) -> None:
    from yonderstat.core.design import KnownArea

    closed = with_bank(PLACED, chemistry="flooded", housing=housing, vent_cm2=KnownArea(value=1.0))
    assert ids(closed)["store.vent_small"] == "stop"


def test_flooded_cells_indoors_speak_of_their_vent() -> None:
    assert ids(with_bank(PLACED, chemistry="flooded", housing="indoors", vent_cm2=None))["store.vent_unknown"] == "mind"


def test_the_safety_distance() -> None:
    """[P] EN IEC 62485-2, from memory: d = 28.8 · ∛I_gas · ∛C_rt; 20 mA/A·h and 100 A·h give 363 mm."""
    from yonderstat.core.store import safety_distance_mm

    assert safety_distance_mm(20.0, 100.0) == pytest.approx(362.9, rel=1e-3)


# -- adding a source never darkens -------------------------------------------------------------------------------------


@pytest.mark.parametrize("purpose", ["continuous", "everyday", "mobile"])
def test_adding_a_source_never_darkens(purpose: str) -> None:
    bare = harrier_ridge()
    bare = bare.model_copy(update={"brief": bare.brief.model_copy(update={"purpose": purpose, "attended": "present"})})
    for more in (
        with_array(bare, alternator=Alternator()),
        charged_by(bare, kind="generator", amps=KnownAmps(value=15.0)),
        with_array(bare, strings=[*bare.array.strings, bare.array.strings[0].model_copy(update={"id": "more"})]),
    ):
        before, after = station(bare), station(more)
        assert served_of(after).share >= served_of(before).share - 1e-9
        assert (run_all(after)[:, :, 1].sum(axis=(0, 1))) >= run_all(before)[:, :, 1].sum(axis=(0, 1)) - 1e-6


def test_a_typed_bank_temperature_is_that_of_a_cold_day() -> None:
    """The capacity took it for a cold day and the hours for the month's mean: one of them was wrong by 1.28 σ."""
    found = station(lithium(cold_c=KnownCelsius(value=2.0)))
    hard = found.months == found.hard_month - 1
    hours = found.bank_c[:, hard]
    colder = float((hours.reshape(found.years, -1, 24).mean(axis=2) < 2.0).mean())
    assert 0.0 < colder < 0.25


# -- what the document holds -------------------------------------------------------------------------------------------


def test_a_panels_own_noct_heats_its_cells() -> None:
    """[P] ΔT = (NOCT − 20) / 800 · 1000 on a free rack; 45 °C is the usual 31 K."""
    cool, hot = (
        evaluate(
            with_first_string(harrier_ridge(), controller="mppt", module=Module(noct_c=KnownCelsius(value=noct)))
        ).number("array.harvest_ah.01")
        for noct in (40.0, 55.0)
    )
    assert cool is not None
    assert hot is not None
    assert hot < cool


def test_a_controllers_own_drop_asks_for_more_volts() -> None:
    lossy = with_first_string(harrier_ridge(), regulator=Regulator(drop_v=KnownVolts(value=1.5)))
    before, after = (
        evaluate(design).number("array.string.hut-north-wall.need_v") for design in (harrier_ridge(), lossy)
    )
    assert before is not None
    assert after == pytest.approx(before + 1.1)


@pytest.mark.parametrize(
    ("regulator", "key", "severity"),
    [
        ({"absorb_v": KnownVolts(value=15.6)}, "array.absorb_high.hut-north-wall", "stop"),
        ({"absorb_v": KnownVolts(value=13.5)}, "array.absorb_low.hut-north-wall", "fix"),
        ({"float_v": KnownVolts(value=14.2)}, "array.float_high.hut-north-wall", "fix"),
        ({"max_array_w": KnownWatts(value=100.0)}, "array.watts.hut-north-wall", "fix"),
    ],
)
def test_what_is_keyed_in_is_judged(regulator: dict[str, Any], key: str, severity: str) -> None:
    assert ids(with_first_string(harrier_ridge(), regulator=Regulator(**regulator)))[key] == severity


def test_a_measured_resistance_and_exponent_take_the_usual_ones_place() -> None:
    """[closed form] two units of 20 mΩ in parallel are 10 mΩ at 25 °C, and no exponent takes nothing away."""
    warm = with_bank(
        PLACED,
        unit_milliohm=20.0,
        peukert_k=1.0,
        series=1,
        parallel=2,
        cold_c=KnownCelsius(value=25.0),
        housing="indoors",
    )
    report = evaluate(warm)
    assert report.number("store.resistance_ohm") == pytest.approx(10.0)
    assert report.number("store.after_rate_ah") == pytest.approx(report.number("store.after_health_ah"))


@pytest.mark.parametrize(
    ("changed", "key"),
    [
        ({"condition": "aged"}, "array.aged.hut-north-wall"),
        ({"blocking_diode": True}, "array.diode.hut-north-wall"),
    ],
)
def test_what_was_silent_is_said(changed: dict[str, Any], key: str) -> None:
    if "condition" in changed:
        changed = {"module": Module(condition="aged")}
    assert key in ids(with_first_string(harrier_ridge(), **changed))


def test_a_fan_that_runs_all_day_is_said() -> None:
    assert "draw.fan.fan" in ids(with_loads(PLACED, load("fan", 0.2, kind="fan", hours_per_day=24.0)))


def test_a_pack_charged_in_one_switch_position_alone_is_said() -> None:
    pack = PowerPack(id="pack", name="Pack", energy_wh=KnownWattHours(value=900.0))
    paths = [
        ChargePath(source="hut-north-wall", bank="main"),
        ChargePath(source="hut-north-wall", bank="pack", position="2"),
    ]
    assert "store.selected.pack" in ids(with_store(PLACED, packs=[pack], paths=paths))


def test_unlike_planes_on_one_tracker_are_said() -> None:
    both = joined(with_first_string(quay_street(), controller="mppt"))
    first, second = both.array.strings
    assert "array.planes.two" not in ids(both)
    assert "array.planes.two" in ids(with_array(both, strings=[first, second.model_copy(update={"azimuth_deg": 90.0})]))


# -- what put it out ---------------------------------------------------------------------------------------------------


def days_dark(design: Design) -> str:
    found = find(evaluate(design), "rehearse.days")
    assert found is not None
    return found.why


def test_a_dull_run_is_named_with_its_sun() -> None:
    assert "dull run" in days_dark(PLACED)


def test_a_bank_too_cold_to_charge_is_named() -> None:
    assert "too cold to be charged" in days_dark(lithium(cold_c=KnownCelsius(value=-15.0)))


def test_a_wait_for_a_hand_is_named() -> None:
    design = with_bank(PLACED, restart="by_hand")
    assert "waited for a hand" in days_dark(design)


def test_what_more_panel_or_bank_would_do_was_tried() -> None:
    """“More panel does less” was said wherever it went dark before dawn; on the demo it does ten times more."""
    model = StationModel(PLACED)
    hours = hourly_station(model, 10)
    assert hours is not None
    panel, bank = (round(served_of(hours, **{scale: 1.5}).dark_hours_a_year) for scale in ("panel_scale", "bank_scale"))
    why = days_dark(PLACED)
    assert f"panel again leaves {panel} hours" in why
    assert f"bank again {bank} hours" in why


def test_a_layer_that_nothing_joins_is_not_counted() -> None:
    assert station(with_layer(quay_street(), joining="apart")).rules.reserve_ah == 0.0
    for joining, counted in (("automatic", True), ("apart", False)):
        store = evaluate(with_layer(quay_street(), joining=joining)).store
        assert store is not None
        assert (store.layered is not None) == counted
