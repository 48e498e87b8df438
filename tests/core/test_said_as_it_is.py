"""Sentences that were not so, each kept as a case."""

import pytest

from tests.core.judged import charged_by, find, ids
from tests.samples import (
    beech_hut,
    harrier_ridge,
    load,
    quay_street,
    with_bank,
    with_loads,
    with_string,
)
from yonderstat.core import evaluate, propose
from yonderstat.core.bus import box_heat
from yonderstat.core.bus.model import school_of
from yonderstat.core.changes import Change, Gain
from yonderstat.core.data import rows_by
from yonderstat.core.design import (
    Box,
    BusRun,
    ChargePath,
    Charger,
    Design,
    KnownAmps,
    KnownLength,
    KnownUsableShare,
    KnownVolts,
    KnownWattHours,
    KnownWatts,
    KnownWire,
    Module,
    PanelReading,
    Place,
    PowerPack,
    Rail,
    Regulator,
    RunFuse,
    with_array,
    with_bus,
    with_draw,
    with_store,
)
from yonderstat.core.log import meaning_of, read_line
from yonderstat.core.station import StationModel
from yonderstat.core.store import freezes_at_c
from yonderstat.core.words import apart, hours_and_minutes

NORTH = Place(latitude_deg=57.1, longitude_deg=-4.7)


def test_a_gain_below_its_rounding_is_no_gain() -> None:
    assert not Gain("set_volts", 11.72, 11.74).helps
    assert not Gain("days_without_sun", 2.0, 2.04).helps
    assert not Gain("covered", 0.05, 0.054, "December").helps
    assert Gain("dark_hours_a_year", 300.0, 299.0).helps
    assert not Gain("dark_hours_a_year", 300.0, 299.8).helps


def remedies_of(design: Design, key: str) -> tuple[Change, ...]:
    (finding,) = [item for item in evaluate(design).findings if item.id == key]
    return finding.remedies


def test_a_lean_month_is_not_mended_by_one_per_cent() -> None:
    """31: “1 % of December”, tilting a glued panel, MPPT for 20 W."""
    poor = with_string(
        harrier_ridge(),
        module=Module(watts={"value": 20.0}),
        parallel=1,
        series=1,
        controller="pwm",
    )  # type: ignore[arg-type]
    assert remedies_of(poor, "array.short") == ()
    free, glued = (remedies_of(design, "array.short") for design in
                   (harrier_ridge(), with_string(harrier_ridge(), fitted="glued")))  # fmt: skip
    assert [remedy for remedy in free if "tilt" in remedy.label]
    assert glued
    assert not [remedy for remedy in glued if "tilt" in remedy.label]
    for remedy in free + glued:
        assert remedy.gain is not None
        assert remedy.gain.after - remedy.gain.before >= 0.1 * (1.0 - remedy.gain.before)  # type: ignore[operator]


def test_a_spell_asks_for_no_more_batteries_than_carry_it() -> None:
    """31: “13 in parallel” where 5 do: the sun of the days away counts."""
    design = with_bank(propose("trailer", "deployment", NORTH), parallel=1)
    finding = find(evaluate(design), "rehearse.spell")
    if finding is None or not finding.remedies:
        return
    units = finding.remedies[0].patch[0].value
    fewer = evaluate(with_bank(design, parallel=units - 1))
    assert fewer.rehearsed is not None
    assert (fewer.number(fewer.rehearsed.share) or 0.0) < 0.9


def test_panels_that_read_unlike_are_said() -> None:
    """31: 21.5 and 12.0 V raised nothing."""
    readings = [
        PanelReading(panel="1", v_oc=21.5, i_sc=5.0),
        PanelReading(panel="2", v_oc=12.0, i_sc=5.0),
    ]
    string = harrier_ridge().array.strings[0]
    design = with_string(
        harrier_ridge(), module=string.module.model_copy(update={"readings": readings})
    )
    assert ids(design)[f"array.unlike_readings.{string.id}"] == "fix"


def test_a_source_that_never_fills_is_not_too_fast() -> None:
    """31: “12.3 V never fills it” and “75 A is too fast” stood in one report."""
    supply = {
        "kind": "bench_supply",
        "amps": KnownAmps(value=300.0),
        "volts": KnownVolts(value=12.3),
    }
    found = ids(with_bank(charged_by(harrier_ridge(), **supply), parallel=1))
    assert "array.source_low.c" in found
    report = evaluate(with_bank(charged_by(harrier_ridge(), **supply), parallel=1))
    fast = find(report, "store.charge_fast")
    assert fast is None or "300" not in fast.sentence


