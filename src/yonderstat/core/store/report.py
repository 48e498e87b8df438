"""The Store figures of a design: the waterfall from the label to what can be used, and how long it lasts."""

from dataclasses import dataclass

from ..data import rows_by
from ..design import Bank, Brief, Design
from ..working import Key, Quantity, Workings, assumed, given, stated, table, used
from .capacity import below_temperature_table, rate_factor, temperature_factor
from .resting import RestingRow, resting_table

INDOORS_C, HEATED_C = 15.0, 5.0
"""Bank temperature taken indoors and in a heated box in the hard month. [C] common practice."""


@dataclass(frozen=True, slots=True)
class StoreReport:
    """The bank. `waterfall` runs from the label to the usable amp-hours, one quantity a step."""

    label_ah: Key
    usable_ah: Key
    usable_wh: Key
    temperature_c: Key
    default_depth: Key
    depth: Key
    held_share: Key
    waterfall: tuple[Key, ...]
    days_without_sun: Key
    hours_without_sun: Key
    resting: tuple[RestingRow, ...]


def asked_days(brief: Brief, workings: Workings) -> Quantity:
    """The days without sun the design must last: asked for, or usual for what is being prepared for."""
    row = rows_by("asked_days", "preparing_for")[brief.preparing_for]
    usual = float(row["days"])
    source = "ieee1013" if brief.preparing_for == "always" else "practice"
    item = (
        given("D", "days asked for", brief.asked_days, "d", "/brief/asked_days")
        if brief.asked_days
        else assumed("D", f"usual for {row['label']}", usual, "d", source, "/brief/asked_days")
    )
    return workings.add(
        "brief.asked_days",
        item.value,
        "d",
        "Days without sun asked for",
        "D",
        "as asked in the brief",
        [item],
        source,
    )


def default_depth(bank: Bank, brief: Brief) -> float:
    """The usual depth limit: shallow where the bank cycles all year, deep where outages are rare."""
    row = rows_by("chemistries", "chemistry")[bank.chemistry]
    return float(row["depth_standby" if brief.purpose == "standby" else "depth_continuous"])


def _temperature(bank: Bank, brief: Brief, workings: Workings) -> Quantity:
    if bank.cold_c is not None:
        item, words = (
            given("T", "bank in the hard month", bank.cold_c, "°C", "/store/bank/cold_c"),
            "as given",
        )
    elif bank.housing == "outdoors":
        item = given("T", "coldest at the site", brief.coldest_c, "°C", "/brief/coldest_c")
        words = "outdoors the bank is taken to get as cold as the site"
    else:
        warm = HEATED_C if bank.housing == "heated" else INDOORS_C
        item = assumed("T", f"bank {bank.housing}", warm, "°C", "practice", "/store/bank/cold_c")
        words = "usual for where the bank lives"
    return workings.add(
        "store.temperature_c",
        item.value,
        "°C",
        "Bank temperature, hard month",
        "T",
        words,
        [item],
        "practice",
    )


def _usual_depth(bank: Bank, brief: Brief, workings: Workings) -> Quantity:
    row = rows_by("chemistries", "chemistry")[bank.chemistry]
    usual = default_depth(bank, brief)
    use = "rare stand-by" if brief.purpose == "standby" else "regular"
    item = assumed("d", "usual depth", usual, "share", "depth", pointer="/store/bank/depth")
    return workings.add(
        "store.default_depth",
        usual,
        "share",
        "Usual depth limit",
        "d",
        f"{row['label']} in {use} use",
        [item],
        "depth",
    )


def _label(bank: Bank, workings: Workings) -> Quantity:
    return workings.add(
        "store.label_ah",
        bank.parallel * bank.unit_ah.value,
        "A·h",
        f"Label capacity at {bank.hour_rate_h:g} h",
        "C = p · C₁",
        "units in parallel times the label of one; series adds volts, not amp-hours",
        [
            stated("p", "strings in parallel", bank.parallel, "", "/store/bank/parallel"),
            given("C₁", "label of one unit", bank.unit_ah, "A·h", "/store/bank/unit_ah"),
        ],
        "arithmetic",
    )


def _aged(bank: Bank, label: Quantity, workings: Workings) -> Quantity:
    return workings.add(
        "store.after_health_ah",
        label.number * bank.health.value,
        "A·h",
        "after age",
        "C · h",
        "times what age has left",
        [used("C", label), given("h", "health", bank.health, "share", "/store/bank/health")],
        "practice",
    )


