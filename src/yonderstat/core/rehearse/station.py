"""A design as the kernel sees it: hours of source, load, floor and lock, and the rules of its bank."""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from ..array import charge_volts, coulombic_share, electric_of, hardest_month, sky_over, string_months_ah
from ..calendar import year_days
from ..climate import climate_of
from ..data import rows_by
from ..design import Bank, Charger, Design
from ..draw import StationDraw, bus_volts, heaviest_month, station_draw
from ..purposes import purpose_of
from ..store import (
    COLD_DAY_SIGMAS,
    Surroundings,
    bank_resistance_ohm,
    bank_temperature,
    blocks_of_12v,
    charge_low_c,
    charge_settings,
    kind_of,
    most_charge_a,
    rest_v,
    self_discharge,
    temperature_factor,
    waterfall,
)
from ..sun import (
    conditions_of,
    mounting_of,
)
from ..weather import model_figure
from ..working import Workings
from .assumed import assumed_figure
from .kernel import BACKUP_LEFT_H, CHARGE, RESERVE, STATES, Hours, Rules
from .layers import Reserve, reserve_of
from .sources import AirKey, Site, backup_day, backup_of, engine_a, lagged_air_c, plane_w_m2, string_a

FloatArray = NDArray[np.float64]

TIERS = ("vital", "useful", "comfort")
COLUMNS = (*TIERS, "deferred")
HOURS = 24
HOURS_A_MONTH = 365 * HOURS / 12
REST_POINTS = 41
REFERENCE_C = 25.0
COLD_TABLE_C = np.arange(-60.0, 81.0)


@dataclass(frozen=True, slots=True)
class HourlyStation:
    """The station for the kernel, and what is told about it."""

    rules: Rules
    hours: Hours
    months: NDArray[np.int64]
    """Month of each hour, 0 to 11, shape (8760,)."""
    strings_a: tuple[tuple[str, FloatArray], ...]
    """What each string gives, by id; their sum is in `hours`."""
    sun_w_m2: FloatArray
    """On the first string's plane, for telling the weather, shape (years, 8760)."""
    bank_c: FloatArray
    """Shape (years, 8760)."""
    bus_v: float
    hard_month: int
    backup: str
    """Name of what stands behind the bank; empty where nothing does."""
    absorb_v: float
    bank: Bank
    held: "Held"

    @property
    def years(self) -> int:
        """How many weather years."""
        return int(self.hours.panels_a.shape[0])

    def start(self, share: float = 1.0) -> FloatArray:
        """The state at the first midnight with so much of what may be used; the layers are full."""
        state = np.zeros(STATES)
        floor = float(self.hours.floor_ah[0, 0])
        state[CHARGE] = floor + share * (self.rules.full_ah - floor)
        state[RESERVE] = self.rules.reserve_ah
        state[BACKUP_LEFT_H] = self.rules.backup_h_per_day
        return state

    def guessed(self, sun: float, load: float) -> "HourlyStation":
        """The same with so many times the sun and so many times the load."""
        hours = self.hours._replace(panels_a=self.hours.panels_a * sun, load_a=self.hours.load_a * load)
        return replace(self, hours=hours)

    def colder(self, kelvin: float) -> "HourlyStation":
        """The same with a colder bank."""
        bank_c = self.bank_c - kelvin
        hours = self.hours._replace(floor_ah=_floor_ah(self.bank, self.held, bank_c), locked=_locked(self.bank, bank_c))
        return replace(self, hours=hours, bank_c=bank_c)

    def first(self, years: int) -> "HourlyStation":
        """Its first years only."""
        kept = self.hours._replace(
            panels_a=self.hours.panels_a[:years], floor_ah=self.hours.floor_ah[:years], locked=self.hours.locked[:years]
        )
        return replace(self, hours=kept, sun_w_m2=self.sun_w_m2[:years], bank_c=self.bank_c[:years])


