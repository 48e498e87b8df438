"""The bus in numbers: what every run carries, loses and stands, and the volts that reach every load.

Every figure that other rooms need of it is here once; `explain.py` puts it in words.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from ..array import ArrayModel
from ..data import rows_by
from ..design import BUS, MAIN_RUN, POST, Connector, Design, FuseKind, Rail, RunPart, WiringSchool
from ..draw import LoadDraw, StationDraw, keyed_together, peak_a, power_within_w
from ..electrical import WARM_C, Tradition, Window, ampacity_a, loop_ohm, tradition, usual_window
from ..store import BankModel, bank_resistance_ohm, rest_v
from .conductors import (
    LEAST_MAIN_MM2,
    Carried,
    Fuse,
    Gauge,
    Laid,
    drop_share,
    fuse_ohm,
    interrupt_of,
    proposed_fuse,
    proposed_gauge,
)
from .converters import InputWindow, input_window, output_v
from .network import Network
from .topology import Amiss, Leg, topology_of

FloatArray = NDArray[np.float64]

LEVELS = ("full", "half", "end")
LEAST_OHM = 1e-9
NEC_ZONES, NEC_NORTH_DEG = ("America/", "Pacific/Honolulu"), 14.0
"""Where wire is sold by gauge and codes follow the NEC: North America down to Mexico, and Hawaii. [C]"""
USUAL_INSULATION_C = {"nec": 60, "iec": 70}
"""Terminals up to 100 A count by the coolest column unless they are marked. [P: NEC 110.14(C)]"""
PAIR = 2
"""Conductors of one run."""
FLAT_CONNECTORS: tuple[tuple[float, Connector], ...] = ((15.0, "flat_15"), (30.0, "flat_30"), (45.0, "flat_45"))


@dataclass(frozen=True)
class Run:
    """A run with everything settled. Amps and ohms are those of the whole way there and back."""

    leg: Leg
    carried: Carried
    laid: Laid
    gauge: Gauge
    """What is proposed for it."""
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

    @property
    def ohm(self) -> float:
        """Of all of it. [Ω]"""
        return self.wire_ohm + self.parts_ohm

    @property
    def peak_drop_v(self) -> float:
        """Lost on it at its worst moment. [V]"""
        return self.carried.peak_a * self.ohm + self.drop_v


@dataclass(frozen=True)
class LoadVolts:
    """The volts that reach a load: at full, half and the end of what may be used, receiving and keyed.

    `cold_end_v` and `warm_end_v` are keyed at the end, in the coldest and the warmest the bank gets.
    """

    item: LoadDraw
    window: Window | None
    path: tuple[int, ...]
    """Places of its runs, from the post."""
    input: InputWindow | None
    receive_v: tuple[float, float, float]
    keyed_v: tuple[float, float, float]
    cold_end_v: float
    warm_end_v: float
    given_end_v: float
    """At the end of its runs, keyed at the end of what may be used: what its converter is given."""
    reach: "_Reach"

    @property
    def rest_v(self) -> tuple[float, float, float]:
        """The rested bank, full, half and at the end."""
        return self.reach.solved.rest_v

    @cached_property
    def walk_v(self) -> FloatArray:
        """What each run on the way loses, shape (runs, 4): receiving and keyed when full, then at the end."""
        way, solved = list(self.path), self.reach.solved
        lost = solved.run_amps[np.ix_(way, self.reach.four)] * solved.network.ohm[way, None]
        return np.asarray(lost + solved.network.drop_v[way, None])

    @cached_property
    def bank_v(self) -> FloatArray:
        """Lost inside the bank in the same four cases, shape (4,)."""
        solved = self.reach.solved
        return np.asarray(solved.bank_ohm * solved.bank_amps[self.reach.four])

    @cached_property
    def most_w(self) -> tuple[float | None, float | None]:
        """The highest transmit power a full and a half full bank carry; None where the set names no power."""
        return _most_w(self.reach.solved, self.item, self.window, list(self.path), self.reach.row)


@dataclass(frozen=True)
class _Reach:
    """The network a load's volts were read from, and its tap there."""

    solved: "_Solved"
    row: int
    four: list[int]
    """The cases its walk is told in: receiving and keyed when full, receiving and keyed at the end."""


