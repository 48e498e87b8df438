"""A panel lead takes volts and amps, and a longer or thinner one never brings more.

Checked against the single-diode model itself, solved for each length by scipy's root finder: no
table, no halving.
"""

import itertools
from dataclasses import replace

import numpy as np
import pytest
from pvlib.pvsystem import calcparams_desoto, i_from_v
from scipy.optimize import brentq

from tests.samples import harrier_ridge, with_string
from yonderstat.core import evaluate
from yonderstat.core.array import label_of
from yonderstat.core.array.diode import fit_diode
from yonderstat.core.array.electric import Electric, amps_into_bank, best_amps, electric_of
from yonderstat.core.design import (
    Array,
    Design,
    KnownMetres,
    KnownVolts,
    KnownWatts,
    Module,
    PanelString,
)
from yonderstat.core.electrical import loop_ohm

FEET_M = 0.3048
MM2_OF_AWG = {16: 1.309, 14: 2.081, 12: 3.309, 10: 5.261}
"""[P: ASTM B258]"""
SUN_W_M2, CELL_C = 1000.0, 30.0


def lead(
    panels: int, gauge: int, feet: float, kind: str = "pwm", series: int = 1, charge_v: float = 13.6
) -> Electric:
    module = Module(watts=KnownWatts(value=100.0), v_mp=KnownVolts(value=18.0, basis="label"))
    string = PanelString(
        id="p", name="Panels", module=module, series=series, parallel=panels, controller=kind
    )
    one = electric_of(string, Array(strings=[string]), charge_v)
    return replace(
        one, wire_ohm=loop_ohm(feet * FEET_M, MM2_OF_AWG[gauge]), wire_share=1.0, max_charge_a=None
    )


def amps(electric: Electric, sun_w_m2: float = SUN_W_M2, cell_c: float = CELL_C) -> float:
    return float(amps_into_bank(electric, np.array([sun_w_m2]), np.array([cell_c]))[0])


def worked_out(electric: Electric) -> float:
    """Where the two sides of I = n·i(V + I·R) meet, by the model of the very panel."""
    diode, label = fit_diode(electric.label), electric.label
    five = calcparams_desoto(
        SUN_W_M2, CELL_C, diode.alpha_a_per_k, diode.a_ref, diode.photocurrent_a, diode.saturation_a,
        diode.shunt_ohm, diode.series_ohm,
    )  # fmt: skip
    share = electric.parallel * label.plan_share * electric.light_share
    least_v = electric.charge_v + electric.drop_v + electric.diode_v

    def over(current: float) -> float:
        volts = (least_v + current * electric.wire_ohm) / electric.series
        return share * max(0.0, float(i_from_v(volts, *five))) - current

    return float(brentq(over, 0.0, over(0.0) + 1e-9))


@pytest.mark.parametrize("panels", [2, 4])
@pytest.mark.parametrize("gauge", [16, 14, 12])
@pytest.mark.parametrize("feet", [10.0, 50.0, 100.0, 200.0])
def test_amps_behind_a_lead_are_those_of_the_circuit(panels: int, gauge: int, feet: float) -> None:
    """100 ft of #16 behind two panels once gave more than #14."""
    electric = lead(panels, gauge, feet)
    assert amps(electric) == pytest.approx(worked_out(electric), rel=0.03, abs=0.05)


@pytest.mark.parametrize("kind", ["pwm", "mppt"])
@pytest.mark.parametrize("series", [1, 2])
@pytest.mark.parametrize("charge_v", [12.8, 13.6, 14.4])
@pytest.mark.parametrize("panels", [1, 2, 4])
def test_longer_or_thinner_never_brings_more(
    kind: str, series: int, charge_v: float, panels: int
) -> None:
    for sun in (200.0, 600.0, 1000.0):
        for cell in (-10.0, 30.0, 65.0):
            for gauge in (16, 12):
                found = [
                    amps(lead(panels, gauge, feet, kind, series, charge_v), sun, cell)
                    for feet in (0.5, 5.0, 20.0, 40.0, 60.0, 80.0, 100.0, 150.0, 300.0)
                ]
                assert all(later <= before + 1e-6 for before, later in itertools.pairwise(found)), (
                    found
                )
            thick_first = [
                amps(lead(panels, gauge, 60.0, kind, series, charge_v), sun, cell)
                for gauge in (10, 12, 14, 16)
            ]
            assert all(b <= a + 1e-6 for a, b in itertools.pairwise(thick_first)), thick_first


