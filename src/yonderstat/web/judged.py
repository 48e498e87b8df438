"""Reports on stored designs, kept in memory by revision: a revision never changes, so neither does
its report."""

import pickle
import zlib
from collections import OrderedDict
from concurrent.futures import ThreadPoolExecutor
from functools import cache
from threading import Lock
from uuid import UUID

from yonderstat.core import FirstLook, Report
from yonderstat.core.design import Design
from yonderstat.core.next_action import NextAction
from yonderstat.jobs import CannotJudgeError, judge, steps_of, whole_of
from yonderstat.records import Archive, Line, StoredDesign

KEPT_OPEN = 12
"""Reports as they are: an edit asks for the one before it. Each weighs near half a megabyte."""
KEPT_PACKED_BYTES = 6_000_000
"""Older ones are packed, to a seventh; opening one takes half of judging anew."""
MOST_STEPS = 60
"""Next steps, a kilobyte each."""
KEPT_LOOKS = 3
"""A station keeps its hours, some megabytes."""


class ByRevision:
    """A cache key that carries the design along without comparing it."""

    __slots__ = ("design", "key")

    def __init__(self, stored: StoredDesign) -> None:
        self.key: tuple[UUID, int] = (stored.id, stored.revision)
        self.design: Design = stored.design

    def __hash__(self) -> int:
        return hash(self.key)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, ByRevision) and self.key == other.key


Key = tuple[UUID, int]
_reports: OrderedDict[Key, Report] = OrderedDict()
_packed: OrderedDict[Key, bytes] = OrderedDict()
_looks: OrderedDict[Key, FirstLook] = OrderedDict()
_steps: OrderedDict[Key, tuple[NextAction, ...]] = OrderedDict()
_lock = Lock()


@cache
def _packer() -> ThreadPoolExecutor:
    """Packs beside the requests: nobody waits for it."""
    return ThreadPoolExecutor(1, thread_name_prefix="packing")


def _pack(key: Key, report: Report) -> None:
    data = zlib.compress(pickle.dumps(report, pickle.HIGHEST_PROTOCOL), 1)
    with _lock:
        _packed[key] = data
        while sum(map(len, _packed.values())) > KEPT_PACKED_BYTES:
            _packed.popitem(last=False)


def _keep_report(key: Key, report: Report) -> None:
    """Remember a report; those not asked for lately are packed, and the oldest of them
    forgotten."""
    with _lock:
        _reports[key] = report
        _reports.move_to_end(key)
        _packed.pop(key, None)
        aged = [_reports.popitem(last=False) for _ in range(len(_reports) - KEPT_OPEN)]
    for one in aged:
        _packer().submit(_pack, *one)


def _opened(key: Key) -> Report | None:
    """A report that is remembered, packed or not."""
    with _lock:
        found = _reports.get(key)
        if found is not None:
            _reports.move_to_end(key)
            return found
        data = _packed.pop(key, None)
    if data is None:
        return None
    report: Report = pickle.loads(zlib.decompress(data))
    _keep_report(key, report)
    return report


def keep_look(design_id: UUID, revision: int, look: FirstLook) -> None:
    """Remember a report, and for a while the station behind it: its remedies are asked for soon
    after.

    Parameters
    ----------
    revision : int
        Of the design.
    look : FirstLook
        Its report, before remedies were tried.
    """
    key = (design_id, revision)
    _keep_report(key, look.report)
    with _lock:
        _looks[key] = look
        while len(_looks) > KEPT_LOOKS:
            _looks.popitem(last=False)


def kept_report(design_id: UUID, revision: int) -> Report | None:
    """The report on a revision, if it is still remembered; its remedies may be still to be
    tried."""
    return _opened((design_id, revision))


def first_report_on(stored: StoredDesign) -> Report:
    """The report on a stored design; its remedies may be still to be tried."""
    key = (stored.id, stored.revision)
    found = _opened(key)
    if found is not None:
        return found
    look = judge(stored.design).look
    keep_look(*key, look)
    return look.report


def report_on(stored: StoredDesign) -> Report:
    """The report on a stored design, its remedies tried."""
    found = first_report_on(stored)
    if found.remedies == "tried":
        return found
    key = (stored.id, stored.revision)
    with _lock:
        look = _looks.pop(key, None)
    whole = whole_of(look or judge(stored.design).look)
    _keep_report(key, whole)
    return whole


def next_steps_on(stored: StoredDesign) -> tuple[NextAction, ...]:
    """What to do next about the verdict of a stored design; kept while it is the newest that
    somebody looks at."""
    key = (stored.id, stored.revision)
    with _lock:
        if key in _steps:
            _steps.move_to_end(key)
            return _steps[key]
    found = steps_of(stored.design, report_on(stored))
    with _lock:
        _steps[key] = found
        while len(_steps) > MOST_STEPS:
            _steps.popitem(last=False)
    return found


class Judge:
    """Judges an edit before it is stored, and remembers the report for the answer."""

    def __init__(self) -> None:
        self._look: FirstLook | None = None

    def __call__(self, design: Design) -> Line:
        judged = judge(design)
        self._look = judged.look
        return judged.line

    def keep_for(self, stored: StoredDesign) -> StoredDesign:
        """Remember the report on what was stored."""
        if self._look is not None:
            keep_look(stored.id, stored.revision, self._look)
        return stored


def with_line(archive: Archive, stored: StoredDesign) -> StoredDesign:
    """See that a revision that was stored without being judged, as an undo is, has its line."""
    if stored.line is not None:
        return stored
    try:
        judged = judge(stored.design)
    except CannotJudgeError as error:
        archive.keep_line(stored.id, stored.revision, Line(None, str(error)))
        return stored
    keep_look(stored.id, stored.revision, judged.look)
    archive.keep_line(stored.id, stored.revision, judged.line)
    return stored
