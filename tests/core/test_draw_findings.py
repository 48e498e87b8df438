"""The findings of Draw, each on the smallest station that shows it."""

from typing import Any

import pytest

from tests.core.judged import ids
from tests.samples import ah, load, quay_street, with_bank, with_loads
from yonderstat.core import evaluate, firsts
from yonderstat.core.design import (
    Brief,
    Design,
    KnownAmps,
    KnownIdleWatts,
    KnownUsableShare,
    KnownVolts,
    KnownWatts,
    Load,
    Rail,
)
from yonderstat.core.finding import told_together
from yonderstat.core.findings import Finding


def made(*loads: Load, purpose: str = "standby", **draw: Any) -> Design:
    """Loads on a 100 A·h lithium bank."""
    design = quay_street().model_copy(update={"brief": Brief.model_validate({"purpose": purpose})})
    changes = {"rails": [], **draw, "loads": list(loads)}
    return design.model_copy(update={"draw": design.draw.model_copy(update=changes)})


def of_kind(kind: str, one: Load, **more: Any) -> Load:
    return one.model_copy(update={"kind": kind, **more})


def inverter(**more: Any) -> Rail:
    fields: dict[str, Any] = {
        "id": "inv",
        "name": "Inverter",
        "kind": "inverter",
        "volts": KnownVolts(value=230.0),
        "efficiency": KnownUsableShare(value=0.9),
        "idle_w": KnownIdleWatts(value=10.0),
    }
    return Rail(**{**fields, **more})


MONITOR = of_kind("monitor", load("monitor", 0.1, hours_per_day=4.0), rail="inv", tier="comfort")
HF = of_kind(
    "hf_set", load("hf", 1.5, transmit_a=22.0, transmit_share=0.05, rated_w=100.0), mode="ssb"
)
TWO_REPEATERS = [
    of_kind("repeater", load(key, 0.5, transmit_a=7.0, interlock="both"))
    for key in ("first", "second")
]
USB = Rail(
    id="usb",
    name="USB",
    volts=KnownVolts(value=5.0),
    efficiency=KnownUsableShare(value=0.85),
    limit_a=KnownAmps(value=3.0),
)


@pytest.mark.parametrize(
    ("key", "severity", "design"),
    [
        ("draw.receive.hf", "mind", made(HF)),
        (
            "draw.comfort",
            "mind",
            made(load("fan", 1.0, hours_per_day=12.0).model_copy(update={"tier": "comfort"})),
        ),
        ("draw.direct.monitor", "mind", made(MONITOR, rails=[inverter()])),
        ("draw.idle.inv", "mind", made(MONITOR, rails=[inverter()])),
        (
            "draw.carrier.hf",
            "fix",
            made(
                of_kind(
                    "hf_set",
                    load("hf", 1.0, transmit_a=22.0, transmit_share=0.5, rated_w=100.0),
                    mode="data",
                )
            ),
        ),
        ("draw.supply", "fix", made(HF, supply_a=KnownAmps(value=10.0))),
        ("draw.peak_bank", "mind", with_bank(made(HF), unit_ah=ah(12))),
        ("draw.tier.x", "mind", made(load("x").model_copy(update={"tier": None}))),
        ("draw.standby.pc", "mind", made(of_kind("computer", load("pc", 1.0, hours_per_day=8.0)))),
        ("draw.tempo", "mind", made(HF)),
        ("draw.interlock.first-second", "fix", made(*TWO_REPEATERS)),
        ("draw.needs.gw", "fix", made(load("gw").model_copy(update={"needs": ["internet"]}))),
        ("draw.unit.x", "mind", made(load("x", 12.0))),
        ("store.unit", "mind", with_bank(made(HF), unit_ah=ah(2))),
        (
            "draw.outlet.usb",
            "stop",
            made(load("x", 4.0).model_copy(update={"rail": "usb"}), rails=[USB]),
        ),
        (
            "draw.overload.inv",
            "stop",
            made(
                load("kettle", 5.0).model_copy(update={"rail": "inv"}),
                rails=[inverter(rated_w=KnownWatts(value=600.0))],
            ),
        ),
    ],
)
def test_it_is_found_and_not_elsewhere(key: str, severity: str, design: Design) -> None:
    finding = _find(design, key)
    assert finding is not None
    assert finding.severity == severity
    assert _find(made(load("lamp", 0.5)), key) is None


def _find(design: Design, key: str) -> Finding | None:
    return next((item for item in evaluate(design).findings if item.id == key), None)


@pytest.mark.parametrize("key", ["draw.direct.monitor", "draw.idle.inv"])
def test_inverter_remedies_draw_less(key: str) -> None:
    from tests.core.test_findings import patched

    design = made(MONITOR, rails=[inverter()])
    finding = _find(design, key)
    assert finding
    after = evaluate(patched(design, finding.remedies[0].patch))
    assert after.working["draw.daily_ah"].number < evaluate(design).working["draw.daily_ah"].number
    assert key not in {item.id for item in after.findings}


def test_half_power_ends_the_long_carrier() -> None:
    from tests.core.test_findings import patched

    design = made(
        of_kind(
            "hf_set", load("hf", 1.0, transmit_a=22.0, transmit_share=0.5, rated_w=100.0), mode="fm"
        )
    )
    finding = _find(design, "draw.carrier.hf")
    assert finding
    assert _find(patched(design, finding.remedies[0].patch), "draw.carrier.hf") is None


def test_no_draw_findings_without_loads() -> None:
    assert {item.id for item in evaluate(with_loads(made())).findings if item.step == "draw"} == {
        "draw.none"
    }


def test_hours_are_those_of_the_hardest_month() -> None:
    """A fan of summer only counts as zero in June, and its own figure is of a month it runs in."""
    fan = load("fan", 1.0, hours_per_day=10.0).model_copy(update={"months": [1]})
    report = evaluate(made(load("set", 1.0), fan, sized_on="net"))
    figures = next(item for item in report.draw.loads if item.id == "fan")
    assert figures.month == 1
    assert report.working[figures.daily_ah].number == pytest.approx(10.0)


def test_a_row_nobody_has_filled_in_is_said_to_count_nothing() -> None:
    """A new load takes 0 A until somebody types: said of it, and gone once its amps are there; zero
    that was typed is an answer."""
    design = quay_street()
    new = firsts().load.model_copy(update={"id": "new"})
    key = "draw.nothing.new"
    assert key not in ids(design)
    assert ids(with_loads(design, *design.draw.loads, new))[key] == "mind"
    for value in (0.0, 0.4):
        typed = new.model_copy(update={"receive_a": KnownAmps(value=value, basis="stated")})
        assert key not in ids(with_loads(design, *design.draw.loads, typed))


def test_what_says_the_same_of_several_loads_is_told_together() -> None:
    """Both radios of Quay Street mostly receive: one group of two, and every finding is in one."""
    findings = evaluate(quay_street()).findings
    groups = told_together(findings)
    assert sorted(item.id for group in groups for item in group) == sorted(
        item.id for item in findings
    )
    receiving = [group for group in groups if group[0].id.startswith("draw.receive.")]
    assert [len(group) for group in receiving] == [2]
    assert all(len({item.severity for item in group}) == 1 for group in groups)
