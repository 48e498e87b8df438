"""The bank explained: what it holds, how long it lasts, how it charges, what it weighs, each with
its working."""

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..calendar import MONTH_NAMES
from ..chemistries import kind_of
from ..climate import Climate
from ..data import rows_by
from ..design import Bank, Brief, Design
from ..words import celsius
from ..working import Key, Quantity, Workings, assumed, given, stated, table, used
from .care import CareReport, care_report
from .charge import ChargeSetting, charge_settings, charge_times
from .cold_days import bank_temperature
from .compare import CompareBasis, ComparedChemistry, compare_chemistries
from .kind import charge_low_c, most_charge_a, planned_c
from .layers import (
    LayerFigures,
    LayersSummary,
    layer_figures,
    layers_summary,
    pack_figures,
    with_own_loads,
)
from .life import cycles_a_year
from .model import BankModel, asked_days_of
from .paths import ChargedBank, charged_banks
from .reserve import comes_on, pack_comes_on
from .resting import RestingRow, rest_note, resting_table
from .temperature import hot_air_c
from .volts import DischargePoint, bank_resistance_ohm, discharge_curve, loaded_v
from .waterfall import Waterfall, usable_by_month, waterfall


@dataclass(frozen=True, slots=True)
class ChargeFigures:
    """Filling the bank from the end of what may be used, with a charger of so many amps."""

    name: str
    amps: Key
    hours: Key


@dataclass(frozen=True, slots=True, kw_only=True)
class StoreReport:
    """The bank. `waterfall` runs from the label to the usable amp-hours, one quantity a step;
    months run January to December."""

    label_ah: Key
    usable_ah: Key
    usable_wh: Key
    temperature_c: Key
    default_depth: Key
    usual_c: float
    """The planned charge rate that is usual for the kind: amps over amp-hours."""
    depth: Key
    held_share: Key
    waterfall: tuple[Key, ...]
    carries_ah: Key
    """Usable, with the layers that come on when the main bank is at its end."""
    days_without_sun: Key
    hours_without_sun: Key
    months_ah: tuple[Key, ...]
    months_c: tuple[Key, ...]
    hottest_c: Key
    """The bank on the hottest day of the year."""
    takeaway: str
    """Of the months, in a sentence."""
    resting: tuple[RestingRow, ...]
    rest_note: str
    """How long to rest before a reading, and where it tells little."""
    resistance_ohm: Key
    discharge: tuple[DischargePoint, ...]
    end_mean_v: Key
    end_peak_v: Key
    charging: tuple[ChargeFigures, ...]
    settings: tuple[ChargeSetting, ...]
    compared: tuple[ComparedChemistry, ...]
    care: CareReport
    layers: tuple[LayerFigures, ...]
    layered: LayersSummary | None
    charged: tuple[ChargedBank, ...]


def asked_days(brief: Brief, workings: Workings) -> Quantity:
    """The days without sun the design must last: asked for, or usual for what is being prepared
    for."""
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
        asked_days_of(brief),
        "d",
        label="Days without sun asked for",
        formula="D",
        words="as asked in the brief",
        inputs=[item],
        source=source,
    )


def _carries(
    design: Design,
    usable: Quantity,
    bus_v: Quantity,
    layers: tuple[LayerFigures, ...],
    workings: Workings,
) -> Quantity:
    """What carries the station: the main bank, and every layer that takes over when it is at its
    end."""
    wanted = {item.id for item in design.store.layers if comes_on(design, item)}
    wanted |= {item.id for item in design.store.packs if pack_comes_on(design, item)}
    parts = [workings[layer.usable_wh] for layer in layers if layer.id in wanted]
    if not parts:
        return usable
    return workings.add(
        "store.carries_ah",
        usable.number + sum(part.number for part in parts) / bus_v.number,
        "A·h",
        label="Usable, with the other batteries that take over",
        formula="Q + Σ Eᵢ / V",
        words=(
            "the main battery plus those that take over when it is empty, at the nominal voltage"
        ),
        inputs=[
            used("Q", usable),
            used("V", bus_v),
            *(used(f"E{number}", part) for number, part in enumerate(parts, start=1)),
        ],
        source="arithmetic",
    )


