"""The station as a meter sees it: what every point reads in many worlds at once.

A world is the station with something changed: how full the battery is, a joint that resists, a panel
that gives nothing. Runs, loads, battery and hours of sun are those the verdict rests on.
"""

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from ..array import ModuleLabel, cell_rise_k, label_of
from ..bus import Run
from ..chemistries import kind_of
from ..design import PanelString
from ..electrical import blocks_of_12v
from ..rehearse import HourlyStation, hourly_station
from ..station import StationModel
from ..store import BankModel, bank_resistance_ohm, charge_settings, rest_course_v
from .moment import SKIES, Moment

FloatArray = NDArray[np.float64]
YEARS = 10
"""Weather years whose hours are looked at."""
ROUNDS = 3
"""How often the amps of converters are settled with the volts they get."""
FLOW_LIFT_V, FULL_LIFT_V, LIFT_A_SHARE = 0.15, 0.9, 0.1
"""How far lead stands above its resting volts while it is charged, per 12 V: at once, and toward
full, at a tenth of its amp-hours. [C]"""
LITHIUM_LIFT_V = 0.15
TAPER_FROM = 0.9
"""The state of charge from which on a charger gives less. [C]"""
WARM_C = 25.0
"""What chargers are set at, and move from. [C]"""
OPEN_V_PER_W_M2 = 0.04
"""How far open volts fall from full sun to dusk, as a share. [C]"""


@dataclass(frozen=True, kw_only=True)
class Worlds:
    """Many worlds, one a row. Factors of 1 and extras of 0 change nothing."""

    charge_share: FloatArray
    """Shape (n,)."""
    bank_times: FloatArray
    """What the battery resists, over what it should, shape (n,)."""
    rest_shift_v: FloatArray
    early_v: FloatArray
    """How far under its volts the charger stops, shape (n,). [V]"""
    wire_times: FloatArray
    """Shape (n, runs)."""
    joint_ohm: FloatArray
    holder_ohm: FloatArray
    is_open: NDArray[np.bool_]
    on: NDArray[np.bool_]
    """Which loads are on, shape (n, loads)."""
    extra_a: FloatArray
    """Drawn at the bus beside all loads, shape (n,). [A]"""
    held_rank: FloatArray
    """Where the charger holds its volts, from its float to its absorption, 0 to 1, shape (n,)."""
    sensed_rank: FloatArray
    """How far it follows the battery's temperature, 0 to 1, shape (n,)."""
    sun_rank: FloatArray
    """Where the hour lies among those of its sky, 0 to 1, shape (n,)."""
    sun_times: FloatArray
    """Shape (n, strings)."""
    open_times: FloatArray
    meter_times: FloatArray
    """What the meter shows over what there is, shape (n,)."""

    @property
    def count(self) -> int:
        """How many."""
        return int(self.charge_share.size)


def same_worlds(count: int, runs: int, loads: int, strings: int) -> dict[str, FloatArray]:
    """The arrays of worlds in which nothing is changed.

    Parameters
    ----------
    count, runs, loads, strings : int
        How many of each.

    Returns
    -------
    dict of str to ndarray
        As `Worlds` takes them, of the shapes it names.
    """
    ones, none = np.ones(count), np.zeros(count)
    return {
        "charge_share": np.full(count, 0.7),
        "bank_times": ones.copy(),
        "rest_shift_v": none.copy(),
        "early_v": none.copy(),
        "wire_times": np.ones((count, runs)),
        "joint_ohm": np.zeros((count, runs)),
        "holder_ohm": np.zeros((count, runs)),
        "is_open": np.zeros((count, runs), dtype=np.bool_),
        "on": np.ones((count, loads), dtype=np.bool_),
        "extra_a": none.copy(),
        "held_rank": ones.copy(),
        "sensed_rank": none.copy(),
        "sun_rank": np.full(count, 0.5),
        "sun_times": np.ones((count, strings)),
        "open_times": np.ones((count, strings)),
        "meter_times": ones.copy(),
    }


