"""Plan against measured: which input of the plan is most likely wrong, and by how much.

Every explanation says how it would move what was measured: so much on the harvest of every stretch
of the record, on the draw, on the draw of the small hours, on the bank's resistance, on its tested
capacity. All in logarithms, so that a share is a shift. With Gaussian noise and a Gaussian prior on
the size of the fault its likelihood is exact: r ~ N(0, N + τ² p pᵀ), where p is the pattern of the
explanation and N what weather and meters scatter [1]_. What is left of the prior on which fault it
is, is the answer.

References
----------
.. [1] C. M. Bishop, Pattern Recognition and Machine Learning, Springer 2006, section 3.5 (evidence
       of linear models).
"""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..changes import Change, add, replace
from ..design import Load
from ..station import StationModel
from ..store import bank_resistance_ohm
from .series import Days
from .taken import Taken, taken_of

FloatArray = NDArray[np.float64]
MOST_BLOCKS, LEAST_DAYS = 12, 14
ALIKE_DAYS = 2.5
"""Dull days come together: so many of them tell as much as one would alone. [C]"""
DAY_SCATTER, MONTH_D = 0.55, 30.0
"""Of a day's harvest over the month's mean, as a logarithm, where no years can be played. [C] about
what the packaged sun has."""
SUN_SURE, DRAW_SURE, NIGHT_SURE, OHM_SURE, CAPACITY_SURE = 0.12, 0.08, 0.10, 0.30, 0.07
"""How sure a right plan and a good meter are together, as standard deviations of the logarithm.
[C]"""
ALL_DAY_H = 20.0
ALWAYS_A, OFF_SHARE = 0.1, 0.02
"""A station that plans to draw so much all day was dark on a day of which a larger part has next to
no draw. [C]"""
STANDBY_A = 0.3
"""What a thing nobody counted draws, about. [A] [C]"""


@dataclass(frozen=True, slots=True, kw_only=True)
class Explanation:
    """What may be wrong, how likely that is, and by how much: `size` is measured over planned, or
    amps of a standby."""

    id: str
    words: str
    likelihood: float
    size: float
    field: str
    change: Change | None = None


@dataclass(frozen=True, slots=True)
class Compared:
    """A figure measured beside the planned one."""

    label: str
    planned: float
    measured: float
    unit: str


@dataclass(frozen=True, slots=True)
class PlanFit:
    """The plan against a record."""

    days: int
    compared: tuple[Compared, ...]
    explanations: tuple[Explanation, ...]
    """The likeliest first."""
    words: str


@dataclass(frozen=True, slots=True, kw_only=True)
class _Evidence:
    """What was measured over what was planned: residuals, their covariance, and where each
    stands."""

    residuals: FloatArray
    noise: FloatArray
    blocks: int
    by_sun: FloatArray
    """By how much what is taken moves with the sun, stretch by stretch: little where the battery is
    full by noon."""
    by_draw: FloatArray
    draw: int | None
    night: int | None
    ohm: int | None
    capacity: int | None
    planned_day_ah: float
    planned_night_a: float


def _all_taken(harvest: FloatArray) -> Taken:
    """All that the panels could give is taken: where no years can be played."""
    scatter = np.full(12, DAY_SCATTER * np.sqrt(ALIKE_DAYS / MONTH_D))
    return Taken(harvest, scatter, np.ones(12), np.zeros(12), np.zeros(12))


