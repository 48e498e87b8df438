"""The draw in numbers: the whole station at a tempo; currents at the bus, hours, amp-hours by load,
hour and month."""

from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from ..calendar import HOURS_A_DAY
from ..climate import Climate
from ..data import rows_by
from ..design import MAIN, NO_BANK_V, Design, Draw, Load, Rail, Tempo
from .exclusions import Step, groups_of
from .rails import bus_current_a, idle_daily_ah, rail_of
from .transmit import key_down, transmitting_a
from .when import NOTHING, FloatArray, on_share


def mean_on_current_a(receive_a: float, transmit_a: float, transmit_share: float) -> float:
    """Mean current while a load is on: state current times share of time, summed over the states.

    Parameters
    ----------
    receive_a, transmit_a : float
        Current when receiving (or simply on) and when transmitting. [A]
    transmit_share : float
        Share of the time on spent transmitting, 0 to 1.
    """
    return receive_a * (1.0 - transmit_share) + transmit_a * transmit_share


TIERS = ("vital", "useful", "comfort")
TIER_NAMES = {"vital": "Vital", "useful": "Useful", "comfort": "Nice to have"}
"""From what is shed last to what is shed first."""


@dataclass(frozen=True, kw_only=True)
class LoadDraw:
    """One load at a tempo; currents are of all its units at the battery bus. [A]

    `key_step_a` is what keying adds at the moment of key-down, one unit at a time if it is
    interlocked.
    """

    load: Load
    rail: Rail | None
    bus_v: float
    standby_a: float
    receive_a: float
    transmit_a: float
    key_step_a: float
    mean_on_a: float
    on_share: FloatArray
    nothing: str = ""
    """Why it draws nothing of the main bank, in words; empty where it does."""

    @cached_property
    def groups(self) -> frozenset[str]:
        """Of which it is never at its hardest together with another."""
        return groups_of(self.load)

    @cached_property
    def at_full_power(self) -> "LoadDraw":
        """The same with a set that is turned down turned up again, as far as its cap allows: what
        wire is laid for."""
        if self.load.power_w is None or self.nothing:
            return self
        load = self.load.model_copy(update={"power_w": None})
        many, pressed = load.quantity, key_down(load)
        receive_a = self.receive_a / many
        step_a = (
            max(0.0, bus_current_a(pressed.amps, self.rail, self.bus_v) - receive_a)
            if pressed
            else 0.0
        )
        transmit_a = bus_current_a(transmitting_a(load), self.rail, self.bus_v)
        return replace(
            self,
            load=load,
            transmit_a=transmit_a * many,
            key_step_a=max(self.key_step_a, step_a * (1 if load.interlock.strip() else many)),
            mean_on_a=max(
                self.mean_on_a,
                mean_on_current_a(receive_a, transmit_a, load.transmit_share.value) * many,
            ),
        )

    @property
    def standing_a(self) -> float:
        """What it draws beside whatever is at its hardest: nothing where it is off then. [A]"""
        return 0.0 if self.groups and self.load.transmit_a is None else self.receive_a

    @cached_property
    def step(self) -> Step:
        """What it adds at its hardest: keyed, or on at all where it is off beside others of its
        groups."""
        adds_a = self.receive_a if self.groups and self.load.transmit_a is None else self.key_step_a
        return Step(adds_a, self.groups)

    @cached_property
    def hours(self) -> FloatArray:
        """Hours a day on, by month. [h]"""
        return np.asarray(self.on_share.sum(axis=1))

    @cached_property
    def hourly_a(self) -> FloatArray:
        """Mean current by month and clock hour, standby included, shape (12, 24). [A]"""
        resting = np.zeros((12, 1))
        resting[np.array(self.load.months) - 1] = self.standby_a
        return np.asarray(self.on_share * self.mean_on_a + (1 - self.on_share) * resting)

    @cached_property
    def daily_ah(self) -> FloatArray:
        """Amp-hours a day, by month. [A·h]"""
        return np.asarray(self.hourly_a.sum(axis=1))

    @property
    def receive_daily_ah(self) -> float:
        """Amp-hours a day spent receiving, in the month it draws most. [A·h]"""
        return float(self.receive_a * (1 - self.load.transmit_share.value) * self.hours.max())


