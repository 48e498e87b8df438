"""From the label to what can be used, a step at a time."""

from dataclasses import dataclass

from ..calendar import MONTH_NAMES, month_key
from ..chemistries import kind_of
from ..design import Brief
from ..purposes import purpose_of
from ..words import celsius
from ..working import Key, Quantity, Workings, assumed, given, stated, table, used
from .capacity import below_temperature_table, temperature_source
from .health import health_input
from .model import BankModel


def _usual_depth(model: BankModel, brief: Brief, workings: Workings) -> Quantity:
    kind, usual = kind_of(model.bank.chemistry), model.usual_depth
    use = "rare stand-by" if purpose_of(brief.purpose).deep_discharge else "regular"
    item = assumed("d", "usual depth", usual, "share", "depth", pointer="/store/bank/depth")
    return workings.add(
        "store.default_depth",
        usual,
        "share",
        label="Usual depth limit",
        formula="d",
        words=f"{kind.label} in {use} use",
        inputs=[item],
        source="depth",
    )


def _label(model: BankModel, workings: Workings) -> Quantity:
    bank = model.bank
    return workings.add(
        "store.label_ah",
        model.label_ah,
        "A·h",
        label=f"Label capacity at {bank.hour_rate_h:g} h",
        formula="C = p · C₁",
        words="units in parallel times the label of one; series adds volts, not amp-hours",
        inputs=[
            stated("p", "strings in parallel", bank.parallel, "", "/store/bank/parallel"),
            given("C₁", "label of one unit", bank.unit_ah, "A·h", "/store/bank/unit_ah"),
        ],
        source="arithmetic",
    )


def _aged(model: BankModel, label: Quantity, workings: Workings) -> Quantity:
    bank = model.bank
    if bank.tested_ah:
        return workings.add(
            "store.after_health_ah",
            model.aged_ah,
            "A·h",
            label="by test",
            formula="p · C_test",
            words="the result of a discharge test replaces label and age",
            inputs=[
                stated("p", "strings in parallel", bank.parallel, "", "/store/bank/parallel"),
                given("C_test", "one unit, tested", bank.tested_ah, "A·h", "/store/bank/tested_ah"),
            ],
            source="arithmetic",
        )
    return workings.add(
        "store.after_health_ah",
        model.aged_ah,
        "A·h",
        label="after age",
        formula="C · h",
        words="times the capacity left with age",
        inputs=[used("C", label), health_input(bank, workings, "store.health", "/store/bank")],
        source="practice",
    )


def _at_rate(
    model: BankModel, label: Quantity, aged: Quantity, flowing_a: Quantity, workings: Workings
) -> Quantity:
    kind, hours = kind_of(model.bank.chemistry), model.bank.hour_rate_h
    return workings.add(
        "store.after_rate_ah",
        model.rated_ah,
        "A·h",
        label="at this current",
        formula="C · r,  r = (C_label / (I · H))^(k−1), at most 1",
        words="less what a fast discharge costs (Peukert); never more than the label",
        inputs=[
            used("C", aged),
            table("r", "rate factor", model.rate_factor, "share", "peukert"),
            used("I", flowing_a),
            stated("H", "hour rate of the label", hours, "h", "/store/bank/hour_rate_h"),
            stated("k", "Peukert exponent", model.bank.peukert_k, "", "/store/bank/peukert_k")
            if model.bank.peukert_k
            else table("k", f"Peukert exponent, {kind.label}", kind.peukert_k, "", "practice"),
            used("C_label", label),
        ],
        source="peukert",
    )


def _in_the_cold(
    model: BankModel, rated: Quantity, temperature: Quantity, workings: Workings
) -> Quantity:
    chemistry = model.bank.chemistry
    source, beyond = temperature_source(chemistry), below_temperature_table(chemistry, model.hard_c)
    return workings.add(
        "store.after_cold_ah",
        model.held_ah,
        "A·h",
        label=f"at {celsius(model.hard_c)}",
        formula="C · f(T)",
        words="times the share left at this temperature; 25 °C counts as 1",
        inputs=[
            used("C", rated),
            used("T", temperature),
            table("f", "temperature factor", model.temperature_factor, "share", source),
        ],
        source=source,
        note="colder than the published table, so this figure is a guess" if beyond else "",
    )


