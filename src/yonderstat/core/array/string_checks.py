"""Strings against their controllers, the bank and the wire; and the ladder of volts."""

from collections.abc import Mapping
from dataclasses import dataclass

from ..controllers import controller_type
from ..data import rows
from ..design import BUS, Array, Bank, Design, Load, PanelString
from ..electrical import MOST_V, blocks_of_12v, narrowest_window
from ..store import StoreReport
from ..working import Input, Key, Quantity, Workings, given, stated, table, used
from .checks import (
    CONTINUOUS,
    ENOUGH_LEFT,
    FULL_SUN_RISE_K,
    ColdVolts,
    cold_open_v,
    conductor_a,
    hot_working_v,
    source_circuit_a,
)
from .electric import (
    DIODE_V,
    best_amps,
    cell_rise_k,
    controller_figure,
    electric_of,
    group_of,
    leader_of,
    left_when_hot,
    rated_input_v,
)
from .labels import label_inputs, label_of


@dataclass(frozen=True, slots=True)
class Rung:
    """Something on the ladder of volts: a band from `low_v` to `high_v`, or a mark where both are
    the same."""

    side: str
    """panel, controller, bank or radio"""
    label: str
    low_v: float
    high_v: float
    trouble: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class StringCheck:
    """A string at its coldest and hottest. `limit_v` is what its controller is rated for."""

    id: str
    name: str
    cold_v: Key
    cold_rule: str
    limit_v: Key
    hot_v: Key
    need_v: Key
    hot_share: Key
    """Of its working current, left there at the volts that finish the charge."""
    source_a: Key
    conductor_a: Key
    best_a: Key
    proposed_a: Key
    """A controller of this many amps passes all the string can give."""
    takeaway: str
    rungs: tuple[Rung, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class StringBasis:
    """What charging is judged against."""

    bank: Bank | None
    bus_v: Quantity
    absorb_v: Quantity
    cold: Quantity
    hot: Quantity
    store: StoreReport | None
    hard_month: int
    coldest_cells_c: Mapping[str, float]
    """Each string's coldest cells in full sun, by its id."""
    set_v: float | None = None
    """At the set that stands lowest in its window, keyed at the end, as the Bus has it; None is
    told at the posts."""


def _cold(
    string: PanelString, index: int, basis: StringBasis, workings: Workings
) -> tuple[Quantity, ColdVolts]:
    label, at = label_of(string.module), f"/array/strings/{index}"
    measured = string.module.measured_v_oc
    volts = cold_open_v(
        label, string.series, measured.value if measured else None, basis.cold.number
    )
    inputs: list[Input] = [
        label_inputs(string.module, f"{at}/module")[0],
        stated("s", "in series", string.series, "", f"{at}/series"),
        used("T", basis.cold),
        table("β", "change with temperature", label.v_oc_per_k * 100.0, "%/K", "module-class"),
    ]
    if measured:
        inputs.append(
            given(
                "V_meas",
                "open-circuit volts, measured",
                measured,
                "V",
                f"{at}/module/measured_v_oc",
            )
        )
    if volts.by_table is not None:
        inputs.append(
            table("k", "by the table in the electrical code", volts.by_table, "V", "nec-cold")
        )
    quantity = workings.add(
        f"array.string.{string.id}.cold_v",
        volts.deciding,
        "V",
        label=f"{string.name}: open-circuit volts on the coldest morning",
        formula="max(V_oc · s · (1 + β (T − 25)), V_oc · s · k)",
        words=f"worked out by both rules; {volts.rule} gives the higher figure",
        inputs=inputs,
        source="nec-cold",
    )
    return quantity, volts


def _hot(string: PanelString, index: int, hottest: Input, workings: Workings) -> Quantity:
    label, rise = label_of(string.module), max(cell_rise_k(string), FULL_SUN_RISE_K)
    return workings.add(
        f"array.string.{string.id}.hot_v",
        hot_working_v(label, string.series, float(hottest.value or 0.0), rise),
        "V",
        label=f"{string.name}: working volts on the hottest afternoon",
        formula="V_mp · s · (1 − 0.43 % · (T + ΔT − 25))",
        words="cells in full sun are hotter than the air; how much depends on the mounting",
        inputs=[
            used("V_mp", workings[f"array.string.{string.id}.working_v"]),
            hottest,
            table("ΔT", "cells hotter than the air in full sun", rise, "K", "cell-heat"),
        ],
        source="cell-heat",
    )


def _left_when_hot(
    string: PanelString,
    need: Quantity,
    hot: Quantity,
    design: Design,
    basis: StringBasis,
    workings: Workings,
) -> Quantity:
    """Share of its current a hot string still gives at the volts that finish the charge."""
    cell_c = basis.hot.number + max(cell_rise_k(string), FULL_SUN_RISE_K)
    electric = electric_of(string, design.array, basis.absorb_v.number)
    tracks = controller_type(electric.kind).tracks
    return workings.add(
        f"array.string.{string.id}.hot_share",
        left_when_hot(electric, cell_c),
        "share",
        label=f"{string.name}: share of its current left on the hottest afternoon",
        formula="I(V_absorb; T_hot) / I_room(T_hot)"
        if tracks
        else "I(V_absorb; 1000 W/m², T_hot) / I(V_absorb; 1000 W/m², 25 °C)",
        words="current into the battery near full, in full sun, after diode and cable, as a "
        "share of what an MPPT controller with enough voltage would pass"
        if tracks
        else "current into the battery near full, after diode and cable",
        inputs=[
            used("V_need", need),
            used("V_hot", hot),
            table("T_hot", "cells", cell_c, "°C", "cell-heat"),
        ],
        source="single-diode",
    )


def _limits(
    string: PanelString, leader: PanelString, at: str, basis: StringBasis, workings: Workings
) -> tuple[Quantity, Quantity]:
    """What the controller it is on is rated for, and the volts that finish the charge through
    it."""
    limit = leader.regulator.max_v
    most = rated_input_v(leader, blocks_of_12v(basis.bus_v.number))
    item = (
        given("V_max", "controller's limit", limit, "V", f"{at}/regulator/max_v")
        if limit
        else table("V_max", "usual for its kind", most, "V", "controller-class")
    )
    limit_v = workings.add(
        f"array.string.{string.id}.limit_v",
        most,
        "V",
        label=f"{string.name}: highest panel volts the controller can take",
        formula="V_max",
        words="from its label, or usual for its kind",
        inputs=[item],
        source="controller-class",
    )
    drop, diode = controller_figure(leader, "drop_v"), DIODE_V if string.blocking_diode else 0.0
    need = workings.add(
        f"array.string.{string.id}.need_v",
        basis.absorb_v.number + drop + diode,
        "V",
        label=f"{string.name}: volts needed to finish the charge",
        formula="V_absorb + drop + V_diode",
        words=(
            "absorption voltage plus the drops in controller and blocking diode; below this "
            "the current falls"
        ),
        inputs=[
            used("V_absorb", basis.absorb_v),
            table("drop", "controller's drop", drop, "V", "controller-class"),
            table("V_diode", "blocking diode", diode, "V", "practice"),
        ],
        source="controller-class",
    )
    return limit_v, need


def _amps(
    string: PanelString,
    at: str,
    design: Design,
    charge_v: float,
    coldest_c: float,
    workings: Workings,
) -> tuple[Quantity, Quantity, Quantity]:
    label = label_of(string.module)
    base = [
        label_inputs(string.module, f"{at}/module")[1],
        stated("p", "in parallel", string.parallel, "", f"{at}/parallel"),
    ]
    source = workings.add(
        f"array.string.{string.id}.source_a",
        source_circuit_a(label, string.parallel),
        "A",
        label=f"{string.name}: current the wiring must allow for",
        formula="1.25 · I_sc · p",
        words="short-circuit current with the margin the electrical code asks for",
        inputs=base,
        source="nec-current",
    )
    wire = workings.add(
        f"array.string.{string.id}.conductor_a",
        conductor_a(label, string.parallel),
        "A",
        label=f"{string.name}: wire and fuse must carry",
        formula="k · I",
        words="25 % above that current, because it flows for hours",
        inputs=[used("I", source), table("k", "continuous", CONTINUOUS, "", "nec-current")],
        source="nec-current",
    )
    electric = electric_of(string, design.array, charge_v)
    best = workings.add(
        f"array.string.{string.id}.best_a",
        best_amps(electric, coldest_c, cell_rise_k(string)),
        "A",
        label=f"{string.name}: highest charge current",
        formula="max over E ≤ 1000 W/m² and T ≥ T_c − ΔT · (1 − E/1000) of I",
        words=(
            "sun up to full on the coldest cells the place has, or on warmer ones, within "
            "the limits"
        ),
        inputs=[
            used("V_c", workings["array.charge_v"]),
            table(
                "T_c",
                "cells in full sun, air as cold as the coldest night",
                coldest_c,
                "°C",
                "cell-heat",
            ),
            table("ΔT", "warmer than the air in full sun", cell_rise_k(string), "K", "cell-heat"),
            *base,
        ],
        source="single-diode",
    )
    return source, wire, best


def _proposed(
    string: PanelString, array: Array, charge_v: Quantity, workings: Workings
) -> Quantity:
    leader = leader_of(string, array)
    group, mppt = group_of(leader, array), controller_type(leader.controller).tracks
    if mppt:
        watts = [workings[f"array.string.{item.id}.watts"] for item in group]
        inputs = [*(used("P", item) for item in watts), used("V_c", charge_v)]
        asked = sum(item.number for item in watts) / charge_v.number
    else:
        amps = {item.name: source_circuit_a(label_of(item.module), item.parallel) for item in group}
        inputs = [
            table("I", f"1.25 · I_sc of {name}", value, "A", "nec-current")
            for name, value in amps.items()
        ]
        asked = sum(amps.values())
    sizes = [float(row["amps"]) for row in rows("controller_sizes")]
    size = next((item for item in sizes if item >= asked), None)
    return workings.add(
        f"array.string.{string.id}.proposed_a",
        size,
        "A",
        label=f"{string.name}: controller proposed",
        formula="next size over Σ P / V_c" if mppt else "next size over Σ I",
        words=(
            "the next common size above what all its strings can give; a smaller PWM is "
            "overloaded, a smaller MPPT wastes power"
        ),
        inputs=inputs,
        source="practice",
        note="" if size else "too much for one controller; split the string",
    )


def _rungs(
    string: PanelString,
    cold: Quantity,
    hot: Quantity,
    limit: Quantity,
    need: Quantity,
    left: Quantity,
    radios: list[Load],
    has_controller: bool,
    basis: StringBasis,
    workings: Workings,
) -> tuple[Rung, ...]:
    working = workings[f"array.string.{string.id}.working_v"].number
    over, short = has_controller and cold.number > limit.number, left.number < ENOUGH_LEFT
    rungs = [
        Rung("panel", "open, coldest", cold.number, cold.number, over),
        Rung("panel", "working, 25 °C", working, working, False),
        Rung("panel", "working, hottest", hot.number, hot.number, short),
        # Nothing limits the volts of a panel that has no controller; it has its own Stop.
        *([Rung("controller", "takes", need.number, limit.number, over)] if has_controller else []),
        Rung("bank", "absorption", basis.absorb_v.number, basis.absorb_v.number, False),
    ]
    if basis.store is not None:
        rest = [row.rest_v for row in basis.store.resting]
        rungs.append(Rung("bank", "rests", min(rest), max(rest), False))
        posts_v = workings[basis.store.end_peak_v].number
        rungs += _radio_rungs(radios, posts_v if basis.set_v is None else basis.set_v)
    return tuple(rungs)


def _radio_rungs(radios: list[Load], end_v: float) -> list[Rung]:
    """What the most demanding set straight on the bus wants, and what it gets; behind a converter
    it gets its own."""
    window = narrowest_window(radios)
    if window is None:
        return []
    high_v = window.high_v if window.high_v < MOST_V else window.low_v
    return [
        Rung("radio", f"radio, {window.label}", window.low_v, high_v, False),
        Rung("radio", "battery low, transmitting", end_v, end_v, end_v < window.low_v),
    ]


def _takeaway(
    has_controller: bool,
    cold: Quantity,
    hot: Quantity,
    limit: Quantity,
    need: Quantity,
    left: Quantity,
) -> str:
    if not has_controller:
        return (
            f"No controller: up to {cold.number:.0f} V can reach battery and radios on the "
            "coldest morning."
        )
    if cold.number > limit.number:
        return (
            f"Can destroy the controller: {cold.number:.0f} V on the coldest morning, and it "
            f"is rated for {limit.number:.0f} V."
        )
    if left.number < ENOUGH_LEFT:
        return (
            f"Too low on hot days: the string gives {hot.number:.1f} V, and a full charge "
            f"needs {need.number:.1f} V. Only {left.number * 100:.0f} % of its current is "
            "left then."
        )
    return (
        f"Fits. On the coldest morning it stays {limit.number - cold.number:.0f} V below "
        f"the controller's limit. On the hottest afternoon {left.number * 100:.0f} % of "
        "its current is left."
    )


def string_check(
    string: PanelString, index: int, design: Design, basis: StringBasis, workings: Workings
) -> StringCheck:
    """One string against its controller, the bank and the wire.

    Parameters
    ----------
    index : int
        Its place in the design, from 0.
    basis : StringBasis
        Temperatures, volts and sun that all strings of a design share.
    """
    radios = [
        load for load in design.draw.loads if load.rail == BUS and load.transmit_a is not None
    ]
    cold, both = _cold(string, index, basis, workings)
    hot = _hot(string, index, used("T", basis.hot), workings)
    at = f"/array/strings/{index}"
    leader = leader_of(string, design.array)
    limit, need = _limits(
        string, leader, f"/array/strings/{design.array.strings.index(leader)}", basis, workings
    )
    left = _left_when_hot(string, need, hot, design, basis, workings)
    source, wire, best = _amps(
        string,
        at,
        design,
        workings["array.charge_v"].number,
        basis.coldest_cells_c[string.id],
        workings,
    )
    proposed = _proposed(string, design.array, workings["array.charge_v"], workings)
    return StringCheck(
        id=string.id,
        name=string.name,
        cold_v=cold.key,
        cold_rule=both.rule,
        limit_v=limit.key,
        hot_v=hot.key,
        need_v=need.key,
        hot_share=left.key,
        source_a=source.key,
        conductor_a=wire.key,
        best_a=best.key,
        proposed_a=proposed.key,
        takeaway=_takeaway(
            controller_type(leader.controller).regulates, cold, hot, limit, need, left
        ),
        rungs=_rungs(
            string,
            cold,
            hot=hot,
            limit=limit,
            need=need,
            left=left,
            radios=radios,
            has_controller=controller_type(leader.controller).regulates,
            basis=basis,
            workings=workings,
        ),
    )