def hour_months() -> NDArray[np.int64]:
    """Month of each hour of a common year, 0 to 11, shape (8760,)."""
    return np.repeat(year_days()[0].astype(np.int64) - 1, HOURS)


def hourly_loads(design: Design, station: StationDraw, gone: frozenset[str] = frozenset()) -> FloatArray:
    """What each tier wants in every hour of a common year, and what may wait, shape (8760, 4). [A]

    Converters' idle counts as vital. Months not in use draw nothing.

    Parameters
    ----------
    gone : frozenset of str
        Ids of loads that are switched off.
    """
    wanted = np.zeros((12, HOURS, 4))
    wanted[:, :, 0] += sum(station.idle_ah.values()) / HOURS
    for item in station.loads:
        if item.load.id in gone:
            continue
        tier = item.load.tier or "vital"
        waits = item.load.deferrable and tier != "vital"
        wanted[:, :, 3 if waits else TIERS.index(tier)] += item.hourly_a
    wanted[[month for month in range(12) if month + 1 not in design.brief.months]] = 0.0
    return np.ascontiguousarray(wanted[year_days()[0] - 1].reshape(-1, 4))


def pointless(design: Design, internet: bool = True) -> frozenset[str]:
    """Loads that would shed themselves: they need mains where mains are what failed, or an internet that is down."""
    mains = purpose_of(design.brief.purpose).mains_when_judged
    gone = {need for need, there in (("mains", mains), ("internet", internet)) if not there}
    return frozenset(load.id for load in design.draw.loads if load.tier != "vital" and gone & set(load.needs))


def _hard_month(design: Design, station: StationDraw, charge_v: float) -> int:
    """The month in which the sun covers least of the draw; the heaviest where it is not known."""
    sky = sky_over(design)
    engine = engine_a(design).sum()
    stored = np.full(12, engine)
    for string in design.array.strings:
        months = string_months_ah(string, design.array, charge_v, sky) if sky else None
        if months is None:
            return heaviest_month(station.by_month, design.brief.months)
        stored = stored + np.array(months)
    if not station.by_month.any():
        return heaviest_month(station.by_month, design.brief.months)
    return hardest_month(design.brief.months, list(stored * coulombic_share(design)), list(station.by_month))


def _around(design: Design, sun_w_m2: FloatArray, workings: Workings) -> Surroundings | None:
    """Air and sun round the bank by month; None without a place."""
    sky = sky_over(design)
    if sky is None:
        return None
    air = tuple(
        workings.add(f"air.{month}", value, "°C", "air", "T", "mean") for month, value in enumerate(sky.air_c, start=1)
    )
    spread = climate_of(design).spread_k
    return Surroundings(air, tuple(float(value) for value in spread), tuple(float(value) for value in sun_w_m2))


@dataclass(frozen=True, slots=True)
class Held:
    """What the bank holds: all of it at 25 °C, the depth allowed, and how warm it is by month on a cold day."""

    full_ah: float
    depth: float
    month_c: FloatArray
    spread_k: FloatArray | None
    """Of the days' air; None where the bank does not follow the air."""


def _held(design: Design, bank: Bank, station: StationDraw, month: int, sun_w_m2: FloatArray) -> Held:
    workings = Workings()
    around = _around(design, sun_w_m2, workings)
    colds = [bank_temperature(bank, design.brief, m, month, around, workings).number for m in range(1, 13)]
    daily_ah = float(station.by_month[month - 1])
    average = workings.add("average_a", daily_ah / HOURS, "A", "average", "Q / 24", "around the clock")
    temperature = workings.add("cold", colds[month - 1], "°C", "bank", "T", "hard month")
    fall = waterfall(bank, design.brief, average, temperature, workings)
    follows = around is not None and bank.housing not in {"indoors", "heated"}
    spread = np.array(around.spread_k) if around is not None and follows else None
    return Held(fall.rated.number, fall.depth.number, np.array(colds), spread)


