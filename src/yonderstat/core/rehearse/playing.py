"""A scene through the kernel: the stretch of weather, the loads by day, what happens from hour to
hour."""

from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from ..calendar import year_days
from ..controllers import controller_type
from ..design import Design
from ..draw import is_operated, pointless
from .kernel import (
    CHARGE,
    OUT_CHARGE,
    OUT_DEFERRED,
    OUT_FROM,
    OUT_INTO,
    OUT_RESERVE,
    OUT_TRIPPED,
    OUT_VITAL,
    OUTS,
    RESERVE,
    STANDING,
    WORN_AH,
    Hours,
    Rules,
    run_years,
)
from .scene import Happening, Scene, Sky
from .station import HOURS, HourlyStation, hourly_loads, hourly_power
from .tally import scaled_bank

FloatArray = NDArray[np.float64]

RANKS: dict[Sky, float] = {"typical": 0.5, "poor": 0.1, "worst": 0.0, "record": 0.0, "none": 0.0}
"""Where the stretch stands among all weather years by what the panels bring, 0 the dullest."""


@dataclass(frozen=True, slots=True)
class Stage:
    """The stretch a scene is played in: the hours of the year, and everything that comes from
    outside."""

    station: HourlyStation
    at: NDArray[np.int64]
    """Hour of the year of each hour, shape (n,)."""
    year: int
    strings_a: tuple[tuple[str, FloatArray], ...]
    sun_w_m2: FloatArray


@dataclass(frozen=True, slots=True, kw_only=True)
class Played:
    """Every hour of a scene; `out` has the kernel's columns, `wanted` the tiers'."""

    stage: Stage
    wanted_a: FloatArray
    """Shape (n, 4)."""
    panels_a: FloatArray
    out: FloatArray
    """Shape (n, OUTS)."""
    floor_ah: FloatArray
    full_ah: FloatArray

    @property
    def worn(self) -> NDArray[np.bool_]:
        """Hours that end under the planned depth."""
        return np.asarray(self.out[:, OUT_CHARGE] < self.floor_ah - WORN_AH)

    @property
    def share(self) -> FloatArray:
        """Charge as a share of what may be used, at the end of each hour."""
        room = np.maximum(self.full_ah - self.floor_ah, 1e-9)
        return np.clip((self.out[:, OUT_CHARGE] - self.floor_ah) / room, 0.0, 1.0)

    @property
    def dark(self) -> NDArray[np.bool_]:
        """Hours in which the vital tier is not served in full."""
        wanted = self.wanted_a[:, 0]
        return np.asarray((self.out[:, OUT_VITAL] < wanted - 1e-9) & (wanted > 0))


def start_day(month: int, day: int) -> int:
    """Day of the year, from 0; the last day of a shorter month stands for what it does not have."""
    chosen = np.flatnonzero(year_days()[0] == month)
    return int(chosen[min(day, chosen.size) - 1])


def stage_at(station: HourlyStation, scene: Scene, year: int | None = None) -> Stage:
    """The stretch of weather a scene asks for, or that of a year.

    Parameters
    ----------
    year : int or None
        A weather year; by the scene's own luck where none is named.
    """
    n = scene.days * HOURS
    at = (start_day(scene.month, scene.day) * HOURS + np.arange(n)) % station.months.size
    if year is None:
        order = np.argsort(station.hours.panels_a[:, at].sum(axis=1), kind="stable")
        year = int(order[round(RANKS[scene.sky] * (order.size - 1))])
    part = 0.0 if scene.sky == "none" else 1.0
    strings = tuple((name, amps[year, at] * part) for name, amps in station.strings_a)
    return Stage(station, at, year, strings, station.sun_w_m2[year, at] * part)


def _active(happenings: list[Happening], kinds: set[str], hour: int) -> list[Happening]:
    return [item for item in happenings if item.kind in kinds and item.from_h <= hour < item.to_h]


