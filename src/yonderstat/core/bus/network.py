"""Volts on the tree of runs: Kirchhoff's laws, with loads that take more amps as the volts fall."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]

ROUNDS, SWINGS_AFTER = 60, 15
SETTLED_V = 1e-7
LEAST_SHARE = 0.3
"""Of the nominal volts: a load of constant power that finds no more has stalled, and is followed no
further down."""


@dataclass(frozen=True)
class Beside:
    """Batteries that lie in parallel with the main one, each at the end of a lead somewhere on the
    tree."""

    paths: FloatArray
    """`paths[b, r]` is 1 where what battery b takes passes run r on its way from the post, its own
    lead left out."""
    ohm: FloatArray
    """Of its lead and of itself, shape (batteries, cases). [Ω]"""
    rest_v: FloatArray
    """Rested, shape (batteries, cases). [V]"""


@dataclass(frozen=True)
class Source:
    """What the taps see of the main bank and the batteries beside it, by case."""

    open_v: FloatArray
    """Volts at every tap with nothing drawn, shape (taps, cases). [V]"""
    ohm: FloatArray
    """Volts lost at tap t for an amp drawn at tap u, shape (cases, taps, taps). [Ω]"""
    beside_open_a: FloatArray
    """What each battery beside takes with nothing drawn; less than nothing where it gives,
    (batteries, cases). [A]"""
    beside_share: FloatArray
    """How much less it takes for an amp drawn at tap t, shape (cases, batteries, taps)."""

    def volts(self, amps: FloatArray) -> FloatArray:
        """What is left at every tap.

        Parameters
        ----------
        amps : ndarray of shape (taps, cases)
            Drawn there. [A]

        Returns
        -------
        ndarray of shape (taps, cases)
            [V]
        """
        return np.asarray(self.open_v - np.einsum("ctu,uc->tc", self.ohm, amps))

    def beside_a(self, amps: FloatArray) -> FloatArray:
        """What each battery beside takes; less than nothing where it gives.

        Parameters
        ----------
        amps : ndarray of shape (taps, cases)
            Drawn at every tap. [A]

        Returns
        -------
        ndarray of shape (batteries, cases)
            [A]
        """
        return np.asarray(self.beside_open_a - np.einsum("cbt,tc->bc", self.beside_share, amps))


@dataclass(frozen=True)
class Network:
    """The tree in numbers: `paths[t, r]` is 1 where the current of tap t passes run r."""

    paths: FloatArray
    ohm: FloatArray
    """Of each run, there and back with all in it, shape (runs,). [Ω]"""
    drop_v: FloatArray
    """What its diodes take whatever the current, shape (runs,). [V]"""
    bus_v: float

    def source(self, rest_v: FloatArray, bank_ohm: FloatArray, beside: Beside) -> Source:
        """The main bank and the batteries beside it as the taps see them.

        Parameters
        ----------
        rest_v, bank_ohm : ndarray of shape (cases,)
            The rested bank and its resistance. [V], [Ω]
        beside : Beside
            Batteries in parallel with it.

        Returns
        -------
        Source
            Open volts and resistances.

        Notes
        -----
        Without one V = V_rest − (R_bank + Σ R) · I − Σ V_d. A battery beside takes I_b = (V_b −
        E_b) / R_b; put in, it is Thévenin's theorem on the same tree.
        """
        ours = ((self.paths * self.ohm) @ self.paths.T)[None] + bank_ohm[:, None, None]
        open_v = rest_v - (self.paths @ self.drop_v)[:, None]
        between = ((beside.paths * self.ohm) @ self.paths.T)[None] + bank_ohm[:, None, None]
        theirs = ((beside.paths * self.ohm) @ beside.paths.T)[None] + bank_ohm[:, None, None]
        theirs = theirs + np.einsum("bc,bd->cbd", beside.ohm, np.eye(len(beside.paths)))
        lacks_v = rest_v - (beside.paths @ self.drop_v)[:, None] - beside.rest_v
        open_a = np.linalg.solve(theirs, lacks_v.T[:, :, None])[:, :, 0]
        share = np.linalg.solve(theirs, between)
        return Source(
            open_v - np.einsum("cbt,cb->tc", between, open_a),
            ours - np.einsum("cbt,cbu->ctu", between, share),
            open_a.T,
            share,
        )

    def settled(
        self,
        rest_v: FloatArray,
        bank_ohm: FloatArray,
        steady_a: FloatArray,
        power_a: FloatArray,
        beside: Beside | None = None,
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
        beside : Beside or None
            Batteries in parallel with the bank.

        Returns
        -------
        volts, amps : ndarray of shape (taps, cases)

        Notes
        -----
        V = V_rest − R_bank · ΣI − Σ R · I − Σ V_d, settled by iteration.
        """
        shared = (self.paths * self.ohm) @ self.paths.T
        lost = (self.paths @ self.drop_v)[:, None]
        source = None if beside is None else self.source(rest_v, bank_ohm, beside)
        least = LEAST_SHARE * self.bus_v
        volts = np.repeat(rest_v[None, :], self.paths.shape[0], axis=0)
        amps = steady_a + power_a
        grows = bool(power_a.any())
        for number in range(ROUNDS):
            amps = steady_a + power_a * (self.bus_v / np.maximum(volts, least))
            if source is not None:
                found = source.volts(amps)
            else:
                found = rest_v - bank_ohm * amps.sum(axis=0) - shared @ amps - lost
            moved = float(np.abs(found - volts).max(initial=0.0))
            # Near a stall the steps swing: halving them settles it.
            volts = found if number < SWINGS_AFTER else 0.5 * (volts + found)
            if moved < SETTLED_V or not grows:
                break
        return np.maximum(volts, 0.0), amps
