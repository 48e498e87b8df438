"""PWM beside MPPT for this very design."""

from dataclasses import dataclass

from ..calendar import MONTH_NAMES, month_key
from ..design import Design
from ..working import Key, Quantity, Workings, used
from .model import SkyOver, string_months_ah


@dataclass(frozen=True, slots=True)
class ComparedController:
    """The whole array on one kind of controller: amp-hours a day by month."""

    kind: str
    months_ah: tuple[Key, ...]


def compare_controllers(
    design: Design, sky: SkyOver | None, charge_v: Quantity, month: int, workings: Workings
) -> tuple[tuple[ComparedController, ...], str]:
    """The whole array with PWM and with MPPT.

    Parameters
    ----------
    charge_v : Quantity
        Volts at the bank while it is charged.
    month : int
        The month compared, 1 to 12.
    """
    if sky is None or not design.array.strings:
        return (), ""
    found, hard = [], {}
    for kind in ("pwm", "mppt"):
        parts = [
            string_months_ah(string, design.array, charge_v.number, sky, kind)
            for string in design.array.strings
        ]
        if any(part is None for part in parts):
            return (), ""
        totals = [sum(values) for values in zip(*(part for part in parts if part), strict=True)]
        hard[kind] = totals[month - 1]
        keys = tuple(
            workings.add(
                month_key(f"array.beside.{kind}", number),
                value,
                "A·h",
                label=f"All strings with {kind.upper()} controllers, {MONTH_NAMES[number - 1]}",
                formula="Q = Σ Qᵢ",
                words=("amp-hours a day into the battery, with the same panels and weather"),
                inputs=[used("V_c", charge_v)],
                source="single-diode",
            ).key
            for number, value in enumerate(totals, start=1)
        )
        found.append(ComparedController(kind, keys))
    return tuple(found), _beside_words(design, hard, MONTH_NAMES[month - 1])


MOST_LIKE = 0.6
"""So much more is not the controller's doing, but panels whose volts do not suit the bank."""


def _beside_words(design: Design, hard: dict[str, float], name: str) -> str:
    if hard["mppt"] <= 0 and hard["pwm"] <= 0:
        return f"Neither PWM nor MPPT charges the battery in {name}."
    if hard["pwm"] <= 0:
        return f"Only MPPT charges the battery in {name}."
    gain = hard["mppt"] / hard["pwm"] - 1.0
    watts = sum(
        item.module.watts.value * item.series * item.parallel for item in design.array.strings
    )
    if gain <= 0:
        return (
            f"In {name}, PWM yields as much or more, because the panels' voltage suits the battery."
        )
    if gain > MOST_LIKE:
        return (
            f"MPPT yields {1.0 + gain:.1f} times as much in {name}. These panels' volts are "
            "far above the battery's; on PWM you would wire them differently."
        )
    more = (
        f"For the same charge, PWM would need {watts * (1.0 + gain):.0f} W of these "
        f"panels instead of {watts:.0f} W."
    )
    return f"MPPT yields {gain * 100:.0f} % more in {name}. {more}"
