"""The one door: a design in, a report out."""

from dataclasses import dataclass, replace

from .design import Design
from .explained import explained
from .findings import cautions_of, findings_of, first_findings_of, next_actions_of
from .next_action import NextAction
from .report import Report
from .station import StationModel


def evaluate(design: Design) -> Report:
    """Judge a design.

    Deterministic, pure and total: any valid design gives a report; trouble appears as findings.
    What to do next about the verdict is asked for apart, by `next_actions`: it plays the weather
    years a dozen times.
    """
    station = StationModel(design)
    report = explained(station)
    return replace(
        report, findings=findings_of(station, report), cautions=cautions_of(design, report)
    )


def next_actions(design: Design, report: Report) -> tuple[NextAction, ...]:
    """What to do next where the verdict is not good, what is free first.

    Parameters
    ----------
    design : Design
        The design.
    report : Report
        On it, as `evaluate` gives it.

    Returns
    -------
    tuple of NextAction
        Up to three, each tried over the weather years and judged by all the rules.
    """
    return next_actions_of(StationModel(design), report, report.findings)


@dataclass(frozen=True, slots=True)
class FirstLook:
    """A design judged, but for the remedies: those are tried once somebody has time for them."""

    station: StationModel
    report: Report
    """As `evaluate` gives it, its findings without their remedies."""

    def whole(self) -> Report:
        """The report as `evaluate` gives it."""
        return replace(
            self.report, findings=findings_of(self.station, self.report), remedies="tried"
        )


def first_look(design: Design) -> FirstLook:
    """Judge a design as `evaluate` does, and leave the remedies for later: the verdict need not
    wait for them."""
    station = StationModel(design)
    report = explained(station)
    found, cautions = first_findings_of(station, report), cautions_of(design, report)
    return FirstLook(station, replace(report, findings=found, cautions=cautions, remedies="later"))
