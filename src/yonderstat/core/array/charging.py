"""Charging as a whole: strings against their controllers, PWM beside MPPT, and every other
source."""

from dataclasses import dataclass

from ..calendar import MONTH_NAMES
from ..design import Bank, Charger, Design
from ..store import charge_low_c, charge_settings, charge_times, kind_of, most_charge_a
from ..words import counted
from ..working import Key, Quantity, Workings, given, stated, table, used
from .controller_comparison import ComparedController, compare_controllers
from .model import ArrayModel, SkyOver
from .string_checks import StringBasis, StringCheck, string_check
from .supplies import supply_verdict


@dataclass(frozen=True, slots=True, kw_only=True)
class SourceFigures:
    """Another way to fill the bank: its amps, hours to full, fuel for that, and whether it works at
    all."""

    id: str
    name: str
    amps: Key
    hours: Key
    fuel_l: Key | None
    works: bool
    words: str


@dataclass(frozen=True, slots=True)
class ChargingReport:
    """How the bank is charged."""

    strings: tuple[StringCheck, ...]
    beside: tuple[ComparedController, ...]
    beside_takeaway: str
    sources: tuple[SourceFigures, ...]
    sun_days: Key | None
    """Days of the hard month's sun from the end of what may be used to full, nothing drawn."""


def _source(
    charger: Charger, index: int, design: Design, basis: StringBasis, workings: Workings
) -> SourceFigures:
    at, works, words = (
        f"/array/chargers/{index}",
        *supply_verdict(charger, design, basis.absorb_v.number),
    )
    amps = workings.add(
        f"array.charger.{charger.id}.amps",
        charger.amps.value,
        "A",
        label=f"{charger.name}: current",
        formula="I",
        words="into the battery, from its label",
        inputs=[given("I", "label", charger.amps, "A", f"{at}/amps")],
        source="practice",
    )
    bulk_only = charger.kind == "generator" and not charger.to_full
    fills = works and charger.kind != "selector"
    hours = _hours_to_full(
        charger.id,
        charger.name,
        amps=amps,
        works=fills,
        words=words,
        basis=basis,
        workings=workings,
        bulk_only=bulk_only,
    )
    fuel = None
    if charger.litres_per_h and hours.value is not None:
        fuel = workings.add(
            f"array.charger.{charger.id}.fuel_l",
            hours.number * charger.litres_per_h.value,
            "l",
            label=(
                f"{charger.name}: fuel for "
                f"{'the main part of the charge' if bulk_only else 'a full charge'}"
            ),
            formula="t · f",
            words="its running hours times its fuel per hour",
            inputs=[
                used("t", hours),
                given("f", "burns", charger.litres_per_h, "l/h", f"{at}/litres_per_h"),
            ],
            source="arithmetic",
        )
    told = f"{words} {_by_days(charger, hours)}".strip()
    return SourceFigures(
        id=charger.id,
        name=charger.name,
        amps=amps.key,
        hours=hours.key,
        fuel_l=fuel.key if fuel else None,
        works=works,
        words=told,
    )


def _by_days(charger: Charger, hours: Quantity) -> str:
    """How many days a full charge takes, where the source runs only part of the day."""
    running_h = charger.running_h
    if hours.value is None or running_h >= hours.number or running_h <= 0:
        return "" if running_h > 0 else "It may never run: quiet hours take the whole day."
    return f"At {running_h:g} h a day, that takes {counted(hours.number / running_h, 'day', 1)}."


def _together(
    design: Design, sources: list[SourceFigures], basis: StringBasis, workings: Workings
) -> list[SourceFigures]:
    """All that may run together, where there are several."""
    apart = {
        charger.id
        for charger in design.array.chargers
        if charger.alone or charger.kind == "selector"
    }
    joined = [source for source in sources if source.works and source.id not in apart]
    if len(joined) < 2:
        return []
    amps = workings.add(
        "array.charger.together.amps",
        sum(workings[source.amps].number for source in joined),
        "A",
        label="All that may run at once: current",
        formula="Σ Iᵢ",
        words="every charger that can run at the same time as others",
        inputs=[
            used(f"I{number}", workings[source.amps])
            for number, source in enumerate(joined, start=1)
        ],
        source="arithmetic",
    )
    hours = _hours_to_full(
        "together",
        "All that may run together",
        amps=amps,
        works=True,
        words="",
        basis=basis,
        workings=workings,
    )
    words = (
        "Too much current harms the battery: keep within its charge limit. Sources: "
        f"{', '.join(source.name for source in joined)}."
    )
    return [
        SourceFigures(
            id="together",
            name="All together",
            amps=amps.key,
            hours=hours.key,
            fuel_l=None,
            works=True,
            words=words,
        )
    ]


