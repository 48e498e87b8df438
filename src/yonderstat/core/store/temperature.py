"""How cold and how warm the bank gets, month by month."""

from dataclasses import dataclass

from ..calendar import MONTH_NAMES, month_key
from ..climate import climate_at
from ..data import rows_by
from ..design import Bank, Brief
from ..working import Input, Quantity, Workings, assumed, given, stated, table, used

INDOORS_C, HEATED_C = 15.0, 5.0
"""Bank temperature taken indoors and in a heated box in the hard month. [C] common practice."""
COLD_DAY_SIGMAS = 1.28
"""One day in ten is colder than this many standard deviations below the mean."""


@dataclass(frozen=True, slots=True)
class Surroundings:
    """What is round the bank, by month. Tuples of twelve."""

    air: tuple[Quantity, ...]
    """Mean air. [°C]"""
    spread_k: tuple[float, ...]
    sun_w_m2: tuple[float, ...]
    """Mean over day and night, on the main plane."""


def box_rise_k(bank: Bank, sun_w_m2: float) -> float:
    """How much warmer than the air it is where the bank lives [K]: sun on the box, and watts let go inside."""
    row = rows_by("housings", "housing")[bank.housing]
    inside_w = bank.box_w.value if bank.box_w else 0.0
    sun_k = float(row["sun_k_per_w_m2"]) * sun_w_m2 if bank.box_in_sun else 0.0
    return inside_w * float(row["kelvin_per_w"]) + sun_k


def _in_its_box(bank: Bank, month: int, around: Surroundings) -> tuple[float, list[Input]]:
    air, spread = around.air[month - 1], around.spread_k[month - 1]
    rise = box_rise_k(bank, around.sun_w_m2[month - 1])
    inputs = [used("T_air", air), table("σ", "spread of days", spread, "K", "zone-swing")]
    if bank.box_w:
        inputs.append(given("P", "watts inside", bank.box_w, "W", "/store/bank/box_w"))
    if bank.box_in_sun:
        inputs.append(stated("G", "sun on the box", around.sun_w_m2[month - 1], "W/m²", "/store/bank/box_in_sun"))
    inputs.append(table("ΔT", "warmer than the air", rise, "K", "box-heat"))
    return air.number - COLD_DAY_SIGMAS * spread + rise, inputs


def bank_temperature(
    bank: Bank, brief: Brief, month: int, hard_month: int, around: Surroundings | None, workings: Workings
) -> Quantity:
    """The bank on a cold day of a month. [°C]"""
    key = month_key("store.month_c", month)
    label, name = f"Bank on a cold day, {MONTH_NAMES[month - 1]}", bank.housing
    words = "the bank's mass follows the day's mean: one day in ten is colder; sun on the box and watts inside warm it"
    formula, source = "T = T_air − 1.28 σ + ΔT", "box-heat"
    if bank.cold_c is not None:
        item = given("T", "bank in the hard month", bank.cold_c, "°C", "/store/bank/cold_c")
        if around is None or name in {"indoors", "heated"} or month == hard_month:
            return workings.add(key, item.value, "°C", label, "T", "as given", [item], "practice")
        here, hard = around.air[month - 1], around.air[hard_month - 1]
        value = bank.cold_c.value + here.number - hard.number
        inputs = [item, used("T_air", here), used("T_hard", hard)]
        words = "as given in the hard month, and as much warmer as the air is"
        return workings.add(key, value, "°C", label, "T + T_air − T_hard", words, inputs, source)
    if name == "indoors":
        item = assumed("T", "bank indoors", INDOORS_C, "°C", "practice", "/store/bank/cold_c")
        return workings.add(key, INDOORS_C, "°C", label, "T", "usual for where the bank lives", [item], "practice")
    if around is None:
        coldest_c = climate_at(None, brief, None).coldest_c
        cold = (
            given("T", "coldest at the site", brief.coldest_c, "°C", "/brief/coldest_c")
            if brief.coldest_c
            else assumed("T", "coldest, without a place", coldest_c, "°C", "practice", "/brief/coldest_c")
        )
        held = name == "heated" and coldest_c < HEATED_C
        value = HEATED_C if held else coldest_c
        words = "without a place, as cold as the coldest given; a heated box holds 5 °C"
        return workings.add(key, value, "°C", label, "T", words, [cold], "practice")
    value, inputs = _in_its_box(bank, month, around)
    if name == "heated" and value < HEATED_C:
        inputs.append(assumed("T_set", "held by the heater", HEATED_C, "°C", "practice", "/store/bank/cold_c"))
        value, formula = HEATED_C, f"max(T_set, {formula.removeprefix('T = ')})"
    return workings.add(key, value, "°C", label, formula, words, inputs, source)
