"""Sites: the home page's lines, new ones, names, putting away and bringing back."""

from uuid import UUID

from pydantic import ValidationError

from yonderstat.core import Summary, propose
from yonderstat.core.design import (
    Design,
    InvalidDesignError,
    Place,
    as_brought,
    design_from_document,
)
from yonderstat.formats import locator_of
from yonderstat.jobs import SUMMARY
from yonderstat.records import Archive, DesignHead, Line, ListedSite, StoredSite

from .access import principal
from .actors import current_actor
from .api import Api, create_key, model_fault, request_digest
from .bodies import (
    DesignTab,
    DesignView,
    NewDesign,
    NewSite,
    PutAwaySite,
    SiteChange,
    SiteLine,
    SiteView,
)
from .judged import Judge
from .patching import apply_patch, plain_operation
from .problems import Problem, invalid_design
from .transfer import Page, Part
from .views import design_view


def _tabs(heads: tuple[DesignHead, ...]) -> list[DesignTab]:
    return [DesignTab(head.id, head.name, head.as_built, head.revision) for head in heads]


def _view(site: StoredSite) -> SiteView:
    place = None if site.place is None else Place.model_validate(site.place)
    return SiteView(site.id, site.name, _tabs(site.designs), place)


def summary_of_line(line: Line | None) -> Summary | None:
    """What a list shows of a design; None where it waits to be judged."""
    if line is None or line.summary is None:
        return None
    try:
        return SUMMARY.validate_python(line.summary, strict=False)
    except ValidationError:
        # Kept by another version in another shape: it waits to be judged again.
        return None


def _line(site: ListedSite) -> SiteLine:
    summary = summary_of_line(site.line)
    located = summary and summary.latitude_deg is not None and summary.longitude_deg is not None
    return SiteLine(
        id=site.id,
        name=site.name,
        locator=locator_of(summary.latitude_deg, summary.longitude_deg) if located else None,  # type: ignore
        design_id=site.shown.id,
        designs=_tabs(site.designs),
        summary=summary,
        trouble=site.line.trouble if site.line else None,
    )


def _read_document(document: dict[str, object]) -> Design:
    try:
        return as_brought(design_from_document(document))
    except InvalidDesignError as error:
        raise invalid_design(error, "/document") from None


def sites_api(archive: Archive) -> Api:
    """The operations on sites."""
    api = Api()

    @api.operation(
        "GET", "/api/sites", access="read", about="each site", answer=list[SiteLine], paged=True
    )
    def list_sites(page: Page) -> Part:
        """The sites with their designs as built in a line each, read from the records: nothing is
        judged for it."""
        sites, total = archive.sites(page.offset, page.limit, principal().readable_sites)
        return Part([_line(site) for site in sites], total)

    @api.operation(
        "POST", "/api/sites", access="edit", about="club", body=NewSite, answer=SiteView, status=201
    )
    def create_site(body: NewSite) -> SiteView:
        """A new site with a first design that already runs."""
        design = (
            propose(body.kind, body.purpose, body.place)
            if body.document is None
            else _read_document(body.document)
        )
        judge = Judge()
        return _view(
            archive.add_site(
                body.name, design, create_key(), judge(design), request_digest(), current_actor()
            )
        )

    @api.operation("GET", "/api/sites/{site_id}", access="read", answer=SiteView)
    def read_site(site_id: UUID) -> SiteView:
        """A site and its designs."""
        return _view(archive.site(site_id))

    @api.operation("PATCH", "/api/sites/{site_id}", access="edit", body=SiteChange, answer=SiteView)
    def change_site(site_id: UUID, body: SiteChange) -> SiteView:
        """Give a site another name, or a place and time zone of its own."""
        if body.name is None and "name" in body.model_fields_set:
            raise model_fault("/name", "is empty; give it a name")
        return _view(archive.change_site(site_id, body.model_dump(mode="json", exclude_unset=True)))

    @api.operation("DELETE", "/api/sites/{site_id}", access="edit", status=204)
    def delete_site(site_id: UUID) -> None:
        """Put a site away; it can be brought back."""
        archive.delete_site(site_id)

    @api.operation(
        "GET", "/api/put-away", access="read", about="each site", answer=list[PutAwaySite]
    )
    def list_put_away() -> list[PutAwaySite]:
        """Sites that were put away, the last first."""
        only = principal().readable_sites
        return [
            PutAwaySite(*item) for item in archive.put_away() if only is None or item[0] in only
        ]

    @api.operation("POST", "/api/sites/{site_id}/restore", access="edit", answer=SiteView)
    def restore_site(site_id: UUID) -> SiteView:
        """Bring back a site that was put away."""
        return _view(archive.restore_site(site_id))

    @api.operation(
        "POST",
        "/api/sites/{site_id}/designs",
        access="edit",
        body=NewDesign,
        answer=DesignView,
        status=201,
    )
    def create_design(site_id: UUID, body: NewDesign) -> DesignView:
        """Another design for a site: a copy of one of its own, or a design file."""
        site = archive.site(site_id)
        if body.document is not None:
            design = _read_document(body.document)
        else:
            source = next((item for item in site.designs if str(item.id) == body.copy_of), None)
            if source is None:
                raise Problem(
                    422, "no-source", "Say which design of this site to copy, or send a document"
                )
            design = archive.design(source.id).design.model_copy(
                update={"name": _next_letter(site)}
            )
            if body.patch:
                design = apply_patch(design, [plain_operation(item) for item in body.patch])
        judge = Judge()
        stored = archive.add_design(
            site_id, design, create_key(), judge(design), request_digest(), current_actor()
        )
        return design_view(stored)

    return api


def _next_letter(site: StoredSite) -> str:
    taken = {item.name.split(" ")[0] for item in site.designs}
    return next(
        (chr(65 + n) for n in range(26) if chr(65 + n) not in taken), f"Design {len(taken) + 1}"
    )
