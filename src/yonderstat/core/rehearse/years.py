"""All weather years through the station: what is served, how long it is dark, what a full bank
carries."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from functools import partial
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ..calendar import MONTH_NAMES, year_days
from ..station import StationModel
from ..sun import noon_sun_deg
from ..words import days_in_words
from .assumed import assumed_figure
from .at_once import at_once
from .kernel import (
    OUTS,
    VITAL,
    hours_to_full,
    run_years,
)
from .station import HOURS, HourlyStation
from .tally import AS_IT_IS, Case, MonthSums, Tally, spells_of, sums_of

FloatArray = NDArray[np.float64]
DarkKind = Literal["none", "before_dawn", "hours", "for_days"]

SERVED = 1e-9
DAYS = 365
NIGHT_H = 18
"""A dark spell shorter than this is a matter of one night, give or take a dull morning."""
MOSTLY = 0.9
MOSTLY_DAWN = 0.5
FOR_DAYS_H = 48
WEATHER_BEFORE_D = 5
WEEK_D = 7
LONG_D, FOUR_WEEKS_D = 90, 28
"""Spells of over a quarter of a year begin every four weeks: starts a week apart share nearly all
their weather."""
MOST_START_HOURS = 50_000
"""Design-hours that the chances behind an edit may cost."""


def run_all(
    station: HourlyStation, shed_useful: float = 0.0, shed_comfort: float = 0.0
) -> FloatArray:
    """Run the years through the kernel, shape (years, 8760, OUTS).

    Parameters
    ----------
    station : HourlyStation
        The station hour by hour.
    shed_useful : float, optional
        Under this share of what may be used the useful loads are off.
    shed_comfort : float, optional
        And the comfortable ones.

    Returns
    -------
    ndarray of shape (years, 8760, OUTS)
        What every hour told.
    """
    # A column at a time in memory: those who read it read columns.
    out = np.empty((OUTS, *station.hours.panels_a.shape)).transpose(1, 2, 0)
    rules = station.rules._replace(shed_useful=shed_useful, shed_comfort=shed_comfort)
    run_years(rules, station.hours, station.start(), out)
    return out


@dataclass(frozen=True, slots=True, kw_only=True)
class Served:
    """Vital service: share by month, None where nothing vital is wanted; of the year; dark hours a
    year by month."""

    by_month: tuple[float | None, ...]
    share: float
    dark_h: tuple[float, ...]
    mute_hours_a_year: float
    """With power, and too few volts for what it is to do."""
    kept_by_month: tuple[float | None, ...]
    """Share of the hours that end within the depth that is planned; None as in `by_month`."""
    worn_hours_a_year: float
    """That end under it."""

    @property
    def dark_hours_a_year(self) -> float:
        """Of all months."""
        return sum(self.dark_h)


def served_of(station: HourlyStation, panel_scale: float = 1.0, bank_scale: float = 1.0) -> Served:
    """Vital service over all years, with so many times the panels and the bank.

    Parameters
    ----------
    panel_scale : float
        Panels for each there is.
    bank_scale : float
        Bank for each there is.
    """
    return served_by(sums_of(station, [Case(panel_scale, bank_scale)])[0])


def served_of_each(stations: Iterable[HourlyStation]) -> list[Served]:
    """Vital service of several stations, on all cores."""
    return at_once([partial(served_of, station) for station in stations])


def served_by(sums: MonthSums) -> Served:
    """Vital service of a run that was summed up; the same figures without running it again."""
    station, served = sums.station, sums.vital_ah
    hourly = station.hours.load_a[:, VITAL] * sums.load
    wanted = np.bincount(station.months, weights=hourly, minlength=12) * station.years
    hours_of = np.bincount(station.months, minlength=12)
    shares = tuple(
        min(1.0, float(served[m] / wanted[m])) if wanted[m] > 0 else None for m in range(12)
    )
    total = min(1.0, float(served.sum() / wanted.sum())) if wanted.sum() > 0 else 1.0
    return Served(
        by_month=shares,
        share=total,
        dark_h=tuple(float(value) for value in sums.dark_hours / station.years),
        mute_hours_a_year=float(sums.mute_hours.sum()) / station.years,
        kept_by_month=tuple(
            1.0 - float(sums.worn_hours[m]) / (float(hours_of[m]) * station.years)
            if wanted[m] > 0
            else None
            for m in range(12)
        ),
        worn_hours_a_year=float(sums.worn_hours.sum()) / station.years,
    )


@dataclass(frozen=True, slots=True)
class Spread:
    """How far sun and draw may be off: the sun by month as a log range, shape (12,), the draw as a
    share."""

    sun: FloatArray
    load: float


LOW_SUN_DEG, LOWEST_SUN_DEG = 35.0, 15.0
"""Between these heights of the noon sun the guess of the sun's source grows less sure."""


