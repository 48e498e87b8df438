"""The bus in numbers: what every run carries, loses and stands, and the volts that reach every
load.

Every figure that other rooms need of it is here once; `explain.py` puts it in words.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import partial

from ..array import ArrayModel
from ..design import MAIN_RUN, Design, WiringSchool
from ..draw import StationDraw
from ..electrical import WARM_C, Tradition, ampacity_a, loop_ohm, tradition
from ..store import BankModel, bank_resistance_ohm, rest_v, short_resistance_ohm
from .carried import carried_by, laid_for, path_to, taps_of
from .conductors import Carried, Fuse
from .grades import volt_grades
from .runs import Run, run_fuse, settled_run
from .topology import Amiss, Leg, topology_of
from .volts import LEAST_OHM, BesideBank, LoadVolts, load_volts

LEVELS = ("full", "half", "end")
NEC_ZONES, NEC_NORTH_DEG = ("America/", "Pacific/Honolulu"), 14.0
NEC_WEST_DEG, NEC_EAST_DEG = -170.0, -52.0
"""Where wire is sold by gauge and codes follow the NEC: North America down to Mexico, and Hawaii.
[C]"""


@dataclass(frozen=True, kw_only=True)
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
        """Whether a conductor in a run's place carries so many amps for good.

        Parameters
        ----------
        mm2 : float
            Area of the conductor. [mm²]
        amps : float
            What flows for good. [A]
        """
        laid = run.laid
        return (
            ampacity_a(self.book, mm2, laid.insulation_c, laid.ambient_c, laid.bundled)
            >= amps - 1e-9
        )

    def proposed_fuse(self, run_id: str) -> Fuse:
        """The fuse that is proposed for a run, whatever is typed."""
        run = self.run(run_id)
        row = run.leg.row.model_copy(update={"fuse": None}) if run.leg.row else None
        return run_fuse(
            replace(run.leg, row=row), run.gauge, self.highest_v, self.bus_v, run.must_break_a
        )

    @property
    def lowest(self) -> LoadVolts | None:
        """The set that stands lowest in its window, keyed at the end."""
        keyed = [item for item in self.loads if item.window and item.item.load.transmit_a]
        return min(
            keyed,
            key=lambda item: item.keyed_v[2] / max(item.window.low_v, 1.0) if item.window else 9.0,
            default=None,
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


def school_of(design: Design) -> WiringSchool:
    """Whose tables propose: as chosen, else those of the place, and metric ones where it is not
    known."""
    if design.bus.school is not None:
        return design.bus.school
    place = design.place
    if place is None or place.latitude_deg <= NEC_NORTH_DEG:
        return "iec"
    if place.time_zone is None:
        # Nobody has stored its time zone: where it lies says as much.
        return "nec" if NEC_WEST_DEG <= place.longitude_deg <= NEC_EAST_DEG else "iec"
    return "nec" if place.time_zone.startswith(NEC_ZONES) else "iec"


def bus_model(
    design: Design,
    draw: StationDraw,
    array: ArrayModel,
    bank: BankModel | None,
    bus_v: float,
    low_v: float,
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
    paths = {place: path_to(legs, places, place) for place in range(len(legs))}
    loads = draw.loads
    taps = [tap for tap in taps_of(legs, design, loads, bus_v) if tap.loads or tap.idle_a]
    links = {layer.id: layer for layer in design.store.layers}
    carried = carried_by(
        legs, paths, taps=taps, loads=loads, array=array, links=links, volts=(bus_v, low_v)
    )
    loud = [item.at_full_power for item in loads]
    turned_up = (
        carried
        if all(one is other for one, other in zip(loud, loads, strict=True))
        else carried_by(
            legs, paths, taps=taps, loads=loud, array=array, links=links, volts=(bus_v, low_v)
        )
    )
    take_over = frozenset(
        place
        for place, leg in enumerate(legs)
        if leg.feeds == "layer" and links[leg.of].joining != "converter"
    )
    sized_for = laid_for(turned_up, paths, taps, loud, take_over)
    hard_c = bank.hard_c if bank else WARM_C / 2.0
    warm_c = max(bank.hot_days_c) if bank else hard_c
    bank_ohm, short_ohm, full_v = 0.0, 0.0, bus_v
    if bank is not None:
        bank_ohm = max(bank_resistance_ohm(bank.bank, bus_v, hard_c), LEAST_OHM)
        # A warm bank resists least and drives most into a short.
        short_ohm = max(short_resistance_ohm(bank.bank, bus_v, max(warm_c, 25.0)), LEAST_OHM)
        full_v = rest_v(bank.bank, bus_v, 1.0)
    highest_v = max(
        [array.absorb_v, *(item.volts.value for item in design.array.chargers if item.volts)]
    )
    settled = _Settled(
        legs=legs,
        paths=paths,
        carried=carried,
        sized_for=sized_for,
        book=book,
        volts=(bus_v, highest_v),
        short_ohm=short_ohm,
        full_v=full_v,
        has_bank=bank is not None,
    )
    runs = settled.runs({})
    found: tuple[LoadVolts, ...] = ()
    if bank is not None and taps:
        cold_c = (hard_c, bank.least_c, warm_c)
        beside = [
            BesideBank(place, links[leg.of].bank)
            for place, leg in enumerate(legs)
            if leg.feeds == "layer" and links[leg.of].joining == "lead"
        ]
        reach = partial(
            load_volts,
            design,
            bank,
            bus_v=bus_v,
            loads=loads,
            taps=taps,
            paths=paths,
            temperatures_c=cold_c,
            beside=beside,
        )
        found = reach(runs=runs)
        thicker = _for_their_windows(found, runs)
        if thicker:
            runs = settled.runs(thicker)
            found = reach(runs=runs)
    prospective_a = full_v / short_ohm if bank else 0.0
    return BusModel(
        book=book,
        bus_v=bus_v,
        runs=tuple(runs),
        amiss=amiss,
        bank_ohm=bank_ohm,
        prospective_a=prospective_a,
        highest_v=highest_v,
        full_v=full_v,
        loads=found,
    )


MOST_BRANCH_MM2 = 16.0
"""No set’s plug takes a much thicker conductor. [C]"""
SPARE_V = 0.01
"""So much more than the window asks, for the sag that other loads' thicker wire lets through."""


