"""Reports on stored designs, kept in memory by revision: a revision never changes, so neither does its report."""

from collections import OrderedDict
from threading import Lock
from uuid import UUID

from yonderstat.core import FirstLook, Report
from yonderstat.core.design import Design
from yonderstat.jobs import CannotJudgeError, judge, whole_of
from yonderstat.records import Archive, Line, StoredDesign

KEPT = 64
"""An edit asks for the one before it. Each weighs near a megabyte: with 256 a web server that is edited all day took
170 MB more."""
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


_reports: OrderedDict[tuple[UUID, int], Report] = OrderedDict()
_looks: OrderedDict[tuple[UUID, int], FirstLook] = OrderedDict()
_lock = Lock()


def _keep_report(key: tuple[UUID, int], report: Report) -> None:
    """Remember a report, and forget the one not asked for the longest."""
    with _lock:
        _reports[key] = report
        _reports.move_to_end(key)
        while len(_reports) > KEPT:
            _reports.popitem(last=False)


def keep_look(design_id: UUID, revision: int, look: FirstLook) -> None:
    """Remember a report, and for a while the station behind it: its remedies are asked for soon after."""
    key = (design_id, revision)
    _keep_report(key, look.report)
    with _lock:
        _looks[key] = look
        while len(_looks) > KEPT_LOOKS:
            _looks.popitem(last=False)


def kept_report(design_id: UUID, revision: int) -> Report | None:
    """The report on a revision, if it is still remembered; its remedies may be still to be tried."""
    with _lock:
        return _reports.get((design_id, revision))


def first_report_on(stored: StoredDesign) -> Report:
    """The report on a stored design; its remedies may be still to be tried."""
    key = (stored.id, stored.revision)
    with _lock:
        found = _reports.get(key)
        if found is not None:
            _reports.move_to_end(key)
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
