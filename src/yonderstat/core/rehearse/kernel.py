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
def _hour(
    charge: float,
    tripped: bool,
    useful_off: bool,
    comfort_off: bool,
    source: float,
    vital: float,
    useful: float,
    comfort: float,
    floor: float,
    locked: bool,
    full_ah: float,
    efficiency: float,
    accept_per_h: float,
    most_charge_a: float,
    shed_useful: float,
    shed_comfort: float,
    back_share: float,
    hysteresis: float,
) -> tuple[float, bool, bool, bool, float, float]:
    """One hour: charge, tripped, both tiers' sheds, the part served of what is on, and what the sources gave."""
    share = (charge - floor) / max(full_ah - floor, 1e-9)
    useful_off = shed_useful > 0.0 and share < shed_useful + (hysteresis if useful_off else 0.0)
    comfort_off = shed_comfort > 0.0 and share < shed_comfort + (hysteresis if comfort_off else 0.0)
    if tripped and (share >= back_share or source >= vital > 0.0):
        tripped = False
    wanted = 0.0
    if not tripped:
        wanted = vital + (0.0 if useful_off else useful) + (0.0 if comfort_off else comfort)
    direct = min(source, wanted)
    lacking = wanted - direct
    held = max(charge - floor, 0.0)
    part = 1.0
    if lacking > held + 1e-12:
        # The bank runs out within the hour: every tier is served for the same part of it.
        part = (direct + held) / wanted
        lacking = held
        tripped = True
    elif wanted == 0.0 and tripped:
        part = 0.0
    charge -= lacking
    spare = source - direct
    take = 0.0
    if spare > 0.0 and not locked:
        missing = full_ah - charge
        take = max(0.0, min(min(spare, most_charge_a), min(missing / efficiency, accept_per_h * missing)))
        charge += take * efficiency
    return charge, tripped, useful_off, comfort_off, part, direct + take


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
    tripped = useful_off = comfort_off = False
    for hour in range(source_a.size):
        vital, useful, comfort = load_a[hour, VITAL], load_a[hour, USEFUL], load_a[hour, COMFORT]
        charge, now_tripped, useful_off, comfort_off, part, taken = _hour(
            charge,
            tripped,
            useful_off,
            comfort_off,
            source_a[hour],
            vital,
            useful,
            comfort,
            floor_ah[hour],
            locked[hour],
            full_ah,
            efficiency,
            accept_per_h,
            most_charge_a,
            shed_useful,
            shed_comfort,
            back_share,
            hysteresis,
        )
        tripped = now_tripped
        served_a[hour, VITAL] = vital * part
        served_a[hour, USEFUL] = 0.0 if useful_off else useful * part
        served_a[hour, COMFORT] = 0.0 if comfort_off else comfort * part
        taken_a[hour] = taken
        charge_ah[hour] = charge
    return charge


@njit(cache=True, nogil=True)
def vital_served(
    fixed_a: np.ndarray,
    panels_a: np.ndarray,
    load_a: np.ndarray,
    floor_ah: np.ndarray,
    locked: np.ndarray,
    full_ah: float,
    efficiency: float,
    accept_per_h: float,
    most_charge_a: float,
    back_share: float,
    hysteresis: float,
    panel_scales: np.ndarray,
    bank_scales: np.ndarray,
    served: np.ndarray,
) -> None:
    """Share of the vital amp-hours served with so many times the panels and so many times the bank.

    fixed_a (8760,): sources that do not grow. panels_a (years, 8760). served (banks, panels) is filled.
    """
    wanted = load_a[:, VITAL].sum() * panels_a.shape[0]
    for row in range(bank_scales.size):
        bank = bank_scales[row]
        for column in range(panel_scales.size):
            charge = full_ah * bank
            tripped = useful_off = comfort_off = False
            got = 0.0
            for year in range(panels_a.shape[0]):
                for hour in range(load_a.shape[0]):
                    charge, tripped, useful_off, comfort_off, part, _ = _hour(
                        charge,
                        tripped,
                        useful_off,
                        comfort_off,
                        fixed_a[hour] + panels_a[year, hour] * panel_scales[column],
                        load_a[hour, VITAL],
                        load_a[hour, USEFUL],
                        load_a[hour, COMFORT],
                        floor_ah[hour] * bank,
                        locked[hour],
                        full_ah * bank,
                        efficiency,
                        accept_per_h,
                        most_charge_a * bank,
                        0.0,
                        0.0,
                        back_share,
                        hysteresis,
                    )
                    got += load_a[hour, VITAL] * part
            served[row, column] = got / wanted if wanted > 0.0 else 1.0


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
                charge, dark, _, _, _, _ = _hour(
                    charge,
                    False,
                    False,
                    False,
                    source_a[row, hour],
                    load_a[hour],
                    0.0,
                    0.0,
                    floor_ah[hour],
                    locked[hour],
                    full_ah,
                    efficiency,
                    accept_per_h,
                    most_charge_a,
                    0.0,
                    0.0,
                    0.0,
                    0.0,
                )
                if dark:
                    lasted = step
                    break
            carried_h[year, day] = lasted
