"""Rails, hours, volts and what is asked, each shown by a small station that once had it wrong."""

import re
from typing import Any

import numpy as np
import pytest

from tests.core.judged import PLACED, find, ids
from tests.samples import load, packhorse, quay_street, with_bank, with_loads
from tests.samples import with_string as with_first_string
from yonderstat.core import evaluate
from yonderstat.core.design import (
    KnownAmpHours,
    KnownIdleWatts,
    KnownUsableShare,
    KnownVolts,
    KnownWatts,
    Module,
    Rail,
    with_array,
    with_load,
)
from yonderstat.core.draw import key_down
from yonderstat.core.electrical import usual_window
from yonderstat.core.rehearse import Scene, rehearse
from yonderstat.core.station import StationModel
from yonderstat.core.store import loaded_v

# -- rails
# -------------------------------------------------------------------------------------------------------------


def inverter(**more: Any) -> Rail:
    whole = {"efficiency": KnownUsableShare(value=0.9), "idle_w": KnownIdleWatts(value=5.0), **more}
    return Rail(id="inv", name="Inverter", kind="inverter", volts=KnownVolts(value=230.0), **whole)


def test_a_transmitter_on_an_inverter_draws_its_keyed_watts_there() -> None:
    """The busiest moment counted what it receives with."""
    rail = inverter(rated_w=KnownWatts(value=300.0))
    set_ = load("set", 0.2, transmit_a=2.0, rail="inv")
    design = with_loads(quay_street(), set_)
    design = design.model_copy(update={"draw": design.draw.model_copy(update={"rails": [rail]})})
    report = evaluate(design)
    assert report.number("draw.rail.inv.peak_w") == pytest.approx(460.0)
    assert ids(design)["draw.overload.inv"] == "stop"


def test_shedding_all_on_an_inverter_sheds_what_it_idles_away() -> None:
    rail = inverter(idle_w=KnownIdleWatts(value=12.0))
    lamp = load("lamp", 0.1, rail="inv", tier="comfort")
    design = with_loads(quay_street(), load("set", 1.0), lamp)
    design = design.model_copy(update={"draw": design.draw.model_copy(update={"rails": [rail]})})
    report = evaluate(design)
    kept = report.number(report.tempo_runtime.shed[0].daily_ah)
    assert kept == pytest.approx(report.number("draw.load.set.daily_ah"))


# -- when loads run
# ----------------------------------------------------------------------------------------------------


def test_hours_nobody_has_placed_lie_where_such_loads_run() -> None:
    """Spread over the day they made a dark evening look served."""
    set_ = load("set", 2.0, kind="hf_set", hours_per_day=3.0)
    drawn = StationModel(with_loads(PLACED, set_)).draw.loads[0].hourly_a[0]
    assert np.flatnonzero(drawn).tolist() == [19, 20, 21]
    always = load("net", 0.5, kind="network", hours_per_day=12.0)
    assert StationModel(with_loads(PLACED, always)).draw.loads[0].hourly_a[0] == pytest.approx(
        [0.25] * 24
    )


def test_it_is_said_where_unplaced_hours_decide() -> None:
    """The same three hours read as an evening turn a verdict round."""
    set_ = load("set", 6.0, kind="hf_set", hours_per_day=3.0)
    bank = {"unit_ah": KnownAmpHours(value=12.0), "parallel": 1, "tested_ah": None}
    small = with_bank(with_loads(with_first_string(PLACED, parallel=8), set_), **bank)
    found = find(evaluate(small), "rehearse.hours")
    assert found is not None
    placed = with_load(small, 0, pattern=[0.0] * 19 + [1.0] * 3 + [0.0] * 2)
    assert find(evaluate(placed), "rehearse.hours") is None


def test_a_daylight_load_passes_the_night() -> None:
    tool = load("tool", 20.0, kind="tool", hours_per_day=3.0)
    report = evaluate(with_loads(PLACED, tool))
    assert report.number("store.night_ah") == pytest.approx(0.0)


def test_peukert_feels_the_current_while_it_flows() -> None:
    """[closed form] 12 A·h in two hours leave at 6 A, not at the day's half an ampere."""
    short = load("short", 6.0, kind="hf_set", hours_per_day=2.0)
    assert StationModel(with_loads(PLACED, short)).draw.flowing_a(1) == pytest.approx(6.0)
    assert StationModel(with_loads(PLACED, load("even", 0.5))).draw.flowing_a(1) == pytest.approx(
        0.5
    )


