"""From readings to the causes behind them, and to the measurement that parts them best.

Every cause is drawn in many worlds: how bad it is, how full the battery is, what of the rest is on.
A reading makes the worlds likelier that would have shown it. What a further measurement is worth is
the information it is expected to bring about the cause, over the trouble it takes.
"""

from dataclasses import dataclass, field
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from .circuit import Circuit, Seen, Worlds
from .expected import CheckedReading, seen_at, spread_of
from .faults import Fault, drawn_worlds, faults_of, near_runs, prior_of
from .moment import Moment
from .points import Point, points_of

FloatArray = NDArray[np.float64]
SHOWN, FORESEEN = 5, 3
LEAST_SHARE = 0.01
BINS = 24
ENOUGH_BITS = 0.02
"""A measurement that is expected to tell less is not worth asking for."""
TROUBLE_MIN = 2.0
"""What every measurement takes beside its own minutes: to walk, to write down. [C]"""
ODD = {"V": 1.0 / 16.0, "A": 1.0 / 40.0}
"""How likely any reading is where the cause is none we know: spread over what a meter of a 12 V
station may show. [1/V], [1/A]"""
SURE = 0.6
"""From here on one cause is said to be the likely one."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Cause:
    """A fault with how likely it is now."""

    id: str
    kind: str
    label: str
    share: float
    remedy: str
    cost: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Foreseen:
    """What the next measurement would show if a cause is the right one."""

    cause: str
    label: str
    low: float
    high: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Next:
    """The measurement that parts the causes best for the least trouble."""

    point: Point
    moment: Moment
    foreseen: tuple[Foreseen, ...]
    bits: float
    """What it is expected to tell of the cause."""
    words: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Diagnosis:
    """The causes, the likeliest first, and what to measure next; None where nothing would tell
    more."""

    headline: str
    causes: tuple[Cause, ...]
    others: float
    """The share of all causes that are not shown."""
    next: Next | None
    settled: bool
    """Whether one cause is much likelier than all others together."""


@dataclass(frozen=True)
class _Drawn:
    """All worlds of all causes at one station."""

    circuit: Circuit
    faults: tuple[Fault, ...]
    worlds: Worlds
    kept: dict[Moment, Seen] = field(default_factory=dict)

    def values(self, point: Point, moment: Moment) -> FloatArray:
        """What a meter shows at a point.

        Parameters
        ----------
        point : Point
            Where.
        moment : Moment
            When.

        Returns
        -------
        ndarray of shape (faults, worlds)
            In the point's unit.
        """
        seen = self.kept.get(moment)
        if seen is None:
            seen = self.kept[moment] = Seen(self.circuit, moment, self.worlds)
        shown = seen_at(point, seen) * self.worlds.meter_times
        return shown.reshape(len(self.faults), self.each)

    @property
    def each(self) -> int:
        """How many worlds each fault has."""
        return self.worlds.count // len(self.faults)

    @cached_property
    def none(self) -> int:
        """The row of the cause that is none of ours."""
        return next(row for row, fault in enumerate(self.faults) if fault.kind == "none")


def _likely(drawn: _Drawn, reading: CheckedReading) -> FloatArray:
    """How likely a reading is in every world, shape (faults, worlds)."""
    values = drawn.values(reading.point, reading.moment)
    spread = spread_of(reading.point, values)
    away = (reading.value - values) / spread
    # Tails of a few in a thousand: people misread, and a probe slips.
    found = (
        np.exp(-0.5 * away**2) / (spread * np.sqrt(2.0 * np.pi)) + SLIPS * ODD[reading.point.unit]
    )
    found[drawn.none] = ODD[reading.point.unit]
    return np.asarray(found)


SLIPS = 0.003
AT_RUNS = frozenset({"volts", "across", "amps"})


def _rail_of(circuit: Circuit, load_id: str) -> str:
    """The run of the supply a load hangs on; empty for none."""
    rails = {load.id: load.rail for load in circuit.station.design.draw.loads}
    return f"rail-{rails[load_id]}" if load_id in rails else ""


def diagnosis_of(
    circuit: Circuit,
    readings: tuple[CheckedReading, ...],
    moment: Moment,
    symptom: str = "",
    of: str = "",
) -> Diagnosis:
    """The causes behind readings and what is noticed, and what to measure next.

    Parameters
    ----------
    readings : tuple of CheckedReading
        What was measured; none where only something is noticed.
    moment : Moment
        When the next measurement would be made.
    symptom : str
        What is noticed; empty for nothing.
    of : str
        The load it is noticed at; empty for none.
    """
    ids = frozenset({*(item.point.of for item in readings), f"load-{of}", _rail_of(circuit, of)})
    faults = faults_of(circuit, ids)
    drawn = _Drawn(circuit, faults, drawn_worlds(circuit, faults, moment))
    prior = prior_of(circuit, faults, symptom, of)
    weights = np.repeat(prior[:, None] / drawn.each, drawn.each, axis=1)
    for reading in readings:
        if reading.fits != "cannot":
            weights = weights * _likely(drawn, reading)
    weights = weights / weights.sum()
    shares = weights.sum(axis=1)
    order = [int(row) for row in np.argsort(-shares)]
    causes = tuple(_cause(faults[row], float(shares[row])) for row in order[:SHOWN])
    causes = tuple(cause for cause in causes if cause.share >= LEAST_SHARE)
    settled = causes[0].share >= SURE and len(readings) > 0
    ahead = _next(drawn, weights, readings, moment, order, ids)
    return Diagnosis(
        headline=_headline(causes, readings),
        causes=causes,
        others=max(0.0, 1.0 - sum(cause.share for cause in causes)),
        next=ahead,
        settled=settled,
    )


def _cause(fault: Fault, share: float) -> Cause:
    return Cause(
        id=fault.id,
        kind=fault.kind,
        label=fault.label,
        share=share,
        remedy=fault.remedy,
        cost=fault.cost,
    )


def _headline(causes: tuple[Cause, ...], readings: tuple[CheckedReading, ...]) -> str:
    first = causes[0]
    if not readings:
        return "Nothing is measured yet."
    if first.kind == "healthy":
        if first.share >= SURE and all(reading.fits == "fits" for reading in readings):
            return "Everything fits a healthy station."
        if first.share >= SURE:
            return "The station is most likely healthy, though not every reading fits."
        return "Nothing points to a fault yet."
    if first.share >= SURE:
        return f"{first.label}, most likely."
    return "Several causes fit. Measure again."


def _information(shares: FloatArray, chances: FloatArray) -> float:
    """What a measurement is expected to tell of the cause. [bit]

    Parameters
    ----------
    shares : ndarray of shape (faults,)
        How likely each cause is now.
    chances : ndarray of shape (faults, bins)
        How likely each reading is under it.

    Returns
    -------
    float
        The mutual information of cause and reading. [bit]
    """
    mixed = shares @ chances
    with np.errstate(divide="ignore", invalid="ignore"):
        ratio = np.where(chances > 0, chances / np.maximum(mixed, 1e-300), 1.0)
        told = np.where(chances > 0, chances * np.log2(ratio), 0.0).sum(axis=1)
    return float(shares @ told)


def _chances(point: Point, values: FloatArray, weights: FloatArray) -> FloatArray:
    """How likely each of some readings is under every cause, shape (faults, bins)."""
    whole = weights.sum(axis=1, keepdims=True)
    spread = spread_of(point, values)
    low, high = float((values - 2 * spread).min()), float((values + 2 * spread).max())
    edges = np.linspace(low, high, BINS + 1)
    # Each world stands for readings three apart, so that the meter's error blurs what it parts.
    chances = np.zeros((values.shape[0], BINS))
    for away, part in ((-1.22, 0.25), (0.0, 0.5), (1.22, 0.25)):
        bins = np.clip(np.searchsorted(edges, values + away * spread) - 1, 0, BINS - 1)
        for row in range(values.shape[0]):
            chances[row] += part * np.bincount(bins[row], weights=weights[row], minlength=BINS)
    return np.asarray(chances / np.maximum(whole, 1e-300))


def _next(
    drawn: _Drawn,
    weights: FloatArray,
    readings: tuple[CheckedReading, ...],
    moment: Moment,
    order: list[int],
    ids: frozenset[str],
) -> Next | None:
    """The measurement that is worth most for its trouble."""
    taken = {(item.point.id, item.moment.keyed) for item in readings}
    shares = weights.sum(axis=1)
    best: tuple[float, float, Point, FloatArray] | None = None
    looked_at = {run.leg.id for run in near_runs(drawn.circuit, ids)}
    for point in points_of(drawn.circuit.station):
        if point.kind in AT_RUNS and point.of not in looked_at:
            continue
        if (point.id, moment.keyed) in taken:
            continue
        values = drawn.values(point, moment)
        if float(values.max() - values.min()) < 1e-9:
            continue
        chances = _chances(point, values, weights)
        chances[drawn.none] = 1.0 / BINS
        bits = _information(shares, chances)
        worth = bits / (TROUBLE_MIN + point.minutes)
        if bits >= ENOUGH_BITS and (best is None or worth > best[0]):
            best = worth, bits, point, values
    if best is None:
        return None
    _, bits, point, values = best
    foreseen = _foreseen(drawn, point, values, weights, order)
    keyed = next(
        (item.name for item in drawn.circuit.station.design.draw.loads if item.id == moment.keyed),
        "",
    )
    own = point.of == f"load-{moment.keyed}"
    while_ = f", {'' if own else f'{keyed} '}transmitting" if keyed else ""
    what = "volts" if point.unit == "V" else "amps"
    return Next(
        point=point,
        moment=moment,
        foreseen=foreseen,
        bits=bits,
        words=f"{what} {point.name}{while_}",
    )


def _foreseen(
    drawn: _Drawn, point: Point, values: FloatArray, weights: FloatArray, order: list[int]
) -> tuple[Foreseen, ...]:
    """What the likeliest cause would show, and the likeliest of those that would show something
    else."""
    found: list[Foreseen] = []
    for row in order:
        fault = drawn.faults[row]
        if fault.kind == "none" or weights[row].sum() < LEAST_SHARE / 2.0:
            continue
        low, high = _between(values[row], weights[row])
        middle = (low + high) / 2.0
        apart = 2.0 * float(spread_of(point, middle))
        told = [(one.low + one.high) / 2.0 for one in found]
        if all(abs(middle - other) > apart for other in told):
            found.append(Foreseen(cause=fault.id, label=fault.label, low=low, high=high))
        if len(found) == FORESEEN:
            break
    return tuple(found)


def _between(values: FloatArray, weights: FloatArray) -> tuple[float, float]:
    """Between what four in five of a cause's readings lie."""
    order = np.argsort(values)
    risen = np.cumsum(weights[order])
    if risen[-1] <= 0:
        return float(values.min()), float(values.max())
    low, high = np.searchsorted(risen / risen[-1], (0.1, 0.9))
    last = values.size - 1
    return float(values[order[min(low, last)]]), float(values[order[min(high, last)]])
