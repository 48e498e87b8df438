"""The Array figures of a design: harvest by month into the bank, string by string."""

from dataclasses import dataclass

from ..data import rows_by
from ..design import Design, PanelString
from ..draw import MONTH_NAMES, month_key
from ..store import blocks_of_12v
from ..sun import PlaneFigures
from ..working import Input, Key, Quantity, Workings, assumed, given, stated, table, used
from .harvest import charge_volts, class_working_volts, derate, string_daily_ah


@dataclass(frozen=True, slots=True)
class StringFigures:
    """One string: its label watts, the volts it works at, and amp-hours a day by month (empty without sun)."""

    id: str
    watts: Key
    working_v: Key
    months_ah: tuple[Key, ...]


@dataclass(frozen=True, slots=True)
class ArrayReport:
    """What comes in. `stored_ah` is what the bank keeps of `harvest_ah`; both a day, January to December."""

    watts: Key
    charge_v: Key
    alternator_ah: Key | None
    harvest_ah: tuple[Key, ...]
    harvest_wh: tuple[Key, ...]
    stored_ah: tuple[Key, ...]
    strings: tuple[StringFigures, ...]


def _charge_v(bus_v: Quantity, workings: Workings) -> Quantity:
    blocks = blocks_of_12v(bus_v.number)
    return workings.add(
        "array.charge_v",
        charge_volts(blocks),
        "V",
        "Mean volts while charging",
        "V_c = b · 13.6",
        "13.6 V for every 12 V-class block of the bank",
        [used("V", bus_v), table("v", "per block", derate("charge_v_12v"), "V", "derates")],
        "derates",
    )


def string_watts(string: PanelString, index: int, workings: Workings) -> Quantity:
    """Label watts of a string."""
    at = f"/array/strings/{index}"
    return workings.add(
        f"array.string.{string.id}.watts",
        string.module.watts.value * string.series * string.parallel,
        "W",
        f"{string.name}: label watts",
        "P = P₁ · s · p",
        "watts of one panel times how many",
        [
            given("P₁", "watts of one panel", string.module.watts, "W", f"{at}/module/watts"),
            stated("s", "in series", string.series, "", f"{at}/series"),
            stated("p", "in parallel", string.parallel, "", f"{at}/parallel"),
        ],
        "arithmetic",
    )


def _working_v(string: PanelString, index: int, workings: Workings) -> Quantity:
    at = f"/array/strings/{index}"
    label = string.module.working_v
    item: Input = (
        given("V_mp", "working volts of one panel", label, "V", f"{at}/module/working_v")
        if label
        else assumed(
            "V_mp",
            f"class figure, {string.module.cells} cells",
            class_working_volts(string.module.cells),
            "V",
            "module-class",
            f"{at}/module/working_v",
        )
    )
    return workings.add(
        f"array.string.{string.id}.working_v",
        float(item.value or 0.0) * string.series,
        "V",
        f"{string.name}: working volts",
        "V = V_mp · s",
        "volts at maximum power of one panel times how many in series",
        [item, stated("s", "in series", string.series, "", f"{at}/series")],
        "arithmetic",
    )


def _string_month(
    string: PanelString,
    month: int,
    hours: Quantity,
    watts: Quantity,
    working_v: Quantity,
    charge_v: Quantity,
    workings: Workings,
) -> Quantity:
    module_w = string.module.watts.value
    value = string_daily_ah(
        string.controller,
        module_w,
        working_v.number / string.series,
        string.series,
        string.parallel,
        hours.number,
        charge_v.number,
    )
    wire = table("k_w", "cable to the controller", derate("wire"), "share", "derates")
    label = f"{string.name}: into the bank a day, {MONTH_NAMES[month - 1]}"
    key = month_key(f"array.string.{string.id}.ah", month)
    note = "" if value or not hours.number else "the string works below the bank's charging volts: nothing flows"
    if string.controller == "mppt":
        inputs = [
            used("P", watts),
            used("H", hours),
            wire,
            table("k_t", "heat in the cells", derate("panel_heat"), "share", "derates"),
            table("η", "MPPT conversion", derate("mppt_conversion"), "share", "derates"),
            used("V_c", charge_v),
        ]
        words = "label watts times sun-hours times simple derates, over the volts while charging"
        return workings.add(key, value, "A·h", label, "Q = P · H · k_w · k_t · η / V_c", words, inputs, "derates", note)
    inputs = [used("P", watts), used("V", working_v), used("H", hours), wire]
    words = "the panel's own working current times sun-hours: its volts above the bank's are lost"
    return workings.add(key, value, "A·h", label, "Q = P / V · H · k_w", words, inputs, "derates", note)


