"""The weather years summed as they run: the same as the hours told one by one and summed
afterwards."""

from collections.abc import Callable

import numpy as np
import pytest

from tests.samples import beech_hut, harrier_ridge
from yonderstat.core.bus import volt_grades
from yonderstat.core.design import Design, KnownVolts, design_from_document, with_load
from yonderstat.core.rehearse.brown_out import brown_hours
from yonderstat.core.rehearse.kernel import (
    OUT_BACKED,
    OUT_CHARGE,
    OUT_DEFERRED,
    OUT_FROM,
    OUT_TAKEN,
    OUT_TRIPPED,
    OUT_VITAL,
    at_even,
)
from yonderstat.core.rehearse.station import HOURS, HourlyStation, hourly_station
from yonderstat.core.rehearse.tally import tally_of
from yonderstat.core.rehearse.years import dark_of, run_all, served_by, served_of
from yonderstat.core.station import StationModel
from yonderstat.demo.ferry_road import FERRY_ROAD


def ferry_road() -> Design:
    """A shack with mains behind it."""
    return design_from_document(FERRY_ROAD)


STATIONS = [harrier_ridge, beech_hut, ferry_road]


def hours_of(design: Design) -> HourlyStation:
    station = hourly_station(StationModel(design), 3)
    assert station is not None
    return station


@pytest.mark.parametrize("design", STATIONS)
def test_a_tally_is_the_sum_of_its_hours(design: Callable[[], Design]) -> None:
    station = hours_of(design())
    out, run = run_all(station), tally_of(station)

    def by_month(hourly: np.ndarray) -> list[float]:
        return [float(hourly[:, station.months == month].sum()) for month in range(12)]

    wanted = station.hours.load_a[:, 0]
    dark = (out[:, :, OUT_VITAL] < wanted - 1e-9) & (wanted > 0.0)
    assert run.sums.vital_ah == pytest.approx(by_month(out[:, :, OUT_VITAL]))
    assert run.sums.dark_hours == pytest.approx(by_month(dark))
    assert run.sums.used_ah == pytest.approx(
        by_month(out[:, :, OUT_VITAL : OUT_DEFERRED + 1].sum(axis=2))
    )
    assert run.sums.backed_ah == pytest.approx(by_month(out[:, :, OUT_BACKED]))
    assert (run.dark == dark).all()
    assert (run.cut_off == out[:, :, OUT_TRIPPED]).all()
    assert (run.charge_ah == out[:, :, OUT_CHARGE]).all()
    assert run.course[1] == pytest.approx(out[:, :, OUT_TAKEN] + out[:, :, OUT_BACKED])
    assert run.from_bank_ah == pytest.approx(out[:, :, OUT_FROM].sum())
    assert run.trips == (np.diff(out[:, :, OUT_TRIPPED].ravel(), prepend=0.0) > 0.0).sum()


@pytest.mark.parametrize("design", STATIONS)
def test_service_is_the_same_summed_or_run_for_itself(design: Callable[[], Design]) -> None:
    station = hours_of(design())
    summed, alone = served_by(tally_of(station).sums), served_of(station)
    assert summed.share == pytest.approx(alone.share)
    assert summed.dark_h == pytest.approx(alone.dark_h)


def test_the_longest_dark_spell_goes_over_the_turn_of_the_year() -> None:
    run = tally_of(hours_of(beech_hut()))
    longest = dark_of(run).longest
    assert longest is not None
    course = "".join("#" if value else "." for value in run.dark.ravel())
    assert longest.hours == max(len(part) for part in course.split("."))


@pytest.mark.parametrize("low_v", [12.11, 12.7])
def test_a_set_browns_out_in_the_hours_whose_volts_say_so(low_v: float) -> None:
    """Against the volts of every hour, worked out by the array library: some under the window, some
    too low to work."""
    least, most = KnownVolts(value=low_v), KnownVolts(value=16.0)
    station = hours_of(with_load(harrier_ridge(), 0, window="own", least_v=least, most_v=most))
    run = tally_of(station)
    (found,) = brown_hours(run)
    assert 0.0 < (found.below_h if low_v < 12.5 else found.brown_h) < found.on_h
    item = next(one for one in station.model.bus.loads if one.item.load.id == found.load_id)
    assert item.window is not None
    even = np.linspace(0.0, 1.0, station.hours.rest_v.size)
    lost = [item.rest_v[2] - item.keyed_v[2], item.rest_v[0] - item.keyed_v[0]]
    table = station.hours.rest_v - np.interp(even, [1.0 - station.held.depth, 1.0], lost)
    spared = np.minimum(run.course[1] * station.model.bus.bank_ohm, item.bank_v[3])
    volts = np.interp(run.charge_ah / station.rules.full_ah, even, table) + spared
    on = item.item.on_share[station.months, np.arange(8760) % HOURS] * (1 - run.cut_off)
    less = dict(volt_grades())["less"]
    assert found.on_h == pytest.approx(on.sum() / station.years)
    assert found.below_h == pytest.approx(
        (on * (volts < item.window.low_v - 1e-6)).sum() / station.years
    )
    assert found.brown_h == pytest.approx(
        (on * (volts < less * item.window.low_v - 1e-6)).sum() / station.years
    )


def test_an_even_table_is_read_straight_and_held_beyond_its_ends() -> None:
    table, values, found = (
        np.array([3.0, 1.0, 4.0]),
        np.linspace(-9.0, 9.0, 37)[None, :],
        np.empty((1, 37)),
    )
    at_even(table, -2.0, 2.0, values, found)
    assert found[0] == pytest.approx(np.interp(values[0], [-2.0, 0.0, 2.0], table))