def _panels(design: Design, stage: Stage, happenings: list[Happening]) -> FloatArray:
    """What the panels bring once strings, controllers and snow have had their say, shape (n,).
    [A]"""
    total = np.zeros(stage.at.size)
    leaders = {string.id: string.joins or string.id for string in design.array.strings}
    parallel = {string.id: string.parallel for string in design.array.strings}
    for name, amps in stage.strings_a:
        alive = np.ones(amps.size)
        for item in happenings:
            hit = (
                item.kind == "snow"
                or (item.kind == "string_lost" and item.of == name)
                or (
                    item.kind == "controller_lost"
                    and item.of is not None
                    and leaders.get(item.of) == leaders[name]
                )
            )
            if hit:
                alive[item.from_h : item.to_h] = 0.0
            elif item.kind == "panel_lost" and item.of == name and item.amount is not None:
                # Each in a row of its own, the worst that so many can do: a row with a dead panel
                # gives nothing.
                alive[item.from_h : item.to_h] *= max(0.0, 1.0 - item.amount / parallel[name])
        total += amps * alive
    return total


def turned_down(design: Design, watts: float) -> Design:
    """The design with every set an operator keys turned down to so many watts."""
    loads = []
    for load in design.draw.loads:
        setting = load.power_w or load.rated_w
        if is_operated(load) and setting is not None and setting.value > watts:
            load = load.model_copy(update={"power_w": setting.model_copy(update={"value": watts})})
        loads.append(load)
    return design.model_copy(update={"draw": design.draw.model_copy(update={"loads": loads})})


