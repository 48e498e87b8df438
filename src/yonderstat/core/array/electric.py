"""What a string and its controller put into the bank under a given sun and air."""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from ..controllers import controller_type
from ..data import rows_by
from ..design import Array, PanelString
from ..electrical import loop_ohm
from ..keeping import kept_for_places
from .diode import (
    CELL_C,
    FULL_SUN_ROW,
    FULL_SUN_W_M2,
    SUN_W_M2,
    current_at_v,
    interpolated,
    power_grid,
)
from .harvest import derate
from .labels import STANDARD_C, ModuleLabel, label_of

FloatArray = NDArray[np.float64]

DIODE_V = 0.5
"""A blocking diode's drop. [C] 0.3–0.7."""
HALVINGS = 26
"""Of the stretch the current behind a lead lies in: to a ten-millionth of it."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Electric:
    """Everything between the light on a string and the bank. Comparable, so that results can be
    kept.

    `point_of` is the panel and the series count whose best volts an MPPT holds, where a string
    shares another's controller.
    """

    kind: str
    label: ModuleLabel
    series: int
    parallel: int
    point_of: tuple[ModuleLabel, int] | None
    light_share: float
    diode_v: float
    charge_v: float
    wire_ohm: float
    wire_share: float
    drop_v: float
    start_v: float
    efficiency: float
    self_draw_a: float
    max_charge_a: float | None
    max_array_w: float | None
    buck_boost: bool

    @property
    def lost_share(self) -> float:
        """What the controller turns to heat, as a share of what it gives the bank."""
        return self.drop_v / self.charge_v + 1.0 / self.efficiency - 1.0


def controller_figure(string: PanelString, name: str) -> float:
    """A figure of the string's controller, or what is usual for its kind."""
    known = getattr(string.regulator, name, None)
    if known is not None:
        return float(known.value)
    return float(rows_by("controllers", "controller")[string.controller][name])


def rated_input_v(string: PanelString, blocks: int) -> float:
    """What a string's controller is rated for at its panel terminals [V]: its label, or usual for
    its kind.

    Parameters
    ----------
    blocks : int
        Blocks of 12 V of the bank: a PWM controller for 12 V is rated for 25 to 30 V unless its
        label says more, one for 24 V for twice that. [C]
    """
    usual = controller_figure(string, "max_v")
    return (
        usual * blocks
        if controller_type(string.controller).passes_current and string.regulator.max_v is None
        else usual
    )


def leader_of(string: PanelString, array: Array) -> PanelString:
    """The string whose controller a string is on: its own, or the one it shares."""
    return next((item for item in array.strings if item.id == string.joins), string)


def group_of(leader: PanelString, array: Array) -> list[PanelString]:
    """A string and all that share its controller."""
    return [leader, *(item for item in array.strings if item.joins == leader.id)]


def _watts(string: PanelString) -> float:
    return string.module.watts.value * string.series * string.parallel


def electric_of(
    string: PanelString, array: Array, charge_v: float, kind: str | None = None
) -> Electric:
    """The string with its controller, its own or the one it shares.

    Limits of a shared controller are shared out by label watts.

    Parameters
    ----------
    kind : str, optional
        Another kind of controller in its place, with the usual figures of that kind.
    """
    leader = leader_of(string, array)
    if kind is not None and kind != leader.controller:
        leader = _with_kind(leader, kind)
    regulator, length = leader.regulator, string.cable_m
    group_w = sum(_watts(item) for item in group_of(leader, array))
    part = _watts(string) / group_w
    cable = length is not None and string.cable_mm2 is not None
    return Electric(
        kind=leader.controller,
        label=label_of(string.module, string.series),
        series=string.series,
        parallel=string.parallel,
        point_of=None if leader.id == string.id else (label_of(leader.module), leader.series),
        light_share=0.0 if string.module.own_inverter else 1.0 - string.shaded_share.value,
        diode_v=DIODE_V if string.blocking_diode else 0.0,
        charge_v=charge_v,
        wire_ohm=loop_ohm(length.value, string.cable_mm2) if length and string.cable_mm2 else 0.0,
        wire_share=1.0 if cable else derate("wire"),
        drop_v=controller_figure(leader, "drop_v"),
        start_v=controller_figure(leader, "start_v"),
        efficiency=controller_figure(leader, "efficiency"),
        self_draw_a=controller_figure(leader, "self_draw_a") * part,
        max_charge_a=regulator.max_charge_a.value * part if regulator.max_charge_a else None,
        max_array_w=regulator.max_array_w.value * part if regulator.max_array_w else None,
        buck_boost=regulator.buck_boost,
    )


