"""A gauge and a fuse for a run: the thinnest standard size that passes every test, and what stops a
thinner."""

import math
from bisect import bisect_left
from dataclasses import dataclass
from functools import cache
from typing import Literal

from ..data import column, rows, rows_by
from ..design import FuseKind
from ..electrical import Tradition, WireSize, ampacity_a, loop_drop_v, loop_ohm

Binds = Literal["drop", "heat", "strength", "window", "nothing"]
"""What stops a thinner conductor; nothing where no size is enough."""
BINDS_WORDS: dict[Binds, str] = {
    "drop": "a thinner wire would lose too many volts",
    "heat": "a thinner wire would overheat before its fuse blows",
    "strength": "a thinner wire would be too weak mechanically",
    "window": "with a thinner wire the radio would get too few volts while it transmits",
    "nothing": "even the largest size on the list is too small",
}
DROP_SHARES = {"bus": 0.02, "charge": 0.02, "source": 0.02, "engine": 0.02, "layer": 0.02}
BRANCH_SHARE = 0.03
"""What a run may lose of the nominal volts: 2 % from bank and sources, 3 % on a branch. [C]"""
CONTINUOUS_FACTOR = 1.25
"""A fuse is rated for so many times what flows for hours on end. [P: NEC 210.20, 690.8]"""
PEAK_FACTOR, LEAST_FUSE_A = 1.1, 2.0
"""And a tenth over its worst moment, so that it does not blow in a warm box; nobody stocks smaller
ones. [C]"""
LEAST_MAIN_MM2 = 4.0
"""What hangs on the post alone is laid no thinner: it is handled, and its lugs pull. [C]"""
LITTLE_V = 14.6
"""Up to here a fuse breaks what it can break at 12 V nominal."""


@dataclass(frozen=True, slots=True)
class Carried:
    """What a run carries: for hours on end, and at its worst moment. [A]"""

    continuous_a: float
    peak_a: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Laid:
    """How a run is laid: what sets its drop and its heat."""

    length_m: float
    drop_share: float
    insulation_c: float
    ambient_c: float
    bundled: int
    least_mm2: float = 0.0
    """No thinner for the sake of strength, whatever the tables say."""
    most_ohm: float = math.inf
    """What there and back may resist for the set at its end to have the volts it wants on the key.
    [Ω]"""


@dataclass(frozen=True, slots=True)
class Gauge:
    """A proposed size, the fuse that suits it, and what binds it."""

    mm2: float
    fuse_a: float
    binds: Binds


@dataclass(frozen=True, slots=True, kw_only=True)
class Fuse:
    """What protects a run, every figure settled. `typed` says whether somebody said so."""

    kind: FuseKind
    label: str
    rating_a: float
    dc_v: float
    interrupt_a: float
    ohm: float
    typed: bool


def drop_share(feeds: str) -> float:
    """What a run of a kind may lose of the nominal volts."""
    return DROP_SHARES.get(feeds, BRANCH_SHARE)


def fuse_a(carried: Carried, factor: float = CONTINUOUS_FACTOR) -> float:
    """The smallest standard rating that carries it: so many times what flows on end, and the worst
    moment [A].

    Above the largest standard size the need itself.
    """
    need = max(factor * carried.continuous_a, PEAK_FACTOR * carried.peak_a, LEAST_FUSE_A)
    sizes = _fuse_sizes()
    place = bisect_left(sizes, need - 1e-9)
    return sizes[place] if place < len(sizes) else need


@cache
def _fuse_sizes() -> tuple[float, ...]:
    return tuple(float(size) for size in column("fuse_sizes", "amps"))


@dataclass(frozen=True, slots=True, kw_only=True)
class _Family:
    """A kind of fuse: the ratings it is made in, the volts it stands, and what it breaks at 12 V
    and above."""

    kind: FuseKind
    least_a: float
    most_a: float
    dc_v: float
    breaks_low_a: float
    breaks_high_a: float


@cache
def _families() -> tuple[_Family, ...]:
    """Those that are proposed, the plainest first."""
    return tuple(
        _Family(
            kind=row["kind"],  # type: ignore[arg-type]
            least_a=float(row["least_a"]),
            most_a=float(row["most_a"]),
            dc_v=float(row["dc_v"]),
            breaks_low_a=float(row["interrupt_12_a"]),
            breaks_high_a=float(row["interrupt_24_a"]),
        )
        for row in rows("fuse_families")
        if row["kind"] not in {"none", "breaker", "glass"}
    )


def _fails(
    book: Tradition, size: WireSize, laid: Laid, carried: Carried, rating_a: float, bus_v: float
) -> str:
    if size.mm2 < max(book.least_mm2, laid.least_mm2) - 1e-9:
        return "strength"
    if (
        ampacity_a(book, size.mm2, laid.insulation_c, laid.ambient_c, laid.bundled)
        < rating_a - 1e-9
    ):
        return "heat"
    if loop_ohm(laid.length_m, size.mm2) > laid.most_ohm:
        return "window"
    lost_v = loop_drop_v(laid.length_m, size.mm2, carried.peak_a)
    return "drop" if lost_v > laid.drop_share * bus_v + 1e-9 else ""


def proposed_gauge(
    book: Tradition, laid: Laid, carried: Carried, bus_v: float, typed_a: float = 0.0
) -> Gauge:
    """The thinnest standard size that passes heat, drop and strength; the thickest there is where
    none does.

    Parameters
    ----------
    typed_a : float
        The rating of a fuse that is there: the wire is to carry what it lets through, too. [A]
    """
    rating_a = fuse_a(carried)
    binds: Binds = "strength"
    for size in book.sizes:
        why = _fails(book, size, laid, carried, max(rating_a, typed_a), bus_v)
        if not why:
            return Gauge(size.mm2, rating_a, binds)
        binds = why  # type: ignore[assignment]
    return Gauge(book.sizes[-1].mm2, rating_a, "nothing")


def most_fuse_a() -> float:
    """The largest rating a fuse on our list is made in. [A]"""
    return max(family.most_a for family in _families())


def fuse_ohm(kind: FuseKind, rating_a: float) -> float:
    """Resistance of a fuse: the millivolts its kind loses at its rating, over the rating [Ω]."""
    drop_mv = float(rows_by("fuse_families", "kind")[kind]["drop_mv"])
    return drop_mv / 1000.0 / rating_a if rating_a > 0 else 0.0


def interrupt_of(kind: FuseKind, volts: float) -> float:
    """The most current a kind of fuse breaks at so many volts [A]."""
    row = rows_by("fuse_families", "kind")[kind]
    return float(row["interrupt_12_a" if volts <= LITTLE_V else "interrupt_24_a"])


def proposed_fuse(
    rating_a: float, highest_v: float, bus_v: float, prospective_a: float
) -> FuseKind:
    """The plainest kind that has the rating, stands the volts, and breaks what the bank drives into
    a short.

    Parameters
    ----------
    rating_a : float
        Amps it is to hold. [A]
    highest_v : float
        The most volts there are. [V]
    bus_v : float
        Nominal volts. [V]
    prospective_a : float
        What the bank drives into a dead short there. [A]
    """
    for family in _families():
        breaks_a = family.breaks_low_a if bus_v <= LITTLE_V else family.breaks_high_a
        fits = family.least_a <= rating_a <= family.most_a
        if fits and family.dc_v >= highest_v and breaks_a >= prospective_a:
            return family.kind
    return "class_t"