def sun_spread(latitude_deg: float | None, source: str) -> FloatArray:
    """How far a source's months may be off, as a log range that four in five lie within, shape
    (12,).

    Own figures and a weather file are as sure all year; the reanalysis is less sure where the sun
    is low.

    Parameters
    ----------
    latitude_deg : float or None
        North positive; None where there is no place.
    source : str
        Of the sun: cell, own or record.

    Returns
    -------
    ndarray of shape (12,)
        Log range by month.
    """
    base = np.full(12, assumed_figure(source, "sun_spread"))
    if source != "cell" or latitude_deg is None:
        return base
    low = np.clip(
        (LOW_SUN_DEG - noon_sun_deg(latitude_deg)) / (LOW_SUN_DEG - LOWEST_SUN_DEG), 0.0, 1.0
    )
    return np.asarray(base + (assumed_figure("cell_low_sun", "sun_spread") - base) * low)


def spread_of(model: StationModel) -> Spread:
    """How far the guesses under a verdict may be off: the sun's source, and how the draw's figures
    are known."""
    source = {"own": "own", "record": "record"}.get(model.design.sun.source, "cell")
    total = float(sum(item.daily_ah.max() for item in model.draw.loads))
    load = sum(
        float(item.daily_ah.max())
        / total
        * assumed_figure(item.load.receive_a.basis, "load_spread")
        for item in model.draw.loads
        if total > 0
    )
    return Spread(sun_spread(model.here.latitude_deg if model.here else None, source), float(load))


def too_kindly(spread: Spread) -> Case:
    """The guesses erred on the bright side."""
    return Case(np.exp(-spread.sun), load=1.0 + spread.load)


def too_harshly(spread: Spread) -> Case:
    """The guesses erred on the dull side."""
    return Case(np.exp(spread.sun), load=1.0 / (1.0 + spread.load))


def pessimistic(station: HourlyStation, spread: Spread) -> HourlyStation:
    """The station where the guesses erred on the bright side."""
    case = too_kindly(spread)
    return station.guessed(np.broadcast_to(case.panels, 12), case.load)


def longest_true(values: NDArray[np.bool_]) -> tuple[int, int]:
    """Length of the longest run of true values and where it starts; (0, 0) where there is none.

    Parameters
    ----------
    values : ndarray
        Shape (n,).

    Returns
    -------
    tuple of int
        Where the longest run begins, and its length; 0 and 0 where there is none.
    """
    starts, lengths = runs_of_true(values)
    if lengths.size == 0:
        return 0, 0
    longest = int(np.argmax(lengths))
    return int(lengths[longest]), int(starts[longest])


def runs_of_true(values: NDArray[np.bool_]) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
    """Where every run of true values starts, and how long it is.

    Parameters
    ----------
    values : ndarray
        Shape (n,).

    Returns
    -------
    tuple of ndarray
        Where each run begins, and its length.
    """
    edges = np.flatnonzero(np.diff(np.concatenate(([0], values.astype(np.int8), [0]))))
    return edges[::2], edges[1::2] - edges[::2]


@dataclass(frozen=True, slots=True, kw_only=True)
class DarkSpell:
    """A time without vital service, and what went with it."""

    hours: int
    year: int
    month: int
    day: int
    sun_share: float | None
    """The sun of the days before it and in it over the usual of its month."""
    locked_share: float
    """Of the hours with sun in those days: in so many the bank was too cold to be charged."""

    @property
    def words(self) -> str:
        """Its length and date in words."""
        return f"{days_in_words(self.hours / HOURS)} from {self.day} {MONTH_NAMES[self.month - 1]}"