def _loads(design: Design, stage: Stage, scene: Scene) -> tuple[FloatArray, FloatArray]:
    """What each tier wants in every hour at the nominal volts, and what of it keeps its watts,
    shape (n, 4). [A]"""
    known = {tempo.id for tempo in design.draw.tempos}
    kept: dict[tuple[str | None, float | None, bool], tuple[FloatArray, FloatArray]] = {}

    def year_of(
        tempo: str | None, watts: float | None, internet: bool
    ) -> tuple[FloatArray, FloatArray]:
        key = (tempo, watts, internet)
        if key not in kept:
            changed = turned_down(design, watts) if watts is not None else design
            drawn, gone = (
                stage.station.model.changed(changed).draw_at(tempo),
                pointless(design, internet),
            )
            kept[key] = (
                hourly_loads(changed, drawn, gone, all_year=True),
                hourly_power(changed, drawn, gone),
            )
        return kept[key]

    wanted, power = np.empty((stage.at.size, 4)), np.empty((stage.at.size, 4))
    for hour in range(stage.at.size):
        tempo = scene.tempos[min(hour // HOURS, len(scene.tempos) - 1)] if scene.tempos else None
        low = _active(scene.happenings, {"low_power"}, hour)
        watts = min((item.amount for item in low if item.amount is not None), default=None)
        internet = not _active(scene.happenings, {"internet_down"}, hour)
        year, growing = year_of(tempo if tempo in known else None, watts, internet)
        wanted[hour], power[hour] = year[stage.at[hour]], growing[stage.at[hour]]
    for item in scene.happenings:
        if item.kind == "extra_load" and item.amount is not None:
            wanted[item.from_h : item.to_h, 0] += item.amount
    return wanted, power


def _fixed(stage: Stage, happenings: list[Happening]) -> FloatArray:
    """The engine, and what is started by hand, shape (n,). [A]"""
    fixed = stage.station.hours.fixed_a[stage.at].copy()
    for item in happenings:
        hours = slice(item.from_h, item.to_h)
        if item.kind == "charger_lost":
            fixed[hours] = 0.0
        elif item.kind in {"generator", "mains_back"} and item.amount is not None:
            fixed[hours] += item.amount
    return fixed


def _backup(stage: Stage, happenings: list[Happening]) -> FloatArray:
    """What stands behind the bank could give, shape (n,). [A]"""
    backup = stage.station.hours.backup_a[stage.at].copy()
    for item in happenings:
        if item.kind == "backup_lost":
            backup[item.from_h : item.to_h] = 0.0
    return backup


def _floors(
    stage: Stage, happenings: list[Happening]
) -> tuple[FloatArray, FloatArray, NDArray[np.int8]]:
    hours, year = stage.station.hours, stage.year
    floor, end = hours.floor_ah[year, stage.at].copy(), hours.end_ah[year, stage.at].copy()
    locked = hours.locked[year, stage.at].copy()
    for item in happenings:
        if item.kind == "cold_snap" and item.amount is not None:
            cold = stage.station.colder(item.amount).hours
            part = slice(item.from_h, item.to_h)
            floor[part], locked[part] = (
                cold.floor_ah[year, stage.at][part],
                cold.locked[year, stage.at][part],
            )
            end[part] = cold.end_ah[year, stage.at][part]
    return floor, end, locked


def _cut(hours: Hours, first: int, last: int) -> Hours:
    return hours._replace(
        fixed_a=hours.fixed_a[first:last],
        panels_a=np.ascontiguousarray(hours.panels_a[:, first:last]),
        backup_a=hours.backup_a[first:last],
        load_a=np.ascontiguousarray(hours.load_a[first:last]),
        floor_ah=np.ascontiguousarray(hours.floor_ah[:, first:last]),
        end_ah=np.ascontiguousarray(hours.end_ah[:, first:last]),
        locked=np.ascontiguousarray(hours.locked[:, first:last]),
        new_day=hours.new_day[first:last],
        still_ah=hours.still_ah[first:last],
        fed_ah=hours.fed_ah[first:last],
    )


def _run(rules: Rules, hours: Hours, state: FloatArray) -> FloatArray:
    out = np.empty((1, hours.panels_a.shape[1], OUTS))
    run_years(rules, hours, state, out)
    return np.asarray(out[0])


def swapped(rules: Rules, hours: Hours, state: FloatArray) -> FloatArray:
    """Hours in which the main bank is away being charged, and the layers carry the station alone.

    Shape (n, OUTS); `state` goes on. The main bank takes what the sources give; the layers get
    nothing meanwhile.

    Parameters
    ----------
    rules : Rules
        Of the bank and its controllers.
    hours : Hours
        Source, load, floor and lock of every hour.
    state : ndarray
        As the swap begins, shape (STATES,); left as it ends.

    Returns
    -------
    ndarray of shape (hours, OUTS)
        What each hour told.
    """
    nothing = np.zeros_like(hours.load_a)
    main_state = state.copy()
    main = _run(rules._replace(reserve_charge_a=0.0), hours._replace(load_a=nothing), main_state)
    still = np.zeros_like(hours.fixed_a)
    layer_state = np.zeros_like(state)
    layer_state[CHARGE], layer_state[STANDING] = state[RESERVE], state[STANDING]
    layer_rules = rules._replace(
        full_ah=max(rules.reserve_ah, 1e-9),
        idle_a=0.0,
        reserve_ah=0.0,
        reserve_charge_a=0.0,
        low_v=0.0,
    )
    alone = hours._replace(
        fixed_a=still,
        panels_a=np.zeros_like(hours.panels_a),
        backup_a=still,
        floor_ah=np.zeros_like(hours.floor_ah),
        end_ah=np.zeros_like(hours.end_ah),
    )
    layer = _run(layer_rules, alone, layer_state)
    out = main.copy()
    out[:, OUT_VITAL : OUT_DEFERRED + 1] = layer[:, OUT_VITAL : OUT_DEFERRED + 1]
    out[:, OUT_TRIPPED] = layer[:, OUT_TRIPPED]
    out[:, OUT_RESERVE] = layer[:, OUT_CHARGE]
    state[:] = main_state
    state[RESERVE], state[STANDING] = layer_state[CHARGE], layer_state[STANDING]
    return out


def _segments(scene: Scene) -> list[tuple[int, int]]:
    """Stretches of a day or less in which neither the bank's size nor who carries the station
    changes."""
    hours = scene.days * HOURS
    marks = set(range(0, hours + 1, HOURS))
    for item in scene.happenings:
        if item.kind in {"swap", "battery_lost"}:
            marks |= {min(item.from_h, hours), min(item.to_h, hours)}
    return list(pairwise(sorted(marks)))


LEAST_SHARE = 0.7
"""Of the nominal volts: under this a load has switched off, and takes no more."""
ALWAYS_SHED = 2.0
"""A tier told to stay off is shed below any charge there can be."""


@dataclass(frozen=True, slots=True)
class Sheds:
    """Shares below which the tiers are shed, of each day. Shape (days,)."""

    useful: FloatArray
    comfort: FloatArray


def sheds_of(scene: Scene) -> Sheds:
    """The scene's own, the same every day; below all of it means off from the start."""
    shares = [
        ALWAYS_SHED if share >= 1.0 else share for share in (scene.shed_useful, scene.shed_comfort)
    ]
    return Sheds(np.full(scene.days, shares[0]), np.full(scene.days, shares[1]))


def _scene_hours(design: Design, stage: Stage, scene: Scene) -> tuple[Hours, FloatArray]:
    """Everything that comes from outside, hour by hour; and the part of the load that keeps its
    watts."""
    floor, end, locked = _floors(stage, scene.happenings)
    wanted, power = _loads(design, stage, scene)
    hours = Hours(
        rest_v=stage.station.hours.rest_v,
        fixed_a=_fixed(stage, scene.happenings),
        panels_a=_panels(design, stage, scene.happenings)[None, :],
        backup_a=_backup(stage, scene.happenings),
        load_a=np.ascontiguousarray(wanted),
        floor_ah=floor[None, :],
        end_ah=end[None, :],
        locked=locked[None, :],
        new_day=np.arange(stage.at.size) % HOURS == 0,
        still_ah=stage.station.hours.still_ah[stage.at],
        fed_ah=stage.station.hours.fed_ah[stage.at],
    )
    return hours, power


def _at_their_volts(design: Design, played: Played, hours: Hours, power: FloatArray) -> Hours:
    """The hours with what the volts of a first run do: constant power takes more amps under the
    nominal volts, and a tracker puts in more amps the lower the bank stands while it charges."""
    station, volts = played.stage.station, bus_volts_of(played)
    at_bus = np.maximum(
        volts - played.out[:, OUT_FROM] * station.model.bus.bus_ohm, LEAST_SHARE * station.bus_v
    )
    more = np.maximum(station.bus_v / at_bus, 1.0) - 1.0
    tracked = {
        string.string.id
        for string in station.model.array.strings
        if controller_type(string.electric.kind).tracks
    }
    given = sum(
        (amps for name, amps in played.stage.strings_a if name in tracked),
        start=np.zeros_like(volts),
    )
    whole = sum((amps for _, amps in played.stage.strings_a), start=np.zeros_like(volts))
    part = np.divide(given, whole, out=np.zeros_like(given), where=whole > 0.0)
    charging = played.out[:, OUT_INTO] > 0.0
    gain = np.where(
        charging, part * (station.model.array.charge_v / np.maximum(volts, at_bus) - 1.0), 0.0
    )
    return hours._replace(
        load_a=np.ascontiguousarray(hours.load_a + power * more[:, None]),
        panels_a=np.ascontiguousarray(hours.panels_a * (1.0 + gain)[None, :]),
    )


@dataclass(slots=True)
class _Bank:
    """How much of the bank is there, and the charge that was taken away with the rest."""

    share: float = 1.0
    away_ah: float = 0.0

    def becomes(self, share: float, state: FloatArray) -> None:
        """What is taken away takes its charge with it; what is put back brings it again.

        Parameters
        ----------
        share : float
            Of its batteries, from now on.
        state : ndarray
            Of the station, shape (STATES,); its charge is changed.

        Returns
        -------
        None
            `state` is changed.
        """
        if share < self.share:
            taken = state[CHARGE] * (1.0 - share / self.share)
            state[CHARGE] -= taken
            self.away_ah += taken
        elif share > self.share:
            state[CHARGE] += self.away_ah
            self.away_ah = 0.0
        self.share = share


def _bank_share(stage: Stage, scene: Scene, hour: int) -> float:
    parallel = stage.station.bank.parallel
    return (parallel - 1) / parallel if _active(scene.happenings, {"battery_lost"}, hour) else 1.0


def play(design: Design, stage: Stage, scene: Scene, sheds: Sheds | None = None) -> Played:
    """Run a scene hour by hour.

    Parameters
    ----------
    sheds : Sheds, optional
        What is shed, where somebody decides it day by day; the scene's own otherwise.
    """
    scene = scene.day_by_day()
    (hours, power), sheds = _scene_hours(design, stage, scene), sheds or sheds_of(scene)
    first = _played(stage, scene, sheds, hours)
    return _played(stage, scene, sheds, _at_their_volts(design, first, hours, power))


def _played(stage: Stage, scene: Scene, sheds: Sheds, hours: Hours) -> Played:
    """A scene run hour by hour with what comes from outside settled."""
    state = stage.station.start()
    floor = hours.floor_ah[0]
    state[CHARGE] = floor[0] + scene.start_share * (stage.station.rules.full_ah - floor[0])
    parts, fulls, floors = [], [], []
    bank = _Bank()
    for first, last in _segments(scene):
        day = first // HOURS
        bank.becomes(_bank_share(stage, scene, first), state)
        # A kernel divides by what the bank holds: a bank that is gone is one too small to matter.
        scale = max(bank.share, 1e-6)
        rules = scaled_bank(stage.station, scale)._replace(
            shed_useful=float(sheds.useful[day]), shed_comfort=float(sheds.comfort[day])
        )
        part = _cut(hours, first, last)
        part = part._replace(floor_ah=part.floor_ah * scale, end_ah=part.end_ah * scale)
        run = swapped if _active(scene.happenings, {"swap"}, first) else _run
        parts.append(run(rules, part, state))
        fulls.append(np.full(last - first, rules.full_ah))
        floors.append(part.floor_ah[0])
    return Played(
        stage=stage,
        wanted_a=hours.load_a,
        panels_a=hours.panels_a[0],
        out=np.concatenate(parts),
        floor_ah=np.concatenate(floors),
        full_ah=np.concatenate(fulls),
    )


def bus_volts_of(played: Played) -> FloatArray:
    """Volts at the posts at the end of each hour, shape (n,) [V].

    Discharging: rested volts less what the current loses in the bank. Charging: from rest towards
    absorption, by how much of what the bank accepts goes in.

    Parameters
    ----------
    played : Played
        The scene played.

    Returns
    -------
    ndarray of shape (hours,)
        At the posts. [V]
    """
    station, out = played.stage.station, played.out
    rules = station.rules
    shares = np.linspace(0.0, 1.0, station.hours.rest_v.size)
    rest = np.interp(out[:, OUT_CHARGE] / played.full_ah, shares, station.hours.rest_v)
    missing = np.maximum(played.full_ah - out[:, OUT_CHARGE], 0.0)
    accepts = np.minimum(rules.most_charge_a, rules.accept_per_h * missing)
    into = out[:, OUT_INTO]
    pressed = np.divide(into, accepts, out=np.ones_like(into), where=accepts > 1e-6)
    charging = rest + np.maximum(station.absorb_v - rest, 0.0) * np.clip(pressed, 0.0, 1.0)
    return np.asarray(np.where(into > 0.0, charging, rest - out[:, OUT_FROM] * rules.ohm))
