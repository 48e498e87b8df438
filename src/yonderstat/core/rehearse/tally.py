"""The weather years summed as they are run: what the verdict, the bank's life and the sets' volts
read of them."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import partial

import numpy as np
from numpy.typing import NDArray

from ..calendar import DAYS_A_YEAR
from .assumed import assumed_figure
from .at_once import THREADS, at_once
from .kernel import CHARGE, OfCases, Rules, Scales, spell_cases, sum_cases, tally_and_sum
from .station import HourlyStation

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Case:
    """So many times the panels, by month or all year, the bank and the loads of a station."""

    panels: FloatArray | float = 1.0
    bank: float = 1.0
    load: float = 1.0


AS_IT_IS = Case()
FLAT_SHARE = 0.01
MOST = 3
"""Cases in one run of a kernel."""
MANY_HOURS = 1_000_000
"""Hours of spells that are worth being run on all cores."""


@dataclass(frozen=True, slots=True, kw_only=True)
class MonthSums:
    """What a run of all weather years comes to by month, over all years, shape (12,) each."""

    station: HourlyStation
    load: float
    """Times its loads."""
    vital_ah: FloatArray
    """In service of the vital tier."""
    dark_hours: FloatArray
    """Hours whose vital load is not served in full."""
    used_ah: FloatArray
    """All that was served."""
    backed_ah: FloatArray
    """Given by what stands behind the bank."""
    mute_hours: FloatArray
    """Hours whose vital load has power and too few volts for what it is to do."""
    worn_hours: FloatArray
    """Hours that end under the depth that is planned."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Tally:
    """What a run of all weather years comes to, and what is read of its hours."""

    station: HourlyStation
    sums: MonthSums
    course: FloatArray
    """Charge at the end of every hour [A·h], and what sources and backup brought in it [A], shape
    (2, years, 8760)."""
    dark: NDArray[np.bool_]
    """Hours whose vital load is not served in full, shape (years, 8760)."""
    mute: NDArray[np.bool_]
    """Hours whose vital load has power and too few volts for what it is to do, shape (years,
    8760)."""
    cut_off: NDArray[np.int8]
    """Hours in which the station is cut off, 0 or 1, shape (years, 8760)."""
    full: NDArray[np.bool_]
    """Days on which the bank gets full, shape (years, 365)."""
    from_bank_ah: float
    trips: float
    worn_days: float
    """Days with an hour that ends under the planned depth."""

    @property
    def least_ah(self) -> float:
        """The least charge at the end of any hour."""
        return float(self.course[0].min())

    @property
    def flat_times(self) -> float:
        """How often it is run to where it gives nothing any more, within a hundredth of all it
        holds."""
        flat = (
            self.course[0] <= self.station.hours.end_ah + FLAT_SHARE * self.station.rules.full_ah
        ).ravel()
        return float((flat[1:] & ~flat[:-1]).sum() + flat[0])

    @property
    def charge_ah(self) -> FloatArray:
        """Of every hour, shape (years, 8760)."""
        return np.asarray(self.course[0])


def scaled_bank(station: HourlyStation, scale: float) -> Rules:
    """The rules of a bank so many times as big."""
    rules = station.rules
    return rules._replace(
        full_ah=rules.full_ah * scale,
        most_charge_a=rules.most_charge_a * scale,
        slow_charge_a=rules.slow_charge_a * scale,
        ohm=rules.ohm / scale,
    )


def _rules_of(station: HourlyStation, cases: Sequence[Case]) -> OfCases:
    first, second, third = (
        [scaled_bank(station, case.bank) for case in cases] + [station.rules] * MOST
    )[:MOST]
    return first, second, third


def _scales_of(cases: Sequence[Case]) -> Scales:
    panels = np.array(
        [np.broadcast_to(case.panels, 12) for case in cases], dtype=np.float64
    ).reshape(-1, 12)
    return Scales(
        panels,
        np.array([case.bank for case in cases], dtype=np.float64),
        np.array([case.load for case in cases], dtype=np.float64),
    )


def _states_of(station: HourlyStation, cases: Sequence[Case]) -> FloatArray:
    states = np.tile(station.start(), (len(cases), 1))
    states[:, CHARGE] *= [case.bank for case in cases]
    return states