def _hours_to_full(
    key: str,
    name: str,
    amps: Quantity,
    works: bool,
    words: str,
    basis: StringBasis,
    workings: Workings,
    bulk_only: bool = False,
) -> Quantity:
    store, bank = basis.store, basis.bank
    inputs, times, note = (
        [used("I", amps)],
        None,
        words if not works else "there is no battery to charge",
    )
    if store is not None and bank is not None and works:
        held = workings[store.held_share].number * workings[store.label_ah].number
        kind, cold = kind_of(bank.chemistry), workings[store.temperature_c].number
        frozen = not kind.is_lead and cold < charge_low_c(bank)
        into_a = min(amps.number, most_charge_a(bank))
        times = (
            None if frozen else charge_times(bank, held, 1.0 - workings[store.depth].number, into_a)
        )
        if into_a < amps.number:
            limit = "/store/bank/limits/max_charge_a"
            inputs.append(stated("I_max", "the battery's charge limit", into_a, "A", limit))
        note = (
            "the battery is too cold to be charged"
            if frozen
            else ""
            if times
            else "no charge current"
        )
        inputs += [
            used("C", workings[store.label_ah]),
            used("k", workings[store.held_share]),
            used("d", workings[store.depth]),
        ]
    return workings.add(
        f"array.charger.{key}.hours",
        None if times is None else times.bulk_h if bulk_only else times.whole_h,
        "h",
        label=f"{name}: until the current begins to fall"
        if bulk_only
        else f"{name}: hours from empty to full",
        formula="t = t_bulk" if bulk_only else "t = t_bulk + t_tail",
        words="from the lowest charge allowed, at full current until it begins to fall"
        + (
            "; you stop the generator there, because the rest hardly loads it"
            if bulk_only
            else ", then falling current until full"
        ),
        inputs=inputs,
        source="lead-charge",
        note=note,
    )


def absorb_quantity(
    design: Design, model: ArrayModel, bus_v: Quantity, workings: Workings
) -> Quantity:
    """Absorption volts of the bank's default school; AGM's where there is no bank yet.

    Parameters
    ----------
    bus_v : Quantity
        Nominal volts of the bus.
    """
    setting = charge_settings(design.store.bank or Bank(), bus_v.number, 100.0, 25.0)[0]
    return workings.add(
        "array.absorb_v",
        model.absorb_v,
        "V",
        label="Absorption volts",
        formula="V_absorb",
        words=f"{setting.school}: {setting.why}",
        inputs=[
            used("V", bus_v),
            table("V_a", "for this battery type", model.absorb_v, "V", "charge-settings"),
        ],
        source="charge-settings",
    )


def charging_report(
    design: Design,
    basis: StringBasis,
    sky: SkyOver | None,
    stored: Quantity | None,
    workings: Workings,
) -> ChargingReport:
    """How the bank is charged: strings, ladder, both kinds of controller, and every source.

    Parameters
    ----------
    stored : Quantity or None
        What the bank keeps of a day's harvest in the hard month. [A·h]
    """
    beside, words = compare_controllers(
        design, sky, workings["array.charge_v"], basis.hard_month, workings
    )
    sources = [
        _source(item, index, design, basis, workings)
        for index, item in enumerate(design.array.chargers)
    ]
    return ChargingReport(
        tuple(
            string_check(string, index, design, basis, workings)
            for index, string in enumerate(design.array.strings)
        ),
        beside,
        words,
        (*sources, *_together(design, sources, basis, workings)),
        _by_the_sun(stored, basis, workings),
    )


def _by_the_sun(stored: Quantity | None, basis: StringBasis, workings: Workings) -> Key | None:
    """Days to full from the panels alone."""
    usable = workings.get("store.usable_ah")
    if stored is None or usable is None:
        return None
    fills = stored.number > 0
    return workings.add(
        "array.sun_days",
        usable.number / stored.number if fills else None,
        "d",
        label=(
            f"Days from empty to full on {MONTH_NAMES[basis.hard_month - 1]} sun, with all "
            "loads off"
        ),
        formula="d = C_usable / Q_kept",
        words="usable charge divided by what the battery gains in a day of average sun",
        inputs=[used("C_usable", usable), used("Q_kept", stored)],
        source="arithmetic",
        note="" if fills else "there is no sun to charge it",
    ).key