def _lasting(usable: Quantity, daily_ah: Quantity, workings: Workings) -> tuple[Quantity, Quantity]:
    days = usable.number / daily_ah.number if daily_ah.number > 0 else None
    note = "" if days is not None else "nothing uses power, so it never runs out"
    lasts = workings.add(
        "store.days_without_sun",
        days,
        "d",
        label="Days it lasts without sun",
        formula="D = Q / Q_day",
        words="usable amp-hours divided by the amp-hours used in a day",
        inputs=[used("Q", usable), used("Q_day", daily_ah)],
        source="arithmetic",
        note=note,
    )
    hours = workings.add(
        "store.hours_without_sun",
        None if days is None else days * 24.0,
        "h",
        label="Hours it lasts without sun",
        formula="t = 24 · D",
        words="the same in hours",
        inputs=[used("D", lasts)],
        source="arithmetic",
        note=note,
    )
    return lasts, hours


def _end_volts(
    bank: Bank,
    bus_v: Quantity,
    depth: Quantity,
    temperature: Quantity,
    drawn: tuple[Quantity, Quantity],
    workings: Workings,
) -> tuple[Quantity, Quantity, Quantity]:
    """Internal resistance, and the volts at the end of what may be used at the mean and at the
    highest draw."""
    kind = kind_of(bank.chemistry)
    ohm = bank_resistance_ohm(bank, bus_v.number, temperature.number)
    given_by = (
        [stated("r₁", "one unit", bank.unit_milliohm, "mΩ", "/store/bank/unit_milliohm")]
        if bank.unit_milliohm
        else [
            table("r", "cells, 100 Ah at 12 V", kind.cell_milliohm, "mΩ", "resistance"),
            table("r_e", "electronics", kind.electronics_milliohm, "mΩ", "resistance"),
        ]
    )
    resistance = workings.add(
        "store.resistance_ohm",
        ohm * 1000.0,
        "mΩ",
        label="Internal resistance",
        formula="R = r₁ · s / (p · f(T))"
        if bank.unit_milliohm
        else "R = (r · 100 / C + r_e / p) · blocks / f(T)",
        words="your figure for one battery; it rises with batteries in series and with cold"
        if bank.unit_milliohm
        else (
            "usual for this type; lower with more amp-hours, higher with more volts and in the cold"
        ),
        inputs=[*given_by, used("T", temperature)],
        source="resistance",
    )
    found = []
    for word, current in zip(("mean", "peak"), drawn, strict=True):
        found.append(
            workings.add(
                f"store.end_{word}_v",
                loaded_v(
                    bank, bus_v.number, 1.0 - depth.number, current.number, temperature.number
                ),
                "V",
                label=(
                    "Battery volts at the lowest charge allowed, "
                    f"{'average' if word == 'mean' else 'highest'} current"
                ),
                formula="V = V_rest(1 − d) − I · R",
                words=(
                    "resting volts at the lowest charge allowed, less the drop inside the battery"
                ),
                inputs=[used("d", depth), used("I", current), used("R", resistance)],
                source="resistance",
            )
        )
    return resistance, found[0], found[1]


def _chargers(design: Design, bank: Bank, label: Quantity) -> list[tuple[str, str, float, str]]:
    most = most_charge_a(bank)
    rows = [
        ("slow", "Slow, 0.1 C", 0.1 * label.number, ""),
        ("planned", f"Planned, {planned_c(bank):g} C", planned_c(bank) * label.number, ""),
        ("most", "Highest charge current allowed", most, "/store/bank/limits/max_charge_a"),
    ]
    if design.array.alternator:
        amps = design.array.alternator.into_bank_a
        rows.append(("engine", "From the alternator", amps, "/array/alternator/charge_a"))
    return rows


