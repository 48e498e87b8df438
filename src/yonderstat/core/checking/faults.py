"""Faults as changes of the model: what each does to the worlds it is drawn in, and what people
notice of it."""

from collections.abc import Callable
from dataclasses import dataclass, fields
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..bus import Run
from ..chemistries import kind_of
from ..data import toml_table
from ..draw import is_operated
from .circuit import Circuit, Worlds, same_worlds
from .moment import CHARGES, Moment
from .points import end_name, measured_runs

FloatArray = NDArray[np.float64]
WORLDS, LEAST_WORLDS, MOST_CELLS = 400, 40, 1_200_000
"""Worlds a cause is drawn in, and how many figures of one kind all of them may hold."""
MOST_RUNS, MOST_STRINGS = 24, 8
UNNOTICED = 6.0
"""Where nobody notices anything, nothing is wrong so many times as often. [C]"""
UNNAMED = 0.2
"""What a symptom does to a fault it does not name: so many times as likely. [C]"""
BAD_OHM = (0.012, 0.4)
"""What a bad joint adds: from what is just noticed to what stops a radio. [Ω] [C]"""


@dataclass(frozen=True, slots=True, kw_only=True)
class Fault:
    """A fault at one place of a station."""

    id: str
    kind: str
    label: str
    share: float
    """How likely it is before anybody has measured."""
    place: int
    """Of its run or its string; -1 for the whole station."""
    remedy: str
    cost: str


@dataclass(frozen=True, slots=True)
class MayBeOf:
    """A load something may be noticed at."""

    id: str
    name: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Symptom:
    """What people notice."""

    id: str
    label: str
    keyed: bool
    """Whether it is there while transmitting."""
    stop: str
    """What to do before anything is measured; empty where nothing is urgent."""
    loads: tuple["MayBeOf", ...]
    """Which radio, or which load, it may be of."""


def _entry(kind: str) -> dict[str, Any]:
    found: dict[str, Any] = toml_table("faults")[kind]
    return found


def near_runs(circuit: Circuit, ids: frozenset[str] = frozenset()) -> list[Run]:
    """Runs whose faults are weighed: those that are asked about with all on their way, then those
    that carry most."""
    runs = measured_runs(circuit.station)
    if len(runs) <= MOST_RUNS:
        return runs
    asked = [circuit.place(run.leg.id) for run in runs if run.leg.id in ids]
    on_way = {int(place) for one in asked for place in np.flatnonzero(circuit.way[one])}
    first = sorted(
        runs, key=lambda run: (circuit.place(run.leg.id) not in on_way, -run.carried.peak_a)
    )
    kept = {run.leg.id for run in first[:MOST_RUNS]}
    return [run for run in runs if run.leg.id in kept]


def faults_of(circuit: Circuit, ids: frozenset[str] = frozenset()) -> tuple[Fault, ...]:
    """Every fault a station can have: the kinds that sit at runs or strings once for each.

    Of a station with a great many runs those that are asked about count, by their ids, and those
    that carry most.
    """
    station = circuit.station
    found: list[Fault] = []
    runs = near_runs(circuit, ids)
    for kind, entry in toml_table("faults").items():
        places: list[tuple[str, int, str]] = [("", -1, "")]
        if entry["at"] == "run":
            places = [
                (run.leg.id, circuit.place(run.leg.id), end_name(station, run)) for run in runs
            ]
        elif entry["at"] == "fuse":
            places = [
                (run.leg.id, circuit.place(run.leg.id), end_name(station, run))
                for run in runs
                if run.fuse.kind != "none" and run.leg.feeds != "bus"
            ]
        elif entry["at"] == "string":
            places = [
                (item.id, number, item.name)
                for number, item in enumerate(station.design.array.strings[:MOST_STRINGS])
            ]
        for of, place, name in places:
            found.append(
                Fault(
                    id=f"{kind}:{of}" if of else kind,
                    kind=kind,
                    label=entry["label"].format(name=name),
                    share=entry["share"] / len(places),
                    place=place,
                    remedy=entry["remedy"],
                    cost=entry["cost"],
                )
            )
    return tuple(found)