def _string_figures(
    string: PanelString, index: int, plane: PlaneFigures | None, charge_v: Quantity, workings: Workings
) -> StringFigures:
    watts, working_v = string_watts(string, index, workings), _working_v(string, index, workings)
    known = workings
    months = () if plane is None else plane.hours
    return StringFigures(
        string.id,
        watts.key,
        working_v.key,
        tuple(
            _string_month(string, month, known[key], watts, working_v, charge_v, workings).key
            for month, key in enumerate(months, start=1)
        ),
    )


def _alternator(design: Design, workings: Workings) -> Quantity | None:
    alternator = design.array.alternator
    if alternator is None:
        return None
    return workings.add(
        "array.alternator_ah",
        alternator.charge_a.value * alternator.driving_h_per_day.value,
        "A·h",
        "From the engine a day",
        "Q = I · h",
        "charger amps times hours driven a day",
        [
            given("I", "DC-DC charger", alternator.charge_a, "A", "/array/alternator/charge_a"),
            given("h", "driven a day", alternator.driving_h_per_day, "h", "/array/alternator/driving_h_per_day"),
        ],
        "arithmetic",
    )


def _chemistry_row(design: Design) -> dict[str, str]:
    """The bank's chemistry; AGM's where there is no bank yet."""
    bank = design.store.bank
    return rows_by("chemistries", "chemistry")[bank.chemistry if bank else "agm"]


def coulombic_share(design: Design) -> float:
    """Share of the charge put in that the bank gives back."""
    return float(_chemistry_row(design)["coulombic_efficiency"])


def _coulombic(design: Design) -> Input:
    label = f"charge kept, {_chemistry_row(design)['label']}"
    return table("η_c", label, coulombic_share(design), "share", "practice")


def _month_totals(
    design: Design,
    month: int,
    parts: list[Quantity],
    bus_v: Quantity,
    workings: Workings,
) -> tuple[Key, Key, Key]:
    name = MONTH_NAMES[month - 1]
    harvest = workings.add(
        month_key("array.harvest_ah", month),
        sum(part.number for part in parts),
        "A·h",
        f"Into the bank a day, {name}",
        "Q = Σ Qᵢ",
        "all strings, and the engine where it charges",
        [used(f"Q{number}", part) for number, part in enumerate(parts, start=1)],
        "arithmetic",
    )
    energy = workings.add(
        month_key("array.harvest_wh", month),
        harvest.number * bus_v.number,
        "W·h",
        f"Into the bank a day, {name}",
        "E = Q · V",
        "amp-hours times the nominal bus volts",
        [used("Q", harvest), used("V", bus_v)],
        "arithmetic",
    )
    kept = _coulombic(design)
    stored = workings.add(
        month_key("array.stored_ah", month),
        harvest.number * float(kept.value or 0.0),
        "A·h",
        f"Kept by the bank a day, {name}",
        "Q_s = Q · η_c",
        "what the chemistry gives back of what goes in",
        [used("Q", harvest), kept],
        "practice",
    )
    return harvest.key, energy.key, stored.key


def array_report(design: Design, bus_v: Quantity, planes: tuple[PlaneFigures, ...], workings: Workings) -> ArrayReport:
    """Work out what every string, and the engine, put into the bank.

    Parameters
    ----------
    bus_v : Quantity
        Nominal bus volts. [V]
    planes : tuple of PlaneFigures
        Sun-hours by string; empty where the sun is not known, and then the months are empty too.
    """
    charge_v = _charge_v(bus_v, workings)
    by_string = {plane.string_id: plane for plane in planes}
    strings = tuple(
        _string_figures(string, index, by_string.get(string.id), charge_v, workings)
        for index, string in enumerate(design.array.strings)
    )
    alternator = _alternator(design, workings)
    known = workings
    watts = workings.add(
        "array.watts",
        sum(known[string.watts].number for string in strings),
        "W",
        "Label watts of the array",
        "P = Σ Pᵢ",
        "all strings",
        [used(f"P{number}", known[string.watts]) for number, string in enumerate(strings, start=1)],
        "arithmetic",
    )
    totals = []
    if all(string.months_ah for string in strings):
        for month in range(1, 13):
            parts = [known[string.months_ah[month - 1]] for string in strings]
            totals.append(_month_totals(design, month, parts + ([alternator] if alternator else []), bus_v, workings))
    return ArrayReport(
        watts.key,
        charge_v.key,
        alternator.key if alternator else None,
        tuple(item[0] for item in totals),
        tuple(item[1] for item in totals),
        tuple(item[2] for item in totals),
        strings,
    )