@dataclass(frozen=True)
class StationDraw:
    """Everything that draws, at one tempo. `idle_ah` is what each rail takes for itself in a day.
    [A·h]"""

    loads: tuple[LoadDraw, ...]
    idle_ah: dict[str, float]
    heating_ah: FloatArray
    """What holding the bank's box warm takes in a day, by month, shape (12,). [A·h]"""

    @cached_property
    def by_month(self) -> FloatArray:
        """Amp-hours a day, by month. [A·h]"""
        total = self.heating_ah + sum(self.idle_ah.values())
        for item in self.loads:
            total = total + item.daily_ah
        return total

    @cached_property
    def hourly_a(self) -> FloatArray:
        """Mean current of everything by month and clock hour, shape (12, 24). [A]"""
        steady = (self.heating_ah + sum(self.idle_ah.values())) / HOURS_A_DAY
        total = np.tile(steady[:, None], (1, HOURS_A_DAY))
        for item in self.loads:
            total = total + item.hourly_a
        return total

    def flowing_a(self, month: int) -> float:
        """Mean current while it flows, each amp-hour counted by the current it left at [A]: Σ I² /
        Σ I over a day."""
        hourly = self.hourly_a[month - 1]
        total = float(hourly.sum())
        return float((hourly**2).sum()) / total if total > 0 else 0.0

    def night_ah(self, month: int, night_h: float) -> float:
        """Drawn in a night of so many hours about midnight, as the loads run. [A·h]"""
        edges = np.arange(HOURS_A_DAY)
        before = np.clip(night_h / 2.0 - edges, 0.0, 1.0)
        after = np.clip(edges + 1.0 - (HOURS_A_DAY - night_h / 2.0), 0.0, 1.0)
        return float((self.hourly_a[month - 1] * np.minimum(before + after, 1.0)).sum())

    def idle_tier(self, rail_id: str) -> str:
        """The worth of what a rail idles away: that of the worthiest load on it, with which it is
        shed."""
        there = {item.load.tier or "vital" for item in self.loads if item.load.rail == rail_id}
        return next((tier for tier in TIERS if tier in there), "vital")

    def of(self, load_id: str) -> LoadDraw:
        """One load by id."""
        return next(item for item in self.loads if item.load.id == load_id)


def is_operated(load: Load) -> bool:
    """Whether an operator keys it, so that a tempo's transmit share goes for it."""
    return (
        load.transmit_a is not None
        and rows_by("load_kinds", "kind")[load.kind]["operated"] == "yes"
    )


def at_tempo(load: Load, tempo: Tempo) -> Load:
    """The load as a tempo works it: its own override first, then the tempo's share for what an
    operator keys."""
    changes: dict[str, object] = {}
    if tempo.transmit_share is not None and is_operated(load):
        changes["transmit_share"] = tempo.transmit_share
    override = next((item for item in tempo.overrides if item.load == load.id), None)
    if override is not None:
        if override.transmit_share is not None and load.transmit_a is not None:
            changes["transmit_share"] = override.transmit_share
        if override.hours_per_day is not None:
            changes |= {
                "hours_per_day": override.hours_per_day,
                "pattern": None,
                "events": None,
                "thermostat": None,
            }
    return load.model_copy(update=changes) if changes else load


def tempo_of(draw: Draw, tempo_id: str | None = None) -> Tempo:
    """A tempo by id, the one the design is sized on unless told otherwise."""
    return next(tempo for tempo in draw.tempos if tempo.id == (tempo_id or draw.sized_on))


