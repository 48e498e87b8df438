"""Every weather year from a state of charge and an hour of the year on: what a forecast and a
stand-in are made of."""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from .kernel import (
    CHARGE,
    OUT_BACKED,
    OUT_CHARGE,
    OUT_DEFERRED,
    OUT_TAKEN,
    OUT_VITAL,
    OUTS,
    Hours,
    run_years,
)
from .playing import Played, Stage, bus_volts_of
from .station import HOURS, HourlyStation
from .tally import tally_of

FloatArray = NDArray[np.float64]
DARK_EPS_A = 1e-9
MOST_LEFT_H = 60 * HOURS
"""What lasts longer than this has no end that matters."""


def _onward(station: HourlyStation, year: int, at: NDArray[np.int64], loads: FloatArray) -> Hours:
    """The hours of a weather year from a moment on."""
    hours = station.hours
    return hours._replace(
        fixed_a=hours.fixed_a[at],
        panels_a=np.ascontiguousarray(hours.panels_a[year, at])[None, :],
        backup_a=hours.backup_a[at],
        load_a=np.ascontiguousarray(loads[at]),
        floor_ah=np.ascontiguousarray(hours.floor_ah[year, at])[None, :],
        end_ah=np.ascontiguousarray(hours.end_ah[year, at])[None, :],
        locked=np.ascontiguousarray(hours.locked[year, at])[None, :],
        new_day=at % HOURS == 0,
        still_ah=hours.still_ah[at],
        fed_ah=hours.fed_ah[at],
    )


def _run(station: HourlyStation, hours: Hours, charge_share: float) -> FloatArray:
    state = station.start()
    state[CHARGE] = charge_share * station.rules.full_ah
    out = np.empty((1, hours.panels_a.shape[1], OUTS))
    run_years(station.rules, hours, state, out)
    return np.asarray(out[0])


def charge_from(
    station: HourlyStation, at: NDArray[np.int64], charge_share: float, loads: FloatArray
) -> tuple[FloatArray, NDArray[np.bool_]]:
    """Go on from a state of charge in every weather year.

    Parameters
    ----------
    station : HourlyStation
        The station hour by hour.
    at : ndarray of shape (n,)
        Hours of the year.
    charge_share : float
        Of the whole bank, as it begins.
    loads : ndarray of shape (8760, 4)
        What each tier wants. [A]

    Returns
    -------
    tuple of ndarray, each of shape (years, n)
        Charge as a share of the whole bank at the end of each hour; whether the vital tier is not
        served in full.
    """
    shares = np.empty((station.years, at.size))
    dark = np.empty((station.years, at.size), dtype=bool)
    for year in range(station.years):
        hours = _onward(station, year, at, loads)
        out = _run(station, hours, charge_share)
        shares[year] = out[:, OUT_CHARGE] / station.rules.full_ah
        dark[year] = (out[:, OUT_VITAL] < hours.load_a[:, 0] - DARK_EPS_A) & (
            hours.load_a[:, 0] > 0.0
        )
    return shares, dark


def hours_left(
    station: HourlyStation, first_hour: int, charge_share: float, loads: FloatArray
) -> FloatArray:
    """Hours until the vital tier is not served, from a state of charge with nothing coming in.

    Parameters
    ----------
    station : HourlyStation
        The station hour by hour.
    first_hour : int
        Of the year.
    charge_share : float
        Of the whole bank, as it begins.
    loads : ndarray of shape (8760, 4)
        What each tier wants. [A]

    Returns
    -------
    ndarray of shape (years,)
        By the cold of each weather year; infinite where two months do not end it. [h]
    """
    hours = station.hours
    still = hours._replace(
        fixed_a=np.zeros_like(hours.fixed_a),
        panels_a=np.zeros_like(hours.panels_a),
        backup_a=np.zeros_like(hours.backup_a),
    )
    at = (first_hour + np.arange(MOST_LEFT_H)) % station.months.size
    _, dark = charge_from(replace(station, hours=still), at, charge_share, loads)
    return np.where(dark.any(axis=1), dark.argmax(axis=1).astype(float), np.inf)


def charge_of_year(station: HourlyStation) -> FloatArray:
    """Charge of the whole bank as the plan has it, all years in a row from a full one.

    Parameters
    ----------
    station : HourlyStation
        The station hour by hour.

    Returns
    -------
    ndarray of shape (years, 8760)
        Share of the whole bank at the end of each hour.
    """
    return np.asarray(tally_of(station).charge_ah / station.rules.full_ah)


@dataclass(frozen=True, slots=True, kw_only=True)
class Life:
    """What a station goes through, hour by hour from a moment of a weather year on; each shape
    (n,)."""

    charge_share: FloatArray
    """Of the whole bank, at the end of the hour."""
    volts: FloatArray
    unfed_v: FloatArray
    """At the posts if no source gave anything in the hour."""
    charge_a: FloatArray
    """From panels and every other source."""
    load_a: FloatArray
    box_c: FloatArray
    sun_w_m2: FloatArray
    dark: NDArray[np.bool_]


def dullest_year(station: HourlyStation, month: int) -> int:
    """The weather year in which the panels bring least in a month, 1 to 12."""
    chosen = station.months == month - 1
    return int(np.argmin(station.hours.panels_a[:, chosen].sum(axis=1)))


def _unfed_v(station: HourlyStation, out: FloatArray) -> FloatArray:
    rules, rest_v = station.rules, station.hours.rest_v
    rest = np.interp(out[:, OUT_CHARGE] / rules.full_ah, np.linspace(0.0, 1.0, rest_v.size), rest_v)
    return np.asarray(rest - out[:, OUT_VITAL : OUT_DEFERRED + 1].sum(axis=1) * rules.ohm)


def life_of(
    station: HourlyStation, year: int, first_hour: int, hours: int, charge_share: float
) -> Life:
    """A stretch of a weather year as the station's own meters would tell it.

    Parameters
    ----------
    first_hour : int
        Of the year; after its last hour comes its first.
    charge_share : float
        Of the whole bank, as it begins.

    Returns
    -------
    Life
        Hour by hour.
    """
    at = (first_hour + np.arange(hours)) % station.months.size
    told = _onward(station, year, at, station.hours.load_a)
    out = _run(station, told, charge_share)
    stage = Stage(station, at, year, (), station.sun_w_m2[year, at])
    full = np.full(hours, station.rules.full_ah)
    played = Played(
        stage=stage,
        wanted_a=told.load_a,
        panels_a=told.panels_a[0],
        out=out,
        floor_ah=told.floor_ah[0],
        full_ah=full,
    )
    wanted = told.load_a[:, 0]
    return Life(
        charge_share=out[:, OUT_CHARGE] / station.rules.full_ah,
        volts=bus_volts_of(played),
        unfed_v=_unfed_v(station, out),
        charge_a=np.asarray(out[:, OUT_TAKEN] + out[:, OUT_BACKED]),
        load_a=np.asarray(out[:, OUT_VITAL : OUT_DEFERRED + 1].sum(axis=1)),
        box_c=station.bank_c[year, at],
        sun_w_m2=station.sun_w_m2[year, at],
        dark=np.asarray((out[:, OUT_VITAL] < wanted - DARK_EPS_A) & (wanted > 0.0)),
    )
