"""A stored design as the API shows it."""

from yonderstat.records import StoredDesign

from .bodies import DesignView
from .judged import report_on


def design_view(stored: StoredDesign, site_name: str) -> DesignView:
    """The design with its report."""
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
        report_on(stored),
    )
