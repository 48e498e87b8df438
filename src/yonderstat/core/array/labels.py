"""A panel as it is planned with: its label, what its class adds, and what a meter found."""

from dataclasses import dataclass

from ..data import rows_by
from ..design import Module
from ..working import Input, assumed, given

STANDARD_C = 25.0


@dataclass(frozen=True, slots=True, kw_only=True)
class ModuleLabel:
    """Figures of one panel at 1000 W/m² and 25 °C; `guessed` names those its class filled in."""

    watts: float
    v_mp: float
    i_mp: float
    v_oc: float
    i_sc: float
    v_oc_per_k: float
    """Change of the open-circuit volts with the cell's temperature, as a share. [1/K]"""
    p_mp_per_k: float
    i_sc_per_k: float
    cells: int
    plan_share: float
    """What is planned on of the label: condition, and what a meter found."""
    guessed: tuple[str, ...]


def label_of(module: Module, series: int = 1) -> ModuleLabel:
    """The panel's figures, its class's where the label is silent; in series the weakest measured
    one counts."""
    usual = rows_by("module_classes", "cells")[str(module.cells)]
    guessed = []

    def told(name: str, known: float | None, fallback: float) -> float:
        if known is None:
            guessed.append(name)
            return fallback
        return known

    watts = module.watts.value
    v_mp = told("working volts", module.v_mp.value if module.v_mp else None, float(usual["v_mp"]))
    i_mp = watts / v_mp
    v_oc = told(
        "open-circuit volts",
        module.v_oc.value if module.v_oc else None,
        v_mp * float(usual["v_oc_over_v_mp"]),
    )
    i_sc = told(
        "short-circuit amps",
        module.i_sc.value if module.i_sc else None,
        i_mp * float(usual["i_sc_over_i_mp"]),
    )
    open_pct = told(
        "volts per K",
        module.v_oc_pct_per_k.value if module.v_oc_pct_per_k else None,
        float(usual["v_oc_pct_per_k"]),
    )
    power_pct = told(
        "power per K",
        module.p_mp_pct_per_k.value if module.p_mp_pct_per_k else None,
        float(usual["p_mp_pct_per_k"]),
    )
    most_a = max(i_sc, i_mp * 1.005)
    return ModuleLabel(
        watts=watts,
        v_mp=v_mp,
        i_mp=i_mp,
        v_oc=max(v_oc, v_mp * 1.02),
        i_sc=most_a,
        v_oc_per_k=open_pct / 100.0,
        p_mp_per_k=power_pct / 100.0,
        i_sc_per_k=float(usual["i_sc_pct_per_k"]) / 100.0,
        cells=module.cells,
        plan_share=plan_share(module, most_a, i_mp, series),
        guessed=tuple(guessed),
    )


def label_inputs(module: Module, at: str) -> tuple[Input, Input]:
    """Open-circuit volts and short-circuit amps with where they come from: the label, or the
    panel's class."""
    label = label_of(module)
    v_oc = (
        given("V_oc", "open-circuit volts of one panel", module.v_oc, "V", f"{at}/v_oc")
        if module.v_oc
        else assumed(
            "V_oc",
            "open-circuit volts of its class",
            label.v_oc,
            "V",
            "module-class",
            f"{at}/v_oc",
        )
    )
    i_sc = (
        given("I_sc", "short-circuit amps of one panel", module.i_sc, "A", f"{at}/i_sc")
        if module.i_sc
        else assumed(
            "I_sc",
            "short-circuit amps of its class",
            label.i_sc,
            "A",
            "module-class",
            f"{at}/i_sc",
        )
    )
    return v_oc, i_sc


def _measured_shares(module: Module, label: tuple[float, float]) -> list[float]:
    """What a meter found over the label's current, of every panel that was measured: short circuit
    or at work."""
    i_sc, i_mp = label
    readings = [
        (row.i_sc, row.i_mp)
        for row in module.readings
        if row.i_sc is not None or row.i_mp is not None
    ]
    if not readings:
        short, work = module.measured_i_sc, module.measured_i_mp
        readings = (
            [(short.value if short else None, work.value if work else None)]
            if short or work
            else []
        )
    return [
        min(
            1.0,
            *(
                found / told
                for found, told in ((short_a, i_sc), (work_a, i_mp))
                if found is not None
            ),
        )
        for short_a, work_a in readings
    ]


def plan_share(module: Module, i_sc: float, i_mp: float, series: int) -> float:
    """What is planned on of the label's current.

    A meter speaks for itself; else what age has left, or what the condition makes us guess. Cracked
    glass is out.

    Parameters
    ----------
    i_sc, i_mp : float
        The label's currents. [A]
    series : int
        Panels in series: the weakest of them sets the current of all, while panels side by side add
        up.
    """
    condition = float(rows_by("conditions", "condition")[module.condition]["power_share"])
    if module.condition == "cracked":
        return condition
    found = _measured_shares(module, (i_sc, i_mp))
    if found:
        return min(found) if series > 1 else sum(found) / len(found)
    return module.age_share.value if module.age_share else condition