def _depth(model: BankModel, usual: Quantity, workings: Workings) -> Quantity:
    bank = model.bank
    allowed = (
        given("d", "depth allowed", bank.depth, "share", "/store/bank/depth")
        if bank.depth
        else used("d", usual)
    )
    return workings.add(
        "store.depth",
        model.depth,
        "share",
        label="Depth of discharge allowed",
        formula="d",
        words="as you set it, or the usual limit",
        inputs=[allowed],
        source="depth",
    )


def _held_share(
    model: BankModel, label: Quantity, cooled: Quantity, workings: Workings
) -> Quantity:
    return workings.add(
        "store.held_share",
        model.held_share,
        "share",
        label="Share of the label left",
        formula="k = C / C_label",
        words="share of the label left after age, discharge rate and cold",
        inputs=[used("C", cooled), used("C_label", label)],
        source="arithmetic",
    )


def _usable(model: BankModel, held: Quantity, depth: Quantity, workings: Workings) -> Quantity:
    return workings.add(
        "store.usable_ah",
        model.usable_ah,
        "A·h",
        label="Usable",
        formula="Q = C · d",
        words="times the share you allow to be used",
        inputs=[used("C", held), used("d", depth)],
        source="depth",
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Waterfall:
    """The steps, and what else they rest on."""

    label: Quantity
    rated: Quantity
    cooled: Quantity
    usual_depth: Quantity
    depth: Quantity
    held_share: Quantity
    usable: Quantity
    steps: tuple[Key, ...]


def waterfall(
    model: BankModel, brief: Brief, flowing_a: Quantity, temperature: Quantity, workings: Workings
) -> Waterfall:
    """Label, age or test, rate, cold, depth.

    Parameters
    ----------
    flowing_a : Quantity
        The mean draw, by which the rate is reckoned.
    temperature : Quantity
        Of the bank on a cold day.
    """
    label = _label(model, workings)
    aged = _aged(model, label, workings)
    rated = _at_rate(model, label, aged, flowing_a, workings)
    cooled = _in_the_cold(model, rated, temperature, workings)
    usual = _usual_depth(model, brief, workings)
    depth = _depth(model, usual, workings)
    held_share = _held_share(model, label, cooled, workings)
    usable = _usable(model, cooled, depth, workings)
    steps = (label.key, aged.key, rated.key, cooled.key, usable.key)
    return Waterfall(
        label=label,
        rated=rated,
        cooled=cooled,
        usual_depth=usual,
        depth=depth,
        held_share=held_share,
        usable=usable,
        steps=steps,
    )


def usable_by_month(
    model: BankModel, fall: Waterfall, temperatures: tuple[Quantity, ...], workings: Workings
) -> tuple[Key, ...]:
    """What can be used in each month, as the bank warms and cools.

    Parameters
    ----------
    fall : Waterfall
        What is left after age and rate.
    temperatures : tuple of Quantity
        Of the bank on a cold day of each month, January first.
    """
    keys, source = [], temperature_source(model.bank.chemistry)
    for month, temperature in enumerate(temperatures, start=1):
        factor = float(model.month_factors[month - 1])
        keys.append(
            workings.add(
                month_key("store.month_ah", month),
                float(model.month_usable_ah[month - 1]),
                "A·h",
                label=f"Usable, {MONTH_NAMES[month - 1]}",
                formula="Q = C · f(T) · d",
                words=(
                    "capacity after age and discharge rate, times the share left on a cold "
                    "day of the month, times the depth allowed"
                ),
                inputs=[
                    used("C", fall.rated),
                    used("T", temperature),
                    table("f", "temperature factor", factor, "share", source),
                    used("d", fall.depth),
                ],
                source=source,
            ).key
        )
    return tuple(keys)
