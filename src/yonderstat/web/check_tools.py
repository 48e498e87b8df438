"""Check a reading: where a meter can be put, what it should show, and what is wrong where it does
not."""

import threading
from dataclasses import dataclass
from datetime import datetime
from typing import Annotated
from uuid import UUID

from pydantic import Field

from yonderstat.core.checking import (
    CannotTellError,
    CheckedReading,
    Circuit,
    Diagnosis,
    Moment,
    Point,
    RunOfDiagram,
    SaidReading,
    Symptom,
    check_reading,
    diagnosis_of,
    points_of,
    reading_of,
    runs_of_diagram,
    symptoms_of,
    usual_moment,
)
from yonderstat.core.station import StationModel
from yonderstat.records import Archive, StoredDesign

from .api import Api, Body, model_fault
from .clocks import zone_of
from .problems import Problem

KEPT = 3
MOST_READINGS = 24
Line = Annotated[str, Field(max_length=200)]


class ReadingAsked(Body):
    """A reading as it is said, or at a point that was chosen."""

    text: Line = ""
    point: Annotated[str, Field(max_length=120)] = ""
    value: Annotated[float, Field(ge=-10_000, le=10_000)] | None = None
    moment: Moment | None = None
    """When it was taken; none for the moment that is asked about."""


class CheckAsked(Body):
    """What was read, what is noticed, and when."""

    readings: Annotated[list[ReadingAsked], Field(max_length=MOST_READINGS)] = Field(
        default_factory=list
    )
    moment: Moment
    symptom: Annotated[str, Field(max_length=40)] = ""
    of: Annotated[str, Field(max_length=120)] = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class CheckStart:
    """What a station has to measure, and what may be noticed of it."""

    revision: int
    points: list[Point]
    symptoms: list[Symptom]
    runs: list[RunOfDiagram]
    moment: Moment
    """Now, by the site's own clock."""
    strings: list[str]
    """Names of the panels."""
    has_charger: bool
    """Whether anything but the sun can charge it."""


@dataclass(frozen=True, slots=True, kw_only=True)
class CheckView:
    """Every reading beside what it should be, the causes, and what to measure next."""

    revision: int
    readings: list[CheckedReading]
    diagnosis: Diagnosis


class _Circuits:
    """The circuits of the revisions that are asked about: a person checks one station at a time."""

    def __init__(self) -> None:
        self._kept: dict[tuple[UUID, int], Circuit] = {}
        self._lock = threading.Lock()

    def of(self, stored: StoredDesign) -> Circuit:
        key = stored.id, stored.revision
        with self._lock:
            found = self._kept.pop(key, None) or Circuit(StationModel(stored.design))
            self._kept[key] = found
            while len(self._kept) > KEPT:
                del self._kept[next(iter(self._kept))]
        return found


def check_api(archive: Archive) -> Api:
    """The operations on readings that are checked; nothing of them is kept."""
    api, circuits = Api(), _Circuits()

    def circuit_of(stored: StoredDesign) -> Circuit:
        found = circuits.of(stored)
        if found.station.bank is None:
            raise Problem(409, "no-battery", "There is no battery to measure at", "Add one first.")
        return found

    @api.operation("GET", "/api/designs/{design_id}/check", access="read", answer=CheckStart)
    def read_check(design_id: UUID) -> CheckStart:
        """Where a meter can be put at a station, and what may be noticed of it."""
        stored = archive.design(design_id)
        circuit, now = circuit_of(stored), datetime.now(zone_of(stored))
        return CheckStart(
            revision=stored.revision,
            points=list(points_of(circuit.station)),
            symptoms=list(symptoms_of(circuit)),
            runs=list(runs_of_diagram(circuit.station)),
            moment=usual_moment(circuit.station, now.month, now.hour),
            strings=[item.name for item in stored.design.array.strings],
            has_charger=circuit.charger_a > 0,
        )

    @api.operation(
        "POST",
        "/api/designs/{design_id}/check",
        access="read",
        body=CheckAsked,
        answer=CheckView,
    )
    def check_readings(design_id: UUID, body: CheckAsked) -> CheckView:
        """Readings beside what they should be, the causes behind them, and the measurement that
        parts these best."""
        stored = archive.design(design_id)
        circuit = circuit_of(stored)
        moment = _known(circuit, body.moment, "/moment")
        if body.symptom and body.symptom not in {item.id for item in symptoms_of(circuit)}:
            raise model_fault("/symptom", "is none this station can have")
        readings = tuple(
            _checked(circuit, asked, moment, number) for number, asked in enumerate(body.readings)
        )
        told = diagnosis_of(circuit, readings, moment, body.symptom, body.of)
        return CheckView(revision=stored.revision, readings=list(readings), diagnosis=told)

    return api


def _known(circuit: Circuit, moment: Moment, at: str) -> Moment:
    loads = {item.id for item in circuit.station.design.draw.loads}
    if moment.keyed and moment.keyed not in loads:
        raise model_fault(f"{at}/keyed", "is no load of this design")
    return moment


def _checked(circuit: Circuit, asked: ReadingAsked, now: Moment, number: int) -> CheckedReading:
    at = f"/readings/{number}"
    moment = _known(circuit, asked.moment or now, f"{at}/moment")
    said = _said(circuit, asked, moment, at)
    return check_reading(circuit, said.point, said.value, said.moment)


def _said(circuit: Circuit, asked: ReadingAsked, moment: Moment, at: str) -> SaidReading:
    if asked.text and not asked.point:
        try:
            return reading_of(asked.text, circuit.station, moment)
        except CannotTellError as error:
            raise model_fault(f"{at}/text", str(error)) from None
    point = next((item for item in points_of(circuit.station) if item.id == asked.point), None)
    if point is None:
        raise model_fault(f"{at}/point", "is no place of this station a meter reaches")
    if asked.value is None:
        raise model_fault(f"{at}/value", "is missing; type what the meter shows")
    return SaidReading(point, asked.value, moment)
