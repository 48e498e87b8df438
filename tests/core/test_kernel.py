"""The kernel: against two programs written apart from it, closed forms, and the balance of every
hour."""

from dataclasses import dataclass

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.bench.over_designs import vital_over_designs
from tests.bench.plain_loop import plain_hours
from yonderstat.core.rehearse import Hours, Rules
from yonderstat.core.rehearse.kernel import (
    CHARGE,
    OUT_BACKED,
    OUT_CHARGE,
    OUT_DEFERRED,
    OUT_FROM,
    OUT_INTO,
    OUT_LOST,
    OUT_RESERVE,
    OUT_TAKEN,
    OUT_TO_RESERVE,
    OUT_TRIPPED,
    OUT_VITAL,
    OUTS,
    RESERVE,
    STATES,
    Scales,
    hours_to_full,
    run_years,
    spell_cases,
    sum_cases,
)

HOURS = 480


@dataclass(frozen=True, slots=True)
class Case:
    rules: Rules
    hours: Hours
    start_ah: float


def rules(**changes: float) -> Rules:
    """A plain bank: 100 A·h, everything usable, nothing lost."""
    base = Rules(100.0, 1.0, 100.0, 1000.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.2, 0.0, *([0.0] * 11))
    return base._replace(reserve_efficiency=1.0, **changes)


def hours(source: object, load: object, n: int = HOURS, **changes: object) -> Hours:
    """Hours that are alike unless arrays are given."""
    loads = np.zeros((n, 4))
    loads[:, 0] = load
    base = Hours(
        rest_v=np.linspace(11.8, 12.8, 11),
        fixed_a=np.zeros(n),
        panels_a=np.broadcast_to(np.asarray(source, dtype=float), (1, n)).copy(),
        backup_a=np.zeros(n),
        load_a=loads,
        floor_ah=np.zeros((1, n)),
        end_ah=np.zeros((1, n)),
        locked=np.zeros((1, n), dtype=np.bool_),
        new_day=np.arange(n) % 24 == 0,
        still_ah=np.zeros(n),
        fed_ah=np.zeros(n),
    )
    return base._replace(**changes)


def larger(one: Rules, times: float) -> Rules:
    """The rules of a bank so many times as big."""
    return one._replace(
        full_ah=one.full_ah * times,
        most_charge_a=one.most_charge_a * times,
        slow_charge_a=one.slow_charge_a * times,
        ohm=one.ohm / times,
    )


def run(case: Case) -> np.ndarray:
    out = np.empty((1, case.hours.panels_a.shape[1], OUTS))
    state = np.zeros(STATES)
    state[CHARGE], state[RESERVE] = case.start_ah, case.rules.reserve_ah
    state[3] = case.rules.backup_h_per_day
    run_years(case.rules, case.hours, state, out)
    return out[0]