def test_a_packs_idle_is_counted_once() -> None:
    pack = PowerPack(id="pack", name="Pack", energy_wh=KnownWattHours(value=500.0))
    paths = [*quay_street().store.paths, ChargePath(source="main", bank="pack")]
    finding = find(
        evaluate(with_store(quay_street(), packs=[pack], paths=paths)), "store.cascade.pack"
    )
    assert finding is not None
    report = evaluate(quay_street())
    assert report.store is not None
    share = 500.0 / 0.85 / report.working[report.store.usable_wh].number
    assert f"{100.0 * share:.0f} %" in finding.sentence


def test_a_time_is_told_as_it_was_read() -> None:
    """31: “ran 4h30” was answered “4 hours”."""
    assert [hours_and_minutes(value) for value in (4.5, 0.75, 5.0, 0.0)] == [
        "4 h 30 min",
        "45 min",
        "5 h",
        "0 min",
    ]


def test_two_figures_are_told_apart() -> None:
    assert apart(10.3, 10.0, "A") == ("10.3 A", "10 A")
    assert apart(10.004, 10.0, "A") == ("10.004 A", "10 A")
    assert apart(23000.0, 20000.0, "A") == ("23,000 A", "20,000 A")


def test_wire_is_that_of_the_country_whether_or_not_its_clock_is_known() -> None:
    """13: a country without a stored time zone got metric tables."""
    for lat, lon, school in (
        (40.0, -105.0, "nec"),
        (61.2, -149.9, "nec"),
        (51.5, -0.1, "iec"),
        (-34.0, -58.0, "iec"),
    ):
        assert school_of(Design(place=Place(latitude_deg=lat, longitude_deg=lon))) == school


def test_a_box_in_the_sun_gives_most_of_it_back() -> None:
    """28: 18 to 25 K too hot: the sunlit face lost nothing to the air."""
    sunny, shaded = (box_heat(Box(in_sun=lit), 0.0, 30.0).rise_k for lit in (True, False))
    assert 8.0 < sunny - shaded < 14.0
    assert box_heat(Box(in_sun=True, clear=True), 0.0, 30.0).rise_k > 2.0 * sunny


def test_a_fan_that_stops_is_a_figure() -> None:
    document = with_bank(quay_street())
    box = Box(in_sun=True, clear=True, fan_m3_h=100.0)
    report = evaluate(
        document.model_copy(update={"bus": document.bus.model_copy(update={"box": box})})
    )
    assert report.bus.box is not None
    closed = report.number(report.bus.box.closed_c)
    hottest = report.number(report.bus.box.hottest_c)
    assert closed is not None
    assert hottest is not None
    assert closed > hottest + 5.0


def test_a_frost_out_of_season_is_no_matter_of_a_summer_station() -> None:
    """23: a January frost was a Stop for a station used in summer."""
    base = propose("unattended", "continuous", Place(latitude_deg=47.0, longitude_deg=9.5))
    cold = with_bank(base, chemistry="lifepo4", unit_v=12.8, housing="outdoors", cold_c=None)
    assert "store.lithium_frost" in ids(cold)
    summer = cold.model_copy(update={"brief": cold.brief.model_copy(update={"months": [7, 8]})})
    assert "store.lithium_frost" not in ids(summer)


def test_discharged_acid_freezes() -> None:
    """36: about −8 °C empty, −25 °C half, −60 °C full, from memory."""
    assert [freezes_at_c(share) for share in (0.0, 0.5, 1.0)] == [-8.0, -25.0, -60.0]
    base = propose("unattended", "continuous", Place(latitude_deg=65.0, longitude_deg=25.5))
    lead = with_bank(base, chemistry="flooded", unit_v=12.0, housing="outdoors", cold_c=None,
                     depth=KnownUsableShare(value=0.9))  # fmt: skip
    assert "store.freezes" in ids(lead)
    assert "store.freezes" not in ids(with_bank(lead, housing="indoors"))


def test_what_a_heater_keeps_off_is_said() -> None:
    """24: what if the heater stops."""
    base = propose("unattended", "continuous", Place(latitude_deg=65.0, longitude_deg=25.5))
    assert "store.heater_stops" in ids(
        with_bank(base, chemistry="lifepo4", unit_v=12.8, housing="heated")
    )


def test_loads_that_count_as_off_are_named() -> None:
    """20: they dropped out without a word."""
    design = beech_hut()
    screens = load("screens", 2.0, needs=["mains"], tier="comfort").model_copy(
        update={"name": "Screens"}
    )
    loads = [design.draw.loads[0], screens]
    finding = find(evaluate(design.model_copy(update={"draw": design.draw.model_copy(update={"loads": loads})})),
                   "draw.switch_off")  # fmt: skip
    assert finding is not None
    assert "Screens" in finding.sentence
    assert "48 Ah a day" in finding.sentence


