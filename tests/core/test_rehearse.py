"""The rehearsal: against a plain loop, closed forms, balance, and what must never get worse."""

from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.rehearse_loop import Bank, plain_hours
from tests.samples import harrier_ridge, quay_street, with_bank, with_loads, with_string
from yonderstat.core import evaluate
from yonderstat.core.design import Design
from yonderstat.core.rehearse import (
    HourlyStation,
    Scene,
    carry_through,
    failures_report,
    hourly_station,
    longest_true,
    rehearse,
    run_all,
    sizing_map,
    years_report,
)
from yonderstat.core.rehearse.kernel import run_hours

YEARS = 4
HOURS = 240


def kernel(source: Any, load: Any, floor: Any, locked: Any, bank: Bank, start: float) -> tuple[Any, Any, Any]:
    """The kernel on loose arrays."""
    hours = len(source)
    charge, served, taken = np.empty(hours), np.empty((hours, 3)), np.empty(hours)
    run_hours(
        source,
        load,
        floor,
        locked,
        bank.full_ah,
        start,
        bank.efficiency,
        bank.accept_per_h,
        bank.most_charge_a,
        bank.shed_useful,
        bank.shed_comfort,
        bank.back_share,
        bank.hysteresis,
        charge,
        served,
        taken,
    )
    return charge, served, taken


def random_case(seed: int) -> tuple[Any, Any, Any, Any, Bank, float]:
    rng = np.random.default_rng(seed)
    bank = Bank(
        float(rng.uniform(20, 300)),
        float(rng.choice([0.85, 0.9, 0.98])),
        float(rng.choice([1.0, 4.0])),
        float(rng.uniform(5, 60)),
        float(rng.choice([0.0, 0.3])),
        float(rng.choice([0.0, 0.5])),
    )
    sun = (
        np.maximum(0.0, np.sin((np.arange(HOURS) % 24 - 6) / 12 * np.pi))
        * rng.uniform(0, 30)
        * rng.uniform(0, 1, HOURS)
    )
    load = rng.uniform(0, 6, (HOURS, 3)) * (rng.uniform(0, 1, (HOURS, 3)) > 0.2)
    floor = np.full(HOURS, bank.full_ah * float(rng.uniform(0.1, 0.6)))
    locked = np.asarray(rng.uniform(0, 1, HOURS) < 0.1)
    return sun, load, floor, locked, bank, float(rng.uniform(floor[0], bank.full_ah))


@pytest.mark.parametrize("seed", range(12))
def test_the_kernel_is_the_plain_loop(seed: int) -> None:
    """[independent code] hour by hour, to rounding."""
    case = random_case(seed)
    charge, served, taken = kernel(*case)
    plain = plain_hours(*case)
    assert charge == pytest.approx(np.array(plain[0]), abs=1e-9)
    assert served == pytest.approx(np.array(plain[1]), abs=1e-9)
    assert taken == pytest.approx(np.array(plain[2]), abs=1e-9)


@settings(max_examples=60, deadline=None)
@given(st.integers(100, 100_000))
def test_the_charge_closes_every_hour(seed: int) -> None:
    """[closed form] the bank gains what went in times what comes back, less what came out; never out of range."""
    source, load, floor, locked, bank, start = random_case(seed)
    charge, served, taken = kernel(source, load, floor, locked, bank, start)
    direct = np.minimum(source, served.sum(axis=1))
    gain = bank.efficiency * (taken - direct) - (served.sum(axis=1) - direct)
    assert np.diff(np.concatenate(([start], charge))) == pytest.approx(gain, abs=1e-9)
    assert charge.max() <= bank.full_ah + 1e-9
    assert (charge >= np.minimum(floor, start) - 1e-9).all()
    assert (taken <= source + 1e-9).all()
    assert (served <= load + 1e-12).all()