@dataclass(frozen=True)
class BusModel:
    """The whole bus."""

    book: Tradition
    bus_v: float
    runs: tuple[Run, ...]
    amiss: tuple[Amiss, ...]
    bank_ohm: float
    """In the cold of the hard month."""
    prospective_a: float
    """The bank into a short at its posts."""
    highest_v: float
    full_v: float
    """The bank, full and rested; the nominal volts without one."""
    loads: tuple[LoadVolts, ...]
    """Of the main bank; nothing without a bank."""

    def run(self, run_id: str) -> Run:
        """A run by id."""
        return next(run for run in self.runs if run.leg.id == run_id)

    def of_load(self, load_id: str) -> LoadVolts | None:
        """A load's volts; None where they are not known."""
        return next((item for item in self.loads if item.item.load.id == load_id), None)

    def carries(self, run: Run, mm2: float, amps: float) -> bool:
        """Whether a conductor in a run's place carries so many amps for good."""
        laid = run.laid
        return ampacity_a(self.book, mm2, laid.insulation_c, laid.ambient_c, laid.bundled) >= amps - 1e-9

    def proposed_fuse(self, run_id: str) -> Fuse:
        """The fuse that is proposed for a run, whatever is typed."""
        run = self.run(run_id)
        row = run.leg.row.model_copy(update={"fuse": None}) if run.leg.row else None
        return _fuse(replace(run.leg, row=row), run.gauge, self.highest_v, self.bus_v, run.prospective_a)

    @property
    def lowest(self) -> LoadVolts | None:
        """The set that stands lowest in its window, keyed at the end."""
        keyed = [item for item in self.loads if item.window and item.item.load.transmit_a]
        return min(
            keyed, key=lambda item: item.keyed_v[2] / max(item.window.low_v, 1.0) if item.window else 9.0, default=None
        )

    @property
    def lowest_v(self) -> float | None:
        """At that set, keyed at the end; None where no set names a window. [V]"""
        lowest = self.lowest
        return lowest.keyed_v[2] if lowest else None

    @property
    def bus_ohm(self) -> float:
        """From the posts to the bus. [Ω]"""
        return self.run(MAIN_RUN).ohm


@dataclass(frozen=True, slots=True)
class _Tap:
    """Where current leaves the tree: loads that hang on one run."""

    run: int
    loads: tuple[int, ...]
    idle_a: float
    grows: bool
    """Whether it takes more amps as the volts fall, whatever its loads do."""


def _taps(legs: Sequence[Leg], design: Design, loads: Sequence[LoadDraw], bus_v: float) -> list[_Tap]:
    found = []
    rails = {rail.id: rail for rail in design.draw.rails}
    for place, leg in enumerate(legs):
        if leg.feeds == "load":
            mine = tuple(number for number, item in enumerate(loads) if item.load.id == leg.of)
            found.append(_Tap(place, mine, 0.0, loads[mine[0]].load.behaviour == "constant_power"))
        elif leg.feeds == "rail":
            mine = tuple(number for number, item in enumerate(loads) if item.load.rail == leg.of)
            found.append(_Tap(place, mine, rails[leg.of].idle_w.value / bus_v, True))
    return found


def _path(legs: Sequence[Leg], places: dict[str, int], place: int) -> list[int]:
    """The runs from the post to a run, the nearest the post first."""
    found = [place]
    while legs[found[-1]].fed_from != POST:
        found.append(places[legs[found[-1]].fed_from])
    return found[::-1]


def _carried(
    legs: Sequence[Leg],
    paths: dict[int, list[int]],
    taps: list[_Tap],
    loads: Sequence[LoadDraw],
    array: ArrayModel,
    bus_v: float,
    low_v: float,
) -> list[Carried]:
    """What every run carries. What grows as the volts fall counts at the lowest volts there are."""
    more = max(1.0, bus_v / max(low_v, 0.7 * bus_v))
    given_a = _given_a(legs, array)
    found = []
    for place in range(len(legs)):
        below = [tap for tap in taps if place in paths[tap.run]]
        steady = [loads[number] for tap in below if not tap.grows for number in tap.loads]
        growing = [loads[number] for tap in below if tap.grows for number in tap.loads]
        idle_a = sum(tap.idle_a for tap in below) * more
        on_end = _on_end_a(steady) + more * _on_end_a(growing) + idle_a
        standing = peak_a(steady)
        worst = standing + more * (peak_a([*steady, *growing]) - standing) + idle_a
        given = sum(amps for other, amps in given_a.items() if place in paths[other])
        found.append(Carried(max(on_end, given), max(worst, given)))
    return found


def _on_end_a(loads: Sequence[LoadDraw]) -> float:
    """What flows while they are on: their mean, or what they take without being keyed. [A]"""
    return sum(max(item.receive_a, item.mean_on_a) for item in loads)


