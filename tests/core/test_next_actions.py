"""What to do next: free first, pressed before it is shown, and none where nothing is wanted."""

import pytest

from tests.claims.stations import drawn_station
from tests.core.test_findings import patched
from tests.samples import beech_hut, harrier_ridge, packhorse, quay_street
from yonderstat.core import Report, evaluate, next_actions
from yonderstat.core.design import Design, design_from_document
from yonderstat.core.findings.ladder import MOST_SHOWN, RUNGS, _tries
from yonderstat.core.purposes import purpose_of
from yonderstat.core.station import StationModel
from yonderstat.demo.ferry_road import FERRY_ROAD

FERRY = design_from_document(FERRY_ROAD)
STATES = {"unknown": 0, "short": 0, "edge": 1, "good": 2}
DRAWN = range(12)


def grave(report: Report) -> set[str]:
    return {item.id for item in report.findings if item.severity in {"stop", "fix"}}


def figure(design: Design, report: Report, of: str) -> float | None:
    """The figure a step promises, read off the report of what it makes."""
    judged = report.rehearsed
    assert judged is not None
    if of == "days_without_sun":
        return report.number(report.store.days_without_sun) if report.store else None
    if of == "carried":
        return report.number(judged.share)
    dark_h = report.number(judged.dark_h) or 0.0
    # What is called dark is the verdict's own dark: hours with too few volts are told with it, by
    # another name.
    return dark_h if of == "dark_hours_a_year" else dark_h + (report.number(judged.mute_h) or 0.0)


def pressed(design: Design) -> int:
    """Press every step of a design and see that it is as promised; how many there were."""
    before = evaluate(design)
    steps = next_actions(design, before)
    assert len(steps) <= MOST_SHOWN
    rungs = [RUNGS.index(item.rung) for item in steps]
    assert rungs == sorted(rungs)
    for item in steps:
        gain = item.change.gain
        assert gain is not None
        assert gain.helps
        after = evaluate(patched(design, item.change.patch))
        assert after.verdict.state == item.state
        assert STATES[after.verdict.state] >= STATES[before.verdict.state]
        told = figure(design, after, gain.of)
        assert told == pytest.approx(
            gain.after, rel=0.02, abs=0.6 if gain.of.endswith("hours_a_year") else 0.02
        )
        new = grave(after) - grave(before)
        # A station that goes dark tells it in one of several findings.
        assert not {key for key in new if not key.startswith("rehearse.")}, item.change.label
    return len(steps)


@pytest.mark.parametrize("design", [quay_street(), harrier_ridge(), beech_hut(), packhorse()])
def test_every_step_beside_the_verdict_keeps_its_promise(design: Design) -> None:
    assert pressed(design) > 0


def test_so_do_those_of_drawn_stations() -> None:
    designs = [drawn_station(seed)[0] for seed in DRAWN]
    assert sum(pressed(design) for design in designs) > 3


def test_the_first_step_at_the_shack_is_free() -> None:
    """A switch before any battery: what is worth less than vital is left off, and the battery lasts
    longer."""
    first, *others = next_actions(quay_street(), evaluate(quay_street()))
    assert (first.rung, first.cost) == ("free", "free")
    assert first.change.label.startswith("Leave ")
    assert any(item.state == "good" for item in others)


def test_nothing_is_to_be_done_where_it_holds() -> None:
    report = evaluate(FERRY)
    assert report.verdict.state == "good"
    assert next_actions(FERRY, report) == ()
    assert purpose_of(FERRY.brief.purpose).judged_by == "sun_share"


@pytest.mark.parametrize("design", [harrier_ridge(), beech_hut()])
def test_nothing_dearer_is_shown_that_helps_less(design: Design) -> None:
    """“6 more batteries: 1,204 dark hours a year” stood beside a controller that leaves 262."""
    bought = [
        item for item in next_actions(design, evaluate(design)) if item.rung not in {"free", "aim"}
    ]
    assert bought
    left = [item.change.gain.after for item in bought if item.change.gain is not None]
    assert left == sorted(left, reverse=True)


def test_a_document_of_many_strings_is_tried_in_few_steps() -> None:
    """Thirty-two strings took twenty seconds, as each was tried."""
    design = harrier_ridge()
    many = [
        design.array.strings[0].model_copy(update={"id": f"s{n}", "tilt_deg": 20.0})
        for n in range(32)
    ]
    tries = list(
        _tries(
            StationModel(
                design.model_copy(
                    update={"array": design.array.model_copy(update={"strings": many})}
                )
            )
        )
    )
    assert len(tries) <= 16
