"""The one model of a station: worked out once, read by everybody, and the same however it was come
by."""

import re
from collections import Counter
from pathlib import Path
from typing import Any

import numpy as np
import pytest
import rainflow
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.samples import beech_hut, harrier_ridge, packhorse, quay_street
from yonderstat.core import evaluate, station
from yonderstat.core.design import Design, with_array, with_bank, with_draw, with_load, with_string
from yonderstat.core.explained import explained
from yonderstat.core.rehearse import year_use
from yonderstat.core.rehearse.kernel import (
    OUT_CHARGE,
)
from yonderstat.core.rehearse.station import hourly_station
from yonderstat.core.rehearse.tally import tally_of
from yonderstat.core.rehearse.years import run_all
from yonderstat.core.station import PARTS, StationModel

DEMO = {"ridge": harrier_ridge, "quay": quay_street, "packhorse": packhorse, "beech": beech_hut}
ONCE = (
    "station_draw",
    "array_model",
    "bank_model",
    "climate_of",
    "here_of",
    "planes_of",
    "sky_over",
)


@pytest.fixture
def calls(monkeypatch: pytest.MonkeyPatch) -> Counter[str]:
    """How often each part of the model was worked out."""
    counted: Counter[str] = Counter()
    for name in ONCE:
        real = getattr(station, name)

        def counting(*args: Any, _name: str = name, _real: Any = real, **kwargs: Any) -> Any:
            counted[_name] += 1
            return _real(*args, **kwargs)

        monkeypatch.setattr(station, name, counting)
    return counted


@pytest.mark.parametrize("name", DEMO)
def test_a_station_is_worked_out_once(name: str, calls: Counter[str]) -> None:
    """Nine times `station_draw` and twenty-five times the bank it was, before there was one
    model."""
    explained(StationModel(DEMO[name]()))
    assert set(calls) == set(ONCE)
    tempos = len(DEMO[name]().draw.tempos)
    assert dict(calls) == {**dict.fromkeys(ONCE, 1), "station_draw": tempos}


DROPPED = 12
"""So many changes are tried at most and dropped, as they help too little or earn a finding of their
own."""


@pytest.mark.parametrize("name", DEMO)
def test_a_remedy_works_out_only_what_it_touches(name: str, calls: Counter[str]) -> None:
    """No remedy moves the station: its climate and place are worked out once for all of them.

    Each is tried by its gain, by the rules, and with its weather years and tempos.
    """
    report = evaluate(DEMO[name]())
    assert calls["climate_of"] == calls["here_of"] == calls["sky_over"] == 1
    tried = sum(len(finding.remedies) for finding in report.findings)
    tempos = len(DEMO[name]().draw.tempos)
    assert calls["station_draw"] <= 1 + tempos + (2 + tempos) * (tried + DROPPED)


def _changes(design: Design) -> list[Design]:
    more = design.draw.loads[0].receive_a.model_copy(update={"value": 1.7})
    bank = design.store.bank
    assert bank is not None
    return [
        with_bank(design, parallel=bank.parallel + 1),
        with_bank(design, chemistry="agm", unit_v=12.0),
        with_bank(design, series=bank.series + 1),
        with_load(design, 0, receive_a=more),
        with_string(design, 0, tilt_deg=12.0),
        with_string(design, 0, controller="mppt"),
        with_array(design, strings=[]),
        with_draw(design, sized_on=design.draw.tempos[-1].id),
        design.model_copy(update={"brief": design.brief.model_copy(update={"months": [1, 2]})}),
        design.model_copy(update={"place": None}),
    ]


def _numbers(model: StationModel) -> list[Any]:
    bank, stored = model.bank, model.array.stored_ah
    return [
        model.bus_v,
        model.hard_month,
        model.daily_ah,
        model.low_end_v,
        list(model.draw.by_month),
        list(model.sun_w_m2),
        None if stored is None else list(stored),
        None if bank is None else (bank.usable_ah, list(bank.month_c), bank.rated_ah),
        [plane.id for plane in model.planes],
        model.climate.coldest_c,
    ]


@pytest.mark.parametrize("name", ["ridge", "packhorse"])
def test_a_changed_model_is_the_model_of_the_changed_design(name: str) -> None:
    """What is handed on is what would have been worked out anew: otherwise a remedy would show
    another station."""
    model = StationModel(DEMO[name]())
    _numbers(model)
    for part in PARTS:
        getattr(model, part)
    for changed in _changes(model.design):
        assert _numbers(model.changed(changed)) == _numbers(StationModel(changed))


