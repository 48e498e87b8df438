"""How much is enough, by two rules side by side: the quick one and the published worst-month
method."""

import math
from dataclasses import dataclass

from ..controllers import controller_type
from ..design import Brief, Design
from ..purposes import purpose_of
from ..working import Input, Key, Quantity, Workings, assumed, stated, table, used
from .explain import ArrayReport
from .harvest import derate

CRITICAL_RATIO, EASY_RATIO = 1.35, 1.15
"""Array-to-load ratio: the middle of 1.3–1.4 and of 1.1–1.2. [P] IEEE Std 1562, from memory."""


DESIGN_MARGIN, END_OF_LIFE = 1.1, 0.8
"""What is added for growth and error, and what a bank still holds when it counts as spent. [P] IEEE
Std 1013, from memory."""


@dataclass(frozen=True, slots=True)
class RuleFigures:
    """What a rule asks for; the array figures are None where the sun is not known."""

    bank_ah: Key
    bank_units: Key | None
    array_w: Key | None
    array_panels: Key | None


@dataclass(frozen=True, slots=True)
class SizingReport:
    """Both rules, the array-to-load ratio the design has, and the published days of storage as a
    cross-check."""

    quick: RuleFigures
    worst_month: RuleFigures
    ratio: Key | None
    ratio_asked: Key
    storage_days: Key | None


@dataclass(frozen=True, slots=True, kw_only=True)
class SizingBasis:
    """The figures the rules start from; None where the sun or the bank is not known."""

    daily_ah: Quantity
    daily_wh: Quantity
    asked_days: Quantity
    sun_hours: Quantity | None
    harvest_ah: Quantity | None
    held_share: Quantity | None
    """Share of the label left after age, rate and cold."""
    depth: Quantity | None
    charge_v: Quantity

    @classmethod
    def of(
        cls,
        array: ArrayReport,
        sun_hours: Quantity | None,
        asked: Quantity,
        month: int,
        workings: Workings,
    ) -> "SizingBasis":
        """The basis of a design, from what was worked out before."""
        has_source = bool(array.strings) or array.alternator_ah is not None
        return cls(
            daily_ah=workings["draw.daily_ah"],
            daily_wh=workings["draw.daily_wh"],
            asked_days=asked,
            sun_hours=sun_hours,
            harvest_ah=workings[array.harvest_ah[month - 1]]
            if array.harvest_ah and has_source
            else None,
            held_share=workings.get("store.held_share"),
            depth=workings.get("store.depth"),
            charge_v=workings["array.charge_v"],
        )


def is_critical(brief: Brief) -> bool:
    """Whether the published rules' stricter figures apply: nobody there to act, or it must stay up
    all year."""
    return brief.attended == "nobody" or purpose_of(brief.purpose).all_year


def _units(
    key: Key, label: str, need: Quantity, unit: float, symbol: str, pointer: str, workings: Workings
) -> Key:
    return workings.add(
        key,
        float(math.ceil(round(need.number / unit, 6))),
        "",
        label=label,
        formula="n = ⌈ need / one ⌉",
        words="rounded up to whole pieces of the kind you have",
        inputs=[used("need", need), stated(symbol, "one like yours", unit, need.unit, pointer)],
        source="arithmetic",
    ).key


def _bank_units(design: Design, rule: str, need: Quantity, workings: Workings) -> Key | None:
    bank = design.store.bank
    if bank is None:
        return None
    label = "Batteries in parallel, of the kind you have"
    pointer = "/store/bank/unit_ah"
    return _units(
        f"sizing.{rule}.bank_units",
        label,
        need=need,
        unit=bank.unit_ah.value,
        symbol="C₁",
        pointer=pointer,
        workings=workings,
    )


def _panels(design: Design, rule: str, need: Quantity | None, workings: Workings) -> Key | None:
    if need is None or not design.array.strings:
        return None
    watts = design.array.strings[0].module.watts.value
    pointer = "/array/strings/0/module/watts"
    return _units(
        f"sizing.{rule}.array_panels",
        "Panels of the kind you have",
        need=need,
        unit=watts,
        symbol="P₁",
        pointer=pointer,
        workings=workings,
    )


def _quick(design: Design, basis: SizingBasis, depth: Input, workings: Workings) -> RuleFigures:
    share = float(depth.value or 1.0)
    bank = workings.add(
        "sizing.quick.bank_ah",
        basis.daily_ah.number * basis.asked_days.number / share,
        "A·h",
        label="Battery by the quick rule",
        formula="C = Q · D / d",
        words=(
            "amp-hours per day times days to last, divided by the depth allowed; ignores age, "
            "cold and discharge rate"
        ),
        inputs=[used("Q", basis.daily_ah), used("D", basis.asked_days), depth],
        source="practice",
    )
    array = None
    if basis.sun_hours is not None and basis.sun_hours.number > 0:
        array = workings.add(
            "sizing.quick.array_w",
            basis.daily_wh.number / basis.sun_hours.number,
            "W",
            label="Panels by the quick rule",
            formula="P = E / H",
            words="watt-hours per day divided by the worst month's sun-hours; ignores all losses",
            inputs=[used("E", basis.daily_wh), used("H", basis.sun_hours)],
            source="practice",
        )
    return RuleFigures(
        bank.key,
        _bank_units(design, "quick", bank, workings),
        array.key if array else None,
        _panels(design, "quick", array, workings),
    )


