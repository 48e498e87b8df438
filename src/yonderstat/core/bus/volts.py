"""The volts that reach every load, and the most a set may be turned up to."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from ..design import BUS, Bank, Design, Load, Rail
from ..draw import LoadDraw, keyed_together, power_within_w
from ..electrical import Window, usual_window
from ..store import BankModel, bank_resistance_ohm, rest_v
from .carried import Tap
from .converters import InputWindow, input_window, output_v
from .network import Beside, Network, Source
from .runs import Run

FloatArray = NDArray[np.float64]
LEAST_OHM = 1e-9


@dataclass(frozen=True, kw_only=True)
class LoadVolts:
    """The volts that reach a load: at full, half and the end of what may be used, receiving and
    keyed.

    `cold_end_v` and `warm_end_v` are keyed at the end, in the coldest and the warmest the bank
    gets.
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
        """What each run on the way loses, shape (runs, 4): receiving and keyed when full, then at
        the end."""
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
        """The highest transmit power a full and a half used bank carry; None where the set names no
        power."""
        return _most_w(self.reach.solved, self.item, self.window, list(self.path), self.reach.row)


@dataclass(frozen=True, slots=True)
class BesideBank:
    """A battery that a lead keeps in parallel with the main bank."""

    place: int
    """Of its lead among the runs."""
    bank: Bank


@dataclass(frozen=True)
class _Reach:
    """The network a load's volts were read from, and its tap there."""

    solved: "_Solved"
    row: int
    four: list[int]
    """The cases its walk is told in: receiving and keyed when full, receiving and keyed at the
    end."""


@dataclass(frozen=True)
class _Cases:
    """Columns of the network: who is keyed, how full the bank is, how cold."""

    keyed: tuple[frozenset[int] | None, ...]
    shares: tuple[float, float, float]
    temperatures_c: tuple[float, float, float]

    def column(self, keyed: int, share: int, temperature: int) -> int:
        """The place of a case."""
        return (keyed * 3 + share) * 3 + temperature


def _amps(
    taps: list[Tap], loads: Sequence[LoadDraw], cases: _Cases
) -> tuple[FloatArray, FloatArray]:
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
    return np.repeat(np.where(grows, 0.0, amps), 9, axis=1), np.repeat(
        np.where(grows, amps, 0.0), 9, axis=1
    )


@dataclass(frozen=True, kw_only=True)
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

    bank_ohms: FloatArray
    """Of the bank in every case."""
    beside: Beside | None
    """Batteries that lie in parallel with the bank."""

    @cached_property
    def source(self) -> Source | None:
        """The bank with the batteries beside it as the taps see them; None where it stands
        alone."""
        if self.beside is None:
            return None
        rest = np.tile(np.repeat(self.rest_v, 3), len(self.cases.keyed))
        return self.network.source(rest, self.bank_ohms, self.beside)

    @cached_property
    def beside_amps(self) -> FloatArray:
        """What each battery beside takes in every case; less than nothing where it gives."""
        return (
            np.zeros((0, self.amps.shape[1]))
            if self.source is None
            else self.source.beside_a(self.amps)
        )

    @cached_property
    def run_amps(self) -> FloatArray:
        """Of every run in every case."""
        drawn = self.network.paths.T @ self.amps
        return np.asarray(
            drawn if self.beside is None else drawn + self.beside.paths.T @ self.beside_amps
        )

    @cached_property
    def bank_amps(self) -> FloatArray:
        """Out of the bank in every case."""
        return np.asarray(self.amps.sum(axis=0) + self.beside_amps.sum(axis=0))


def _solved(
    bank: BankModel,
    bus_v: float,
    loads: Sequence[LoadDraw],
    taps: list[Tap],
    runs: list[Run],
    paths: dict[int, list[int]],
    temperatures_c: tuple[float, float, float],
    keying: list[int],
    beside: Sequence[BesideBank],
) -> _Solved:
    steps = [item.step for item in loads]
    cases = _Cases(
        (None, keyed_together(steps), *(keyed_together(steps, number) for number in keying)),
        (1.0, 1.0 - bank.depth / 2.0, 1.0 - bank.depth),
        temperatures_c,
    )
    matrix = np.zeros((len(taps), len(runs)))
    for row, tap in enumerate(taps):
        matrix[row, paths[tap.run]] = 1.0
    network = Network(
        matrix, np.array([run.ohm for run in runs]), np.array([run.drop_v for run in runs]), bus_v
    )
    full_v, half_v, end_v = (rest_v(bank.bank, bus_v, share) for share in cases.shares)
    ohms = [
        max(bank_resistance_ohm(bank.bank, bus_v, value), LEAST_OHM) for value in temperatures_c
    ]
    count = len(cases.keyed)
    rest = np.tile(np.repeat([full_v, half_v, end_v], 3), count)
    bank_ohms = np.tile(ohms, 3 * count)
    others = _beside(beside, bank, bus_v, runs, paths, cases)
    volts, amps = network.settled(rest, bank_ohms, *_amps(taps, loads, cases), others)
    return _Solved(
        bank=bank,
        loads=loads,
        runs=runs,
        paths=paths,
        network=network,
        cases=cases,
        rest_v=(full_v, half_v, end_v),
        bank_ohm=ohms[0],
        volts=volts,
        amps=amps,
        bank_ohms=bank_ohms,
        beside=others,
    )


