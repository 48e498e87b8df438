"""Wire, fuses and what lies in their way: what is proposed obeys what is typed rows' law, and
nothing is judged by wire nobody has."""

from typing import Any

import pytest

from tests.core.judged import find, ids
from tests.samples import harrier_ridge, load, quay_street, with_bank, with_loads, with_string
from yonderstat.core import evaluate, propose
from yonderstat.core.bus import fuse_for, most_fuse_a
from yonderstat.core.design import (
    Bank,
    BusRun,
    Design,
    KnownAmpHours,
    KnownAmps,
    KnownLength,
    KnownUsableShare,
    KnownVolts,
    KnownWatts,
    KnownWire,
    Layer,
    Place,
    Rail,
    RunFuse,
    RunPart,
    with_bus,
    with_draw,
    with_store,
)
from yonderstat.core.station import StationModel

SET = {"transmit_a": 21.0, "rated_w": 100.0, "transmit_share": 0.2, "mode": "cw"}


def station(chemistry: str = "agm", **more: Any) -> Design:
    """A set on the key beside a bank, its wire proposed."""
    lithium = {"unit_v": 12.8} if chemistry == "lifepo4" else {"unit_v": 12.0}
    design = with_bank(
        harrier_ridge(), chemistry=chemistry, series=1, depth=None, **lithium, **more
    )
    return with_bus(with_loads(design, load("set", 1.0, **SET)), runs=[])


def laid(design: Design, **row: Any) -> Design:
    return with_bus(design, runs=[BusRun(id="load-set", **row)])


def test_at_its_best_is_the_best_the_place_has() -> None:
    """2: cells at −40 °C made 16.4 A of 180 W everywhere, in Singapore as at 65° N."""
    hot, cold = (
        propose("home", "standby", Place(latitude_deg=lat, longitude_deg=lon))
        for lat, lon in ((1.3, 103.8), (65.0, 25.5))
    )
    amps = {}
    for name, design in (("hot", hot), ("cold", cold)):
        one = with_string(design, parallel=1)
        assert one.array.strings[0].controller == "mppt"
        amps[name] = (
            StationModel(one).array.sources[0].amps / one.array.strings[0].module.watts.value
        )
    assert amps["hot"] < 0.063
    assert amps["hot"] < 0.93 * amps["cold"]
    assert amps["cold"] < 0.08


@pytest.mark.parametrize("joining", ["switch", "automatic", "changeover", "lead"])
def test_the_link_to_a_bank_that_takes_over_carries_the_station(joining: str) -> None:
    """3: it carried “0 A” and got a 2 A fuse where 27 A flow."""
    layer = Layer(id="two", name="Two", joining=joining, bank=Bank())  # type: ignore[arg-type]
    bus = StationModel(with_store(station(), layers=[layer])).bus
    link, main = bus.run("layer-two"), bus.run("main")
    assert link.carried.peak_a >= main.carried.peak_a - 1e-9 > 20.0
    assert link.fuse.rating_a >= fuse_for(link.carried)


def test_a_converter_between_banks_carries_what_it_passes() -> None:
    layer = Layer(
        id="two", name="Two", joining="converter", bank=Bank(), converter_a=KnownAmps(value=20.0)
    )
    assert (
        StationModel(with_store(station(), layers=[layer])).bus.run("layer-two").carried.peak_a
        == 20.0
    )


def beside_the_sets(length_m: float = 1.0, fed_from: str = "main") -> Design:
    bank = station().store.bank
    design = with_store(
        station(),
        layers=[Layer(id="box", name="Box", joining="lead", bank=bank or Bank())],
    )
    length, wire = KnownLength(value=length_m), KnownWire(value=16.0)
    return with_bus(
        design, runs=[BusRun(id="layer-box", fed_from=fed_from, length_m=length, mm2=wire)]
    )