def random_case(seed: int) -> Case:
    """Every feature, each in some of the cases."""
    rng = np.random.default_rng(seed)

    def maybe(value: float) -> float:
        return float(value) if rng.uniform() < 0.5 else 0.0

    full = float(rng.uniform(20, 300))
    made = Rules(
        full_ah=full,
        efficiency=float(rng.choice([0.85, 0.9, 0.98])),
        accept_per_h=float(rng.choice([1.0, 4.0])),
        most_charge_a=float(rng.uniform(5, 60)),
        leak_per_h=maybe(1e-4),
        idle_a=maybe(0.03),
        heater_a=maybe(1.5),
        ohm=float(rng.uniform(0.001, 0.05)),
        low_v=maybe(rng.uniform(11.9, 12.2)),
        back_share=float(rng.uniform(0.05, 0.4)),
        hand_h=maybe(rng.integers(1, 40)),
        shed_useful=maybe(0.3),
        shed_comfort=maybe(0.5),
        hysteresis=0.1,
        backup_on=0.3,
        backup_off=0.9,
        backup_h_per_day=maybe(rng.integers(1, 12)),
        defer_share=0.5,
        owed_most_ah=maybe(10.0),
        reserve_ah=maybe(rng.uniform(5, 40)),
        reserve_efficiency=0.95,
        reserve_charge_a=maybe(5.0),
        bus_ohm=0.0,
        slow_charge_a=float(rng.uniform(0.5, 5.0)),
    )
    clock = np.arange(HOURS) % 24
    sun = (
        np.maximum(0.0, np.sin((clock - 6) / 12 * np.pi))
        * rng.uniform(0, 30)
        * rng.uniform(0, 1, HOURS)
    )
    floor = full * (rng.uniform(0.1, 0.5) + 0.05 * rng.uniform(0, 1, HOURS))
    return Case(
        made,
        Hours(
            rest_v=np.sort(rng.uniform(11.5, 13.0, 21)),
            fixed_a=np.where(clock == 8, maybe(10.0), 0.0),
            panels_a=sun[None, :],
            backup_a=np.where((clock > 7) & (clock < 21), maybe(15.0), 0.0),
            load_a=rng.uniform(0, 6, (HOURS, 4)) * (rng.uniform(0, 1, (HOURS, 4)) > 0.2),
            floor_ah=floor[None, :],
            end_ah=(floor * (rng.uniform(0.0, 1.0) if rng.uniform() < 0.5 else 1.0))[None, :],
            locked=rng.choice([0] * 17 + [1, 2, 3], HOURS).astype(np.int8)[None, :],
            new_day=clock == 0,
            still_ah=np.zeros(HOURS),
            fed_ah=np.zeros(HOURS),
        ),
        float(rng.uniform(floor[0], full)),
    )


@pytest.mark.parametrize("seed", range(40))
def test_the_kernel_is_the_plain_loop(seed: int) -> None:
    """[independent code] every column of every hour, to rounding."""
    case = random_case(seed)
    plain = np.array(plain_hours(case.rules, case.hours, case.start_ah))
    fast = run(case)
    idle = np.minimum(case.hours.fixed_a + case.hours.panels_a[0], case.rules.idle_a)
    fast[:, OUT_TAKEN] -= idle
    assert fast == pytest.approx(plain, abs=1e-8)


@pytest.mark.parametrize("seed", range(12))
def test_the_kernel_is_numpy_over_designs(seed: int) -> None:
    """[independent code] many sizes at once; each size is a kernel run of its own."""
    case = random_case(seed)
    panels, banks = np.array([0.5, 1.0, 2.0, 4.0]), np.array([1.0, 0.7, 2.0, 1.5])
    many = vital_over_designs(case.rules, case.hours, panels, banks)
    for number, (panel, bank) in enumerate(zip(panels, banks, strict=True)):
        made = larger(case.rules, float(bank))
        sized = case.hours._replace(
            panels_a=case.hours.panels_a * panel,
            floor_ah=case.hours.floor_ah * bank,
            end_ah=case.hours.end_ah * bank,
        )
        one = run(Case(made, sized, made.full_ah))
        assert one[:, OUT_VITAL] == pytest.approx(many[:, number], abs=1e-8)


@pytest.mark.parametrize("seed", range(40))
def test_cases_in_one_run_are_runs_of_their_own(seed: int) -> None:
    """So many times the panels by month, the bank and the loads: the sums of stations that are
    so."""
    case, rng = random_case(seed), np.random.default_rng(seed)
    scales = Scales(
        rng.uniform(0.3, 3.0, (3, 12)), rng.uniform(0.3, 3.0, 3), rng.uniform(0.5, 2.0, 3)
    )
    months, sums = np.arange(HOURS) % 12, np.zeros((3, 12, 6))
    made = [larger(case.rules, float(bank)) for bank in scales.banks]
    states = np.zeros((3, STATES))
    states[:, CHARGE] = [rule.full_ah for rule in made]
    states[:, RESERVE], states[:, 3] = case.rules.reserve_ah, case.rules.backup_h_per_day
    sum_cases((made[0], made[1], made[2]), case.hours, scales, states, months, sums)
    for number, rule in enumerate(made):
        loads = case.hours.load_a * scales.loads[number]
        sized = case.hours._replace(
            panels_a=case.hours.panels_a * scales.panels[number][months],
            floor_ah=case.hours.floor_ah * scales.banks[number],
            end_ah=case.hours.end_ah * scales.banks[number],
            load_a=loads,
        )
        out = run(Case(rule, sized, rule.full_ah))
        dark = out[:, OUT_VITAL] < loads[:, 0] - 1e-9
        worn = out[:, OUT_CHARGE] < sized.floor_ah[0] - 1e-6
        used = out[:, OUT_VITAL : OUT_DEFERRED + 1].sum(axis=1)
        columns = (out[:, OUT_VITAL], dark, used, out[:, OUT_BACKED], np.zeros(HOURS), worn)
        for column, hourly in enumerate(columns):
            assert sums[number, :, column] == pytest.approx(
                np.bincount(months, weights=hourly, minlength=12)
            )