def _beside(
    beside: Sequence[BesideBank],
    bank: BankModel,
    bus_v: float,
    runs: list[Run],
    paths: dict[int, list[int]],
    cases: _Cases,
) -> Beside | None:
    """The batteries beside the main one, as full and as warm as it; of unlike kinds the lower
    resting volts count, as what the one gives the other is not to be leaned on."""
    if not beside:
        return None
    way = np.zeros((len(beside), len(runs)))
    rest, ohm, count = [], [], len(cases.keyed)
    for row, item in enumerate(beside):
        way[row, paths[item.place][:-1]] = 1.0
        resting = [
            min(rest_v(item.bank, bus_v, share), rest_v(bank.bank, bus_v, share))
            - runs[item.place].drop_v
            for share in cases.shares
        ]
        own = [bank_resistance_ohm(item.bank, bus_v, value) for value in cases.temperatures_c]
        rest.append(np.tile(np.repeat(resting, 3), count))
        ohm.append(np.tile(np.array(own) + runs[item.place].ohm, 3 * count))
    return Beside(way, np.maximum(np.array(ohm), LEAST_OHM), np.array(rest))


def load_volts(
    design: Design,
    bank: BankModel,
    bus_v: float,
    loads: Sequence[LoadDraw],
    taps: list[Tap],
    runs: list[Run],
    paths: dict[int, list[int]],
    temperatures_c: tuple[float, float, float],
    beside: Sequence[BesideBank] = (),
) -> tuple[LoadVolts, ...]:
    hung = {number for tap in taps for number in tap.loads}
    keying = [number for number in sorted(hung) if loads[number].step.adds_a > 0.0]
    own = {number: 2 + place for place, number in enumerate(keying)}
    solved = _solved(
        bank,
        bus_v,
        loads=loads,
        taps=taps,
        runs=runs,
        paths=paths,
        temperatures_c=temperatures_c,
        keying=keying,
        beside=beside,
    )
    rails = {rail.id: rail for rail in design.draw.rails}
    found = {
        number: _one_load(
            solved,
            row,
            tap=tap,
            number=number,
            keyed=own.get(number, 1),
            rail=rails.get(loads[number].load.rail),
            bus_v=bus_v,
        )
        for row, tap in enumerate(taps)
        for number in tap.loads
    }
    return tuple(found[number] for number in sorted(found))


def _as_the_bus(load: Load, made_of: InputWindow | None) -> bool:
    """Whether a load gets the bus's own volts: on the bus itself, behind an outlet, or on a
    controller's terminals."""
    return load.rail == BUS or (made_of is not None and made_of.converter == "outlet")


def _one_load(
    solved: _Solved, row: int, tap: Tap, number: int, keyed: int, rail: Rail | None, bus_v: float
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
        item=item,
        window=usual_window(item.load) if _as_the_bus(item.load, made_of) else None,
        path=tuple(solved.paths[tap.run]),
        input=made_of,
        receive_v=(at(0, 0), at(0, 1), at(0, 2)),
        keyed_v=(at(keyed, 0), at(keyed, 1), at(keyed, 2)),
        cold_end_v=at(keyed, 2, 1),
        warm_end_v=at(keyed, 2, 2),
        given_end_v=at_run[four[3]],
        reach=_Reach(solved, row, four),
    )


def _most_w(
    solved: _Solved, item: LoadDraw, window: Window | None, way: list[int], row: int
) -> tuple[float | None, float | None]:
    """The highest power a full and a half used bank carry, everything else receiving: within the
    set's window and within what the bank may give."""
    if window is None or item.load.rated_w is None or item.load.transmit_a is None:
        return None, None
    network, bank = solved.network, solved.bank.bank
    receiving = solved.cases.column(0, 0, 0)
    amps = solved.amps[:, receiving].copy()
    amps[row] -= item.receive_a
    limit = bank.limits.peak_discharge_a or bank.limits.max_discharge_a
    most_a = limit.value * bank.parallel - float(amps.sum()) if limit else np.inf
    if solved.source is None:
        ohms = solved.bank_ohm + (network.paths * network.ohm) @ network.paths[row]
        open_v = [
            rested_v - sum(solved.runs[place].drop_v for place in way)
            for rested_v in solved.rest_v[:2]
        ]
    else:
        ohms = solved.source.ohm[receiving][row]
        open_v = [
            float(solved.source.open_v[row, solved.cases.column(0, share, 0)]) for share in (0, 1)
        ]
    others_v, ohm = float(ohms @ amps), max(float(ohms[row]), LEAST_OHM)
    full_w, half_w = (
        power_within_w(
            item.load,
            max(0.0, min((given_v - window.low_v - others_v) / ohm, most_a)) / item.load.quantity,
        )
        for given_v in open_v
    )
    return full_w, half_w
