"""A load is in service when it has power and its volts are in the range of what it is to do."""

from typing import Any

import numpy as np
import pytest

from tests.samples import ah, harrier_ridge, load, quay_street, with_bank, with_loads
from yonderstat.core import evaluate, propose
from yonderstat.core.design import (
    BusRun,
    Design,
    KnownLength,
    KnownShare,
    KnownWire,
    Place,
    with_bus,
)
from yonderstat.core.rehearse import Scene, hourly_station, rehearse, served_of, years_report
from yonderstat.core.rehearse.in_service import lines_of
from yonderstat.core.rehearse.tally import tally_of
from yonderstat.core.station import StationModel

SET = {
    "kind": "hf_set",
    "transmit_a": 21.0,
    "rated_w": 100.0,
    "transmit_share": 0.3,
    "mode": "cw",
    "hours_per_day": 8.0,
}


def on_wire(design: Design, mm2: float, metres: float) -> Design:
    row = BusRun(id="load-set", mm2=KnownWire(value=mm2), length_m=KnownLength(value=metres))
    return with_bus(with_loads(design, load("set", 1.0, tier="vital", **SET)), runs=[row])  # type: ignore[arg-type]


def test_a_set_on_thin_wire_carries_no_days() -> None:
    """“Carries the 3 days”, twelve green months, while the Bus said 10.1 V on transmit."""
    thick, thin = (evaluate(on_wire(quay_street(), *wire)) for wire in ((35.0, 2.0), (2.5, 6.0)))
    assert thin.rehearsed is not None
    assert thick.rehearsed is not None
    assert thick.number(thick.rehearsed.share) > (thin.number(thin.rehearsed.share) or 0.0)  # type: ignore[operator]
    assert thin.verdict.state == "short"
    assert thin.rehearsed.with_volts is not None
    assert "enough volts" in thin.verdict.rest


def test_months_and_verdict_count_hours_that_cannot_transmit() -> None:
    """“85.3 % served” browned out in 7,427 of 7,427 hours on."""
    base = with_bank(harrier_ridge(), unit_ah=ah(2000.0))
    design = on_wire(base, 1.5, 12.0)
    report = evaluate(design)
    assert report.rehearsed is not None
    assert report.number(report.rehearsed.mute_h) == pytest.approx(8.0 * 365.0, rel=0.12)
    assert report.number(report.rehearsed.share) == pytest.approx(0.0, abs=0.12)
    assert report.verdict.headline.startswith("Listens and cannot transmit")
    assert "too few volts" in report.verdict.rest


def test_lines_are_where_the_volts_end() -> None:
    """The charge under which a set is mute, against its volts at every charge, by the Bus's own
    figures."""
    model = StationModel(on_wire(quay_street(), 4.0, 5.0))
    hours = hourly_station(model, 1)
    assert hours is not None
    lines, item = lines_of(model, hours.hours.rest_v), model.bus.of_load("set")
    assert item is not None
    assert item.window is not None
    (line,) = set(np.round(lines.still[lines.still > 0.0], 9))
    shares = np.linspace(0.0, 1.0, len(hours.hours.rest_v))
    end = 1.0 - model.bank.depth  # type: ignore[union-attr]
    lost = np.interp(
        shares, [end, 1.0], [item.rest_v[2] - item.keyed_v[2], item.rest_v[0] - item.keyed_v[0]]
    )
    volts = hours.hours.rest_v - lost
    under = volts < 0.95 * item.window.low_v
    assert shares[under].max() <= line + 1e-9
    assert line <= shares[~under].min() + 1e-9


def test_what_only_listens_needs_the_volts_of_listening() -> None:
    design = on_wire(quay_street(), 2.5, 6.0)
    quiet = with_loads(
        design, design.draw.loads[0].model_copy(update={"transmit_share": KnownShare(value=0.0)})
    )
    loud, still = (evaluate(one) for one in (design, quiet))
    assert loud.rehearsed is not None
    assert still.rehearsed is not None
    assert (still.number(still.rehearsed.share) or 0.0) > (loud.number(loud.rehearsed.share) or 0.0)


