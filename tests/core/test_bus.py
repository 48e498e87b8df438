"""Bus: from the battery post to the radio. Small stations, each showing one thing."""

from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.judged import PLACED, find, ids
from tests.core.test_findings import patched
from tests.samples import load, packhorse, quay_street, with_bank, with_loads
from yonderstat.core import evaluate
from yonderstat.core.bus import Carried, Laid, grade_of, lowest_given_v, proposed_gauge
from yonderstat.core.design import (
    BusRun,
    Design,
    InvalidDesignError,
    KnownAmps,
    KnownLength,
    KnownUsableShare,
    KnownVolts,
    KnownWire,
    Limits,
    Place,
    Rail,
    RunFuse,
    RunPart,
    design_from_document,
    document_of,
    with_bus,
    with_draw,
)
from yonderstat.core.electrical import NARROW, ampacity_a, loop_drop_v, tradition
from yonderstat.core.rehearse import Happening, Scene, rehearse
from yonderstat.core.rehearse.playing import play
from yonderstat.core.rehearse.scene_report import stage_of
from yonderstat.core.station import StationModel

SET = load("set", 1.0, transmit_a=20.0, transmit_share=0.1, rated_w=100.0, kind="hf_set")
ALONE = with_loads(PLACED, SET)


def with_runs(design: Design, *runs: BusRun) -> Design:
    return with_bus(design, runs=list(runs))


def laid_run(
    run_id: str, length_m: float | None = None, mm2: float | None = None, **more: Any
) -> BusRun:
    return BusRun(
        id=run_id,
        length_m=KnownLength(value=length_m, basis="measured") if length_m is not None else None,
        mm2=KnownWire(value=mm2, basis="label") if mm2 is not None else None,
        **more,
    )


def keyed_v(design: Design, key: str = "set") -> tuple[float, float, float]:
    found = StationModel(design).bus.of_load(key)
    assert found is not None
    return found.keyed_v


# -- volts
# -------------------------------------------------------------------------------------------------------------


def test_what_is_lost_on_the_way_is_what_is_missing_at_the_set() -> None:
    """Rested volts less the inside of the bank and every hop are the volts at the load, in all four
    cases."""
    for design in (quay_street(), packhorse(), ALONE):
        for item in StationModel(design).bus.loads:
            if item.item.rail is not None:
                continue
            lost = item.bank_v + item.walk_v.sum(axis=0)
            left = [item.receive_v[0], item.keyed_v[0], item.receive_v[2], item.keyed_v[2]]
            rested = np.array([item.rest_v[0], item.rest_v[0], item.rest_v[2], item.rest_v[2]])
            assert rested - lost == pytest.approx(left, abs=1e-4)


def test_currents_close_at_every_node() -> None:
    """Kirchhoff: what flows in a run is what flows in the runs that begin at its end and in what
    hangs on it."""
    station = StationModel(quay_street())
    solved = station.bus.loads[0].reach.solved
    runs = {run.leg.id: place for place, run in enumerate(station.bus.runs)}
    ends = [int(row.nonzero()[0][-1]) for row in solved.network.paths]
    for run in station.bus.runs:
        below = [
            place
            for place, other in enumerate(station.bus.runs)
            if other.leg.fed_from == run.leg.id
        ]
        taps = [number for number, end in enumerate(ends) if end == runs[run.leg.id]]
        if below or taps:
            own = solved.amps[taps].sum(axis=0)
            assert solved.run_amps[runs[run.leg.id]] == pytest.approx(
                solved.run_amps[below].sum(axis=0) + own
            )


@settings(max_examples=25, deadline=None)
@given(
    st.floats(0.1, 30.0), st.floats(0.1, 10.0), st.sampled_from([1.5, 2.5, 4.0, 6.0, 10.0, 16.0])
)
def test_longer_or_thinner_never_raises_the_volts(
    length_m: float, more_m: float, mm2: float
) -> None:
    near = keyed_v(with_runs(ALONE, laid_run("load-set", length_m, mm2)))
    far = keyed_v(with_runs(ALONE, laid_run("load-set", length_m + more_m, mm2)))
    thick = keyed_v(with_runs(ALONE, laid_run("load-set", length_m, mm2 * 1.6)))
    for level in range(3):
        assert far[level] <= near[level] + 1e-6
        assert thick[level] >= near[level] - 1e-6