def test_a_battery_beside_the_sets_lifts_their_volts_and_is_charged_by_its_lead() -> None:
    """The nearer the more; at the post less than at the bus; and nobody says that nothing charges
    it."""
    alone = StationModel(station()).bus.of_load("set")
    near, far, at_post = (
        StationModel(beside_the_sets(*how)).bus.of_load("set")
        for how in ((1.0,), (20.0,), (1.0, "post"))
    )
    assert alone is not None
    assert near is not None
    assert far is not None
    assert at_post is not None
    assert near.keyed_v[2] > far.keyed_v[2] > alone.keyed_v[2] + 0.01
    assert near.keyed_v[2] > at_post.keyed_v[2] > alone.keyed_v[2]
    for item in (alone, near, far, at_post):
        # What is lost on the way, step by step, is what lies between the rested bank and the set.
        assert item.rest_v[2] - item.bank_v[3] - item.walk_v[:, 3].sum() == pytest.approx(
            item.keyed_v[2], abs=1e-6
        )
    report = evaluate(beside_the_sets())
    assert find(report, "store.uncharged.box") is None
    charged = next(item for item in report.store.charged if item.id == "box")
    assert charged.sources == ("Main battery (by the levelling lead)",)


def test_a_fuse_is_never_proposed_above_the_wire_that_is_there() -> None:
    """4: “100 A” on #10, “the wire is protected”."""
    design = laid(station(), mm2=KnownWire(value=1.5), fuse=RunFuse(kind="none"))
    finding = find(evaluate(design), "bus.no_fuse.load-set")
    assert finding is not None
    for remedy in finding.remedies:
        row = remedy.patch[-1].value
        run = StationModel(
            laid(design, **BusRun.model_validate(row).model_dump(exclude={"id"}))
        ).bus.run("load-set")
        assert run.fuse.rating_a <= run.ampacity_a
        assert run.mm2 > 1.5


def test_a_fuse_that_is_typed_gets_wire_that_suits_it() -> None:
    """5: a fuse alone was a Stop on wire that we proposed."""
    design = laid(station(), fuse=RunFuse(rating_a=KnownAmps(value=60.0)))
    run = StationModel(design).bus.run("load-set")
    assert run.ampacity_a >= 60.0
    assert "bus.fuse_above.load-set" not in ids(design)


def test_wire_nobody_typed_is_never_a_stop_or_a_fix() -> None:
    """5: it says whose wire it is, and by what insulation and air it is counted."""
    design = laid(station(), fuse=RunFuse(kind="class_t", rating_a=KnownAmps(value=1900.0)))
    finding = find(evaluate(design), "bus.fuse_above.load-set")
    assert finding is not None
    assert finding.severity == "mind"
    assert "This wire is proposed" in finding.why
    assert "insulation" in finding.why


def test_what_is_proposed_is_made_and_breaks_what_it_meets() -> None:
    """6: “Class T 531 A” and 23 kA into a fuse that breaks 20."""
    large = with_bank(station("lifepo4"), unit_ah=KnownAmpHours(value=300.0), parallel=12)
    run = StationModel(large).bus.run("main")
    assert run.prospective_a > run.fuse.interrupt_a
    found = find(evaluate(large), "bus.fuse_breaks.main")
    assert found is not None
    assert "each battery" in found.why
    thirsty = with_loads(station(), load("heater", 450.0))
    assert StationModel(thirsty).bus.run("main").fuse.rating_a > most_fuse_a()
    assert "bus.fuse_none.main" in ids(thirsty)
    # And a screw terminal is no connector for a run of 146 A.
    many = with_string(quay_street(), parallel=20)
    for item in StationModel(many).bus.runs:
        assert item.carried.peak_a <= 30.0 or item.connector != "screw"


