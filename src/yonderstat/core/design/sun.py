"""Step 4, Sun: where the figures come from, and what stands in its way."""

from itertools import pairwise
from typing import Annotated, Literal

from pydantic import AfterValidator, Field, model_validator

from .base import Section

Allowance = Literal["central", "planning", "cautious"]
SunSource = Literal["reanalysis", "own"]


class HorizonPoint(Section):
    """How high the skyline stands in a direction. Between points it runs straight; round the compass it closes."""

    azimuth_deg: Annotated[float, Field(ge=0, lt=360)]
    elevation_deg: Annotated[float, Field(ge=0, le=85)]


def _rising(points: list[HorizonPoint]) -> list[HorizonPoint]:
    for before, after in pairwise(points):
        if after.azimuth_deg <= before.azimuth_deg:
            raise ValueError(
                f"must go round the compass once: {after.azimuth_deg:g}° comes after {before.azimuth_deg:g}°"
            )
    return points


def _twelve(value: float) -> list[float]:
    return [value] * 12


class Sun(Section):
    source: SunSource = "reanalysis"
    allowance: Allowance = "planning"
    own_hours: Annotated[list[Annotated[float, Field(ge=0, le=14)]], Field(min_length=12, max_length=12)] | None = None
    """Own mean sun-hours a day on the flat, January to December, with `source` "own"."""
    horizon: Annotated[list[HorizonPoint], Field(max_length=72), AfterValidator(_rising)] = Field(default_factory=list)
    albedo: Annotated[list[Annotated[float, Field(ge=0, le=0.95)]], Field(min_length=12, max_length=12)] = Field(
        default_factory=lambda: _twelve(0.2)
    )
    """Ground reflection by month: 0.2 bare, 0.6 and more under snow."""
    snow_days: Annotated[list[Annotated[float, Field(ge=0, le=31)]], Field(min_length=12, max_length=12)] = Field(
        default_factory=lambda: _twelve(0.0)
    )
    """Days a month the panels lie under snow and give nothing."""

    @model_validator(mode="after")
    def _own_given(self) -> "Sun":
        if self.source == "own" and self.own_hours is None:
            raise ValueError("rests on own figures, but none are given; fill in twelve months")
        return self