def test_a_narrow_window_fails_on_half_a_lead_bank_and_passes_behind_a_converter() -> None:
    """[C] lead at half charge fails a ±10 % set; a regulated converter holds it."""
    narrow = with_loads(PLACED, SET.model_copy(update={"window": "10"}))
    assert grade_of(keyed_v(narrow)[1], NARROW) != "full"
    assert ids(narrow)["bus.under_volts.set"] == "fix"
    finding = find(evaluate(narrow), "bus.under_volts.set")
    assert finding is not None
    converter = next(
        change for change in finding.remedies if "only set through a converter" in change.label
    )
    assert converter.gain is not None
    assert converter.gain.after == pytest.approx(13.8)


def test_a_converter_gives_nothing_below_its_window() -> None:
    rail = Rail(
        id="up",
        name="Booster",
        volts=KnownVolts(value=13.8),
        efficiency=KnownUsableShare(value=0.9),
        converter="boost",
        least_in_v=KnownVolts(value=12.4),
    )
    design = with_draw(with_loads(PLACED, SET.model_copy(update={"rail": "up"})), rails=[rail])
    found = StationModel(design).bus.of_load("set")
    assert found is not None
    assert found.keyed_v[0] in {0.0, 13.8}
    assert found.keyed_v[2] == 0.0
    given = lowest_given_v(StationModel(design).bus, "up")
    assert given is not None
    assert given < 12.4
    assert ids(design)["bus.dropout.up"] == "fix"


def test_sets_that_never_key_together_do_not_sag_each_other() -> None:
    one = SET.model_copy(update={"interlock": "operator"})
    runs = [laid_run("main", 1.0, 16.0), laid_run("load-set", 2.0, 10.0)]
    parted, together = (
        keyed_v(
            with_runs(
                with_loads(PLACED, item, item.model_copy(update={"id": "two", "name": "two"})),
                *runs,
            )
        )
        for item in (one, SET)
    )
    assert together[1] < parted[1] - 0.05


def test_the_power_a_bank_carries_is_held_to_what_it_may_give() -> None:
    free = StationModel(ALONE).bus.of_load("set")
    limits = Limits(max_discharge_a=KnownAmps(value=5.0))
    held = StationModel(with_bank(ALONE, limits=limits)).bus.of_load("set")
    assert free is not None
    assert held is not None
    assert free.most_w[0] is not None
    assert held.most_w[0] is not None
    assert held.most_w[0] < free.most_w[0]


# -- conductors
# --------------------------------------------------------------------------------------------------------


@settings(max_examples=80, deadline=None)
@given(
    st.sampled_from(["nec", "iec"]),
    st.floats(0.1, 40.0),
    st.floats(0.1, 120.0),
    st.floats(0.1, 1.0),
    st.floats(10.0, 55.0),
)
def test_a_proposed_gauge_passes_and_the_next_thinner_fails(
    school: Any, length_m: float, peak_a: float, share: float, ambient_c: float
) -> None:
    book = tradition(school)
    laid, carried = (
        Laid(
            length_m=length_m,
            drop_share=0.03,
            insulation_c=60 if school == "nec" else 70,
            ambient_c=ambient_c,
            bundled=2,
        ),
        Carried(share * peak_a, peak_a),
    )
    gauge = proposed_gauge(book, laid, carried, 12.0)

    def passes(mm2: float) -> bool:
        strong = mm2 >= book.least_mm2 - 1e-9
        cool = ampacity_a(book, mm2, laid.insulation_c, ambient_c, 2) >= gauge.fuse_a - 1e-9
        return strong and cool and loop_drop_v(length_m, mm2, peak_a) <= 0.03 * 12.0 + 1e-9

    if gauge.binds == "nothing":
        assert not any(passes(size.mm2) for size in book.sizes)
        return
    assert passes(gauge.mm2)
    thinner = [size.mm2 for size in book.sizes if size.mm2 < gauge.mm2]
    assert not thinner or not passes(thinner[-1])


