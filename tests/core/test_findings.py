"""Each finding appears when it should, says so in words, and its remedies do what they promise."""

import jsonpatch
import pytest

from tests.samples import ah, harrier_ridge, quay_street, with_bank, with_loads, with_string
from yonderstat.core import Report, evaluate
from yonderstat.core.changes import Gain, Operation
from yonderstat.core.design import (
    Design,
    KnownCelsius,
    KnownUsableShare,
    Place,
    design_from_document,
    document_of,
)
from yonderstat.core.findings import Finding


def find(report: Report, key: str) -> Finding | None:
    return next((item for item in report.findings if item.id == key), None)


def patched(design: Design, patch: tuple[Operation, ...]) -> Design:
    operations = [
        {"op": item.op, "path": item.path} | ({} if item.op == "remove" else {"value": item.value})
        for item in patch
    ]
    return design_from_document(jsonpatch.apply_patch(document_of(design), operations))


@pytest.mark.parametrize(
    ("design", "key", "severity"),
    [
        (harrier_ridge(), "store.too_small", "stop"),
        (quay_street(), "rehearse.spell", "stop"),
        (harrier_ridge(), "array.short", "stop"),
        (quay_street(), "array.short", "mind"),
        (harrier_ridge(), "store.below_table", "mind"),
        (harrier_ridge(), "brief.defaults", "mind"),
        (with_bank(quay_street(), depth=KnownUsableShare(value=1.0)), "store.too_deep", "fix"),
        (harrier_ridge().model_copy(update={"place": None}), "brief.no_place", "stop"),
        (
            harrier_ridge().model_copy(
                update={"place": Place(latitude_deg=21.3, longitude_deg=-157.8)}
            ),
            "sun.no_cell",
            "stop",
        ),
        (with_loads(quay_street()), "draw.none", "stop"),
        (Design(), "store.none", "stop"),
        (
            with_string(harrier_ridge(), controller="none"),
            "array.no_controller.hut-north-wall",
            "stop",
        ),
        (with_bank(harrier_ridge(), series=4), "array.too_low.hut-north-wall", "stop"),
        (with_bank(quay_street(), unit_ah=ah(20)), "store.night", "stop"),
        (with_bank(harrier_ridge(), parallel=8), "store.lasts", "good"),
        (with_string(harrier_ridge(), parallel=8), "array.covers", "good"),
    ],
)
def test_finding_appears(design: Design, key: str, severity: str) -> None:
    if key == "store.below_table":
        design = with_bank(design, cold_c=KnownCelsius(value=-15.0))
    finding = find(evaluate(design), key)
    assert finding is not None
    assert finding.severity == severity
    assert finding.sentence
    assert finding.why


def test_findings_are_worst_first() -> None:
    order = ["stop", "fix", "mind", "good"]
    severities = [order.index(item.severity) for item in evaluate(harrier_ridge()).findings]
    assert severities == sorted(severities)


def test_the_bank_remedy_lasts_the_asked_days() -> None:
    finding = find(evaluate(harrier_ridge()), "store.too_small")
    assert finding
    report = evaluate(patched(harrier_ridge(), finding.remedies[0].patch))
    assert find(report, "store.too_small") is None
    assert finding.remedies[0].effect in {
        f"lasts {report.working['store.days_without_sun'].number:.1f} days without sun"
    }


def test_array_remedies_do_what_they_say() -> None:
    finding = find(evaluate(harrier_ridge()), "array.short")
    assert finding
    assert finding.remedies
    for remedy in finding.remedies:
        report = evaluate(patched(harrier_ridge(), remedy.patch))
        june = (
            report.working["array.stored_ah.06"].number / report.working["draw.month_ah.06"].number
        )
        assert remedy.effect == f"the sun covers {100 * june:.0f} % of what you use in June"


def test_depth_remedy_returns_to_the_usual() -> None:
    deep = with_bank(quay_street(), depth=KnownUsableShare(value=1.0))
    finding = find(evaluate(deep), "store.too_deep")
    assert finding
    assert find(evaluate(patched(deep, finding.remedies[0].patch)), "store.too_deep") is None


def test_a_checked_design_rests_on_no_defaults_of_its_own() -> None:
    """Once depth and days are given, Harrier Ridge rests on nothing nobody has checked."""
    design = with_bank(harrier_ridge(), depth=KnownUsableShare(value=0.5, basis="stated"))
    document = document_of(design)
    document["brief"]["asked_days"] = {"value": 7, "basis": "stated"}
    document["sun"]["soiling"] = {"value": 0.03, "basis": "measured"}
    for item in document["draw"]["loads"]:
        item["transmit_share"]["basis"] = "measured"
    assert find(evaluate(design_from_document(document)), "brief.defaults") is None


def test_lithium_and_lead_carry_their_own_cautions() -> None:
    lead = {item.text for item in evaluate(harrier_ridge()).cautions}
    lithium = {item.text for item in evaluate(quay_street()).cautions}
    assert any("Hydrogen" in text for text in lead - lithium)
    assert any("below freezing" in text for text in lithium - lead)


def test_a_gain_is_told_from_its_numbers() -> None:
    """Words are made from the figures, never read out of them."""
    assert (
        Gain("covered", 0.31, 0.67, "June").words == "the sun covers 67 % of what you use in June"
    )
    assert Gain("days_without_sun", 2.0, None).words == "lasts without limit"
    assert Gain("dark_hours", 12, 0).words == "never without power"
    assert Gain("dark_hours", 12, 7).words == "7 hours without power instead of 12"
    assert Gain("covered", 0.31, 0.67).helps
    assert not Gain("covered", 0.67, 0.672).helps
    assert not Gain("covered", None, 0.9).helps
    assert Gain("dark_hours", 12, 7).helps
    assert not Gain("dark_hours", 7, 7).helps
    assert Gain("days_without_sun", 2.0, 2.1).helps


def test_a_remedy_that_does_nothing_is_not_proposed() -> None:
    """Every remedy with a figure says what was before, and those of a short harvest make it
    better."""
    for report in (evaluate(harrier_ridge()), evaluate(quay_street())):
        short = find(report, "array.short")
        assert short
        for remedy in short.remedies:
            assert remedy.gain is not None
            assert remedy.gain.helps
            assert remedy.effect == remedy.gain.words


def test_days_asked_mean_days_with_the_weather_there_is_in_a_spell() -> None:
    """“Lasts 1.0 of the 3 days asked without sun” was told of an outage in which the sun shines."""
    report = evaluate(quay_street())
    assert find(report, "store.too_small") is None
    assert find(report, "store.lasts") is None
    spell = find(report, "rehearse.spell")
    assert spell is not None
    gain = spell.remedies[0].gain
    assert gain is not None
    assert gain.of == "carried"
    after = evaluate(patched(quay_street(), spell.remedies[0].patch))
    assert after.rehearsed is not None
    assert gain.after == pytest.approx(after.number(after.rehearsed.share))


def test_a_spell_without_a_place_is_judged_by_the_bank_alone() -> None:
    assert (
        find(evaluate(quay_street().model_copy(update={"place": None})), "store.too_small")
        is not None
    )