def nominal_bus_v(design: Design) -> float:
    """Nominal volts of the battery bus: the bank's, or 12 V where there is no bank yet."""
    bank = design.store.bank
    return NO_BANK_V if bank is None else bank.series * bank.unit_v


def load_draw(
    draw: Draw,
    load: Load,
    bus_v: float,
    climate: Climate,
    how: str | None = None,
    gone: bool = False,
) -> LoadDraw:
    """What a load takes, as it stands, on a bus of so many volts; nothing where it is gone: it
    sheds itself.

    Parameters
    ----------
    bus_v : float
        Nominal volts. [V]
    how : str or None
        The tempo it works at, in place of the design's.
    gone : bool
        Whether it has shed itself.
    """
    rail, many = rail_of(draw, load), load.quantity
    receive_a = bus_current_a(load.receive_a.value, rail, bus_v)
    transmit_a = bus_current_a(transmitting_a(load), rail, bus_v)
    standby_a = bus_current_a(load.standby_a.value, rail, bus_v) if load.standby_a else 0.0
    elsewhere = rail is not None and rail.bank != MAIN
    nothing = (
        "another battery feeds it"
        if elsewhere
        else "switched off, because what it needs is missing"
        if gone
        else ""
    )
    if nothing:
        receive_a = transmit_a = standby_a = 0.0
    pressed = None if nothing else key_down(load)
    step_a = max(0.0, bus_current_a(pressed.amps, rail, bus_v) - receive_a) if pressed else 0.0
    return LoadDraw(
        load=load,
        rail=rail,
        bus_v=bus_v,
        standby_a=standby_a * many,
        receive_a=receive_a * many,
        transmit_a=transmit_a * many,
        key_step_a=step_a * (1 if load.interlock.strip() else many),
        mean_on_a=mean_on_current_a(receive_a, transmit_a, load.transmit_share.value) * many,
        on_share=on_share(load, climate, how),
        nothing=nothing,
    )


def heaviest_month(by_month: FloatArray, months_in_use: list[int]) -> int:
    """The month in use with the largest draw, the first of equals.

    Parameters
    ----------
    by_month : ndarray
        Drawn a day, shape (12,). [A·h]
    months_in_use : list[int]
        1 to 12.

    Returns
    -------
    int
        The month, 1 to 12.
    """
    in_use = np.array(months_in_use)
    return int(in_use[np.argmax(by_month[in_use - 1])])


def station_draw(
    draw: Draw,
    bus_v: float,
    climate: Climate,
    tempo_id: str | None = None,
    heating_w: FloatArray | None = None,
    how: str | None = None,
    gone: frozenset[str] = frozenset(),
) -> StationDraw:
    """The station at a tempo, the one it is sized on unless told otherwise.

    Parameters
    ----------
    bus_v : float
        Nominal volts of the battery bus. [V]
    climate : Climate
        The air that thermostats feel.
    heating_w : ndarray of shape (12,), optional
        What holding the bank's box warm takes, by month; nothing unless given. [W]
    how : str, optional
        Another way to lay hours that nobody has placed: evening, day or round.
    gone : frozenset of str, optional
        Loads that are off: they shed themselves, as what they need is not there.

    Returns
    -------
    StationDraw
        Every load with its currents and hours.
    """
    tempo = tempo_of(draw, tempo_id)
    loads = tuple(
        load_draw(draw, at_tempo(load, tempo), bus_v, climate, how, load.id in gone)
        for load in draw.loads
    )
    heating_ah = np.zeros(12) if heating_w is None else heating_w * HOURS_A_DAY / bus_v
    heating_ah = np.where(heating_ah < NOTHING, 0.0, heating_ah)
    return StationDraw(
        loads,
        {rail.id: idle_daily_ah(rail, bus_v) if rail.bank == MAIN else 0.0 for rail in draw.rails},
        heating_ah,
    )
