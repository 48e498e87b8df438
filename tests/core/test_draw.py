"""The power budget: rails, hours, tempos, peaks, on numbers small enough for a sheet of paper."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.samples import drawn, load, quay_street, station, with_loads
from yonderstat.core import evaluate
from yonderstat.core.design import (
    Design,
    Events,
    KnownAmps,
    KnownCelsius,
    KnownHours,
    KnownIdleWatts,
    KnownShare,
    KnownUsableShare,
    KnownVolts,
    KnownWatts,
    Load,
    Override,
    PowerPoint,
    Rail,
    Tempo,
    Thermostat,
)
from yonderstat.core.draw import everything_keys_a, key_down, peak_a, supply_size_a
from yonderstat.core.draw.when import on_share
from yonderstat.core.station import StationModel

USB = Rail(
    id="usb", name="USB", volts=KnownVolts(value=5.0), efficiency=KnownUsableShare(value=0.8)
)
MAINS = Rail(
    id="mains",
    name="Inverter",
    kind="inverter",
    volts=KnownVolts(value=230.0),
    efficiency=KnownUsableShare(value=0.9),
    idle_w=KnownIdleWatts(value=6.0),
    on_hours=KnownHours(value=10.0),
    rated_w=KnownWatts(value=300.0),
)


def on(rail: str, one: Load) -> Load:
    return one.model_copy(update={"rail": rail})


def test_usb_by_hand() -> None:
    """2 A at 5 V is 10 W; at 80 % 12.5 W; from 12.5 V that is 1 A."""
    assert drawn(on("usb", load("phone", 2.0)), bus_v=12.5, rails=[USB]).receive_a == pytest.approx(
        1.0
    )


def test_a_constant_power_load_takes_more_from_a_lower_bus() -> None:
    """Through a converter the watts are the same, so the amps rise as the bus falls."""
    high, low = (
        drawn(on("usb", load("x", 1.0)), bus_v=volts, rails=[USB]).receive_a
        for volts in (13.2, 11.0)
    )
    assert low / high == pytest.approx(13.2 / 11.0)


def test_an_inverter_idles_by_hand() -> None:
    """6 W for 10 h at 12 V is 5 A·h, load or no load."""
    assert station(rails=[MAINS]).by_month == pytest.approx(np.full(12, 5.0))


def test_direct_saves_the_loss_and_the_idle_draw() -> None:
    """90 W (30 % of the rating, so 90 %) for 2 h: 100 W from 12 V is 16.67 A·h; direct 15; idle 5
    more saved."""
    monitor = on("mains", load("monitor", 90 / 230, hours_per_day=2.0))
    design = with_loads(Design(), monitor)
    design = design.model_copy(
        update={"draw": design.draw.model_copy(update={"rails": [MAINS], "loads": [monitor]})}
    )
    report = evaluate(design)
    assert report.working["draw.load.monitor.daily_ah"].number == pytest.approx(200 / 12)
    assert report.working["draw.load.monitor.direct_ah"].number == pytest.approx(200 / 12 - 15 + 5)


def test_power_table_is_held_at_its_ends_and_says_so() -> None:
    table = [PowerPoint(watts=10, amps=5), PowerPoint(watts=50, amps=12)]
    hf = load("hf", 1.0, transmit_a=22.0, rated_w=100.0).model_copy(update={"power_table": table})
    for power_w, amps, clamped in ((30.0, 8.5, False), (5.0, 5.0, True), (100.0, 12.0, True)):
        pressed = key_down(hf.model_copy(update={"power_w": KnownWatts(value=power_w)}))
        assert pressed is not None
        assert (pressed.amps, pressed.clamped) == (pytest.approx(amps), clamped)


def test_a_cap_holds_the_power() -> None:
    hf = load("hf", 2.0, transmit_a=22.0, rated_w=100.0, power_cap_w=25.0)
    pressed = key_down(hf)
    assert pressed is not None
    assert pressed.watts == 25.0
    assert pressed.amps == pytest.approx(12.0)


def test_ssb_on_the_key_by_hand() -> None:
    """1 A receive, 20 A key-down, SSB at 0.4 is 8 A, half the time: 4.5 A."""
    ssb = load("hf", 1.0, transmit_a=20.0, transmit_share=0.5).model_copy(update={"mode": "ssb"})
    assert drawn(ssb).mean_on_a == pytest.approx(4.5)


def test_standby_fills_the_rest_of_the_day() -> None:
    """2 A for 6 h and 0.1 A for 18 h: 13.8 A·h."""
    assert drawn(load("pc", 2.0, standby_a=0.1, hours_per_day=6.0)).daily_ah[0] == pytest.approx(
        13.8
    )


def test_events_by_hand() -> None:
    """Six times a day for ten minutes is an hour."""
    pump = load("pump", 5.0).model_copy(update={"events": Events(per_day=6, minutes=10)})
    assert drawn(pump).daily_ah[0] == pytest.approx(5.0)


def test_pattern_says_when() -> None:
    pattern = [0.0] * 18 + [1.0] * 4 + [0.5] + [0.0]
    item = drawn(load("lights", 2.0).model_copy(update={"pattern": pattern}))
    assert item.daily_ah[0] == pytest.approx(9.0)
    assert item.hourly_a[0, 18] == 2.0
    assert item.hourly_a[0, 12] == 0.0


def test_a_fan_runs_when_it_is_warm() -> None:
    fan = load("fan", 1.0).model_copy(
        update={"thermostat": Thermostat(when="above", at_c=KnownCelsius(value=25.0))}
    )
    item = drawn(fan)
    assert item.hours[6] > 4
    assert item.hours[0] == pytest.approx(0.0, abs=1e-6)


@pytest.mark.parametrize(
    ("tempo", "share"), [("listening", 0.01), ("net", 0.06), ("full-tilt", 0.3)]
)
def test_a_tempo_goes_for_what_an_operator_keys(tempo: str, share: float) -> None:
    hf = load("hf", 1.0, transmit_a=11.0, transmit_share=0.06).model_copy(update={"kind": "hf_set"})
    repeater = load("rp", 1.0, transmit_a=11.0, transmit_share=0.06).model_copy(
        update={"kind": "repeater"}
    )
    both = station(hf, repeater, sized_on=tempo)
    assert both.loads[0].mean_on_a == pytest.approx(1 + 10 * share)
    assert both.loads[1].mean_on_a == pytest.approx(1.6)


def test_an_override_beats_the_tempo() -> None:
    hf = load("hf", 1.0, transmit_a=11.0, transmit_share=0.06).model_copy(update={"kind": "hf_set"})
    hard = Tempo(
        id="hard",
        name="Hard",
        transmit_share=KnownShare(value=0.3),
        overrides=[
            Override(
                load="hf", transmit_share=KnownShare(value=0.5), hours_per_day=KnownHours(value=2.0)
            )
        ],
    )
    item = drawn(hf, tempos=[hard], sized_on="hard")
    assert item.mean_on_a == pytest.approx(6.0)
    assert item.hours[0] == pytest.approx(2.0)


def test_what_if_everything_keys() -> None:
    hf = load("hf", 2.0, transmit_a=22.0, interlock="operator")
    vhf = load("vhf", 1.0, transmit_a=11.0, interlock="operator")
    both = station(hf, vhf).loads
    assert peak_a(both) == pytest.approx(23.0)
    assert everything_keys_a(both) == pytest.approx(33.0)


def test_supply_beyond_the_largest_is_said() -> None:
    assert supply_size_a(1000.0) is None
    report = evaluate(with_loads(Design(), load("big", 1000.0)))
    assert report.working["draw.supply_a"].value is None
    assert report.working["draw.supply_a"].note


@settings(max_examples=40, deadline=None)
@given(
    st.floats(0, 30),
    st.none() | st.floats(0, 1),
    st.one_of(
        st.floats(0, 24).map(lambda hours: {"hours_per_day": KnownHours(value=hours)}),
        st.lists(st.floats(0, 1), min_size=24, max_size=24).map(lambda shares: {"pattern": shares}),
        st.tuples(st.floats(0, 100), st.floats(0, 60)).map(
            lambda pair: {"events": Events(per_day=pair[0], minutes=pair[1])}
        ),
    ),
    st.sets(st.integers(1, 12), min_size=1),
)
def test_hours_and_months_add_up(
    amps: float, standby: float | None, when: dict[str, object], months: set[int]
) -> None:
    """The sum over the clock hours is the day; the sum over the loads is the month; rest months
    draw nothing."""
    more = {} if standby is None else {"standby_a": KnownAmps(value=standby)}
    one = load("one", amps).model_copy(update={**when, **more, "months": sorted(months)})
    whole = station(one, load("two", 1.0))
    item = whole.loads[0]
    assert item.hourly_a.sum(axis=1) == pytest.approx(item.daily_ah)
    assert whole.by_month == pytest.approx(item.daily_ah + whole.loads[1].daily_ah)
    assert all(item.daily_ah[month - 1] == 0 for month in range(1, 13) if month not in months)


def test_tempos_and_tiers_of_the_report_add_up() -> None:
    report = evaluate(quay_street())
    number = {key: item.value for key, item in report.working.items()}
    tiers = sum(number[tier.daily_ah] or 0 for tier in report.draw.tiers)
    idle = sum(number[rail.idle_ah] or 0 for rail in report.draw.rails)
    assert tiers + idle == pytest.approx(number[report.draw.daily_ah])
    net = next(tempo for tempo in report.tempo_runtime.tempos if tempo.id == "net")
    assert number[net.daily_ah] == pytest.approx(number[report.draw.daily_ah])
    assert number[net.hours or ""] == pytest.approx(number["store.hours_without_sun"])


def test_turning_it_down_never_shortens() -> None:
    report = evaluate(quay_street())
    steps = [step for step in report.tempo_runtime.power_steps if step.load_id == "hf-set"]
    assert [step.watts for step in steps] == [100.0, 50.0, 25.0, 10.0]
    assert [step.in_use for step in steps] == [True, False, False, False]
    hours = [report.working[step.hours or ""].number for step in steps]
    assert hours == sorted(hours)


def test_shedding_lengthens() -> None:
    report = evaluate(quay_street())
    hours = [report.working[item.hours or ""].number for item in report.tempo_runtime.shed]
    assert report.working["store.hours_without_sun"].number < hours[0] < hours[1]


def test_the_station_of_the_demo_by_hand() -> None:
    """Harrier Ridge: repeater 0.45·0.94 + 7.5·0.06 = 0.873 A, 20.95 A·h; controller 2.88; gateway
    8.4."""
    from tests.samples import harrier_ridge

    by_month = StationModel(harrier_ridge()).draw.by_month
    assert by_month[5] == pytest.approx(0.873 * 24 + 0.12 * 24 + 0.35 * 24)
    assert by_month[0] == pytest.approx(by_month[5] + 2.0)


@pytest.mark.parametrize("hot_c", [20.0, 28.0, 40.0, 80.0])
def test_a_thermostat_that_hardly_ever_runs_never_runs(hot_c: float) -> None:
    """The tail of the chance, 10⁻³⁰⁰ of an hour, made days without sun without end; found by a
    drawn document."""
    fan = load("fan", 0.5, thermostat=Thermostat(when="above", at_c=KnownCelsius(value=hot_c)))
    share = on_share(fan, StationModel(quay_street()).climate)
    assert np.all((share == 0.0) | (share >= 1e-6))
