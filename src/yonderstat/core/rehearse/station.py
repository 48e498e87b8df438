"""A design as the kernel sees it: hours of source, load, floor and lock, and the rules of its
bank."""

from dataclasses import dataclass, field, replace
from functools import cache
from typing import cast

import numpy as np
from numpy.typing import NDArray

from ..calendar import year_days
from ..data import rows_by
from ..design import BUS, Bank, Charger, Chemistry, Design
from ..draw import MAINS_KINDS, TIERS, StationDraw, pointless, waits_for_a_hand
from ..keeping import kept_hours
from ..station import StationModel
from ..store import (
    COLD_DAY_SIGMAS,
    BankModel,
    bank_resistance_ohm,
    charge_low_c,
    cut_off_v,
    heater_help_k,
    kind_of,
    most_charge_a,
    rest_course_v,
    self_discharge,
    temperature_factor,
)
from ..weather import model_figure
from .assumed import assumed_figure
from .in_service import lines_of
from .kernel import (
    BACKUP_LEFT_H,
    CHARGE,
    COLD_HELPED,
    COLD_HOPELESS,
    COLD_SLOW,
    NO_LIMIT_A,
    RESERVE,
    STATES,
    Hours,
    Rules,
    at_even,
)
from .sources import (
    AirKey,
    Site,
    backup_day,
    backup_of,
    engine_a,
    lagged_departure_k,
    plane_w_m2,
    string_a,
)

FloatArray = NDArray[np.float64]

