"""Scenes: the outage you fear, with what goes wrong and what somebody does."""

import numpy as np
import pytest
from pydantic import ValidationError

from tests.core.rehearsed import dark, played, with_layer
from tests.samples import harrier_ridge, load, quay_street, with_bank, with_loads, with_string
from yonderstat.core.design import (
    Brief,
    Charger,
    KnownAmps,
    KnownHours,
)
from yonderstat.core.rehearse import Happening, Scene, rehearse
from yonderstat.core.rehearse.playing import play
from yonderstat.core.rehearse.scene_report import stage_of


def test_quay_street_in_july() -> None:
    """Three days without mains on typical sun: dark on the second day; shedding early makes it
    better."""
    plain = played(quay_street())
    shed = played(quay_street(), shed_comfort=0.9, shed_useful=0.8)
    assert len(plain.hours) == 72
    assert dark(shed) < dark(plain)
    assert plain.sentence.startswith("Loses power after")
    assert any(event.sentence == "Vital loads: without power" for event in plain.events)
    assert all(len(lane.hours) == 72 for lane in plain.lanes)
    assert plain.lanes[0].hours[0] == "-" or plain.lanes[0].hours[0] == "o"
    assert "d" in plain.lanes[0].hours


def test_what_needs_the_mains_network_is_shed_when_it_is_down() -> None:
    """The router waits for nothing while the internet is down: it is switched off, and the bank
    lasts longer."""
    down = Happening(kind="internet_down", from_h=0, to_h=72)
    with_it, without = played(quay_street()), played(quay_street(), happenings=[down])
    router = next(lane for lane in without.lanes if lane.id == "router")
    assert set(router.hours) == {"s"}
    assert dark(without) < dark(with_it)


def test_what_would_have_saved_it_is_played() -> None:
    """Each saver is darker by no hour than it says, in the same weather; parts come with the change
    that makes them."""
    base = quay_street()
    report = played(base)
    assert report.mitigations
    after = [
        saver.gain.after
        for saver in report.mitigations
        if saver.gain and saver.gain.after is not None
    ]
    assert len(after) == len(report.mitigations)
    assert after == sorted(after)
    bigger = next(
        saver for saver in report.mitigations if saver.label == "Two more batteries in parallel"
    )
    assert bigger.patch[0].path == "/store/bank/parallel"
    again = played(with_bank(base, parallel=3))
    assert dark(again) == (bigger.gain and bigger.gain.after)


def test_tempos_by_day_and_snow() -> None:
    """Calm first lasts longer than flat out; buried panels bring nothing."""
    calm, hard = (
        played(quay_street(), days=2, tempos=[name]) for name in ("listening", "full-tilt")
    )
    snow = played(quay_street(), days=2, happenings=[Happening(kind="snow", from_h=0, to_h=48)])
    assert dark(calm) <= dark(hard)
    assert snow.working[snow.brought_ah].number == 0.0


@pytest.mark.parametrize(
    ("happening", "worse"),
    [
        (Happening(kind="string_lost", from_h=0, to_h=72, of="shed-roof"), True),
        (Happening(kind="controller_lost", from_h=0, to_h=72, of="shed-roof"), True),
        (Happening(kind="extra_load", from_h=0, to_h=24, amount=3.0), True),
        (Happening(kind="battery_lost", from_h=0, to_h=72), True),
        (Happening(kind="low_power", from_h=0, to_h=72, amount=10.0), False),
        (Happening(kind="generator", from_h=17, to_h=19, amount=20.0), False),
        (Happening(kind="mains_back", from_h=24, to_h=72, amount=20.0), False),
    ],
)
def test_what_happens_makes_it_worse_or_better(happening: Happening, worse: bool) -> None:
    plain, changed = played(quay_street()), played(quay_street(), happenings=[happening])
    assert dark(changed) != dark(plain) or happening.kind == "low_power"
    assert (dark(changed) > dark(plain)) == worse


def test_a_cold_snap_leaves_less() -> None:
    base = harrier_ridge()
    snap = Happening(kind="cold_snap", from_h=0, to_h=72, amount=15.0)
    plain, cold = played(base), played(base, happenings=[snap])
    assert cold.hours[-1].charge_share < plain.hours[-1].charge_share


def test_half_a_bank_taken_away_comes_back_with_its_charge() -> None:
    """One of two strings away for a day: its charge is away with it, and back when it is."""
    base = harrier_ridge()
    gone = Happening(kind="battery_lost", from_h=24, to_h=48)
    report = played(base, sky="none", happenings=[gone])
    plain = played(base, sky="none")
    assert report.hours[-1].charge_share <= plain.hours[-1].charge_share + 0.02
    assert report.hours[-1].charge_share > plain.hours[-1].charge_share - 0.25


def test_swapping_banks_charges_the_one_that_is_out() -> None:
    """While the main bank is out the layer carries the station, and the main bank gains what the
    sun brings."""
    base = with_layer(quay_street())
    swap = Happening(kind="swap", from_h=24, to_h=40)
    report = played(base, happenings=[swap])
    before, after = report.hours[23], report.hours[39]
    assert after.charge_share > before.charge_share
    assert after.reserve_ah < before.reserve_ah
    assert report.hours[30].served[0] == pytest.approx(1.0)


