"""A panel as it is planned with: its label, what its class adds, and what a meter found."""

from dataclasses import dataclass

from ..data import rows_by
from ..design import Module
from ..working import Input, assumed, given

STANDARD_C = 25.0


@dataclass(frozen=True, slots=True)
class ModuleLabel:
    """Figures of one panel at 1000 W/m² and 25 °C; `guessed` names those its class filled in."""

    watts: float
    working_v: float
    working_a: float
    open_v: float
    short_a: float
    open_per_k: float
    """Change of the open-circuit volts with the cell's temperature, as a share. [1/K]"""
    power_per_k: float
    short_per_k: float
    cells: int
    plan_share: float
    """What is planned on of the label: condition, and what a meter found."""
    guessed: tuple[str, ...]


def label_of(module: Module) -> ModuleLabel:
    """The panel's figures, its class's where the label is silent."""
    usual = rows_by("module_classes", "cells")[str(module.cells)]
    guessed = []

    def told(name: str, known: float | None, fallback: float) -> float:
        if known is None:
            guessed.append(name)
            return fallback
        return known

    watts = module.watts.value
    working_v = told("working volts", module.working_v.value if module.working_v else None, float(usual["working_v"]))
    working_a = watts / working_v
    open_v = told(
        "open-circuit volts",
        module.open_v.value if module.open_v else None,
        working_v * float(usual["open_over_working"]),
    )
    short_a = told(
        "short-circuit amps",
        module.short_a.value if module.short_a else None,
        working_a * float(usual["short_over_working"]),
    )
    open_pct = told(
        "volts per K", module.open_pct_per_k.value if module.open_pct_per_k else None, float(usual["open_pct_per_k"])
    )
    power_pct = told(
        "power per K", module.power_pct_per_k.value if module.power_pct_per_k else None, float(usual["power_pct_per_k"])
    )
    most_a = max(short_a, working_a * 1.005)
    return ModuleLabel(
        watts,
        working_v,
        working_a,
        max(open_v, working_v * 1.02),
        most_a,
        open_pct / 100.0,
        power_pct / 100.0,
        float(usual["short_pct_per_k"]) / 100.0,
        module.cells,
        plan_share(module, most_a),
        tuple(guessed),
    )


def label_inputs(module: Module, at: str) -> tuple[Input, Input]:
    """Open-circuit volts and short-circuit amps with where they come from: the label, or the panel's class."""
    label = label_of(module)
    open_v = (
        given("V_oc", "open-circuit volts of one panel", module.open_v, "V", f"{at}/open_v")
        if module.open_v
        else assumed("V_oc", "open-circuit volts of its class", label.open_v, "V", "module-class", f"{at}/open_v")
    )
    short_a = (
        given("I_sc", "short-circuit amps of one panel", module.short_a, "A", f"{at}/short_a")
        if module.short_a
        else assumed("I_sc", "short-circuit amps of its class", label.short_a, "A", "module-class", f"{at}/short_a")
    )
    return open_v, short_a


def plan_share(module: Module, label_short_a: float) -> float:
    """What is planned on of the label's current.

    A measured short-circuit current speaks for itself; else the condition does. Cracked glass is out.
    """
    condition = float(rows_by("conditions", "condition")[module.condition]["power_share"])
    if module.condition == "cracked" or module.measured_short_a is None:
        return condition
    return min(1.0, module.measured_short_a.value / label_short_a)
