"""How long the bank lasts at each tempo, with each tier shed, and with the power turned down: all without sun."""

from collections.abc import Sequence
from dataclasses import dataclass

from ..calendar import MONTH_NAMES
from ..design import Design, KnownWatts, Load
from ..draw import (
    StationDraw,
    load_draw,
    station_draw,
)
from ..working import Input, Key, Quantity, Workings, used
from .figures import Figures

POWER_STEPS = (1.0, 0.5, 0.25, 0.1)
"""Shares of the rated power the turn-it-down row shows."""
SAME_POWER = 0.005
"""Powers this near each other, as a share, are one setting."""


@dataclass(frozen=True, slots=True)
class TempoFigures:
    """A tempo: amp-hours a day in the design's month, and hours to dark; None without a bank."""

    id: str
    name: str
    daily_ah: Key
    hours: Key | None


@dataclass(frozen=True, slots=True)
class PowerStep:
    """A transmit power of one load: what the station then draws, and how long it lasts."""

    load_id: str
    watts: float
    in_use: bool
    daily_ah: Key
    hours: Key | None


@dataclass(frozen=True, slots=True)
class ShedFigures:
    """Hours to dark with the lower tiers shed: Comfort first, then Useful too."""

    tiers: tuple[str, ...]
    daily_ah: Key
    hours: Key | None


@dataclass(frozen=True, slots=True)
class Paces:
    """The same station worked harder or more gently."""

    tempos: tuple[TempoFigures, ...]
    power_steps: tuple[PowerStep, ...]
    shed: tuple[ShedFigures, ...]


def _hours(key: Key, label: str, daily: Quantity, usable: Quantity | None, workings: Workings) -> Key | None:
    if usable is None:
        return None
    value = 24.0 * usable.number / daily.number if daily.number > 0 else None
    return workings.add(
        key,
        value,
        "h",
        label,
        "t = 24 · Q / Q_day",
        "usable amp-hours over the amp-hours of such a day, with no sun at all",
        [used("Q", usable), used("Q_day", daily)],
        "arithmetic",
        "" if value is not None else "nothing draws current, so there is no end to it",
    ).key


def _tempo(
    design: Design,
    tempo_id: str,
    name: str,
    station: StationDraw,
    month: int,
    usable: Quantity | None,
    workings: Workings,
) -> TempoFigures:
    inputs = [
        Input("Qᵢ", item.load.name, float(item.daily_ah[month - 1]), "A·h", "computed")
        for item in station.loads
        if item.daily_ah[month - 1] > 0
    ]
    inputs += (
        [Input("Q_idle", "rails idling", sum(station.idle_ah.values()), "A·h", "computed")] if station.idle_ah else []
    )
    daily = workings.add(
        f"draw.tempo.{tempo_id}.daily_ah",
        float(station.by_month[month - 1]),
        "A·h",
        f"{name}: a day in {MONTH_NAMES[month - 1]}",
        "Q = Σ Qᵢ",
        "every load's amp-hours with the tempo's shares and hours",
        inputs,
        "practice",
    )
    return TempoFigures(
        tempo_id,
        name,
        daily.key,
        _hours(f"draw.tempo.{tempo_id}.hours", f"{name}: hours to dark", daily, usable, workings),
    )


def _power_steps(
    design: Design, load: Load, station: StationDraw, month: int, usable: Quantity | None, workings: Workings
) -> list[PowerStep]:
    if load.rated_w is None or load.transmit_a is None:
        return []
    now = station.of(load.id)
    others = float(station.by_month[month - 1]) - float(now.daily_ah[month - 1])
    in_use = (load.power_w or load.rated_w).value
    found = []
    for share in POWER_STEPS:
        watts = float(f"{load.rated_w.value * share:.3g}")
        turned = now.load.model_copy(update={"power_w": KnownWatts(value=watts)})
        mine = float(load_draw(design, turned, now.bus_v).daily_ah[month - 1])
        key = f"draw.load.{load.id}.at_{watts:g}w"
        daily = workings.add(
            f"{key}.daily_ah",
            others + mine,
            "A·h",
            f"{load.name} at {watts:g} W: the station's day",
            "Q = Q_others + Q_set",
            "what all else draws, and this set at this power",
            [
                Input("Q_others", "all else", others, "A·h", "computed"),
                Input("Q_set", f"{load.name} at {watts:g} W", mine, "A·h", "computed"),
            ],
            "stage",
        )
        label = f"{load.name} at {watts:g} W: hours to dark"
        hours = _hours(f"{key}.hours", label, daily, usable, workings)
        found.append(PowerStep(load.id, watts, abs(watts - in_use) < SAME_POWER * in_use, daily.key, hours))
    return found


def _shed(
    tiers: Sequence[str], station: StationDraw, month: int, usable: Quantity | None, workings: Workings
) -> ShedFigures | None:
    gone = [item for item in station.loads if (item.load.tier or "none") in tiers]
    if not gone:
        return None
    kept = float(station.by_month[month - 1]) - sum(float(item.daily_ah[month - 1]) for item in gone)
    name = " and ".join(tier.capitalize() for tier in tiers)
    key = "draw.shed." + "-".join(tiers)
    daily = workings.add(
        f"{key}.daily_ah",
        max(0.0, kept),
        "A·h",
        f"{name} shed: a day in {MONTH_NAMES[month - 1]}",
        "Q = Q_all − Σ Q_shed",
        "what is left when these are switched off",
        [
            used("Q_all", workings["draw.daily_ah"]),
            *(Input("Q_shed", item.load.name, float(item.daily_ah[month - 1]), "A·h", "computed") for item in gone),
        ],
        "arithmetic",
    )
    return ShedFigures(
        tuple(tiers), daily.key, _hours(f"{key}.hours", f"{name} shed: hours to dark", daily, usable, workings)
    )


def paces_of(design: Design, figures: Figures) -> tuple[Paces, dict[Key, Quantity]]:
    """Work the station at every tempo, at lower powers, and with the lower tiers shed, in the design's month.

    The bank's rate factor stays that of the tempo the design is sized on.

    Returns
    -------
    The paces, and all figures with those of the paces.
    """
    workings = Workings()
    workings.take(figures.working.values())
    station, month = figures.station, figures.verdict.hard_month
    bus_v = workings[figures.draw.bus_v].number
    usable = workings[figures.store.usable_ah] if figures.store else None
    tempos = tuple(
        _tempo(design, tempo.id, tempo.name, station_draw(design, bus_v, tempo.id), month, usable, workings)
        for tempo in design.draw.tempos
    )
    steps = [
        step for load in design.draw.loads for step in _power_steps(design, load, station, month, usable, workings)
    ]
    shed = [_shed(tiers, station, month, usable, workings) for tiers in (("comfort",), ("comfort", "useful"))]
    paces = Paces(tempos, tuple(steps), tuple(item for item in shed if item is not None))
    return paces, workings.as_dict()