@settings(max_examples=80, deadline=None)
@given(st.integers(100, 100_000))
def test_the_balance_closes_every_hour(seed: int) -> None:
    """[closed form] in equals out plus losses plus what is stored; nothing is taken that is not
    there."""
    case = random_case(seed)
    out, r = run(case), case.rules
    charge = np.diff(out[:, OUT_CHARGE], prepend=case.start_ah)
    reserve = np.diff(out[:, OUT_RESERVE], prepend=r.reserve_ah)
    served = out[:, OUT_VITAL : OUT_DEFERRED + 1].sum(axis=1)
    charging = out[:, OUT_INTO] * (1 - r.efficiency) + out[:, OUT_TO_RESERVE] * (
        1 - r.reserve_efficiency
    )
    into = out[:, OUT_TAKEN] + out[:, OUT_BACKED]
    assert into == pytest.approx(served + out[:, OUT_LOST] + charging + charge + reserve, abs=1e-8)
    assert out[:, OUT_CHARGE].max() <= r.full_ah + 1e-9
    assert out[:, OUT_CHARGE].min() >= -1e-9
    sources = case.hours.fixed_a + case.hours.panels_a[0]
    assert (out[:, OUT_TAKEN] <= sources + 1e-9).all()
    assert (out[:, OUT_BACKED] <= case.hours.backup_a + 1e-9).all()
    assert (out[:, OUT_VITAL : OUT_VITAL + 3] <= case.hours.load_a[:, :3] + 1e-9).all()
    assert (out[:, [OUT_FROM, OUT_INTO, OUT_TO_RESERVE, OUT_LOST]] >= -1e-12).all()


def test_no_sun_is_capacity_over_draw() -> None:
    """[closed form] 100 A·h at 2 A: fifty hours, and the fifty-first is dark."""
    out = run(Case(rules(), hours(0.0, 2.0), 100.0))
    assert out[:50, OUT_VITAL] == pytest.approx(2.0)
    assert out[50:, OUT_VITAL] == pytest.approx(0.0)


def test_the_hour_it_runs_out_is_served_in_part() -> None:
    """[closed form] 100 A·h at 3 A: a third of the thirty-fourth hour."""
    out = run(Case(rules(), hours(0.0, 3.0), 100.0))
    assert out[33, OUT_VITAL] == pytest.approx(1.0)
    assert out[33, OUT_TRIPPED] == 1.0


def test_constant_sun_and_load_stand_still() -> None:
    """[closed form] 3 A in, 2 A out of a full bank: nothing moves, and one amp is left on the
    roof."""
    out = run(Case(rules(), hours(3.0, 2.0), 100.0))
    assert out[:, OUT_CHARGE] == pytest.approx(100.0)
    assert out[:, OUT_TAKEN] == pytest.approx(2.0)


def test_a_square_day_by_hand() -> None:
    """[by hand] 12 h of 5 A sun, 2 A all day, 0.9 kept: 12·3·0.9 = 32.4 in, 24 out, from 50 to 58.4
    in a day."""
    clock = np.arange(24)
    out = run(Case(rules(efficiency=0.9), hours(np.where(clock < 12, 5.0, 0.0), 2.0, n=24), 50.0))
    assert out[-1, OUT_CHARGE] == pytest.approx(50.0 + 32.4 - 24.0)


