"""Check values of the trade and of published tables. Each test names whose number it checks, with
its mark."""

import pytest

from tests.samples import ah, drawn, load, station, with_bank, with_loads
from yonderstat.core import evaluate
from yonderstat.core.data import rows
from yonderstat.core.design import Bank, Design, KnownUsableShare, Mode, Store
from yonderstat.core.draw import (
    inverter_input_a,
    key_down,
    mean_on_current_a,
    mode_share,
    peak_a,
    stage_current_a,
    supply_size_a,
)
from yonderstat.core.store import (
    Reading,
    charge_range_from_rest,
    peukert_hours,
    rate_factor,
    resting_table,
    temperature_factor,
)


def test_quarter_hour_on_the_key() -> None:
    """[C] 1 A receive, 12 A transmit, 15 min in the hour on the key: 3.75 A on average."""
    assert mean_on_current_a(1.0, 12.0, 15 / 60) == pytest.approx(3.75)


def test_33_amp_hours_at_face_value() -> None:
    """[C] that draw on 33 A·h taken at face value lasts 8.8 h."""
    bank = Bank(chemistry="lifepo4", unit_ah=ah(33), depth=KnownUsableShare(value=1.0))
    design = with_loads(
        Design(store=Store(bank=bank)), load("set", 1.0, transmit_a=12.0, transmit_share=0.25)
    )
    face_value = with_bank(design, cold_c=None)
    report = evaluate(face_value)
    label = report.working["store.label_ah"].number
    assert label / report.working["draw.average_a"].number == pytest.approx(8.8)


def test_receive_all_day_beats_a_few_minutes_of_transmit() -> None:
    """[C] 2 A all day is more than 20 A for a few minutes."""
    listening = load("a", 2.0)
    keyed = load("b", 0.0, transmit_a=20.0, transmit_share=5 / 60, hours_per_day=1.0)
    assert drawn(listening).daily_ah[0] > 20 * drawn(keyed).daily_ah[0]


def test_shared_supply_is_sized_on_the_larger_set() -> None:
    """[C] two sets that never transmit together: the peak is the larger step, not the sum."""
    hf = load("hf", 2.0, transmit_a=22.0, interlock="operator")
    vhf = load("vhf", 1.0, transmit_a=11.0, interlock="operator")
    assert peak_a(station(hf, vhf).loads) == pytest.approx(2 + 1 + 20)
    assert supply_size_a(23.0) == 30.0


@pytest.mark.parametrize(("power_w", "amps"), [(10, 8.3), (25, 12.0), (50, 16.1), (100, 22.0)])
def test_stage_current(power_w: float, amps: float) -> None:
    """[M] a 100 W set, 22 A at most and 2 A quiescent, by the square root of power."""
    assert stage_current_a(power_w, 100.0, 22.0, 2.0) == pytest.approx(amps, abs=0.05)
    hf = load("hf", 2.0, transmit_a=22.0, rated_w=100.0, power_w=float(power_w))
    pressed = key_down(hf)
    assert pressed is not None
    assert pressed.amps == pytest.approx(amps, abs=0.05)


@pytest.mark.parametrize(
    ("mode", "share"), [("ssb", 0.4), ("cw", 0.5), ("fm", 1.0), ("data", 1.0), (None, 1.0)]
)
def test_mode_shares_are_of_current(mode: Mode | None, share: float) -> None:
    """[M] share of the key-down current while transmitting, by mode, from memory."""
    assert mode_share(mode) == share


def test_current_shares_are_not_rf_duty_factors() -> None:
    """[P] FCC OET Bulletin 65 Supplement B, from memory: SSB 20 %, CW 40 %; kept in a table of its
    own."""
    factors = {row["mode"]: float(row["rf_power_share"]) for row in rows("rf_duty_factors")}
    assert factors == {"ssb": 0.2, "cw": 0.4, "fm": 1.0, "data": 1.0}
    assert mode_share("ssb") != factors["ssb"]
    assert mode_share("cw") != factors["cw"]


def test_inverter_input() -> None:
    """[C] 375 W at 0.90 from 12.0 V is 34.7 A: a 30 A breaker is too small."""
    assert inverter_input_a(375.0, 0.90, 12.0) == pytest.approx(34.7, abs=0.05)


@pytest.mark.parametrize(
    ("temperature_c", "size_factor"),
    [
        (-3.9, 1.52),
        (-1.1, 1.43),
        (1.7, 1.35),
        (10.0, 1.19),
        (15.6, 1.11),
        (25.0, 1.00),
        (32.2, 0.94),
    ],
)
def test_lead_in_the_cold(temperature_c: float, size_factor: float) -> None:
    """[P] IEEE Std 485 cell-size correction factors, from memory."""
    assert temperature_factor("agm", temperature_c) == pytest.approx(1 / size_factor)