def _charging(
    design: Design, bank: Bank, fall: Waterfall, temperature: Quantity, workings: Workings
) -> tuple[ChargeFigures, ...]:
    kind = kind_of(bank.chemistry)
    locked = not kind.is_lead and temperature.number < charge_low_c(bank)
    source = "lead-charge" if kind.is_lead else "lfp-charge"
    found = []
    for key, name, amps, pointer in _chargers(design, bank, fall.label):
        current = workings.add(
            f"store.charge.{key}.amps",
            amps,
            "A",
            label=f"{name}: charge current",
            formula="I",
            words="current from the charger into the battery",
            inputs=[
                stated("I", name, amps, "A", pointer)
                if pointer
                else assumed("I", name, amps, "A", "practice")
            ],
            source="practice",
        )
        times = (
            None
            if locked
            else charge_times(bank, fall.cooled.number, 1.0 - fall.depth.number, amps)
        )
        note = (
            "too cold to be charged, so no current flows"
            if locked
            else ""
            if times
            else "nothing to fill it with"
        )
        inputs = [
            used("I", current),
            used("C", fall.cooled),
            used("d", fall.depth),
            table(
                "η",
                f"charge efficiency, {kind.label}",
                kind.coulombic_efficiency,
                "share",
                "practice",
            ),
        ]
        if times:
            inputs.append(table("t_b", "hours at full current", times.bulk_h, "h", source))
            inputs.append(table("t_a", "hours at falling current", times.tail_h, "h", source))
            inputs.append(
                table(
                    "k", "charge when the current begins to fall", times.knee_share, "share", source
                )
            )
        hours = workings.add(
            f"store.charge.{key}.hours",
            times.whole_h if times else None,
            "h",
            label=f"{name}: hours from empty to full",
            formula="t = t_bulk + t_tail",
            words="full current until the set voltage is reached, then falling current until full",
            inputs=inputs,
            source=source,
            note=note,
        )
        found.append(ChargeFigures(name, current.key, hours.key))
    return tuple(found)


@dataclass(frozen=True, slots=True, kw_only=True)
class StationLoad:
    """What the station asks of the bank in the month it is judged by."""

    bus_v: Quantity
    daily_ah: Quantity
    average_a: Quantity
    flowing_a: Quantity
    peak_a: Quantity
    own_wh: Mapping[str, float]
    """What hangs on a layer or pack alone takes of it in a day, by its id. [W·h]"""


def _layers(
    design: Design,
    load: StationLoad,
    temperature: Quantity,
    main: tuple[Quantity, Quantity],
    workings: Workings,
) -> tuple[tuple[LayerFigures, ...], LayersSummary | None]:
    """Every layer, and all that something joins beside one big bank.

    `main` is the main bank's usable energy and weight.
    """
    if not design.store.layers and not design.store.packs:
        return (), None
    mean_w = workings.add(
        "store.mean_w",
        load.average_a.number * load.bus_v.number,
        "W",
        label="Average current",
        formula="P = I · V",
        words="average current at the nominal bus volts",
        inputs=[used("I", load.average_a), used("V", load.bus_v)],
        source="arithmetic",
    )
    banks = [
        layer_figures(layer, index, design.brief, temperature, mean_w, workings)
        for index, layer in enumerate(design.store.layers)
    ]
    packs = [
        pack_figures(pack, index, mean_w, workings) for index, pack in enumerate(design.store.packs)
    ]
    banks = [with_own_loads(row, load.own_wh.get(row.id, 0.0), workings) for row in banks]
    packs = [with_own_loads(row, load.own_wh.get(row.id, 0.0), workings) for row in packs]
    joined = [
        row
        for row, layer in zip(banks, design.store.layers, strict=True)
        if layer.joining != "apart"
    ]
    return (*banks, *packs), layers_summary(main[0], main[1], [*joined, *packs], mean_w, workings)


def _takeaway(
    held: tuple[Key, ...], months: tuple[Quantity, ...], brief: Brief, workings: Workings
) -> str:
    ah = {month: workings[held[month - 1]].number for month in brief.months}
    worst, best = min(ah, key=lambda month: ah[month]), max(ah, key=lambda month: ah[month])
    if ah[best] <= 0 or ah[best] - ah[worst] < 0.01 * ah[best]:
        return f"Usable amp-hours are the same all year, at {celsius(months[worst - 1].number)}."
    share = f"{100.0 * ah[worst] / ah[best]:.0f} %"
    return (
        f"You can use {ah[worst]:.0f} Ah in {MONTH_NAMES[worst - 1]}, at "
        f"{celsius(months[worst - 1].number)}. That is {share} of the {ah[best]:.0f} "
        f"Ah in {MONTH_NAMES[best - 1]}."
    )