def test_our_own_wiring_earns_nothing_from_our_rules() -> None:
    """Where nothing is typed all of it is proposed, and no proposal is too thin, unfused or wrongly
    fused."""
    for design in (quay_street(), packhorse(), ALONE):
        found = ids(with_bus(design, runs=[], panel_switch="yes"))
        proposed = {key for key, severity in found.items() if severity in {"stop", "fix"}}
        assert not {key for key in proposed if key.startswith("bus.") and "under_volts" not in key}


# -- findings
# ----------------------------------------------------------------------------------------------------------

NO_FUSE, BIG = RunFuse(kind="none"), RunFuse(kind="blade", rating_a=KnownAmps(value=40.0))
SMALL = RunFuse(kind="blade", rating_a=KnownAmps(value=10.0))


@pytest.mark.parametrize(
    ("run", "finding", "severity"),
    [
        (laid_run("main", fuse=NO_FUSE), "bus.no_fuse.main", "stop"),
        (laid_run("load-set", 2.0, 1.5, fuse=NO_FUSE), "bus.no_fuse.load-set", "fix"),
        (laid_run("load-set", 2.0, 2.5, fuse=BIG), "bus.fuse_above.load-set", "stop"),
        (laid_run("load-set", 2.0, 1.5), "bus.wire_hot.load-set", "fix"),
        (laid_run("load-set", fuse=SMALL), "bus.fuse_small.load-set", "fix"),
        (
            laid_run("load-set", fuse=RunFuse(dc_v=KnownVolts(value=12.0))),
            "bus.fuse_volts.load-set",
            "fix",
        ),
        (laid_run("main", fuse=RunFuse(kind="glass")), "bus.interrupt.main", "fix"),
        (
            laid_run("main", fuse=RunFuse(kind="post", from_start_m=KnownLength(value=1.5))),
            "bus.fuse_far.main",
            "fix",
        ),
        (laid_run("load-set", 12.0, 4.0), "bus.drop.load-set", "fix"),
        (laid_run("load-set", 2000.0), "bus.nothing_fits.load-set", "mind"),
        (laid_run("charge-s1", fed_from="main"), "bus.shared_leads.charge-s1", "fix"),
        (laid_run("load-set", connector="barrel"), "bus.connector.load-set", "fix"),
        (laid_run("load-set", connector="clips"), "bus.polarity.load-set", "mind"),
        (laid_run("load-gone", 2.0), "bus.row.load-gone", "mind"),
        (laid_run("load-set", fed_from="block-nowhere"), "bus.row.load-set", "fix"),
    ],
)
def test_what_is_wrong_is_said(run: BusRun, finding: str, severity: str) -> None:
    strings = [string.model_copy(update={"id": "s1"}) for string in ALONE.array.strings]
    design = ALONE.model_copy(update={"array": ALONE.array.model_copy(update={"strings": strings})})
    assert ids(with_runs(design, run))[finding] == severity


def test_every_remedy_of_the_bus_ends_its_finding() -> None:
    bad = with_runs(
        ALONE, laid_run("main", fuse=NO_FUSE), laid_run("load-set", 12.0, 2.5, fuse=BIG)
    )
    report = evaluate(bad)
    for finding in report.findings:
        if finding.step != "bus" or finding.id.startswith("bus.under_volts"):
            continue
        for change in finding.remedies:
            assert finding.id not in ids(patched(bad, change.patch)), (finding.id, change.label)


def test_what_is_asked_of_a_look_is_a_finding_only_where_the_look_says_so() -> None:
    silent = ids(ALONE)
    assert not {"bus.panel_switch", "bus.earthed", "bus.shunt"} & silent.keys()
    looked = ids(with_bus(ALONE, panel_switch="no", earthed="no", all_through_shunt="no"))
    assert {"bus.panel_switch", "bus.earthed", "bus.shunt"} <= looked.keys()


@pytest.mark.parametrize(
    ("box", "found"),
    [
        ({"in_sun": True, "clear": True, "inside_w": {"value": 40.0}}, "bus.box_hot"),
        ({"conductive_wrap": True}, "bus.box_wrap"),
        ({"ingress": "ip67"}, "bus.box_sealed"),
    ],
)
def test_the_box_is_judged(box: dict[str, Any], found: str) -> None:
    document = document_of(ALONE)
    document["bus"]["box"] = box
    assert found in ids(design_from_document(document))


