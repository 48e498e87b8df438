"""The Rehearse step over thirty weather years: service by tier and month, what a full bank carries,
the year."""

from dataclasses import dataclass

import numpy as np

from ..calendar import MONTH_NAMES, month_key
from ..design import Design
from ..purposes import purpose_of
from ..station import StationModel
from ..words import counted, hours_in_words, percent
from ..working import Input, Key, Quantity, Workings, assumed, stated, table
from .assumed import assumed_figure
from .bands import SERVICE, band_quantities
from .kernel import OUT_BACKED, OUT_CHARGE, OUT_TAKEN, OUT_TRIPPED, OUT_VITAL
from .station import COLUMNS, HOURS, HourlyStation, hourly_station
from .tally import tally_with
from .years import (
    NIGHT_H,
    Dark,
    DarkSpell,
    FloatArray,
    Served,
    carried_of,
    dark_of,
    hours_to_recharge,
    hours_without_source,
    run_all,
    served_by,
    spread_of,
    too_harshly,
    too_kindly,
)

LENGTHS_D = (1, 2, 3, 5, 7, 10, 14, 21, 30)
RANKS = {"typical": 0.5, "poor": 0.1, "worst": 0.0}


@dataclass(frozen=True, slots=True)
class YearBand:
    """State of charge through one weather year, day by hour, in whole per cent of what may be
    used."""

    name: str
    """typical, poor or worst"""
    year: int
    percent: tuple[tuple[int, ...], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class YearsReport:
    """What all weather years come to. Months run January to December; a month without such loads
    has None."""

    years: int
    served: dict[str, tuple[Key | None, ...]]
    """By tier, and of loads that wait for the sun: amp-hours served over amp-hours wanted."""
    share: Key
    low: Key
    high: Key
    dark_h: Key
    years_without_dark: Key
    longest: DarkSpell | None
    carry: tuple[tuple[Key, ...], ...]
    """By start month, for each of `lengths_d`: the chance of no dark vital hour, starting full,
    everything on."""
    lengths_d: tuple[int, ...]
    no_source_h: Key
    recharge_h: Key
    lost_ah: Key
    full_days: Key
    trips: Key
    backed_h: Key | None
    bands: tuple[YearBand, ...]
    sentence: str
    surer: str
    """Why these figures differ from the verdict's and the findings'; empty where they do not."""
    band_sentence: str
    working: dict[Key, Quantity]


LEAST_SHOWN = 0.01
"""Of what a bank can give: while it is not cut off it is told as not quite empty."""


def _bands(out: FloatArray, station: HourlyStation) -> tuple[YearBand, ...]:
    """The years that stand so among all by what the sources gave: of what there is to be had,
    nothing where it is cut off."""
    end = station.hours.end_ah
    room = np.maximum(station.rules.full_ah - end, 1e-9)
    share = np.clip((out[:, :, OUT_CHARGE] - end) / room, LEAST_SHOWN, 1.0)
    share = np.where(out[:, :, OUT_TRIPPED] > 0.0, 0.0, share)
    order = np.argsort(share.mean(axis=1), kind="stable")
    found = []
    for name, rank in RANKS.items():
        year = int(order[round(rank * (order.size - 1))])
        days = np.rint(share[year].reshape(-1, HOURS) * 100).astype(int)
        found.append(
            YearBand(name, year + 1, tuple(tuple(int(value) for value in day) for day in days))
        )
    return tuple(found)


def _surer(years: int) -> str:
    quick = int(assumed_figure("verdict_years"))
    if years <= quick:
        return ""
    return (
        f"The verdict and the findings use {quick} weather years, quick enough for every edit. "
        f"These {years} are surer, and their worst spell can be longer."
    )


def _band_sentence(bands: tuple[YearBand, ...]) -> str:
    worst = np.array(next(band for band in bands if band.name == "worst").percent)
    typical = np.array(next(band for band in bands if band.name == "typical").percent)

    def empty(days: FloatArray) -> int:
        return int((days.min(axis=1) <= 0).sum())

    if empty(worst) == 0:
        return (
            f"Even in the worst year, {int(worst.min())} % of the battery's charge is always left."
        )
    return (
        f"The battery is cut off on {counted(empty(worst), 'day')} of the worst year and "
        f"{empty(typical)} of a typical year."
    )


class _Told:
    """Quantities of one report, all resting on the same years."""

    def __init__(self, station: HourlyStation) -> None:
        self.workings = Workings()
        self.ground: list[Input] = [
            assumed("n", "weather years", float(station.years), "years", "rehearsal"),
            stated("C", "battery capacity at 25 °C", station.rules.full_ah, "A·h", "/store/bank"),
            table("η", "charge kept", station.rules.efficiency, "share", "rehearsal"),
        ]

    def add(
        self,
        key: str,
        value: float | None,
        unit: str,
        label: str,
        formula: str,
        words: str,
        more: tuple[Input, ...] = (),
        note: str = "",
    ) -> Key:
        inputs = [*more, *self.ground]
        return self.workings.add(
            key,
            value,
            unit,
            label=label,
            formula=formula,
            words=words,
            inputs=inputs,
            source="rehearsal",
            note=note,
        ).key


def _served(
    out: FloatArray, station: HourlyStation, told: _Told
) -> dict[str, tuple[Key | None, ...]]:
    found: dict[str, tuple[Key | None, ...]] = {}
    for tier, name in enumerate(COLUMNS):
        keys: list[Key | None] = []
        label = "Waiting for the sun" if name == "deferred" else f"{name.title()} loads with power"
        for month in range(1, 13):
            chosen = station.months == month - 1
            wanted = float(station.hours.load_a[chosen, tier].sum()) * station.years
            served = float(out[:, chosen, OUT_VITAL + tier].sum())
            if wanted <= 0:
                keys.append(None)
                continue
            more = (
                Input(
                    symbol="Q_s",
                    label="supplied in all years",
                    value=served,
                    unit="A·h",
                    origin="computed",
                ),
                Input(symbol="Q_w", label="wanted", value=wanted, unit="A·h", origin="computed"),
            )
            keys.append(
                told.add(
                    month_key(f"years.{name}", month),
                    min(1.0, served / wanted),
                    "share",
                    label=f"{label}, {MONTH_NAMES[month - 1]}",
                    formula="Q_s / Q_w",
                    words="what the loads got divided by what they needed, hour by hour",
                    more=more,
                )
            )
        found[name] = tuple(keys)
    return found


def _carry(station: HourlyStation, told: _Told) -> tuple[tuple[Key, ...], ...]:
    carried = carried_of(station, LENGTHS_D[-1])
    rows = []
    for month in range(1, 13):
        name = MONTH_NAMES[month - 1]
        starts = Input(
            symbol="k",
            label="starts",
            value=float((carried.months == month - 1).sum()),
            unit="",
            origin="computed",
        )
        rows.append(
            tuple(
                told.add(
                    month_key(f"years.carry.{days}", month),
                    carried.chance(month, days) or 0.0,
                    "share",
                    label=f"Chance of lasting {days} days, starting in {name}",
                    formula="n_carried / k",
                    words=(
                        "starts at each midnight of the month with a full battery and "
                        "everything on; no vital load may lose power"
                    ),
                    more=(starts,),
                )
                for days in LENGTHS_D
            )
        )
    return tuple(rows)


DARK_WORDS = {
    "before_dawn": "Loses power before dawn",
    "hours": "Loses power",
    "for_days": "Without power for days",
}


def _sentence(served: Served, dark: Dark, years: int) -> str:
    mute_h = served.mute_hours_a_year
    mute = f" Too few volts to work: {hours_in_words(mute_h)} a year." if mute_h >= 0.5 else ""
    if dark.longest is None:
        return f"No vital load loses power in {years} weather years.{mute}"
    dark_h = served.dark_hours_a_year
    return (
        f"{DARK_WORDS[dark.kind]}: {hours_in_words(dark_h)} a year; vital loads have "
        f"power {percent(served.share)} of the time they need it. The longest gap is "
        f"{dark.longest.words} of year {dark.longest.year}. "
        f"{percent(dark.short_spells)} of the gaps are shorter than {NIGHT_H} "
        f"hours.{mute}"
    )


def years_report(design: Design, years: int | None = None) -> YearsReport | None:
    """Rehearse a design over all weather years; None where it cannot be (no place, no bank, no sun
    known)."""
    station = hourly_station(StationModel(design), years)
    if station is None:
        return None
    told, out = _Told(station), run_all(station)
    spread = spread_of(station.model)
    run, others = tally_with(station, [too_kindly(spread), too_harshly(spread)])
    served, dark = served_by(run.sums), dark_of(run)
    kindly, harshly = (served_by(case).share for case in others)
    values = (served.share, kindly, harshly)
    band = band_quantities("years", SERVICE, values, spread, told.ground, told.workings)
    bands = _bands(out, station)
    recharge = hours_to_recharge(station, station.hard_month)
    month = MONTH_NAMES[station.hard_month - 1]
    given = float((station.hours.panels_a + station.hours.fixed_a).sum())
    backed = float((out[:, :, OUT_BACKED] > 0).sum() / station.years)
    return YearsReport(
        years=station.years,
        served=_served(out, station, told),
        share=band.share,
        low=band.low,
        high=band.high,
        dark_h=told.add(
            "years.dark_h",
            served.dark_hours_a_year,
            "h",
            "Hours a year vital loads are without power",
            "Σ [I_served < I_wanted] / n",
            "hours in which a vital load is not served in full",
        ),
        years_without_dark=told.add(
            "years.without_dark",
            dark.years_without,
            "share",
            "Years without losing power",
            "n_light / n",
            "share of all weather years",
        ),
        longest=dark.longest,
        carry=_carry(station, told),
        lengths_d=LENGTHS_D,
        no_source_h=told.add(
            "years.no_source_h",
            hours_without_source(station),
            "h",
            f"A full battery alone lasts, {month}",
            "by rehearsal",
            "hours with no sun and no charger, starting at the worst hour, everything on, "
            "other batteries included; at most 60 days",
        ),
        recharge_h=told.add(
            "years.recharge_h",
            recharge,
            "h",
            f"From empty to full, {month}",
            "by rehearsal",
            "middle case of all years, on the station's own sources while the loads stay on",
            note="" if recharge is not None else "takes more than 60 days in half the years",
        ),
        lost_ah=told.add(
            "years.lost_ah",
            (given - float(out[:, :, OUT_TAKEN].sum())) / station.years,
            "A·h",
            "Solar charge not used, per year",
            "Σ (I_sources − I_taken) / n",
            (
                "what panels and alternator could have given while the battery was full and the "
                "loads were supplied"
            ),
        ),
        full_days=told.add(
            "years.full_days",
            float(run.full.sum()) / station.years,
            "d",
            "Full days a year",
            "Σ [Q ≥ 0.98 C] / n",
            "days when the battery gets full",
        ),
        trips=told.add(
            "years.trips",
            dark.trips_a_year,
            "",
            "Cut-offs a year",
            "n_trips / n",
            "how often the battery reached its cut-off and the station switched off",
        ),
        backed_h=told.add(
            "years.backed_h",
            backed,
            "h",
            f"{station.backup}: running hours a year",
            "Σ [I_b > 0] / n",
            "hours in which it delivered current",
        )
        if station.backup
        else None,
        bands=bands,
        sentence=(
            "As if there were no mains all year. "
            if purpose_of(design.brief.purpose).is_spell
            else ""
        )
        + _sentence(served, dark, station.years),
        surer=_surer(station.years),
        band_sentence=_band_sentence(bands),
        working=told.workings.as_dict(),
    )