def _given_a(legs: Sequence[Leg], array: ArrayModel) -> dict[int, float]:
    """The most that every source puts in, by the place of its run. [A]"""
    amps: dict[str, float] = {source.id: source.amps for source in array.sources}
    joined: dict[str, float] = {}
    for string in array.strings:
        leader = string.string.joins or string.string.id
        joined[leader] = joined.get(leader, 0.0) + amps.get(string.string.id, 0.0)
    return {
        place: joined.get(leg.of, 0.0) if leg.feeds == "charge" else amps.get(leg.of, 0.0)
        for place, leg in enumerate(legs)
        if leg.is_source
    }


def _connector(leg: Leg, carried: Carried) -> Connector:
    if leg.connector is not None:
        return leg.connector
    return next((kind for rating, kind in FLAT_CONNECTORS if rating >= carried.peak_a), "lugs")


def _part_figure(part: RunPart, name: str) -> float:
    typed = getattr(part, name)
    return float(typed if typed is not None else rows_by("bus_parts", "part")[part.kind][name])


def _fuse(leg: Leg, gauge: Gauge, highest_v: float, bus_v: float, prospective_a: float) -> Fuse:
    typed = leg.row.fuse if leg.row else None
    kind: FuseKind = typed.kind if typed else proposed_fuse(gauge.fuse_a, highest_v, bus_v, prospective_a)
    row = rows_by("fuse_families", "kind")[kind]
    rating = typed.rating_a.value if typed and typed.rating_a else 0.0 if kind == "none" else gauge.fuse_a
    return Fuse(
        kind,
        row["label"],
        rating,
        typed.dc_v.value if typed and typed.dc_v else float(row["dc_v"]),
        typed.interrupt_a if typed and typed.interrupt_a else interrupt_of(kind, bus_v),
        fuse_ohm(kind, rating),
        typed is not None,
    )


def _run(leg: Leg, carried: Carried, book: Tradition, bus_v: float, highest_v: float, prospective_a: float) -> Run:
    row = leg.row
    insulation_c = float(row.insulation_c) if row and row.insulation_c else float(USUAL_INSULATION_C[book.school])
    bundled = row.bundled if row and row.bundled else PAIR
    least_mm2 = LEAST_MAIN_MM2 if leg.feeds in {"bus", "layer"} else 0.0
    laid = Laid(leg.length.value, drop_share(leg.feeds), insulation_c, leg.ambient_c, bundled, least_mm2)
    gauge = proposed_gauge(book, laid, carried, bus_v)
    mm2 = row.mm2.value if row and row.mm2 else gauge.mm2
    fuse = _fuse(leg, gauge, highest_v, bus_v, prospective_a)
    connector = _connector(leg, carried)
    parts_ohm = sum(_part_figure(part, "milliohm") for part in leg.parts) / 1000.0
    parts_ohm += float(rows_by("connectors", "connector")[connector]["milliohm"]) / 1000.0 + fuse.ohm
    return Run(
        leg,
        carried,
        laid,
        gauge,
        mm2,
        connector,
        leg.parts,
        fuse,
        loop_ohm(leg.length.value, mm2, WARM_C),
        parts_ohm,
        sum(_part_figure(part, "drop_v") for part in leg.parts),
        ampacity_a(book, mm2, insulation_c, leg.ambient_c, bundled),
        prospective_a,
    )


@dataclass(frozen=True)
class _Cases:
    """Columns of the network: who is keyed, how full the bank is, how cold."""

    keyed: tuple[frozenset[int] | None, ...]
    shares: tuple[float, float, float]
    temperatures_c: tuple[float, float, float]

    def column(self, keyed: int, share: int, temperature: int) -> int:
        """The place of a case."""
        return (keyed * 3 + share) * 3 + temperature


def _amps(taps: list[_Tap], loads: Sequence[LoadDraw], cases: _Cases) -> tuple[FloatArray, FloatArray]:
    """Steady and growing amps of every tap in every case."""
    receive = np.array([item.receive_a for item in loads])
    standing = np.array([item.standing_a for item in loads])
    adds = np.array([item.step.adds_a for item in loads])
    drawn = np.empty((len(loads), len(cases.keyed)))
    for column, keyed in enumerate(cases.keyed):
        if keyed is None:
            drawn[:, column] = receive
        else:
            drawn[:, column] = standing
            chosen = list(keyed)
            drawn[chosen, column] += adds[chosen]
    hung = np.zeros((len(taps), len(loads)))
    for row, tap in enumerate(taps):
        hung[row, list(tap.loads)] = 1.0
    amps = hung @ drawn + np.array([tap.idle_a for tap in taps])[:, None]
    grows = np.array([tap.grows for tap in taps])[:, None]
    return np.repeat(np.where(grows, 0.0, amps), 9, axis=1), np.repeat(np.where(grows, amps, 0.0), 9, axis=1)


