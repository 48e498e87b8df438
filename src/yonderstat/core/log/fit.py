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

FloatArray = NDArray[np.float64]
MOST_BLOCKS, LEAST_DAYS = 12, 14
DAY_SCATTER = 0.55
"""Of a day's harvest over the month's mean, as a logarithm. [C] about what the packaged sun has."""
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
    draw: int | None
    night: int | None
    ohm: int | None
    capacity: int | None
    planned_day_ah: float
    planned_night_a: float


def _blocks(
    days: Days, harvest_ah: FloatArray, planned: FloatArray
) -> tuple[FloatArray, FloatArray]:
    """Logarithms of measured over planned harvest of equal stretches, and the standard deviation of
    each."""
    count = min(MOST_BLOCKS, max(1, days.months.size // 7))
    parts = np.array_split(np.arange(days.months.size), count)
    daily = planned[days.months - 1]
    logs = [
        np.log(max(harvest_ah[part].sum(), 1e-3) / max(daily[part].sum(), 1e-3)) for part in parts
    ]
    scatter = [DAY_SCATTER / np.sqrt(max(part.size, 1)) for part in parts]
    return np.array(logs), np.array(scatter)


def planned_night_a(station: StationModel) -> float:
    """What the plan draws in the small hours: everything that is on all day, receiving. [A]"""
    return sum(item.receive_a for item in station.draw.loads if _all_day(item.load))


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
    night_a = planned_night_a(station)
    residuals: list[float] = []
    variances: list[float] = []
    compared: list[Compared] = []
    blocks = 0
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
        logs, scatter = _blocks(days, days.harvest_ah, harvest)
        blocks = logs.size
        residuals += logs.tolist()
        variances += (scatter**2).tolist()
        daily = harvest[days.months - 1]
        compared.append(
            Compared("Harvest a day", float(daily.mean()), float(days.harvest_ah.mean()), "A·h")
        )
    lit = _lit(days, night_a)
    if days.drawn_ah is not None and lit.any():
        planned_a_day, drawn_a_day = float(planned_ah[lit].mean()), float(days.drawn_ah[lit].mean())
        note("draw", "Drawn a day", planned_a_day, drawn_a_day, "A·h", DRAW_SURE)
    if days.night_a is not None and np.isfinite(days.night_a[lit]).any() and night_a > 0:
        measured = float(np.nanmedian(days.night_a[lit]))
        note("night", "Drawn in the small hours", night_a, measured, "A", NIGHT_SURE)
    bank = station.bank
    if bank is not None and days.resistance_ohm is not None and days.resistance_ohm > 0:
        ohm = bank_resistance_ohm(bank.bank, station.bus_v, bank.mean_c)
        note(
            "ohm",
            "The bank resists, to the meter",
            1000.0 * ohm,
            1000.0 * days.resistance_ohm,
            "mΩ",
            OHM_SURE,
        )
    if bank is not None and tested_ah is not None:
        note("capacity", "Tested capacity", bank.aged_ah, tested_ah, "A·h", CAPACITY_SURE)
    noise = np.diag(variances)
    # A right plan is only as sure as its sun: the same error on every stretch.
    noise[:blocks, :blocks] += SUN_SURE**2
    mean_ah = float(planned_ah.mean()) if planned_ah.size else 1.0
    found = _Evidence(
        residuals=np.array(residuals),
        noise=noise,
        blocks=blocks,
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


def _faults(seen: _Evidence) -> Iterator[_Fault]:
    size, blocks = seen.residuals.size, seen.blocks

    def at(*places: tuple[int | None, float]) -> FloatArray:
        pattern = np.zeros(size)
        for place, value in places:
            if place is not None:
                pattern[place] = value
        return pattern

    if blocks:
        yield _Fault("sun", np.r_[np.ones(blocks), np.zeros(size - blocks)], 0.4, 1.0)
    if blocks > 3:
        ramp = np.r_[np.linspace(0.0, 1.0, blocks), np.zeros(size - blocks)]
        yield _Fault("soiling", ramp, 0.5, 1.0)
        for place in range(1, blocks):
            step = np.r_[np.arange(blocks) >= place, np.zeros(size - blocks)].astype(float)
            yield _Fault("panel", step, 0.6, 1.0 / (blocks - 1))
    if seen.draw is not None:
        yield _Fault("use", at((seen.draw, 1.0)), 0.4, 1.0)
    if seen.night is not None:
        pattern = at(
            (seen.draw, 24.0 / seen.planned_day_ah), (seen.night, 1.0 / seen.planned_night_a)
        )
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


def _judged(seen: _Evidence) -> dict[str, tuple[float, float]]:
    """Likelihood and size of every explanation, by id; `none` is a plan that is right."""
    scores: list[tuple[str, float, float]] = [
        ("none", _log_evidence(seen.residuals, seen.noise), 0.0)
    ]
    for fault in _faults(seen):
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
            f"The sun brings {share} of the plan, all along: its allowance, tilt or shade",
            "/sun/allowance",
            None,
        )
    if name == "soiling":
        kept = max(0.5, (1.0 - station.design.sun.soiling.value) * float(np.exp(min(size, 0.0))))
        value = {"value": round(1.0 - kept, 3), "basis": "measured"}
        change = Change(
            "Use that soiling",
            "the plan rests on a measurement",
            (replace("/sun/soiling", value),),
        )
        return (
            f"The harvest sinks, to {share} by now: dirt on the glass, growing trees",
            "/sun/soiling",
            change,
        )
    if name == "panel":
        return (
            f"The harvest fell to {share} at once: a panel, a diode or a joint is gone",
            "/array/strings",
            None,
        )
    if name == "use":
        return f"The station is worked {share} as hard as planned", "/draw/loads", None
    if name == "uncounted":
        return _standby(size, station)
    if name == "wiring":
        times = f"{np.exp(size):.1f} times"
        return (
            f"From bank to meter it resists {times} what is planned: a joint, or an ageing bank",
            "/bus/runs",
            None,
        )
    if name == "capacity":
        return f"The bank holds {share} of what is planned", "/store/bank/health", None
    return "The plan is right, within what weather and meters scatter", "", None


def _standby(amps: float, station: StationModel) -> tuple[str, str, Change | None]:
    if amps <= 0:
        return (
            f"Something planned to be on all day is not: {-amps:.2f} A less by night",
            "/draw/loads",
            None,
        )
    taken = {load.id for load in station.design.draw.loads}
    names = ("unaccounted", *(f"unaccounted-{number}" for number in range(2, 300)))
    key = next(name for name in names if name not in taken)
    row = {
        "id": key,
        "name": "Drawn by night, not accounted for",
        "receive_a": {"value": round(amps, 3), "basis": "measured"},
        "tier": "vital",
    }
    change = Change(
        f"Count {amps:.2f} A more, all day",
        "the plan rests on a measurement",
        (add("/draw/loads/-", row),),
    )
    return f"Something draws {amps:.2f} A day and night that nobody counted", "/draw/loads", change


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
    short = f" Only {count} whole days: take it as a hint." if count < LEAST_DAYS else ""
    words = f"{first.words} ({100 * first.likelihood:.0f} % likely, of what was looked at).{short}"
    return PlanFit(count, compared, tuple(explanations), words)
