"""The rehearsal kernel: one hour after another through the station. Plain arrays and numbers only.

All kernels live in this one file, as numba's cache does not notice a changed callee elsewhere.

Symbols: Q charge of the bank counted in amp-hours it would hold at 25 °C [A·h]; C the most of that;
F the charge at which the depth allowed ends [A·h], higher in the cold; I currents at the bus [A]; η
share of a charge that comes back.
"""

from typing import NamedTuple

import numpy as np
from numba import njit
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]
State = tuple[float, float, float, float, float, float, float, float, float]
Told = tuple[float, ...]

KERNEL = njit(cache=True, nogil=True, error_model="numpy", fastmath={"nnan", "ninf", "nsz"})
"""No number here is ever NaN or infinite, and saying so lets min and max be one instruction
each."""
WITHIN = njit(
    cache=True, nogil=True, error_model="numpy", fastmath={"nnan", "ninf", "nsz"}, inline="always"
)

VITAL, USEFUL, COMFORT, DEFERRED = 0, 1, 2, 3
"""Columns of what the loads want; the last waits for the sun."""

CHARGE, RESERVE, OWED, BACKUP_LEFT_H, DARK_H, TRIPPED, USEFUL_OFF, COMFORT_OFF, BACKUP_RUNS = range(
    9
)
"""What is carried from hour to hour; the last four are 0 or 1."""
STATES = 9
STANDING = slice(DARK_H, BACKUP_RUNS)
"""How the loads stand: dark hours, tripped, tiers off. It goes with the bank that feeds them, when
they are swapped."""

(
    OUT_CHARGE,
    OUT_VITAL,
    OUT_USEFUL,
    OUT_COMFORT,
    OUT_DEFERRED,
    OUT_TAKEN,
    OUT_BACKED,
    OUT_INTO,
    OUT_FROM,
    OUT_RESERVE,
    OUT_TO_RESERVE,
    OUT_LOST,
    OUT_TRIPPED,
) = range(13)
"""What an hour reports: charge and reserve at its end [A·h]; served by tier, taken from the
sources, given by the backup, into and out of the bank, into the reserve, lost to leakage, idling
and heat [A]; tripped 0 or 1."""
OUTS = 13


NO_LIMIT_A = 1e9
WORN_AH = 1e-6
"""So little under the floor is on it."""
COLD_HELPED, COLD_HOPELESS, COLD_SLOW = 1, 2, 3
"""How cold the bank is: too cold to be charged where a heater can help it, where none can, and
where it may be charged slowly; 0 is warm."""


class Rules(NamedTuple):
    """How the bank and its surroundings behave: the flat record the kernel reads. Shares are of
    what may be used."""

    full_ah: float
    efficiency: float
    accept_per_h: float
    """Acceptance falls with what is missing: I ≤ k (C − Q)."""
    most_charge_a: float
    leak_per_h: float
    """Self-discharge, a share of the charge."""
    idle_a: float
    """What controllers take for themselves, day and night, whether or not the loads are off."""
    heater_a: float
    """Taken from the sources while the bank is too cold to be charged; 0 is no heater: it then
    waits for warmth."""
    ohm: float
    low_v: float
    """Under this at the posts the loads are cut off; 0 leaves it to the depth allowed."""
    back_share: float
    hand_h: float
    """Dark hours until somebody comes to switch it on again; 0 where it does so by itself."""
    shed_useful: float
    shed_comfort: float
    hysteresis: float
    backup_on: float
    backup_off: float
    backup_h_per_day: float
    defer_share: float
    """Loads that may wait are fed from spare sun above this share."""
    owed_most_ah: float
    """What they can be owed; more is given up."""
    reserve_ah: float
    """The layers behind the main bank, as amp-hours at its volts; they come on when it is at its
    end."""
    reserve_efficiency: float
    reserve_charge_a: float
    bus_ohm: float = 0.0
    """Between the posts and where the cut-off measures: its volts fall by this too."""
    slow_charge_a: float = NO_LIMIT_A
    """The most it is charged with while it is cold but not too cold."""
    lines: float = 0.0
    """1 where something vital may have power and too few volts to do its work."""
    fed_a: float = 1.0
    """With so much coming in the bank does not sag under what keys."""


