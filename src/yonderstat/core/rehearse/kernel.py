"""The rehearsal kernel: one hour after another through the bank. Plain arrays and numbers only.

All kernels live in this one file, as numba's cache does not notice a changed callee elsewhere.

Symbols: Q charge of the bank counted in amp-hours it would hold at 25 °C [A·h]; C the most of that; F the charge at
which the depth allowed ends [A·h], higher in the cold; I currents at the bus [A]; η share of a charge that comes back.
"""

import numpy as np
from numba import njit

VITAL, USEFUL, COMFORT = 0, 1, 2
HOURS_A_YEAR = 8760


@njit(cache=True, nogil=True)
def run_hours(
    source_a: np.ndarray,
    load_a: np.ndarray,
    floor_ah: np.ndarray,
    locked: np.ndarray,
    full_ah: float,
    start_ah: float,
    efficiency: float,
    accept_per_h: float,
    most_charge_a: float,
    shed_useful: float,
    shed_comfort: float,
    back_share: float,
    hysteresis: float,
    charge_ah: np.ndarray,
    served_a: np.ndarray,
    taken_a: np.ndarray,
) -> float:
    """Run hours in a row and fill the last three arrays; the charge at the end [A·h].

    source_a (n,): what all sources could give. load_a (n, 3): what each tier wants. floor_ah (n,): where the depth
    ends. locked (n,): no charge may go in. charge_ah (n,): at the end of the hour. served_a (n, 3). taken_a (n,): what
    came from the sources.

    In each hour the sources feed the loads first and the bank takes what is left, as far as it accepts: its acceptance
    falls with what is missing, I ≤ k (C − Q), which is the trade's rule for lead and a short tail for lithium. What the
    sources lack comes from the bank down to the floor. A bank that hits the floor trips: all is dark until the charge
    is back above `back_share` of what may be used, or the sources alone carry the vital tier. Useful and Comfort are
    shed below their shares of what may be used, with hysteresis.
    """
    charge = start_ah
    tripped = False
    shed = np.zeros(3, dtype=np.bool_)
    limit = np.array([0.0, shed_useful, shed_comfort])
    for hour in range(source_a.size):
        floor = floor_ah[hour]
        usable = max(full_ah - floor, 1e-9)
        share = (charge - floor) / usable
        for tier in range(1, 3):
            if shed[tier]:
                shed[tier] = share < limit[tier] + hysteresis
            else:
                shed[tier] = share < limit[tier]
        source = source_a[hour]
        if tripped and (share >= back_share or source >= load_a[hour, VITAL] > 0.0):
            tripped = False
        wanted = 0.0
        for tier in range(3):
            want = 0.0 if shed[tier] or tripped else load_a[hour, tier]
            served_a[hour, tier] = want
            wanted += want
        direct = min(source, wanted)
        lacking = wanted - direct
        held = max(charge - floor, 0.0)
        if lacking > held + 1e-12:
            # The bank runs out within the hour: every tier is served for the same part of it.
            part = (direct + held) / wanted if wanted > 0.0 else 0.0
            for tier in range(3):
                served_a[hour, tier] *= part
            lacking = held
            tripped = True
        charge -= lacking
        spare = source - direct
        take = 0.0
        if spare > 0.0 and not locked[hour]:
            room = (full_ah - charge) / efficiency
            take = min(min(spare, most_charge_a), min(room, accept_per_h * (full_ah - charge)))
            take = max(take, 0.0)
            charge += take * efficiency
        taken_a[hour] = direct + take
        charge_ah[hour] = charge
    return charge


@njit(cache=True, nogil=True)
def run_years(
    source_a: np.ndarray,
    load_a: np.ndarray,
    floor_ah: np.ndarray,
    locked: np.ndarray,
    full_ah: float,
    efficiency: float,
    accept_per_h: float,
    most_charge_a: float,
    shed_useful: float,
    shed_comfort: float,
    back_share: float,
    hysteresis: float,
    charge_ah: np.ndarray,
    served_a: np.ndarray,
    taken_a: np.ndarray,
) -> None:
    """Years one after another, the bank full at the very start; arrays (years, 8760[, 3]); loads repeat every year."""
    charge = full_ah
    for year in range(source_a.shape[0]):
        charge = run_hours(
            source_a[year],
            load_a,
            floor_ah,
            locked,
            full_ah,
            charge,
            efficiency,
            accept_per_h,
            most_charge_a,
            shed_useful,
            shed_comfort,
            back_share,
            hysteresis,
            charge_ah[year],
            served_a[year],
            taken_a[year],
        )


@njit(cache=True, nogil=True)
def hours_carried(
    source_a: np.ndarray,
    load_a: np.ndarray,
    floor_ah: np.ndarray,
    locked: np.ndarray,
    full_ah: float,
    efficiency: float,
    accept_per_h: float,
    most_charge_a: float,
    most_hours: int,
    carried_h: np.ndarray,
) -> None:
    """From a full bank on every day's midnight of every year: hours until the first vital hour not served in full.

    source_a (years, 8760); load_a (8760,): what must be served; carried_h (years, 365) is filled, at most `most_hours`.
    A year goes on into the next, and the last into the first.
    """
    years = source_a.shape[0]
    for year in range(years):
        for day in range(carried_h.shape[1]):
            charge = full_ah
            lasted = most_hours
            for step in range(most_hours):
                at = day * 24 + step
                row = (year + at // HOURS_A_YEAR) % years
                hour = at % HOURS_A_YEAR
                source = source_a[row, hour]
                direct = min(source, load_a[hour])
                lacking = load_a[hour] - direct
                if lacking > max(charge - floor_ah[hour], 0.0) + 1e-12:
                    lasted = step
                    break
                charge -= lacking
                spare = source - direct
                if spare > 0.0 and not locked[hour]:
                    room = (full_ah - charge) / efficiency
                    take = min(min(spare, most_charge_a), min(room, accept_per_h * (full_ah - charge)))
                    charge += max(take, 0.0) * efficiency
            carried_h[year, day] = lasted
