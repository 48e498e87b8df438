"""What the document holds, and what is said of it."""

from typing import Any

import pytest

from tests.core.judged import PLACED, ids, joined
from tests.samples import harrier_ridge, load, quay_street, with_bank, with_loads
from tests.samples import with_string as with_first_string
from yonderstat.core import evaluate
from yonderstat.core.design import (
    ChargePath,
    KnownCelsius,
    KnownVolts,
    KnownWattHours,
    KnownWatts,
    Module,
    PowerPack,
    Regulator,
    with_array,
    with_store,
)


def test_a_panels_own_noct_heats_its_cells() -> None:
    """[P] ΔT = (NOCT − 20) / 800 · 1000 on a free rack; 45 °C is the usual 31 K."""
    cool, hot = (
        evaluate(
            with_first_string(
                harrier_ridge(), controller="mppt", module=Module(noct_c=KnownCelsius(value=noct))
            )
        ).number("array.harvest_ah.01")
        for noct in (40.0, 55.0)
    )
    assert cool is not None
    assert hot is not None
    assert hot < cool


def test_a_controllers_own_drop_asks_for_more_volts() -> None:
    lossy = with_first_string(harrier_ridge(), regulator=Regulator(drop_v=KnownVolts(value=1.5)))
    before, after = (
        evaluate(design).number("array.string.hut-north-wall.need_v")
        for design in (harrier_ridge(), lossy)
    )
    assert before is not None
    assert after == pytest.approx(before + 1.1)


@pytest.mark.parametrize(
    ("regulator", "key", "severity"),
    [
        ({"absorb_v": KnownVolts(value=15.6)}, "array.absorb_high.hut-north-wall", "stop"),
        ({"absorb_v": KnownVolts(value=13.5)}, "array.absorb_low.hut-north-wall", "fix"),
        ({"float_v": KnownVolts(value=14.2)}, "array.float_high.hut-north-wall", "fix"),
        ({"max_array_w": KnownWatts(value=100.0)}, "array.watts.hut-north-wall", "fix"),
    ],
)
def test_what_is_keyed_in_is_judged(regulator: dict[str, Any], key: str, severity: str) -> None:
    assert (
        ids(with_first_string(harrier_ridge(), regulator=Regulator(**regulator)))[key] == severity
    )


def test_a_measured_resistance_and_exponent_take_the_usual_ones_place() -> None:
    """[closed form] two units of 20 mΩ in parallel are 10 mΩ at 25 °C, and no exponent takes
    nothing away."""
    warm = with_bank(
        PLACED,
        unit_milliohm=20.0,
        peukert_k=1.0,
        series=1,
        parallel=2,
        cold_c=KnownCelsius(value=25.0),
        housing="indoors",
    )
    report = evaluate(warm)
    assert report.number("store.resistance_ohm") == pytest.approx(10.0)
    assert report.number("store.after_rate_ah") == pytest.approx(
        report.number("store.after_health_ah")
    )


@pytest.mark.parametrize(
    ("changed", "key"),
    [
        ({"condition": "aged"}, "array.aged.hut-north-wall"),
        ({"blocking_diode": True}, "array.diode.hut-north-wall"),
    ],
)
def test_what_was_silent_is_said(changed: dict[str, Any], key: str) -> None:
    if "condition" in changed:
        changed = {"module": Module(condition="aged")}
    assert key in ids(with_first_string(harrier_ridge(), **changed))


def test_a_fan_that_runs_all_day_is_said() -> None:
    assert "draw.fan.fan" in ids(
        with_loads(PLACED, load("fan", 0.2, kind="fan", hours_per_day=24.0))
    )


def test_a_pack_charged_in_one_switch_position_alone_is_said() -> None:
    pack = PowerPack(id="pack", name="Pack", energy_wh=KnownWattHours(value=900.0))
    paths = [
        ChargePath(source="hut-north-wall", bank="main"),
        ChargePath(source="hut-north-wall", bank="pack", position="2"),
    ]
    assert "store.selected.pack" in ids(with_store(PLACED, packs=[pack], paths=paths))


def test_unlike_planes_on_one_tracker_are_said() -> None:
    both = joined(with_first_string(quay_street(), controller="mppt"))
    first, second = both.array.strings
    assert "array.planes.two" not in ids(both)
    assert "array.planes.two" in ids(
        with_array(both, strings=[first, second.model_copy(update={"azimuth_deg": 90.0})])
    )
