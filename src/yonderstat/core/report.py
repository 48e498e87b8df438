"""All a design comes to."""

from dataclasses import dataclass
from typing import Literal

from .array import ArrayReport, ChargingReport, SizingReport
from .bus import BusReport
from .data import Source
from .draw import DrawReport, NightFigures, TempoReport
from .finding import Caution, Finding
from .parts import BuildReport
from .rehearse import Reliability
from .store import LifeReport, StoreReport
from .sun import SunReport
from .verdict import EnergyLine, Verdict
from .weather import WeatherReport
from .working import Key, Quantity


@dataclass(frozen=True, slots=True, kw_only=True)
class Report:
    """The report, a section a step. Figures are named by key and found, with how they came about,
    in `working`."""

    verdict: Verdict
    energy_line: EnergyLine
    draw: DrawReport
    tempo_runtime: TempoReport
    night: NightFigures | None
    store: StoreReport | None
    life: LifeReport | None
    sun: SunReport
    weather: WeatherReport | None
    array: ArrayReport
    charging: ChargingReport
    sizing: SizingReport
    bus: BusReport
    build: BuildReport
    rehearsed: Reliability | None
    asked_days: Key
    findings: tuple[Finding, ...] = ()
    remedies: Literal["tried", "later"] = "tried"
    """Whether the findings bring their remedies, or those are still to be tried."""
    cautions: tuple[Caution, ...] = ()
    working: dict[Key, Quantity]
    sources: dict[str, Source]

    def number(self, key: Key | None) -> float | None:
        """The value of a figure by key; None where there is none."""
        return self.working[key].value if key else None
