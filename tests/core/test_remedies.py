"""Our own advice obeys our own rules."""

import pytest

from tests.core.test_findings import patched
from tests.samples import beech_hut, harrier_ridge, packhorse, quay_street, with_bank
from yonderstat.core import evaluate
from yonderstat.core.design import Design, KnownAmps, Limits, design_from_document
from yonderstat.core.words import plain
from yonderstat.demo.patrol import PATROL_2

STATIONS = {
    "Harrier Ridge": harrier_ridge(),
    "Quay Street": quay_street(),
    "the Packhorse": packhorse(),
    "Beech Hut": beech_hut(),
    "Patrol 2": design_from_document(PATROL_2),
    "a bank whose maker allows two": with_bank(harrier_ridge(), limits=Limits(max_parallel=2)),
}
BY_ITS_GAIN = ("rehearse.", "draw.tempo")
"""What the weather years say of a change stands in its gain; sizing on a harder tempo asks for more
on purpose."""


def grave(design: Design) -> set[str]:
    return {
        finding.id
        for finding in evaluate(design).findings
        if finding.severity in {"stop", "fix"} and not finding.id.startswith(BY_ITS_GAIN)
    }


@pytest.mark.parametrize("name", STATIONS)
def test_no_remedy_earns_a_stop_or_a_fix(name: str) -> None:
    """A printer off an inverter that then idles for nothing; a sixth battery on a hitch that
    carries one."""
    design = STATIONS[name]
    before, report = grave(design), evaluate(design)
    for finding in report.findings:
        if finding.id.startswith(BY_ITS_GAIN):
            continue
        for remedy in finding.remedies:
            assert grave(patched(design, remedy.patch)) <= before, (finding.id, remedy.label)


def test_more_than_the_maker_allows_is_never_proposed() -> None:
    finding = next(
        item
        for item in evaluate(STATIONS["a bank whose maker allows two"]).findings
        if "small" in item.id
    )
    assert finding.remedies == ()


def test_every_severity_speaks_of_what_follows() -> None:
    """No doubled id, no empty reason, and no figure without a value in any sentence."""
    for name, design in STATIONS.items():
        found = evaluate(design).findings
        assert len({item.id for item in found}) == len(found), name
        for item in found:
            assert item.why, (name, item.id)
            for wrong in ("nan", "inf ", "-0 ", "−0 ", " 1 days", " 1 hours", "None", "{", "}"):
                assert wrong not in f"{plain(item.sentence)} ", (name, item.id, item.sentence)


def test_cautions_are_always_there() -> None:
    assert {caution.step for caution in evaluate(Design()).cautions} >= {
        "brief",
        "draw",
        "array",
        "sun",
        "rehearse",
    }


def test_a_charger_too_strong_is_a_stop_by_how_far_it_is_over() -> None:
    """300 A into 20 A·h said nothing: chargers were not counted as sources."""
    design = quay_street()
    chargers = [design.array.chargers[0].model_copy(update={"amps": KnownAmps(value=300.0)})]
    strong = with_bank(
        design.model_copy(
            update={"array": design.array.model_copy(update={"chargers": chargers, "strings": []})}
        ),
        unit_ah=design.store.bank.unit_ah.model_copy(update={"value": 20.0}),  # type: ignore[union-attr]
    )
    found = next(item for item in evaluate(strong).findings if item.id == "store.charge_fast")
    assert found.severity == "stop"
    assert found.sentence.startswith("300 A from Changeover unit")


@pytest.mark.parametrize(
    ("design", "word"),
    [
        (quay_street(), "licensed"),
        (packhorse(), "hitch"),
        (harrier_ridge(), "Hydrogen"),
        (quay_street(), "below freezing"),
    ],
)
def test_a_caution_stands_where_the_hand_is(design: Design, word: str) -> None:
    assert any(word in caution.text for caution in evaluate(design).cautions)


def test_nothing_jokes_about_what_kills() -> None:
    assert not any("not the battery" in caution.why for caution in evaluate(quay_street()).cautions)