def test_a_load_off_the_key_is_not_held_to_it() -> None:
    """A useful set that browns out takes nothing from vital service."""
    design = on_wire(harrier_ridge(), 1.5, 12.0)
    vital = load("beacon", 0.2)
    useful = design.draw.loads[0].model_copy(update={"tier": "useful"})
    report = evaluate(with_loads(design, vital, useful))
    assert report.rehearsed is not None
    assert report.number(report.rehearsed.mute_h) == 0.0


def test_mute_and_dark_hours_are_told_apart() -> None:
    station = hourly_station(StationModel(on_wire(harrier_ridge(), 1.5, 12.0)), 4)
    assert station is not None
    tally = tally_of(station)
    assert not (tally.dark & tally.mute).any()
    served = served_of(station)
    assert served.mute_hours_a_year == pytest.approx(float(tally.mute.sum()) / 4.0)
    assert served.dark_hours_a_year == pytest.approx(float(tally.dark.sum()) / 4.0)


@pytest.mark.parametrize("kind", ["home", "trailer", "vehicle", "unattended"])
def test_what_we_propose_can_transmit(kind: str) -> None:
    for purpose in ("continuous", "standby", "deployment"):
        design = propose(kind, purpose, Place(latitude_deg=47.0, longitude_deg=9.5))  # type: ignore[arg-type]
        report = evaluate(design)
        if report.rehearsed is not None and report.rehearsed.mute_h is not None:
            assert (report.number(report.rehearsed.mute_h) or 0.0) < 1.0
        assert not (report.rehearsed and report.rehearsed.with_volts)


def chain(**more: Any) -> Design:
    """A repeater that waits for a router, on a hill."""
    base = harrier_ridge()
    router = load("router", 0.5, tier="useful", ready_min=3.0)
    set_ = load("set", 1.0, tier="vital", ready_min=4.0, waits_for="router")
    loads = [item.model_copy(update=more.get(item.id, {})) for item in (router, set_)]
    return with_loads(base, *loads)


def test_what_comes_back_after_a_cut_off_is_a_chain() -> None:
    """24a: each load says whether it restarts by itself, in how many minutes, and what it waits
    for."""
    report = evaluate(chain())
    assert report.number(report.draw.back_min) == 7.0
    said = next(item for item in report.findings if item.id == "draw.comes_back")
    assert "7 minutes: router 3, then set 4" in said.sentence
    assert evaluate(harrier_ridge()).draw.back_min is None


def test_a_load_that_waits_for_a_hand_waits_as_the_bank_does() -> None:
    by_hand = chain(router={"restarts": "no"})
    found = next(item for item in evaluate(by_hand).findings if item.id == "draw.by_hand.router")
    assert found.severity == "fix"
    assert "set waits for it" in found.sentence
    one, two = (hourly_station(StationModel(design), 2) for design in (chain(), by_hand))
    assert one is not None
    assert two is not None
    assert one.rules.hand_h == 0.0
    assert two.rules.hand_h > 24.0
    assert served_of(two).share <= served_of(one).share


def test_what_waits_in_a_ring_waits_once() -> None:
    ring = chain(router={"waits_for": "set"})
    assert evaluate(ring).number(evaluate(ring).draw.back_min) == 7.0
    lost = chain(set={"waits_for": "gone"})
    assert evaluate(lost).number(evaluate(lost).draw.back_min) == 4.0


def test_a_year_is_red_where_it_is_cut_off_and_nowhere_else() -> None:
    """A picture that was red all year stood beside “86 % in service”."""
    report = years_report(harrier_ridge(), 4)
    assert report is not None
    worst = next(band for band in report.bands if band.name == "worst")
    hours = np.array(worst.percent).ravel()
    assert 0 < (hours == 0).sum() < 0.6 * hours.size
    days = int((np.array(worst.percent).min(axis=1) <= 0).sum())
    assert f"cut off on {days} days of the worst year" in report.band_sentence


def test_a_scene_under_the_planned_depth_says_so() -> None:
    ridge = with_bank(harrier_ridge(), disconnect_v=None)
    told = rehearse(ridge, Scene(month=5, day=10, days=4, sky="poor", start_share=0.3))
    assert told is not None
    words = [event.sentence for event in told.events]
    assert any("planned depth" in word for word in words)
    if not told.working[told.dark_hours].number:
        assert "more than the planned depth" in told.sentence
