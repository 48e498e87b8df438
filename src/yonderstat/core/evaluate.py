"""The one door: a design in, a report out."""

from dataclasses import dataclass

from .array import ArrayReport, ChargingReport, SizingReport
from .data import Source, sources
from .design import Design
from .draw import DrawReport
from .findings import Caution, Finding, cautions_of, findings_of
from .rehearse import JudgedYears
from .store import StoreReport
from .sun import SunReport
from .verdict import EnergyLine, LifeReport, Verdict, figures_of
from .verdict.night import NightFigures
from .verdict.paces import Paces, paces_of
from .weather import WeatherReport
from .working import Key, Quantity


@dataclass(frozen=True, slots=True)
class Report:
    """All a design comes to. Figures are named by key and found, with how they came about, in `working`."""

    verdict: Verdict
    energy_line: EnergyLine
    draw: DrawReport
    store: StoreReport | None
    life: LifeReport | None
    sun: SunReport
    weather: WeatherReport | None
    array: ArrayReport
    charging: ChargingReport
    sizing: SizingReport
    night: NightFigures | None
    rehearsed: JudgedYears | None
    paces: Paces
    asked_days: Key
    findings: tuple[Finding, ...]
    cautions: tuple[Caution, ...]
    working: dict[Key, Quantity]
    sources: dict[str, Source]


def evaluate(design: Design) -> Report:
    """Judge a design.

    Deterministic, pure and total: any valid design gives a report; trouble appears as findings.
    """
    figures = figures_of(design)
    paces, working = paces_of(design, figures)
    return Report(
        figures.verdict,
        figures.energy_line,
        figures.draw,
        figures.store,
        figures.life,
        figures.sun,
        figures.weather,
        figures.array,
        figures.charging,
        figures.sizing,
        figures.night,
        figures.rehearsed,
        paces,
        figures.asked_days,
        findings_of(design, figures),
        cautions_of(design),
        working,
        sources(),
    )