def symptoms_of(circuit: Circuit) -> tuple[Symptom, ...]:
    """What people may notice of a station, in the order of the table."""
    design = circuit.station.design
    radios = tuple(MayBeOf(item.id, item.name) for item in design.draw.loads if is_operated(item))
    loads = tuple(MayBeOf(item.id, item.name) for item in design.draw.loads)
    found = []
    for key, entry in toml_table("symptoms").items():
        of = {"radio": radios, "load": loads}.get(entry["needs"], ())
        if entry["needs"] in {"radio", "load"} and not of:
            continue
        if entry["needs"] == "panels" and not design.array.strings:
            continue
        found.append(
            Symptom(
                id=key,
                label=entry["label"],
                keyed=bool(entry.get("keyed", False)),
                stop=str(entry.get("stop", "")),
                loads=of if entry["needs"] != "panels" else (),
            )
        )
    return tuple(found)


def prior_of(circuit: Circuit, faults: tuple[Fault, ...], symptom: str, of: str) -> FloatArray:
    """How likely each fault is once somebody has said what he notices.

    Parameters
    ----------
    symptom : str
        Which; empty for none.
    of : str
        The load it is noticed at; empty for none.

    Returns
    -------
    ndarray of shape (faults,)
        Of the sum 1.
    """
    weights = toml_table("symptoms").get(symptom, {}).get("weights")
    found = np.array([fault.share for fault in faults])
    on_way = _on_the_way(circuit, of)
    if on_way is not None:
        # What is off the way to it does nothing to it; nearly nothing, as names are mixed up. How
        # likely the kind is stays what it is: it then sits on the way.
        for kind in {fault.kind for fault in faults if _entry(fault.kind)["at"] in {"run", "fuse"}}:
            rows = [row for row, fault in enumerate(faults) if fault.kind == kind]
            near = np.array([1.0 if faults[row].place in on_way else ELSEWHERE for row in rows])
            found[rows] = found[rows].sum() * near / near.sum()
    if weights is not None:
        found *= [weights.get(fault.kind, UNNAMED) for fault in faults]
    else:
        found *= [UNNOTICED if fault.kind == "healthy" else 1.0 for fault in faults]
    return np.asarray(found / found.sum())


ELSEWHERE = 0.02


def _on_the_way(circuit: Circuit, load_id: str) -> set[int] | None:
    loads = [item.load.id for item in circuit.station.draw.loads]
    if load_id not in loads:
        return None
    ends = np.flatnonzero(circuit.hung[loads.index(load_id)])
    return {int(place) for end in ends for place in np.flatnonzero(circuit.way[end])}


Changed = dict[str, Any]
Change = Callable[[Changed, "Fault", Circuit, NDArray[np.float64]], None]


def _log(low: float, high: float, rank: FloatArray) -> FloatArray:
    return np.asarray(np.exp(np.log(low) + (np.log(high) - np.log(low)) * rank))


def _discharged(world: Changed, _fault: Fault, _circuit: Circuit, rank: FloatArray) -> None:
    world["charge_share"] = 0.01 + 0.24 * rank


def _joint(world: Changed, fault: Fault, _circuit: Circuit, rank: FloatArray) -> None:
    world["joint_ohm"][:, fault.place] = _log(*BAD_OHM, rank)


def _holder(world: Changed, fault: Fault, _circuit: Circuit, rank: FloatArray) -> None:
    world["holder_ohm"][:, fault.place] = _log(*BAD_OHM, rank)


def _thin(world: Changed, fault: Fault, _circuit: Circuit, rank: FloatArray) -> None:
    world["wire_times"][:, fault.place] = _log(1.5, 6.0, rank)


def _open(world: Changed, fault: Fault, _circuit: Circuit, _rank: FloatArray) -> None:
    world["is_open"][:, fault.place] = True


def _worn(world: Changed, _fault: Fault, _circuit: Circuit, rank: FloatArray) -> None:
    world["bank_times"] = _log(1.8, 6.0, rank)


def _cell(world: Changed, _fault: Fault, circuit: Circuit, rank: FloatArray) -> None:
    kind = kind_of(circuit.bank.bank.chemistry)
    world["rest_shift_v"] = np.full(rank.size, -(2.05 if kind.is_lead else kind.cells_v / 4.0))
    world["bank_times"] = 1.2 + rank


def _panel(world: Changed, fault: Fault, circuit: Circuit, rank: FloatArray) -> None:
    string = circuit.station.design.array.strings[fault.place]
    # Of one panel alone a part of its cells is gone, else one of those beside each other.
    left = (string.parallel - 1) / string.parallel if string.parallel > 1 else 0.35
    world["sun_times"][:, fault.place] = left + 0.04 * (rank - 0.5)


def _shade(world: Changed, fault: Fault, _circuit: Circuit, rank: FloatArray) -> None:
    world["sun_times"][:, fault.place] = 0.3 + 0.55 * rank