@settings(max_examples=30, deadline=None)
@given(st.integers(0, 10_000), st.floats(1.0, 3.0))
def test_shedding_never_shortens_vital_service(seed: int, more: float) -> None:
    """From a full bank with nothing coming in, hours of vital service with shedding are no fewer than without."""
    _, load, floor, locked, bank, _ = random_case(seed)
    dark = np.zeros(HOURS)
    hours = []
    for shed in (0.0, 0.3):
        kind = Bank(bank.full_ah, bank.efficiency, bank.accept_per_h, bank.most_charge_a, shed, min(1.0, shed * more))
        _, served, _ = kernel(dark, load, floor, locked, kind, bank.full_ah)
        short = served[:, 0] < load[:, 0] - 1e-9
        hours.append(int(np.argmax(short)) if short.any() else HOURS)
    assert hours[1] >= hours[0]


def station(design: Design) -> HourlyStation:
    found = hourly_station(design, YEARS)
    assert found is not None
    return found


def steady(usable_ah: float, load_a: float, source_a: float = 0.0) -> HourlyStation:
    """A station whose every hour is alike."""
    load = np.zeros((8760, 3))
    load[:, 0] = load_a
    return HourlyStation(
        np.full((1, 8760), source_a),
        load,
        np.zeros(8760),
        np.zeros(8760, dtype=np.bool_),
        usable_ah,
        usable_ah,
        0.9,
        1.0,
        100.0,
        np.zeros((1, 8760)),
    )


def test_no_sun_is_capacity_over_draw() -> None:
    """[closed form] 100 A·h at 2 A: fifty hours, and the fifty-first is dark."""
    assert carry_through(steady(100.0, 2.0)).min() == 50


def test_constant_sun_and_load_stand_still() -> None:
    """[closed form] 3 A in, 2 A out: full for ever; the bank takes nothing once it is."""
    run = run_all(steady(100.0, 2.0, 3.0))
    assert run.charge_ah == pytest.approx(100.0)
    assert run.taken_a == pytest.approx(2.0)
    assert carry_through(steady(100.0, 2.0, 3.0)).min() == 30 * 24


def test_hours_to_dark_are_the_stores_own() -> None:
    """Harrier Ridge in its hardest month without sun: the Store's hours, to an hour's grain and the day's pattern."""
    report, years = evaluate(harrier_ridge()), years_report(harrier_ridge(), YEARS)
    assert report.store is not None
    assert years is not None
    all_loads = report.working[report.store.hours_without_sun].number
    # Vital alone draws less than all loads, so it lasts at least as long.
    assert years.no_sun_h >= all_loads - 2


def test_carry_through_by_brute_force() -> None:
    """[independent code] a few starts played hour by hour with the plain loop, vital alone."""
    found = station(harrier_ridge())
    carried = carry_through(found)
    bank = Bank(found.full_ah, found.efficiency, found.accept_per_h, found.most_charge_a)
    for day in (10, 160, 175, 300):
        at = day * 24 + np.arange(30 * 24)
        rows, hours = at // 8760, at % 8760
        load = np.zeros((at.size, 3))
        load[:, 0] = found.load_a[hours, 0]
        _, served, _ = plain_hours(
            found.source_a[rows, hours], load, found.floor_ah[hours], found.locked[hours], bank, found.full_ah
        )
        short = np.array(served)[:, 0] < load[:, 0] - 1e-9
        assert carried[0, day] == (int(np.argmax(short)) if short.any() else 30 * 24)


@pytest.mark.parametrize("more", ["panel", "bank", "less load"])
def test_more_is_never_darker(more: str) -> None:
    base = harrier_ridge()
    better = {
        "panel": with_string(base, parallel=3),
        "bank": with_bank(base, parallel=3),
        "less load": with_loads(base, *base.draw.loads[:2]),
    }[more]
    before, after = years_report(base, YEARS), years_report(better, YEARS)
    assert before is not None
    assert after is not None
    assert after.dark_hours_a_year <= before.dark_hours_a_year + 1e-9
    for month in range(12):
        assert all(b >= a - 1e-9 for a, b in zip(before.carry[month], after.carry[month], strict=True))


def test_carry_falls_with_the_days_and_winter_is_worse() -> None:
    years = years_report(quay_street(), YEARS)
    assert years is not None
    for row in years.carry:
        assert list(row) == sorted(row, reverse=True)
    assert years.carry[6][3] < years.carry[0][3]


