"""How long the bank lasts at each tempo, with each tier shed, and with the power turned down: all
without sun."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from ..calendar import MONTH_NAMES
from ..climate import Climate
from ..design import Draw, KnownWatts, Load
from ..working import Input, Key, Quantity, Workings, used
from .model import StationDraw, load_draw
from .profile import turn_down_words
from .transmit import power_in_use_w

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
class TempoReport:
    """The same station worked harder or more gently."""

    tempos: tuple[TempoFigures, ...]
    power_steps: tuple[PowerStep, ...]
    shed: tuple[ShedFigures, ...]
    turn_down_takeaway: str = ""


def _hours(
    key: Key, label: str, daily: Quantity, usable: Quantity | None, workings: Workings
) -> Key | None:
    if usable is None:
        return None
    value = 24.0 * usable.number / daily.number if daily.number > 0 else None
    return workings.add(
        key,
        value,
        "h",
        label=label,
        formula="t = 24 · Q / Q_day",
        words="usable amp-hours divided by the amp-hours of such a day, with no sun at all",
        inputs=[used("Q", usable), used("Q_day", daily)],
        source="arithmetic",
        note="" if value is not None else "nothing uses power, so it never runs out",
    ).key


def _tempo(
    tempo_id: str,
    name: str,
    station: StationDraw,
    month: int,
    usable: Quantity | None,
    workings: Workings,
) -> TempoFigures:
    inputs = [
        Input(
            symbol="Qᵢ",
            label=item.load.name,
            value=float(item.daily_ah[month - 1]),
            unit="A·h",
            origin="computed",
        )
        for item in station.loads
        if item.daily_ah[month - 1] > 0
    ]
    inputs += (
        [
            Input(
                symbol="Q_idle",
                label="idle use of the supply lines",
                value=sum(station.idle_ah.values()),
                unit="A·h",
                origin="computed",
            )
        ]
        if station.idle_ah
        else []
    )
    warm = float(station.heating_ah[month - 1])
    inputs += (
        [
            Input(
                symbol="Q_heat",
                label="battery heater",
                value=warm,
                unit="A·h",
                origin="computed",
            )
        ]
        if warm > 0
        else []
    )
    daily = workings.add(
        f"draw.tempo.{tempo_id}.daily_ah",
        float(station.by_month[month - 1]),
        "A·h",
        label=f"{name}: a day in {MONTH_NAMES[month - 1]}",
        formula="Q = Σ Qᵢ",
        words="amp-hours of every load, with this activity level's transmit times and hours",
        inputs=inputs,
        source="practice",
    )
    return TempoFigures(
        tempo_id,
        name,
        daily.key,
        _hours(
            f"draw.tempo.{tempo_id}.hours",
            f"{name}: hours until it loses power",
            daily,
            usable,
            workings,
        ),
    )


def _power_steps(
    draw: Draw,
    load: Load,
    station: StationDraw,
    climate: Climate,
    month: int,
    usable: Quantity | None,
    workings: Workings,
) -> list[PowerStep]:
    if load.rated_w is None or load.transmit_a is None:
        return []
    now = station.of(load.id)
    others = float(station.by_month[month - 1]) - float(now.daily_ah[month - 1])
    in_use = power_in_use_w(load) or load.rated_w.value
    found = []
    cap_w = load.power_cap_w.value if load.power_cap_w else load.rated_w.value
    for share in POWER_STEPS:
        if load.rated_w.value * share > cap_w * (1.0 + SAME_POWER):
            continue
        watts = float(f"{load.rated_w.value * share:.3g}")
        turned = now.load.model_copy(update={"power_w": KnownWatts(value=watts)})
        mine = float(load_draw(draw, turned, now.bus_v, climate).daily_ah[month - 1])
        key = f"draw.load.{load.id}.at_{watts:g}w"
        daily = workings.add(
            f"{key}.daily_ah",
            others + mine,
            "A·h",
            label=f"{load.name} at {watts:g} W: the station's use per day",
            formula="Q = Q_others + Q_set",
            words="everything else, plus this radio at this power",
            inputs=[
                Input(
                    symbol="Q_others",
                    label="everything else",
                    value=others,
                    unit="A·h",
                    origin="computed",
                ),
                Input(
                    symbol="Q_set",
                    label=f"{load.name} at {watts:g} W",
                    value=mine,
                    unit="A·h",
                    origin="computed",
                ),
            ],
            source="stage",
        )
        label = f"{load.name} at {watts:g} W: hours until it loses power"
        hours = _hours(f"{key}.hours", label, daily, usable, workings)
        found.append(
            PowerStep(load.id, watts, abs(watts - in_use) < SAME_POWER * in_use, daily.key, hours)
        )
    return found


def _shed(
    tiers: Sequence[str],
    station: StationDraw,
    month: int,
    usable: Quantity | None,
    workings: Workings,
) -> ShedFigures | None:
    gone = [item for item in station.loads if (item.load.tier or "none") in tiers]
    if not gone:
        return None
    idle = {
        rail_id: ah
        for rail_id, ah in station.idle_ah.items()
        if station.idle_tier(rail_id) in tiers
    }
    lost = [(item.load.name, float(item.daily_ah[month - 1])) for item in gone]
    lost += [(f"{rail_id} idling", ah) for rail_id, ah in idle.items()]
    kept = float(station.by_month[month - 1]) - sum(ah for _, ah in lost)
    name = " and ".join(tier.capitalize() for tier in tiers)
    key = "draw.shed." + "-".join(tiers)
    daily = workings.add(
        f"{key}.daily_ah",
        max(0.0, kept),
        "A·h",
        label=f"{name} switched off: use per day in {MONTH_NAMES[month - 1]}",
        formula="Q = Q_all − Σ Q_shed",
        words="what is left when these are switched off",
        inputs=[
            used("Q_all", workings["draw.daily_ah"]),
            *(
                Input(symbol="Q_shed", label=name_of, value=ah, unit="A·h", origin="computed")
                for name_of, ah in lost
            ),
        ],
        source="arithmetic",
    )
    return ShedFigures(
        tuple(tiers),
        daily.key,
        _hours(
            f"{key}.hours",
            f"{name} switched off: hours until it loses power",
            daily,
            usable,
            workings,
        ),
    )


def tempo_report(
    draw: Draw,
    station: StationDraw,
    draw_at: Callable[[str], StationDraw],
    climate: Climate,
    month: int,
    usable: Quantity | None,
    workings: Workings,
) -> TempoReport:
    """Work the station at every tempo, at lower powers, and with the lower tiers shed, in the
    design's month.

    The bank's rate factor stays that of the tempo the design is sized on.

    Parameters
    ----------
    draw_at : callable
        The station at another tempo, by its id.
    usable : Quantity or None
        What the bank holds for use. [A·h]
    """
    tempos = tuple(
        _tempo(
            tempo.id,
            tempo.name,
            draw_at(tempo.id),
            month,
            usable,
            workings,
        )
        for tempo in draw.tempos
    )
    steps = [
        step
        for load in draw.loads
        for step in _power_steps(
            draw,
            load,
            station=station,
            climate=climate,
            month=month,
            usable=usable,
            workings=workings,
        )
    ]
    shed = [
        _shed(tiers, station, month, usable, workings)
        for tiers in (("comfort",), ("comfort", "useful"))
    ]
    known = [workings[step.hours].value for step in steps if step.hours]
    words = turn_down_words([hours for hours in known if hours is not None])
    return TempoReport(
        tempos, tuple(steps), tuple(item for item in shed if item is not None), words
    )
