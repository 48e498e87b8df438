"""The Draw figures of a design, each with its working."""

from dataclasses import dataclass

import numpy as np

from ..design import Design, Load
from ..working import Input, Key, Quantity, Workings, given, stated, used
from .average import FloatArray, daily_ah_by_month, load_daily_ah, load_on_current_a
from .peak import peak_a, transmit_step_a

NO_BANK_V = 12.0
MONTH_NAMES = (
    "January",
    "February",
    "March",
    "April",
    "May",
    "June",
    "July",
    "August",
    "September",
    "October",
    "November",
    "December",
)


@dataclass(frozen=True, slots=True)
class LoadFigures:
    """What one load draws. `share` is its part of the station's amp-hours over the year's mean day, 0 to 1."""

    id: str
    mean_a: Key
    daily_ah: Key
    daily_wh: Key
    share: float


@dataclass(frozen=True, slots=True)
class DrawReport:
    """What the station draws. `daily_*` and `average_a` are of `month`, the month the design is judged by."""

    daily_ah: Key
    daily_wh: Key
    average_a: Key
    peak_a: Key
    bus_v: Key
    month: int
    months_ah: tuple[Key, ...]
    loads: tuple[LoadFigures, ...]


def month_key(stem: Key, month: int) -> Key:
    """The key of a figure of one month, 1 to 12."""
    return f"{stem}.{month:02d}"


def bus_volts(design: Design, workings: Workings) -> Quantity:
    """Nominal volts of the battery bus: the bank's, or 12 V where there is no bank yet."""
    bank = design.store.bank
    words = "units in series times the volts of one"
    if bank is None:
        return workings.add(
            "draw.bus_v",
            NO_BANK_V,
            "V",
            "Bus volts, nominal",
            "V = 12",
            words,
            source="practice",
            note="no bank yet",
        )
    return workings.add(
        "draw.bus_v",
        bank.series * bank.unit_v,
        "V",
        "Bus volts, nominal",
        "V = s · V₁",
        words,
        [
            stated("s", "units in series", bank.series, "", "/store/bank/series"),
            stated("V₁", "volts of one unit", bank.unit_v, "V", "/store/bank/unit_v"),
        ],
        "arithmetic",
    )


def _mean_current(index: int, load: Load, workings: Workings) -> Quantity:
    at = f"/draw/loads/{index}"
    inputs = [
        given("I_rx", "current receiving, or on", load.receive_a, "A", f"{at}/receive_a"),
        stated("n", "how many", load.quantity, "", f"{at}/quantity"),
    ]
    formula, words = "I = n · I_rx", "current when on, times how many"
    if load.transmit_a is not None:
        inputs[1:1] = [
            given("I_tx", "current transmitting", load.transmit_a, "A", f"{at}/transmit_a"),
            given("s", "share of its hours transmitting", load.transmit_share, "share", f"{at}/transmit_share"),
        ]
        formula = "I = n · (I_rx · (1 − s) + I_tx · s)"
        words = "each state's current times its share of the time, summed, times how many"
    return workings.add(
        f"draw.load.{load.id}.mean_a",
        load_on_current_a(load),
        "A",
        f"{load.name}: mean current while on",
        formula,
        words,
        inputs,
        "practice",
    )


def _load_figures(index: int, load: Load, bus_v: Quantity, year_ah: float, workings: Workings) -> LoadFigures:
    mean = _mean_current(index, load, workings)
    hours = given("h", "hours a day", load.hours_per_day, "h", f"/draw/loads/{index}/hours_per_day")
    daily = workings.add(
        f"draw.load.{load.id}.daily_ah",
        load_daily_ah(load),
        "A·h",
        f"{load.name}: amp-hours a day",
        "Q = I · h",
        "mean current while on times the hours it is on",
        [used("I", mean), hours],
        "arithmetic",
    )
    energy = workings.add(
        f"draw.load.{load.id}.daily_wh",
        daily.number * bus_v.number,
        "W·h",
        f"{load.name}: watt-hours a day",
        "E = Q · V",
        "amp-hours times the nominal bus volts",
        [used("Q", daily), used("V", bus_v)],
        "arithmetic",
    )
    share = load_daily_ah(load) * len(load.months) / year_ah if year_ah else 0.0
    return LoadFigures(load.id, mean.key, daily.key, energy.key, share)