@dataclass(frozen=True, slots=True, kw_only=True)
class Dark:
    """The dark hours of a run: how many spells a year, how many of them short, and the longest."""

    spells_a_year: float
    short_spells: float
    """Share of the spells that are shorter than a night."""
    years_without: float
    """Share of the years."""
    trips_a_year: float
    longest: DarkSpell | None
    before_dawn: float = 0.0
    """Share of the dark hours that lie between midnight and the sun."""

    @property
    def kind(self) -> DarkKind:
        """Before dawn, where nine spells in ten and the longest are short, and most of it is before
        dawn; for days, where the longest is."""
        if self.longest is None:
            return "none"
        if (
            self.short_spells > MOSTLY
            and self.longest.hours < NIGHT_H
            and self.before_dawn > MOSTLY_DAWN
        ):
            return "before_dawn"
        return "for_days" if self.longest.hours > FOR_DAYS_H else "hours"


def _date(hour: int) -> tuple[int, int]:
    months = year_days()[0]
    day = hour // HOURS
    month = int(months[day])
    return month, int(day - np.flatnonzero(months == month)[0]) + 1


def _longest(
    starts: NDArray[np.int64], lengths: NDArray[np.int64], station: HourlyStation
) -> DarkSpell | None:
    if lengths.size == 0:
        return None
    most = int(np.argmax(lengths))
    start, length = int(starts[most]), int(lengths[most])
    year, hour = divmod(start, station.months.size)
    around = slice(max(0, start - WEATHER_BEFORE_D * HOURS), start + length)
    sun = station.sun_w_m2.ravel()[around]
    usual = station.sun_w_m2[:, station.months == station.months[hour]].mean()
    by_day = station.shut_of(station.hours.locked.ravel()[around])[sun > 0]
    month, day = _date(hour)
    return DarkSpell(
        hours=length,
        year=year + 1,
        month=month,
        day=day,
        sun_share=float(sun.mean() / usual) if usual > 0 else None,
        locked_share=float(by_day.mean()) if by_day.size else 0.0,
    )


def spells_of_failure(
    dark: NDArray[np.bool_], wanted: NDArray[np.bool_]
) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
    """Where every spell of failed service begins, and how long it is by the clock.

    An hour in which nobody wants power neither fails nor is served: a spell goes on over it, from
    the first vital hour that failed to the last one before service came back.

    Parameters
    ----------
    dark, wanted : ndarray of shape (n,)
        In each hour: vital service failed; something vital wanted power.

    Returns
    -------
    tuple of ndarray
        Where each spell begins, and its hours.
    """
    at = np.flatnonzero(wanted | dark)
    starts, lengths = runs_of_true(dark[at])
    begins, ends = at[starts], at[starts + lengths - 1] + 1
    return begins, ends - begins


def _before_dawn(tally: Tally) -> float:
    """The share of the dark hours that lie between midnight and the first sun of their day."""
    if not tally.dark.any():
        return 0.0
    hour = np.arange(tally.dark.shape[1]) % HOURS
    sun = tally.station.sun_w_m2 > 0.0
    early = hour < HOURS // 2
    return float((tally.dark & early & ~sun).sum() / tally.dark.sum())


def dark_of(tally: Tally) -> Dark:
    """What is dark in a run of all weather years, and how it lies."""
    wanted = np.tile(tally.station.hours.load_a[:, VITAL] > 0.0, tally.dark.shape[0])
    starts, lengths = spells_of_failure(tally.dark.ravel(), wanted)
    return Dark(
        spells_a_year=lengths.size / tally.station.years,
        short_spells=float((lengths < NIGHT_H).mean()) if lengths.size else 0.0,
        years_without=float((~tally.dark.any(axis=1)).mean()),
        trips_a_year=tally.trips / tally.station.years,
        longest=_longest(starts, lengths, tally.station),
        before_dawn=_before_dawn(tally),
    )


