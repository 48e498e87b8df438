"""What a tracker passes near the bank's volts: it slides down the panel's curve, it does not
stop."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.samples import harrier_ridge, with_string
from yonderstat.core import evaluate
from yonderstat.core.array import amps_into_bank, electric_of, left_when_hot
from yonderstat.core.design import KnownMetres, KnownVolts, KnownWatts, Module, PanelString
from yonderstat.core.design.array import Array

QUICK = settings(max_examples=40, deadline=None)


def string(controller: str, cells: int = 36, series: int = 1, **more: object) -> PanelString:
    module = Module(watts=KnownWatts(value=100.0), cells=cells)  # type: ignore[arg-type]
    return PanelString.model_validate(
        {
            "id": "s",
            "name": "S",
            "module": module,
            "series": series,
            "controller": controller,
            **more,
        }
    )


def amps(one: PanelString, charge_v: float, sun_w_m2: float, cell_c: float) -> float:
    electric = electric_of(one, Array(strings=[one]), charge_v)
    return float(amps_into_bank(electric, np.array([sun_w_m2]), np.array([cell_c]))[0])


@QUICK
@given(
    st.floats(25, 1200),
    st.floats(-30, 95),
    st.floats(12.0, 15.5),
    st.sampled_from([(36, 1), (36, 2), (60, 1), (72, 1)]),
)
def test_mppt_gives_no_less_than_pwm_but_for_its_own_losses(
    sun_w_m2: float, cell_c: float, charge_v: float, panel: tuple[int, int]
) -> None:
    """At every sun and cell temperature: conversion takes 4 %, and nothing else may be lost."""
    mppt, pwm = (amps(string(kind, *panel), charge_v, sun_w_m2, cell_c) for kind in ("mppt", "pwm"))
    assert mppt >= 0.95 * pwm - 1e-9


def test_an_old_36_cell_panel_in_the_heat() -> None:
    """[computed] Once nothing flowed at 70 °C cells on a 12 V bank, and June's harvest was
    halved."""
    mppt, pwm = (amps(string(kind), 13.8, 1000.0, 70.0) for kind in ("mppt", "pwm"))
    assert pwm > 3.0
    assert mppt == pytest.approx(pwm, rel=0.05)


@QUICK
@given(
    st.floats(12.0, 20.0), st.floats(0.0, 2.0), st.sampled_from(["pwm", "mppt"]), st.floats(0, 80)
)
def test_more_volts_in_the_bank_never_bring_more_current(
    charge_v: float, more_v: float, controller: str, cell_c: float
) -> None:
    """Where a tracker steps down no more and begins to pass, by no more than what stepping down had
    lost."""
    one = string(controller)
    kept = (
        electric_of(one, Array(strings=[one]), charge_v).efficiency if controller == "mppt" else 1.0
    )
    assert (
        amps(one, charge_v + more_v, 900.0, cell_c)
        <= amps(one, charge_v, 900.0, cell_c) / kept + 1e-9
    )


def test_a_tracker_that_never_sees_its_headroom_never_wakes() -> None:
    """A 12 V-class panel on a 24 V bank: its open-circuit volts lie under what any start needs."""
    assert amps(string("mppt"), 28.0, 1000.0, 25.0) == 0.0
    assert amps(string("mppt", 36, 2), 28.0, 1000.0, 25.0) > 0.0


def test_the_hot_check_counts_diode_and_cable() -> None:
    """Judged by the current into the bank, behind what the design holds."""
    plain = string("pwm", fitted="roof")
    worse = string(
        "pwm", fitted="roof", blocking_diode=True, cable_m=KnownMetres(value=15.0), cable_mm2=2.5
    )
    left = [
        left_when_hot(electric_of(one, Array(strings=[one]), 14.4), 85.0) for one in (plain, worse)
    ]
    assert 0.0 < left[1] < left[0] < 1.0


def test_a_tracker_with_room_above_the_bank_loses_nothing_there_to_the_heat() -> None:
    """What heat takes from the watts is no want of volts: two panels in series stay far above a 12
    V bank."""
    cases = (string("mppt", 36, 2, fitted="roof"), 14.4), (string("mppt", fitted="roof"), 16.5)
    left = [
        left_when_hot(electric_of(one, Array(strings=[one]), volts), 70.0) for one, volts in cases
    ]
    assert left[0] == 1.0
    assert left[1] < 0.95


def test_two_old_panels_that_peak_below_absorption_still_charge() -> None:
    """[computed, single-diode] Handbook: they give 7.7 of 9.0 A there; slower is Mind, only nothing
    is Stop."""
    old = Module(
        watts=KnownWatts(value=80.0), v_mp=KnownVolts(value=16.5), v_oc=KnownVolts(value=20.5)
    )
    design = with_string(
        harrier_ridge(), module=old, series=1, parallel=2, controller="mppt", fitted="roof"
    )
    found = {item.id.rsplit(".", 1)[0]: item.severity for item in evaluate(design).findings}
    assert found.get("array.hot") in {None, "mind"}
    assert "array.too_low" not in found