def test_lithium_is_fused_for_what_its_cells_can_drive() -> None:
    """7: planning's resistance made 919 A of 100 A·h; 0.2 to 0.5 mΩ a cell and 1 to 2 mΩ drive some
    thousands."""
    bus = StationModel(station("lifepo4", unit_ah=KnownAmpHours(value=100.0), parallel=1)).bus
    assert 4000.0 < bus.prospective_a < 9000.0
    assert bus.run("main").fuse.kind in {"class_t", "cylinder", "post"}
    assert bus.run("main").fuse.interrupt_a >= bus.run("main").prospective_a
    # What is plainer may stand behind a fuse that limits the current.
    assert bus.run("load-set").fuse.kind == "blade" or not bus.run("main").limits_current
    blade = with_bus(
        station("lifepo4", unit_ah=KnownAmpHours(value=100.0), parallel=1),
        runs=[BusRun(id="main", fuse=RunFuse(kind="blade"))],
    )
    assert ids(blade)["bus.interrupt.main"] == "fix"


def test_what_lies_in_the_way_is_rated_for_what_passes() -> None:
    """8: a switch of 10 A in 22 A, in the table and read by no rule."""
    switch = RunPart(kind="switch", rating_a=KnownAmps(value=1.0))
    found = find(evaluate(laid(station(), parts=[switch])), "bus.part.load-set.0")
    assert found is not None
    assert found.severity == "fix"
    enough = RunPart(kind="switch", rating_a=KnownAmps(value=60.0))
    assert "bus.part.load-set.0" not in ids(laid(station(), parts=[enough]))


def test_an_inverters_run_is_laid_for_its_rating_at_its_lowest_volts() -> None:
    """9: 1,000 W at 0.9 and 10.5 V are 106 A, whatever hangs on it today."""
    rail = Rail(id="inverter", name="Inverter", kind="inverter", volts=KnownVolts(value=230.0),
                efficiency=KnownUsableShare(value=0.9), rated_w=KnownWatts(value=1000.0))  # fmt: skip
    lamp = load("lamp", 0.1, rail="inverter")
    design = with_draw(with_loads(station(), lamp), rails=[rail])
    run = StationModel(design).bus.run("rail-inverter")
    assert run.carried.peak_a < 5.0
    assert run.laid_for.peak_a == pytest.approx(1000.0 / (0.9 * 0.96) / 10.5, rel=0.01)
    assert run.fuse.rating_a >= 1.25 * run.laid_for.continuous_a


def test_an_inverters_idle_is_counted_once() -> None:
    """9: the curve fell at little load, and the idle came on top: 10 % too much."""
    from yonderstat.core.design import KnownIdleWatts
    from yonderstat.core.draw import rail_efficiency

    rail = Rail(id="i", name="I", kind="inverter", volts=KnownVolts(value=230.0),
                efficiency=KnownUsableShare(value=0.9), rated_w=KnownWatts(value=1000.0))  # fmt: skip
    assert rail_efficiency(rail, 20.0) < 0.82
    told = rail.model_copy(update={"idle_w": KnownIdleWatts(value=10.0)})
    assert rail_efficiency(told, 20.0) == pytest.approx(0.9)


def test_turning_a_set_down_does_not_thin_its_wire() -> None:
    """26: at 64 W the proposed lead shrank, and the volts with it."""
    loud = station()
    first = loud.draw.loads[0].model_copy(update={"power_w": KnownWatts(value=20.0)})
    quiet = with_loads(loud, first)
    one, two = (StationModel(design).bus for design in (loud, quiet))
    assert two.run("load-set").mm2 == one.run("load-set").mm2
    assert two.run("load-set").carried.peak_a < one.run("load-set").carried.peak_a
    assert two.of_load("set").keyed_v[2] > one.of_load("set").keyed_v[2]  # type: ignore[union-attr]


def test_half_used_lies_above_the_end() -> None:
    """26: “half full” lay below “at the end” where little of a bank may be used."""
    for share in (0.1, 0.3, 0.8, 1.0):
        bus = StationModel(with_bank(station(), depth=KnownUsableShare(value=share))).bus
        full_v, half_v, end_v = bus.of_load("set").keyed_v  # type: ignore[union-attr]
        assert full_v >= half_v >= end_v


