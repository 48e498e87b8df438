"""The same usable energy in every chemistry: label, weight, price, years, cold, air."""

from dataclasses import dataclass

from ..chemistries import all_chemistries, kind_of
from ..design import Bank, Brief, Chemistry
from ..words import celsius
from ..working import Input, Key, Quantity, Workings, assumed, table, used
from .capacity import rate_factor, temperature_factor
from .care import ten_hour_ah, vent_opening_cm2, ventilation_m3_h
from .kind import cells_in_series, cycle_table, usual_depth
from .life import calendar_years, cycles_at_depth

RATE_ROUNDS = 30
"""The rate factor depends on the label sought: this many rounds settle it."""
DAYS_A_YEAR = 365.0


@dataclass(frozen=True, slots=True, kw_only=True)
class ComparedChemistry:
    """One chemistry holding the same usable energy. `price` counts in flooded lead's, or in money
    where known."""

    chemistry: Chemistry
    name: str
    in_use: bool
    label_ah: Key
    weight_kg: Key
    price: Key
    years: Key
    vent_cm2: Key | None
    cold: str


def _cold_words(chemistry: Chemistry, coldest_c: float) -> str:
    kind = kind_of(chemistry)
    keeps = f"holds {temperature_factor(chemistry, coldest_c) * 100:.0f} % at {celsius(coldest_c)}"
    if coldest_c < kind.charge_low_c:
        return f"{keeps}; charging it there without a heater damages it"
    return f"{keeps}; can be charged there"


@dataclass(frozen=True, slots=True, kw_only=True)
class CompareBasis:
    """What the comparison rests on."""

    usable_wh: Quantity
    bus_v: Quantity
    flowing_a: Quantity
    daily_ah: Quantity
    temperature: Quantity
    coldest_c: float
    cycles_a_year: float
    """Full days of cycling; few where the bank stands by."""


def _needed_label(
    chemistry: Chemistry, depth: float, basis: CompareBasis, workings: Workings
) -> Quantity:
    kind = kind_of(chemistry)
    factor = temperature_factor(chemistry, basis.temperature.number)
    usable_ah = basis.usable_wh.number / basis.bus_v.number
    rate, label_ah = 1.0, 0.0
    for _ in range(RATE_ROUNDS):
        label_ah = usable_ah / max(depth * factor * rate, 1e-9)
        if label_ah <= 0:
            break
        rate = rate_factor(label_ah, 20.0, basis.flowing_a.number, kind.peukert_k)
    return workings.add(
        f"store.compare.{chemistry}.label_ah",
        label_ah if factor > 0 else None,
        "A·h",
        label=f"{kind.label}: label size needed",
        formula="C = E / (V · d · f · r)",
        words=(
            "label size, when new, that gives the usable energy you have now: allows for its "
            "depth, cold and discharge rate"
        ),
        inputs=[
            used("E", basis.usable_wh),
            used("V", basis.bus_v),
            table("d", "usual depth", depth, "share", "depth"),
            used("T", basis.temperature),
            table("f", "temperature factor", factor, "share", "class-battery"),
            table("r", "rate factor", rate, "share", "peukert"),
        ],
        source="arithmetic",
        note="" if factor > 0 else "it gives nothing in this cold",
    )


def _years(bank: Bank, label: Quantity, basis: CompareBasis, workings: Workings) -> Quantity:
    kind = kind_of(bank.chemistry)
    depths, cycles, _ = cycle_table(bank)
    swing = min(1.0, basis.daily_ah.number / label.number) if label.value else 1.0
    promised = float(cycles_at_depth(swing, depths, cycles)) if swing > 0 else None
    by_age = calendar_years(bank, basis.temperature.number)
    by_cycles = promised / basis.cycles_a_year if promised is not None else by_age
    return workings.add(
        f"store.compare.{bank.chemistry}.years",
        min(by_cycles, by_age),
        "years",
        label=f"{kind.label}: years expected",
        formula="min(N(d) / n, calendar)",
        words=(
            "cycles promised at a day's depth divided by cycles a year, or its age limit, "
            "whichever comes first"
        ),
        inputs=[
            table("d", "depth of a day's cycle", swing, "share", "arithmetic"),
            used("Q_day", basis.daily_ah),
            Input(
                symbol="N",
                label="cycles at that depth",
                value=promised,
                unit="",
                origin="table",
                source="cycle-life",
            ),
            assumed("n", "cycles a year", basis.cycles_a_year, "", "practice"),
            table("t", "calendar life", by_age, "years", "class-battery"),
        ],
        source="cycle-life",
    )


