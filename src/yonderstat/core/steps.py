"""The register of steps: one line a step, in the order people work.

The interface builds its rundown, keys and routes from it, and the findings are gathered by it.
"""

from dataclasses import dataclass
from typing import Literal

StepId = Literal["brief", "draw", "store", "sun", "array", "bus", "rehearse", "build", "log"]


@dataclass(frozen=True, slots=True)
class StepEntry:
    """A step of the job. Its rules live in `findings/<id>`, its screen in `ui/src/steps/<id>`."""

    id: StepId
    number: int
    """Its place among all nine, and the key that jumps to it."""
    label: str
    section: str
    """Of the document; empty where the step keeps nothing in it."""


STEPS = (
    StepEntry("brief", 1, "Brief", "brief"),
    StepEntry("draw", 2, "Loads", "draw"),
    StepEntry("store", 3, "Battery", "store"),
    StepEntry("sun", 4, "Sun", "sun"),
    StepEntry("array", 5, "Panels", "array"),
    StepEntry("bus", 6, "Wiring", "bus"),
    StepEntry("rehearse", 7, "Rehearse", ""),
    StepEntry("build", 8, "Build", "build"),
    StepEntry("log", 9, "Log", ""),
)