def test_acceptance_dies_away_by_hand() -> None:
    """[closed form] I = k·(C − Q) with k = ½ and η = 1 leaves half of what is missing every
    hour."""
    out = run(Case(rules(accept_per_h=0.5), hours(1000.0, 0.0, n=6), 36.0))
    assert 100.0 - out[:, OUT_CHARGE] == pytest.approx(64.0 * 0.5 ** np.arange(1, 7))


def test_self_discharge_and_idling_by_hand() -> None:
    """[closed form] a per cent an hour, then 0.5 A: 100 → 98.5 → 97.015."""
    out = run(Case(rules(leak_per_h=0.01, idle_a=0.5), hours(0.0, 0.0, n=2), 100.0))
    assert out[:, OUT_CHARGE] == pytest.approx([98.5, 97.015])


def test_the_layers_come_on_when_the_bank_is_at_its_end() -> None:
    """[closed form] 100 A·h and a layer of 20 at 2 A: sixty hours."""
    out = run(Case(rules(reserve_ah=20.0), hours(0.0, 2.0), 100.0))
    assert int(np.argmax(out[:, OUT_VITAL] < 2.0)) == 60


def test_a_low_voltage_cut_off_leaves_charge_behind() -> None:
    """[closed form] 11.8 to 12.8 V over the charge, no resistance: cut off at 12.3 V leaves half of
    it."""
    out = run(Case(rules(low_v=12.3), hours(0.0, 2.0), 100.0))
    assert int(np.argmax(out[:, OUT_VITAL] < 2.0)) in {25, 26}
    assert out[-1, OUT_CHARGE] == pytest.approx(50.0, abs=2.0)


def test_a_lead_to_the_cut_off_counts_like_resistance_in_the_bank() -> None:
    """[closed form] 2 A through 0.05 Ω are 0.1 V: cut off a tenth of the 1 V range earlier,
    wherever the ohms are."""
    near = run(Case(rules(low_v=12.3, bus_ohm=0.05), hours(0.0, 2.0), 100.0))
    inside = run(Case(rules(low_v=12.3, ohm=0.05), hours(0.0, 2.0), 100.0))
    assert near[-1, OUT_CHARGE] == pytest.approx(60.0, abs=2.0)
    assert near[:, OUT_CHARGE] == pytest.approx(inside[:, OUT_CHARGE])


def test_dark_until_a_person_arrives() -> None:
    """Sun comes back at once, the hand after two days: it is dark for 48 hours, then up."""
    source = np.where(np.arange(HOURS) >= 50, 10.0, 0.0)
    alone = run(Case(rules(), hours(source, 2.5), 100.0))
    by_hand = run(Case(rules(hand_h=48.0), hours(source, 2.5), 100.0))
    assert int((alone[:, OUT_VITAL] < 2.5).sum()) == 10
    assert int((by_hand[:, OUT_VITAL] < 2.5).sum()) == 48


def test_a_backup_starts_low_and_stops_high() -> None:
    """On below 30 %, off above 90 %, and never dark; its hours a day are kept."""
    made = rules(backup_on=0.3, backup_off=0.9, backup_h_per_day=24.0)
    case = Case(made, hours(0.0, 2.0)._replace(backup_a=np.full(HOURS, 12.0)), 100.0)
    out = run(case)
    runs = out[:, OUT_BACKED] > 0
    assert (out[:, OUT_VITAL] == 2.0).all()
    assert out[:, OUT_CHARGE].min() == pytest.approx(28.0, abs=2.0)
    assert runs.any()
    assert not runs.all()
    few = run(Case(made._replace(backup_h_per_day=2.0), case.hours, 100.0))
    assert (few[:, OUT_BACKED].reshape(-1, 24) > 0).sum(axis=1).max() == 2