def test_figures_that_are_compared_are_seen_to_differ() -> None:
    """31: “10 A is above the 10 A”."""
    design = laid(station(), length_m=KnownLength(value=3.0), mm2=KnownWire(value=2.5))
    rating = StationModel(design).bus.run("load-set").ampacity_a + 0.3
    over = laid(station(), mm2=KnownWire(value=2.5), fuse=RunFuse(rating_a=KnownAmps(value=rating)))
    finding = find(evaluate(over), "bus.fuse_above.load-set")
    assert finding is not None
    (claim,) = finding.claims
    assert claim.holds
    assert all(word in finding.sentence for word in claim.words)


def test_a_heat_gun_is_in_no_transmission() -> None:
    """31: “opens in the middle of a transmission” was said of a heat gun."""
    gun = with_bus(
        with_loads(station(), load("set", 20.0)),
        runs=[BusRun(id="load-set", fuse=RunFuse(rating_a=KnownAmps(value=10.0)))],
    )
    finding = find(evaluate(gun), "bus.fuse_small.load-set")
    assert finding is not None
    assert "transmission" not in finding.why


def test_a_fuse_in_the_minus_lead_is_recorded_and_judged() -> None:
    """15b: one lead or both, with what the two schools say."""
    amps = KnownAmps(value=30.0)
    both = laid(station(), fuse=RunFuse(rating_a=amps, lead="both"))
    alone = laid(station(), fuse=RunFuse(rating_a=amps, lead="minus"))
    assert ids(both)["bus.fuse_minus.load-set"] == "mind"
    found = find(evaluate(alone), "bus.fuse_minus.load-set")
    assert found is not None
    assert "frame" in found.why
    assert "bus.fuse_minus.load-set" not in ids(laid(station(), fuse=RunFuse(rating_a=amps)))
    main = with_bus(
        station(),
        runs=[BusRun(id="main", fuse=RunFuse(kind="class_t", rating_a=amps, lead="minus"))],
    )
    assert ids(main)["bus.fuse_minus.main"] == "fix"


def test_the_parts_list_has_a_fuse_for_each_lead_and_each_bank() -> None:
    """3: a link between banks has a fuse at either post."""

    def fuses(design: Design) -> float:
        report = evaluate(design)
        key = next(line.quantity for line in report.build.lines if line.id == "label-fuse")
        return report.working[key].number

    plain = station()
    linked = with_store(plain, layers=[Layer(id="two", name="Two", joining="switch", bank=Bank())])
    assert fuses(linked) == fuses(plain) + 2
    row = {"rating_a": KnownAmps(value=30.0)}
    assert (
        fuses(laid(plain, fuse=RunFuse(lead="both", **row)))
        == fuses(laid(plain, fuse=RunFuse(**row))) + 1
    )


def test_wire_we_propose_brings_a_set_into_its_window_where_copper_can() -> None:
    """25: nine of ten stations got too few volts over wire we proposed."""
    set_ = load("set", 1.0, kind="hf_set", window="15", **SET)
    base = with_bus(
        with_loads(with_bank(quay_street(), chemistry="agm", unit_v=12.0), set_), runs=[]
    )
    met = 0
    for metres in (1.0, 2.0, 3.0, 4.0, 6.0):
        design = with_bus(base, runs=[BusRun(id="load-set", length_m=KnownLength(value=metres))])
        bus = StationModel(design).bus
        item, run = bus.of_load("set"), bus.run("load-set")
        assert item is not None
        assert item.window is not None
        posts_v = item.rest_v[2] - float(item.bank_v[3])
        if item.keyed_v[2] < item.window.low_v - 1e-6:
            # No copper a plug takes would have done.
            by_copper_v = item.keyed_v[2] + run.carried.peak_a * run.wire_ohm * (
                1.0 - run.mm2 / 16.0
            )
            assert by_copper_v < item.window.low_v or posts_v < item.window.low_v
        else:
            met += run.gauge.binds == "window"
    assert met > 0
    assert all(run.mm2 <= 240.0 for run in StationModel(base).bus.runs)
