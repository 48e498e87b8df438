"""Drawn stations: every claim worked out again, every remedy pressed, no source that is not there,
worse never better.

By default the same ones each time, so that a change is judged and not the dice; `YONDERSTAT_CLAIMS`
looks at so many, on every core, and `./test claims` does.
"""

import os
import warnings
from concurrent.futures import ProcessPoolExecutor

import pytest

from tests.claims.check import troubles_of
from tests.claims.stations import drawn_station
from yonderstat.core.bus import volt_grades
from yonderstat.core.live import forecast_of
from yonderstat.core.rehearse import hourly_station
from yonderstat.core.station import StationModel

ASKED = int(os.environ.get("YONDERSTAT_CLAIMS", "0"))
FEW = 48
MOST_SHOWN = 40
FOUND = (108, 378)
"""Seeds of stations that were found wrong once, and are looked at every time."""


def _troubles(seed: int) -> list[str]:
    with warnings.catch_warnings():
        warnings.simplefilter("ignore", RuntimeWarning)
        return troubles_of(seed)


@pytest.mark.skipif(ASKED > 0, reason="many are asked for")
@pytest.mark.parametrize("seed", [*range(FEW), *FOUND])
def test_a_drawn_station_says_what_is_so(seed: int) -> None:
    assert not _troubles(seed)


@pytest.mark.skipif(ASKED == 0, reason="YONDERSTAT_CLAIMS says how many")
def test_many_drawn_stations_say_what_is_so() -> None:
    with ProcessPoolExecutor(os.cpu_count()) as pool:
        found = [
            trouble
            for troubles in pool.map(_troubles, range(ASKED), chunksize=20)
            for trouble in troubles
        ]
    assert not found, f"{len(found)} troubles\n" + "\n".join(found[:MOST_SHOWN])


def test_the_check_can_fail() -> None:
    """A promise of twice as much, and a limit that is not passed, are both found."""
    from dataclasses import replace

    from tests.claims.again import troubles_of_claims
    from tests.claims.presses import troubles_of_presses
    from yonderstat.core import evaluate

    seed = next(seed for seed in range(FEW) if _gains(seed))
    design = drawn_station(seed)[0]
    report = evaluate(design)
    doubled = []
    for finding in report.findings:
        remedies = [
            replace(change, gain=replace(change.gain, after=2.0 * (change.gain.after or 0.0) + 1.0))
            for change in finding.remedies
            if change.gain is not None
        ]
        claims = [
            replace(claim, value=claim.value * 1.5 + 1.0)
            for claim in finding.claims
            if claim.than == "alone"
        ]
        doubled.append(replace(finding, remedies=tuple(remedies), claims=tuple(claims)))
    wrong = replace(report, findings=tuple(doubled))
    assert any("promised" in trouble for trouble in troubles_of_presses(design, wrong))
    if any(finding.claims for finding in doubled):
        assert list(troubles_of_claims(design, wrong))
    assert report.verdict.claims
    for claim in report.verdict.claims:
        said = replace(report.verdict, claims=(replace(claim, value=claim.value * 2.0 + 5.0),))
        assert any(
            "verdict" in trouble
            for trouble in troubles_of_claims(design, replace(report, verdict=said))
        )


LESS = dict(volt_grades())["less"]


def _too_few_by_our_copper(seed: int) -> tuple[int, list[str]]:
    """Sets of a drawn station over wire that nobody typed: how many, and those that copper would
    have helped."""
    model = StationModel(drawn_station(seed)[0])
    if any(run.mm2 is not None for run in model.design.bus.runs):
        return 0, []
    keyed = [
        item
        for item in model.bus.loads
        if item.window is not None and item.item.load.transmit_a is not None
    ]
    short = []
    for item in keyed:
        assert item.window is not None
        least_v = item.window.low_v * (1.0 if item.item.load.window != "none" else LESS)
        runs = [model.bus.runs[place] for place in item.path]
        copper = [
            float(lost) * run.wire_ohm / run.ohm
            for lost, run in zip(item.walk_v[:, 3], runs, strict=True)
        ]
        could_v = item.keyed_v[2] + sum(copper)
        if (
            item.keyed_v[2] < least_v - 1e-6
            and could_v >= least_v
            and 0.95 * least_v <= model.bus_v
        ):
            short.append(
                f"{seed}: {item.item.load.name} gets {item.keyed_v[2]:.2f} V, and wire "
                f"without end {could_v:.2f}"
            )
    return len(keyed), short


def test_wire_that_we_propose_meets_the_windows_where_copper_can() -> None:
    """Nine of ten stations were told of too few volts over wire that was ours; what the bank lacks
    no wire mends."""
    found = [_too_few_by_our_copper(seed) for seed in range(120)]
    assert sum(keyed for keyed, _ in found) > 100
    assert not [words for _, short in found for words in short]


def test_the_check_of_live_looks_at_dark_and_lit_ones() -> None:
    """Among the first stations some go dark within the forecast and some do not, so that both are
    worked out again."""
    stays, dark = 0, 0
    for seed in range(24):
        design = drawn_station(seed)[0]
        hours = hourly_station(StationModel(design), 3)
        if hours is not None and design.draw.tempos:
            words = forecast_of(hours, 4000, 0.3).sentence
            stays, dark = (
                stays + words.startswith("It keeps power"),
                dark + words.startswith("Likely to lose power"),
            )
    assert stays > 0
    assert dark > 0


def _gains(seed: int) -> bool:
    from yonderstat.core import evaluate

    found = evaluate(drawn_station(seed)[0]).findings
    return any(change.gain for item in found for change in item.remedies) and any(
        claim.than == "alone" for item in found for claim in item.claims
    )