def test_lead_below_the_table_keeps_falling_to_nothing() -> None:
    """[M] 1.52 is never reused below −3.9 °C; nothing is left where a full cell freezes, near −50
    °C."""
    assert temperature_factor("agm", -15) < temperature_factor("agm", -10) < 1 / 1.52
    assert temperature_factor("agm", -50) == 0


@pytest.mark.parametrize(
    ("temperature_c", "share"), [(25, 1.0), (0, 0.88), (-10, 0.75), (-20, 0.6)]
)
def test_lithium_in_the_cold(temperature_c: float, share: float) -> None:
    """[M] LiFePO4 discharge capacity, from memory."""
    assert temperature_factor("lifepo4", temperature_c) == pytest.approx(share)


@pytest.mark.parametrize("exponent", [1.0, 1.02, 1.12, 1.25])
def test_peukert_identity(exponent: float) -> None:
    """[P] Peukert 1897: at the label's own rate the time is the hour rate."""
    assert peukert_hours(100.0, 20.0, 5.0, exponent) == pytest.approx(20.0)


def test_peukert_by_hand() -> None:
    """[P] Peukert 1897, by hand: 100 A·h at 20 h, 20 A, k 1.25 → 20·(1/4)^1.25 = 3.5355 h, 70.7
    A·h."""
    assert peukert_hours(100.0, 20.0, 20.0, 1.25) == pytest.approx(3.5355, abs=1e-4)
    assert rate_factor(100.0, 20.0, 20.0, 1.25) == pytest.approx(0.7071, abs=1e-4)


def test_rate_never_adds_capacity() -> None:
    """[C] below the label's rate a plan does not lean on extra capacity."""
    assert rate_factor(100.0, 20.0, 0.5, 1.25) == 1.0


@pytest.mark.parametrize(
    ("volts", "share"), [(12.65, 1.0), (12.45, 0.75), (12.24, 0.5), (12.06, 0.25), (11.89, 0.0)]
)
def test_resting_flooded(volts: float, share: float) -> None:
    """[P] BCI resting voltage, from memory: the tabled share lies within the range a meter can
    tell."""
    low, high = charge_range_from_rest("flooded", 12.0, volts)
    assert low <= share <= high
    assert high - low < 0.08


def test_resting_flooded_trade_check() -> None:
    """[C] full is about 12.7 V, half about 12.0 to 12.2 V (read as 20 to 50 %)."""
    assert charge_range_from_rest("flooded", 12.0, 12.7)[0] == 1.0
    assert charge_range_from_rest("flooded", 12.0, 12.2)[1] == pytest.approx(0.476, abs=0.01)


def test_a_cold_lead_block_reads_low_and_a_fresh_charge_high() -> None:
    """From memory: 0.2 mV a kelvin and cell; half full at −20 °C reads 12.24 − 0.054 V. [C] surface
    charge to 0.3 V."""
    cold = charge_range_from_rest("flooded", 12.0, 12.24 - 0.054, Reading(coldest_c=-20.0))
    assert cold[0] < cold[1]
    assert cold[1] >= 0.5
    fresh = charge_range_from_rest("flooded", 12.0, 12.24 + 0.3, Reading(rested=False))
    assert fresh[0] <= 0.5


@pytest.mark.parametrize(
    ("share", "volts"), [(0.9, 13.26), (0.5, 13.06), (0.2, 12.67), (0.1, 11.91)]
)
def test_resting_lithium(share: float, volts: float) -> None:
    """[P] PyBaMM 26.10, Prada2013 LFP cell, times four."""
    rows = {row.charge_share: row.rest_v for row in resting_table("lifepo4", 12.8)}
    assert rows[share] == pytest.approx(volts)


def test_a_reading_on_the_flat_part_of_lithium_is_only_a_range() -> None:
    """[P] the same model: 40 to 70 % spans 0.09 V, so 13.08 V can be anything from under half to
    over 70 %."""
    low, high = charge_range_from_rest("lifepo4", 12.8, 13.08)
    assert low <= 0.5
    assert high >= 0.7


def test_series_doubles_the_resting_volts() -> None:
    """Arithmetic: a 24 V bank rests at twice a 12 V one."""
    assert [row.rest_v for row in resting_table("agm", 24.0)] == pytest.approx(
        [2 * row.rest_v for row in resting_table("agm", 12.0)]
    )