def _dark(world: Changed, fault: Fault, _circuit: Circuit, rank: FloatArray) -> None:
    world["sun_times"][:, fault.place] = 0.02 * rank
    world["open_times"][:, fault.place] = np.where(rank < 0.6, 0.0, 1.0)


def _bypass(world: Changed, fault: Fault, circuit: Circuit, rank: FloatArray) -> None:
    string = circuit.station.design.array.strings[fault.place]
    lost = 1.0 / (THIRDS * string.series)
    world["open_times"][:, fault.place] = 1.0 - lost
    # Beside others in parallel its volts no longer reach theirs; alone a tracker works on.
    own = 1.0 / string.parallel
    world["sun_times"][:, fault.place] = 1.0 - own * np.clip(lost + 0.5 * rank, 0.0, 1.0)


THIRDS = 3
"""A panel's cells lie behind two or three diodes; with three each guards a third. [C]"""


def _early(world: Changed, _fault: Fault, circuit: Circuit, rank: FloatArray) -> None:
    world["early_v"] = (0.3 + 0.9 * rank) * circuit.blocks


def _draw(world: Changed, _fault: Fault, _circuit: Circuit, rank: FloatArray) -> None:
    world["extra_a"] = _log(0.1, 4.0, rank)


def _meter(world: Changed, _fault: Fault, _circuit: Circuit, rank: FloatArray) -> None:
    off = 0.03 + 0.12 * np.abs(2.0 * rank - 1.0)
    world["meter_times"] = np.where(rank < 0.5, 1.0 - off, 1.0 + off)


CHANGES: dict[str, Change] = {
    "discharged": _discharged,
    "joint": _joint,
    "holder": _holder,
    "thin": _thin,
    "open": _open,
    "worn": _worn,
    "cell": _cell,
    "panel": _panel,
    "shade": _shade,
    "dark": _dark,
    "bypass": _bypass,
    "early": _early,
    "draw": _draw,
    "meter": _meter,
}
"""What each kind does; healthy and none do nothing."""


def _ranks(count: int, random: np.random.Generator) -> FloatArray:
    """Numbers from 0 to 1, spread evenly, in any order."""
    return np.asarray((random.permutation(count) + random.random(count)) / count)


def worlds_of(
    circuit: Circuit, fault: Fault, moment: Moment, seed: int, count: int = WORLDS
) -> Worlds:
    """Worlds with a fault, everything that is not known drawn in them; the same seed draws the
    same.

    Parameters
    ----------
    moment : Moment
        How full the battery is, as far as somebody has said.
    seed : int
        Of the chances.
    count : int
        How many.
    """
    random = np.random.default_rng(seed)
    loads = circuit.station.draw.loads
    world: Changed = dict(same_worlds(count, len(circuit.runs), len(loads), len(circuit.strings)))
    low, high = CHARGES[moment.charge]
    world["charge_share"] = low + (high - low) * _ranks(count, random)
    world["sun_rank"] = _ranks(count, random)
    world["held_rank"] = _ranks(count, random)
    world["sensed_rank"] = _ranks(count, random)
    world["bank_times"] = 0.8 + 0.5 * _ranks(count, random)
    world["wire_times"] = 0.95 + 0.15 * random.random((count, len(circuit.runs)))
    hours = np.array([item.load.hours_per_day.value for item in loads])
    world["on"] = random.random((count, len(loads))) < np.clip(hours / 24.0, 0.05, 1.0)
    change = CHANGES.get(fault.kind)
    if change is not None:
        change(world, fault, circuit, _ranks(count, random))
    return Worlds(**world)


def worlds_each(circuit: Circuit, faults: tuple[Fault, ...]) -> int:
    """In how many worlds each fault is drawn: fewer where there are many faults and many runs, so
    that a question takes neither seconds nor the machine's memory."""
    cells = len(faults) * max(len(circuit.runs), len(circuit.strings), 1)
    return int(np.clip(MOST_CELLS // cells, LEAST_WORLDS, WORLDS))


def drawn_worlds(circuit: Circuit, faults: tuple[Fault, ...], moment: Moment) -> Worlds:
    """The worlds of every fault, one fault after the other."""
    count = worlds_each(circuit, faults)
    each = [
        worlds_of(circuit, fault, moment, SEED + number, count)
        for number, fault in enumerate(faults)
    ]
    names = [one.name for one in fields(Worlds)]
    return Worlds(
        **{name: np.concatenate([getattr(worlds, name) for worlds in each]) for name in names}
    )


SEED = 20261201
