"""The panel's curve: a single-diode model fitted to its label, kept as small tables."""

from dataclasses import dataclass

import numpy as np
import pvlib
from numpy.typing import NDArray
from pvlib.ivtools.sdm import fit_desoto, fit_desoto_batzelis
from scipy.optimize import least_squares

from ..keeping import kept_for_places
from .labels import STANDARD_C, ModuleLabel

FloatArray = NDArray[np.float64]

SUN_W_M2 = np.array(
    [0.0, 25.0, 50.0, 100.0, 200.0, 300.0, 400.0, 500.0, 600.0, 800.0, 1000.0, 1200.0, 1400.0]
)
CELL_C = np.arange(-40.0, 101.0, 10.0)
FULL_SUN_W_M2 = 1000.0
FULL_SUN_ROW = int(np.flatnonzero(SUN_W_M2 == FULL_SUN_W_M2)[0])
"""The tables' row of full sun."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Diode:
    """Parameters of De Soto's model at 1000 W/m² and 25 °C. `fitted_by` says which route held."""

    alpha_a_per_k: float
    a_ref: float
    photocurrent_a: float
    saturation_a: float
    series_ohm: float
    shunt_ohm: float
    fitted_by: str


def _refined(label: ModuleLabel, seed: dict[str, float]) -> dict[str, float] | None:
    start = {
        "IL_0": seed["I_L_ref"],
        "Io_0": seed["I_o_ref"],
        "Rs_0": seed["R_s"],
        "Rsh_0": seed["R_sh_ref"],
        "a_0": seed["a_ref"],
    }
    for method in ("hybr", "lm"):
        try:
            found, _ = fit_desoto(
                v_mp=label.v_mp,
                i_mp=label.i_mp,
                v_oc=label.v_oc,
                i_sc=label.i_sc,
                alpha_sc=label.i_sc_per_k * label.i_sc,
                beta_voc=label.v_oc_per_k * label.v_oc,
                cells_in_series=label.cells,
                init_guess=start,
                root_kwargs={"method": method},
            )
        except RuntimeError:
            # The library says by this that its root finder did not settle; the next route is tried.
            continue
        if found["R_s"] >= 0 and found["R_sh_ref"] > 0 and found["I_o_ref"] > 0:
            return {key: float(value) for key, value in found.items()}
    return None


def _bounded(label: ModuleLabel, seed: dict[str, float]) -> dict[str, float]:
    """Least squares on a, R_s and log R_sh within what a panel can have; the two currents follow
    from the label."""

    def currents(a: float, series: float, shunt: float) -> tuple[float, float]:
        one, two = np.expm1(label.v_oc / a), np.expm1(label.i_sc * series / a)
        saturation = (label.i_sc * (1.0 + series / shunt) - label.v_oc / shunt) / (one - two)
        return saturation * one + label.v_oc / shunt, saturation

    def miss(x: FloatArray) -> FloatArray:
        a, series, shunt = x[0], x[1], float(np.exp(x[2]))
        photocurrent, saturation = currents(a, series, shunt)
        inner = (label.v_mp + label.i_mp * series) / a
        at_work = (
            photocurrent - saturation * np.expm1(inner) - (label.v_mp + label.i_mp * series) / shunt
        )
        slope = saturation / a * np.exp(inner) + 1.0 / shunt
        flat = label.i_mp - label.v_mp * slope / (1.0 + series * slope)
        return np.array([(at_work - label.i_mp) / label.i_sc, flat / label.i_sc])

    most_series = 0.9 * (label.v_oc - label.v_mp) / label.i_mp
    low = np.array([label.v_oc / 45.0, 0.0, np.log(5.0)])
    high = np.array([label.v_oc / 12.0, most_series, np.log(1e5)])
    inside = (high - low) * 1e-6
    guess = np.array([seed["a_ref"], max(seed["R_s"], 0.01), np.log(max(seed["R_sh_ref"], 10.0))])
    # A label no closed form fits begins in the middle of what a panel can have.
    start = np.clip(
        np.where(np.isfinite(guess), guess, (low + high) / 2.0), low + inside, high - inside
    )
    found = least_squares(miss, start, bounds=(low, high)).x
    photocurrent, saturation = currents(found[0], found[1], float(np.exp(found[2])))
    return {
        "a_ref": float(found[0]),
        "I_L_ref": float(photocurrent),
        "I_o_ref": float(saturation),
        "R_s": float(found[1]),
        "R_sh_ref": float(np.exp(found[2])),
    }


@kept_for_places
def fit_diode(label: ModuleLabel) -> Diode:
    """Fit the model to a label. The route that held over many labels: a closed-form start, refined,
    else bounded."""
    alpha = label.i_sc_per_k * label.i_sc
    seed = fit_desoto_batzelis(
        label.v_mp, label.i_mp, label.v_oc, label.i_sc, alpha, label.v_oc_per_k * label.v_oc
    )
    start = {key: float(value) for key, value in seed.items()}
    found, how = _refined(label, start), "refined"
    if found is None:
        found, how = _bounded(label, start), "bounded"
    return Diode(
        alpha_a_per_k=alpha,
        a_ref=found["a_ref"],
        photocurrent_a=found["I_L_ref"],
        saturation_a=found["I_o_ref"],
        series_ohm=found["R_s"],
        shunt_ohm=found["R_sh_ref"],
        fitted_by=how,
    )


