"""The rehearsal in NumPy, one step an hour over many designs at once: panels and bank of each so
many times as big."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from yonderstat.core.rehearse import Hours, Rules

FloatArray = NDArray[np.float64]


@dataclass(slots=True, kw_only=True)
class _Designs:
    """The state of all designs, each array of shape (designs,)."""

    charge: FloatArray
    reserve: FloatArray
    owed: FloatArray
    backup_left_h: FloatArray
    dark_h: FloatArray
    tripped: NDArray[np.bool_]
    useful_off: NDArray[np.bool_]
    comfort_off: NDArray[np.bool_]
    backup_runs: NDArray[np.bool_]


def vital_over_designs(
    rules: Rules, hours: Hours, panels: FloatArray, banks: FloatArray
) -> FloatArray:
    """Vital amp-hours served in every hour of the first year, shape (hours, designs)."""
    n, count = panels.size, hours.panels_a.shape[1]
    full, most, ohm = (
        rules.full_ah * banks,
        rules.most_charge_a * banks,
        rules.ohm / banks + rules.bus_ohm,
    )
    no = np.zeros(n, dtype=np.bool_)
    start = (rules.full_ah - hours.floor_ah[0, 0]) * banks + hours.floor_ah[0, 0] * banks
    now = _Designs(
        charge=start,
        reserve=np.full(n, rules.reserve_ah),
        owed=np.zeros(n),
        backup_left_h=np.full(n, rules.backup_h_per_day),
        dark_h=np.zeros(n),
        tripped=no.copy(),
        useful_off=no.copy(),
        comfort_off=no.copy(),
        backup_runs=no.copy(),
    )
    served = np.empty((count, n))
    shares = np.linspace(0.0, 1.0, hours.rest_v.size)
    for hour in range(count):
        source = hours.fixed_a[hour] + hours.panels_a[0, hour] * panels
        floor, end = hours.floor_ah[0, hour] * banks, hours.end_ah[0, hour] * banks
        served[hour] = _step(
            rules,
            hours,
            now=now,
            hour=hour,
            source=source,
            floor=floor,
            end=end,
            full=full,
            most=most,
            ohm=ohm,
            shares=shares,
        )
    return served


def _step(
    rules: Rules,
    hours: Hours,
    now: _Designs,
    hour: int,
    source: FloatArray,
    floor: FloatArray,
    end: FloatArray,
    full: FloatArray,
    most: FloatArray,
    ohm: FloatArray,
    shares: FloatArray,
) -> FloatArray:
    vital, useful, comfort, deferred = hours.load_a[hour]
    backup, locked = hours.backup_a[hour], hours.locked[0, hour]
    leaked = now.charge * rules.leak_per_h
    idle = np.minimum(source, rules.idle_a)
    source = source - idle
    now.charge = (
        now.charge - leaked - np.minimum(np.maximum(now.charge - leaked, 0.0), rules.idle_a - idle)
    )
    room, above = full - floor, now.charge - floor
    share = above / room
    if rules.shed_useful > 0:
        now.useful_off = share < rules.shed_useful + rules.hysteresis * now.useful_off
    if rules.shed_comfort > 0:
        now.comfort_off = share < rules.shed_comfort + rules.hysteresis * now.comfort_off
    want_useful, want_comfort = useful * ~now.useful_off, comfort * ~now.comfort_off
    lively = (vital > 0) & ((source >= vital) | (backup >= vital))
    now.tripped = now.tripped & ~(
        (now.dark_h >= rules.hand_h) & ((share >= rules.back_share) | lively)
    )
    wanted = np.where(now.tripped, 0.0, vital + want_useful + want_comfort)
    given = np.zeros_like(source)
    if rules.backup_h_per_day > 0:
        if hours.new_day[hour]:
            now.backup_left_h[:] = rules.backup_h_per_day
        low = (share < rules.backup_on) | (now.backup_runs & (share < rules.backup_off))
        now.backup_runs = low & (backup > 0) & (now.backup_left_h > 0)
        now.backup_left_h -= now.backup_runs
        given = backup * now.backup_runs
    direct = np.minimum(source, wanted)
    helped = np.minimum(given, wanted - direct)
    lacking = wanted - direct - helped
    held, whole = np.maximum(above, 0.0), np.maximum(now.charge - end, 0.0)
    if rules.low_v > 0:
        volts = np.interp(now.charge / full, shares, hours.rest_v) - lacking * ohm
        held, whole = (
            np.where(volts < rules.low_v, 0.0, held),
            np.where(volts < rules.low_v, 0.0, whole),
        )
    from_bank = np.minimum(lacking, held)
    from_reserve = np.minimum(lacking - from_bank, now.reserve)
    from_bank = from_bank + np.minimum(
        lacking - from_bank - from_reserve, np.maximum(whole - held, 0.0)
    )
    missed = lacking - from_bank - from_reserve
    out = missed > 1e-12
    part = np.where(out, (wanted - missed) / np.maximum(wanted, 1e-300), ~now.tripped)
    now.tripped = now.tripped | out
    now.charge = now.charge - from_bank
    now.reserve = now.reserve - from_reserve
    spare = source - direct
    if rules.owed_most_ah > 0:
        now.owed = now.owed + deferred
        waited = np.where(
            (share >= rules.defer_share) & ~now.tripped, np.minimum(spare, now.owed), 0.0
        )
        now.owed = np.minimum(now.owed - waited, rules.owed_most_ah)
        spare = spare - waited
    spare = spare + given - helped
    may = np.ones_like(source, dtype=np.bool_)
    if locked == 2:
        may[:] = False
    elif locked == 1:
        may = (rules.heater_a > 0) & (spare > rules.heater_a)
        spare = spare - rules.heater_a * may
    if locked:
        most = np.minimum(most, rules.slow_charge_a * full / rules.full_ah)
    missing = full - now.charge
    accepts = np.minimum(missing / rules.efficiency, rules.accept_per_h * missing)
    take = np.maximum(np.minimum(np.minimum(spare, most), accepts), 0.0) * may
    now.charge = now.charge + take * rules.efficiency
    if rules.reserve_charge_a > 0:
        gap = (rules.reserve_ah - now.reserve) / rules.reserve_efficiency
        layer = np.maximum(np.minimum(spare - take, np.minimum(gap, rules.reserve_charge_a)), 0.0)
        now.reserve = now.reserve + layer * rules.reserve_efficiency
    now.dark_h = np.where(now.tripped, now.dark_h + 1.0, 0.0)
    return np.asarray(vital * part)