@dataclass(frozen=True, slots=True)
class Carried:
    """Spells from a full bank at midnights: month of each, 0 to 11; hours carried; left of what may
    be used."""

    months: NDArray[np.int64]
    hours: FloatArray
    left_share: FloatArray
    powered_h: FloatArray
    """Hours with power, whether or not the volts are enough for what is to be done."""

    def chance(self, month: int, days: float, powered: bool = False) -> float | None:
        """Chance of no vital hour out of service in so many days from a start in a month, 1 to 12;
        or of none dark."""
        chosen = (self.powered_h if powered else self.hours)[self.months == month - 1]
        return float((chosen >= days * HOURS).mean()) if chosen.size else None


def spell_starts(station: HourlyStation, every_d: int) -> NDArray[np.int64]:
    """Midnights from which spells are played.

    Parameters
    ----------
    station : HourlyStation
        The station hour by hour.
    every_d : int
        Days between them.

    Returns
    -------
    ndarray of shape (k, 2)
        Year and hour of the year.
    """
    return np.array(
        [(year, day * HOURS) for year in range(station.years) for day in range(0, DAYS, every_d)],
        dtype=np.int64,
    )


def carried_of(
    station: HourlyStation,
    days: float,
    every_d: int = 1,
    panel_scale: float = 1.0,
    bank_scale: float = 1.0,
) -> Carried:
    """Play a spell of so many days from every so many days of every year.

    Parameters
    ----------
    days : float
        How long a spell is. [d]
    every_d : int
        Days between two starts. [d]
    panel_scale : float
        Panels for each there is.
    bank_scale : float
        Bank for each there is.
    """
    return carried_of_each(station, [Case(panel_scale, bank_scale)], days, every_d)[0]


def carried_of_each(
    station: HourlyStation, cases: Sequence[Case], days: float, every_d: int
) -> list[Carried]:
    """The same of some cases, three at most.

    Parameters
    ----------
    cases : sequence of Case
        What each case doubts.
    days : float
        How long a spell is. [d]
    every_d : int
        Days between two starts. [d]
    """
    starts = spell_starts(station, every_d)
    found = spells_of(station, cases, starts, max(1, int(np.ceil(days * HOURS))))
    return [Carried(station.months[starts[:, 1]], *rows) for rows in zip(*found, strict=True)]


def cheap_every_d(station: HourlyStation, days: float) -> int:
    """Days between the starts, so that the chances behind an edit come quickly."""
    sparse = np.ceil(station.years * DAYS * days * HOURS / MOST_START_HOURS)
    return int(np.clip(sparse, 1, WEEK_D if days <= LONG_D else FOUR_WEEKS_D))


def hours_without_source(station: HourlyStation) -> float:
    """Hours a full bank and what stands behind it carry the station in the hard month with nothing
    coming in, from the hour that is worst to begin with."""
    still = np.zeros((1, station.hours.load_a.shape[0]))
    dark = station.hours._replace(
        fixed_a=still[0],
        panels_a=still,
        backup_a=still[0],
        floor_ah=station.hours.floor_ah[:1],
        # Told as the plan has it, as are the days without sun beside it.
        end_ah=station.hours.floor_ah[:1],
        locked=station.hours.locked[:1],
    )
    first = int(np.flatnonzero(station.months == station.hard_month - 1)[0])
    # From every hour of a week: a day that begins before the evening is not as long as one that
    # begins after it.
    starts = np.array([[0, first + hour] for hour in range(WEEK_D * HOURS)], dtype=np.int64)
    # How long there is power: whether the volts are enough for what is to be done is told apart.
    _, _, powered = spells_of(replace(station, hours=dark), [AS_IT_IS], starts, 60 * HOURS)
    return float(powered.min())


def hours_to_recharge(station: HourlyStation, month: int, most_d: int = 60) -> float | None:
    """Median hours from an empty bank to a full one on the design's own sources, from days of a
    month; None if over.

    Parameters
    ----------
    month : int
        1 to 12.
    most_d : int
        After how many days it gives up. [d]
    """
    first = int(np.flatnonzero(station.months == month - 1)[0])
    starts = np.array(
        [[year, first + day * HOURS] for year in range(station.years) for day in range(0, 28, 3)]
    )
    found = np.empty(len(starts))
    full, most_h = assumed_figure("full_share"), most_d * HOURS
    hours_to_full(station.rules, station.hours, starts.astype(np.int64), full, most_h, found)
    middle = float(np.median(found))
    return middle if middle < most_h else None
