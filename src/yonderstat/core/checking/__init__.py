"""Check a reading: what a meter should show now, what is wrong where it does not, and what to
measure next."""

from .circuit import Circuit
from .diagnosis import Cause, Diagnosis, Next, diagnosis_of
from .expected import CheckedReading, ExpectedNow, check_reading, expected_now
from .faults import Symptom, symptoms_of
from .moment import Moment, usual_moment
from .points import Point, RunOfDiagram, points_of, runs_of_diagram
from .said import CannotTellError, SaidReading, reading_of

__all__ = [
    "CannotTellError",
    "Cause",
    "CheckedReading",
    "Circuit",
    "Diagnosis",
    "ExpectedNow",
    "Moment",
    "Next",
    "Point",
    "RunOfDiagram",
    "SaidReading",
    "Symptom",
    "check_reading",
    "diagnosis_of",
    "expected_now",
    "points_of",
    "reading_of",
    "runs_of_diagram",
    "symptoms_of",
    "usual_moment",
]
