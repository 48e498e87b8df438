"""Filling the bank: constant current, the knee, the tail; and the settings to key in."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..chemistries import ChargeSchool, ChemistryKind, kind_of
from ..design import Bank, Chemistry
from .kind import block_share

REFERENCE_C = 25.0
SLICES = 400
LEAD_KNEE_SLOPE, LEAD_KNEE_LOW, LEAD_KNEE_HIGH = 1.0, 0.5, 0.95
"""Lead goes over to absorption at 1 − I/C: 80 % at 0.2 C, further at lower currents. [C] common
practice."""


@dataclass(frozen=True, slots=True)
class ChargeTimes:
    """How a charge goes. `knee_share` is the charge at which the set volts are reached."""

    bulk_h: float
    tail_h: float
    knee_share: float

    @property
    def whole_h(self) -> float:
        """Both together."""
        return self.bulk_h + self.tail_h


@dataclass(frozen=True, slots=True, kw_only=True)
class ChargeSetting:
    """What to key into a charger for this bank, one school of thought. Volts at the bank's
    temperature."""

    school: str
    absorb_v: float
    absorb_h: float
    tail_a: float
    float_v: float | None
    equalise_v: float | None
    mv_per_k: float
    """Of the whole bank; 0 for lithium."""
    absorb_cold_v: float
    """Absorption at the hard month's bank temperature, where the charger has a sensor there."""
    low_v: float
    back_v: float
    is_chosen: bool
    """The one this bank is charged by."""
    is_default: bool
    why: str