@dataclass(frozen=True)
class Circuit:
    """The parts of a station between which a meter is put."""

    station: StationModel

    @cached_property
    def runs(self) -> tuple[Run, ...]:
        """Every run of the wiring."""
        return self.station.bus.runs

    @cached_property
    def bank(self) -> BankModel:
        """The main bank."""
        if self.station.bank is None:
            raise ValueError("the station has no battery to measure at")
        return self.station.bank

    @cached_property
    def blocks(self) -> float:
        """How many times 12 V the bus is."""
        return float(blocks_of_12v(self.station.bus_v))

    @cached_property
    def way(self) -> FloatArray:
        """Which runs lie on the way to which: 1 where the second lies before or at the first, shape
        (runs, runs)."""
        places = {run.leg.id: place for place, run in enumerate(self.runs)}
        way = np.zeros((len(self.runs), len(self.runs)))
        for place in range(len(self.runs)):
            here: int | None = place
            while here is not None:
                way[place, here] = 1.0
                here = places.get(self.runs[here].leg.fed_from)
        return way

    @cached_property
    def hung(self) -> FloatArray:
        """Which load hangs on which run, shape (loads, runs)."""
        loads = self.station.draw.loads
        hung = np.zeros((len(loads), len(self.runs)))
        for place, run in enumerate(self.runs):
            for row, item in enumerate(loads):
                own = run.leg.feeds == "load" and item.load.id == run.leg.of
                behind = run.leg.feeds == "rail" and item.load.rail == run.leg.of
                hung[row, place] = float(own or behind)
        return hung

    @cached_property
    def hours(self) -> HourlyStation | None:
        """The station's hours in the weather years; None where they are not known."""
        return hourly_station(self.station, YEARS)

    @cached_property
    def has_beside(self) -> bool:
        """Whether another battery lies in parallel with the main one."""
        return any(layer.joining == "lead" for layer in self.station.design.store.layers)

    @cached_property
    def charger_a(self) -> float:
        """What everything but the sun puts into the battery while it runs: all that may run
        together, or the strongest. [A]"""
        sources = [
            item
            for item in self.station.array.sources
            if item.charges and item.id not in self.strings
        ]
        together = sum(item.amps for item in sources if not item.alone)
        return max([together, *(item.amps for item in sources if item.alone)], default=0.0)

    @cached_property
    def held_v(self) -> tuple[float, float, float]:
        """Between which volts a charger holds this battery at 25 °C, and by how much they move with
        a kelvin. [V], [V], [V/K]"""
        bank = self.bank
        setting = charge_settings(bank.bank, self.station.bus_v, bank.rated_ah, WARM_C)[0]
        return setting.float_v or setting.absorb_v, setting.absorb_v, setting.mv_per_k / 1000.0

    @cached_property
    def strings(self) -> tuple[str, ...]:
        """Ids of the strings."""
        return tuple(item.id for item in self.station.design.array.strings)

    def place(self, run_id: str) -> int:
        """Where a run stands among them."""
        return next(place for place, run in enumerate(self.runs) if run.leg.id == run_id)

    def sun_now(self, moment: Moment, rank: FloatArray) -> tuple[FloatArray, FloatArray]:
        """What the strings could give at a moment, and the sun on the main plane.

        Parameters
        ----------
        moment : Moment
            When, and under which sky.
        rank : ndarray of shape (n,)
            Where the hour lies among those of its sky.

        Returns
        -------
        tuple of ndarray
            Shape (n, strings) [A], and (n,) [W/m²].
        """
        none = np.zeros((rank.size, len(self.strings))), np.zeros(rank.size)
        if self.hours is None or moment.sky == "night":
            return none
        year = np.arange(self.hours.months.size)
        chosen = (self.hours.months == moment.month - 1) & (year % 24 == moment.hour)
        low, high = SKIES[moment.sky]
        ranks = low + (high - low) * rank
        amps = dict(self.hours.strings_a)
        found = (
            np.stack(
                [
                    np.quantile(amps[name][:, chosen], ranks)
                    if name in amps
                    else np.zeros(rank.size)
                    for name in self.strings
                ],
                axis=1,
            )
            if self.strings
            else none[0]
        )
        return found, np.quantile(self.hours.sun_w_m2[:, chosen], ranks)