class Hours(NamedTuple):
    """What every hour brings. Where years and hours are both given the first axis is the year."""

    rest_v: FloatArray
    """Resting volts at even shares of charge, empty to full."""
    fixed_a: FloatArray
    """Sources that are not panels, shape (8760,)."""
    panels_a: FloatArray
    """Shape (years, 8760)."""
    backup_a: FloatArray
    """What a backup could give, shape (8760,)."""
    load_a: FloatArray
    """What each tier wants, and what may wait, shape (8760, 4)."""
    floor_ah: FloatArray
    """Where the depth ends, shape (years, 8760)."""
    end_ah: FloatArray
    """Where the bank gives nothing any more, shape (years, 8760); at the floor where the plan is
    kept to."""
    locked: NDArray[np.int8]
    """How cold the bank is, `COLD_HELPED` and so on, shape (years, 8760)."""
    new_day: NDArray[np.bool_]
    """Midnights, from which a backup's hours count anew, shape (8760,)."""
    still_ah: FloatArray
    """Charge under which something vital is out of its range with nothing coming in, shape
    (8760,)."""
    fed_ah: FloatArray
    """And with as much coming in as it draws, shape (8760,)."""


@WITHIN
def _at_share(table: FloatArray, share: float) -> float:
    """A table at even steps read at a share of its way, straight between its points and held beyond
    its ends."""
    place = min(max(share, 0.0), 1.0) * (table.size - 1)
    low = min(int(place), table.size - 2)
    return table[low] + (place - low) * (table[low + 1] - table[low])  # type: ignore[no-any-return]


@WITHIN
def _state(state: FloatArray) -> State:
    """The state as a tuple, which the machine can keep in registers."""
    return (
        state[0],
        state[1],
        state[2],
        state[3],
        state[4],
        state[5],
        state[6],
        state[7],
        state[8],
    )