def _at_rate(bank: Bank, label: Quantity, aged: Quantity, average_a: Quantity, workings: Workings) -> Quantity:
    row = rows_by("chemistries", "chemistry")[bank.chemistry]
    exponent = float(row["peukert_k"])
    factor = rate_factor(label.number, bank.hour_rate_h, average_a.number, exponent)
    return workings.add(
        "store.after_rate_ah",
        aged.number * factor,
        "A·h",
        "at this draw",
        "C · r,  r = (C_label / (I · H))^(k−1), at most 1",
        "times what the rate of discharge leaves (Peukert); never more than the label",
        [
            used("C", aged),
            table("r", "rate factor", factor, "share", "peukert"),
            used("I", average_a),
            stated("H", "hour rate of the label", bank.hour_rate_h, "h", "/store/bank/hour_rate_h"),
            table("k", f"Peukert exponent, {row['label']}", exponent, "", "practice"),
            used("C_label", label),
        ],
        "peukert",
    )


def _in_the_cold(bank: Bank, rated: Quantity, temperature: Quantity, workings: Workings) -> Quantity:
    factor = temperature_factor(bank.chemistry, temperature.number)
    source = "lfp-cold" if bank.chemistry == "lifepo4" else "ieee485"
    beyond = below_temperature_table(bank.chemistry, temperature.number)
    return workings.add(
        "store.after_cold_ah",
        rated.number * factor,
        "A·h",
        f"at {temperature.number:g} °C",
        "C · f(T)",
        "times what the temperature leaves, 25 °C being 1",
        [used("C", rated), used("T", temperature), table("f", "temperature factor", factor, "share", source)],
        source,
        "colder than the published table: extrapolated, take it as a guess" if beyond else "",
    )


def _depth(bank: Bank, usual: Quantity, workings: Workings) -> Quantity:
    allowed = given("d", "depth allowed", bank.depth, "share", "/store/bank/depth") if bank.depth else used("d", usual)
    return workings.add(
        "store.depth",
        allowed.value,
        "share",
        "Depth allowed",
        "d",
        "as set, or the usual limit",
        [allowed],
        "depth",
    )


def _held_share(label: Quantity, cooled: Quantity, workings: Workings) -> Quantity:
    return workings.add(
        "store.held_share",
        cooled.number / label.number,
        "share",
        "Left of the label",
        "k = C / C_label",
        "what age, rate and cold leave of the label",
        [used("C", cooled), used("C_label", label)],
        "arithmetic",
    )


def _usable(held: Quantity, depth: Quantity, workings: Workings) -> Quantity:
    return workings.add(
        "store.usable_ah",
        held.number * depth.number,
        "A·h",
        "Usable",
        "Q = C · d",
        "times the depth allowed",
        [used("C", held), used("d", depth)],
        "depth",
    )


def _lasting(usable: Quantity, daily_ah: Quantity, workings: Workings) -> tuple[Quantity, Quantity]:
    days = usable.number / daily_ah.number if daily_ah.number > 0 else None
    note = "" if days is not None else "nothing draws current, so there is no end to it"
    lasts = workings.add(
        "store.days_without_sun",
        days,
        "d",
        "Days without sun",
        "D = Q / Q_day",
        "usable amp-hours over the amp-hours drawn in a day",
        [used("Q", usable), used("Q_day", daily_ah)],
        "arithmetic",
        note,
    )
    hours = workings.add(
        "store.hours_without_sun",
        None if days is None else days * 24.0,
        "h",
        "Hours without sun",
        "t = 24 · D",
        "the same in hours",
        [used("D", lasts)],
        "arithmetic",
        note,
    )
    return lasts, hours


def store_report(
    design: Design, bank: Bank, bus_v: Quantity, daily_ah: Quantity, average_a: Quantity, workings: Workings
) -> StoreReport:
    """Work out what the bank holds for this draw, and how long that lasts without any sun.

    Parameters
    ----------
    bus_v, daily_ah, average_a : Quantity
        The station's bus volts and its draw. [V], [A·h] a day, [A]
    """
    label = _label(bank, workings)
    aged = _aged(bank, label, workings)
    rated = _at_rate(bank, label, aged, average_a, workings)
    temperature = _temperature(bank, design.brief, workings)
    cooled = _in_the_cold(bank, rated, temperature, workings)
    usual = _usual_depth(bank, design.brief, workings)
    depth = _depth(bank, usual, workings)
    held_share = _held_share(label, cooled, workings)
    usable = _usable(cooled, depth, workings)
    usable_wh = workings.add(
        "store.usable_wh",
        usable.number * bus_v.number,
        "W·h",
        "Usable energy",
        "E = Q · V",
        "usable amp-hours times the nominal bus volts",
        [used("Q", usable), used("V", bus_v)],
        "arithmetic",
    )
    lasts, hours = _lasting(usable, daily_ah, workings)
    return StoreReport(
        label.key,
        usable.key,
        usable_wh.key,
        temperature.key,
        usual.key,
        depth.key,
        held_share.key,
        (label.key, aged.key, rated.key, cooled.key, usable.key),
        lasts.key,
        hours.key,
        resting_table(bank.chemistry, bus_v.number),
    )
