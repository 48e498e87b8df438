"""A report in a line: what a list of sites shows of a design, without the figures' workings."""

from dataclasses import dataclass

from .design import Design, Kind, Purpose
from .finding import Finding, Severity
from .report import Report
from .verdict import State


@dataclass(frozen=True, slots=True)
class SummaryMonth:
    """A month of the strip; `share` is None where it is not in use or nothing is known."""

    in_use: bool
    share: float | None
    state: State | None


@dataclass(frozen=True, slots=True)
class SummaryFinding:
    """A finding in its sentence."""

    severity: Severity
    sentence: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Summary:
    """A design judged, in a line. `days_key` names the figure in the design's report, to ask it
    why."""

    name: str
    kind: Kind
    purpose: Purpose
    latitude_deg: float | None
    longitude_deg: float | None
    headline: str
    rest: str
    state: State
    share_of: str
    hard_month: int
    months: tuple[SummaryMonth, ...]
    days_without_sun: float | None
    days_key: str | None
    worst: SummaryFinding | None


def _worst(findings: tuple[Finding, ...]) -> SummaryFinding | None:
    first = next(
        (finding for finding in findings if finding.severity != "good" and not finding.muted), None
    )
    return None if first is None else SummaryFinding(first.severity, first.sentence)


def summary_of(design: Design, report: Report) -> Summary:
    """The report on a design in a line."""
    verdict, place = report.verdict, design.place
    months = tuple(
        SummaryMonth(
            cell.in_use, report.working[cell.share].value if cell.share else None, cell.state
        )
        for cell in verdict.months
    )
    days = report.store.days_without_sun if report.store else None
    return Summary(
        name=design.name,
        kind=design.brief.kind,
        purpose=design.brief.purpose,
        latitude_deg=place.latitude_deg if place else None,
        longitude_deg=place.longitude_deg if place else None,
        headline=verdict.headline,
        rest=verdict.rest,
        state=verdict.state,
        share_of=verdict.share_of,
        hard_month=verdict.hard_month,
        months=months,
        days_without_sun=report.working[days].value if days else None,
        days_key=days,
        worst=_worst(report.findings),
    )