@WITHIN
def _hour(
    rules: Rules,
    rest_v: FloatArray,
    state: State,
    source: float,
    backup: float,
    vital: float,
    useful: float,
    comfort: float,
    deferred: float,
    floor: float,
    end: float,
    locked: int,
    new_day: bool,
) -> tuple[State, Told]:
    """One hour: the state after it, and what happened in it. Currents [A], charge [A·h].

    The sources feed the loads first; a backup that runs fills up what they lack; the bank gives the
    rest down to its floor, then the layers behind it, then the bank what is under its floor, which
    wears it. When that is spent too, or the volts fall under the cut-off, all is dark until the
    bank is back or the sources alone carry the vital tier, and, where a hand is needed, somebody
    has come. What the sources have to spare goes to loads that waited, to the bank as far as it
    accepts, and to the layers.
    """
    leaked = state[CHARGE] * rules.leak_per_h
    idle = min(source, rules.idle_a)
    source -= idle
    drained = min(max(state[CHARGE] - leaked, 0.0), rules.idle_a - idle)
    charge = state[CHARGE] - leaked - drained
    room = rules.full_ah - floor
    above = charge - floor

    useful_off = (
        above < (rules.shed_useful + rules.hysteresis * state[USEFUL_OFF]) * room
        and rules.shed_useful > 0.0
    )
    comfort_off = (
        above < (rules.shed_comfort + rules.hysteresis * state[COMFORT_OFF]) * room
        and rules.shed_comfort > 0.0
    )
    want_useful = 0.0 if useful_off else useful
    want_comfort = 0.0 if comfort_off else comfort
    tripped = state[TRIPPED] > 0.0
    if tripped and state[DARK_H] >= rules.hand_h:
        tripped = not (
            above >= rules.back_share * room or source >= vital > 0.0 or backup >= vital > 0.0
        )
    wanted = 0.0 if tripped else vital + want_useful + want_comfort

    backup_left = state[BACKUP_LEFT_H]
    given = 0.0
    if rules.backup_h_per_day > 0.0:
        if new_day:
            backup_left = rules.backup_h_per_day
        held_on = state[BACKUP_RUNS] > 0.0 and above < rules.backup_off * room
        if backup > 0.0 and backup_left > 0.0 and (held_on or above < rules.backup_on * room):
            given = backup
            backup_left -= 1.0

    direct = min(source, wanted)
    helped = min(given, wanted - direct)
    lacking = wanted - direct - helped
    held = max(above, 0.0)
    sags = (
        rules.low_v > 0.0
        and _at_share(rest_v, charge / rules.full_ah) - lacking * (rules.ohm + rules.bus_ohm)
        < rules.low_v
    )
    if sags:
        held = 0.0
    from_bank = min(lacking, held)
    reserve = state[RESERVE]
    from_reserve = min(lacking - from_bank, reserve)
    reserve -= from_reserve
    missed = lacking - from_bank - from_reserve
    if missed > 0.0 and not sags:
        deeper = min(missed, max(charge - end - held, 0.0))
        from_bank += deeper
        missed -= deeper
    charge -= from_bank
    part = 0.0 if tripped else 1.0
    if missed > 1e-12:
        # The bank runs out within the hour: every tier is served for the same part of it.
        part = (wanted - missed) / wanted
        tripped = True

    spare = source - direct
    owed = state[OWED]
    waited = 0.0
    if rules.owed_most_ah > 0.0:
        owed += deferred
        if above >= rules.defer_share * room and not tripped:
            waited = min(spare, owed)
        owed = min(owed - waited, rules.owed_most_ah)
    spare += given - helped - waited

    heat = 0.0
    if locked == COLD_HELPED and 0.0 < rules.heater_a < spare:
        heat = rules.heater_a
        spare -= heat
        locked = COLD_SLOW
    missing = rules.full_ah - charge
    most = (
        min(rules.most_charge_a, rules.slow_charge_a)
        if locked == COLD_SLOW
        else rules.most_charge_a
    )
    take = min(
        min(spare, most), min(missing * (1.0 / rules.efficiency), rules.accept_per_h * missing)
    )
    take = 0.0 if locked in (COLD_HELPED, COLD_HOPELESS) else max(take, 0.0)
    charge += take * rules.efficiency
    to_reserve = 0.0
    if rules.reserve_charge_a > 0.0:
        wants = (rules.reserve_ah - reserve) / rules.reserve_efficiency
        to_reserve = max(0.0, min(spare - take, min(rules.reserve_charge_a, wants)))
        reserve += to_reserve * rules.reserve_efficiency

    used = direct + helped + waited + heat + take + to_reserve
    from_sun = min(used, source)
    after = (
        charge,
        reserve,
        owed,
        backup_left,
        state[DARK_H] + 1.0 if tripped else 0.0,
        1.0 if tripped else 0.0,
        1.0 if useful_off else 0.0,
        1.0 if comfort_off else 0.0,
        1.0 if given > 0.0 else 0.0,
    )
    told = (
        charge,
        vital * part,
        want_useful * part,
        want_comfort * part,
        waited,
        from_sun + idle,
        used - from_sun,
        take,
        from_bank,
        reserve,
        to_reserve,
        leaked + drained + idle + heat,
        1.0 if tripped else 0.0,
    )
    return after, told


@WITHIN
def _at(
    rules: Rules,
    hours: Hours,
    state: State,
    year: int,
    hour: int,
    panel_scale: float,
    bank_scale: float,
    load_scale: float,
) -> tuple[State, Told]:
    """An hour of the year, with so many times the panels, the loads and, of the floor, the bank."""
    return _hour(
        rules,
        hours.rest_v,
        state,
        source=hours.fixed_a[hour] + hours.panels_a[year, hour] * panel_scale,
        backup=hours.backup_a[hour],
        vital=hours.load_a[hour, VITAL] * load_scale,
        useful=hours.load_a[hour, USEFUL] * load_scale,
        comfort=hours.load_a[hour, COMFORT] * load_scale,
        deferred=hours.load_a[hour, DEFERRED] * load_scale,
        floor=hours.floor_ah[year, hour] * bank_scale,
        end=hours.end_ah[year, hour] * bank_scale,
        locked=hours.locked[year, hour],
        new_day=hours.new_day[hour],
    )


