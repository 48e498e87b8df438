"""The array explained: harvest by month into the bank, string by string, each with its working."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..calendar import MONTH_NAMES, month_key
from ..controllers import controller_type
from ..design import Design, PanelString
from ..sun import PlaneFigures
from ..working import Input, Key, Quantity, Workings, assumed, given, stated, table, used
from .electric import Electric, cell_rise_k
from .harvest import class_working_volts, derate
from .labels import label_inputs
from .model import ArrayModel, SkyOver, StringModel, kind_charged


@dataclass(frozen=True, slots=True)
class StringFigures:
    """One string: its label watts, the volts it works at, and amp-hours a day by month (empty
    without sun)."""

    id: str
    watts: Key
    v_mp: Key
    months_ah: tuple[Key, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class ArrayReport:
    """What comes in. `stored_ah` is what the bank keeps of `harvest_ah`; both a day, January to
    December."""

    watts: Key
    charge_v: Key
    alternator_ah: Key | None
    harvest_ah: tuple[Key, ...]
    harvest_wh: tuple[Key, ...]
    stored_ah: tuple[Key, ...]
    strings: tuple[StringFigures, ...]
    takeaway: str
    """Of the months against the draw; empty where the sun is not known."""


def _charge_v(model: ArrayModel, bus_v: Quantity, workings: Workings) -> Quantity:
    return workings.add(
        "array.charge_v",
        model.charge_v,
        "V",
        label="Average volts while charging",
        formula="V_c = b · 13.6",
        words="13.6 V for each 12 V of battery",
        inputs=[used("V", bus_v), table("v", "per block", derate("charge_v_12v"), "V", "derates")],
        source="derates",
    )


def _string_watts(model: StringModel, index: int, workings: Workings) -> Quantity:
    string = model.string
    at = f"/array/strings/{index}"
    return workings.add(
        f"array.string.{string.id}.watts",
        model.watts,
        "W",
        label=f"{string.name}: label watts",
        formula="P = P₁ · s · p",
        words="watts of one panel times how many",
        inputs=[
            given("P₁", "watts of one panel", string.module.watts, "W", f"{at}/module/watts"),
            stated("s", "in series", string.series, "", f"{at}/series"),
            stated("p", "in parallel", string.parallel, "", f"{at}/parallel"),
        ],
        source="arithmetic",
    )


def _working_v(string: PanelString, index: int, workings: Workings) -> Quantity:
    at = f"/array/strings/{index}"
    label = string.module.v_mp
    item: Input = (
        given("V_mp", "working volts of one panel", label, "V", f"{at}/module/v_mp")
        if label
        else assumed(
            "V_mp",
            f"usual figure for {string.module.cells} cells",
            class_working_volts(string.module.cells),
            "V",
            "module-class",
            f"{at}/module/v_mp",
        )
    )
    return workings.add(
        f"array.string.{string.id}.working_v",
        float(item.value or 0.0) * string.series,
        "V",
        label=f"{string.name}: working volts",
        formula="V = V_mp · s",
        words="volts at maximum power of one panel times how many in series",
        inputs=[item, stated("s", "in series", string.series, "", f"{at}/series")],
        source="arithmetic",
    )


def _month_words(electric: Electric) -> tuple[str, str]:
    if controller_type(electric.kind).tracks:
        return (
            "Q = Σ min(P_max(G, T_c) · η / V_c, limits) · Δt − I₀ · 24",
            "the panel's best power each half-hour, less cable and conversion losses, divided "
            "by the charging volts; held to the controller's limits, less its own use",
        )
    return (
        "Q = Σ min(I(V_c + drops; G, T_c), limits) · Δt − I₀ · 24",
        "the panel's current each half-hour at the battery's charging volts; extra panel "
        "volts are lost; limited to the controller's rating, minus its own consumption",
    )


def _string_month(
    string: PanelString,
    at: str,
    electric: Electric,
    month: int,
    value: float,
    hours: Quantity,
    sky: SkyOver,
    workings: Workings,
) -> Quantity:
    label = electric.label
    formula, words = _month_words(electric)
    inputs = [
        used("H", hours),
        used("P", workings[f"array.string.{string.id}.watts"]),
        used("V_mp", workings[f"array.string.{string.id}.working_v"]),
        used("V_c", workings["array.charge_v"]),
        *label_inputs(string.module, f"{at}/module"),
        table("k", "share of the label we plan with", label.plan_share, "share", "practice"),
        table("T_a", "average air temperature", sky.air_c[month - 1], "°C", sky.air_source),
        table("ΔT", "cells hotter than the air in full sun", cell_rise_k(string), "K", "cell-heat"),
        table("η", "conversion", electric.efficiency, "share", "controller-class"),
        table("I₀", "its own use", electric.self_draw_a, "A", "controller-class"),
    ]
    if electric.wire_ohm:
        inputs.append(
            table("R", "cable, there and back", electric.wire_ohm * 1000.0, "mΩ", "arithmetic")
        )
    else:
        inputs.append(
            table("k_w", "cable to the controller", electric.wire_share, "share", "derates")
        )
    if electric.max_charge_a is not None:
        inputs.append(
            stated(
                "I_max",
                "controller's limit",
                electric.max_charge_a,
                "A",
                f"{at}/regulator/max_charge_a",
            )
        )
    note = (
        ""
        if value or not hours.number
        else "the string's voltage is below the battery's charging voltage, so no current flows"
    )
    return workings.add(
        month_key(f"array.string.{string.id}.ah", month),
        value,
        "A·h",
        label=f"{string.name}: into the battery per day, {MONTH_NAMES[month - 1]}",
        formula=formula,
        words=words,
        inputs=inputs,
        source="single-diode",
        note=note,
    )


def _string_figures(
    model: StringModel,
    index: int,
    plane: PlaneFigures | None,
    sky: SkyOver | None,
    workings: Workings,
) -> StringFigures:
    string = model.string
    watts, v_mp = _string_watts(model, index, workings), _working_v(string, index, workings)
    months: tuple[Key, ...] = ()
    if plane and sky and model.months_ah is not None:
        electric, at = model.electric, f"/array/strings/{index}"
        months = tuple(
            _string_month(
                string,
                at,
                electric=electric,
                month=month,
                value=value,
                hours=workings[key],
                sky=sky,
                workings=workings,
            ).key
            for month, (key, value) in enumerate(
                zip(plane.hours, model.months_ah, strict=True), start=1
            )
        )
    return StringFigures(string.id, watts.key, v_mp.key, months)


def _alternator(model: ArrayModel, design: Design, workings: Workings) -> Quantity | None:
    alternator = design.array.alternator
    if alternator is None or model.engine_ah <= 0:
        return None
    return workings.add(
        "array.alternator_ah",
        model.engine_ah,
        "A·h",
        label="From the alternator per day",
        formula="Q = min(I, I_e) · h",
        words="charger amps, held to what the alternator can spare, times hours driven per day",
        inputs=[
            given("I", "DC-DC charger", alternator.charge_a, "A", "/array/alternator/charge_a"),
            *(
                [
                    given(
                        "I_e",
                        "alternator can spare",
                        alternator.engine_limit_a,
                        "A",
                        "/array/alternator/engine_limit_a",
                    )
                ]
                if alternator.engine_limit_a
                else []
            ),
            given(
                "h",
                "hours driven per day",
                alternator.driving_h_per_day,
                "h",
                "/array/alternator/driving_h_per_day",
            ),
        ],
        source="arithmetic",
    )


def _coulombic(model: ArrayModel, design: Design) -> Input:
    label = f"charge kept, {kind_charged(design.store.bank).label}"
    return table("η_c", label, model.kept_share, "share", "practice")


def _month_totals(
    harvest_ah: float,
    kept: Input,
    month: int,
    parts: list[Quantity],
    bus_v: Quantity,
    workings: Workings,
) -> tuple[Key, Key, Key]:
    name = MONTH_NAMES[month - 1]
    harvest = workings.add(
        month_key("array.harvest_ah", month),
        harvest_ah,
        "A·h",
        label=f"Into the battery per day, {name}",
        formula="Q = Σ Qᵢ",
        words="all panel strings, and the alternator if it charges",
        inputs=[used(f"Q{number}", part) for number, part in enumerate(parts, start=1)],
        source="arithmetic",
    )
    energy = workings.add(
        month_key("array.harvest_wh", month),
        harvest.number * bus_v.number,
        "W·h",
        label=f"Into the battery per day, {name}",
        formula="E = Q · V",
        words="amp-hours times the nominal battery voltage",
        inputs=[used("Q", harvest), used("V", bus_v)],
        source="arithmetic",
    )
    stored = workings.add(
        month_key("array.stored_ah", month),
        harvest.number * float(kept.value or 0.0),
        "A·h",
        label=f"Usable gain per day, {name}",
        formula="Q_s = Q · η_c",
        words="the part of the charge put in that you get back from this battery type",
        inputs=[used("Q", harvest), kept],
        source="practice",
    )
    return harvest.key, energy.key, stored.key


def _against_the_draw(model: ArrayModel, drawn_ah: NDArray[np.float64]) -> str:
    stored = model.stored_ah
    if stored is None:
        return ""
    short = np.flatnonzero(stored < drawn_ah)
    if short.size == 0:
        return "In every month, average sun replaces what you use."
    worst = MONTH_NAMES[int(short[np.argmin((stored / np.maximum(drawn_ah, 1e-9))[short])])]
    if short.size == 1:
        return f"In {worst}, average sun doesn't replace what you use."
    return (
        f"In {short.size} months, average sun doesn't replace what you use. {worst} is the worst."
    )


def array_report(
    design: Design,
    model: ArrayModel,
    sky: SkyOver | None,
    bus_v: Quantity,
    planes: tuple[PlaneFigures, ...],
    drawn_ah: NDArray[np.float64],
    workings: Workings,
) -> ArrayReport:
    """What every string, and the engine, put into the bank.

    Parameters
    ----------
    bus_v : Quantity
        Nominal bus volts. [V]
    planes : tuple of PlaneFigures
        Sun-hours by string; empty where the sun is not known, and then the months are empty too.
    drawn_ah : ndarray of shape (12,)
        Drawn in a day of each month. [A·h]

    Returns
    -------
    ArrayReport
        The strings and what they bring, every figure in `workings`.
    """
    charge_v = _charge_v(model, bus_v, workings)
    by_string = {plane.string_id: plane for plane in planes}
    strings = tuple(
        _string_figures(string, index, by_string.get(string.string.id), sky, workings)
        for index, string in enumerate(model.strings)
    )
    alternator = _alternator(model, design, workings)
    watts = workings.add(
        "array.watts",
        float(model.watts),
        "W",
        label="Label watts of the array",
        formula="P = Σ Pᵢ",
        words="all strings",
        inputs=[
            used(f"P{number}", workings[string.watts])
            for number, string in enumerate(strings, start=1)
        ],
        source="arithmetic",
    )
    totals, harvest, kept = [], model.harvest_ah, _coulombic(model, design)
    for month in range(1, 13) if harvest is not None else ():
        assert harvest is not None
        here = [string for string in strings if string.id not in model.astray]
        parts = [workings[string.months_ah[month - 1]] for string in here] + (
            [alternator] if alternator else []
        )
        totals.append(_month_totals(float(harvest[month - 1]), kept, month, parts, bus_v, workings))
    return ArrayReport(
        watts=watts.key,
        charge_v=charge_v.key,
        alternator_ah=alternator.key if alternator else None,
        harvest_ah=tuple(item[0] for item in totals),
        harvest_wh=tuple(item[1] for item in totals),
        stored_ah=tuple(item[2] for item in totals),
        strings=strings,
        takeaway=_against_the_draw(model, drawn_ah),
    )