def _for_their_windows(loads: Sequence[LoadVolts], runs: list[Run]) -> dict[int, float]:
    """What the wire of a set's own run may resist, by the run's place, where thicker copper alone
    brings it into its window at the end of what may be used, and the wire is ours to propose.
    [Ω]"""
    found = {}
    for item in loads:
        place, load = item.path[-1], item.item.load
        run = runs[place]
        typed = run.leg.row is not None and run.leg.row.mm2 is not None
        if item.window is None or load.transmit_a is None or typed or run.leg.feeds != "load":
            continue
        least_v = (
            item.window.low_v
            if load.window != "none"
            else dict(volt_grades())["less"] * item.window.low_v
        )
        lacks_v = least_v + SPARE_V - item.keyed_v[2]
        keyed_a = item.item.standing_a + item.item.step.adds_a
        most_ohm = run.wire_ohm - lacks_v / max(keyed_a, LEAST_OHM)
        if lacks_v > SPARE_V and most_ohm >= loop_ohm(run.laid.length_m, MOST_BRANCH_MM2):
            found[place] = most_ohm
    return found


@dataclass(frozen=True, kw_only=True)
class _Settled:
    """All that runs are settled from."""

    legs: Sequence[Leg]
    paths: dict[int, list[int]]
    carried: Sequence[Carried]
    sized_for: Sequence[Carried]
    book: Tradition
    volts: tuple[float, float]
    short_ohm: float
    full_v: float
    has_bank: bool

    def runs(self, most_ohm: dict[int, float]) -> list[Run]:
        """Every run, those nearer the post first; of some the wire may resist no more than so much,
        by their places."""
        runs: list[Run] = []
        for place in range(len(self.legs)):
            runs.append(self._run(place, runs, most_ohm.get(place, math.inf)))
        return runs

    def _run(self, place: int, runs: list[Run], most_ohm: float) -> Run:
        before = self.paths[place][:-1]
        upstream_ohm = self.short_ohm + sum(runs[other].ohm for other in before)
        # Without a bank nothing drives a short.
        prospective_a = self.full_v / max(upstream_ohm, LEAST_OHM) if self.has_bank else 0.0
        must_break_a = 0.0 if any(runs[other].limits_current for other in before) else prospective_a
        return settled_run(
            self.legs[place],
            self.carried[place],
            laid_for=self.sized_for[place],
            book=self.book,
            volts=self.volts,
            prospective_a=prospective_a,
            must_break_a=must_break_a,
            most_ohm=most_ohm,
        )


def lowest_given_v(model: BusModel, rail_id: str) -> float | None:
    """The lowest volts at a rail's input: all keyed, at the end; None where nothing hangs on it
    [V]."""
    for item in model.loads:
        if item.item.load.rail == rail_id:
            return item.given_end_v
    return None