@pytest.mark.parametrize(
    ("panels", "first"),
    [(True, "Disconnect the panels first"), (False, "Switch chargers off first")],
)
def test_what_charges_is_opened_before_a_selector_is_turned(panels: bool, first: str) -> None:
    """15: “do not stop at off while a source charges” alone."""
    design = with_array(harrier_ridge(), chargers=[Charger(id="c", name="C", kind="selector")])
    design = design if panels else with_array(design, strings=[])
    (card,) = [card for card in evaluate(design).bus.cards if card.id == "selector"]
    steps = [step.text for step in card.steps]
    opened = next(place for place, step in enumerate(steps) if step.startswith(first))
    assert opened < next(
        place for place, step in enumerate(steps) if "off" in step and "without stopping" in step
    )


def test_cautions_stand_where_they_are_needed() -> None:
    """36: acid in a vehicle, a charger left alone, tools from a mast, a panel with an inverter
    built in."""
    flooded = with_bank(propose("vehicle", "mobile", NORTH), chemistry="flooded", unit_v=12.0)
    said = {caution.text[:20] for caution in evaluate(flooded).cautions}
    assert any(text.startswith("Flooded cells in a ") for text in said)
    mains = with_array(harrier_ridge(), chargers=[Charger(id="c", name="C")])
    assert any("left alone" in caution.text for caution in evaluate(mains).cautions)
    hill = propose("unattended", "continuous", NORTH)
    assert any("below a mast" in caution.text for caution in evaluate(hill).cautions)
    string = harrier_ridge().array.strings[0]
    own = with_string(
        harrier_ridge(), module=string.module.model_copy(update={"own_inverter": True})
    )
    assert any("inverter built in" in caution.text for caution in evaluate(own).cautions)


def test_too_many_volts_are_no_full() -> None:
    """30: “15.2 V” was read as full."""
    model = StationModel(harrier_ridge())
    report = evaluate(harrier_ridge())
    bus_v = model.bus_v / 12.0
    said = meaning_of(read_line(f"{15.4 * bus_v:.1f} rest 3h"), model, report)
    assert "above" in said.words
    assert "full" not in said.words.lower()
    usual = meaning_of(read_line(f"{12.6 * bus_v:.1f} rest 3h"), model, report)
    assert "above the" not in usual.words


def test_a_pack_nobody_charges_counts_for_one_night() -> None:
    """21: it counted in every night, and once in the rehearsal."""
    hut = beech_hut().model_copy(
        update={"brief": beech_hut().brief.model_copy(update={"attended": "present"})}
    )
    pack = PowerPack(id="pack", name="Pack", energy_wh=KnownWattHours(value=2000.0))
    with_pack = with_store(hut, packs=[pack])
    one, two = evaluate(hut), evaluate(with_pack)
    assert one.night is not None
    assert two.night is not None
    assert two.number(two.night.share) == pytest.approx(one.number(one.night.share))


def test_a_set_that_a_supply_feeds_is_checked_for_volts() -> None:
    """10: 12.3 V into a window of 12.42."""
    set_ = load(
        "set", 1.0, kind="hf_set", transmit_a=21.0, rated_w=100.0, transmit_share=0.2, window="10"
    )
    supply = {
        "kind": "bench_supply",
        "amps": KnownAmps(value=30.0),
        "volts": KnownVolts(value=12.5),
    }
    found = ids(charged_by(with_loads(quay_street(), set_), **supply))
    assert found["bus.supply_volts.c.set"] == "fix"
    high = supply | {"volts": KnownVolts(value=13.8)}
    assert "bus.supply_volts.c.set" not in ids(charged_by(with_loads(quay_street(), set_), **high))


def test_a_set_behind_an_outlet_is_checked_like_any_other() -> None:
    rail = Rail(id="outlet", name="Outlet", volts=KnownVolts(value=12.0), efficiency=KnownUsableShare(value=1.0),
                converter="outlet")  # fmt: skip
    set_ = load(
        "set", 1.0, kind="hf_set", transmit_a=21.0, rated_w=100.0, transmit_share=0.2, rail="outlet"
    )
    design = with_draw(with_loads(quay_street(), set_), rails=[rail])
    item = StationModel(design).bus.of_load("set")
    assert item is not None
    assert item.window is not None