def lead_of(design: Design, metres: float, mm2: float | None) -> Design:
    """The hut's panels on a lead of so many metres."""
    return with_string(design, cable_m=KnownMetres(value=metres), cable_mm2=mm2)


def test_a_lead_stands_beside_the_schedule_of_runs() -> None:
    """Its amps, volts lost and conductor by hand: I_mp · p through 2 · L · R."""
    design = lead_of(harrier_ridge(), 30.0, 2.5)
    report = evaluate(design)
    (figures,) = report.bus.leads
    string = design.array.strings[0]
    label = label_of(string.module, string.series)
    amps = label.i_mp * string.parallel
    assert report.number(figures.amps) == pytest.approx(amps)
    assert report.number(figures.lost_v) == pytest.approx(amps * loop_ohm(30.0, 2.5))
    assert report.number(figures.must_carry_a) == pytest.approx(
        1.5625 * label.i_sc * string.parallel
    )
    proposed = report.number(figures.proposed_mm2)
    assert proposed is not None
    assert amps * loop_ohm(30.0, proposed) <= 0.03 * label.v_mp * string.series
    assert evaluate(lead_of(harrier_ridge(), 30.0, None)).bus.leads[0].typed is False


def test_a_thin_lead_is_said_and_the_thicker_one_is_pressed() -> None:
    design = lead_of(harrier_ridge(), 40.0, 1.5)
    finding = next(item for item in evaluate(design).findings if item.id.startswith("bus.lead_"))
    assert finding.severity in {"fix", "mind"}
    for remedy in finding.remedies:
        assert remedy.patch[0].path == "/array/strings/0/cable_mm2"
        assert not [item for item in evaluate(lead_of(design, 40.0, remedy.patch[0].value)).findings
                    if item.id.startswith("bus.lead_")]  # fmt: skip


def test_a_lead_nobody_typed_the_copper_of_is_only_proposed() -> None:
    found = {item.id for item in evaluate(lead_of(harrier_ridge(), 40.0, None)).findings}
    assert not {key for key in found if key.startswith("bus.lead_")}


@pytest.mark.parametrize("metres", [5.0, 20.0, 60.0])
def test_the_proposed_lead_is_never_thinner_for_being_longer(metres: float) -> None:
    one, two = (
        evaluate(lead_of(harrier_ridge(), length, None)) for length in (metres, 1.5 * metres)
    )
    assert two.number(two.bus.leads[0].proposed_mm2) >= (
        one.number(one.bus.leads[0].proposed_mm2) or 0.0
    )  # type: ignore[operator]


@pytest.mark.parametrize("feet", [30.0, 130.0, 400.0])
def test_more_sun_never_brings_less(feet: float) -> None:
    """On a long lead all of full sun's watts were lost in it, and half the sun brought more."""
    suns = np.linspace(50.0, 1200.0, 47)
    one = lead(4, 14, feet, kind="mppt", series=1)
    amps = amps_into_bank(replace(one, buck_boost=True), suns, np.full(47, 30.0))
    assert (np.diff(amps) >= -1e-9).all()
    assert amps[-1] > 0.0


@pytest.mark.parametrize("kind", ["pwm", "mppt"])
@pytest.mark.parametrize("feet", [5.0, 130.0])
def test_the_most_it_gives_is_the_most_in_weaker_sun_too(kind: str, feet: float) -> None:
    """Seven panels through 40 m of thin copper gave most in weak sun on cold cells; full sun alone
    was looked at."""
    one, coldest_c, rise_k = lead(7, 16, feet, kind=kind, series=1), 20.0, 28.0
    best = best_amps(one, coldest_c, rise_k)
    for sun in (100.0, 200.0, 400.0, 700.0, 1000.0):
        for warmer_k in (0.0, 5.0, 20.0):
            cell_c = coldest_c - rise_k * (1.0 - sun / 1000.0) + warmer_k
            assert amps(one, sun, cell_c) <= best * 1.005
    if feet > 100.0:
        assert best > 1.02 * amps(one, 1000.0, coldest_c)
