"""Reports on stored designs, kept in memory by revision: a revision never changes, so neither does its report."""

from functools import lru_cache
from uuid import UUID

from yonderstat.core import Report, evaluate
from yonderstat.core.design import Design
from yonderstat.records import StoredDesign


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


@lru_cache(maxsize=256)
def _report(item: ByRevision) -> Report:
    return evaluate(item.design)


def report_on(stored: StoredDesign) -> Report:
    """The report on a stored design."""
    return _report(ByRevision(stored))
