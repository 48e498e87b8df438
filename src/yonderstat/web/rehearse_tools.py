"""The Rehearse step: all weather years, and an outage played."""

from dataclasses import dataclass
from functools import lru_cache
from uuid import UUID

from yonderstat.core.rehearse import (
    FailuresReport,
    Scene,
    SceneReport,
    SizingMap,
    YearsReport,
    failures_report,
    rehearse,
    sizing_map,
    years_report,
)
from yonderstat.records import Archive

from .api import Api

KEPT = 32


@dataclass(frozen=True, slots=True)
class YearsView:
    """All weather years of a revision; none where it cannot be rehearsed."""

    revision: int
    report: YearsReport | None


@dataclass(frozen=True, slots=True)
class SizingMapView:
    """The sizing map of a revision; none where it cannot be rehearsed or has no panels."""

    revision: int
    map: SizingMap | None


@dataclass(frozen=True, slots=True)
class FailuresView:
    """Every part of a revision lost in turn; none where it cannot be rehearsed."""

    revision: int
    report: FailuresReport | None


@dataclass(frozen=True, slots=True)
class SceneView:
    """A scene played on a revision; none where it cannot be rehearsed."""

    revision: int
    report: SceneReport | None


def rehearse_tools_api(archive: Archive) -> Api:
    """The operations behind the Rehearse step."""
    api = Api()

    @lru_cache(maxsize=KEPT)
    def years_of(design_id: UUID, revision: int) -> YearsReport | None:
        # The revision is part of the key: a design at a revision never changes.
        del revision
        return years_report(archive.design(design_id).design)

    @api.operation("GET", "/api/designs/{design_id}/years", answer=YearsView)
    def read_years(design_id: UUID) -> YearsView:
        """Served share, dark spells and carry-through over all weather years."""
        stored = archive.design(design_id)
        return YearsView(stored.revision, years_of(design_id, stored.revision))

    @lru_cache(maxsize=KEPT)
    def map_of(design_id: UUID, revision: int) -> SizingMap | None:
        del revision
        return sizing_map(archive.design(design_id).design)

    @api.operation("GET", "/api/designs/{design_id}/sizing-map", answer=SizingMapView)
    def read_sizing_map(design_id: UUID) -> SizingMapView:
        """Panels against bank: what every size serves over ten weather years."""
        stored = archive.design(design_id)
        return SizingMapView(stored.revision, map_of(design_id, stored.revision))

    @lru_cache(maxsize=KEPT)
    def failures_of(design_id: UUID, revision: int) -> FailuresReport | None:
        del revision
        return failures_report(archive.design(design_id).design)

    @api.operation("GET", "/api/designs/{design_id}/failures", answer=FailuresView)
    def read_failures(design_id: UUID) -> FailuresView:
        """Every part lost in turn, over ten weather years."""
        stored = archive.design(design_id)
        return FailuresView(stored.revision, failures_of(design_id, stored.revision))

    @api.operation("POST", "/api/designs/{design_id}/rehearse", body=Scene, answer=SceneView)
    def play_scene(design_id: UUID, body: Scene) -> SceneView:
        """Play an outage hour by hour; nothing is kept."""
        stored = archive.design(design_id)
        return SceneView(stored.revision, rehearse(stored.design, body))

    return api
