"""Converters, inverters and changeovers explained."""

from ..data import rows, rows_by
from ..design import Design, Rail
from ..draw import busiest_w, inverter_input_a, rail_efficiency
from ..purposes import purpose_of
from ..working import Quantity, Workings, assumed, given, stated, table, used
from .converters import Precharge, converter_of, input_capacitance_f, input_window, precharge
from .model import BusModel, lowest_given_v
from .report import ChangeoverOption, ConverterFigures, InverterFigures

SURGE_FACTOR = 2.0
"""What an inverter gives for a moment over its rating, where its label is silent. [C]"""


def inverter_figures(
    rail: Rail, design: Design, model: BusModel, workings: Workings
) -> InverterFigures:
    key, window = f"bus.inverter.{rail.id}", input_window(rail, model.bus_v)
    busiest = busiest_w(design.draw, rail)
    low_v = max(lowest_given_v(model, rail.id) or model.bus_v, window.least_v)
    efficiency = rail_efficiency(rail, busiest) if busiest > 0 else rail.efficiency.value
    watts = table("P", "highest load on it, in watts", busiest, "W", "arithmetic")
    low = table(
        "V_low",
        "its input volts at the lowest charge allowed, or where it shuts down",
        low_v,
        "V",
        "kirchhoff",
    )
    input_a = workings.add(
        f"{key}.input_a",
        inverter_input_a(busiest, efficiency, low_v),
        "A",
        label=f"{rail.name}: input amps when the battery is low",
        formula="I = P / (η · V_low)",
        words="highest load divided by efficiency and the lowest voltage it works at",
        inputs=[watts, table("η", "efficiency at that load", efficiency, "share", "practice"), low],
        source="arithmetic",
    )
    rated_w = rail.rated_w.value if rail.rated_w else busiest
    surge_w = rail.surge_w.value if rail.surge_w else SURGE_FACTOR * rated_w
    surge_input = (
        given("P_s", "surge", rail.surge_w, "W", "/draw/rails")
        if rail.surge_w
        else assumed("P_s", "surge, twice the rating", surge_w, "W", "practice", "/draw/rails")
    )
    surge = workings.add(
        f"{key}.surge_a",
        surge_w / (rail.efficiency.value * low_v),
        "A",
        label=f"{rail.name}: input amps for a second or two",
        formula="I = P_s / (η · V_low)",
        words="amps it takes when a motor or supply on it starts",
        inputs=[surge_input, low],
        source="arithmetic",
    )
    joined: Precharge = precharge(input_capacitance_f(rail), model.highest_v)
    uf = 1e6 * joined.capacitance_f
    capacitance = (
        stated("C", "input capacitance", uf, "µF", "/draw/rails")
        if rail.input_uf
        else assumed("C", "input capacitance, 10 µF a watt", uf, "µF", "practice", "/draw/rails")
    )
    volts = table("V", "highest battery voltage", model.highest_v, "V", "practice")
    ohm = workings.add(
        f"{key}.precharge_ohm",
        joined.ohm,
        "Ω",
        label=f"{rail.name}: resistor for connecting it",
        formula="R = V / 5 A",
        words="keeps the first current below 5 A",
        inputs=[volts],
        source="capacitor",
    )
    wait = workings.add(
        f"{key}.precharge_s",
        joined.wait_s,
        "s",
        label=f"{rail.name}: hold the resistor for",
        formula="t = −R · C · ln 0.05",
        words="until its input reaches 95 % of the battery voltage",
        inputs=[used("R", ohm), capacitance],
        source="capacitor",
    )
    energy = workings.add(
        f"{key}.precharge_j",
        joined.energy_j,
        "J",
        label=f"{rail.name}: heat in the resistor",
        formula="E = ½ · C · V²",
        words="the same for any resistance",
        inputs=[capacitance, volts],
        source="capacitor",
    )
    return InverterFigures(
        rail_id=rail.id,
        name=rail.name,
        input_a=input_a.key,
        surge_a=surge.key,
        precharge_ohm=ohm.key,
        precharge_s=wait.key,
        precharge_j=energy.key,
        least_v=window.least_v,
        waveform=rail.waveform,
    )


def converter_figures(
    design: Design, model: BusModel, workings: Workings
) -> tuple[ConverterFigures, ...]:
    found = []
    for rail in design.draw.rails:
        if rail.kind == "inverter" or not any(
            run.leg.of == rail.id and run.leg.feeds == "rail" for run in model.runs
        ):
            continue
        window, lowest = input_window(rail, model.bus_v), lowest_given_v(model, rail.id)
        key = (
            None
            if lowest is None
            else workings.add(
                f"bus.converter.{rail.id}.lowest_v",
                max(lowest, 0.0),
                "V",
                f"{rail.name}: lowest volts at its input",
                "V_rest − Σ V_lost",
                "everything transmitting, battery at the lowest charge allowed",
                source="kirchhoff",
            ).key
        )
        label = rows_by("converters", "converter")[converter_of(rail, model.bus_v)]["label"]
        found.append(
            ConverterFigures(
                rail_id=rail.id,
                name=rail.name,
                converter=label,
                least_v=window.least_v,
                most_v=window.most_v,
                lowest_v=key,
            )
        )
    return tuple(found)


def changeover_of(design: Design) -> str:
    """How mains and battery change over, by the chargers there are; empty without any that
    could."""
    kinds = {charger.kind: charger for charger in design.array.chargers}
    if "changeover" in kinds:
        return "unit"
    if "selector" in kinds:
        return "selector"
    bench = kinds.get("bench_supply")
    return "" if bench is None else "diode" if bench.blocks_back == "yes" else "plain"


def changeover_options(
    design: Design, peak: Quantity, workings: Workings
) -> tuple[ChangeoverOption, ...]:
    now = changeover_of(design)
    if not now and not purpose_of(design.brief.purpose).mains_normally:
        return ()
    found = []
    for row in rows("changeovers"):
        milliohm, drop_v = float(row["milliohm"]), float(row["drop_v"])
        lost = workings.add(
            f"bus.changeover.{row['changeover']}.lost_v",
            peak.number * milliohm / 1000.0 + drop_v,
            "V",
            label=f"{row['label']}: volts lost at the highest current",
            formula="I · R / 1000 + V_d",
            words="between the battery and the loads",
            inputs=[
                used("I", peak),
                table("R", "resistance", milliohm, "mΩ", "bus-parts"),
                table("V_d", "diode", drop_v, "V", "bus-parts"),
            ],
            source="kirchhoff",
        )
        found.append(
            ChangeoverOption(
                id=row["changeover"],
                label=row["label"],
                lost_v=lost.key,
                gap_ms=float(row["gap_ms"]),
                back_feed=row["back_feed"],
                charges=row["charges"],
                limit=row["limit"],
                used=row["changeover"] == now,
            )
        )
    return tuple(found)
