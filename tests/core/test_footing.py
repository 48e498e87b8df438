"""Reserves, and loads that shed themselves, count alike on every screen."""

import numpy as np
import pytest

from tests.samples import load, quay_street, with_bank, with_loads
from yonderstat.core import evaluate
from yonderstat.core.design import Bank, Design, Layer, with_draw, with_store
from yonderstat.core.rehearse import Scene, hourly_station, rehearse
from yonderstat.core.station import StationModel

POINTLESS = load("gizmo", 1.0, hours_per_day=24.0, tier="useful", needs=["mains"])


def with_layer(design: Design, **layer: object) -> Design:
    return with_store(
        design,
        layers=[Layer.model_validate({"id": "two", "name": "Second", "bank": Bank(), **layer})],
    )


def test_a_load_that_sheds_itself_draws_nothing_anywhere() -> None:
    plain = quay_street()
    more = with_loads(plain, *plain.draw.loads, POINTLESS)
    before, after = evaluate(plain), evaluate(more)
    for key in (
        "draw.daily_ah",
        "draw.peak_a",
        "store.hours_without_sun",
        "draw.tempo.net.hours",
        "rehearse.share",
    ):
        assert after.working[key].value == pytest.approx(before.working[key].value), key
    assert after.working["draw.load.gizmo.mean_a"].value == 0.0
    assert "what it needs is missing" in after.working["draw.load.gizmo.mean_a"].words


def test_the_same_load_draws_where_the_mains_are_there() -> None:
    plain = quay_street()
    there = plain.model_copy(
        update={"brief": plain.brief.model_copy(update={"purpose": "continuous"})}
    )
    more = with_loads(there, *there.draw.loads, POINTLESS)
    gained = StationModel(more).draw.by_month - StationModel(there).draw.by_month
    assert gained == pytest.approx(np.full(12, 24.0))


def test_a_scene_shows_it_shed_in_the_hours_it_would_run() -> None:
    design = with_loads(quay_street(), *quay_street().draw.loads, POINTLESS)
    played = rehearse(design, Scene(month=6, day=10, days=2))
    assert played is not None
    lane = next(lane for lane in played.lanes if lane.id == "gizmo")
    assert set(lane.hours) == {"s"}


@pytest.mark.parametrize("joining", ["automatic", "changeover", "converter"])
def test_a_layer_that_comes_on_counts_in_hours_days_nights_and_tempos(joining: str) -> None:
    alone, layered = evaluate(quay_street()), evaluate(with_layer(quay_street(), joining=joining))
    assert layered.store is not None
    assert alone.store is not None
    station = StationModel(with_layer(quay_street(), joining=joining))
    hours = hourly_station(station, 1)
    assert hours is not None
    carries = layered.working[layered.store.carries_ah].number
    usable = layered.working[layered.store.usable_ah].number
    assert carries == pytest.approx(usable + hours.rules.reserve_ah)
    grown = carries / usable
    for key in ("store.hours_without_sun", "store.days_without_sun", "draw.tempo.net.hours"):
        assert layered.working[key].number == pytest.approx(
            grown * alone.working[key].number, rel=1e-6
        ), key
    assert layered.working["store.night_share"].number == pytest.approx(
        alone.working["store.night_share"].number / grown
    )
    assert station.days_without_sun(station.hard_month) == pytest.approx(
        layered.working["store.days_without_sun"].number
    )


def test_a_layer_that_stays_apart_counts_nowhere() -> None:
    alone, apart = evaluate(quay_street()), evaluate(with_layer(quay_street(), joining="apart"))
    assert apart.store is not None
    assert apart.store.carries_ah == apart.store.usable_ah
    key = "store.hours_without_sun"
    assert apart.working[key].number == pytest.approx(alone.working[key].number)


def test_a_scene_says_of_which_bank_it_speaks_where_there_are_layers() -> None:
    ample = with_bank(quay_street(), parallel=20)
    scene = Scene(month=1, day=10, days=1)
    alone, layered = rehearse(ample, scene), rehearse(with_layer(ample, joining="automatic"), scene)
    assert alone is not None
    assert layered is not None
    assert alone.sentence.endswith("of the usable charge left.")
    assert layered.sentence.endswith("of the usable charge left in the main battery.")


def test_without_a_bank_nothing_takes_over() -> None:
    bare = with_store(with_layer(quay_street(), joining="automatic"), bank=None)
    assert StationModel(bare).reserve.usable_ah == 0.0
    assert StationModel(bare).reserve.charge_a == 0.0
    assert StationModel(bare).days_without_sun(6) is None


@pytest.mark.parametrize("amps", [0.001, 0.03])
def test_however_little_is_drawn_the_days_are_counted(amps: float) -> None:
    design = with_loads(quay_street(), load("clock", amps, hours_per_day=24.0))
    station = StationModel(with_draw(design, rails=[]))
    assert station.bank is not None
    assert station.days_without_sun(station.hard_month) == pytest.approx(
        station.bank.usable_ah / (24.0 * amps)
    )