@WITHIN
def _is_mute(
    rules: Rules,
    hours: Hours,
    charge: float,
    year: int,
    hour: int,
    panel_scale: float,
    bank_scale: float,
) -> bool:
    """Whether something vital has too few volts for what it is to do, by what is left at the end of
    the hour."""
    if rules.lines <= 0.0:
        return False
    fed = min(1.0, (hours.fixed_a[hour] + hours.panels_a[year, hour] * panel_scale) / rules.fed_a)
    line = hours.still_ah[hour] + (hours.fed_ah[hour] - hours.still_ah[hour]) * fed
    return charge < line * bank_scale  # type: ignore[no-any-return]


@KERNEL
def run_years(rules: Rules, hours: Hours, state: FloatArray, out: FloatArray) -> None:
    """All hours of all years in a row, from `state`, which is left as it ends; out (years, hours,
    OUTS) is filled.

    A year may have any number of hours.

    Parameters
    ----------
    rules : Rules
        Of the bank and its controllers.
    hours : Hours
        Source, load, floor and lock of every hour.
    state : ndarray
        As it begins, shape (STATES,); left as it ends.
    out : ndarray
        Filled, shape (years, hours, OUTS).

    Returns
    -------
    None
        `state` and `out` are changed.
    """
    now = _state(state)
    for year in range(hours.panels_a.shape[0]):
        for hour in range(hours.panels_a.shape[1]):
            now, told = _at(
                rules, hours, now, year, hour, panel_scale=1.0, bank_scale=1.0, load_scale=1.0
            )
            for column in range(OUTS):
                out[year, hour, column] = told[column]
    for number in range(STATES):
        state[number] = now[number]


