"""What every guided test is made of: what it asks, what to expect, and how a figure is checked."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Literal

from ...station import StationModel
from ..meaning import Meaning

Dimension = Literal["amps", "volts", "hours", "amp_hours", "temperature", "number"]
Values = Mapping[str, float]
ROOM_C = 25.0
FUSED = "A short circuit here melts tools: fuse the test lead."


@dataclass(frozen=True, slots=True)
class Asked:
    """A figure a test asks for."""

    id: str
    label: str
    dimension: Dimension
    optional: bool = False


@dataclass(frozen=True, slots=True)
class Expected:
    """What the plan expects to be read, worked out before the test is done."""

    label: str
    value: float
    unit: str


@dataclass(frozen=True, slots=True)
class Subject:
    """What can be tested: a load, a string, the bank."""

    id: str
    name: str
    expects: tuple[Expected, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Procedure:
    """A test as it is done."""

    id: str
    title: str
    caution: str
    steps: tuple[str, ...]
    asks: tuple[Asked, ...]
    subjects: tuple[Subject, ...]
    """Nothing to test where it is empty."""


class FigureError(ValueError):
    """A figure that no such test gives; `field` is which."""

    def __init__(self, field: str, message: str) -> None:
        super().__init__(message)
        self.field = field


def needs(values: Values, field: str, low: float, high: float, what: str) -> float:
    value = values.get(field)
    if value is None:
        raise FigureError(field, f"is missing; type {what}")
    if not low <= value <= high:
        raise FigureError(field, f"is {value:g}; {what} must be between {low:g} and {high:g}")
    return value


def may(values: Values, field: str, low: float, high: float, what: str) -> float | None:
    return None if values.get(field) is None else needs(values, field, low, high, what)


Judge = Callable[[StationModel, str, Values], Meaning]


@dataclass(frozen=True, slots=True, kw_only=True)
class Kind:
    title: str
    caution: str
    steps: tuple[str, ...]
    asks: tuple[Asked, ...]
    subjects: Callable[[StationModel], tuple[Subject, ...]]
    judge: Judge