def school_of(design: Design) -> WiringSchool:
    """Whose tables propose: as chosen, else those of the place, and metric ones where it is not known."""
    if design.bus.school is not None:
        return design.bus.school
    place = design.place
    if place is None or place.latitude_deg <= NEC_NORTH_DEG:
        return "iec"
    return "nec" if (place.time_zone or "").startswith(NEC_ZONES) else "iec"


def bus_model(
    design: Design, draw: StationDraw, array: ArrayModel, bank: BankModel | None, bus_v: float, low_v: float
) -> BusModel:
    """The bus of a design.

    Parameters
    ----------
    bus_v : float
        Nominal volts. [V]
    low_v : float
        At the posts at the end of what may be used, at the highest draw. [V]
    """
    legs, amiss = topology_of(design)
    book = tradition(school_of(design))
    places = {leg.id: place for place, leg in enumerate(legs)}
    paths = {place: _path(legs, places, place) for place in range(len(legs))}
    loads = draw.loads
    taps = [tap for tap in _taps(legs, design, loads, bus_v) if tap.loads or tap.idle_a]
    carried = _carried(legs, paths, taps, loads, array, bus_v, low_v)
    hard_c = bank.hard_c if bank else WARM_C / 2.0
    warm_c = max(bank.hot_days_c) if bank else hard_c
    bank_ohm, short_ohm, full_v = 0.0, 0.0, bus_v
    if bank is not None:
        bank_ohm = max(bank_resistance_ohm(bank.bank, bus_v, hard_c), LEAST_OHM)
        # A warm bank resists least and drives most into a short.
        short_ohm = max(bank_resistance_ohm(bank.bank, bus_v, max(warm_c, 25.0)), LEAST_OHM)
        full_v = rest_v(bank.bank, bus_v, 1.0)
    highest_v = max([array.absorb_v, *(item.volts.value for item in design.array.chargers if item.volts)])
    runs: list[Run] = []
    for place, leg in enumerate(legs):
        upstream_ohm = short_ohm + sum(runs[other].ohm for other in paths[place][:-1])
        # Without a bank nothing drives a short.
        prospective_a = full_v / max(upstream_ohm, LEAST_OHM) if bank is not None else 0.0
        runs.append(_run(leg, carried[place], book, bus_v, highest_v, prospective_a))
    found: tuple[LoadVolts, ...] = ()
    if bank is not None and taps:
        found = _load_volts(design, bank, bus_v, loads, taps, runs, paths, (hard_c, bank.least_c, warm_c))
    prospective_a = full_v / short_ohm if bank else 0.0
    return BusModel(book, bus_v, tuple(runs), amiss, bank_ohm, prospective_a, highest_v, full_v, found)


@dataclass(frozen=True)
class _Solved:
    """The network settled in every case, and what it was settled on."""

    bank: BankModel
    loads: Sequence[LoadDraw]
    runs: list[Run]
    paths: dict[int, list[int]]
    network: Network
    cases: _Cases
    rest_v: tuple[float, float, float]
    bank_ohm: float
    volts: FloatArray
    amps: FloatArray

    @cached_property
    def volts_told(self) -> list[list[float]]:
        """The volts as plain numbers."""
        told: list[list[float]] = self.volts.tolist()
        return told

    @cached_property
    def run_amps(self) -> FloatArray:
        """Of every run in every case."""
        return np.asarray(self.network.paths.T @ self.amps)

    @cached_property
    def bank_amps(self) -> FloatArray:
        """Out of the bank in every case."""
        return np.asarray(self.amps.sum(axis=0))


