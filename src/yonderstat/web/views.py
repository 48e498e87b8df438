"""A stored design as the API shows it."""

from yonderstat.jobs import CannotJudgeError
from yonderstat.records import StoredDesign

from .bodies import DesignView
from .judged import report_on
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