def test_a_gain_that_nobody_would_string_for_is_no_percentage() -> None:
    """31: “MPPT brings 183 % more” against panels nobody would string so on PWM."""
    high = with_string(
        harrier_ridge(), module=Module(watts=KnownWatts(value=250.0), cells=60), series=2
    )
    words = evaluate(high).charging.beside_takeaway
    assert "%" not in words
    assert "you would wire them differently" in words


def test_nobody_clips_but_a_tracker() -> None:
    """31: the clipping of a tracker was told to owners of PWM controllers."""
    limit = Regulator(max_charge_a=KnownAmps(value=5.0))
    for kind, clipped in (("pwm", False), ("mppt", True)):
        report = evaluate(with_string(harrier_ridge(), controller=kind, regulator=limit))
        name = harrier_ridge().array.strings[0].id
        finding = find(report, f"array.clips.{name}")
        assert finding is not None
        assert ("cuts off the excess" in finding.why) == clipped
        told = [
            item.words
            for key, item in report.working.items()
            if key.startswith(f"array.string.{name}.ah.")
        ]
        assert told
        assert all(("held to the controller" in words) == clipped for words in told)


def test_no_smaller_fuse_is_advised_where_it_would_blow() -> None:
    """31: a smaller fuse against a hot wire that carries more than the smaller one holds."""
    set_ = load("set", 1.0, transmit_a=21.0, rated_w=100.0, transmit_share=0.5, mode="fm")
    for mm2, smaller in ((1.5, False), (6.0, True)):
        row = BusRun(
            id="load-set",
            mm2=KnownWire(value=mm2),
            fuse=RunFuse(kind="blade", rating_a=KnownAmps(value=100.0)),
        )
        finding = find(
            evaluate(with_bus(with_loads(quay_street(), set_), runs=[row])),
            "bus.fuse_above.load-set",
        )
        assert finding is not None
        assert ("Fit a smaller one" in finding.why) == smaller
        fuses = [item for item in finding.remedies if "fuse" in item.label.lower()]
        assert bool(fuses) == smaller


def test_what_an_ideal_diode_costs_is_our_own_figure() -> None:
    """31: “costs none” beside our own 0.02 V."""
    finding = find(evaluate(charged_by(quay_street(), kind="bench_supply")), "array.back_feed.c")
    assert finding is not None
    assert "almost nothing" in finding.why
    assert 0.0 < float(rows_by("changeovers", "changeover")["ideal_diode"]["drop_v"]) < 0.1


def test_hydrogen_is_lead_s() -> None:
    """31: the caution stood beside lithium."""
    for chemistry, there in (("lifepo4", False), ("agm", True)):
        volts = 12.8 if chemistry == "lifepo4" else 12.0
        report = evaluate(with_bank(beech_hut(), chemistry=chemistry, unit_v=volts))
        assert any("Hydrogen" in item.text for item in report.cautions) == there


def test_a_display_is_not_quoted_beside_what_was_typed() -> None:
    """31: “its own display says 14.5” beside 13.49 typed: the volts that are told are those
    typed."""
    design = charged_by(
        quay_street(),
        kind="bench_supply",
        volts=KnownVolts(value=13.49, basis="label"),
        shows="shows 14.5 V",
    )
    finding = find(evaluate(design), "bus.display.c")
    assert finding is not None
    assert "13.49 V" in finding.sentence
    assert "14.5" not in finding.sentence + finding.why


@pytest.mark.parametrize("float_v", [13.5, 14.0])
def test_the_most_a_bank_floats_at_is_one_figure(float_v: float) -> None:
    """31: “it floats at 14.0” beside 13.5: the highest school's float is the limit, told with
    it."""
    report = evaluate(
        with_string(quay_street(), regulator=Regulator(float_v=KnownVolts(value=float_v + 0.3)))
    )
    assert report.store is not None
    most = max(item.float_v for item in report.store.settings if item.float_v)
    finding = find(report, f"array.float_high.{quay_street().array.strings[0].id}")
    assert (finding is not None) == (float_v + 0.3 > most + 0.15)
    if finding is not None:
        assert f"{most:.1f} V at most" in finding.sentence


def test_a_fuse_near_the_post_is_told_in_metres() -> None:
    """31: “within a hand of the post” stood for 0.3 m."""
    fuse = RunFuse(rating_a=KnownAmps(value=60.0), from_start_m=KnownLength(value=1.0))
    finding = find(
        evaluate(with_bus(quay_street(), runs=[BusRun(id="main", fuse=fuse)])), "bus.fuse_far.main"
    )
    assert finding is not None
    assert "within {0.3 m} of the post" in finding.why