def _month_total(month: int, by_month: FloatArray, loads: list[Load], workings: Workings) -> Quantity:
    figures = workings
    inputs = [
        used(f"Q{number + 1}", figures[f"draw.load.{load.id}.daily_ah"])
        for number, load in enumerate(loads)
        if month in load.months
    ]
    return workings.add(
        month_key("draw.month_ah", month),
        float(by_month[month - 1]),
        "A·h",
        f"Drawn a day in {MONTH_NAMES[month - 1]}",
        "Q = Σ Qᵢ",
        "the amp-hours of every load that runs in the month",
        inputs,
        "arithmetic",
    )


def _peak(loads: list[Load], workings: Workings) -> Quantity:
    inputs: list[Input] = []
    for index, load in enumerate(loads):
        at = f"/draw/loads/{index}"
        inputs.append(given("I_rx", f"{load.name}: receiving, or on", load.receive_a, "A", f"{at}/receive_a"))
        if load.transmit_a is not None:
            step = transmit_step_a(load)
            group = f", in “{load.interlock}”" if load.interlock else ""
            inputs.append(
                Input("ΔI", f"{load.name}: keying adds{group}", step, "A", "stated", pointer=f"{at}/transmit_a")
            )
    return workings.add(
        "draw.peak_a",
        peak_a(loads),
        "A",
        "Largest current at one moment",
        "I = Σ n · I_rx + Σ_groups max ΔI",
        "everything receiving or on, plus the largest transmit step of each group that never keys together",
        inputs,
        "practice",
    )


def draw_report(design: Design, bus_v: Quantity, month: int, workings: Workings) -> DrawReport:
    """Work out what the station draws.

    Parameters
    ----------
    bus_v : Quantity
        Nominal volts of the battery bus. [V]
    month : int
        The month, 1 to 12, that the daily figures are for.
    """
    loads = design.draw.loads
    by_month = daily_ah_by_month(loads)
    year_ah = sum(load_daily_ah(load) * len(load.months) for load in loads)
    figures = tuple(_load_figures(index, load, bus_v, year_ah, workings) for index, load in enumerate(loads))
    months = [_month_total(month, by_month, loads, workings) for month in range(1, 13)]
    daily = workings.add(
        "draw.daily_ah",
        months[month - 1].value,
        "A·h",
        f"Drawn a day, {MONTH_NAMES[month - 1]}",
        "Q = Q_month",
        "the day's amp-hours in the month the design is judged by",
        [used("Q_month", months[month - 1])],
        "arithmetic",
    )
    energy = workings.add(
        "draw.daily_wh",
        daily.number * bus_v.number,
        "W·h",
        f"Watt-hours a day, {MONTH_NAMES[month - 1]}",
        "E = Q · V",
        "amp-hours times the nominal bus volts",
        [used("Q", daily), used("V", bus_v)],
        "arithmetic",
    )
    average = workings.add(
        "draw.average_a",
        daily.number / 24.0,
        "A",
        "Average current around the clock",
        "I = Q / 24",
        "the day's amp-hours spread over 24 hours",
        [used("Q", daily)],
        "arithmetic",
    )
    return DrawReport(
        daily.key,
        energy.key,
        average.key,
        _peak(loads, workings).key,
        bus_v.key,
        month,
        tuple(item.key for item in months),
        figures,
    )


def heaviest_month(by_month: FloatArray, months_in_use: list[int]) -> int:
    """The month in use with the largest draw, the first of equals."""
    in_use = np.array(months_in_use)
    return int(in_use[np.argmax(by_month[in_use - 1])])