def charge_curve(chemistry: Chemistry) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Shares of charge and the volts a 12 V-class block takes at a trickle [V].

    Parameters
    ----------
    chemistry : Chemistry
        Its kind.

    Returns
    -------
    tuple of ndarray
        Shares of charge, rising, and volts of a 12 V-class block. [V]
    """
    curve = kind_of(chemistry).charging
    return curve.at, curve.value


def lithium_charge(
    chemistry: Chemistry,
    held_ah: float,
    from_share: float,
    charger_a: float,
    set_v_12v: float,
    path_ohm: float,
    tail_share: float,
) -> ChargeTimes:
    """Hours to fill a 12 V-class lithium block at constant current, then constant volts.

    Parameters
    ----------
    held_ah : float
        What it holds when full. [A·h]
    from_share : float
        Charge at the start.
    path_ohm : float
        Of cables, electronics and terminals between charger and cells. [Ω]
    tail_share : float
        The charge ends when the current falls to this share of the amp-hours.

    Notes
    -----
    I(s) = min(I_c, (V_set − V(s)) / R), t = ∫ C ds / (η I(s)). The knee falls out of set volts,
    current and path resistance, as in a cell model.
    """
    kind = kind_of(chemistry)
    shares, volts = charge_curve(chemistry)
    resistance = kind.cell_milliohm / 1000.0 * 100.0 / held_ah + path_ohm
    grid = np.linspace(from_share, 1.0, SLICES + 1)
    middle = (grid[1:] + grid[:-1]) / 2.0
    free_a = (set_v_12v - np.interp(middle, shares, volts)) / resistance
    current = np.minimum(charger_a, free_a)
    running = current > tail_share * held_ah
    if not running.all():
        running[int(np.argmin(running)) :] = False
    slice_ah = (1.0 - from_share) / SLICES * held_ah / kind.coulombic_efficiency
    hours = np.divide(slice_ah, current, out=np.zeros_like(current), where=running)
    held_back = free_a < charger_a
    knee = int(np.argmax(held_back)) if held_back.any() else SLICES - 1
    return ChargeTimes(float(hours[:knee].sum()), float(hours[knee:].sum()), float(middle[knee]))


def lead_charge(
    kind: ChemistryKind, held_ah: float, from_share: float, charger_a: float, tail_share: float
) -> ChargeTimes:
    """Hours to fill lead: bulk to the knee, then a current that dies away exponentially. [C] common
    practice.

    Parameters
    ----------
    kind : ChemistryKind
        The row of its chemistry.
    held_ah : float
        What the bank holds as it is now. [A·h]
    from_share : float
        State of charge to start from, 0 to 1.
    charger_a : float
        What the charger gives. [A]
    tail_share : float
        Current that counts as full, of the capacity.

    Notes
    -----
    With q still to go at the knee and the current falling from I to I_t: τ = q / (I − I_t), t = τ
    ln(I / I_t).
    """
    rate = charger_a / held_ah
    knee = float(np.clip(1.0 - LEAD_KNEE_SLOPE * rate, LEAD_KNEE_LOW, LEAD_KNEE_HIGH))
    efficiency = kind.coulombic_efficiency
    bulk_h = max(0.0, knee - from_share) * held_ah / (charger_a * efficiency)
    to_go_ah = (1.0 - max(knee, from_share)) * held_ah / efficiency
    tail_a = tail_share * held_ah
    if charger_a <= tail_a:
        return ChargeTimes(bulk_h, to_go_ah / charger_a, knee)
    return ChargeTimes(
        bulk_h, to_go_ah / (charger_a - tail_a) * float(np.log(charger_a / tail_a)), knee
    )


def charge_times(
    bank: Bank, held_ah: float, from_share: float, charger_a: float, path_ohm: float = 0.0
) -> ChargeTimes | None:
    """Hours to full by the default school of the chemistry; None without current or anything to
    fill.

    Parameters
    ----------
    held_ah : float
        What the bank holds as it is now. [A·h]
    from_share : float
        State of charge to start from, 0 to 1.
    charger_a : float
        What the charger gives. [A]
    path_ohm : float
        Between charger and cells. [Ω]
    """
    if charger_a <= 0 or held_ah <= 0:
        return None
    kind, school = kind_of(bank.chemistry), _school_of(bank)
    tail = school.tail_share
    if kind.is_lead:
        return lead_charge(kind, held_ah, from_share, charger_a, tail)
    electronics = kind.electronics_milliohm / 1000.0 / bank.parallel
    return lithium_charge(
        bank.chemistry,
        held_ah,
        from_share=from_share,
        charger_a=charger_a,
        set_v_12v=school.absorb_v_12v,
        path_ohm=path_ohm + electronics,
        tail_share=tail,
    )


def _school_of(bank: Bank) -> ChargeSchool:
    """The school this bank is charged by: the one chosen, or our default where the chemistry has no
    such school."""
    schools = kind_of(bank.chemistry).schools
    return next((item for item in schools if item.school == bank.school), schools[0])


def charge_settings(
    bank: Bank, bus_v: float, held_ah: float, temperature_c: float
) -> tuple[ChargeSetting, ...]:
    """The settings table, the school this bank is charged by first.

    Parameters
    ----------
    bus_v : float
        Nominal volts. [V]
    held_ah : float
        What the bank holds as it is now. [A·h]
    temperature_c : float
        Of the bank. [°C]
    """
    blocks, kind, chosen = (
        block_share(bank.chemistry, bus_v),
        kind_of(bank.chemistry),
        _school_of(bank),
    )
    found = []
    for item in kind.schools:
        absorb_v = item.absorb_v_12v * blocks
        mv_per_k = item.mv_per_k_cell * kind.block_cells * blocks
        found.append(
            ChargeSetting(
                school=item.school.replace("_", " "),
                absorb_v=absorb_v,
                absorb_h=item.absorb_h,
                tail_a=item.tail_share * held_ah,
                float_v=item.float_v_12v * blocks if item.float_v_12v else None,
                equalise_v=item.equalise_v_12v * blocks if item.equalise_v_12v else None,
                mv_per_k=mv_per_k,
                absorb_cold_v=absorb_v + mv_per_k / 1000.0 * (temperature_c - REFERENCE_C),
                low_v=item.low_v_12v * blocks,
                back_v=item.back_v_12v * blocks,
                is_chosen=item is chosen,
                is_default=item.default,
                why=item.why,
            )
        )
    return tuple(sorted(found, key=lambda setting: not setting.is_chosen))
