"""The kernel for many sizes: 64 sizes of panels and bank go through every hour side by side. Plain
arrays only.

It is the hour of `kernel.py` said without branches; whoever changes one changes the other, and the
tests hold every state of both together. Numba's cache does not notice when a number of a row
changes in that file: delete the caches then.
"""

import numpy as np
from numpy.typing import NDArray

from .kernel import (
    BACKUP_LEFT_H,
    BACKUP_RUNS,
    COLD_HELPED,
    COLD_HOPELESS,
    COLD_SLOW,
    COMFORT,
    COMFORT_OFF,
    DARK_H,
    DEFERRED,
    KERNEL,
    NO_LIMIT_A,
    OWED,
    RESERVE,
    STATES,
    TRIPPED,
    USEFUL,
    USEFUL_OFF,
    VITAL,
    WITHIN,
    FloatArray,
    Hours,
    Rules,
)

LANES = 64
"""Sizes that go through the hours side by side: so many that the machine's widest registers are
always full."""
(
    LANE_PANELS,
    LANE_BANK,
    LANE_FULL,
    LANE_MOST,
    LANE_OHM,
    LANE_PART,
) = range(STATES, STATES + 6)
"""Rows of the lanes after those of their state: times the panels, times the bank, its amp-hours,
the most it is charged with, its resistance, and the part of the last hour that was served."""
LANE_ROWS = STATES + 6


@WITHIN
def _hour_of_lanes(
    rules: Rules,
    rest_v: FloatArray,
    lanes: FloatArray,
    fixed: float,
    panel: float,
    backup: float,
    vital: float,
    useful: float,
    comfort: float,
    deferred: float,
    floor_ah: float,
    end_ah: float,
    locked: int,
    new_day: bool,
    by_volts: bool,
) -> None:
    """The same hour as `_hour`, of all lanes at once: no branches but choices between numbers, one
    array that is cut into rows of a known length, so that the machine works on several lanes in one
    instruction."""
    has_backup = 1.0 if rules.backup_h_per_day > 0.0 and backup > 0.0 else 0.0
    defers = 1.0 if rules.owed_most_ah > 0.0 else 0.0
    wants_vital = 1.0 if vital > 0.0 else 0.0
    backup_carries = wants_vital if backup >= vital else 0.0
    heater_a = rules.heater_a if locked == COLD_HELPED else 0.0
    warm = 0.0 if locked in (COLD_HELPED, COLD_HOPELESS) else 1.0
    # What a heater has warmed is charged slowly too.
    slow_a = rules.slow_charge_a if locked == COLD_SLOW or heater_a > 0.0 else NO_LIMIT_A
    per_charge = 1.0 / rules.efficiency
    last = rest_v.size - 1
    for i in range(LANES):
        floor = floor_ah * lanes[LANE_BANK * LANES + i]
        full = lanes[LANE_FULL * LANES + i]
        source = fixed + panel * lanes[LANE_PANELS * LANES + i]
        charge = lanes[i]
        leaked = charge * rules.leak_per_h
        idle = min(source, rules.idle_a)
        source -= idle
        charge = charge - leaked - min(max(charge - leaked, 0.0), rules.idle_a - idle)
        room = full - floor
        above = charge - floor

        useful_line = (rules.shed_useful + rules.hysteresis * lanes[USEFUL_OFF * LANES + i]) * room
        comfort_line = (
            rules.shed_comfort + rules.hysteresis * lanes[COMFORT_OFF * LANES + i]
        ) * room
        useful_off = 1.0 if (above < useful_line) & (rules.shed_useful > 0.0) else 0.0
        comfort_off = 1.0 if (above < comfort_line) & (rules.shed_comfort > 0.0) else 0.0
        back = 1.0 if above >= rules.back_share * room else 0.0
        source_carries = wants_vital if source >= vital else 0.0
        somebody_came = 1.0 if lanes[DARK_H * LANES + i] >= rules.hand_h else 0.0
        tripped = lanes[TRIPPED * LANES + i] * (
            1.0 - max(back, max(source_carries, backup_carries)) * somebody_came
        )
        wanted = (vital + useful * (1.0 - useful_off) + comfort * (1.0 - comfort_off)) * (
            1.0 - tripped
        )

        backup_left = rules.backup_h_per_day if new_day else lanes[BACKUP_LEFT_H * LANES + i]
        held_on = lanes[BACKUP_RUNS * LANES + i] if above < rules.backup_off * room else 0.0
        starts = 1.0 if above < rules.backup_on * room else 0.0
        runs = has_backup * max(held_on, starts) * (1.0 if backup_left > 0.0 else 0.0)
        given = backup * runs
        backup_left -= runs

        direct = min(source, wanted)
        helped = min(given, wanted - direct)
        lacking = wanted - direct - helped
        held = max(above, 0.0)
        whole = max(charge - end_ah * lanes[LANE_BANK * LANES + i], 0.0)
        if by_volts:
            place = min(max(charge / full, 0.0), 1.0) * last
            low = min(int(place), last - 1)
            volts = rest_v[low] + (place - low) * (rest_v[low + 1] - rest_v[low])
            sags = volts - lacking * lanes[LANE_OHM * LANES + i] < rules.low_v
            held = 0.0 if sags else held
            whole = 0.0 if sags else whole
        from_bank = min(lacking, held)
        reserve = lanes[RESERVE * LANES + i]
        from_reserve = min(lacking - from_bank, reserve)
        reserve -= from_reserve
        from_bank += min(lacking - from_bank - from_reserve, max(whole - held, 0.0))
        charge -= from_bank
        missed = lacking - from_bank - from_reserve
        runs_out = 1.0 if missed > 1e-12 else 0.0
        part = (1.0 - tripped) * (1.0 - runs_out) + runs_out * (
            (wanted - missed) / max(wanted, 1e-300)
        )
        tripped = max(tripped, runs_out)

        spare = source - direct
        owed = lanes[OWED * LANES + i] + deferred * defers
        fed = (1.0 if above >= rules.defer_share * room else 0.0) * (1.0 - tripped) * defers
        waited = min(spare, owed) * fed
        owed = min(owed - waited, rules.owed_most_ah)
        spare += given - helped - waited
        heat = heater_a if heater_a < spare else 0.0
        spare -= heat
        missing = full - charge
        most = min(lanes[LANE_MOST * LANES + i], slow_a * lanes[LANE_BANK * LANES + i])
        take = min(min(spare, most), min(missing * per_charge, rules.accept_per_h * missing))
        take = max(take, 0.0) * max(warm, 1.0 if heat > 0.0 else 0.0)
        charge += take * rules.efficiency
        wants = (rules.reserve_ah - reserve) / rules.reserve_efficiency
        reserve += (
            max(0.0, min(spare - take, min(rules.reserve_charge_a, wants)))
            * rules.reserve_efficiency
        )

        lanes[i] = charge
        lanes[RESERVE * LANES + i] = reserve
        lanes[OWED * LANES + i] = owed
        lanes[BACKUP_LEFT_H * LANES + i] = backup_left
        lanes[DARK_H * LANES + i] = (lanes[DARK_H * LANES + i] + 1.0) * tripped
        lanes[TRIPPED * LANES + i] = tripped
        lanes[USEFUL_OFF * LANES + i] = useful_off
        lanes[COMFORT_OFF * LANES + i] = comfort_off
        lanes[BACKUP_RUNS * LANES + i] = runs
        lanes[LANE_PART * LANES + i] = part


