"""Documents that once raised, or wrote what is no number: each opens every door now."""

import warnings
from typing import Any

import pytest
from tools.frozen import DOORS

from tests.doors import looked_at, through
from tests.samples import harrier_ridge, load, quay_street, with_bank, with_loads, with_string
from yonderstat.core import evaluate, summary_of
from yonderstat.core.design import (
    Bank,
    Design,
    KnownAmpHours,
    KnownAmps,
    KnownCelsius,
    KnownIdleWatts,
    KnownMoney,
    KnownUsableShare,
    KnownVolts,
    KnownWatts,
    KnownYears,
    Module,
    Rail,
    design_from_document,
    document_of,
    with_draw,
    with_store,
)
from yonderstat.core.design.base import LEAST


def _inverter(design: Design, rail_id: str, **more: Any) -> Design:
    rail = Rail(
        id=rail_id,
        name="Inverter",
        kind="inverter",
        volts=KnownVolts(value=230),
        efficiency=KnownUsableShare(value=0.9),
        **more,
    )
    loads = [item.model_copy(update={"rail": rail_id}) for item in design.draw.loads[:1]]
    draw = design.draw.model_copy(update={"rails": [rail], "loads": loads})
    return design.model_copy(update={"draw": draw})


MONEY, NEVER = KnownMoney(value=300.0), KnownYears(value=0.0)
HOT = {"housing": "insulated_box", "box_w": KnownIdleWatts(value=9000.0)}
NOTHING = Module(i_sc=KnownAmps(value=0.0), measured_i_sc=KnownAmps(value=0.0))
TINY = KnownAmpHours(value=5e-324)
AC = load("ac", 150.0, kind="computer")
CASES = {
    "a set of 0.4 W": with_loads(
        quay_street(), load("beacon", 0.1, transmit_a=0.3, rated_w=0.4, mode="cw")
    ),
    "a set of 0.1 W": with_loads(
        quay_street(), load("beacon", 0.1, transmit_a=0.3, rated_w=0.1, mode="cw")
    ),
    "no calendar years, with a price": with_bank(
        quay_street(), calendar_years=NEVER, unit_price=MONEY
    ),
    "a panel of 0 A": with_string(harrier_ridge(), module=NOTHING),
    "150 A on an inverter": _inverter(with_loads(quay_street(), AC), "ac"),
    "a rail called bus": _inverter(with_loads(quay_street(), AC), "bus"),
    "9 kW in a box": with_bank(harrier_ridge(), **HOT),
    "a bank of next to nothing": with_bank(quay_street(), unit_ah=TINY),
    "a panel of next to nothing": with_string(
        harrier_ridge(), module=Module(watts=KnownWatts(value=1e-300))
    ),
    "a label no curve fits": with_string(
        harrier_ridge(), module=Module(v_oc=KnownVolts(value=1000), v_mp=KnownVolts(value=0.01))
    ),
    "nothing draws": with_loads(quay_street()),
    "a bank at 80 °C": with_bank(
        harrier_ridge(), chemistry="flooded", cold_c=KnownCelsius(value=80.0)
    ),
    "usual powers a hair apart": with_loads(
        quay_street(),
        load("set", 1.0, transmit_a=9.0, rated_w=50.04, mode="ssb", hours_per_day=4.0),
    ),
}


@pytest.mark.parametrize("name", CASES)
def test_found_before(name: str) -> None:
    """Each of these raised, or wrote what is no number, when it was first drawn."""
    design = CASES[name]
    with warnings.catch_warnings():
        warnings.simplefilter("ignore", RuntimeWarning)
        looked_at(evaluate(design))
        for door in DOORS.values():
            through(design, door)


def test_a_record_at_the_end_of_time() -> None:
    """Day numbers ran past the last year a date can hold."""
    design = harrier_ridge()
    record = {
        "kind": "measured",
        "form": "csv",
        "name": "far",
        "first_day": "9999-12-01",
        "day_wh_m2": [3000] * 400,
    }
    sun = design.sun.model_validate({"source": "record", "record": record})
    looked_at(evaluate(design.model_copy(update={"sun": sun})))


def test_a_figure_under_what_any_meter_reads_is_kept_as_that() -> None:
    assert TINY.value == LEAST
    assert KnownAmps(value=0.0).value == 0.0
    assert KnownAmps(value=0.25).value == 0.25


def test_a_summary_says_what_the_report_says() -> None:
    design = quay_street()
    report = evaluate(design)
    summary = summary_of(design, report)
    assert (summary.headline, summary.rest, summary.state) == (
        report.verdict.headline,
        report.verdict.rest,
        report.verdict.state,
    )
    assert summary.days_without_sun == report.working[summary.days_key or ""].value
    assert summary.worst is not None
    assert summary.worst.sentence in {finding.sentence for finding in report.findings}


def test_watts_that_no_converter_carries_get_no_converter() -> None:
    """Found by drawn documents: watts on a rail of 317 V that is called “bus”, moved to 13.8 V,
    were over 2,000 A."""
    heavy = load("set", 1.0, transmit_a=47.0, window="10", receive_w=KnownWatts(value=100_000.0))
    rail = Rail(
        id="bus", name="x", volts=KnownVolts(value=317.0), efficiency=KnownUsableShare(value=0.03)
    )
    design = with_draw(with_loads(quay_street(), heavy), rails=[rail])
    bank = Bank(chemistry="agm", unit_v=12.0)
    looked_at(evaluate(design_from_document(document_of(with_store(design, bank=bank)))))
