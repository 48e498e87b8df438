"""How many years the bank lasts: a year of days through it, cycles counted, damage summed."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..calendar import year_days
from ..climate import here_of
from ..design import Bank, Design
from ..draw import StationDraw
from ..purposes import purpose_of
from ..store import StoreReport, calendar_years, counted_cycles, cycle_table, cycles_a_year, year_damage
from ..sun import (
    conditions_of,
    planes_of,
)
from ..weather import model_figure, plane_days_kwh_m2
from ..working import Input, Key, Quantity, Workings, assumed, given, table, used

FloatArray = NDArray[np.float64]

FULL_SHARE = 0.98
"""A bank this full counts as full."""


@dataclass(frozen=True, slots=True)
class LifeReport:
    """The bank's life. `longest_not_full_d` and `full_days` only where it cycles with the sun."""

    years: Key
    cycles_a_year: Key
    cost_per_kwh: Key | None
    full_days: Key | None
    longest_not_full_d: Key | None
    limited_by: str
    """cycles or age"""


def year_of_charge(stored_ah: FloatArray, drawn_ah: FloatArray, usable_ah: float, night_share: float) -> FloatArray:
    """State of charge at dawn and dusk through a year, shape (730,); 1 is full, 0 the end of what may be used.

    Parameters
    ----------
    stored_ah, drawn_ah : ndarray of shape (365,)
        Kept of the day's harvest, and drawn, each day. [A·h]
    night_share : float
        Share of the draw that falls between dusk and dawn.

    Notes
    -----
    What does not fit is left out, what is not there is not drawn. The year is run twice, so that it starts as it ends.
    """
    course = np.empty(2 * stored_ah.size)
    charge = usable_ah
    for _ in range(2):
        for day in range(stored_ah.size):
            drawn = float(drawn_ah[day])
            charge = max(0.0, charge - drawn * night_share)
            course[2 * day] = charge
            charge = min(usable_ah, max(0.0, charge + float(stored_ah[day]) - drawn * (1.0 - night_share)))
            course[2 * day + 1] = charge
    return course / usable_ah


