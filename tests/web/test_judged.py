"""Reports are remembered: the newest as they are, older ones packed, all of it bounded."""

import time
from typing import Any
from uuid import uuid4

import pytest

from tests.samples import quay_street
from yonderstat.core import evaluate
from yonderstat.web import judged


def packed_of(key: Any) -> bool:
    until = time.monotonic() + 10
    while key not in judged._packed and time.monotonic() < until:
        time.sleep(0.01)
    return key in judged._packed


def test_an_older_report_is_packed_and_opens_as_it_was(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(judged, "KEPT_OPEN", 2)
    judged._reports.clear()
    report = evaluate(quay_street())
    keys = [(uuid4(), number) for number in range(5)]
    for key in keys:
        judged._keep_report(key, report)
    assert len(judged._reports) == 2
    assert packed_of(keys[0])
    opened = judged.kept_report(*keys[0])
    assert opened == report
    assert opened is not report
    assert keys[0] in judged._reports
    assert judged.kept_report(uuid4(), 1) is None


def test_packed_reports_stay_within_their_room(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(judged, "KEPT_PACKED_BYTES", 150_000)
    judged._packed.clear()
    report = evaluate(quay_street())
    for number in range(6):
        judged._pack((uuid4(), number), report)
    assert 1 <= len(judged._packed) < 6
    assert sum(map(len, judged._packed.values())) <= 150_000