def _hottest(
    model: BankModel, climate: Climate, sun_w_m2: NDArray[np.float64], workings: Workings
) -> Quantity:
    month = int(np.argmax(model.hot_days_c)) + 1
    bank, value = model.bank, model.hot_days_c[month - 1]
    day_c = hot_air_c(month, climate)
    inputs = [
        table(
            "T_day",
            f"average of the hottest day, {MONTH_NAMES[month - 1]}",
            day_c,
            "°C",
            "extremes",
        )
    ]
    if bank.housing != "indoors":
        inputs.append(
            table(
                "ΔT",
                "warmer than the air: sun on the box, watts inside",
                value - day_c,
                "K",
                "box-heat",
            )
        )
    return workings.add(
        "store.hottest_c",
        value,
        "°C",
        label="Battery temperature on the hottest day of the year",
        formula="T_day + ΔT" if bank.housing != "indoors" else "max(15 °C, T_day)",
        words=(
            "a heavy battery follows the average of the hottest day; sun on the box and watts "
            "inside warm it more"
        ),
        inputs=inputs,
        source="box-heat",
    )


def store_report(
    design: Design,
    model: BankModel,
    load: StationLoad,
    climate: Climate,
    sun_w_m2: NDArray[np.float64],
    workings: Workings,
    whole: bool = True,
) -> StoreReport:
    """What the bank holds for this draw, how long that lasts without any sun, and how it fills
    again.

    Parameters
    ----------
    sun_w_m2 : ndarray of shape (12,)
        On the main plane, the mean of day and night. [W/m²]
    whole : bool
        Whether the hours to full and the other chemistries are worked out too.

    Returns
    -------
    StoreReport
        The bank, every figure in `workings`.
    """
    bank, brief = model.bank, design.brief
    months = tuple(
        bank_temperature(model, month, brief, climate, float(sun_w_m2[month - 1]), workings)
        for month in range(1, 13)
    )
    hard = months[model.hard_month - 1]
    temperature = workings.add(
        "store.temperature_c",
        model.hard_c,
        "°C",
        label="Battery temperature, worst month",
        formula="T",
        words="the battery on a cold day of the worst month",
        inputs=[used("T", hard)],
        source="practice",
    )
    fall = waterfall(model, brief, load.flowing_a, temperature, workings)
    usable_wh = workings.add(
        "store.usable_wh",
        model.usable_wh,
        "W·h",
        label="Usable energy",
        formula="E = Q · V",
        words="usable amp-hours times the nominal bus volts",
        inputs=[used("Q", fall.usable), used("V", load.bus_v)],
        source="arithmetic",
    )
    care = care_report(bank, model.bus_v, fall.label, model.mean_c, workings)
    layers, summary = _layers(
        design, load, temperature, (usable_wh, workings[care.weight_kg]), workings
    )
    carries = _carries(design, fall.usable, load.bus_v, layers, workings)
    lasts, hours = _lasting(carries, load.daily_ah, workings)
    drawn = (load.average_a, load.peak_a)
    resistance, end_mean, end_peak = _end_volts(
        bank, load.bus_v, fall.depth, temperature, drawn, workings
    )
    held = usable_by_month(model, fall, months, workings)
    basis = CompareBasis(
        usable_wh=usable_wh,
        bus_v=load.bus_v,
        flowing_a=load.flowing_a,
        daily_ah=load.daily_ah,
        temperature=temperature,
        coldest_c=float(model.month_c.min()),
        cycles_a_year=cycles_a_year(brief),
    )
    return StoreReport(
        label_ah=fall.label.key,
        usable_ah=fall.usable.key,
        usable_wh=usable_wh.key,
        temperature_c=temperature.key,
        default_depth=fall.usual_depth.key,
        usual_c=kind_of(bank.chemistry).charge_share_plan,
        depth=fall.depth.key,
        held_share=fall.held_share.key,
        waterfall=fall.steps,
        carries_ah=carries.key,
        days_without_sun=lasts.key,
        hours_without_sun=hours.key,
        months_ah=held,
        months_c=tuple(item.key for item in months),
        hottest_c=_hottest(model, climate, sun_w_m2, workings).key,
        takeaway=_takeaway(held, months, brief, workings),
        resting=resting_table(bank.chemistry, model.bus_v),
        rest_note=rest_note(bank.chemistry),
        resistance_ohm=resistance.key,
        discharge=discharge_curve(
            bank, model.bus_v, load.average_a.number, load.peak_a.number, model.hard_c
        ),
        end_mean_v=end_mean.key,
        end_peak_v=end_peak.key,
        charging=_charging(design, bank, fall, temperature, workings) if whole else (),
        settings=charge_settings(bank, model.bus_v, model.held_ah, model.hard_c),
        compared=compare_chemistries(bank, brief, basis, workings) if whole else (),
        care=care,
        layers=layers,
        layered=summary,
        charged=charged_banks(design),
    )