def test_a_fan_cools_the_box() -> None:
    document = document_of(ALONE)
    rises = []
    for more in ({}, {"fan_m3_h": 60.0}):
        document["bus"]["box"] = {"inside_w": {"value": 40.0}, **more}
        report = evaluate(design_from_document(document))
        assert report.bus.box is not None
        rises.append(report.number(report.bus.box.rise_k) or 0.0)
    assert rises[1] < 0.5 * rises[0]


# -- bad input
# ---------------------------------------------------------------------------------------------------------


def test_a_loop_is_a_named_fault() -> None:
    document = document_of(ALONE)
    document["bus"]["runs"] = [
        {"id": "block-a", "fed_from": "block-b"},
        {"id": "block-b", "fed_from": "block-a"},
    ]
    with pytest.raises(InvalidDesignError) as caught:
        design_from_document(document)
    assert caught.value.faults[0].pointer == "/bus"
    assert "a loop" in caught.value.faults[0].message


def test_a_loop_through_what_is_proposed_is_said_and_the_rest_is_judged() -> None:
    """The main run hung on a load's run, which hangs on the main one."""
    looped = with_runs(ALONE, laid_run("main", fed_from="load-set"))
    assert ids(looped)["bus.row.main"] == "fix"
    assert keyed_v(looped) == pytest.approx(keyed_v(ALONE))


def test_odd_stations_get_an_answer() -> None:
    """Nothing to run, no length at all, a hundred loads, two kilometres of thin wire."""
    many = [load(f"l{number}", 0.1) for number in range(100)]
    for design in (
        Design(),
        with_loads(PLACED),
        with_runs(ALONE, laid_run("main", 0.0), laid_run("load-set", 0.0)),
        with_loads(PLACED, *many),
        with_runs(ALONE, laid_run("load-set", 2000.0, 0.5)),
        with_runs(ALONE, laid_run("load-set", parts=[RunPart(kind="diode")] * 12)),
    ):
        report = evaluate(design)
        for figure in report.working.values():
            assert figure.value is None or np.isfinite(figure.value), figure.key


def test_a_block_of_ones_own_feeds_what_is_hung_on_it() -> None:
    block = laid_run("block-2", 3.0, 10.0, name="Desk block")
    design = with_runs(ALONE, block, laid_run("load-set", fed_from="block-2"))
    found = StationModel(design).bus.of_load("set")
    assert found is not None
    assert [StationModel(design).bus.runs[place].leg.id for place in found.path] == [
        "main",
        "block-2",
        "load-set",
    ]
    assert found.keyed_v[0] < keyed_v(ALONE)[0]


# -- rehearsed
# ---------------------------------------------------------------------------------------------------------


def test_the_rehearsal_browns_out_where_the_bus_says_so() -> None:
    """Hour by hour: the volts of a keyed set at the charge of the hour, against a plain look-up of
    the Bus's own."""
    thin = with_runs(packhorse(), laid_run("load-hf-set", 6.0, 2.5))
    told = rehearse(thin, Scene(month=6, days=2, sky="none"))
    assert told is not None
    lane = next(lane for lane in told.lanes if lane.id == "hf-set")
    on = [hour for hour, letter in enumerate(lane.hours) if letter in "olb"]
    assert "b" in lane.hours
    assert any(
        "HF radio" in event.sentence and "transmitting" in event.sentence for event in told.events
    )
    item = StationModel(thin).bus.of_load("hf-set")
    assert item is not None
    assert item.window is not None
    first = on[0]
    full = grade_of(item.keyed_v[0], item.window)
    assert (lane.hours[first] == "b") == (full in {"odd", "off"})
    thick = rehearse(
        with_runs(packhorse(), laid_run("load-hf-set", 1.0, 16.0)),
        Scene(month=6, days=2, sky="none"),
    )
    assert thick is not None
    assert told.lowest_set_v is not None
    assert thick.lowest_set_v is not None
    assert told.working[told.lowest_set_v].number < thick.working[thick.lowest_set_v].number


