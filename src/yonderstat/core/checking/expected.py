"""What a meter should show now, with its band, and whether what it shows fits."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ..array import label_of
from ..log import too_many_volts
from .circuit import Circuit, Seen
from .faults import Fault, worlds_of
from .moment import Moment
from .points import Point

FloatArray = NDArray[np.float64]
Fits = Literal["fits", "low", "high", "cannot"]
BAND = (0.05, 0.95)
METER: dict[str, tuple[float, float]] = {
    "V": (0.005, 0.03),
    "A": (0.03, 0.08),
}
"""A share of the reading, and so much always: what a hand meter and a clamp are good for. [C]"""
MODEL: dict[str, tuple[float, float]] = {
    "battery": (0.002, 0.04),
    "volts": (0.003, 0.05),
    "across": (0.25, 0.02),
    "amps": (0.08, 0.1),
    "draw": (0.08, 0.15),
    "charge": (0.08, 0.2),
    "open": (0.02, 0.1),
    "short": (0.08, 0.1),
}
"""How far our own figure may be off where nothing is wrong: a share, and so much always. [C]"""
HEALTHY = Fault(id="healthy", kind="healthy", label="", share=1.0, place=-1, remedy="", cost="free")


@dataclass(frozen=True, slots=True, kw_only=True)
class ExpectedNow:
    """What a meter should show at a point: nine of ten readings of a healthy station lie between
    low and high."""

    low: float
    middle: float
    high: float
    unit: str
    words: str
    """How it comes about, in a line."""


@dataclass(frozen=True, slots=True, kw_only=True)
class CheckedReading:
    """A reading beside what it should be."""

    point: Point
    value: float
    moment: Moment
    expected: ExpectedNow
    fits: Fits
    words: str


def seen_at(point: Point, seen: Seen) -> FloatArray:
    """What there is at a point in every world.

    Parameters
    ----------
    point : Point
        Where.
    seen : Seen
        The worlds at a moment.

    Returns
    -------
    ndarray of shape (n,)
        In the point's unit.
    """
    circuit = seen.circuit
    at: dict[str, Callable[[], FloatArray]] = {
        "battery": lambda: seen.posts_v,
        "draw": lambda: seen.drawn_a,
        "volts": lambda: seen.end_v[:, circuit.place(point.of)],
        "across": lambda: seen.across_v(circuit.place(point.of)),
        "amps": lambda: seen.run_a[:, circuit.place(point.of)],
        "charge": lambda: seen.string_a[:, circuit.strings.index(point.of)],
        "open": lambda: seen.open_v(circuit.strings.index(point.of)),
        "short": lambda: seen.short_a(circuit.strings.index(point.of)),
    }
    return at[point.kind]()


def spread_of(point: Point, value: FloatArray | float) -> FloatArray:
    """How far a reading of so much may lie beside what is there: the meter, and our own figure.

    Parameters
    ----------
    point : Point
        Where.
    value : ndarray
        What is there, in the point's unit.

    Returns
    -------
    ndarray of the same shape
        One standard deviation.
    """
    size = np.abs(np.asarray(value, dtype=np.float64))
    (meter_share, meter), (model_share, model) = METER[point.unit], MODEL[point.kind]
    return np.asarray(np.hypot(meter_share * size + meter, model_share * size + model))


def expected_now(circuit: Circuit, point: Point, moment: Moment) -> ExpectedNow:
    """What a meter should show at a point of a healthy station.

    Parameters
    ----------
    point : Point
        Where.
    moment : Moment
        When; what is not said widens the band.
    """
    seen = Seen(circuit, moment, worlds_of(circuit, HEALTHY, moment, 1))
    values = seen_at(point, seen)
    low, middle, high = (float(value) for value in np.quantile(values, (BAND[0], 0.5, BAND[1])))
    beside = 1.645 * float(spread_of(point, middle))
    return ExpectedNow(
        low=max(low - beside, 0.0),
        middle=middle,
        high=high + beside,
        unit=point.unit,
        words=_how(point, seen),
    )


def _how(point: Point, seen: Seen) -> str:
    """What the figure is made of, in the middle of the worlds."""
    circuit = seen.circuit
    posts, drawn = float(np.median(seen.posts_v)), float(np.median(seen.drawn_a))
    given = float(np.median(seen.string_a.sum(axis=1))) if circuit.strings else 0.0
    if point.kind in {"battery", "draw"}:
        sun = f", {given:.1f} A come from the panels" if given > 0.05 else ""
        charger = ", and the charger runs" if seen.moment.charger else ""
        return f"Most likely {posts:.1f} V at the posts: {drawn:.1f} A are drawn{sun}{charger}."
    if point.kind in {"volts", "across", "amps"}:
        place = circuit.place(point.of)
        amps = float(np.median(seen.run_a[:, place]))
        end = float(np.median(seen.end_v[:, place]))
        return (
            f"Most likely {posts:.1f} V at the posts and {amps:.1f} A through the lead: "
            f"{posts - end:.2f} V are lost on the way."
        )
    sun_w_m2 = float(np.median(seen.sun[1]))
    return f"{sun_w_m2:.0f} W/m² on the panels in such an hour, by the weather years."


def check_reading(circuit: Circuit, point: Point, value: float, moment: Moment) -> CheckedReading:
    """A reading beside what it should be.

    Parameters
    ----------
    point : Point
        Where it was taken.
    value : float
        What the meter showed, in the point's unit.
    moment : Moment
        When.
    """
    expected = expected_now(circuit, point, moment)
    fits: Fits = "fits"
    if value < expected.low:
        fits = "low"
    elif value > expected.high:
        fits = "high"
    over = too_many_volts(value, circuit.bank) if point.kind in {"battery", "volts"} else ""
    if _cannot_be(circuit, point, value):
        fits = "cannot"
    unit = expected.unit
    low, high = f"{expected.low:.{_digits(expected)}f}", f"{expected.high:.{_digits(expected)}f}"
    told = {
        "fits": f"That fits: {low} to {high} {unit} is what to expect {point.name}.",
        "low": f"Too low: expect {low} to {high} {unit} {point.name}.",
        "high": f"Too high: expect {low} to {high} {unit} {point.name}.",
        "cannot": f"That cannot be {point.name}: look at the meter’s range and its leads.",
    }[fits]
    return CheckedReading(
        point=point,
        value=value,
        moment=moment,
        expected=expected,
        fits=fits,
        words=f"{over or told} {_if_charging(circuit, point, moment, fits)}{expected.words}",
    )


def _if_charging(circuit: Circuit, point: Point, moment: Moment, fits: Fits) -> str:
    """What lifts the volts of many a healthy station, where nobody has said that it runs."""
    lifted = fits == "high" and point.kind in {"battery", "volts"} and not moment.charger
    if not lifted or circuit.charger_a <= 0:
        return ""
    return "If a charger or the engine is charging, say so: it lifts the volts. "


def _digits(expected: ExpectedNow) -> int:
    return 2 if expected.high < 1.0 else 1


def _cannot_be(circuit: Circuit, point: Point, value: float) -> bool:
    """Whether no fault of the station makes a meter show so much."""
    bus_v = circuit.station.bus_v
    most = {"battery": 1.6 * bus_v, "volts": 1.6 * bus_v, "across": 1.6 * bus_v}.get(point.kind)
    if most is not None:
        return not 0.0 <= value <= most
    if point.kind in {"amps", "draw"}:
        return not 0.0 <= value <= circuit.station.bus.prospective_a
    string = next(
        (item for item in circuit.station.design.array.strings if item.id == point.of), None
    )
    if string is None:
        return value < 0.0
    label = label_of(string.module, string.series)
    limit = label.v_oc * string.series if point.unit == "V" else label.i_sc * string.parallel * 3.0
    return not 0.0 <= value <= 1.4 * limit