def _blocks(
    days: Days, harvest_ah: FloatArray, plan: Taken
) -> tuple[FloatArray, FloatArray, FloatArray, FloatArray]:
    """Logarithms of measured over planned charge of equal stretches, the standard deviation of
    each, and how each moves with sun and draw."""
    count = min(MOST_BLOCKS, max(1, days.months.size // 7))
    parts = np.array_split(np.arange(days.months.size), count)
    daily = plan.ah[days.months - 1]
    logs = [
        np.log(max(harvest_ah[part].sum(), 1e-3) / max(daily[part].sum(), 1e-3)) for part in parts
    ]
    by_sun, by_draw = (
        np.array([column[days.months[part] - 1].mean() for part in parts])
        for column in (plan.by_sun, plan.by_draw)
    )
    months = [plan.scatter[days.months[part] - 1].mean() for part in parts]
    size = np.array([max(part.size, 1) for part in parts])
    # Ten played years know less of dull months than a record may meet: the wider of both counts.
    scatter = np.maximum(
        np.array(months) * np.sqrt(MONTH_D / size),
        DAY_SCATTER * by_sun * np.sqrt(ALIKE_DAYS / size),
    )
    return np.array(logs), scatter, by_sun, by_draw


def planned_night_a(station: StationModel) -> float:
    """What the plan draws in the small hours: everything that is on all day, receiving. [A]"""
    return sum(item.receive_a for item in station.draw.loads if _all_day(item.load))


def _night_a(days: Days, station: StationModel, taken: Taken) -> float:
    """What this meter should find in the small hours, heating included: what flows on the mean
    where it tells means, without the overs where it looks now and then. [A]"""
    mean_a = float(np.median(taken.night_a[days.months - 1]))
    keyed_a = sum(
        max(0.0, item.mean_on_a - item.receive_a)
        for item in station.draw.loads
        if _all_day(item.load)
    )
    tells_means = days.night_spikes_a < SPIKES_SEEN * keyed_a
    return mean_a if tells_means else max(mean_a - keyed_a, 0.0)


SPIKES_SEEN = 0.3
"""A meter that looks now and then finds at least so much of the overs that are planned. [C]"""


def _all_day(load: Load) -> bool:
    return load.pattern is None and load.events is None and load.hours_per_day.value > ALL_DAY_H


def _lit(days: Days, night_a: float) -> NDArray[np.bool_]:
    """Days on which a station that always draws something had power all day: what it did not get
    then, it wanted."""
    every = np.ones(days.months.size, dtype=bool)
    if days.off_share is None or night_a < ALWAYS_A:
        return every
    lit = days.off_share < OFF_SHARE
    return np.asarray(lit) if lit.sum() >= LEAST_DAYS else every


def _evidence(
    days: Days, station: StationModel, tested_ah: float | None
) -> tuple[_Evidence, tuple[Compared, ...]]:
    harvest = station.array.harvest_ah
    planned_ah = station.draw.by_month[days.months - 1] if days.months.size else np.zeros(0)
    taken = taken_of(station)
    night_a = planned_night_a(station)
    if taken is not None and days.months.size:
        night_a = _night_a(days, station, taken)
    residuals: list[float] = []
    variances: list[float] = []
    compared: list[Compared] = []
    blocks = 0
    by_sun = by_draw = np.zeros(0)
    places: dict[str, int] = {}

    def note(
        name: str, label: str, planned: float, measured: float, unit: str, sure: float
    ) -> None:
        compared.append(Compared(label, planned, measured, unit))
        if planned > 0 and measured > 0:
            places[name] = len(residuals)
            residuals.append(float(np.log(measured / planned)))
            variances.append(sure**2)

    if (
        days.harvest_ah is not None
        and harvest is not None
        and days.months.size
        and harvest.sum() > 0
    ):
        plan = taken or _all_taken(harvest)
        logs, scatter, by_sun, by_draw = _blocks(days, days.harvest_ah, plan)
        blocks = logs.size
        residuals += logs.tolist()
        variances += (scatter**2).tolist()
        daily = plan.ah[days.months - 1]
        compared.append(
            Compared(
                "Charge taken from the panels per day",
                float(daily.mean()),
                float(days.harvest_ah.mean()),
                "A·h",
            )
        )
    lit = _lit(days, night_a)
    if days.drawn_ah is not None and lit.any():
        planned_a_day, drawn_a_day = float(planned_ah[lit].mean()), float(days.drawn_ah[lit].mean())
        note("draw", "Used per day", planned_a_day, drawn_a_day, "A·h", DRAW_SURE)
    if days.night_a is not None and np.isfinite(days.night_a[lit]).any() and night_a > 0:
        measured = float(np.nanmedian(days.night_a[lit]))
        note("night", "Current in the small hours of the night", night_a, measured, "A", NIGHT_SURE)
    bank = station.bank
    if bank is not None and days.resistance_ohm is not None and days.resistance_ohm > 0:
        ohm = bank_resistance_ohm(bank.bank, station.bus_v, bank.mean_c)
        note(
            "ohm",
            "Resistance from battery to meter",
            1000.0 * ohm,
            1000.0 * days.resistance_ohm,
            "mΩ",
            OHM_SURE,
        )
    if bank is not None and tested_ah is not None:
        note(
            "capacity",
            "Capacity in the discharge test",
            bank.aged_ah,
            tested_ah,
            "A·h",
            CAPACITY_SURE,
        )
    noise = np.diag(variances)
    # A right plan is only as sure as its sun and its draw: the same error on every stretch.
    noise[:blocks, :blocks] += SUN_SURE**2 * np.outer(by_sun, by_sun)
    noise[:blocks, :blocks] += DRAW_SURE**2 * np.outer(by_draw, by_draw)
    mean_ah = float(planned_ah.mean()) if planned_ah.size else 1.0
    found = _Evidence(
        residuals=np.array(residuals),
        noise=noise,
        blocks=blocks,
        by_sun=by_sun,
        by_draw=by_draw,
        draw=places.get("draw"),
        night=places.get("night"),
        ohm=places.get("ohm"),
        capacity=places.get("capacity"),
        planned_day_ah=max(mean_ah, 1e-3),
        planned_night_a=max(night_a, 1e-3),
    )
    return found, tuple(compared)


@dataclass(frozen=True, slots=True)
class _Fault:
    """A way to be wrong: where it shows and how much, with the prior width of its size and its
    weight."""

    id: str
    pattern: FloatArray
    width: float
    weight: float


LEAST_MOVE = 0.05
"""Where what is taken hardly moves with the sun, it tells nothing of it."""


def _faults(seen: _Evidence) -> Iterator[_Fault]:
    size, blocks = seen.residuals.size, seen.blocks

    def at(*places: tuple[int | None, float]) -> FloatArray:
        pattern = np.zeros(size)
        for place, value in places:
            if place is not None:
                pattern[place] = value
        return pattern

    rest = np.zeros(size - blocks)
    sunny, drawn = np.r_[seen.by_sun, rest], np.r_[seen.by_draw, rest]
    if blocks and seen.by_sun.max() > LEAST_MOVE:
        yield _Fault("sun", sunny, 0.4, 1.0)
    if blocks > 3 and seen.by_sun.max() > LEAST_MOVE:
        ramp = np.r_[np.linspace(0.0, 1.0, blocks), rest]
        yield _Fault("soiling", ramp * sunny, 0.5, 1.0)
        # One dull stretch at the end is weather until the next says the same.
        for place in range(1, blocks - 1):
            step = np.r_[np.arange(blocks) >= place, rest].astype(float)
            yield _Fault("panel", step * sunny, 0.6, 1.0 / (blocks - 2))
    if seen.draw is not None:
        # Who draws more takes more of the sun as well, where there is some to spare.
        yield _Fault("use", at((seen.draw, 1.0)) + drawn, 0.4, 1.0)
    if seen.night is not None:
        more = 24.0 / seen.planned_day_ah
        pattern = at((seen.draw, more), (seen.night, 1.0 / seen.planned_night_a)) + more * drawn
        yield _Fault("uncounted", pattern, STANDBY_A, 1.0)
    if seen.ohm is not None:
        yield _Fault("wiring", at((seen.ohm, 1.0)), 1.0, 1.0)
    if seen.capacity is not None:
        yield _Fault("capacity", at((seen.capacity, 1.0)), 0.4, 1.0)


def _log_evidence(residuals: FloatArray, covariance: FloatArray) -> float:
    _, determinant = np.linalg.slogdet(covariance)
    return float(-0.5 * (residuals @ np.linalg.solve(covariance, residuals) + determinant))


def _sized(seen: _Evidence, fault: _Fault) -> float:
    """The most likely size of a fault, its prior counted."""
    covariance = seen.noise + fault.width**2 * np.outer(fault.pattern, fault.pattern)
    return float(fault.width**2 * fault.pattern @ np.linalg.solve(covariance, seen.residuals))


SINKS = frozenset({"soiling", "panel"})
TELLING = 0.5
"""A fault less likely than not is no reason to call a plan wrong."""


def _judged(seen: _Evidence) -> dict[str, tuple[float, float]]:
    """Likelihood and size of every explanation, by id; `none` is a plan that is right."""
    scores: list[tuple[str, float, float]] = [
        ("none", _log_evidence(seen.residuals, seen.noise), 0.0)
    ]
    for fault in _faults(seen):
        if fault.id in SINKS and _sized(seen, fault) > 0:
            # Dirt and lost panels never make it more.
            continue
        covariance = seen.noise + fault.width**2 * np.outer(fault.pattern, fault.pattern)
        scores.append(
            (
                fault.id,
                _log_evidence(seen.residuals, covariance) + np.log(fault.weight),
                _sized(seen, fault),
            )
        )
    highest = max(score for _, score, _ in scores)
    total: dict[str, float] = {}
    best: dict[str, tuple[float, float]] = {}
    for name, score, size in scores:
        weight = float(np.exp(score - highest))
        total[name] = total.get(name, 0.0) + weight
        if name not in best or weight > best[name][0]:
            best[name] = (weight, size)
    whole = sum(total.values())
    return {name: (weight / whole, best[name][1]) for name, weight in total.items()}


def _told(name: str, size: float, station: StationModel) -> tuple[str, str, Change | None]:
    """An explanation in words, the field it speaks against, and a change where one would mend
    it."""
    share = f"{100 * np.exp(size):.0f} %"
    if name == "sun":
        return (
            (
                f"The panels give {share} of the plan all the time. Check the sun allowance, the "
                "tilt and the shade"
            ),
            "/sun/allowance",
            None,
        )
    if name == "soiling":
        kept = max(0.5, (1.0 - station.design.sun.soiling.value) * float(np.exp(min(size, 0.0))))
        value = {"value": round(1.0 - kept, 3), "basis": "measured"}
        change = Change(
            "Use this loss to dirt",
            "the plan rests on a measurement",
            (replace("/sun/soiling", value),),
        )
        return (
            (
                f"The charge from the panels is falling and is now {share} of the plan. Look for "
                "dirt on the glass or growing trees"
            ),
            "/sun/soiling",
            change,
        )
    if name == "panel":
        return (
            (
                f"The charge from the panels suddenly fell to {share} of the plan. Look for a "
                "failed panel, diode or joint"
            ),
            "/array/strings",
            None,
        )
    if name == "use":
        return f"The station uses {share} of the planned energy", "/draw/loads", None
    if name == "uncounted":
        return _standby(size, station)
    if name == "wiring":
        times = f"{np.exp(size):.1f} times"
        return (
            (
                f"Resistance from battery to meter is {times} the plan. Look for a bad joint or "
                "an ageing battery"
            ),
            "/bus/runs",
            None,
        )
    if name == "capacity":
        return f"The battery has {share} of the planned capacity", "/store/bank/health", None
    return "The plan is right, as far as weather and meters can tell", "", None


def _standby(amps: float, station: StationModel) -> tuple[str, str, Change | None]:
    if amps <= 0:
        return (
            (
                f"Something you planned to be on all day isn't: the night current is {-amps:.2f} "
                "A lower"
            ),
            "/draw/loads",
            None,
        )
    taken = {load.id for load in station.design.draw.loads}
    names = ("unaccounted", *(f"unaccounted-{number}" for number in range(2, 300)))
    key = next(name for name in names if name not in taken)
    row = {
        "id": key,
        "name": "Unknown night load",
        "receive_a": {"value": round(amps, 3), "basis": "measured"},
        "tier": "vital",
    }
    change = Change(
        f"Add a load of {amps:.2f} A, all day",
        "the plan rests on a measurement",
        (add("/draw/loads/-", row),),
    )
    return (
        f"Something that isn't in the plan draws {amps:.2f} A day and night",
        "/draw/loads",
        change,
    )


def fit_of(days: Days, station: StationModel, tested_ah: float | None = None) -> PlanFit | None:
    """The plan against a record; None where the record says nothing the plan speaks of.

    Parameters
    ----------
    days : Days
        Whole days of the record.
    tested_ah : float, optional
        The newest tested capacity of the whole bank. [A·h]
    """
    seen, compared = _evidence(days, station, tested_ah)
    if not seen.residuals.size:
        return None
    explanations = []
    for name, (likelihood, size) in _judged(seen).items():
        words, field, change = _told(name, size, station)
        explanations.append(
            Explanation(
                id=name, words=words, likelihood=likelihood, size=size, field=field, change=change
            )
        )
    explanations.sort(key=lambda item: -item.likelihood)
    first = explanations[0]
    count = int(days.months.size)
    short = (
        f" Only {count} whole days were recorded, so this is only a hint."
        if count < LEAST_DAYS
        else ""
    )
    if first.id != "none" and first.likelihood < TELLING:
        return PlanFit(
            count,
            compared,
            tuple(explanations),
            f"Nothing stands out: the plan may well be right.{short}",
        )
    words = (
        f"{first.words}. This explanation is {100 * first.likelihood:.0f} % likely, of "
        f"those we checked.{short}"
    )
    return PlanFit(count, compared, tuple(explanations), words)