def test_turned_down_a_set_stays_inside_its_window_longer() -> None:
    down = Happening(kind="low_power", from_h=0, to_h=48, amount=10.0)
    loud, quiet = (
        rehearse(packhorse(), Scene(month=6, days=2, sky="none", happenings=happenings))
        for happenings in ([], [down])
    )
    assert loud is not None
    assert quiet is not None

    def brown(report: Any) -> int:
        return sum(lane.hours.count("b") + lane.hours.count("l") for lane in report.lanes)

    assert brown(quiet) < brown(loud)


def test_a_set_on_a_thin_lead_browns_out_through_the_years() -> None:
    """The same wire, thick and thin: hours on are hours on, and only the thin one fails in them."""
    thin, thick = (
        evaluate(with_runs(ALONE, laid_run("load-set", 6.0, mm2), laid_run("main", 1.0, 16.0)))
        for mm2 in (1.5, 16.0)
    )
    assert thin.rehearsed is not None
    assert thick.rehearsed is not None
    (bad,), (good,) = thin.rehearsed.brown, thick.rehearsed.brown
    assert thin.number(bad.on_h) == pytest.approx(thick.number(good.on_h))
    assert (thin.number(bad.brown_h) or 0.0) > 100.0
    assert thick.number(good.brown_h) == 0.0
    assert (thin.number(bad.below_h) or 0.0) >= (thin.number(bad.brown_h) or 0.0)
    assert find(thin, "rehearse.brown.set") is not None
    assert find(thick, "rehearse.brown.set") is None


@pytest.mark.parametrize(
    ("latitude_deg", "longitude_deg", "zone", "school"),
    [
        (40.0, -105.0, "America/Denver", "nec"),
        (21.3, -157.9, "Pacific/Honolulu", "nec"),
        (-34.6, -58.4, "America/Argentina/Buenos_Aires", "iec"),
        (51.5, 0.0, "Europe/London", "iec"),
    ],
)
def test_tables_go_by_the_place(
    latitude_deg: float, longitude_deg: float, zone: str, school: str
) -> None:
    place = Place(latitude_deg=latitude_deg, longitude_deg=longitude_deg, time_zone=zone)
    there = ALONE.model_copy(update={"place": place})
    assert StationModel(there).bus.book.school == school
    assert StationModel(with_bus(there, school="iec")).bus.book.school == "iec"


def test_a_load_that_keeps_its_watts_takes_more_amps_as_the_bank_sags() -> None:
    """Lithium drained to its end stands under its nominal volts; what keeps its amps wants no
    more."""
    rail = Rail(
        id="up",
        name="Booster",
        volts=KnownVolts(value=13.8),
        efficiency=KnownUsableShare(value=0.9),
    )
    steady = load("steady", 3.0, hours_per_day=24.0)
    grows = steady.model_copy(update={"id": "grows", "name": "grows", "rail": "up"})

    def wanted(item: Any) -> tuple[np.ndarray, float]:
        design = with_draw(with_loads(quay_street(), item), rails=[rail])
        stage = stage_of(design, scene := Scene(month=6, days=2, sky="none"))
        assert stage is not None
        return play(design, stage, scene).wanted_a[:, 0], StationModel(design).draw.loads[
            0
        ].receive_a

    plain, plain_a = wanted(steady)
    grown, nominal_a = wanted(grows)
    assert plain == pytest.approx(plain_a)
    assert grown.min() >= nominal_a - 1e-9
    assert grown.max() > 1.01 * nominal_a
    assert grown[-1] >= grown[0]


def test_the_bank_stands_before_any_charger_and_an_inverter_is_charged_behind_the_open_switch() -> (
    None
):
    cards = {
        card.id: [step.text for step in card.steps] for card in evaluate(quay_street()).bus.cards
    }

    def at(card: str, word: str) -> int:
        return next(place for place, text in enumerate(cards[card]) if word in text)

    assert (
        at("connect", "main fuse F1")
        < at("connect", "the resistor")
        < at("connect", "Close the main switch")
    )
    assert (
        at("connect", "Close the main switch")
        < at("connect", "Connect Shed roof, controller")
        < at("connect", "Cover the panels")
    )
    assert at("disconnect", "Cover the panels") < at("disconnect", "Open the main switch")
