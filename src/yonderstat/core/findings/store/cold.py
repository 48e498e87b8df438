"""Findings about batteries in the cold and the heat: frost, heaters that stop, acid that freezes,
too warm."""

from collections.abc import Iterator

import numpy as np

from ...changes import Change, replace
from ...design import with_bank
from ...finding import Finding, Severity
from ...purposes import purpose_of
from ...report import Report
from ...station import StationModel
from ...store import (
    BankModel,
    charge_low_c,
    freezes_at_c,
    heater_help_k,
    kind_of,
    vent_of_a_box,
)
from ...words import celsius, hours_in_words
from ..register import mild_rule, rule
from ..remedies import lasting, try_change

COLD_NIGHT_SPREADS = 2.0
"""A month's coldest night lies so many of its day-to-day spreads under its cold day, which one in
ten is below. [C]"""


def _coldest_in_use(station: StationModel, model: BankModel) -> float:
    """The coldest the bank gets in the months in use: a January frost is no matter of a summer
    station's. [°C]"""
    months = np.array(station.design.brief.months) - 1
    coldest = float(model.month_c[months].min())
    if model.spread_k is None or len(months) == 12:
        return model.least_c if model.spread_k is not None else coldest
    # The coldest night of a year is one of the coldest month's; what others get is a few spreads
    # under their cold days.
    nights_c = model.month_c[months] - COLD_NIGHT_SPREADS * model.spread_k[months]
    return max(float(nights_c.min()), model.least_c)


@rule
def lithium_in_frost(station: StationModel, report: Report) -> Iterator[Finding]:
    """Lithium that is too cold to be charged in some hours of the weather years, or on the coldest
    night."""
    bank, model = station.design.store.bank, station.bank
    if bank is None or model is None or kind_of(bank.chemistry).is_lead:
        return
    limit, locked_h = (
        charge_low_c(bank),
        report.number(report.rehearsed.locked_h if report.rehearsed else None),
    )
    coldest = _coldest_in_use(station, model)
    warmed = coldest + (0.0 if bank.housing == "heated" else heater_help_k(bank))
    if not locked_h and warmed >= limit:
        return
    if not _charged_there(station):
        yield _charged_at_home(coldest)
        return
    protected = bank.limits.cold_cutoff == "yes"
    severity: Severity = "fix" if protected else "stop"
    what = (
        "its cut-off will stop the charging"
        if protected
        else "we don't know if anything stops the charging"
        if bank.limits.cold_cutoff == "unknown"
        else "nothing stops the charging"
    )
    often = f", {locked_h:.0f} hours a year" if locked_h and locked_h >= 0.5 else ""
    small = (
        " Its heater is too small for that cold."
        if bank.limits.heater_w and bank.limits.heater_w.value > 0
        else ""
    )
    yield Finding(
        id="store.lithium_frost",
        severity=severity,
        step="store",
        sentence=(
            f"Lithium must not be charged at {celsius(coldest)}, the coldest it gets: {what}{often}"
        ),
        why=(
            "Charging below freezing ruins lithium. Metal forms in the cells: they lose "
            "capacity for good and can short inside. "
        )
        + (
            "The sun of a frosty morning is then lost, unless a box keeps it warm."
            if station.design.array.strings
            else "What would charge it then is lost, unless a box keeps it warm."
        )
        + small,
        pointer="/store/bank/limits/cold_cutoff",
        remedies=tuple(_warm_box(station)),
    )


def _charged_there(station: StationModel) -> bool:
    """Whether anything charges the bank where the frost is."""
    array = station.design.array
    return bool(
        array.strings
        or array.alternator is not None
        or any(not charger.at_home for charger in array.chargers)
    )


def _charged_at_home(coldest_c: float) -> Finding:
    return Finding(
        id="store.lithium_frost",
        severity="mind",
        step="store",
        sentence=f"Out there it gets as cold as {celsius(coldest_c)}: let it warm up before you "
        "charge it",
        why=(
            "Charging lithium below freezing ruins it. Metal forms in the cells: they lose "
            "capacity for good and can short inside. A cold battery needs hours indoors to "
            "warm through."
        ),
        pointer="/array/chargers",
    )


def _warm_box(station: StationModel) -> Iterator[Change]:
    """A heated box, with the watts it takes: they are drawn from the bank, and counted."""
    bank = station.design.store.bank
    if bank is None or bank.housing == "heated":
        return
    limits = bank.limits.model_copy(update={"heater_w": None})
    vent_cm2 = vent_of_a_box(bank)
    warm = with_bank(
        station.design, housing="heated", cold_c=None, limits=limits, vent_cm2=vent_cm2
    )
    changed = station.tried(warm)
    most_w = float(changed.draw.heating_ah.max()) * changed.bus_v / 24.0
    patch = [replace("/store/bank/housing", "heated"), replace("/store/bank/cold_c", None)]
    if bank.limits.heater_w is not None:
        patch.append(replace("/store/bank/limits/heater_w", None))
    if vent_cm2 != bank.vent_cm2:
        patch.append(replace("/store/bank/vent_cm2", vent_cm2.model_dump() if vent_cm2 else None))
    vents = f", with vents of {vent_cm2.value:.0f} cm² low and high" if vent_cm2 else ""
    label = f"Use a heated, insulated box{vents}: it takes {most_w:.0f} W in the coldest month"
    yield try_change(station, label, warm, patch, lasting(station))


