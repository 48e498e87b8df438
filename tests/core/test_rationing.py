"""Turned round, rotation, and the trainer."""

import numpy as np
import pytest

from tests.core.rehearsed import dark, station, with_layer
from tests.samples import quay_street, with_bank, with_string
from yonderstat.core import evaluate
from yonderstat.core.design import (
    design_from_document,
)
from yonderstat.core.rehearse import (
    Evening,
    Rationing,
    Scene,
    Training,
    ration,
    rehearse,
    rotation_report,
    train,
)
from yonderstat.core.rehearse.rotation import CLOSE, _panels_that_close, _refills_h
from yonderstat.core.rehearse.station import hourly_station
from yonderstat.core.station import StationModel
from yonderstat.demo.patrol import PATROL_2


def test_the_ration_holds_and_no_more_does() -> None:
    """Turned round and back: the hours found pass the days without a dark hour, a tenth more do
    not."""
    asked = Rationing(month=7, day=10, days=5, sky="typical")
    found = ration(quay_street(), asked)
    assert found is not None
    hours = found.working[found.rows[0].listening_h].number
    from yonderstat.core.rehearse.rationing import _worked

    def dark_with(at: float) -> float:
        scene = Scene(month=7, day=10, days=5, shed_useful=1.0, shed_comfort=1.0)
        report = rehearse(_worked(quay_street(), at, 0.0), scene)
        assert report is not None
        return dark(report)

    assert dark_with(hours) == 0
    assert hours == 24.0 or dark_with(hours * 1.1) > 0


def test_less_power_leaves_more_minutes() -> None:
    found = ration(design_from_document(PATROL_2), Rationing())
    assert found is not None
    minutes = [found.working[row.key_min].value or 0.0 for row in found.rows]
    assert minutes == sorted(minutes)


def test_rotation_closes_with_enough_panel() -> None:
    """The bank that is out refills in hours of sun; a bigger panel refills no later."""
    base = with_layer(quay_street())
    small, big = rotation_report(base), rotation_report(with_string(base, parallel=4))
    assert small is not None
    assert big is not None
    assert big.working[big.refills_h].number <= small.working[small.refills_h].number
    assert big.working[big.carries_h].number == small.working[small.carries_h].number


def test_the_panels_that_close_a_rotation_do_so_and_hardly_fewer_would() -> None:
    """Sought in quarters of what there is, they could be a quarter too many."""
    hourly = hourly_station(StationModel(with_layer(quay_street())))
    assert hourly is not None
    away = hourly.hours._replace(load_a=np.zeros_like(hourly.hours.load_a))

    def refills_h(scale: float) -> float:
        return _refills_h(hourly, away._replace(panels_a=away.panels_a * scale))

    carries_h = (refills_h(1.0) + refills_h(3.0)) / 2
    scale = _panels_that_close(hourly, away, carries_h)
    assert scale is not None
    assert refills_h(scale) <= carries_h < refills_h(scale - 2 * CLOSE)


def test_the_trainer_hides_the_weather_and_ends_beside_the_best() -> None:
    base = quay_street()
    start = train(base, Training(month=7, days=3, secret=5))
    first = train(base, Training(month=7, days=3, secret=5, evenings=[Evening(tempo="net")]))
    same = train(base, Training(month=7, days=3, secret=5, evenings=[Evening(tempo="net")] * 3))
    assert start is not None
    assert first is not None
    assert same is not None
    assert start.told == ()
    assert len(first.told) == 1
    assert first.whole is None
    assert same.over
    assert same.told[0] == first.told[0]
    assert same.mine is not None
    assert same.best is not None
    assert same.best.dark_hours <= same.mine.dark_hours


def test_another_secret_is_other_weather() -> None:
    base = quay_street()
    runs = [
        train(base, Training(month=7, days=2, secret=n, evenings=[Evening(tempo="net")]))
        for n in (1, 2)
    ]
    assert runs[0] is not None
    assert runs[1] is not None
    assert runs[0].told[0].brought_ah != runs[1].told[0].brought_ah


@pytest.mark.parametrize(
    ("sky", "rank"), [("typical", 0.5), ("poor", 0.1), ("worst", 0.0), ("none", None)]
)
def test_a_ration_says_what_weather_it_rests_on(sky: str, rank: float | None) -> None:
    found = ration(quay_street(), Rationing.model_validate({"sky": sky}))
    assert found is not None
    told = [
        item.value for item in found.working[found.rows[0].listening_h].inputs if item.symbol == "w"
    ]
    assert told == ([] if rank is None else [rank])


def test_what_there_is_to_spend_is_of_the_month_asked() -> None:
    """A bank outdoors holds less in June than in January."""
    base = with_bank(quay_street(), housing="outdoors")
    months = [ration(base, Rationing(month=month, sky="none")) for month in (1, 6)]
    spend = [item.working[item.watt_hours_a_day].number for item in months if item]
    assert spend[1] < spend[0]


def test_the_layers_hold_what_the_store_says() -> None:
    """One figure for one thing: the reserve behind the bank is the Store's usable energy over the
    bus volts."""
    design = with_layer(quay_street())
    report = evaluate(design)
    assert report.store is not None
    told_wh = report.working[report.store.layers[0].usable_wh].number
    assert station(design).rules.reserve_ah * station(design).bus_v == pytest.approx(
        told_wh, rel=1e-6
    )