def _price(
    bank: Bank, chemistry: Chemistry, label: Quantity, reference_ah: float, workings: Workings
) -> Quantity:
    """In money where the bank's own price is known, else in prices of the flooded bank that does
    the same."""
    kind, mine = kind_of(chemistry), kind_of(bank.chemistry)
    energy_wh = (label.value or 0.0) * kind.unit_v
    inputs: list[Input] = [
        table(
            "p", "price of a W·h compared with flooded lead", kind.price_ratio, "", "class-battery"
        )
    ]
    if bank.unit_price:
        own_wh = bank.unit_ah.value * bank.unit_v
        value = bank.unit_price.value / own_wh * kind.price_ratio / mine.price_ratio * energy_wh
        inputs.append(
            table("p₁", "your price of a W·h", bank.unit_price.value / own_wh, "", "practice")
        )
        words, formula, unit = (
            "your price of a W·h, scaled by what each type usually costs",
            "C · V · p₁ · p / p_own",
            "money",
        )
    else:
        value = kind.price_ratio * energy_wh / reference_ah if reference_ah else 0.0
        words, formula, unit = (
            "compared with a flooded battery that does the same; enter a price to see money",
            "p · C / C_f",
            "×",
        )
    return workings.add(
        f"store.compare.{chemistry}.price",
        value,
        unit,
        label=f"{kind.label}: price",
        formula=formula,
        words=words,
        inputs=[*inputs, used("C", label)],
        source="class-battery",
    )


def _vent(
    chemistry: Chemistry, label: Quantity, basis: CompareBasis, workings: Workings
) -> Key | None:
    kind = kind_of(chemistry)
    if not kind.is_lead or label.value is None:
        return None
    cells = cells_in_series(chemistry, basis.bus_v.number)
    air = ventilation_m3_h(
        cells, kind.gas_boost_ma_ah, ten_hour_ah(label.value, 20.0, kind.peukert_k)
    )
    return workings.add(
        f"store.compare.{chemistry}.vent_cm2",
        vent_opening_cm2(air),
        "cm²",
        label=f"{kind.label}: vent area, each for inlet and outlet",
        formula="A = 28 · Q",
        words="so that hydrogen stays far below what can burn",
        inputs=[used("C", label), table("Q", "air", air, "m³/h", "ventilation")],
        source="ventilation",
    ).key


def compare_chemistries(
    bank: Bank, brief: Brief, basis: CompareBasis, workings: Workings
) -> tuple[ComparedChemistry, ...]:
    """Every chemistry with the same usable energy as the bank has now.

    Parameters
    ----------
    basis : CompareBasis
        What the station asks of its bank.
    """
    depths = {chemistry: usual_depth(chemistry, brief) for chemistry in all_chemistries()}
    labels = {name: _needed_label(name, depths[name], basis, workings) for name in depths}
    flooded_wh = (labels["flooded"].value or 0.0) * kind_of("flooded").unit_v
    found = []
    for chemistry, label in labels.items():
        kind = kind_of(chemistry)
        own = bank if chemistry == bank.chemistry else Bank(chemistry=chemistry)
        weight = workings.add(
            f"store.compare.{chemistry}.weight_kg",
            None if label.value is None else label.value * basis.bus_v.number / kind.wh_per_kg,
            "kg",
            label=f"{kind.label}: weight",
            formula="m = C · V / w",
            words="label energy divided by the usual energy of a kilogram",
            inputs=[
                used("C", label),
                used("V", basis.bus_v),
                table("w", "W·h in a kilogram", kind.wh_per_kg, "W·h/kg", "class-battery"),
            ],
            source="class-battery",
            note=label.note,
        )
        found.append(
            ComparedChemistry(
                chemistry=chemistry,
                name=kind.label,
                in_use=chemistry == bank.chemistry,
                label_ah=label.key,
                weight_kg=weight.key,
                price=_price(bank, chemistry, label, flooded_wh, workings).key,
                years=_years(own, label, basis, workings).key,
                vent_cm2=_vent(chemistry, label, basis, workings),
                cold=_cold_words(chemistry, basis.coldest_c),
            )
        )
    return tuple(found)
