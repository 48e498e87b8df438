"""Sizes side by side against one at a time: the same states, the same service, whatever the
features and the count."""

from dataclasses import replace

import numpy as np
import pytest

from tests.bench.kernel_in_c import compiler, vital_lanes_in_c
from tests.core.rehearsed import station
from tests.core.test_kernel import HOURS, Case, larger, random_case
from tests.samples import harrier_ridge, quay_street
from yonderstat.core.rehearse import Hours, carried_of, served_of
from yonderstat.core.rehearse.kernel import (
    BACKUP_LEFT_H,
    OUT_CHARGE,
    OUT_VITAL,
    OUTS,
    RESERVE,
    STATES,
    VITAL,
    run_years,
)
from yonderstat.core.rehearse.lanes import (
    LANE_BANK,
    LANE_FULL,
    LANE_MOST,
    LANE_OHM,
    LANE_PANELS,
    LANE_ROWS,
    LANES,
    vital_lanes,
)
from yonderstat.core.rehearse.sizes import batches, chances_by_size, served_by_size

LOOKED_AT = (0, 17, 63)


def cut(hours: Hours, count: int) -> Hours:
    """The first so many hours."""
    return hours._replace(
        fixed_a=hours.fixed_a[:count],
        panels_a=np.ascontiguousarray(hours.panels_a[:, :count]),
        backup_a=hours.backup_a[:count],
        load_a=np.ascontiguousarray(hours.load_a[:count]),
        floor_ah=np.ascontiguousarray(hours.floor_ah[:, :count]),
        end_ah=np.ascontiguousarray(hours.end_ah[:, :count]),
        locked=np.ascontiguousarray(hours.locked[:, :count]),
        new_day=hours.new_day[:count],
        still_ah=hours.still_ah[:count],
        fed_ah=hours.fed_ah[:count],
    )


def of_one(case: Case, hours: Hours, panels: float, bank: float) -> tuple[np.ndarray, np.ndarray]:
    """State and vital service of one size, by the kernel that tells hour by hour, and the volts of
    each by the way."""
    rules = larger(case.rules, bank)
    hours = hours._replace(
        panels_a=hours.panels_a * panels, floor_ah=hours.floor_ah * bank, end_ah=hours.end_ah * bank
    )
    state = np.zeros(STATES)
    state[0], state[RESERVE], state[BACKUP_LEFT_H] = (
        case.start_ah * bank,
        rules.reserve_ah,
        rules.backup_h_per_day,
    )
    out = np.empty((1, hours.panels_a.shape[1], OUTS))
    run_years(rules, hours, state, out)
    vital, wanted = out[0, :, OUT_VITAL], hours.load_a[:, VITAL]
    fed = np.minimum(1.0, (hours.fixed_a + hours.panels_a[0]) / rules.fed_a)
    line_ah = (hours.still_ah + (hours.fed_ah - hours.still_ah) * fed) * bank
    mute = (out[0, :, OUT_CHARGE] < line_ah) & (vital >= wanted - 1e-9) & (rules.lines > 0.0)
    return state, np.where(mute, 0.0, vital)


def a_batch(case: Case, rng: np.random.Generator) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """64 sizes of a station at its beginning: their rows, panels and banks."""
    panels, banks = rng.uniform(0.2, 4.0, LANES), rng.uniform(0.3, 3.0, LANES)
    rows = np.zeros((LANE_ROWS, LANES))
    rows[0], rows[RESERVE], rows[BACKUP_LEFT_H] = (
        case.start_ah * banks,
        case.rules.reserve_ah,
        case.rules.backup_h_per_day,
    )
    rows[LANE_PANELS], rows[LANE_BANK], rows[LANE_FULL] = panels, banks, case.rules.full_ah * banks
    rows[LANE_MOST], rows[LANE_OHM] = (
        case.rules.most_charge_a * banks,
        case.rules.ohm / banks + case.rules.bus_ohm,
    )
    return rows.ravel(), panels, banks