def _array_by_ratio(
    design: Design, basis: SizingBasis, ratio: Quantity, workings: Workings
) -> Quantity | None:
    hours = basis.sun_hours
    if hours is None or hours.number <= 0:
        return None
    string = design.array.strings[0] if design.array.strings else None
    wire = table("k_w", "cable to the controller", derate("wire"), "share", "derates")
    common = [used("Q", basis.daily_ah), used("r", ratio), used("H", hours), wire]
    if string is not None and not controller_type(string.controller).tracks:
        working = workings[f"array.string.{string.id}.working_v"]
        value = (
            basis.daily_ah.number * ratio.number / (hours.number * derate("wire")) * working.number
        )
        formula, inputs = "P = Q · r / (H · k_w) · V", [*common, used("V", working)]
        words = "current that replaces a day's use times the ratio, at the string's working voltage"
    else:
        losses = derate("wire") * derate("panel_heat") * derate("mppt_conversion")
        value = (
            basis.daily_ah.number * ratio.number * basis.charge_v.number / (hours.number * losses)
        )
        formula = "P = Q · r · V_c / (H · k_w · k_t · η)"
        inputs = [
            *common,
            table("k_t", "heat in the cells", derate("panel_heat"), "share", "derates"),
            table("η", "MPPT conversion", derate("mppt_conversion"), "share", "derates"),
            used("V_c", basis.charge_v),
        ]
        words = (
            "a day's use times the ratio, at charging voltage, divided by the worst month's "
            "sun-hours and losses"
        )
    return workings.add(
        "sizing.worst_month.array_w",
        value,
        "W",
        label="Panels by the worst-month rule",
        formula=formula,
        words=words,
        inputs=inputs,
        source="ieee1562",
    )


def _worst_month(
    design: Design, basis: SizingBasis, depth: Input, ratio: Quantity, workings: Workings
) -> RuleFigures:
    held = (
        used("k", basis.held_share)
        if basis.held_share
        else assumed("k", "age, rate and cold", 1.0, "share", "practice", "/store/bank")
    )
    # A bank that holds nothing in this cold has no size that would do; the rule then states the
    # label figure.
    left = float(held.value or 0.0) or 1.0
    share = min(float(depth.value or 1.0), END_OF_LIFE)
    bank = workings.add(
        "sizing.worst_month.bank_ah",
        basis.daily_ah.number * basis.asked_days.number * DESIGN_MARGIN / (share * left),
        "A·h",
        label="Battery by the worst-month rule",
        formula="C = Q · D · m / (min(d, e) · k)",
        words="worst-month amp-hours per day times days to last and a margin, divided by the "
        "depth allowed and the share left after age, discharge rate and cold; the depth is "
        "limited to what is left when the battery is worn out",
        inputs=[
            used("Q", basis.daily_ah),
            used("D", basis.asked_days),
            depth,
            held,
            table("m", "design margin", DESIGN_MARGIN, "×", "ieee1013"),
            table("e", "share left when the battery is worn out", END_OF_LIFE, "share", "ieee1013"),
        ],
        source="ieee1013",
    )
    array = _array_by_ratio(design, basis, ratio, workings)
    return RuleFigures(
        bank.key,
        _bank_units(design, "worst_month", bank, workings),
        array.key if array else None,
        _panels(design, "worst_month", array, workings),
    )


def _ratio(basis: SizingBasis, workings: Workings) -> Quantity | None:
    if basis.harvest_ah is None or basis.daily_ah.number <= 0:
        return None
    return workings.add(
        "sizing.ratio",
        basis.harvest_ah.number / basis.daily_ah.number,
        "×",
        label="Charge in divided by use, worst month",
        formula="r = Q_in / Q_out",
        words="amp-hours into the battery divided by amp-hours used",
        inputs=[used("Q_in", basis.harvest_ah), used("Q_out", basis.daily_ah)],
        source="ieee1562",
    )


def _storage_days(brief: Brief, hours: Quantity | None, workings: Workings) -> Quantity | None:
    if hours is None or not 1.0 < hours.number < 9.0:
        return None
    critical = is_critical(brief)
    value = 18.3 - 1.9 * hours.number if critical else 4.58 - 0.48 * hours.number
    return workings.add(
        "sizing.storage_days",
        max(1.0, value),
        "d",
        label="Days the battery should last, by a published rule",
        formula="D = 18.3 − 1.9 · T" if critical else "D = 4.58 − 0.48 · T",
        words=(
            f"for a {'critical' if critical else 'non-critical'} station with the worst "
            "month's sun-hours; only a cross-check"
        ),
        inputs=[used("T", hours)],
        source="sandia",
    )


def sizing_report(design: Design, basis: SizingBasis, workings: Workings) -> SizingReport:
    """Work out both rules for this design's draw, place and kind of part.

    Parameters
    ----------
    basis : SizingBasis
        What the sizing stands on: draw, sun and the kind of part.
    """
    critical = is_critical(design.brief)
    asked = CRITICAL_RATIO if critical else EASY_RATIO
    ratio_asked = workings.add(
        "sizing.ratio_asked",
        asked,
        "×",
        label="Charge in divided by use: aim for",
        formula="r",
        words="nobody is on site, or it must stay up all year"
        if critical
        else "somebody is on site to act",
        inputs=[table("r", "middle of the published range", asked, "×", "ieee1562")],
        source="ieee1562",
    )
    depth = (
        used("d", basis.depth)
        if basis.depth
        else assumed("d", "usual depth", 0.5, "share", "depth", "/store/bank")
    )
    ratio = _ratio(basis, workings)
    days = _storage_days(design.brief, basis.sun_hours, workings)
    return SizingReport(
        _quick(design, basis, depth, workings),
        _worst_month(design, basis, depth, ratio_asked, workings),
        ratio.key if ratio else None,
        ratio_asked.key,
        days.key if days else None,
    )
