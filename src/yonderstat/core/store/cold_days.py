"""The bank on cold days, explained."""

from ..calendar import MONTH_NAMES, month_key
from ..climate import Climate
from ..design import Brief
from ..working import Input, Quantity, Workings, assumed, given, stated, table, used
from .model import BankModel
from .temperature import COLD_DAY_SIGMAS, HEATED_C, INDOORS_C, heater_help_k

BOX_WORDS = (
    "a heavy battery follows the day's average; one day in ten is colder; sun on the "
    "box and watts inside warm it"
)


def _air(month: int, workings: Workings) -> Quantity:
    return workings[month_key("weather.air_c", month)]


def _box_inputs(
    model: BankModel, month: int, climate: Climate, sun_w_m2: float, workings: Workings
) -> list[Input]:
    bank, spread = model.bank, float(climate.spread_k[month - 1])
    inputs = [
        used("T_air", _air(month, workings)),
        table("σ", "spread between days", spread, "K", "zone-swing"),
    ]
    if bank.box_w:
        inputs.append(given("P", "watts inside", bank.box_w, "W", "/store/bank/box_w"))
    if bank.box_in_sun:
        inputs.append(stated("G", "sun on the box", sun_w_m2, "W/m²", "/store/bank/box_in_sun"))
    inputs.append(
        table("ΔT", "warmer than the air", model.cold_days[month - 1].rise_k, "K", "box-heat")
    )
    return inputs


def _coldest(climate: Climate, brief: Brief) -> Input:
    if brief.coldest_c:
        return given("T", "coldest at the site", brief.coldest_c, "°C", "/brief/coldest_c")
    return assumed(
        "T", "coldest, without a place", climate.coldest_c, "°C", "practice", "/brief/coldest_c"
    )


def bank_temperature(
    model: BankModel,
    month: int,
    brief: Brief,
    climate: Climate,
    sun_w_m2: float,
    workings: Workings,
) -> Quantity:
    """The bank on a cold day of a month. [°C]

    Parameters
    ----------
    month : int
        1 to 12.
    sun_w_m2 : float
        On its box, on the mean of the day. [W/m²]
    """
    bank, day = model.bank, model.cold_days[month - 1]
    formula, words, source = "T", "as given", "practice"
    if day.by in {"given", "as_the_air"}:
        assert bank.cold_c is not None
        inputs = [given("T", "battery in the worst month", bank.cold_c, "°C", "/store/bank/cold_c")]
        if day.by == "as_the_air":
            inputs += [
                used("T_air", _air(month, workings)),
                used("T_hard", _air(model.hard_month, workings)),
            ]
            formula, source = "T + T_air − T_hard", "box-heat"
            words = "your figure for the worst month, plus the difference in air temperature"
    elif day.by == "indoors":
        inputs = [
            assumed("T_room", "a room in winter", INDOORS_C, "°C", "practice", "/store/bank/cold_c")
        ]
        words = "usual for where the battery is kept"
        if climate.basis != "brief":
            inputs.append(used("T_air", _air(month, workings)))
            formula, words = (
                "max(T_room, T_air)",
                "a room is heated in winter, and no cooler than the air in summer",
            )
    elif day.by in {"placeless", "placeless_heated"}:
        inputs = [_coldest(climate, brief)]
        words = (
            "no place is set, so the coldest temperature given counts; a heated box stays at 5 °C"
        )
    else:
        inputs = _box_inputs(model, month, climate, sun_w_m2, workings)
        formula, words, source = f"T = T_air − {COLD_DAY_SIGMAS:g} σ + ΔT", BOX_WORDS, "box-heat"
        if day.by == "box_heated":
            inputs.append(
                assumed(
                    "T_set", "kept by the heater", HEATED_C, "°C", "practice", "/store/bank/cold_c"
                )
            )
            formula = f"max(T_set, {formula.removeprefix('T = ')})"
        elif day.by == "box_helped":
            inputs.append(
                table("ΔT_h", "its heater can warm it by", heater_help_k(bank), "K", "box-heat")
            )
            formula, words = (
                f"{formula} + ΔT_h",
                f"{BOX_WORDS}; the heater is too small to keep 5 °C",
            )
    name = MONTH_NAMES[month - 1]
    key, label = month_key("store.month_c", month), f"Battery temperature on a cold day, {name}"
    return workings.add(
        key,
        day.celsius,
        "°C",
        label=label,
        formula=formula,
        words=words,
        inputs=inputs,
        source=source,
    )