@pytest.mark.parametrize("name", DEMO)
def test_the_report_says_the_models_numbers(name: str) -> None:
    model = StationModel(DEMO[name]())
    report = explained(model)
    bank, stored = model.bank, model.array.stored_ah
    assert bank is not None
    assert report.verdict.hard_month == model.hard_month
    assert report.number("store.usable_ah") == bank.usable_ah
    assert report.number("draw.daily_ah") == pytest.approx(model.daily_ah)
    assert report.number("store.days_without_sun") == model.days_without_sun(model.hard_month)
    if stored is not None and report.array.stored_ah:
        shown = [report.number(key) for key in report.array.stored_ah]
        assert shown == pytest.approx(list(stored))


@pytest.mark.parametrize("name", DEMO)
def test_the_day_by_the_clock_is_the_day_drawn(name: str) -> None:
    """What idles and warms is in the picture of the day too: it was left out where the browser
    added up."""
    model = StationModel(DEMO[name]())
    report = explained(model)
    day = report.draw.day
    assert sum(day.total_a) == pytest.approx(report.number("draw.daily_ah"))
    assert [sum(row) for row in day.hours_a] == pytest.approx(list(day.total_a))


@pytest.mark.parametrize("name", DEMO)
def test_low_end_volts_are_the_same_in_draw_and_in_store(name: str) -> None:
    """They were 11.0 V in Draw and 12.4 V in Store."""
    report = explained(StationModel(DEMO[name]()))
    end, nominal = report.number("store.end_peak_v"), report.number("draw.bus_v")
    assert end is not None
    assert nominal is not None
    assert report.number("draw.low_end_v") == pytest.approx(max(end, 0.75 * nominal))


def test_the_days_it_gets_full_are_those_of_the_weather_years() -> None:
    """Harrier Ridge got full 15 days a year on one screen and 41 on another: both count the same
    run now."""
    report = explained(StationModel(harrier_ridge()))
    hours = hourly_station(
        StationModel(harrier_ridge()), report.rehearsed.years if report.rehearsed else None
    )
    assert hours is not None
    most_ah = run_all(hours)[:, :, OUT_CHARGE].reshape(hours.years, 365, 24).max(axis=2)
    counted = (most_ah >= 0.98 * hours.rules.full_ah).sum() / hours.years
    assert report.number("store.life.full_days") == pytest.approx(counted)


def test_cycles_are_those_of_every_hour() -> None:
    """The library's rainflow of the whole course of the middle year is the check."""
    hours = hourly_station(StationModel(harrier_ridge()), 3)
    assert hours is not None
    out = run_all(hours)
    charge = out[:, :, 0]
    middle = int(np.argsort(charge.mean(axis=1), kind="stable")[1])
    whole = np.array(rainflow.count_cycles((charge[middle] / hours.rules.full_ah).tolist()))
    found = year_use(tally_of(hours)).counted
    assert (found.prod(axis=1)).sum() == pytest.approx(whole.prod(axis=1).sum())


@settings(max_examples=20, deadline=None)
@given(st.floats(0.2, 4.0))
def test_more_draw_never_lasts_longer(amps: float) -> None:
    design = quay_street()
    now = StationModel(design)
    more = design.draw.loads[0].receive_a.model_copy(
        update={"value": design.draw.loads[0].receive_a.value + amps}
    )
    after = now.changed(with_load(design, 0, receive_a=more))
    before_d, after_d = now.days_without_sun(now.hard_month), after.days_without_sun(now.hard_month)
    assert before_d is not None
    assert after_d is not None
    assert after_d <= before_d


CORE = Path(station.__file__).parent
OWNERS = {
    r"\bstation_draw\(": {"station.py", "draw/model.py", "draw/tempos.py"},
    r"\bbank_model\(": {"station.py", "store/model.py"},
    r"\barray_model\(": {"station.py", "array/model.py"},
    r"\bhardest_month\(": {"station.py", "array/harvest.py"},
    r"\busual_depth\(": {"store/kind.py", "store/model.py", "store/compare.py"},
    r"full_share\"": {
        "rehearse/tally.py",
        "rehearse/years.py",
        "rehearse/use.py",
        "rehearse/rotation.py",
    },
    r"kinds?\[.*purpose|brief\.purpose\s*(==|in)": set(),
}
"""Who may work it out: one place each for the station, the hard month, depth, full and purpose."""


@pytest.mark.parametrize("pattern", OWNERS)
def test_one_fact_has_one_place(pattern: str) -> None:
    found = {
        str(path.relative_to(CORE))
        for path in CORE.rglob("*.py")
        if re.search(pattern, path.read_text(encoding="utf-8"))
    }
    assert found <= OWNERS[pattern]
