"""Volts of the bank under load, along its discharge."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..chemistries import kind_of
from ..design import Bank
from .capacity import temperature_factor
from .kind import block_share, rest_curve

SHOWN_SHARES = (1.0, 0.9, 0.8, 0.7, 0.6, 0.5, 0.4, 0.3, 0.2, 0.1, 0.0)


@dataclass(frozen=True, slots=True)
class DischargePoint:
    """Volts of the bank at a share of charge: at rest, at the mean draw, at the highest draw."""

    charge_share: float
    rest_v: float
    mean_v: float
    peak_v: float


def rest_v(bank: Bank, bus_v: float, charge_share: float) -> float:
    """Volts of the rested bank at a share of charge [V].

    Parameters
    ----------
    bus_v : float
        Nominal volts. [V]
    charge_share : float
        State of charge, 0 to 1.
    """
    return float(rest_course_v(bank, bus_v, np.array([charge_share]))[0])


def rest_course_v(
    bank: Bank, bus_v: float, charge_share: NDArray[np.float64]
) -> NDArray[np.float64]:
    """Volts of the rested bank at shares of charge.

    Parameters
    ----------
    bank : Bank
        The bank.
    bus_v : float
        Nominal. [V]
    charge_share : ndarray
        Any shape.

    Returns
    -------
    ndarray
        Of the same shape. [V]
    """
    shares, volts = rest_curve(bank.chemistry)
    return np.asarray(np.interp(charge_share, shares, volts) * block_share(bank.chemistry, bus_v))


def cut_off_v(bank: Bank) -> float:
    """Under this at the posts the loads are cut off, by a switch or by the units' own electronics;
    0 where by none. [V]

    In series every unit cuts off at its own volts: the bank at theirs times their count.
    """
    own = bank.disconnect_v.value if bank.disconnect_v else 0.0
    electronics = bank.limits.cutoff_v.value * bank.series if bank.limits.cutoff_v else 0.0
    return max(own, electronics)


def bank_resistance_ohm(bank: Bank, bus_v: float, temperature_c: float) -> float:
    """Internal resistance of the whole bank [Ω].

    Parameters
    ----------
    bus_v : float
        Nominal volts. [V]
    temperature_c : float
        Of the bank. [°C]

    Notes
    -----
    R = (r_cell · 100 Ah / C + r_electronics / p) · blocks / f(T): cells shrink with amp-hours and
    grow with volts, and in the cold they resist as much more as they hold less. A unit that was
    measured: R = r₁ · s / (p · f(T)).
    """
    kind = kind_of(bank.chemistry)
    cold = max(temperature_factor(bank.chemistry, temperature_c), 0.05)
    if bank.unit_milliohm is not None:
        return bank.unit_milliohm * bank.series / bank.parallel / cold / 1000.0
    label_ah = bank.unit_ah.value * bank.parallel
    cells = kind.cell_milliohm * 100.0 / label_ah / cold
    electronics = kind.electronics_milliohm / bank.parallel
    return (cells + electronics) * block_share(bank.chemistry, bus_v) / 1000.0


def short_resistance_ohm(bank: Bank, bus_v: float, temperature_c: float) -> float:
    """The least internal resistance of the whole bank, which a dead short finds [Ω].

    Parameters
    ----------
    bus_v : float
        Nominal volts. [V]
    temperature_c : float
        Of the bank. [°C]

    Notes
    -----
    What volts on the key are planned with errs upward, and would make a short small and a fuse
    weak. Lithium cells of 100 Ah have 0.2 to 0.5 mΩ, their electronics and terminals 1 to 2 mΩ more
    (from memory); the lower ends count. Lead has what its planning says. A unit that was measured
    counts where it is lower still.
    """
    kind = kind_of(bank.chemistry)
    warm = max(temperature_factor(bank.chemistry, temperature_c), 0.05)
    label_ah = bank.unit_ah.value * bank.parallel
    least = (
        kind.short_milliohm * 100.0 / label_ah / warm
        + kind.short_electronics_milliohm / bank.parallel
    )
    return min(
        least * block_share(bank.chemistry, bus_v) / 1000.0,
        bank_resistance_ohm(bank, bus_v, temperature_c),
    )


def loaded_v(
    bank: Bank, bus_v: float, charge_share: float, current_a: float, temperature_c: float
) -> float:
    """Volts at the posts while a current flows out [V]: V = V_rest(s) − I · R.

    Parameters
    ----------
    bus_v : float
        Nominal volts. [V]
    charge_share : float
        State of charge, 0 to 1.
    current_a : float
        Out of the bank. [A]
    temperature_c : float
        Of the bank. [°C]
    """
    return rest_v(bank, bus_v, charge_share) - current_a * bank_resistance_ohm(
        bank, bus_v, temperature_c
    )


def discharge_curve(
    bank: Bank, bus_v: float, mean_a: float, peak_a: float, temperature_c: float
) -> tuple[DischargePoint, ...]:
    """Volts along the discharge, fullest first.

    Parameters
    ----------
    bus_v : float
        Nominal volts. [V]
    mean_a : float
        The mean draw. [A]
    peak_a : float
        The highest draw. [A]
    temperature_c : float
        Of the bank. [°C]
    """
    resistance = bank_resistance_ohm(bank, bus_v, temperature_c)
    points = []
    for share in SHOWN_SHARES:
        rest = rest_v(bank, bus_v, share)
        points.append(
            DischargePoint(share, rest, rest - mean_a * resistance, rest - peak_a * resistance)
        )
    return tuple(points)
