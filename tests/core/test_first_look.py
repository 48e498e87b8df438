"""A first look says what an evaluation says, but for the remedies."""

from dataclasses import replace

import pytest
from tools.frozen import design_of, stations

from yonderstat.core import evaluate, first_look
from yonderstat.core.findings.register import GRAVE_RULES, RULES
from yonderstat.core.station import StationModel

STATIONS = stations()


@pytest.mark.parametrize("name", STATIONS)
def test_a_first_look_differs_in_remedies_alone(name: str) -> None:
    design = design_of(STATIONS[name])
    whole, look = evaluate(design), first_look(design)
    bare = tuple(replace(finding, remedies=()) for finding in whole.findings)
    assert look.report == replace(whole, findings=bare, remedies="later")
    assert look.whole() == whole


def test_a_first_look_tries_nothing() -> None:
    look = first_look(design_of(next(iter(STATIONS.values()))))
    assert look.station.trials == []
    assert not any(isinstance(key, tuple) and key[0] == "tried" for key in look.station.memo)


@pytest.mark.parametrize("name", STATIONS)
def test_a_mild_rule_finds_nothing_grave(name: str) -> None:
    """Those are left out where a change is tried: one that did would let our own advice break our
    own rules."""
    station = StationModel(design_of(STATIONS[name]))
    report = evaluate(station.design)
    for check in set(RULES) - set(GRAVE_RULES):
        found = [
            (check.__name__, finding.id, finding.severity) for finding in check(station, report)
        ]
        assert not [item for item in found if item[2] in {"stop", "fix"}]