@dataclass(frozen=True)
class Seen:
    """What there is to measure in every world, at one moment."""

    circuit: Circuit
    moment: Moment
    worlds: Worlds

    @cached_property
    def sun(self) -> tuple[FloatArray, FloatArray]:
        """See `Circuit.sun_now`."""
        return self.circuit.sun_now(self.moment, self.worlds.sun_rank)

    @cached_property
    def string_a(self) -> FloatArray:
        """From each string's controller, as the battery takes it, shape (n, strings). [A]"""
        could = self.sun[0] * self.worlds.sun_times
        # Toward full the charger gives what the loads draw, and a tail that dies away.
        stops = self.worlds.early_v / (0.6 * self.circuit.blocks)
        taper_from = TAPER_FROM - np.clip(stops, 0.0, 1.0) * 0.4
        left = np.clip((1.0 - self.worlds.charge_share) / np.maximum(1.0 - taper_from, 0.02), 0, 1)
        tail_a = left * 0.3 * self.circuit.bank.rated_ah
        total = could.sum(axis=1)
        taken = np.minimum(total, self.drawn_a + tail_a)
        tapering = self.worlds.charge_share > taper_from
        share = np.where(tapering & (total > 0), taken / np.maximum(total, 1e-9), 1.0)
        return np.asarray(could * share[:, None])

    @cached_property
    def load_a(self) -> FloatArray:
        """What each load draws at the nominal volts, shape (n, loads). [A]"""
        loads = self.circuit.station.draw.loads
        keyed = any(item.load.id == self.moment.keyed for item in loads)
        amps = np.zeros((self.worlds.count, len(loads)))
        for row, item in enumerate(loads):
            if item.load.id == self.moment.keyed:
                amps[:, row] = item.standing_a + item.step.adds_a
            else:
                base = item.standing_a if keyed else item.receive_a
                amps[:, row] = base * self.worlds.on[:, row]
        return amps

    @cached_property
    def tap_a(self) -> FloatArray:
        """What leaves by each run's end, shape (n, runs). [A]"""
        circuit, worlds = self.circuit, self.worlds
        loads = circuit.station.draw.loads
        rails = {rail.id: rail for rail in circuit.station.design.draw.rails}
        bus_v = circuit.station.bus_v
        grows = np.array([item.load.behaviour == "constant_power" for item in loads], dtype=bool)
        idle = np.zeros(len(circuit.runs))
        on_rail = np.zeros(len(circuit.runs), dtype=bool)
        for place, run in enumerate(circuit.runs):
            if run.leg.feeds == "rail":
                idle[place], on_rail[place] = rails[run.leg.of].idle_w.value / bus_v, True
        steady = (self.load_a * ~grows) @ circuit.hung
        growing = (self.load_a * grows) @ circuit.hung
        growing = growing + np.where(on_rail, steady, 0.0) + idle
        steady = np.where(on_rail, 0.0, steady)
        cut = (worlds.is_open @ circuit.way.T) > 0
        volts = np.full(steady.shape, bus_v)
        for _ in range(ROUNDS):
            more = np.clip(bus_v / np.maximum(volts, 0.6 * bus_v), 0.7, 1.6)
            taps = np.where(cut, 0.0, steady + growing * more)
            volts = self._ends(taps)
        return taps

    def _lost(self, run_a: FloatArray) -> FloatArray:
        """What each run loses, shape (n, runs). [V]"""
        runs, worlds = self.circuit.runs, self.worlds
        wire = np.array([run.wire_ohm for run in runs])
        parts = np.array([run.parts_ohm for run in runs])
        drop = np.array([run.drop_v for run in runs])
        ohm = wire * worlds.wire_times + parts + worlds.joint_ohm + worlds.holder_ohm
        return np.asarray(run_a * ohm + np.where(run_a > 0, drop, 0.0))

    def _ends(self, taps: FloatArray) -> FloatArray:
        """Volts at every run's end for what leaves there, shape (n, runs). [V]"""
        run_a = taps @ self.circuit.way
        posts = self._posts(taps.sum(axis=1) + self.worlds.extra_a)
        return np.asarray(posts[:, None] - self._lost(run_a) @ self.circuit.way.T)

    @cached_property
    def drawn_a(self) -> FloatArray:
        """All that the station draws, shape (n,). [A]"""
        return np.asarray(self.tap_a.sum(axis=1) + self.worlds.extra_a)

    def _posts(self, drawn_a: FloatArray) -> FloatArray:
        """Volts at the posts while so much is drawn, shape (n,). [V]"""
        circuit, worlds = self.circuit, self.worlds
        bank, bus_v = circuit.bank, circuit.station.bus_v
        rest = rest_course_v(bank.bank, bus_v, worlds.charge_share) + worlds.rest_shift_v
        usual_c = float(bank.month_c[self.moment.month - 1])
        ohm = bank_resistance_ohm(bank.bank, bus_v, usual_c) * worlds.bank_times
        if circuit.has_beside:
            # A battery beside gives its part: between half the resistance and all of it.
            ohm = ohm * (0.4 + 0.6 * worlds.sensed_rank)
        given = (self.sun[0] * worlds.sun_times).sum(axis=1)
        if self.moment.charger:
            given = given + circuit.charger_a
        net = drawn_a - given
        charging = np.maximum(-net, 0.0)
        flow = np.clip(charging / (LIFT_A_SHARE * bank.rated_ah), 0.0, 1.0)
        if kind_of(bank.bank.chemistry).is_lead:
            near_full = np.clip((worlds.charge_share - 0.5) / 0.5, 0.0, 1.0) ** 2
            lift = (FLOW_LIFT_V + FULL_LIFT_V * near_full) * flow
        else:
            lift = LITHIUM_LIFT_V * flow
        float_v, absorb_v, per_k = circuit.held_v
        held_v = float_v + (absorb_v - float_v) * worlds.held_rank - worlds.early_v
        held_v = np.maximum(held_v + per_k * (usual_c - WARM_C) * worlds.sensed_rank, rest)
        volts = rest - net * ohm + lift * circuit.blocks
        # Toward full the volts rise to where the charger holds them, whatever still flows.
        near = np.clip((worlds.charge_share - TAPER_FROM) / (1.0 - TAPER_FROM), 0.0, 1.0)
        volts = np.maximum(volts, np.where(charging > 0, rest + near * (held_v - rest), volts))
        return np.asarray(np.where(charging > 0, np.minimum(volts, held_v), volts))

    @cached_property
    def posts_v(self) -> FloatArray:
        """At the posts, shape (n,). [V]"""
        return self._posts(self.drawn_a)

    @cached_property
    def run_a(self) -> FloatArray:
        """Through each run, shape (n, runs). [A]"""
        return np.asarray(self.tap_a @ self.circuit.way)

    @cached_property
    def end_v(self) -> FloatArray:
        """At each run's end, shape (n, runs): nothing past what is open. [V]"""
        cut = (self.worlds.is_open @ self.circuit.way.T) > 0
        volts = self.posts_v[:, None] - self._lost(self.run_a) @ self.circuit.way.T
        return np.asarray(np.where(cut, 0.0, np.maximum(volts, 0.0)))

    def across_v(self, place: int) -> FloatArray:
        """Across a run's fuse and its holder: all of it where the fuse is open.

        Parameters
        ----------
        place : int
            Of the run.

        Returns
        -------
        ndarray of shape (n,)
            [V]
        """
        run, worlds = self.circuit.runs[place], self.worlds
        lost = self.run_a[:, place] * (run.fuse.ohm + worlds.holder_ohm[:, place])
        return np.asarray(np.where(worlds.is_open[:, place], self.posts_v, lost))

    def open_v(self, string: int) -> FloatArray:
        """A string's open volts.

        Parameters
        ----------
        string : int
            Its place among the strings.

        Returns
        -------
        ndarray of shape (n,)
            [V]
        """
        design, label = self._label(string)
        sun = self.sun[1]
        air_c = self._air_c()
        cell_c = air_c + cell_rise_k(design) * sun / 1000.0
        dim = 1.0 - OPEN_V_PER_W_M2 * np.log(np.maximum(1000.0 / np.maximum(sun, 5.0), 1.0))
        volts = label.v_oc * design.series * (1.0 + label.v_oc_per_k * (cell_c - 25.0)) * dim
        dark = sun < 5.0
        return np.asarray(np.where(dark, 0.0, volts * self.worlds.open_times[:, string]))

    def short_a(self, string: int) -> FloatArray:
        """A string shorted.

        Parameters
        ----------
        string : int
            Its place among the strings.

        Returns
        -------
        ndarray of shape (n,)
            [A]
        """
        design, label = self._label(string)
        full = label.i_sc * design.parallel * label.plan_share
        return np.asarray(full * self.sun[1] / 1000.0 * self.worlds.sun_times[:, string])

    def _label(self, string: int) -> tuple[PanelString, ModuleLabel]:
        design = self.circuit.station.design.array.strings[string]
        return design, label_of(design.module, design.series)

    def _air_c(self) -> float:
        climate, month = self.circuit.station.climate, self.moment.month - 1
        return float(climate.mean_c[month] + climate.swing_k[month] / 2.0)