@WITHIN
def _lanes_at(
    rules: Rules, hours: Hours, lanes: FloatArray, year: int, hour: int, by_volts: bool
) -> None:
    """An hour of the year for all lanes."""
    _hour_of_lanes(
        rules,
        hours.rest_v,
        lanes,
        fixed=hours.fixed_a[hour],
        panel=hours.panels_a[year, hour],
        backup=hours.backup_a[hour],
        vital=hours.load_a[hour, VITAL],
        useful=hours.load_a[hour, USEFUL],
        comfort=hours.load_a[hour, COMFORT],
        deferred=hours.load_a[hour, DEFERRED],
        floor_ah=hours.floor_ah[year, hour],
        end_ah=hours.end_ah[year, hour],
        locked=hours.locked[year, hour],
        new_day=hours.new_day[hour],
        by_volts=by_volts,
    )


@WITHIN
def _heard(rules: Rules, hours: Hours, lanes: FloatArray, i: int, year: int, hour: int) -> float:
    """0 where something vital of a lane is served in full and has too few volts for what it is to
    do, else 1."""
    served_whole = lanes[LANE_PART * LANES + i] >= 1.0 - 1e-12
    source = hours.fixed_a[hour] + hours.panels_a[year, hour] * lanes[LANE_PANELS * LANES + i]
    line = hours.still_ah[hour] + (hours.fed_ah[hour] - hours.still_ah[hour]) * min(
        1.0, source / rules.fed_a
    )
    return 0.0 if served_whole & (lanes[i] < line * lanes[LANE_BANK * LANES + i]) else 1.0


