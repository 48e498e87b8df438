"""A stored design as the API shows it."""

from dataclasses import replace

from yonderstat.jobs import CannotJudgeError
from yonderstat.records import StoredDesign

from .bodies import DesignView
from .judged import kept_report, report_on
from .problems import cannot_judge


def design_view(stored: StoredDesign, site_name: str) -> DesignView:
    """The design with its report."""
    try:
        report = report_on(stored)
    except CannotJudgeError as error:
        raise cannot_judge(error, stored.revision, "This design cannot be judged") from error
    return DesignView(
        stored.id,
        stored.site_id,
        site_name,
        stored.as_built,
        stored.revision,
        stored.saved_at,
        stored.can_undo,
        stored.can_redo,
        stored.design,
        report,
    )


def changed_since(view: DesignView, revision: int) -> DesignView:
    """The view with only those figures that are not as they were at a revision; the whole where that is forgotten.

    An edit moves a part of some seven hundred figures, and with their workings they are nine tenths of an answer.
    """
    before = kept_report(view.id, revision)
    if before is None:
        return view
    was, now = before.working, view.report.working
    changed = {key: figure for key, figure in now.items() if was.get(key) != figure}
    gone = tuple(key for key in was if key not in now)
    return replace(view, report=replace(view.report, working=changed), working_since=revision, working_gone=gone)
