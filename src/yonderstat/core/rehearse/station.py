"""A design as the kernel sees it: hours of source, load, floor and lock."""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from ..array import Electric, amps_into_bank, cell_rise_k, electric_of, sky_over
from ..design import Design
from ..draw import StationDraw, station_draw
from ..store import charge_low_c, kind_of, most_charge_a
from ..sun import Conditions, Here, Mounting, conditions_of, mounting_of, year_days
from ..verdict import Figures, figures_of
from ..weather import Warmth, hourly_air_c, hourly_on_plane_w_m2, model_figure, warmth_of, years_of_light

FloatArray = NDArray[np.float64]

LITHIUM_ACCEPT_PER_H, LEAD_ACCEPT_PER_H = 4.0, 1.0
"""How fast acceptance falls near full: I ≤ k (C − Q). Lead's 1 is its absorption rule; lithium's tail is short. [C]"""
BACK_SHARE = 0.2
"""A tripped bank comes back at this share of what may be used. [C]"""
HYSTERESIS = 0.1
TIERS = ("vital", "useful", "comfort")


@dataclass(frozen=True, slots=True)
class Site:
    """What the sources depend on, comparable so that years are kept."""

    here: Here
    conditions: Conditions
    time_zone: str | None
    years: int
    seed: int


@dataclass(frozen=True, slots=True)
class HourlyStation:
    """Arrays of hours for the kernel; sources of shape (years, 8760), loads (8760, 3), the rest (8760,)."""

    source_a: FloatArray
    load_a: FloatArray
    floor_ah: FloatArray
    locked: NDArray[np.bool_]
    full_ah: float
    usable_ah: float
    efficiency: float
    accept_per_h: float
    most_charge_a: float
    sun_w_m2: FloatArray
    """On the main string's plane, for telling the weather, shape (years, 8760)."""


@lru_cache(maxsize=4)
def _air(site: Site, warmth_key: tuple[tuple[float, ...], ...]) -> FloatArray | None:
    light = years_of_light(site.here, site.conditions, site.time_zone, site.years, site.seed)
    if light is None:
        return None
    mean, swing, spread = (np.array(part) for part in warmth_key)
    return hourly_air_c(light, Warmth(mean, swing, spread, "", None, "", None)).reshape(site.years, -1)


@lru_cache(maxsize=8)
def _plane(site: Site, mounting: Mounting) -> FloatArray | None:
    light = years_of_light(site.here, site.conditions, site.time_zone, site.years, site.seed)
    return None if light is None else hourly_on_plane_w_m2(light, mounting).reshape(site.years, -1)


@lru_cache(maxsize=8)
def _string_a(
    site: Site, warmth_key: tuple[tuple[float, ...], ...], mounting: Mounting, rise_k: float, electric: Electric
) -> FloatArray | None:
    sun, air = _plane(site, mounting), _air(site, warmth_key)
    if sun is None or air is None:
        return None
    amps = amps_into_bank(electric, sun, air + rise_k * sun / 1000.0)
    return np.asarray(np.maximum(amps - electric.self_draw_a, 0.0))


def _tiers(station: StationDraw) -> FloatArray:
    """What each tier wants in every hour of a common year, shape (8760, 3); converters' idle counts as vital. [A]"""
    months = year_days()[0] - 1
    wanted = np.zeros((12, 24, 3))
    wanted[:, :, 0] += sum(station.idle_ah.values()) / 24.0
    for item in station.loads:
        wanted[:, :, TIERS.index(item.load.tier or "vital")] += item.hourly_a
    return np.asarray(wanted[months].reshape(-1, 3))


def hourly_loads(design: Design, figures: Figures, tempo_id: str | None = None) -> FloatArray:
    """Loads of a tempo for the kernel, shape (8760, 3). Months not in use draw nothing. [A]"""
    bus_v = figures.working[figures.draw.bus_v].number
    loads = _tiers(station_draw(design, bus_v, tempo_id))
    in_use = np.isin(np.repeat(year_days()[0], 24), design.brief.months)
    return np.asarray(loads * in_use[:, None])


def engine_a(design: Design) -> FloatArray:
    """What the engine gives in an hour of the year, its driving spread from eight in the morning. [A]"""
    engine = design.array.alternator
    day = np.zeros(24)
    if engine is not None:
        left = engine.driving_h_per_day.value
        for hour in (8, 17, 9, 16, 10, 15, 11, 14, 12, 13, 7, 18):
            part = min(1.0, left)
            day[hour] = engine.into_bank_a * part
            left -= part
    return np.tile(day, 365)


def hourly_station(design: Design, years: int | None = None) -> HourlyStation | None:
    """The design hour by hour; None without a bank, or where the sun is not known though there are panels."""
    bank, sky = design.store.bank, sky_over(design)
    if bank is None or sky is None or design.place is None:
        return None
    figures = figures_of(design)
    store = figures.store
    if store is None:
        return None
    count = years or int(model_figure("years"))
    site = Site(sky.here, conditions_of(design.sun), design.place.time_zone, count, int(model_figure("seed")))
    warmth = warmth_of(design, sky.here)
    key = tuple(tuple(float(value) for value in part) for part in (warmth.mean_c, warmth.swing_k, warmth.spread_k))
    charge_v = figures.working[figures.array.charge_v].number
    source = np.tile(engine_a(design), (count, 1))
    main: FloatArray | None = None
    for string in design.array.strings:
        electric = electric_of(string, design.array, charge_v)
        amps = _string_a(site, key, mounting_of(string), cell_rise_k(string.fitted), electric)
        if amps is None:
            return None
        source = source + amps
        main = _plane(site, mounting_of(string)) if main is None else main
    working, kind = figures.working, kind_of(bank.chemistry)
    months = np.repeat(year_days()[0] - 1, 24)
    # In the cold less of the charge can be had: the floor stands higher by what the temperature keeps back.
    held = working["store.after_rate_ah"].number
    usable = np.array([working[item].number for item in store.months_ah])
    cold = np.array([working[item].number for item in store.months_c])
    heated = bank.limits.heater_w is not None and bank.limits.heater_w.value > 0
    locked = (cold < charge_low_c(bank)) & (not kind.is_lead) & (not heated)
    return HourlyStation(
        source,
        hourly_loads(design, figures),
        held - usable[months],
        locked[months],
        held,
        float(usable.min()),
        kind.coulombic_efficiency,
        LEAD_ACCEPT_PER_H if kind.is_lead else LITHIUM_ACCEPT_PER_H,
        most_charge_a(bank),
        main if main is not None else np.zeros_like(source),
    )