def test_what_may_wait_waits_for_the_sun() -> None:
    """1 A wanted all night is given by day, out of spare sun; without any it is given up, and never
    drains the bank."""
    clock = np.arange(48) % 24
    loads = np.zeros((48, 4))
    loads[:, 3] = clock < 6
    made = rules(owed_most_ah=12.0, defer_share=0.5)
    lit = run(
        Case(made, hours(np.where(clock > 8, 3.0, 0.0), 0.0, n=48)._replace(load_a=loads), 80.0)
    )
    dull = run(Case(made, hours(0.0, 0.0, n=48)._replace(load_a=loads), 80.0))
    assert lit[clock < 8, OUT_DEFERRED].sum() == 0.0
    assert lit[:, OUT_DEFERRED].sum() == pytest.approx(12.0)
    assert dull[:, OUT_DEFERRED].sum() == 0.0
    assert dull[-1, OUT_CHARGE] == 80.0


def test_a_heater_opens_a_cold_bank_to_charge() -> None:
    """Too cold: without a heater nothing goes in; with one of 2 A, 8 of 10 A do."""
    cold = hours(10.0, 0.0, n=2)._replace(locked=np.ones((1, 2), dtype=np.bool_))
    assert run(Case(rules(), cold, 50.0))[-1, OUT_CHARGE] == 50.0
    assert run(Case(rules(heater_a=2.0), cold, 50.0))[-1, OUT_CHARGE] == pytest.approx(66.0)


@settings(max_examples=40, deadline=None)
@given(st.integers(0, 10_000), st.floats(1.0, 3.0))
def test_shedding_never_shortens_vital_service(seed: int, more: float) -> None:
    """From a full bank with nothing coming in, hours of vital service with shedding are no fewer
    than without."""
    case = random_case(seed)
    still = case.hours._replace(
        fixed_a=np.zeros(HOURS), panels_a=np.zeros((1, HOURS)), backup_a=np.zeros(HOURS)
    )
    lasted = []
    for shed in (0.0, 0.3):
        made = case.rules._replace(shed_useful=shed, shed_comfort=min(1.0, shed * more), low_v=0.0)
        short = run(Case(made, still, made.full_ah))[:, OUT_VITAL] < still.load_a[:, 0] - 1e-9
        lasted.append(int(np.argmax(short)) if short.any() else HOURS)
    assert lasted[1] >= lasted[0]


def test_spells_and_refills_by_hand() -> None:
    """[closed form] 100 A·h at 2 A from midnight: fifty hours; empty at 8 A net of 2: 98 % after 17
    hours."""
    starts, months = np.array([[0, 0], [0, 24]], dtype=np.int64), np.zeros(HOURS, dtype=np.int64)
    carried, left, powered = np.empty((2, 2)), np.empty((2, 2)), np.empty((2, 2))
    as_it_is_and_twice_the_load = Scales(np.ones((2, 12)), np.ones(2), np.array([1.0, 2.0]))
    alike = (rules(), rules(), rules())
    spell_cases(
        alike,
        hours(0.0, 2.0),
        as_it_is_and_twice_the_load,
        months,
        starts,
        72,
        carried,
        left,
        powered,
    )
    assert carried[0] == pytest.approx(50.0)
    assert carried[1] == pytest.approx(25.0)
    assert left == pytest.approx(0.0)
    assert powered == pytest.approx(carried)
    # Under 60 A·h a set has too few volts: twenty hours of service, and fifty of power.
    lined = hours(0.0, 2.0, still_ah=np.full(HOURS, 60.0), fed_ah=np.full(HOURS, 60.0))
    mute = (rules(lines=1.0), rules(lines=1.0), rules(lines=1.0))
    spell_cases(
        mute, lined, as_it_is_and_twice_the_load, months, starts, 72, carried, left, powered
    )
    assert carried[0] == pytest.approx(20.0)
    assert powered[0] == pytest.approx(50.0)
    found = np.empty(2)
    hours_to_full(rules(), hours(8.0, 2.0), starts, 0.98, 72, found)
    assert found == pytest.approx(17.0)