def _with_kind(string: PanelString, kind: str) -> PanelString:
    regulator = string.regulator.model_copy(
        update={"efficiency": None, "start_v": None, "self_draw_a": None, "drop_v": None}
    )
    return string.model_copy(update={"controller": kind, "regulator": regulator})


def cell_rise_k(string: PanelString) -> float:
    """How much hotter than the air the cells run in full sun [K].

    Usual for what is behind the panel; where its data sheet names a NOCT, by that on a free rack,
    and as much more as the fixing adds: ΔT = (NOCT − 20) / 800 · 1000.
    """
    rows = rows_by("fitted", "fitted")
    usual = float(rows[string.fitted]["rise_k"])
    noct = string.module.noct_c
    if noct is None:
        return usual
    return max(0.0, (noct.value - 20.0) / 0.8 + usual - float(rows["rack"]["rise_k"]))


def _at_bank_volts(electric: Electric) -> FloatArray:
    """Amps into the bank over the tables with the string held at the bank's volts plus all drops.

    A PWM controller always holds it there; so does a step-down tracker that has run out of
    headroom: fully on, it passes what the curve gives there.

    Notes
    -----
    I = n·i(V + I·R), where i falls with the volts: the two sides cross once, between nothing and
    what flows without a lead, and halving that stretch finds where. (Putting the amps back into the
    right side swings past it where the lead is long, and a longer one then brought more.)
    """
    share = electric.parallel * electric.label.plan_share * electric.light_share
    least_v = electric.charge_v + electric.drop_v + electric.diode_v
    most = current_at_v(electric.label, least_v / electric.series) * share
    if electric.wire_ohm <= 0:
        return np.asarray(most * electric.wire_share)
    low, high = np.zeros_like(most), most
    for _ in range(HALVINGS):
        amps = (low + high) / 2.0
        gives = (
            current_at_v(electric.label, (least_v + amps * electric.wire_ohm) / electric.series)
            * share
        )
        flows = gives > amps
        low, high = np.where(flows, amps, low), np.where(flows, high, amps)
    return np.asarray(low * electric.wire_share)


def _best_point(electric: Electric) -> tuple[FloatArray, FloatArray]:
    """The volts a tracker holds the string at, and the watts that then reach the controller, over
    the tables.

    Where a string shares another's controller it is held at the other's best volts, and gives what
    it can there.
    """
    share = electric.parallel * electric.label.plan_share * electric.light_share
    if electric.point_of is None:
        watts, volts = power_grid(electric.label)
        held_v, power = volts * electric.series, watts * electric.series * share
    else:
        held_v = power_grid(electric.point_of[0])[1] * electric.point_of[1]
        power = (
            current_at_v(electric.label, (held_v + electric.diode_v) / electric.series)
            * held_v
            * share
        )
    amps = np.divide(power, held_v, out=np.zeros_like(power), where=held_v > 0)
    lost = amps**2 * electric.wire_ohm + amps * electric.diode_v
    arriving_v = held_v - amps * electric.wire_ohm - electric.diode_v
    # More sun has every current of less sun at more volts: a tracker on a long lead holds it there,
    # and brings no less.
    arrives = np.maximum.accumulate(np.maximum(power - lost, 0.0), axis=0)
    return arriving_v, arrives * electric.wire_share


def _wakes(electric: Electric) -> bool:
    """Whether a tracker's panel volts ever stand far enough above the bank's for it to start in the
    morning."""
    return (
        electric.buck_boost
        or electric.label.v_oc * electric.series >= electric.charge_v + electric.start_v
    )