def _month_sums(station: HourlyStation, case: Case, by_month: FloatArray) -> MonthSums:
    vital, dark, used, backed, mute, worn = (np.asarray(column) for column in by_month.T)
    return MonthSums(
        station=station,
        load=case.load,
        vital_ah=vital,
        dark_hours=dark,
        used_ah=used,
        backed_ah=backed,
        mute_hours=mute,
        worn_hours=worn,
    )


def tally_of(station: HourlyStation) -> Tally:
    """Run all weather years and sum them up.

    Parameters
    ----------
    station : HourlyStation
        The station hour by hour.

    Returns
    -------
    Tally
        What they come to.
    """
    return tally_with(station, ())[0]


def tally_with(station: HourlyStation, cases: Sequence[Case]) -> tuple[Tally, list[MonthSums]]:
    """Run all weather years and sum them up, and those of some other cases for their sums alone, in
    one go.

    Parameters
    ----------
    station : HourlyStation
        The station hour by hour.
    cases : sequence of Case
        Three at most.

    Returns
    -------
    tuple
        What the years come to, and what those of each case do.
    """
    shape = station.hours.panels_a.shape
    by_month, course, totals = np.zeros((12, 6)), np.empty((2, *shape)), np.zeros(3)
    marks, full = (
        np.empty((3, *shape), dtype=np.int8),
        np.zeros((shape[0], DAYS_A_YEAR), dtype=np.bool_),
    )
    line_ah, others = (
        assumed_figure("full_share") * station.rules.full_ah,
        np.zeros((len(cases), 12, 6)),
    )
    tally_and_sum(
        station.rules,
        station.hours,
        station.start(),
        month=station.months,
        full_line_ah=line_ah,
        by_month=by_month,
        course=course,
        marks=marks,
        full=full,
        totals=totals,
        others=_rules_of(station, cases),
        scales=_scales_of(cases),
        states=_states_of(station, cases),
        sums=others,
    )
    sums = [
        _month_sums(station, case, found)
        for case, found in zip((AS_IT_IS, *cases), (by_month, *others), strict=True)
    ]
    from_bank_ah, trips, worn_days = (float(total) for total in totals)
    tally = Tally(
        station=station,
        sums=sums[0],
        course=course,
        dark=marks[0].view(np.bool_),
        mute=marks[2].view(np.bool_),
        cut_off=marks[1],
        full=full,
        from_bank_ah=from_bank_ah,
        trips=trips,
        worn_days=worn_days,
    )
    return tally, sums[1:]


def sums_of(station: HourlyStation, cases: Sequence[Case]) -> list[MonthSums]:
    """Run all weather years of some cases for their sums alone.

    Parameters
    ----------
    station : HourlyStation
        The station hour by hour.
    cases : sequence of Case
        Three at most.

    Returns
    -------
    list of MonthSums
        What they come to, as `tally_of` has it.
    """
    found = np.zeros((len(cases), 12, 6))
    states = _states_of(station, cases)
    sum_cases(
        _rules_of(station, cases), station.hours, _scales_of(cases), states, station.months, found
    )
    return [
        _month_sums(station, case, by_month) for case, by_month in zip(cases, found, strict=True)
    ]


def spells_of(
    station: HourlyStation, cases: Sequence[Case], starts: NDArray[np.int64], most_h: int
) -> tuple[FloatArray, FloatArray, FloatArray]:
    """Spells of some cases from full banks at midnights.

    Parameters
    ----------
    station : HourlyStation
        The station hour by hour.
    cases : sequence of Case
        Three at most.
    starts : ndarray of shape (k, 2)
        Year and hour of the year.
    most_h : int
        A spell is followed no longer. [h]

    Returns
    -------
    tuple of ndarray of shape (cases, k)
        Hours until the first vital hour out of service, what is left of what may be used when it is
        dark, and hours until that.
    """
    rules, scales = _rules_of(station, cases), _scales_of(cases)

    def some(part: NDArray[np.int64]) -> FloatArray:
        found = np.empty((3, len(cases), len(part)))
        spell_cases(rules, station.hours, scales, station.months, part, most_h, *found)
        return found

    parts = THREADS + 1 if len(starts) * most_h > MANY_HOURS else 1
    carried_h, left_share, powered_h = np.concatenate(
        at_once([partial(some, part) for part in np.array_split(starts, parts)]), 2
    )
    return carried_h, left_share, powered_h
