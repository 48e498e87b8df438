"""Reports on stored designs, kept in memory by revision: a revision never changes, so neither does its report."""

from collections import OrderedDict
from threading import Lock
from uuid import UUID

from yonderstat.core import Report
from yonderstat.core.design import Design
from yonderstat.jobs import CannotJudgeError, judge
from yonderstat.records import Archive, Line, StoredDesign

KEPT = 256


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
_lock = Lock()


def keep_report(design_id: UUID, revision: int, report: Report) -> None:
    """Remember a report, and forget the one not asked for the longest."""
    with _lock:
        _reports[(design_id, revision)] = report
        _reports.move_to_end((design_id, revision))
        while len(_reports) > KEPT:
            _reports.popitem(last=False)


def kept_report(design_id: UUID, revision: int) -> Report | None:
    """The report on a revision, if it is still remembered."""
    with _lock:
        return _reports.get((design_id, revision))


def report_on(stored: StoredDesign) -> Report:
    """The report on a stored design."""
    with _lock:
        found = _reports.get((stored.id, stored.revision))
        if found is not None:
            _reports.move_to_end((stored.id, stored.revision))
            return found
    judged = judge(stored.design)
    keep_report(stored.id, stored.revision, judged.report)
    return judged.report


class Judge:
    """Judges an edit before it is stored, and remembers the report for the answer."""

    def __init__(self) -> None:
        self._report: Report | None = None

    def __call__(self, design: Design) -> Line:
        judged = judge(design)
        self._report = judged.report
        return judged.line

    def keep_for(self, stored: StoredDesign) -> StoredDesign:
        """Remember the report on what was stored."""
        if self._report is not None:
            keep_report(stored.id, stored.revision, self._report)
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
    keep_report(stored.id, stored.revision, judged.report)
    archive.keep_line(stored.id, stored.revision, judged.line)
    return stored