@WITHIN
def _vital_of_lanes(
    rules: Rules,
    hours: Hours,
    lanes: FloatArray,
    month: NDArray[np.int64],
    served: FloatArray,
    by_volts: bool,
) -> None:
    for year in range(hours.panels_a.shape[0]):
        for hour in range(hours.panels_a.shape[1]):
            _lanes_at(rules, hours, lanes, year, hour, by_volts)
            vital, row = hours.load_a[hour, VITAL], month[hour] * LANES
            if rules.lines > 0.0 and vital > 0.0:
                for i in range(LANES):
                    served[row + i] += (
                        vital
                        * lanes[LANE_PART * LANES + i]
                        * _heard(rules, hours, lanes, i, year, hour)
                    )
            else:
                for i in range(LANES):
                    served[row + i] += vital * lanes[LANE_PART * LANES + i]


@KERNEL
def vital_lanes(
    rules: Rules, hours: Hours, lanes: FloatArray, month: NDArray[np.int64], served: FloatArray
) -> None:
    """Vital amp-hours served by month over all years, of 64 sizes side by side.

    Parameters
    ----------
    rules : Rules
        Of the bank and its controllers; what a size changes is in `lanes`.
    hours : Hours
        Source, load, floor and lock of every hour.
    lanes : ndarray of shape (LANE_ROWS * LANES,)
        A row a state and a row each for what a size changes; left as they end.
    month : ndarray of shape (8760,)
        Of each hour, 0 to 11.
    served : ndarray of shape (12 * LANES,)
        Added to. [A·h]

    Returns
    -------
    None
        `lanes` and `served` are changed.
    """
    if rules.low_v > 0.0:
        _vital_of_lanes(rules, hours, lanes, month, served, True)
    else:
        _vital_of_lanes(rules, hours, lanes, month, served, False)


@WITHIN
def _spell_of_lanes(
    rules: Rules,
    hours: Hours,
    lanes: FloatArray,
    first_year: int,
    first: int,
    carried_h: FloatArray,
    most_h: int,
) -> None:
    years, in_a_year = hours.panels_a.shape
    for step in range(most_h):
        year = (first_year + (first + step) // in_a_year) % years
        hour = (first + step) % in_a_year
        _lanes_at(rules, hours, lanes, year, hour, rules.low_v > 0.0)
        vital, still_lit = hours.load_a[hour, VITAL], 0.0
        for i in range(LANES):
            lit = 1.0 if vital * lanes[LANE_PART * LANES + i] >= vital - 1e-9 else 0.0
            if rules.lines > 0.0 and vital > 0.0:
                lit *= _heard(rules, hours, lanes, i, year, hour)
            lit *= 1.0 if carried_h[i] >= step else 0.0
            carried_h[i] += lit
            still_lit += lit
        if still_lit == 0.0:
            break


@KERNEL
def spells_of_lanes(
    rules: Rules,
    hours: Hours,
    sizes: FloatArray,
    starts: NDArray[np.int64],
    most_h: int,
    carried_h: FloatArray,
) -> None:
    """From midnights on, with full banks: hours until the first vital hour not served in full, of
    64 sizes at once.

    Parameters
    ----------
    rules : Rules
        Of the bank and its controllers; what a size changes is in `sizes`.
    hours : Hours
        Source, load, floor and lock of every hour.
    sizes : ndarray of shape (LANE_ROWS * LANES,)
        A row each for what a size changes; the rows of the states are not read.
    starts : ndarray of shape (k, 2)
        Year and hour of the year.
    most_h : int
        A spell is followed no longer. [h]
    carried_h : ndarray of shape (k, LANES)
        Filled. [h]

    Returns
    -------
    None
        `carried_h` is changed.
    """
    lanes = np.empty(LANE_ROWS * LANES)
    for number in range(starts.shape[0]):
        lanes[:] = sizes
        lanes[: STATES * LANES] = 0.0
        lanes[:LANES] = sizes[LANE_FULL * LANES : LANE_FULL * LANES + LANES]
        lanes[RESERVE * LANES : RESERVE * LANES + LANES] = rules.reserve_ah
        lanes[BACKUP_LEFT_H * LANES : BACKUP_LEFT_H * LANES + LANES] = rules.backup_h_per_day
        carried_h[number, :] = 0.0
        _spell_of_lanes(
            rules,
            hours,
            lanes,
            first_year=starts[number, 0],
            first=starts[number, 1],
            carried_h=carried_h[number],
            most_h=most_h,
        )