@pytest.mark.skipif(compiler() is None, reason="no C compiler on this machine")
@pytest.mark.parametrize("seed", range(40))
def test_the_kernel_in_c_it_is_measured_against_does_the_same(seed: int) -> None:
    case, rng = random_case(seed), np.random.default_rng(seed)
    hours = case.hours._replace(locked=rng.choice([0, 0, 0, 1, 2, 3], (1, HOURS)).astype(np.int8))
    ours, _, _ = a_batch(case, rng)
    theirs, months = ours.copy(), np.arange(HOURS) % 12
    served, served_in_c = np.zeros(12 * LANES), np.zeros(12 * LANES)
    vital_lanes(case.rules, hours, ours, months, served)
    vital_lanes_in_c(case.rules, hours, theirs, months, served_in_c)
    assert theirs == pytest.approx(ours, abs=1e-9)
    assert served_in_c == pytest.approx(served, abs=1e-9)
    assert served.any()


@pytest.mark.parametrize("seed", range(200))
def test_every_state_after_any_hour_is_that_of_one_size_alone(seed: int) -> None:
    """Cut-off by volts, shedding, backups, reserves, frost and what may wait: each in some of the
    cases."""
    case, rng = random_case(seed), np.random.default_rng(seed)
    count = (1, 7, 24, 121, 300, HOURS)[seed % 6]
    frost = rng.choice([0, 0, 0, 1, 2, 3], (1, HOURS)).astype(np.int8)
    still_ah = case.rules.full_ah * rng.uniform(0.0, 0.8, HOURS)
    lined = case.hours._replace(locked=frost, still_ah=still_ah, fed_ah=0.8 * still_ah)
    case = replace(case, rules=case.rules._replace(lines=float(seed % 2), fed_a=5.0))
    hours = cut(lined, count)
    lanes, panels, banks = a_batch(case, rng)
    served = np.zeros(12 * LANES)
    months = np.arange(count) % 12
    vital_lanes(case.rules, hours, lanes, months, served)
    states = lanes.reshape(LANE_ROWS, LANES)[:STATES]
    for lane in LOOKED_AT:
        state, vital = of_one(case, hours, float(panels[lane]), float(banks[lane]))
        assert states[:, lane] == pytest.approx(state, abs=1e-9)
        by_month = np.bincount(months, weights=vital, minlength=12)
        assert served.reshape(12, LANES)[:, lane] == pytest.approx(by_month, abs=1e-9)


@pytest.mark.parametrize("count", [1, 63, 64, 65])
def test_any_number_of_sizes_goes_side_by_side(count: int) -> None:
    hours = station(harrier_ridge(), 1)
    panels, banks = np.linspace(0.5, 4.0, count), np.linspace(3.0, 0.5, count)
    parts = list(batches(count))
    assert sum(part.stop - part.start for part in parts) == count
    found = np.concatenate([served_by_size(hours, panels[part], banks[part]) for part in parts])
    for index in {0, count // 2, count - 1}:
        alone = served_of(hours, float(panels[index]), float(banks[index])).share
        assert found[index] == pytest.approx(alone, abs=1e-9)


def test_chances_of_a_spell_are_those_of_one_size_alone() -> None:
    hours, months = station(quay_street(), 2), [1, 6, 12]
    panels, banks = np.linspace(0.5, 4.0, 9), np.linspace(0.5, 4.0, 9)
    found = chances_by_size(hours, 3.0, 5, months, panels, banks)
    assert 0.0 <= found.min() < found.max() <= 1.0
    for index in range(9):
        alone = carried_of(hours, 3.0, 5, float(panels[index]), float(banks[index]))
        assert found[index] == min(alone.chance(month, 3.0) or 0.0 for month in months)


def test_a_station_that_wants_nothing_vital_is_served() -> None:
    hours = station(harrier_ridge(), 1)
    load_a = hours.hours.load_a.copy()
    load_a[:, VITAL] = 0.0
    idle = hours.__class__(**{**_fields(hours), "hours": hours.hours._replace(load_a=load_a)})
    assert (served_by_size(idle, np.ones(3), np.ones(3)) == 1.0).all()


def _fields(item: object) -> dict[str, object]:
    return {name: getattr(item, name) for name in item.__slots__}  # type: ignore[attr-defined]