# -- spells, months, shares
# --------------------------------------------------------------------------------------------


def test_without_panels_the_sun_carries_nothing() -> None:
    design = with_array(quay_street(), strings=[])
    everyday = design.model_copy(
        update={"brief": design.brief.model_copy(update={"purpose": "everyday"})}
    )
    report = evaluate(everyday)
    assert report.rehearsed is not None
    assert report.number(report.rehearsed.share) == 0.0


def test_what_the_sun_carries_is_of_what_is_wanted() -> None:
    """Served in full by nobody else, a starved station read as carried whole."""
    tiny = with_first_string(
        with_array(quay_street(), chargers=[]),
        parallel=1,
        module=Module(watts=KnownWatts(value=20.0)),
    )
    everyday = tiny.model_copy(
        update={"brief": tiny.brief.model_copy(update={"purpose": "everyday"})}
    )
    report = evaluate(everyday)
    assert report.rehearsed is not None
    assert (report.number(report.rehearsed.share) or 1.0) < 0.3


def test_a_month_out_of_use_is_used_when_a_scene_is_played_in_it() -> None:
    summer = packhorse()
    summer = summer.model_copy(update={"brief": summer.brief.model_copy(update={"months": [1, 2]})})
    told = rehearse(summer, Scene(month=7, day=1, days=3))
    assert told is not None
    assert sum(hour.wanted_a for hour in told.hours) > 0


# -- volts at a set
# ----------------------------------------------------------------------------------------------------


def test_a_set_for_13_8_v_on_24_v_is_a_stop() -> None:
    """Nothing was raised: the ladder doubled the window instead."""
    design = with_bank(with_loads(PLACED, load("set", 1.0, kind="hf_set")), series=4, unit_v=6.0)
    assert ids(design)["draw.system_volts.set"] == "stop"


def test_charging_above_a_sets_window_is_a_fix() -> None:
    nmc = with_bank(
        with_loads(PLACED, load("set", 1.0, kind="hf_set", window="15")),
        chemistry="nmc",
        unit_v=14.8,
        series=1,
    )
    found = find(evaluate(nmc), "draw.over_volts.set")
    assert found is not None
    assert found.severity == "fix"
    assert "16.4 V" in found.sentence


def test_equalising_above_a_window_is_said() -> None:
    design = with_bank(with_loads(PLACED, load("set", 1.0, window="10")), chemistry="flooded")
    assert ids(design)["draw.equalise"] == "mind"


def test_too_few_volts_on_the_key_are_a_finding() -> None:
    sagging = with_loads(PLACED, load("set", 1.0, transmit_a=60.0, window="10"))
    assert ids(sagging)["bus.under_volts.set"] == "fix"


def test_the_power_a_bank_carries_is_where_its_set_meets_the_window() -> None:
    """By hand: so many amps, through the runs on the way, bring the set just to its least volts."""
    tx = load(
        "set", 1.0, transmit_a=300.0, rated_w=200.0, window="own", least_v=KnownVolts(value=12.0)
    )
    model = StationModel(with_loads(PLACED, tx))
    found = find(evaluate(model.design), "bus.under_volts.set")
    assert found is not None
    bank, window = model.bank, usual_window(tx)
    assert bank is not None
    assert window is not None
    powers = re.findall("enough for (\\d+) W, a half-charged one for (\\d+) W", found.why)
    full_w, half_w = (float(power) for power in powers[0])
    assert 0.0 < half_w < full_w < 200.0
    for share, power_w in ((1.0, full_w), (1.0 - bank.depth / 2.0, half_w)):
        pressed = key_down(tx.model_copy(update={"power_w": KnownWatts(value=power_w)}))
        assert pressed is not None
        posts_v = loaded_v(bank.bank, model.bus_v, share, pressed.amps, bank.hard_c)
        runs_ohm = model.bus.run("main").ohm + model.bus.run("load-set").ohm
        assert posts_v - pressed.amps * runs_ohm == pytest.approx(window.low_v, abs=0.03)