def test_quay_street_in_july() -> None:
    """Three days without mains on typical sun: dark on the second day; shedding early makes it better."""
    plain = rehearse(quay_street(), Scene(month=7, day=10, days=3))
    shed = rehearse(quay_street(), Scene(month=7, day=10, days=3, shed_comfort=0.9, shed_useful=0.8))
    assert plain is not None
    assert shed is not None
    assert len(plain.hours) == 72
    assert plain.dark_hours > 0
    assert shed.dark_hours < plain.dark_hours
    assert plain.sentence.startswith("Dark after")
    assert any(event.sentence == "Vital service dark" for event in plain.events)


def test_tempos_by_day_and_snow() -> None:
    """Calm first lasts longer than flat out; buried panels bring nothing."""
    calm = rehearse(quay_street(), Scene(month=7, day=10, days=2, tempos=["listening"]))
    hard = rehearse(quay_street(), Scene(month=7, day=10, days=2, tempos=["full-tilt"]))
    snow = rehearse(quay_street(), Scene(month=7, day=10, days=2, buried_days=2))
    assert calm is not None
    assert hard is not None
    assert snow is not None
    assert calm.dark_hours <= hard.dark_hours
    assert snow.brought_ah == 0.0


@pytest.mark.parametrize("sky", ["typical", "poor", "worst", "none"])
def test_poorer_weather_brings_less(sky: str) -> None:
    order = ["none", "worst", "poor", "typical"]
    found = {name: rehearse(harrier_ridge(), Scene(days=10, sky=name)) for name in order[: order.index(sky) + 1]}  # type: ignore[arg-type]
    suns = [sum(hour.sun_w_m2 for hour in report.hours) for report in found.values() if report]
    assert suns == sorted(suns)


def test_what_cannot_be_rehearsed_says_so() -> None:
    assert years_report(harrier_ridge().model_copy(update={"place": None})) is None
    assert rehearse(Design(), Scene()) is None


def test_longest_true() -> None:
    assert longest_true(np.array([True, False, True, True, True, False])) == (3, 2)
    assert longest_true(np.zeros(4, dtype=np.bool_)) == (0, 0)


def test_the_map_grows_with_panels_and_bank() -> None:
    """Never darker with more of either; the design's own size is on it, and what is enough meets the target.

    But for a hair: a tripped bank comes back at a share of what may be used, which a bigger one reaches later.
    """
    found = sizing_map(harrier_ridge())
    assert found is not None
    served = np.array(found.served)
    assert (np.diff(served, axis=0) >= -2e-3).all()
    assert (np.diff(served, axis=1) >= -1e-9).all()
    assert found.here_watts in found.watts
    assert found.here_ah in found.amp_hours
    assert found.enough_watts is not None
    row, column = found.amp_hours.index(found.here_ah), found.watts.index(found.enough_watts)
    assert served[row, column] >= found.target > served[row, column - 1]
    assert "W with the 450 A·h you have" in found.sentence


def test_the_map_is_the_years() -> None:
    """The design's own cell is what ten years served, but for what a rounded trip decides."""
    found, years = sizing_map(harrier_ridge()), years_report(harrier_ridge(), 10)
    assert found is not None
    assert years is not None
    assert found.here_served == pytest.approx(years.served_vital, abs=1e-5)


def test_nothing_to_grow_has_no_map() -> None:
    base = harrier_ridge()
    assert sizing_map(base.model_copy(update={"array": base.array.model_copy(update={"strings": []})})) is None


def test_every_part_is_lost_in_turn() -> None:
    """Harrier Ridge: without its only string it is dark once the bank is empty; half the bank costs less."""
    found = failures_report(harrier_ridge())
    assert found is not None
    assert [item.part for item in found.failures] == ["Hut north wall", "One of 2 battery strings"]
    assert found.failures[0].served_vital < 0.01
    assert found.failures[0].served_vital < found.failures[1].served_vital < found.served_vital


def test_a_lone_battery_takes_everything_with_it() -> None:
    found = failures_report(quay_street())
    assert found is not None
    assert found.failures[0].part == "The battery"
    assert found.failures[0].dark_hours_a_year == 8760.0