def _typical_days(design: Design, stored_ah: list[float], plane_id: str) -> FloatArray | None:
    """Amp-hours kept each day of a typical year: the months' own means, spread over days as the sun comes."""
    here = here_of(design)
    if here is None:
        return None
    plane = next((item for item in planes_of(design, here.latitude_deg) if item.id == plane_id), None)
    if plane is None:
        return None
    days = plane_days_kwh_m2(here, conditions_of(design.sun), plane.mounting, int(model_figure("years")))
    if days is None:
        return None
    middle = int(np.argsort(days.sum(axis=0))[days.shape[1] // 2])
    year, months = days[:, middle], year_days()[0]
    means = np.array([days[months == month].mean() for month in range(1, 13)])[months - 1]
    share = np.divide(year, means, out=np.zeros_like(year), where=means > 0)
    return np.asarray(np.array(stored_ah)[months - 1] * share)


@dataclass(frozen=True, slots=True)
class _Use:
    """How the bank is used in a year."""

    counted: FloatArray
    """Shape (n, 2): depth and count."""
    words: str
    inputs: list[Input]
    delivered_wh: float
    full_days: int | None
    longest_not_full_d: int | None


def _longest(values: NDArray[np.bool_]) -> int:
    best = now = 0
    for value in np.concatenate([values, values]):
        now = now + 1 if value else 0
        best = max(best, now)
    return min(best, values.size)


def _with_the_sun(
    design: Design, station: StationDraw, store: StoreReport, stored: FloatArray, bus_v: float, workings: Workings
) -> _Use:
    usable = workings[store.usable_ah]
    months = year_days()[0]
    drawn = np.asarray(station.by_month, dtype=float)[months - 1]
    drawn = np.where(np.isin(months, design.brief.months), drawn, 0.0)
    course = year_of_charge(stored, drawn, max(usable.number, 1e-6), 0.5)
    # The depth allowed is a part of the whole: a swing through all of it is a cycle of that depth.
    depth = workings[store.depth].number
    dusk = course[1::2]
    return _Use(
        counted_cycles(1.0 - (1.0 - course) * depth),
        "a typical year's days through the bank, counted by rainflow",
        [used("Q", usable), used("d", workings[store.depth])],
        float(np.minimum(drawn, stored).sum()) * bus_v,
        int((dusk >= FULL_SHARE).sum()),
        _longest(dusk < FULL_SHARE),
    )


def _now_and_then(design: Design, store: StoreReport, bus_v: float, workings: Workings) -> _Use:
    times = cycles_a_year(design.brief)
    depth, usable = workings[store.depth], workings[store.usable_ah]
    return _Use(
        np.array([[depth.number, times]]),
        "so many times a year down to the depth allowed",
        [assumed("n", "times a year", times, "", "practice"), used("d", depth)],
        times * usable.number * bus_v,
        None,
        None,
    )


def _mean_c(store: StoreReport, workings: Workings) -> float:
    return float(np.mean([workings[key].number for key in store.months_c]))


def _years(bank: Bank, use: _Use, mean_c: float, workings: Workings) -> tuple[Quantity, str]:
    damage, by_age = year_damage(bank, use.counted), calendar_years(bank, mean_c)
    by_cycles = 1.0 / damage if damage > 0 else float("inf")
    _, _, own = cycle_table(bank)
    age = (
        given("t", "calendar life", bank.calendar_years, "years", "/store/bank/calendar_years")
        if bank.calendar_years
        else assumed("t", "calendar life", by_age, "years", "class-battery", "/store/bank/calendar_years")
    )
    quantity = workings.add(
        "store.life.years",
        min(by_cycles, by_age),
        "years",
        "Years expected, new",
        "min(1 / Σ nᵢ/N(dᵢ), t)",
        f"{use.words}; Miner's sum over the cycles promised at each depth, or age, whichever ends first",
        [
            *use.inputs,
            table("Σ", "worn in a year", damage, "share", "rainflow" if not own else "cycle-life"),
            age,
            table("T", "mean of the bank", mean_c, "°C", "box-heat"),
        ],
        "rainflow",
    )
    return quantity, "cycles" if by_cycles < by_age else "age"


def _cost(bank: Bank, years: Quantity, use: _Use, workings: Workings) -> Quantity | None:
    if bank.unit_price is None or use.delivered_wh <= 0 or years.number <= 0:
        return None
    whole = bank.unit_price.value * bank.series * bank.parallel
    return workings.add(
        "store.life.cost_per_kwh",
        whole / (years.number * use.delivered_wh / 1000.0),
        "money/kW·h",
        "Price of a kW·h through the bank",
        "p / (t · E)",
        "what the bank costs over what it gives in its life",
        [
            given("p₁", "one unit", bank.unit_price, "money", "/store/bank/unit_price"),
            used("t", years),
            table("E", "given in a year", use.delivered_wh / 1000.0, "kW·h", "arithmetic"),
        ],
        "arithmetic",
    )


def _count(key: str, value: int, unit: str, label: str, words: str, use: _Use, workings: Workings) -> Key:
    return workings.add(f"store.life.{key}", float(value), unit, label, "count", words, use.inputs, "persistence").key


def life_report(
    design: Design,
    station: StationDraw,
    store: StoreReport,
    stored_ah: tuple[Key, ...],
    plane_id: str | None,
    bus_v: float,
    workings: Workings,
) -> LifeReport | None:
    """The bank's life; None without a bank.

    Parameters
    ----------
    stored_ah : tuple of Key
        What the bank keeps of a day's harvest, by month; empty where the sun is not known.
    plane_id : str or None
        The main plane, whose days the harvest follows.
    """
    bank = design.store.bank
    if bank is None:
        return None
    cycling = purpose_of(design.brief.purpose).use == "daily"
    stored = (
        _typical_days(design, [workings[key].number for key in stored_ah], plane_id)
        if cycling and stored_ah and plane_id
        else None
    )
    use = (
        _now_and_then(design, store, bus_v, workings)
        if stored is None
        else _with_the_sun(design, station, store, stored, bus_v, workings)
    )
    years, limited_by = _years(bank, use, _mean_c(store, workings), workings)
    cycles = workings.add(
        "store.life.cycles_a_year",
        float(use.counted.prod(axis=1).sum()) / max(workings[store.depth].number, 1e-9),
        "",
        "Cycles a year, as whole ones",
        "Σ nᵢ · dᵢ / d",
        f"{use.words}, shallow swings counted by what they take",
        use.inputs,
        "rainflow",
    )
    cost = _cost(bank, years, use, workings)
    full = longest = None
    if use.full_days is not None and use.longest_not_full_d is not None:
        full = _count(
            "full_days", use.full_days, "d", "Days a year it gets full", "at dusk, 98 % or more", use, workings
        )
        longest = _count(
            "longest_not_full_d",
            use.longest_not_full_d,
            "d",
            "Longest time without getting full",
            "days in a row that end below 98 %",
            use,
            workings,
        )
    return LifeReport(years.key, cycles.key, cost.key if cost else None, full, longest, limited_by)
