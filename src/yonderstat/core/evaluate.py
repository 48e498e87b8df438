"""The one door: a design in, a report out."""

from dataclasses import replace

from .design import Design
from .explained import explained
from .findings import cautions_of, findings_of
from .report import Report
from .station import StationModel


def evaluate(design: Design) -> Report:
    """Judge a design.

    Deterministic, pure and total: any valid design gives a report; trouble appears as findings.
    """
    station = StationModel(design)
    report = explained(station)
    return replace(report, findings=findings_of(station, report), cautions=cautions_of(design, report))