def _solved(
    bank: BankModel,
    bus_v: float,
    loads: Sequence[LoadDraw],
    taps: list[_Tap],
    runs: list[Run],
    paths: dict[int, list[int]],
    temperatures_c: tuple[float, float, float],
    keying: list[int],
) -> _Solved:
    steps = [item.step for item in loads]
    cases = _Cases(
        (None, keyed_together(steps), *(keyed_together(steps, number) for number in keying)),
        (1.0, 0.5, 1.0 - bank.depth),
        temperatures_c,
    )
    matrix = np.zeros((len(taps), len(runs)))
    for row, tap in enumerate(taps):
        matrix[row, paths[tap.run]] = 1.0
    network = Network(matrix, np.array([run.ohm for run in runs]), np.array([run.drop_v for run in runs]), bus_v)
    full_v, half_v, end_v = (rest_v(bank.bank, bus_v, share) for share in cases.shares)
    ohms = [max(bank_resistance_ohm(bank.bank, bus_v, value), LEAST_OHM) for value in temperatures_c]
    count = len(cases.keyed)
    rest = np.tile(np.repeat([full_v, half_v, end_v], 3), count)
    volts, amps = network.settled(rest, np.tile(ohms, 3 * count), *_amps(taps, loads, cases))
    return _Solved(bank, loads, runs, paths, network, cases, (full_v, half_v, end_v), ohms[0], volts, amps)


def _load_volts(
    design: Design,
    bank: BankModel,
    bus_v: float,
    loads: Sequence[LoadDraw],
    taps: list[_Tap],
    runs: list[Run],
    paths: dict[int, list[int]],
    temperatures_c: tuple[float, float, float],
) -> tuple[LoadVolts, ...]:
    hung = {number for tap in taps for number in tap.loads}
    keying = [number for number in sorted(hung) if loads[number].step.adds_a > 0.0]
    own = {number: 2 + place for place, number in enumerate(keying)}
    solved = _solved(bank, bus_v, loads, taps, runs, paths, temperatures_c, keying)
    rails = {rail.id: rail for rail in design.draw.rails}
    found = {
        number: _one_load(solved, row, tap, number, own.get(number, 1), rails.get(loads[number].load.rail), bus_v)
        for row, tap in enumerate(taps)
        for number in tap.loads
    }
    return tuple(found[number] for number in sorted(found))


def _one_load(
    solved: _Solved, row: int, tap: _Tap, number: int, keyed: int, rail: Rail | None, bus_v: float
) -> LoadVolts:
    """What reaches one load: the run's volts, or what a converter makes of them."""
    item, column = solved.loads[number], solved.cases.column
    made_of = input_window(rail, bus_v) if rail else None

    at_run = solved.volts_told[row]

    def at(who: int, share: int, temperature: int = 0) -> float:
        given = at_run[column(who, share, temperature)]
        return given if rail is None or made_of is None else output_v(rail, made_of, given)

    four = [column(0, 0, 0), column(keyed, 0, 0), column(0, 2, 0), column(keyed, 2, 0)]
    return LoadVolts(
        item,
        usual_window(item.load) if item.load.rail == BUS else None,
        tuple(solved.paths[tap.run]),
        made_of,
        (at(0, 0), at(0, 1), at(0, 2)),
        (at(keyed, 0), at(keyed, 1), at(keyed, 2)),
        at(keyed, 2, 1),
        at(keyed, 2, 2),
        at_run[four[3]],
        _Reach(solved, row, four),
    )


def _most_w(
    solved: _Solved, item: LoadDraw, window: Window | None, way: list[int], row: int
) -> tuple[float | None, float | None]:
    """The highest power a full and a half full bank carry, everything else receiving: within the set's window and
    within what the bank may give."""
    if window is None or item.load.rated_w is None or item.load.transmit_a is None:
        return None, None
    network, bank = solved.network, solved.bank.bank
    shared = (network.paths * network.ohm) @ network.paths[row]
    amps = solved.amps[:, solved.cases.column(0, 0, 0)].copy()
    amps[row] -= item.receive_a
    limit = bank.limits.peak_discharge_a or bank.limits.max_discharge_a
    most_a = limit.value * bank.parallel - float(amps.sum()) if limit else np.inf
    diodes_v = sum(solved.runs[place].drop_v for place in way)
    others_v = solved.bank_ohm * float(amps.sum()) + float(shared @ amps)
    ohm = max(solved.bank_ohm + float(shared[row]), LEAST_OHM)
    full_w, half_w = (
        power_within_w(
            item.load,
            max(0.0, min((rested_v - diodes_v - window.low_v - others_v) / ohm, most_a)) / item.load.quantity,
        )
        for rested_v in solved.rest_v[:2]
    )
    return full_w, half_w


def lowest_given_v(model: BusModel, rail_id: str) -> float | None:
    """The lowest volts at a rail's input: all keyed, at the end; None where nothing hangs on it [V]."""
    for item in model.loads:
        if item.item.load.rail == rail_id:
            return item.given_end_v
    return None
