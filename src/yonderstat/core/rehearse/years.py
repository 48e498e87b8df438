"""All weather years through the station: what is served, how long it is dark, what a full bank carries."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..design import Design
from ..draw import MONTH_NAMES
from ..sun import year_days
from .kernel import hours_carried, run_years
from .station import BACK_SHARE, HYSTERESIS, TIERS, HourlyStation, hourly_station

FloatArray = NDArray[np.float64]

LENGTHS_D = (1, 2, 3, 5, 7, 10, 14, 21, 30)
SERVED = 1e-9
HOURS = 24


@dataclass(frozen=True, slots=True)
class DarkSpell:
    """The longest time without vital service."""

    hours: int
    year: int
    month: int
    day: int


@dataclass(frozen=True, slots=True)
class YearsReport:
    """What all weather years come to. Shares by month run January to December; a month not in use has None."""

    years: int
    served: dict[str, tuple[float | None, ...]]
    """By tier: amp-hours served over amp-hours wanted."""
    served_vital: float
    dark_hours_a_year: float
    """Vital hours not served in full, mean of the years."""
    years_without_dark: float
    """Share of the years."""
    longest_dark: DarkSpell | None
    carry: tuple[tuple[float, ...], ...]
    """By start month, for each of `lengths_d`: the chance of no dark vital hour, starting full."""
    lengths_d: tuple[int, ...]
    no_sun_h: float
    """Hours a full bank lasts in the hardest month without any source."""
    lost_ah_a_year: float
    """What the sources could have given and nothing took."""
    full_days_a_year: float
    sentence: str


@dataclass(frozen=True, slots=True)
class YearsRun:
    """Every hour of all years."""

    charge_ah: FloatArray
    served_a: FloatArray
    taken_a: FloatArray


def run_all(station: HourlyStation, shed_useful: float = 0.0, shed_comfort: float = 0.0) -> YearsRun:
    """Run the years through the kernel."""
    years = station.source_a.shape[0]
    run = YearsRun(
        np.empty((years, station.load_a.shape[0])),
        np.empty((years, station.load_a.shape[0], 3)),
        np.empty((years, station.load_a.shape[0])),
    )
    run_years(
        station.source_a,
        station.load_a,
        station.floor_ah,
        station.locked,
        station.full_ah,
        station.efficiency,
        station.accept_per_h,
        station.most_charge_a,
        shed_useful,
        shed_comfort,
        BACK_SHARE,
        HYSTERESIS,
        run.charge_ah,
        run.served_a,
        run.taken_a,
    )
    return run


def longest_true(values: NDArray[np.bool_]) -> tuple[int, int]:
    """Length of the longest run of true values and where it starts; (0, 0) where there is none."""
    edges = np.flatnonzero(np.diff(np.concatenate(([0], values.astype(np.int8), [0]))))
    if edges.size == 0:
        return 0, 0
    lengths = edges[1::2] - edges[::2]
    longest = int(np.argmax(lengths))
    return int(lengths[longest]), int(edges[::2][longest])


def vital_dark(run: YearsRun, station: HourlyStation) -> NDArray[np.bool_]:
    """Hours whose vital load is not served in full, shape (years, 8760)."""
    wanted = station.load_a[None, :, 0]
    return np.asarray((run.served_a[:, :, 0] < wanted - SERVED) & (wanted > 0))


def dark_hours(run: YearsRun, station: HourlyStation) -> float:
    """Dark vital hours a year."""
    return float(vital_dark(run, station).sum() / run.served_a.shape[0])


def _served_by_month(
    run: YearsRun, station: HourlyStation, months: NDArray[np.int64]
) -> dict[str, tuple[float | None, ...]]:
    found: dict[str, tuple[float | None, ...]] = {}
    for tier, name in enumerate(TIERS):
        shares: list[float | None] = []
        for month in range(1, 13):
            chosen = months == month
            wanted = station.load_a[chosen, tier].sum() * run.served_a.shape[0]
            shares.append(float(run.served_a[:, chosen, tier].sum() / wanted) if wanted > 0 else None)
        found[name] = tuple(shares)
    return found


def carry_through(station: HourlyStation) -> FloatArray:
    """Hours carried from a full bank, by year and start day, shape (years, 365), at most the longest length."""
    carried = np.empty((station.source_a.shape[0], 365))
    hours_carried(
        station.source_a,
        np.ascontiguousarray(station.load_a[:, 0]),
        station.floor_ah,
        station.locked,
        station.full_ah,
        station.efficiency,
        station.accept_per_h,
        station.most_charge_a,
        LENGTHS_D[-1] * HOURS,
        carried,
    )
    return carried


def _no_sun_h(station: HourlyStation) -> float:
    dark = HourlyStation(
        np.zeros((1, station.load_a.shape[0])),
        station.load_a,
        station.floor_ah,
        station.locked,
        station.full_ah,
        station.usable_ah,
        station.efficiency,
        station.accept_per_h,
        station.most_charge_a,
        station.sun_w_m2[:1],
    )
    return float(carry_through(dark).min())


def _dark_spell(dark: NDArray[np.bool_]) -> DarkSpell | None:
    length, start = longest_true(dark.ravel())
    if length == 0:
        return None
    year, hour = divmod(start, dark.shape[1])
    months, _ = year_days()
    day = hour // HOURS
    month = int(months[day])
    return DarkSpell(length, year + 1, month, int(day - np.flatnonzero(months == month)[0]) + 1)


def _sentence(served: float, dark_h: float, spell: DarkSpell | None, years: int) -> str:
    if spell is None:
        return f"No vital hour dark in {years} weather years."
    length = f"{spell.hours} hours" if spell.hours < 48 else f"{spell.hours / HOURS:.1f} days"
    kind = "Dark before dawn" if spell.hours < 18 else "Dark for days" if spell.hours > 48 else "Dark"
    return (
        f"{kind}: {dark_h:.0f} vital hours a year, {served * 100:.1f} % served; the longest spell is {length}, "
        f"from {spell.day} {MONTH_NAMES[spell.month - 1]} of year {spell.year}."
    )


def years_report(design: Design, years: int | None = None) -> YearsReport | None:
    """Rehearse a design over all weather years; None where it cannot be (no place, no bank, no sun known)."""
    station = hourly_station(design, years)
    if station is None:
        return None
    run = run_all(station)
    count = station.source_a.shape[0]
    months = np.repeat(year_days()[0].astype(np.int64), HOURS)
    wanted = station.load_a[None, :, 0]
    dark = vital_dark(run, station)
    served = float(run.served_a[:, :, 0].sum() / (wanted.sum() * count)) if wanted.sum() > 0 else 1.0
    spell = _dark_spell(dark)
    carried = carry_through(station)
    start_months = year_days()[0]
    carry = tuple(
        tuple(float((carried[:, start_months == month] >= days * HOURS).mean()) for days in LENGTHS_D)
        for month in range(1, 13)
    )
    full = run.charge_ah.reshape(count, 365, HOURS).max(axis=2) >= 0.98 * station.full_ah
    dark_h = float(dark.sum() / count)
    return YearsReport(
        count,
        _served_by_month(run, station, months),
        served,
        dark_h,
        float((~dark.any(axis=1)).mean()),
        spell,
        carry,
        LENGTHS_D,
        _no_sun_h(station),
        float((station.source_a - run.taken_a).sum() / count),
        float(full.sum() / count),
        _sentence(served, dark_h, spell, count),
    )
