"""Sites: the home page's lines, new ones, names, putting away and bringing back."""

from uuid import UUID

from yonderstat.core import propose
from yonderstat.core.design import Design, InvalidDesignError, design_from_document
from yonderstat.core.findings import Finding
from yonderstat.formats import locator_of
from yonderstat.records import Archive, StoredDesign, StoredSite

from .api import Api, create_key
from .bodies import DesignTab, DesignView, NewDesign, NewSite, SiteLine, SiteName, SiteView
from .judged import report_on
from .patching import apply_patch, plain_operation
from .problems import Problem, invalid_design
from .views import design_view


def _tabs(site: StoredSite) -> list[DesignTab]:
    return [DesignTab(item.id, item.design.name, item.as_built, item.revision) for item in site.designs]


def _view(site: StoredSite) -> SiteView:
    return SiteView(site.id, site.name, _tabs(site))


def _shown(site: StoredSite) -> StoredDesign:
    return next((item for item in site.designs if item.as_built), site.designs[0])


def _worst(findings: tuple[Finding, ...]) -> Finding | None:
    return next((finding for finding in findings if finding.severity != "good"), None)


def _line(site: StoredSite) -> SiteLine:
    stored = _shown(site)
    report, brief, place = report_on(stored), stored.design.brief, stored.design.place
    lasts = report.store.days_without_sun if report.store else None
    keys = [cell.share for cell in report.verdict.months if cell.share] + ([lasts] if lasts else [])
    return SiteLine(
        site.id,
        site.name,
        brief.kind,
        brief.purpose,
        locator_of(place.latitude_deg, place.longitude_deg) if place else None,
        place,
        stored.id,
        _tabs(site),
        report.verdict,
        lasts,
        _worst(report.findings),
        {key: report.working[key] for key in keys},
    )


def _read_document(document: dict[str, object]) -> Design:
    try:
        return design_from_document(document)
    except InvalidDesignError as error:
        raise invalid_design(error, "/document") from None


def sites_api(archive: Archive) -> Api:
    """The operations on sites."""
    api = Api()

    @api.operation("GET", "/api/sites", answer=list[SiteLine])
    def list_sites() -> list[SiteLine]:
        """Every site with the verdict on its design as built."""
        return [_line(site) for site in archive.sites() if site.designs]

    @api.operation("POST", "/api/sites", body=NewSite, answer=SiteView, status=201)
    def create_site(body: NewSite) -> SiteView:
        """A new site with a first design that already runs."""
        design = (
            propose(body.kind, body.purpose, body.place) if body.document is None else _read_document(body.document)
        )
        return _view(archive.add_site(body.name, design, create_key()))

    @api.operation("GET", "/api/sites/{site_id}", answer=SiteView)
    def read_site(site_id: UUID) -> SiteView:
        """A site and its designs."""
        return _view(archive.site(site_id))

    @api.operation("PATCH", "/api/sites/{site_id}", body=SiteName, answer=SiteView)
    def rename_site(site_id: UUID, body: SiteName) -> SiteView:
        """Give a site another name."""
        return _view(archive.rename_site(site_id, body.name))

    @api.operation("DELETE", "/api/sites/{site_id}", status=204)
    def delete_site(site_id: UUID) -> None:
        """Put a site away; it can be brought back."""
        archive.delete_site(site_id)

    @api.operation("POST", "/api/sites/{site_id}/restore", answer=SiteView)
    def restore_site(site_id: UUID) -> SiteView:
        """Bring back a site that was put away."""
        return _view(archive.restore_site(site_id))

    @api.operation("POST", "/api/sites/{site_id}/designs", body=NewDesign, answer=DesignView, status=201)
    def create_design(site_id: UUID, body: NewDesign) -> DesignView:
        """Another design for a site: a copy of one of its own, or a design file."""
        site = archive.site(site_id)
        if body.document is not None:
            design = _read_document(body.document)
        else:
            source = next((item for item in site.designs if str(item.id) == body.copy_of), None)
            if source is None:
                raise Problem(422, "no-source", "Say which design of this site to copy, or send a document")
            design = source.design.model_copy(update={"name": _next_letter(site)})
            if body.patch:
                design = apply_patch(design, [plain_operation(item) for item in body.patch])
        return design_view(archive.add_design(site_id, design, create_key()), site.name)

    return api


def _next_letter(site: StoredSite) -> str:
    taken = {item.design.name.split(" ")[0] for item in site.designs}
    return next((chr(65 + n) for n in range(26) if chr(65 + n) not in taken), f"Design {len(taken) + 1}")
