"""Panels, strings and controllers against pvlib, published tables and the trade."""

import numpy as np
import pvlib
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from yonderstat.core.array import (
    Electric,
    amps_into_bank,
    cold_open_v,
    conductor_a,
    current_at_v,
    curve_grid,
    electric_of,
    fit_diode,
    hot_working_v,
    interpolated,
    label_of,
    nec_factor,
    power_grid,
    source_circuit_a,
)
from yonderstat.core.design import Array, KnownAmps, KnownVolts, KnownWatts, Module, PanelString

SUN, CELL = np.array([1000.0]), np.array([25.0])


def module(watts: float = 100.0, v_mp: float = 18.0, cells: int = 36, **more: object) -> Module:
    return Module.model_validate(
        {"watts": {"value": watts}, "v_mp": {"value": v_mp}, "cells": cells, **more}
    )


def string(panel: Module | None = None, **more: object) -> PanelString:
    return PanelString.model_validate({"id": "s", "name": "S", "module": panel or module(), **more})


def electric(controller: str = "mppt", charge_v: float = 13.6, **more: object) -> Electric:
    one = string(controller=controller, **more)
    return electric_of(one, Array(strings=[one]), charge_v)


@pytest.mark.parametrize(
    ("cell_c", "gain"),
    [
        (0.0, 0.33),
        (10.0, 0.28),
        (25.0, 0.21),
        (35.0, 0.16),
        (45.0, 0.11),
        (55.0, 0.06),
        (65.0, 0.02),
    ],
)
def test_what_mppt_is_worth_by_heat(cell_c: float, gain: float) -> None:
    """[computed, pvlib single-diode, 100 W 36-cell, η 0.96, 1000 W/m²] gain over PWM at 13.6 V. The
    label of that run is not known to the volt: ours, 18.0 V, lies within four points."""
    label = label_of(module())
    cell = np.array([cell_c])
    watts = float(interpolated(power_grid(label)[0], SUN, cell)[0])
    amps = float(interpolated(current_at_v(label, 13.6), SUN, cell)[0])
    assert watts * 0.96 / 13.6 / amps - 1.0 == pytest.approx(gain, abs=0.04)


def test_the_trades_gain_is_a_cool_weather_figure() -> None:
    """[C] MPPT over PWM with a 12 V-class panel is worth 20–25 % in cool weather, and less in
    heat."""
    cool, hot = np.array([22.0]), np.array([55.0])
    gains = [
        float(
            amps_into_bank(electric("mppt"), SUN, cell)[0]
            / amps_into_bank(electric("pwm"), SUN, cell)[0]
        )
        - 1.0
        for cell in (cool, hot)
    ]
    assert 0.17 <= gains[0] <= 0.27
    assert gains[1] < 0.08


def test_a_grid_panel_on_pwm_keeps_half() -> None:
    """[computed, pvlib] a 60-cell 250 W panel on PWM into 12 V keeps 47–51 % of its watts."""
    panel = module(250.0, 30.5, 60)
    amps = float(amps_into_bank(electric("pwm", module=panel), SUN, CELL)[0])
    assert 0.43 <= amps * 13.6 / 250.0 <= 0.51


def test_two_hundred_watts_series_and_parallel() -> None:
    """[C] two 100 W panels, 20 V and 5 A each: parallel 20 V 10 A, series 40 V 5 A."""
    panel = label_of(module(100.0, 20.0))
    assert (panel.v_mp, panel.i_mp) == (20.0, 5.0)
    assert source_circuit_a(panel, 2) == pytest.approx(2 * source_circuit_a(panel, 1))
    assert hot_working_v(panel, 2, 0.0, 25.0) == pytest.approx(40.0)


@pytest.mark.parametrize(
    ("watts", "v_mp", "v_oc", "i_sc", "cells"),
    [
        (85.0, 17.4, 21.6, 5.2, 36),
        (110.0, 17.6, 21.8, 6.7, 36),
        (250.0, 30.5, 37.6, 8.7, 60),
        (330.0, 37.8, 46.0, 9.2, 72),
        (20.0, 17.2, 21.0, 1.25, 36),
    ],
)
def test_the_fit_passes_through_the_label(
    watts: float, v_mp: float, v_oc: float, i_sc: float, cells: int
) -> None:
    """[P] by pvlib's own solver: the fitted curve has the label's open volts, short amps and best
    point."""
    panel = module(watts, v_mp, cells, v_oc={"value": v_oc}, i_sc={"value": i_sc})
    diode = fit_diode(label_of(panel))
    found = pvlib.pvsystem.singlediode(
        diode.photocurrent_a, diode.saturation_a, diode.series_ohm, diode.shunt_ohm, diode.a_ref
    )
    assert float(found["v_oc"]) == pytest.approx(v_oc, rel=0.005)
    assert float(found["i_sc"]) == pytest.approx(i_sc, rel=0.005)
    assert float(found["p_mp"]) == pytest.approx(watts, rel=0.01)


def test_the_tables_are_pvlibs_curve() -> None:
    """[P] pvlib single-diode at an hour between the tables' points, within one and a half per
    cent."""
    label = label_of(module())
    diode = fit_diode(label)
    parts = pvlib.pvsystem.calcparams_desoto(
        650.0,
        33.0,
        diode.alpha_a_per_k,
        diode.a_ref,
        diode.photocurrent_a,
        diode.saturation_a,
        diode.shunt_ohm,
        diode.series_ohm,
    )
    wanted = float(pvlib.pvsystem.i_from_v(13.6, *parts))
    got = float(interpolated(current_at_v(label, 13.6), np.array([650.0]), np.array([33.0]))[0])
    assert got == pytest.approx(wanted, rel=0.015)
    assert curve_grid(label).photocurrent_a.shape == power_grid(label)[0].shape