def _reserve(design: Design, held: Held, station: StationDraw, month: int, bus_v: float) -> Reserve:
    workings = Workings()
    cold = workings.add("bank_c", float(held.month_c[month - 1]), "°C", "bank", "T", "hard month")
    mean_w = float(station.by_month[month - 1]) / HOURS * bus_v
    return reserve_of(design, cold, workings.add("mean_w", mean_w, "W", "mean draw", "P", "hard month"), bus_v)


def _bank_c(bank: Bank, held: Held, site: Site | None, air: AirKey | None, years: int) -> FloatArray:
    """How warm the bank is in every hour: its month, and how the air, lagged by its mass, departs from the month's."""
    months = hour_months()
    steady = np.tile(held.month_c[months], (years, 1))
    if held.spread_k is None or site is None or air is None:
        return steady
    lagged = lagged_air_c(site, air, float(rows_by("housings", "housing")[bank.housing]["lag_h"]))
    if lagged is None:
        return steady
    means = np.array([lagged[:, months == month].mean() for month in range(12)])
    # A measured temperature is the month's usual one; one derived from the air is that of a cold day.
    usual = held.month_c if bank.cold_c is not None else held.month_c + COLD_DAY_SIGMAS * held.spread_k
    return np.asarray(lagged + (usual - means)[months])


def _floor_ah(bank: Bank, held: Held, bank_c: FloatArray) -> FloatArray:
    """In the cold less of the charge can be had: the floor stands higher by what the temperature keeps back."""
    factors = np.array([temperature_factor(bank.chemistry, value) for value in COLD_TABLE_C])
    usable = held.full_ah * held.depth * np.interp(bank_c, COLD_TABLE_C, factors)
    return np.asarray(np.maximum(held.full_ah - usable, 0.0))


def _locked(bank: Bank, bank_c: FloatArray) -> NDArray[np.bool_]:
    """Hours in which lithium is too cold to be charged; a heated box keeps it warm."""
    if kind_of(bank.chemistry).is_lead or bank.housing == "heated":
        return np.zeros(bank_c.shape, dtype=np.bool_)
    return np.asarray(bank_c < charge_low_c(bank))


def _back_share(bank: Bank, full_ah: float, floor_ah: float, bus_v: float) -> float:
    """Share of what may be used at which a bank that was cut off comes back."""
    if bank.back_v is None:
        return assumed_figure("back_share")
    shares = np.linspace(0.0, 1.0, REST_POINTS)
    volts = np.array([rest_v(bank, bus_v, share) for share in shares])
    at = float(np.interp(bank.back_v.value, volts, shares))
    return float(np.clip((at * full_ah - floor_ah) / max(full_ah - floor_ah, 1e-9), 0.01, 1.0))


def _rules(
    design: Design,
    bank: Bank,
    held: Held,
    months_floor: FloatArray,
    bus_v: float,
    load_a: FloatArray,
    reserve: Reserve,
    charger: Charger | None,
    idle_a: float,
) -> Rules:
    kind, mean_c = kind_of(bank.chemistry), float(held.month_c.mean())
    accept = assumed_figure("lead_accept_per_h" if kind.is_lead else "lithium_accept_per_h")
    heater = bank.limits.heater_w.value / bus_v if bank.limits.heater_w else 0.0
    owed = load_a[:, 3].reshape(-1, HOURS).sum(axis=1).max() * assumed_figure("owed_days")
    return Rules(
        full_ah=held.full_ah,
        efficiency=kind.coulombic_efficiency,
        accept_per_h=accept,
        most_charge_a=most_charge_a(bank),
        leak_per_h=self_discharge(kind, mean_c) / HOURS_A_MONTH,
        idle_a=idle_a,
        heater_a=0.0 if kind.is_lead else heater,
        ohm=bank_resistance_ohm(bank, bus_v, float(held.month_c.min())),
        low_v=bank.low_cut_v.value if bank.low_cut_v else 0.0,
        back_share=_back_share(bank, held.full_ah, float(months_floor.mean()), bus_v),
        hand_h=assumed_figure(design.brief.attended, "hand_h") if bank.restart == "by_hand" else 0.0,
        shed_useful=0.0,
        shed_comfort=0.0,
        hysteresis=assumed_figure("hysteresis"),
        backup_on=assumed_figure("backup_on"),
        backup_off=assumed_figure("backup_off"),
        backup_h_per_day=charger.running_h if charger else 0.0,
        defer_share=assumed_figure("defer_share"),
        owed_most_ah=float(owed),
        reserve_ah=reserve.usable_ah,
        reserve_efficiency=reserve.efficiency,
        reserve_charge_a=reserve.charge_a,
    )


