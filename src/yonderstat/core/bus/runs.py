"""Runs of wire with everything settled: conductor, fuse, connectors, and what they lose and
carry."""

import math
from dataclasses import dataclass, replace

from ..data import rows_by
from ..design import Connector, FuseKind, RunPart
from ..electrical import WARM_C, Tradition, ampacity_a, loop_ohm
from .conductors import (
    LEAST_MAIN_MM2,
    Carried,
    Fuse,
    Gauge,
    Laid,
    drop_share,
    fuse_a,
    fuse_ohm,
    interrupt_of,
    proposed_fuse,
    proposed_gauge,
)
from .topology import Leg

USUAL_INSULATION_C = {"nec": 60, "iec": 70}
"""Terminals up to 100 A count by the coolest column unless they are marked. [P: NEC 110.14(C)]"""
PAIR = 2
"""Conductors of one run."""
CURRENT_LIMITING: frozenset[FuseKind] = frozenset({"class_t", "cylinder"})
"""Kinds that part a short before it has risen; what is plainer behind them is common practice.
[C]"""
FLAT_CONNECTORS: tuple[tuple[float, Connector], ...] = (
    (15.0, "flat_15"),
    (30.0, "flat_30"),
    (45.0, "flat_45"),
)


@dataclass(frozen=True, kw_only=True)
class Run:
    """A run with everything settled. Amps and ohms are those of the whole way there and back."""

    leg: Leg
    carried: Carried
    laid: Laid
    gauge: Gauge
    """What is proposed for it."""
    laid_for: Carried
    """And for what: every set at full power, an inverter at its rating."""
    mm2: float
    connector: Connector
    parts: tuple[RunPart, ...]
    fuse: Fuse
    wire_ohm: float
    parts_ohm: float
    """Of switches, shunts, connectors and the fuse."""
    drop_v: float
    """What its diodes take."""
    ampacity_a: float
    prospective_a: float
    """What the bank drives into a short at its start."""
    must_break_a: float
    """What its own fuse has to break: nothing like that where the fuse before it limits the current
    and breaks it."""

    @property
    def limits_current(self) -> bool:
        """Whether its fuse melts so soon that plainer ones behind it never see the whole of a
        short."""
        return self.fuse.kind in CURRENT_LIMITING and self.fuse.interrupt_a >= self.prospective_a

    @property
    def ohm(self) -> float:
        """Of all of it. [Ω]"""
        return self.wire_ohm + self.parts_ohm

    @property
    def peak_drop_v(self) -> float:
        """Lost on it at its worst moment. [V]"""
        return self.carried.peak_a * self.ohm + self.drop_v


def _connector(leg: Leg, carried: Carried) -> Connector:
    typed = leg.row is not None and leg.row.connector is not None
    if leg.connector is not None and (typed or _holds(leg.connector, carried)):
        return leg.connector
    return next((kind for rating, kind in FLAT_CONNECTORS if rating >= carried.peak_a), "lugs")


def _holds(connector: Connector, carried: Carried) -> bool:
    return float(rows_by("connectors", "connector")[connector]["rating_a"]) >= carried.peak_a


def _part_figure(part: RunPart, name: str) -> float:
    typed = getattr(part, name)
    return float(typed if typed is not None else rows_by("bus_parts", "part")[part.kind][name])


def part_rating_a(part: RunPart) -> float:
    """What a part in a run's way is rated for, as typed or as is usual for its kind. [A]"""
    if part.rating_a is not None:
        return part.rating_a.value
    return float(rows_by("bus_parts", "part")[part.kind]["rating_a"])


def run_fuse(leg: Leg, gauge: Gauge, highest_v: float, bus_v: float, must_break_a: float) -> Fuse:
    typed = leg.row.fuse if leg.row else None
    kind: FuseKind = (
        typed.kind if typed else proposed_fuse(gauge.fuse_a, highest_v, bus_v, must_break_a)
    )
    row = rows_by("fuse_families", "kind")[kind]
    rating = (
        typed.rating_a.value
        if typed and typed.rating_a
        else 0.0
        if kind == "none"
        else gauge.fuse_a
    )
    return Fuse(
        kind=kind,
        label=row["label"],
        rating_a=rating,
        dc_v=typed.dc_v.value if typed and typed.dc_v else float(row["dc_v"]),
        interrupt_a=typed.interrupt_a if typed and typed.interrupt_a else interrupt_of(kind, bus_v),
        ohm=fuse_ohm(kind, rating),
        typed=typed is not None,
    )


def settled_run(
    leg: Leg,
    carried: Carried,
    laid_for: Carried,
    book: Tradition,
    volts: tuple[float, float],
    prospective_a: float,
    must_break_a: float,
    most_ohm: float = math.inf,
) -> Run:
    """A run with everything settled.

    Parameters
    ----------
    laid_for : Carried
        What wire and fuse are proposed for: every set at full power, an inverter at its rating.
    volts : tuple of float
        The nominal ones and the highest there are. [V]
    most_ohm : float
        What its wire may resist for the set at its end to have the volts it wants. [Ω]
    """
    bus_v, highest_v = volts
    row = leg.row
    insulation_c = (
        float(row.insulation_c)
        if row and row.insulation_c
        else float(USUAL_INSULATION_C[book.school])
    )
    bundled = row.bundled if row and row.bundled else PAIR
    least_mm2 = LEAST_MAIN_MM2 if leg.feeds in {"bus", "layer"} else 0.0
    laid = Laid(
        length_m=leg.length.value,
        drop_share=drop_share(leg.feeds),
        insulation_c=insulation_c,
        ambient_c=leg.ambient_c,
        bundled=bundled,
        least_mm2=least_mm2,
        most_ohm=most_ohm,
    )
    # Where only the fuse is typed, the wire that is proposed suits it.
    typed_a = row.fuse.rating_a.value if row and row.fuse and row.fuse.rating_a else 0.0
    gauge = proposed_gauge(book, laid, laid_for, bus_v, typed_a)
    mm2 = row.mm2.value if row and row.mm2 else gauge.mm2
    carries_a = ampacity_a(book, mm2, insulation_c, leg.ambient_c, bundled)
    if row and row.mm2 and gauge.fuse_a > carries_a:
        # The wire is there: its fuse holds what flows today, and no more.
        gauge = replace(gauge, fuse_a=fuse_a(carried))
    fuse = run_fuse(leg, gauge, highest_v, bus_v, must_break_a)
    connector = _connector(leg, laid_for)
    parts_ohm = sum(_part_figure(part, "milliohm") for part in leg.parts) / 1000.0
    parts_ohm += (
        float(rows_by("connectors", "connector")[connector]["milliohm"]) / 1000.0 + fuse.ohm
    )
    return Run(
        leg=leg,
        carried=carried,
        laid=laid,
        gauge=gauge,
        laid_for=laid_for,
        mm2=mm2,
        connector=connector,
        parts=leg.parts,
        fuse=fuse,
        wire_ohm=loop_ohm(leg.length.value, mm2, WARM_C),
        parts_ohm=parts_ohm,
        drop_v=sum(_part_figure(part, "drop_v") for part in leg.parts),
        ampacity_a=carries_a,
        prospective_a=prospective_a,
        must_break_a=must_break_a,
    )
