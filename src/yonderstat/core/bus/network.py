"""Volts on the tree of runs: Kirchhoff's laws, with loads that take more amps as the volts fall."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]

ROUNDS, SWINGS_AFTER = 60, 15
SETTLED_V = 1e-7
LEAST_SHARE = 0.3
"""Of the nominal volts: a load of constant power that finds no more has stalled, and is followed no further down."""


@dataclass(frozen=True)
class Network:
    """The tree in numbers: `paths[t, r]` is 1 where the current of tap t passes run r."""

    paths: FloatArray
    ohm: FloatArray
    """Of each run, there and back with all in it, shape (runs,). [Ω]"""
    drop_v: FloatArray
    """What its diodes take whatever the current, shape (runs,). [V]"""
    bus_v: float

    def settled(
        self, rest_v: FloatArray, bank_ohm: FloatArray, steady_a: FloatArray, power_a: FloatArray
    ) -> tuple[FloatArray, FloatArray]:
        """Volts and amps at every tap.

        Parameters
        ----------
        rest_v, bank_ohm : ndarray of shape (cases,)
            The rested bank and its resistance. [V], [Ω]
        steady_a : ndarray of shape (taps, cases)
            Amps that do not mind the volts.
        power_a : ndarray of shape (taps, cases)
            Amps at the nominal volts that grow as the volts fall: I = I₀ · V₀ / V.

        Returns
        -------
        volts, amps : ndarray of shape (taps, cases)

        Notes
        -----
        V = V_rest − R_bank · ΣI − Σ R · I − Σ V_d, settled by iteration.
        """
        shared = (self.paths * self.ohm) @ self.paths.T
        lost = (self.paths @ self.drop_v)[:, None]
        least = LEAST_SHARE * self.bus_v
        volts = np.repeat(rest_v[None, :], self.paths.shape[0], axis=0)
        amps = steady_a + power_a
        grows = bool(power_a.any())
        for number in range(ROUNDS):
            amps = steady_a + power_a * (self.bus_v / np.maximum(volts, least))
            found = rest_v - bank_ohm * amps.sum(axis=0) - shared @ amps - lost
            moved = float(np.abs(found - volts).max(initial=0.0))
            # Near a stall the steps swing: halving them settles it.
            volts = found if number < SWINGS_AFTER else 0.5 * (volts + found)
            if moved < SETTLED_V or not grows:
                break
        return np.maximum(volts, 0.0), amps