def _panels(
    design: Design, site: Site | None, air: AirKey | None, charge_v: float
) -> tuple[list[tuple[str, FloatArray]], float] | None:
    """What each string gives, and what the controllers take for themselves; None where the sun is not known."""
    found, idle_a = [], 0.0
    for string in design.array.strings:
        electric = electric_of(string, design.array, charge_v)
        amps = string_a(site, air, string, electric) if site and air else None
        if amps is None:
            return None
        found.append((string.id, amps))
        idle_a += electric.self_draw_a
    return found, idle_a


def hourly_station(design: Design, years: int | None = None, recorded: bool = False) -> HourlyStation | None:
    """The design hour by hour; None without a bank, or where the sun is not known though there are panels.

    Parameters
    ----------
    years : int, optional
        How many weather years, 30 unless told otherwise.
    recorded : bool
        The weather file's own days, as one year; None comes back without one.
    """
    bank, sky = design.store.bank, sky_over(design)
    if bank is None:
        return None
    bus_v = bus_volts(design, Workings()).number
    charge_v = charge_volts(blocks_of_12v(bus_v))
    station = station_draw(design, bus_v)
    count = 1 if recorded else years or int(model_figure("years"))
    site = air = None
    if sky is not None and design.place is not None:
        conditions = conditions_of(design.sun)
        site = Site(sky.here, conditions, design.place.time_zone, count, int(model_figure("seed")), recorded)
        spread = tuple(float(value) for value in climate_of(design).spread_k)
        air = (sky.air_c, sky.swing_k, spread)
    panels = _panels(design, site, air, charge_v)
    if panels is None:
        return None
    strings, idle_a = panels
    months = hour_months()
    month = _hard_month(design, station, charge_v)
    sun = plane_w_m2(site, mounting_of(design.array.strings[0])) if site and strings else None
    sun_by_month = [0.0 if sun is None else float(sun[:, months == m].mean()) for m in range(12)]
    held = _held(design, bank, station, month, np.array(sun_by_month))
    bank_c = _bank_c(bank, held, site, air, count)
    floor = _floor_ah(bank, held, bank_c)
    load_a = hourly_loads(design, station, pointless(design))
    setting = charge_settings(bank, bus_v, held.full_ah, REFERENCE_C)[0]
    charger = backup_of(design, setting.absorb_v)
    reserve = _reserve(design, held, station, month, bus_v)
    locked = _locked(bank, bank_c)
    panels_a = np.zeros_like(bank_c)
    for _, amps in strings:
        panels_a += amps
    hours = Hours(
        rest_v=np.array([rest_v(bank, bus_v, share) for share in np.linspace(0.0, 1.0, REST_POINTS)]),
        fixed_a=np.tile(engine_a(design), 365),
        panels_a=panels_a,
        backup_a=np.tile(backup_day(charger), 365),
        load_a=load_a,
        floor_ah=floor,
        locked=locked,
        new_day=np.arange(365 * HOURS) % HOURS == 0,
    )
    return HourlyStation(
        _rules(design, bank, held, floor, bus_v, load_a, reserve, charger, idle_a),
        hours,
        months,
        tuple(strings),
        sun if sun is not None else np.zeros_like(bank_c),
        bank_c,
        bus_v,
        month,
        charger.name if charger else "",
        setting.absorb_v,
        bank,
        held,
    )
