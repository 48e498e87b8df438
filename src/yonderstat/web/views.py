"""A stored design as the API shows it."""

from collections.abc import Callable
from dataclasses import replace
from typing import TypeVar

from yonderstat.core import Report
from yonderstat.core.next_action import NextAction
from yonderstat.jobs import CannotJudgeError
from yonderstat.records import StoredDesign

from .bodies import DesignView
from .judged import first_report_on, kept_report, next_steps_on, report_on
from .problems import cannot_judge

T = TypeVar("T")


def design_view(stored: StoredDesign, remedies: str = "") -> DesignView:
    """The design with its report; with `remedies` "later" those may be still to be tried."""
    report = _told(stored, first_report_on) if remedies == "later" else whole_report(stored)
    return DesignView(
        id=stored.id,
        site_id=stored.site_id,
        site_name=stored.site_name,
        as_built=stored.as_built,
        revision=stored.revision,
        saved_at=stored.saved_at,
        can_undo=stored.can_undo,
        can_redo=stored.can_redo,
        document=stored.design,
        report=report,
    )


def whole_report(stored: StoredDesign) -> Report:
    """The report with its remedies; a problem document where there is none."""
    return _told(stored, report_on)


def next_steps(stored: StoredDesign) -> tuple[NextAction, ...]:
    """What to do next about its verdict; a problem document where it cannot be judged."""
    return _told(stored, next_steps_on)


def _told(stored: StoredDesign, judging: Callable[[StoredDesign], T]) -> T:
    try:
        return judging(stored)
    except CannotJudgeError as error:
        raise cannot_judge(error, stored.revision, "This design cannot be judged") from error


def changed_since(view: DesignView, revision: int) -> DesignView:
    """The view with only those figures that are not as they were at a revision; the whole where
    that is forgotten.

    An edit moves a part of some seven hundred figures, and with their workings they are nine tenths
    of an answer.
    """
    before = kept_report(view.id, revision)
    if before is None:
        return view
    was, now = before.working, view.report.working
    changed = {key: figure for key, figure in now.items() if was.get(key) != figure}
    gone = tuple(key for key in was if key not in now)
    return replace(
        view,
        report=replace(view.report, working=changed),
        working_since=revision,
        working_gone=gone,
    )
