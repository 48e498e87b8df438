"""The whole club: as one file out and in, and its places for maps."""

from dataclasses import dataclass
from datetime import UTC, datetime

from sqlalchemy import Engine

from yonderstat.core.design import Fault
from yonderstat.core.words import plain
from yonderstat.formats import (
    ClubArchiveError,
    SitePoint,
    read_club,
    write_club,
    write_geojson,
    write_gpx,
)
from yonderstat.records import Archive, club_record, restore_club

from .access import principal
from .api import Api
from .guard import MOST_UPLOAD_BYTES
from .problems import Problem
from .sites import summary_of_line
from .transfer import TakenAway, Uploaded

MOST_ARCHIVE_BYTES = MOST_UPLOAD_BYTES


@dataclass(frozen=True, slots=True, kw_only=True)
class RestoredView:
    """What bringing a club's file in did."""

    sites_added: int
    designs_added: int
    revisions_added: int
    designs_beside: int
    readings_added: int
    shelf_parts_added: int
    words: str


def club_api(archive: Archive, engine: Engine) -> Api:
    """The operations on the whole club."""
    api = Api()

    @api.operation("GET", "/api/club.zip", access="read", about="club", file="application/zip")
    def take_club_away() -> TakenAway:
        """All sites with every revision, readings and the shelf, as one zip of JSON and CSV."""
        now = datetime.now(UTC)
        return TakenAway(f"club-{now:%Y-%m-%d}.zip", write_club(club_record(engine), now))

    @api.operation(
        "POST",
        "/api/club",
        access="edit",
        about="club",
        upload=MOST_ARCHIVE_BYTES,
        answer=RestoredView,
    )
    def bring_club_in(upload: Uploaded) -> RestoredView:
        """Bring a club's file in, beside what is here: nothing twice, nothing lost; refused whole
        if it is damaged."""
        try:
            done = restore_club(engine, read_club(upload.data))
        except ClubArchiveError as error:
            faults = [Fault("/upload", f"{upload.name} {fault}") for fault in error.faults[:50]]
            raise Problem(
                422,
                "bad-archive",
                "This file cannot be imported",
                f"{upload.name} {error}"[:1000],
                faults,
            ) from None
        return RestoredView(
            sites_added=done.sites_added,
            designs_added=done.designs_added,
            revisions_added=done.revisions_added,
            designs_beside=done.designs_beside,
            readings_added=done.readings_added,
            shelf_parts_added=done.shelf_parts_added,
            words=restored_in_words(
                done.sites_added, done.designs_added, done.designs_beside, done.readings_added
            ),
        )

    def points() -> list[SitePoint]:
        found = []
        for site in archive.sites(only=principal().readable_sites)[0]:
            told = summary_of_line(site.line)
            if (
                told is not None
                and told.latitude_deg is not None
                and told.longitude_deg is not None
            ):
                words = plain(told.headline)
                found.append(
                    SitePoint(site.name, told.latitude_deg, told.longitude_deg, None, words)
                )
        return found

    @api.operation(
        "GET", "/api/sites.geojson", access="read", about="each site", file="application/geo+json"
    )
    def take_sites_geojson() -> TakenAway:
        """Where the sites are, as GeoJSON."""
        return TakenAway("sites.geojson", write_geojson(points()).encode())

    @api.operation(
        "GET", "/api/sites.gpx", access="read", about="each site", file="application/gpx+xml"
    )
    def take_sites_gpx() -> TakenAway:
        """Where the sites are, as GPX waypoints."""
        return TakenAway("sites.gpx", write_gpx(points()).encode())

    return api


def restored_in_words(sites: int, designs: int, beside: int, readings: int) -> str:
    """What came in, in a sentence."""
    if not (sites or designs or beside or readings):
        return "All of it was here already."
    more = f"; {beside} kept next to yours, because both were changed" if beside else ""
    return f"Imported: {sites} sites, {designs} designs, {readings} readings{more}."