COLUMNS = (*TIERS, "deferred")
HOURS = 24
HOURS_A_MONTH = 365 * HOURS / 12
REST_POINTS = 41
COLD_TABLE_C = np.arange(-60.0, 81.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class HourlyStation:
    """The station for the kernel, and what is told about it."""

    model: StationModel
    held: BankModel
    rules: Rules
    hours: Hours
    months: NDArray[np.int64]
    """Month of each hour, 0 to 11, shape (8760,)."""
    strings_a: tuple[tuple[str, FloatArray], ...]
    """What each string gives, by id; their sum is in `hours`."""
    sun_w_m2: FloatArray
    """On the main plane, for telling the weather, shape (years, 8760)."""
    bank_c: FloatArray
    """Shape (years, 8760)."""
    backup: str
    """Name of what stands behind the bank; empty where nothing does."""

    @property
    def bus_v(self) -> float:
        """Nominal volts of the bus."""
        return self.model.bus_v

    @property
    def hard_month(self) -> int:
        """The month the design is judged by."""
        return self.model.hard_month

    @property
    def absorb_v(self) -> float:
        """Volts at which the bank absorbs."""
        return self.model.array.absorb_v

    @property
    def bank(self) -> Bank:
        """The main bank."""
        return self.held.bank

    @property
    def shut(self) -> NDArray[np.bool_]:
        """Hours in which it is too cold to be charged and no heater helps, shape (years, 8760)."""
        return self.shut_of(self.hours.locked)

    def shut_of(self, locked: NDArray[np.int8]) -> NDArray[np.bool_]:
        """The same of some hours.

        Parameters
        ----------
        locked : ndarray
            How cold the bank is in each, of any shape.

        Returns
        -------
        ndarray
            Of the same shape.
        """
        return np.asarray(
            (locked == COLD_HOPELESS) | ((locked == COLD_HELPED) & (self.rules.heater_a <= 0.0))
        )

    @property
    def goes_on(self) -> bool:
        """Whether it runs on under the planned depth until it is cut off: a station that is judged
        by its service. Days away or without mains, and what mains stand behind, are planned by the
        depth and kept to it."""
        return self.model.purpose.judged_by == "service"

    def kept_to_plan(self) -> "HourlyStation":
        """The same that is cut off where the planned depth ends: what a size is chosen by."""
        return replace(self, hours=self.hours._replace(end_ah=self.hours.floor_ah))

    @property
    def years(self) -> int:
        """How many weather years."""
        return int(self.hours.panels_a.shape[0])

    def start(self, share: float = 1.0) -> FloatArray:
        """The state at the first midnight with so much of what may be used; the layers are full.

        Parameters
        ----------
        share : float, optional
            Of what may be used.

        Returns
        -------
        ndarray of shape (STATES,)
            The state.
        """
        state = np.zeros(STATES)
        floor = float(self.hours.floor_ah[0, 0])
        state[CHARGE] = floor + share * (self.rules.full_ah - floor)
        state[RESERVE] = self.rules.reserve_ah
        state[BACKUP_LEFT_H] = self.rules.backup_h_per_day
        return state

    def guessed(self, sun: FloatArray, load: float) -> "HourlyStation":
        """The same with so many times the sun, by month, shape (12,), and so many times the load.

        Parameters
        ----------
        sun : ndarray
            Times the sun, by month, shape (12,).
        load : float
            Times the load.

        Returns
        -------
        HourlyStation
            A copy.
        """
        panels_a = self.hours.panels_a * sun[self.months]
        hours = self.hours._replace(panels_a=panels_a, load_a=self.hours.load_a * load)
        return replace(self, hours=hours)

    def colder(self, kelvin: float) -> "HourlyStation":
        """The same with a colder bank."""
        bank_c = self.bank_c - kelvin
        floor_ah = _floor_ah(self.held, bank_c)
        end_ah = _end_ah(self.held, bank_c) if self.goes_on else floor_ah
        hours = self.hours._replace(
            floor_ah=floor_ah, end_ah=end_ah, locked=_locked(self.bank, bank_c)
        )
        return replace(self, hours=hours, bank_c=bank_c)

    def first(self, years: int) -> "HourlyStation":
        """Its first years only."""
        kept = self.hours._replace(
            panels_a=self.hours.panels_a[:years],
            floor_ah=self.hours.floor_ah[:years],
            end_ah=self.hours.end_ah[:years],
            locked=self.hours.locked[:years],
        )
        return replace(self, hours=kept, sun_w_m2=self.sun_w_m2[:years], bank_c=self.bank_c[:years])


def hour_months() -> NDArray[np.int64]:
    """Month of each hour of a common year, 0 to 11, shape (8760,).

    Returns
    -------
    ndarray of shape (8760,)
        0 to 11.
    """
    return np.repeat(year_days()[0].astype(np.int64) - 1, HOURS)


def hourly_loads(
    design: Design, station: StationDraw, gone: frozenset[str] = frozenset(), all_year: bool = False
) -> FloatArray:
    """What each tier wants in every hour of a common year, and what may wait, shape (8760, 4). [A]

    A converter's idle draw is shed with the last load on it. Months not in use draw nothing over
    the year; in a spell or a scene that is played in or into them the station is used.

    Parameters
    ----------
    gone : frozenset of str
        Ids of loads that are switched off.
    all_year : bool
        Whether months not in use are used all the same.

    Returns
    -------
    ndarray of shape (8760, 4)
        Vital, useful, comfort, and what may wait. [A]
    """
    wanted = np.zeros((12, HOURS, 4))
    for rail_id, idle_ah in station.idle_ah.items():
        wanted[:, :, TIERS.index(station.idle_tier(rail_id))] += idle_ah / HOURS
    wanted[:, :, 0] += station.heating_ah[:, None] / HOURS
    for item in station.loads:
        if item.load.id in gone:
            continue
        tier = item.load.tier or "vital"
        waits = item.load.deferrable and tier != "vital"
        wanted[:, :, 3 if waits else TIERS.index(tier)] += item.hourly_a
    if not all_year:
        wanted[[month for month in range(12) if month + 1 not in design.brief.months]] = 0.0
    return np.ascontiguousarray(wanted[year_days()[0] - 1].reshape(-1, 4))


def hourly_power(
    design: Design, station: StationDraw, gone: frozenset[str] = frozenset()
) -> FloatArray:
    """Of what each tier wants, the part that keeps its watts and so takes more amps as the volts
    fall: what hangs on a converter, and loads that say so.

    Parameters
    ----------
    gone : frozenset of str
        Ids of loads that are switched off.

    Returns
    -------
    ndarray of shape (8760, 4)
        Vital, useful, comfort, and what may wait. [A]
    """
    steady = {
        load.id
        for load in design.draw.loads
        if load.rail == BUS and load.behaviour == "constant_current"
    }
    return hourly_loads(design, station, gone | steady, all_year=True)


@dataclass(frozen=True, slots=True)
class _Kept:
    """A bank as a key of what depends on some figures of it alone."""

    key: tuple[object, ...]
    held: BankModel = field(compare=False)


def _warmth(held: BankModel) -> _Kept:
    """By what its warmth depends on."""
    spread_k = None if held.spread_k is None else held.spread_k.tobytes()
    return _Kept((held.bank.housing, held.month_c.tobytes(), spread_k, held.least_c), held)


@kept_hours
def _bank_c(kept: _Kept, site: Site | None, air: AirKey | None, years: int) -> FloatArray:
    """How warm the bank is in every hour: its month, and how the air, lagged by its mass, departs
    from the month's.

    Kept, as is its floor, from one edit to the next: what is changed is mostly something else.
    """
    held, months = kept.held, hour_months()
    departs = None
    if held.spread_k is not None and site is not None and air is not None:
        departs = lagged_departure_k(
            site, air, float(rows_by("housings", "housing")[held.bank.housing]["lag_h"])
        )
    if departs is None or held.spread_k is None:
        return np.tile(held.month_c[months], (years, 1))
    # The months' figures are those of a cold day, typed in or derived: the usual day is as much
    # warmer.
    usual = held.month_c + COLD_DAY_SIGMAS * held.spread_k
    # No hour is colder than the coldest night of a year: a normal spread has a tail that the place
    # has not.
    return np.asarray(np.maximum(departs + usual[months], held.least_c))


@cache
def _cold_factors(chemistry: Chemistry) -> FloatArray:
    return np.array([temperature_factor(chemistry, value) for value in COLD_TABLE_C])


@kept_hours
def _usual_floor_ah(kept: _Kept, site: Site | None, air: AirKey | None, years: int) -> FloatArray:
    return _floor_ah(kept.held, _bank_c(_warmth(kept.held), site, air, years))


def _floor_ah(held: BankModel, bank_c: FloatArray) -> FloatArray:
    """In the cold less of the charge can be had: the floor stands higher by what the temperature
    keeps back."""
    kept_ah = np.maximum(
        held.rated_ah - held.rated_ah * held.depth * _cold_factors(held.bank.chemistry), 0.0
    )
    floor_ah = np.empty_like(bank_c)
    at_even(kept_ah, float(COLD_TABLE_C[0]), 1.0, bank_c, floor_ah)
    return floor_ah


@kept_hours
def _usual_end_ah(kept: _Kept, site: Site | None, air: AirKey | None, years: int) -> FloatArray:
    return _end_ah(kept.held, _bank_c(_warmth(kept.held), site, air, years))


def _end_ah(held: BankModel, bank_c: FloatArray) -> FloatArray:
    """Where the bank gives nothing any more, whatever is planned: all it holds at that temperature
    is out."""
    kept_ah = np.maximum(held.rated_ah - held.rated_ah * _cold_factors(held.bank.chemistry), 0.0)
    end_ah = np.empty_like(bank_c)
    at_even(kept_ah, float(COLD_TABLE_C[0]), 1.0, bank_c, end_ah)
    return end_ah


def _locked(bank: Bank, bank_c: FloatArray) -> NDArray[np.int8]:
    """How cold lithium is in every hour: too cold to be charged, heater or not, or to be charged
    only slowly."""
    if kind_of(bank.chemistry).is_lead:
        return np.zeros(bank_c.shape, dtype=np.int8)
    limit_c = charge_low_c(bank)
    # In a heated box the heater is a load of its own, and has warmed the bank already.
    help_k = 0.0 if bank.housing == "heated" else heater_help_k(bank)
    slow_c = bank.limits.slow_below_c if bank.limits.slow_charge_a else None
    if float(bank_c.min()) >= max(limit_c, slow_c.value if slow_c else limit_c):
        return np.zeros(bank_c.shape, dtype=np.int8)
    cold, hopeless = bank_c < limit_c - 1e-9, bank_c + help_k < limit_c - 1e-9
    slow = bank_c < slow_c.value if slow_c else np.zeros(bank_c.shape, dtype=np.bool_)
    found = np.select([hopeless, cold, slow], [COLD_HOPELESS, COLD_HELPED, COLD_SLOW], 0)
    return np.asarray(found.astype(np.int8))


def _back_share(bank: Bank, full_ah: float, floor_ah: float, bus_v: float) -> float:
    """Share of what may be used at which a bank that was cut off comes back."""
    if bank.reconnect_v is None:
        return assumed_figure("back_share")
    shares = np.linspace(0.0, 1.0, REST_POINTS)
    at = float(np.interp(bank.reconnect_v.value, rest_course_v(bank, bus_v, shares), shares))
    return float(np.clip((at * full_ah - floor_ah) / max(full_ah - floor_ah, 1e-9), 0.01, 1.0))


def _rules(
    model: StationModel,
    held: BankModel,
    floor_ah: FloatArray,
    load_a: FloatArray,
    charger: Charger | None,
) -> Rules:
    bank, bus_v, kind = held.bank, model.bus_v, kind_of(held.bank.chemistry)
    reserve = model.reserve
    by_hand = bank.restart == "by_hand" or waits_for_a_hand(model.design)
    accept = assumed_figure("lead_accept_per_h" if kind.is_lead else "lithium_accept_per_h")
    heater = bank.limits.heater_w.value / bus_v if bank.limits.heater_w else 0.0
    # Mains that are there all year hold a bank full; where the sun is to carry what it can, they
    # only help out.
    held_full = (
        charger is not None and charger.kind in MAINS_KINDS and model.purpose.sun_must_balance
    )
    owed = load_a[:, 3].reshape(-1, HOURS).sum(axis=1).max() * assumed_figure("owed_days")
    return Rules(
        full_ah=held.rated_ah,
        efficiency=model.array.kept_share,
        accept_per_h=accept,
        most_charge_a=most_charge_a(bank),
        leak_per_h=self_discharge(kind, held.mean_c) / HOURS_A_MONTH,
        idle_a=sum((string.electric.self_draw_a for string in model.array.strings), 0.0),
        heater_a=0.0 if kind.is_lead or bank.housing == "heated" else heater,
        ohm=bank_resistance_ohm(bank, bus_v, float(held.month_c.min())),
        low_v=cut_off_v(bank),
        back_share=_back_share(bank, held.rated_ah, float(floor_ah.mean()), bus_v),
        hand_h=assumed_figure(model.design.brief.attended, "hand_h") if by_hand else 0.0,
        shed_useful=0.0,
        shed_comfort=0.0,
        hysteresis=assumed_figure("hysteresis"),
        backup_on=assumed_figure("held_on" if held_full else "backup_on"),
        backup_off=assumed_figure("held_off" if held_full else "backup_off"),
        backup_h_per_day=charger.running_h if charger else 0.0,
        defer_share=assumed_figure("defer_share"),
        owed_most_ah=float(owed),
        reserve_ah=reserve.usable_ah,
        reserve_efficiency=reserve.efficiency,
        reserve_charge_a=reserve.charge_a,
        slow_charge_a=slow.value * bank.parallel
        if (slow := bank.limits.slow_charge_a)
        else NO_LIMIT_A,
    )


def _panels(
    model: StationModel, site: Site | None, air: AirKey | None
) -> list[tuple[str, FloatArray]] | None:
    """What each string gives; None where the sun is not known."""
    found = []
    for item in model.array.strings:
        amps = string_a(site, air, item.string, item.electric) if site and air else None
        if amps is None:
            return None
        # What is wired to another bank alone brings this one nothing.
        found.append((item.string.id, amps * 0.0 if item.string.id in model.array.astray else amps))
    return found


def _weather(model: StationModel, years: int, recorded: bool) -> tuple[Site | None, AirKey | None]:
    """What light and air of every hour depend on; None without a place."""
    sky, place = model.sky, model.design.place
    if sky is None or place is None:
        return None, None
    seed = int(model_figure("seed"))
    spread = tuple(float(value) for value in model.climate.spread_k)
    return (
        Site(
            here=sky.here,
            conditions=sky.conditions,
            time_zone=place.time_zone,
            years=years,
            seed=seed,
            recorded=recorded,
        ),
        (sky.air_c, sky.swing_k, spread),
    )


def hourly_station(
    model: StationModel, years: int | None = None, recorded: bool = False
) -> HourlyStation | None:
    """The station hour by hour; None without a bank, or where the sun is not known though there are
    panels.

    Parameters
    ----------
    years : int, optional
        How many weather years, 30 unless told otherwise.
    recorded : bool
        The weather file's own days, as one year; None comes back without one.
    """
    count = 1 if recorded else years or int(model_figure("years"))
    known = ("hourly station", count, recorded)
    if known not in model.memo:
        model.memo[known] = _hourly_station(model, count, recorded)
    return cast(HourlyStation | None, model.memo[known])


def _hourly_station(model: StationModel, count: int, recorded: bool) -> HourlyStation | None:
    held = model.bank
    if held is None:
        return None
    site, air = _weather(model, count, recorded)
    strings = _panels(model, site, air)
    if strings is None:
        return None
    main = model.main_plane
    sun = plane_w_m2(site, main.mounting) if site and main and strings else None
    warmth = _warmth(held)
    bank_c = _bank_c(warmth, site, air, count)
    whole = _Kept((warmth, held.rated_ah, held.depth, held.bank.chemistry), held)
    floor = _usual_floor_ah(whole, site, air, count)
    end = _usual_end_ah(whole, site, air, count) if model.purpose.judged_by == "service" else floor
    load_a = hourly_loads(model.design, model.draw, pointless(model.design), model.purpose.is_spell)
    charger = backup_of(model.design, model.array.absorb_v)
    panels_a = np.zeros_like(bank_c)
    for _, amps in strings:
        panels_a += amps
    rest_v = rest_course_v(held.bank, model.bus_v, np.linspace(0.0, 1.0, REST_POINTS))
    lines = lines_of(model, rest_v)
    hours = Hours(
        rest_v=rest_v,
        fixed_a=np.tile(engine_a(model.design) * (1.0 if model.array.engine_ah > 0 else 0.0), 365),
        panels_a=panels_a,
        backup_a=np.tile(backup_day(charger), 365),
        load_a=load_a,
        floor_ah=floor,
        end_ah=end,
        locked=_locked(held.bank, bank_c),
        new_day=np.arange(365 * HOURS) % HOURS == 0,
        still_ah=lines.still * held.rated_ah,
        fed_ah=lines.fed * held.rated_ah,
    )
    rules = _rules(model, held, floor, load_a, charger)
    return HourlyStation(
        model=model,
        held=held,
        rules=rules._replace(lines=1.0 if lines.any else 0.0, fed_a=lines.fed_a),
        hours=hours,
        months=hour_months(),
        strings_a=tuple(strings),
        sun_w_m2=sun if sun is not None else np.zeros_like(bank_c),
        bank_c=bank_c,
        backup=charger.name if charger else "",
    )