@settings(max_examples=60, deadline=None)
@given(
    st.sampled_from([(36, 18.0), (60, 31.0), (72, 37.0)]),
    st.floats(0.92, 1.08),
    st.floats(1.15, 1.28),
    st.floats(1.03, 1.12),
    st.floats(10.0, 400.0),
)
def test_no_label_breaks_the_fit(
    kind: tuple[int, float], volts: float, opened: float, shorted: float, watts: float
) -> None:
    """Labels to two figures, as they are printed: the watts come out within two per cent, whichever
    route held."""
    v_mp = round(kind[1] * volts, 1)
    panel = module(
        watts,
        v_mp,
        kind[0],
        v_oc={"value": round(v_mp * opened, 1)},
        i_sc={"value": round(watts / v_mp * shorted, 2)},
    )
    diode = fit_diode(label_of(panel))
    most = pvlib.pvsystem.max_power_point(
        diode.photocurrent_a,
        diode.saturation_a,
        diode.series_ohm,
        diode.shunt_ohm,
        diode.a_ref,
        method="brentq",
    )
    assert diode.series_ohm >= 0
    assert diode.shunt_ohm > 0
    assert float(most["p_mp"]) == pytest.approx(watts, rel=0.03)


@pytest.mark.parametrize(
    ("cold_c", "factor"),
    [
        (30, 1.0),
        (24, 1.02),
        (20, 1.02),
        (19, 1.04),
        (0, 1.10),
        (-1, 1.12),
        (-5, 1.12),
        (-6, 1.14),
        (-40, 1.25),
    ],
)
def test_the_codes_cold_table(cold_c: float, factor: float) -> None:
    """[P] NEC Table 690.7(A) at its edges."""
    assert nec_factor(cold_c) == factor


def test_between_rows_the_colder_and_below_them_the_coefficient() -> None:
    """[P] NEC Table 690.7(A): −5.5 °C takes the row of −6 to −10; below −40 °C there is none."""
    assert nec_factor(-5.5) == 1.14
    assert nec_factor(-41.0) is None
    label = label_of(module(v_oc={"value": 22.0}, v_oc_pct_per_k={"value": -0.3}))
    deep = cold_open_v(label, 2, None, -45.0)
    assert deep.by_table is None
    assert deep.deciding == pytest.approx(44.0 * (1 + 0.003 * 70))
    assert cold_open_v(label, 1, 23.0, 25.0).deciding == 23.0


def test_conductor_for_the_source_circuit() -> None:
    """[P] NEC 690.8: 1.25 times I_sc, and 1.25 times that: 1.56 in all."""
    label = label_of(module(i_sc={"value": 6.0}))
    assert source_circuit_a(label, 2) == pytest.approx(15.0)
    assert conductor_a(label, 2) == pytest.approx(18.75)


@settings(max_examples=40, deadline=None)
@given(
    st.floats(0.0, 1400.0),
    st.floats(-40.0, 90.0),
    st.floats(1.0, 12.0),
    st.integers(1, 3),
    st.integers(1, 4),
)
def test_no_limit_is_passed_and_nothing_is_negative(
    sun: float, cell: float, limit: float, series: int, parallel: int
) -> None:
    for kind in ("pwm", "mppt"):
        one = electric(
            kind, series=series, parallel=parallel, regulator={"max_charge_a": {"value": limit}}
        )
        amps = float(amps_into_bank(one, np.array([sun]), np.array([cell]))[0])
        assert 0.0 <= amps <= limit + 1e-9


@settings(max_examples=40, deadline=None)
@given(st.floats(200.0, 1400.0), st.floats(-30.0, 40.0))
def test_mppt_is_never_below_pwm_but_for_its_loss(sun: float, cell: float) -> None:
    """The best point is at least the point PWM holds: only conversion and the PWM's own drop stand
    between.

    Below some 200 W/m² an MPPT may lack the headroom it starts with, and a PWM goes on: that is so
    in life too.
    """
    at = (np.array([sun]), np.array([cell]))
    mppt, pwm = (float(amps_into_bank(electric(kind), *at)[0]) for kind in ("mppt", "pwm"))
    assert mppt >= 0.95 * pwm


def test_a_thin_cable_costs_mppt_watts_and_pwm_little() -> None:
    """[closed form] 8 m of 4 mm² both ways, class 5 [P: IEC 60228] at 50 °C, are 89 mΩ: 5.6 A lose
    2.7 W of 100; PWM only shifts along its flat curve."""
    cable = {"cable_m": {"value": 8.0}, "cable_mm2": 4.0}
    mppt = [float(amps_into_bank(electric("mppt", **more), SUN, CELL)[0]) for more in ({}, cable)]
    pwm = [float(amps_into_bank(electric("pwm", **more), SUN, CELL)[0]) for more in ({}, cable)]
    assert mppt[1] / (mppt[0] / 0.98) == pytest.approx(1.0 - 5.56**2 * 0.0885 / 100.0, abs=0.002)
    assert pwm[1] / (pwm[0] / 0.98) > 0.995


def test_class_figures_fill_a_silent_label() -> None:
    label = label_of(Module(watts=KnownWatts(value=100.0)))
    assert "open-circuit volts" in label.guessed
    assert 18.0 <= label.v_oc <= 24.0
    told = Module(
        watts=KnownWatts(value=100.0), v_oc=KnownVolts(value=22.5), i_sc=KnownAmps(value=6.1)
    )
    assert label_of(told).guessed == ("working volts", "volts per K", "power per K")