@mild_rule
def heater_stops(station: StationModel, report: Report) -> Iterator[Finding]:
    """A bank that only a heater keeps from the cold, and what becomes of it when that stops."""
    bank = station.design.store.bank
    if bank is None or bank.housing != "heated":
        return
    outside_c = station.climate.coldest_c
    lead = kind_of(bank.chemistry).is_lead
    limit_c = freezes_at_c(1.0 - _depth(station)) if lead else charge_low_c(bank)
    if outside_c >= limit_c:
        return
    yield Finding(
        id="store.heater_stops",
        severity="mind",
        step="store",
        sentence=f"If its heater stops, the battery cools toward {celsius(outside_c)}",
        why="An empty battery, a blown fuse or a failed thermostat stops the heater. "
        + (
            (
                f"Discharged as far as planned its acid freezes at {celsius(limit_c)} and "
                "cracks the case."
            )
            if lead
            else "Make sure that charging stops when the cells are cold, even if the heater fails."
        ),
        pointer="/store/bank/housing",
    )


def _depth(station: StationModel) -> float:
    return station.bank.depth if station.bank is not None else 1.0


@rule
def acid_freezes(station: StationModel, report: Report) -> Iterator[Finding]:
    """Lead that the cold finds so far discharged that its acid freezes."""
    bank, model = station.design.store.bank, station.bank
    if bank is None or model is None or not kind_of(bank.chemistry).is_lead:
        return
    coldest_c, freezes_c = _coldest_in_use(station, model), freezes_at_c(1.0 - _depth(station))
    if coldest_c >= freezes_c:
        return
    frozen_h = report.number(report.rehearsed.frozen_h if report.rehearsed else None) or 0.0
    often = f": {hours_in_words(frozen_h)} a year in the weather years" if frozen_h >= 0.5 else ""
    yield Finding(
        id="store.freezes",
        severity="fix" if frozen_h >= 0.5 else "mind",
        step="store",
        sentence=f"Discharged as far as planned its acid freezes at {celsius(freezes_c)}, and it "
        "gets "
        f"{celsius(coldest_c)}"
        f"{often}",
        why="Ice cracks the case and the plates. A full lead battery withstands −60 °C, a "
        "half-charged one −25 °C, an empty one −8 °C (our figures, not checked). Keep it "
        "fuller in the cold, or warmer.",
        pointer="/store/bank/depth",
    )


@mild_rule
def warm_only_with_mains(station: StationModel, report: Report) -> Iterator[Finding]:
    """'Indoors' trusted in a winter outage."""
    bank, brief = station.design.store.bank, station.design.brief
    kind = purpose_of(brief.purpose)
    mains_fail = kind.mains_normally and not kind.mains_when_judged
    if bank is None or bank.housing != "indoors" or not mains_fail or bank.cold_c is not None:
        return
    weather = report.weather
    air = (
        [report.working[weather.air_c[month - 1]].number for month in brief.months]
        if weather
        else []
    )
    if not air or min(air) >= 8.0:
        return
    yield Finding(
        id="store.indoors",
        severity="mind",
        step="store",
        sentence=(
            "In a winter outage the room cools, and the battery with it: it is "
            f"{celsius(min(air))} outside in the coldest month"
        ),
        why="Without heating, a room cools within a day or two. Enter the temperature the "
        "battery would reach.",
        pointer="/store/bank/cold_c",
    )


COLDER = (
    "It then gives too little power, or its electronics cut off. Keep it in a heated "
    "room, or in a heated box with its watts counted. Where the sun cannot supply "
    "those watts, another source must."
)
HOTTER = (
    "Heat ages the battery fast, and its electronics cut off. Shade the box, let air "
    "through it, or move it."
)


@rule
def outside_its_temperatures(station: StationModel, report: Report) -> Iterator[Finding]:
    """A bank colder than it may be discharged, or hotter than it may be charged, in any month it
    sits there."""
    bank, store, model = station.design.store.bank, report.store, station.bank
    if bank is None or store is None or model is None:
        return
    kind, limits = kind_of(bank.chemistry), bank.limits
    low_c = limits.discharge_low_c.value if limits.discharge_low_c else kind.discharge_low_c
    high_c = limits.charge_high_c.value if limits.charge_high_c else kind.charge_high_c
    coldest, hottest = float(model.month_c.min()), report.working[store.hottest_c].number
    if bank.cold_c is not None:
        hottest = max(hottest, bank.cold_c.value)
    for word, wrong, most, what in (
        ("cold", coldest < low_c, coldest, f"it can be used down to {celsius(low_c)}"),
        ("hot", hottest > high_c, hottest, f"it can be charged up to {celsius(high_c)}"),
    ):
        if wrong:
            yield Finding(
                id=f"store.too_{word}",
                severity="fix",
                step="store",
                sentence=f"The battery gets to {celsius(most)}; {what}",
                why=COLDER if word == "cold" else HOTTER,
                pointer="/store/bank/housing",
                remedies=tuple(_warm_box(station)) if word == "cold" else (),
            )
