"""A rehearsal: the outage you fear, on a date, in a kind of weather, at a tempo a day."""

from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from ..design import Design, Section
from ..design.base import Slug
from ..draw import MONTH_NAMES
from ..sun import year_days
from ..verdict import figures_of
from .kernel import run_hours
from .station import BACK_SHARE, HYSTERESIS, TIERS, HourlyStation, hourly_loads, hourly_station

FloatArray = NDArray[np.float64]

Sky = Literal["typical", "poor", "worst", "none"]
MOST_DAYS = 30
HOURS = 24
POOR_RANK = 0.1


class Scene(Section):
    """What is rehearsed."""

    month: Annotated[int, Field(ge=1, le=12)] = 6
    day: Annotated[int, Field(ge=1, le=31)] = 15
    days: Annotated[int, Field(ge=1, le=MOST_DAYS)] = 3
    sky: Sky = "typical"
    tempos: Annotated[list[Slug], Field(max_length=MOST_DAYS)] = Field(default_factory=list)
    """One a day; the last goes on, and none takes what the design is sized on."""
    start_share: Annotated[float, Field(ge=0, le=1)] = 1.0
    """Of what may be used, at the start."""
    shed_useful: Annotated[float, Field(ge=0, le=1)] = 0.0
    shed_comfort: Annotated[float, Field(ge=0, le=1)] = 0.0
    """Below this share of what may be used the tier is switched off."""
    buried_days: Annotated[int, Field(ge=0, le=MOST_DAYS)] = 0
    """The panels lie under snow for so many days from the start."""


@dataclass(frozen=True, slots=True)
class SceneHour:
    """An hour of the rehearsal. Shares are of what may be used; tiers are vital, useful, comfort."""

    sun_w_m2: float
    source_a: float
    wanted_a: float
    served: tuple[float, ...]
    """Share of each tier's want that is served; 1 where it wants nothing."""
    charge_share: float


@dataclass(frozen=True, slots=True)
class SceneEvent:
    """Something worth telling, at an hour from the start."""

    hour: int
    sentence: str


@dataclass(frozen=True, slots=True)
class SceneReport:
    """How it went."""

    hours: tuple[SceneHour, ...]
    events: tuple[SceneEvent, ...]
    sentence: str
    dark_hours: int
    left_share: float
    drawn_ah: float
    brought_ah: float


def _start_day(scene: Scene) -> int:
    """Day of the year, from 0; the last day of a shorter month stands for what it does not have."""
    months = year_days()[0]
    chosen = np.flatnonzero(months == scene.month)
    return int(chosen[min(scene.day, chosen.size) - 1])


def _window(station: HourlyStation, start: int, hours: int, sky: Sky) -> tuple[int, FloatArray, FloatArray]:
    """Year, sources and sun of the stretch that is so bright among all years."""
    at = (start * HOURS + np.arange(hours)) % station.load_a.shape[0]
    totals = station.source_a[:, at].sum(axis=1)
    order = np.argsort(totals, kind="stable")
    rank = {"typical": 0.5, "poor": POOR_RANK, "worst": 0.0, "none": 0.0}[sky]
    year = int(order[round(rank * (order.size - 1))])
    part = 0.0 if sky == "none" else 1.0
    return year, station.source_a[year, at] * part, station.sun_w_m2[year, at] * part


def _loads(design: Design, station: HourlyStation, scene: Scene, start: int) -> FloatArray:
    hours = scene.days * HOURS
    at = (start * HOURS + np.arange(hours)) % station.load_a.shape[0]
    if not scene.tempos:
        return np.ascontiguousarray(station.load_a[at])
    figures, known = figures_of(design), {tempo.id for tempo in design.draw.tempos}
    wanted = np.empty((hours, 3))
    for day in range(scene.days):
        tempo = scene.tempos[min(day, len(scene.tempos) - 1)]
        rows = slice(day * HOURS, (day + 1) * HOURS)
        wanted[rows] = hourly_loads(design, figures, tempo if tempo in known else None)[at[rows]]
    return wanted


def _events(wanted: FloatArray, served: FloatArray, share: FloatArray) -> list[SceneEvent]:
    found: list[SceneEvent] = []
    on = [True, True, True]
    words = {"vital": "Vital service", "useful": "Useful loads", "comfort": "Comfort"}
    half_told = False
    for hour in range(share.size):
        for tier, name in enumerate(TIERS):
            if wanted[hour, tier] <= 0:
                continue
            now = bool(served[hour, tier] >= wanted[hour, tier] - 1e-9)
            if now != on[tier]:
                found.append(SceneEvent(hour, f"{words[name]} {'back' if now else 'dark' if tier == 0 else 'off'}"))
                on[tier] = now
        if not half_told and share[hour] < 0.5:
            found.append(SceneEvent(hour, "Half of what may be used is gone"))
            half_told = True
    return found


def _sentence(scene: Scene, events: list[SceneEvent], dark: int, left: float) -> str:
    if dark == 0:
        return f"Carries the {scene.days} days, with {left * 100:.0f} % of what may be used left."
    first = next(event.hour for event in events if event.sentence == "Vital service dark")
    return f"Dark after {first} hours, on day {first // HOURS + 1}; {dark} vital hours dark in {scene.days} days."


def rehearse(design: Design, scene: Scene) -> SceneReport | None:
    """Play a scene; None where the design cannot be rehearsed."""
    station = hourly_station(design)
    if station is None:
        return None
    start, hours = _start_day(scene), scene.days * HOURS
    at = (start * HOURS + np.arange(hours)) % station.load_a.shape[0]
    _, source, sun = _window(station, start, hours, scene.sky)
    source = source.copy()
    source[: scene.buried_days * HOURS] = 0.0
    wanted = _loads(design, station, scene, start)
    floor = np.ascontiguousarray(station.floor_ah[at])
    charge, served, taken = np.empty(hours), np.empty((hours, 3)), np.empty(hours)
    begin = floor[0] + scene.start_share * (station.full_ah - floor[0])
    run_hours(
        source,
        wanted,
        floor,
        np.ascontiguousarray(station.locked[at]),
        station.full_ah,
        float(begin),
        station.efficiency,
        station.accept_per_h,
        station.most_charge_a,
        scene.shed_useful,
        scene.shed_comfort,
        BACK_SHARE,
        HYSTERESIS,
        charge,
        served,
        taken,
    )
    share = np.clip((charge - floor) / np.maximum(station.full_ah - floor, 1e-9), 0.0, 1.0)
    events = _events(wanted, served, share)
    dark = int(((served[:, 0] < wanted[:, 0] - 1e-9) & (wanted[:, 0] > 0)).sum())
    part = np.divide(served, wanted, out=np.ones_like(served), where=wanted > 0)
    shown = tuple(
        SceneHour(
            float(sun[hour]),
            float(source[hour]),
            float(wanted[hour].sum()),
            (float(part[hour, 0]), float(part[hour, 1]), float(part[hour, 2])),
            float(share[hour]),
        )
        for hour in range(hours)
    )
    when = f"{scene.day} {MONTH_NAMES[scene.month - 1]}"
    return SceneReport(
        shown,
        (SceneEvent(0, f"The outage begins at midnight, {when}"), *events),
        _sentence(scene, events, dark, float(share[-1])),
        dark,
        float(share[-1]),
        float(served.sum()),
        float(taken.sum()),
    )