@KERNEL
def tally_years(
    rules: Rules,
    hours: Hours,
    state: FloatArray,
    month: NDArray[np.int64],
    full_line_ah: float,
    by_month: FloatArray,
    course: FloatArray,
    marks: NDArray[np.int8],
    full: NDArray[np.bool_],
    totals: FloatArray,
) -> None:
    """All hours of all years in a row, as `run_years`, summed as they go: little of each hour is
    kept.

    Parameters
    ----------
    rules : Rules
        Of the bank and its controllers.
    hours : Hours
        Source, load, floor and lock of every hour.
    state : ndarray of shape (STATES,)
        As it begins; left as it ends.
    month : ndarray of shape (8760,)
        Of each hour, 0 to 11.
    full_line_ah : float
        From this charge on the bank counts as full. [A·h]
    by_month : ndarray of shape (12, 6)
        Added to: vital in service, dark hours, served of all tiers, given by the backup [A·h],
        hours with power and too few volts, hours under the depth that is planned.
    course : ndarray of shape (2, years, 8760)
        Filled: the charge at the end of an hour [A·h], and what sources and backup brought in it
        [A].
    marks : ndarray of shape (3, years, 8760)
        Filled, 0 or 1: a vital load is not served in full; the station is cut off; a vital one has
        too few volts.
    full : ndarray of shape (years, 365)
        Set where the bank gets full on a day.
    totals : ndarray of shape (3,)
        Added to: out of the bank [A·h], how often it was cut off, and days with an hour under the
        planned depth.

    Returns
    -------
    None
        All but rules, hours and month are changed.
    """
    now, tripped, worn_day = _state(state), 0.0, False
    for year in range(hours.panels_a.shape[0]):
        for hour in range(hours.panels_a.shape[1]):
            now, told = _at(
                rules, hours, now, year, hour, panel_scale=1.0, bank_scale=1.0, load_scale=1.0
            )
            of, dark = month[hour], told[OUT_VITAL] < hours.load_a[hour, VITAL] - 1e-9
            mute = hours.load_a[hour, VITAL] > 0.0 and not dark
            mute = mute and _is_mute(
                rules, hours, told[OUT_CHARGE], year, hour, panel_scale=1.0, bank_scale=1.0
            )
            by_month[of, 0] += 0.0 if mute else told[OUT_VITAL]
            by_month[of, 4] += 1.0 if mute else 0.0
            by_month[of, 2] += (
                told[OUT_VITAL] + told[OUT_USEFUL] + told[OUT_COMFORT] + told[OUT_DEFERRED]
            )
            by_month[of, 3] += told[OUT_BACKED]
            worn = told[OUT_CHARGE] < hours.floor_ah[year, hour] - WORN_AH
            by_month[of, 5] += 1.0 if worn else 0.0
            worn_day = worn or (worn_day and hour % 24 > 0)
            if hour % 24 == 23 and worn_day:
                totals[2] += 1.0
            course[0, year, hour] = told[OUT_CHARGE]
            course[1, year, hour] = told[OUT_TAKEN] + told[OUT_BACKED]
            marks[0, year, hour] = dark
            marks[1, year, hour] = told[OUT_TRIPPED] > 0.0
            marks[2, year, hour] = mute
            if dark:
                by_month[of, 1] += 1.0
            if told[OUT_CHARGE] >= full_line_ah:
                full[year, hour // 24] = True
            totals[0] += told[OUT_FROM]
            totals[1] += max(told[OUT_TRIPPED] - tripped, 0.0)
            tripped = told[OUT_TRIPPED]
    for number in range(STATES):
        state[number] = now[number]


@KERNEL
def hours_under(
    course: FloatArray,
    cut_off: NDArray[np.int8],
    full_ah: float,
    keyed_v: FloatArray,
    ohm: float,
    most_v: float,
    on_share: FloatArray,
    low_v: float,
    brown_v: float,
    found_h: FloatArray,
) -> None:
    """Hours in which a set is on, those of them in which it is under its window when keyed, and
    under what it stands.

    Parameters
    ----------
    course : ndarray of shape (2, years, 8760)
        Charge [A·h], and what sources and backup brought [A].
    cut_off : ndarray of shape (years, 8760)
        0 or 1.
    full_ah : float
        The most the bank holds. [A·h]
    keyed_v : ndarray
        Volts at the keyed set at even shares of charge, empty to full, with nothing brought in. [V]
    ohm : float
        Of the bank: what is brought in spares it that much sag. [Ω]
    most_v : float
        And never more than this. [V]
    on_share : ndarray of shape (8760,)
        How much of each hour it is on.
    low_v, brown_v : float
        Its window's end, and where it behaves oddly or lets go. [V]
    found_h : ndarray of shape (3,)
        Added to: on, under its window, browning out. [h]

    Returns
    -------
    None
        `found_h` is changed.
    """
    for year in range(cut_off.shape[0]):
        for hour in range(cut_off.shape[1]):
            if cut_off[year, hour] == 0 and on_share[hour] > 0.0:
                volts = _at_share(keyed_v, course[0, year, hour] / full_ah) + min(
                    course[1, year, hour] * ohm, most_v
                )
                found_h[0] += on_share[hour]
                found_h[1] += on_share[hour] if volts < low_v else 0.0
                found_h[2] += on_share[hour] if volts < brown_v else 0.0


@KERNEL
def at_even(
    table: FloatArray, first: float, step: float, values: FloatArray, found: FloatArray
) -> None:
    """Values of a table at even steps, straight between them, held beyond its ends.

    Parameters
    ----------
    table : ndarray
        At `first`, `first + step`, and so on.
    first : float
        Where the table begins.
    step : float
        Between its points.
    values : ndarray of shape (years, 8760)
        Where it is read.
    found : ndarray of shape (years, 8760)
        Filled.

    Returns
    -------
    None
        `found` is changed.
    """
    per_span = 1.0 / (step * (table.size - 1))
    for year in range(values.shape[0]):
        for hour in range(values.shape[1]):
            found[year, hour] = _at_share(table, (values[year, hour] - first) * per_span)


OfCases = tuple[Rules, Rules, Rules]
"""Of one length, so that a kernel is compiled once."""


class Scales(NamedTuple):
    """Cases of one station, three at most: so many times its panels, its bank and its loads."""

    panels: FloatArray
    """By month, shape (cases, 12)."""
    banks: FloatArray
    """Of the floor, which is given for one; what else a larger bank changes is in its rules. Shape
    (cases,)."""
    loads: FloatArray
    """Shape (cases,)."""


@KERNEL
def sum_cases(
    rules: OfCases,
    hours: Hours,
    scales: Scales,
    states: FloatArray,
    month: NDArray[np.int64],
    by_month: FloatArray,
) -> None:
    """The sums of `tally_years` alone, of several cases in turn.

    Parameters
    ----------
    rules : tuple of Rules
        Of each case; where there are fewer than three, the rest is not read.
    hours : Hours
        Source, load, floor and lock of every hour.
    scales : Scales
        The cases.
    states : ndarray of shape (cases, STATES)
        As each begins.
    month : ndarray of shape (8760,)
        Of each hour, 0 to 11.
    by_month : ndarray of shape (cases, 12, 6)
        Added to, as that of `tally_years`.

    Returns
    -------
    None
        `by_month` is changed.
    """
    for case in range(scales.banks.size):
        now, own = _state(states[case]), rules[case]
        bank, load = scales.banks[case], scales.loads[case]
        for year in range(hours.panels_a.shape[0]):
            for hour in range(hours.panels_a.shape[1]):
                of = month[hour]
                now, told = _at(
                    own,
                    hours,
                    now,
                    year,
                    hour,
                    panel_scale=scales.panels[case, of],
                    bank_scale=bank,
                    load_scale=load,
                )
                dark = told[OUT_VITAL] < hours.load_a[hour, VITAL] * load - 1e-9
                mute = hours.load_a[hour, VITAL] > 0.0 and not dark
                mute = mute and _is_mute(
                    own,
                    hours,
                    told[OUT_CHARGE],
                    year,
                    hour,
                    panel_scale=scales.panels[case, of],
                    bank_scale=bank,
                )
                by_month[case, of, 0] += 0.0 if mute else told[OUT_VITAL]
                by_month[case, of, 4] += 1.0 if mute else 0.0
                by_month[case, of, 2] += (
                    told[OUT_VITAL] + told[OUT_USEFUL] + told[OUT_COMFORT] + told[OUT_DEFERRED]
                )
                by_month[case, of, 3] += told[OUT_BACKED]
                if dark:
                    by_month[case, of, 1] += 1.0
                if told[OUT_CHARGE] < hours.floor_ah[year, hour] * bank - WORN_AH:
                    by_month[case, of, 5] += 1.0


@KERNEL
def tally_and_sum(
    rules: Rules,
    hours: Hours,
    state: FloatArray,
    month: NDArray[np.int64],
    full_line_ah: float,
    by_month: FloatArray,
    course: FloatArray,
    marks: NDArray[np.int8],
    full: NDArray[np.bool_],
    totals: FloatArray,
    others: OfCases,
    scales: Scales,
    states: FloatArray,
    sums: FloatArray,
) -> None:
    """`tally_years`, and `sum_cases` of other cases, in one: between two calls whoever holds
    Python's lock would be waited for.

    Parameters
    ----------
    rules, hours, state, month, full_line_ah, by_month, course, marks, full, totals
        Of `tally_years`.
    others, scales, states, sums
        The rules, cases, beginnings and `by_month` of `sum_cases`.

    Returns
    -------
    None
        What either changes is changed.
    """
    tally_years(
        rules,
        hours,
        state,
        month=month,
        full_line_ah=full_line_ah,
        by_month=by_month,
        course=course,
        marks=marks,
        full=full,
        totals=totals,
    )
    sum_cases(others, hours, scales, states, month, sums)


@KERNEL
def spell_cases(
    rules: OfCases,
    hours: Hours,
    scales: Scales,
    month: NDArray[np.int64],
    starts: NDArray[np.int64],
    most_h: int,
    carried_h: FloatArray,
    left_share: FloatArray,
    powered_h: FloatArray,
) -> None:
    """From midnights on, with full banks: hours until the first vital hour out of service, dark or
    with too few volts, what is left of what may be used when it is dark, and hours until that, of
    several cases in turn.

    The layers begin full. A year goes on into the next, and the last into the first.

    Parameters
    ----------
    rules : tuple of Rules
        Of each case; where there are fewer than three, the rest is not read.
    hours : Hours
        Source, load, floor and lock of every hour.
    scales : Scales
        The cases.
    month : ndarray of shape (8760,)
        Of each hour, 0 to 11.
    starts : ndarray of shape (k, 2)
        Year and hour of the year.
    most_h : int
        A spell is followed no longer. [h]
    carried_h, left_share, powered_h : ndarray of shape (cases, k)
        Filled. [h]

    Returns
    -------
    None
        `carried_h`, `left_share` and `powered_h` are changed.
    """
    years, in_a_year = hours.panels_a.shape
    for case in range(scales.banks.size):
        own, bank, load = rules[case], scales.banks[case], scales.loads[case]
        for number in range(starts.shape[0]):
            first_year, first = starts[number, 0], starts[number, 1]
            floor = hours.floor_ah[first_year, first] * bank
            now = (own.full_ah, own.reserve_ah, 0.0, own.backup_h_per_day, 0.0, 0.0, 0.0, 0.0, 0.0)
            carried_h[case, number] = powered_h[case, number] = most_h
            heard = True
            for step in range(most_h):
                year = (first_year + (first + step) // in_a_year) % years
                hour = (first + step) % in_a_year
                now, told = _at(
                    own,
                    hours,
                    now,
                    year,
                    hour,
                    panel_scale=scales.panels[case, month[hour]],
                    bank_scale=bank,
                    load_scale=load,
                )
                floor = hours.floor_ah[year, hour] * bank
                dark = told[OUT_VITAL] < hours.load_a[hour, VITAL] * load - 1e-9
                if heard and (
                    dark
                    or (
                        hours.load_a[hour, VITAL] > 0.0
                        and _is_mute(
                            own,
                            hours,
                            told[OUT_CHARGE],
                            year,
                            hour,
                            panel_scale=scales.panels[case, month[hour]],
                            bank_scale=bank,
                        )
                    )
                ):
                    carried_h[case, number] = step
                    heard = False
                if dark:
                    powered_h[case, number] = step
                    break
            left_share[case, number] = (now[CHARGE] - floor) / max(own.full_ah - floor, 1e-9)


@KERNEL
def hours_to_full(
    rules: Rules,
    hours: Hours,
    starts: NDArray[np.int64],
    full_share: float,
    most_h: int,
    found_h: FloatArray,
) -> None:
    """From an empty bank at midnights on: hours until its charge reaches a share of all it holds,
    at most `most_h`.

    Parameters
    ----------
    rules : Rules
        Of the bank and its controllers.
    hours : Hours
        Source, load, floor and lock of every hour.
    starts : ndarray
        Year and hour of the year, shape (k, 2).
    full_share : float
        Of all it holds: from there on it is full.
    most_h : int
        It is followed no longer. [h]
    found_h : ndarray
        Filled, shape (k,). [h]

    Returns
    -------
    None
        `found_h` is changed.
    """
    years, in_a_year = hours.panels_a.shape
    for number in range(starts.shape[0]):
        first_year, first = starts[number, 0], starts[number, 1]
        now = (
            hours.floor_ah[first_year, first],
            0.0,
            0.0,
            rules.backup_h_per_day,
            0.0,
            0.0,
            0.0,
            0.0,
            0.0,
        )
        found_h[number] = most_h
        for step in range(most_h):
            year = (first_year + (first + step) // in_a_year) % years
            now, _ = _at(
                rules,
                hours,
                now,
                year,
                (first + step) % in_a_year,
                panel_scale=1.0,
                bank_scale=1.0,
                load_scale=1.0,
            )
            if now[CHARGE] >= full_share * rules.full_ah:
                found_h[number] = step + 1
                break