@dataclass(frozen=True, slots=True)
class CurveGrid:
    """The model's five numbers at every sun and cell temperature of the tables, each of shape (sun,
    cell)."""

    photocurrent_a: FloatArray
    saturation_a: FloatArray
    series_ohm: FloatArray
    shunt_ohm: FloatArray
    vth_v: FloatArray


@kept_for_places
def curve_grid(label: ModuleLabel) -> CurveGrid:
    """The model over the tables; read-only, as it is kept."""
    diode = fit_diode(label)
    sun, cell = np.meshgrid(np.maximum(SUN_W_M2, 1.0), CELL_C, indexing="ij")
    parts = pvlib.pvsystem.calcparams_desoto(
        sun,
        cell,
        alpha_sc=diode.alpha_a_per_k,
        a_ref=diode.a_ref,
        I_L_ref=diode.photocurrent_a,
        I_o_ref=diode.saturation_a,
        R_sh_ref=diode.shunt_ohm,
        R_s=diode.series_ohm,
    )
    photocurrent, saturation, series, shunt, vth = (
        np.array(np.broadcast_to(part, sun.shape), dtype=float) for part in parts
    )
    for part in (photocurrent, saturation, series, shunt, vth):
        part.setflags(write=False)
    return CurveGrid(photocurrent, saturation, series, shunt, vth)


def current_at_v(label: ModuleLabel, volts: FloatArray | float) -> FloatArray:
    """Amps of one panel held at a voltage, over the tables, never below zero, shape (sun, cell)
    [A].

    Parameters
    ----------
    label : ModuleLabel
        The panel.
    volts : ndarray or float
        At its terminals, any shape. [V]

    Returns
    -------
    ndarray
        Current at each of the table's suns and cell temperatures. [A]
    """
    return _at_steady_v(label, volts) if isinstance(volts, float) else _at_volts(label, volts)


@kept_for_places
def _at_steady_v(label: ModuleLabel, volts: float) -> FloatArray:
    amps = _at_volts(label, np.array(volts))
    amps.setflags(write=False)
    return amps


def _at_volts(label: ModuleLabel, volts: FloatArray) -> FloatArray:
    grid = curve_grid(label)
    amps = pvlib.pvsystem.i_from_v(
        np.broadcast_to(volts, grid.photocurrent_a.shape),
        grid.photocurrent_a,
        grid.saturation_a,
        grid.series_ohm,
        grid.shunt_ohm,
        grid.vth_v,
    )
    amps = np.maximum(np.nan_to_num(np.asarray(amps), nan=0.0), 0.0)
    amps[0, :] = 0.0
    return np.asarray(amps)


@kept_for_places
def power_grid(label: ModuleLabel) -> tuple[FloatArray, FloatArray]:
    """The most watts of one panel and the volts it gives them at, each of shape (sun, cell) [W],
    [V].

    Scaled along the cell's temperature so that the label's own power coefficient holds in full sun.

    Parameters
    ----------
    label : ModuleLabel
        The panel.

    Returns
    -------
    tuple of ndarray
        Volts and watts at maximum power over the table's suns and cell temperatures. [V], [W]
    """
    grid = curve_grid(label)
    most = pvlib.pvsystem.max_power_point(
        grid.photocurrent_a,
        grid.saturation_a,
        grid.series_ohm,
        grid.shunt_ohm,
        grid.vth_v,
        method="newton",
    )
    watts, volts = np.array(most["p_mp"], dtype=float), np.array(most["v_mp"], dtype=float)
    wanted = label.watts * np.maximum(1.0 + label.p_mp_per_k * (CELL_C - STANDARD_C), 0.1)
    with np.errstate(divide="ignore", invalid="ignore"):
        watts *= (wanted / watts[FULL_SUN_ROW])[None, :]
    # A label whose figures fit no curve at all: its watts in proportion to the sun, at its working
    # volts.
    lost = ~(np.isfinite(watts) & np.isfinite(volts))
    watts = np.where(lost, wanted[None, :] * SUN_W_M2[:, None] / FULL_SUN_W_M2, watts)
    volts = np.where(lost, label.v_mp, volts)
    watts[0, :] = 0.0
    for part in (watts, volts):
        part.setflags(write=False)
    return watts, volts


def interpolated(table: FloatArray, sun_w_m2: FloatArray, cell_c: FloatArray) -> FloatArray:
    """A table of shape (sun, cell) read at hours, straight between its points; beyond its ends the
    last row holds.

    Parameters
    ----------
    table : ndarray
        Over the table's suns and cell temperatures.
    sun_w_m2 : ndarray
        On the plane, any shape. [W/m²]
    cell_c : ndarray
        Of the same shape. [°C]

    Returns
    -------
    ndarray
        The table's value at each of them, of the same shape.
    """
    at = np.clip(np.searchsorted(SUN_W_M2, sun_w_m2, side="right") - 1, 0, SUN_W_M2.size - 2)
    share = np.clip((sun_w_m2 - SUN_W_M2[at]) / (SUN_W_M2[at + 1] - SUN_W_M2[at]), 0.0, 1.0)
    step = CELL_C[1] - CELL_C[0]
    place = np.clip((cell_c - CELL_C[0]) / step, 0.0, CELL_C.size - 1.000001)
    row = place.astype(np.int64)
    part = place - row
    low = table[at, row] * (1.0 - part) + table[at, row + 1] * part
    high = table[at + 1, row] * (1.0 - part) + table[at + 1, row + 1] * part
    return np.asarray(low * (1.0 - share) + high * share)