def _mppt_table(electric: Electric) -> FloatArray:
    """Amps into the bank over the tables: the best power, less wire and conversion, while the volts
    suffice for it."""
    if not _wakes(electric):
        return np.zeros((SUN_W_M2.size, CELL_C.size))
    arriving_v, power = _best_point(electric)
    if electric.max_array_w is not None:
        power = np.minimum(power, electric.max_array_w)
    tracked = power * electric.efficiency / electric.charge_v
    steps_down = arriving_v >= electric.charge_v + electric.drop_v
    if electric.buck_boost or bool(steps_down.all()):
        return np.asarray(tracked)
    passed = _at_bank_volts(electric)
    if electric.max_array_w is not None:
        passed = np.minimum(passed, electric.max_array_w / electric.charge_v)
    # What passes straight through is no more than the tracker would make of it: a longer lead never
    # brings more.
    return np.where(steps_down, tracked, np.minimum(passed, tracked))


@kept_for_places
def amps_table(electric: Electric) -> FloatArray:
    """Amps into the bank over sun and cell temperature, within every limit, shape (sun, cell) [A];
    kept, read-only.

    Parameters
    ----------
    electric : Electric
        The string on its controller.

    Returns
    -------
    ndarray
        Into the bank over the table's suns and cell temperatures. [A]
    """
    table = (
        _mppt_table(electric) if controller_type(electric.kind).tracks else _at_bank_volts(electric)
    )
    if controller_type(electric.kind).regulates and electric.max_charge_a is not None:
        table = np.minimum(table, electric.max_charge_a)
    table = np.array(table)
    table.setflags(write=False)
    return table


def amps_into_bank(electric: Electric, sun_w_m2: FloatArray, cell_c: FloatArray) -> FloatArray:
    """Amps into the bank at hours of sun and cell temperature [A]; before the controller's
    self-consumption.

    Parameters
    ----------
    electric : Electric
        The string on its controller.
    sun_w_m2 : ndarray
        On the plane, any shape. [W/m²]
    cell_c : ndarray
        Of the same shape. [°C]

    Returns
    -------
    ndarray
        Into the bank, of the same shape. [A]
    """
    return interpolated(amps_table(electric), sun_w_m2, cell_c)


NO_PLACE_AIR_C = 0.0
"""Air at a bright hour where nobody has said where the station stands. [C]"""
HOTTEST_CELL_C, CELLS_LOOKED_AT = 75.0, 12


def coldest_bright_c(string: PanelString, coldest_air_c: float) -> float:
    """The coldest cells in full sun that a place has: air as cold as its coldest night, and the
    rise. [°C]"""
    return coldest_air_c + cell_rise_k(string)


def best_amps(electric: Electric, coldest_c: float, rise_k: float) -> float:
    """The most it gives in sun up to full, on cells from the coldest a place has upward, within
    every limit [A].

    In full sun alone it would miss a lead that eats the volts: weaker sun leaves the cells colder,
    and more arrives.

    Parameters
    ----------
    electric : Electric
        The string on its controller.
    coldest_c : float
        The coldest cells in full sun. [°C]
    rise_k : float
        How much hotter than the air they are then; less in weaker sun by as much. [K]
    """
    sun_w_m2 = SUN_W_M2[: FULL_SUN_ROW + 1, None]
    coldest = coldest_c - rise_k * (1.0 - sun_w_m2 / FULL_SUN_W_M2)
    warmth = np.linspace(0.0, 1.0, CELLS_LOOKED_AT)
    cell_c = coldest + np.maximum(HOTTEST_CELL_C - coldest, 0.0) * warmth
    return float(amps_into_bank(electric, np.broadcast_to(sun_w_m2, cell_c.shape), cell_c).max())


def left_when_hot(electric: Electric, cell_c: float) -> float:
    """Share of its current that a hot string still gives in full sun at the volts that finish the
    charge, 0 to 1.

    Of what it gives at 25 °C behind a controller that passes the panel's current. A tracker's
    current falls with the watts whatever the volts; what counts there is the share of what one with
    room above the bank's volts would pass.
    """
    at = np.array([FULL_SUN_W_M2, FULL_SUN_W_M2]), np.array([cell_c, STANDARD_C])
    hot, mild = amps_into_bank(electric, *at)
    best = (
        amps_into_bank(replace(electric, buck_boost=True), *at)[0]
        if controller_type(electric.kind).tracks
        else mild
    )
    return float(min(1.0, hot / best)) if best > 0 else 0.0