def test_a_layer_behind_the_bank_lasts_longer() -> None:
    alone, layered = played(quay_street()), played(with_layer(quay_street()))
    apart = played(with_layer(quay_street(), joining="apart"))
    assert dark(layered) < dark(alone)
    assert dark(apart) == dark(alone)


@pytest.mark.parametrize("sky", ["typical", "poor", "worst", "none"])
def test_poorer_weather_brings_less(sky: str) -> None:
    order = ["none", "worst", "poor", "typical"]
    suns = [
        sum(hour.sun_w_m2 for hour in played(harrier_ridge(), days=10, sky=name).hours)
        for name in order[: order.index(sky) + 1]
    ]
    assert suns == sorted(suns)


def test_what_stands_behind_the_bank_can_fail() -> None:
    """An everyday shack on its charger; without it for three days it goes dark as if there were
    none."""
    charger = Charger(
        id="m", name="Charger", amps=KnownAmps(value=20.0), hours_per_day=KnownHours(value=24.0)
    )
    base = quay_street()
    design = base.model_copy(
        update={
            "brief": Brief(purpose="everyday"),
            "array": base.array.model_copy(update={"chargers": [charger]}),
        }
    )
    lost = Happening(kind="backup_lost", from_h=0, to_h=72)
    assert dark(played(design)) == 0
    assert dark(played(design, happenings=[lost])) > 0


def test_the_internet_is_down_only_while_it_is() -> None:
    report = played(
        quay_street(), sky="none", happenings=[Happening(kind="internet_down", from_h=2, to_h=5)]
    )
    router = next(lane for lane in report.lanes if lane.id == "router")
    assert router.hours[:6] == "oossso"


def test_a_lone_battery_taken_away_comes_back_as_it_went() -> None:
    """[closed form] the only battery away for a day with no sun: dark meanwhile, and its charge is
    what it was."""
    design = with_loads(quay_street(), load("set", 1.0))
    gone = Happening(kind="battery_lost", from_h=24, to_h=48)
    report = played(design, sky="none", happenings=[gone])
    before, after = report.hours[23].charge_share, report.hours[48].charge_share
    assert dark(report) == 24
    assert after == pytest.approx(before, abs=0.02)


def test_below_all_of_it_is_off_from_the_start() -> None:
    """Shedding below 100 % means off, also while the bank is full."""
    report = played(quay_street(), shed_useful=1.0, shed_comfort=1.0)
    assert set(next(lane for lane in report.lanes if lane.id == "router").hours) == {"s"}


def test_more_panels_of_a_series_string_are_counted_right() -> None:
    """One string more of two in series is two more panels."""
    design = with_string(quay_street(), series=2, parallel=1, controller="mppt")
    labels = {saver.label for saver in played(design, days=5, sky="worst").mitigations}
    assert "Shed roof: 2 more panels of the same kind" in labels


def test_a_day_that_the_month_has_not_is_refused_at_its_field() -> None:
    with pytest.raises(ValidationError) as refused:
        Scene(month=2, day=31)
    assert [error["loc"] for error in refused.value.errors()] == [("day",)]
    assert "February has 28 days" in str(refused.value)
    assert Scene(month=12, day=31).day == 31


def test_every_day_is_the_same_as_one_entry_a_day() -> None:
    base = quay_street()
    daily = Happening(kind="generator", from_h=18, to_h=22, amount=10.0, every_day=True)
    each = [
        Happening(kind="generator", from_h=18 + day * 24, to_h=22 + day * 24, amount=10.0)
        for day in range(3)
    ]
    one, many = (
        rehearse(base, Scene(days=3, sky="none", happenings=items)) for items in ([daily], each)
    )
    assert one is not None
    assert many is not None
    assert one.hours == many.hours
    assert one.events == many.events
    with pytest.raises(ValidationError, match="a day has 24"):
        Happening(kind="generator", from_h=18, to_h=30, amount=10.0, every_day=True)


def test_one_panel_of_two_takes_half_of_what_the_string_gives() -> None:
    base = with_string(quay_street(), parallel=2)
    string = base.array.strings[0].id

    def brought(count: float) -> np.ndarray:
        lost = Happening(kind="panel_lost", from_h=0, to_h=24, of=string, amount=count)
        stage = stage_of(base, scene := Scene(days=1, happenings=[lost]))
        assert stage is not None
        return play(base, stage, scene).panels_a

    stage = stage_of(base, Scene(days=1))
    assert stage is not None
    whole = play(base, stage, Scene(days=1)).panels_a
    assert whole.any()
    # A fuller bank stands higher, and a tracker puts fewer amps into it: half is half but for that.
    assert brought(1) == pytest.approx(whole / 2, rel=0.08)
    assert not brought(2).any()
    assert not brought(3).any()


def test_what_would_have_saved_it_for_nothing_can_be_played() -> None:
    scene = Scene(month=6, day=10, days=3, sky="poor")
    report = rehearse(quay_street(), scene)
    assert report is not None
    free = [change for change in report.mitigations if not change.patch]
    assert free
    for change in free:
        assert change.scene is not None
        again = rehearse(quay_street(), change.scene)
        assert again is not None
        assert change.gain is not None
        assert again.working[again.dark_hours].number <= (change.gain.before or 0.0) - 1.0
    assert all(change.scene is None for change in report.mitigations if change.patch)
