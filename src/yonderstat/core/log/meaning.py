"""What a reading means for a design, and which input of the plan it contradicts."""

from dataclasses import dataclass

import numpy as np

from ..array import most_charge_v
from ..changes import Change, replace
from ..data import column
from ..report import Report
from ..station import StationModel
from ..store import (
    METER_SHARE,
    BankModel,
    charge_range_from_rest,
    kind_of,
    loaded_v,
    reading_in_words,
    rest_hours,
)
from ..store import Reading as RestReading
from ..words import apart, celsius, hours_and_minutes
from .reading import Reading

TELLING = 0.1
"""A capacity or an efficiency off by less is within what such a test can tell. [C]"""
NEAR_V = 0.1


@dataclass(frozen=True, slots=True)
class Meaning:
    """What a reading says, in words; with a change where it would mend the plan."""

    words: str
    contradicts: str = ""
    """The field of the design it speaks against, as a JSON pointer; empty where it does not."""
    change: Change | None = None


def too_many_volts(volts: float, bank: BankModel) -> str:
    """That so many volts are above all a battery should see, in words; empty where they are not."""
    most_v = most_charge_v(bank.bank)
    if volts <= most_v + NEAR_V:
        return ""
    low, high = apart(most_v, volts, "V")
    return (
        f"{high} is above the {low} this battery should see at most: something charges it "
        "without regulation, or the meter is off. Disconnect the source before you look for why."
    )


def _over(volts: float, bank: BankModel) -> Meaning | None:
    """The same as what a reading means: no state of charge stands for such volts."""
    words = too_many_volts(volts, bank)
    return Meaning(words, "/array") if words else None


def _rest(reading: Reading, station: StationModel) -> Meaning:
    bank = station.bank
    if bank is None or reading.value is None:
        return Meaning("There is no battery in this design to compare it with.")
    if (over := _over(reading.value, bank)) is not None:
        return over
    asked_h = rest_hours(bank.bank.chemistry)
    rested = reading.second is not None and reading.second >= asked_h
    taken = RestReading(METER_SHARE, float(bank.month_c.min()), float(max(bank.hot_days_c)), rested)
    low, high = charge_range_from_rest(bank.bank.chemistry, station.bus_v, reading.value, taken)
    return Meaning(reading_in_words(bank.bank.chemistry, low, high, rested))


def _load(reading: Reading, station: StationModel) -> Meaning:
    bank = station.bank
    if bank is None or reading.value is None or reading.second is None:
        return Meaning("There is no battery in this design to compare it with.")
    if (over := _over(reading.value, bank)) is not None:
        return over
    shares = np.linspace(0.0, 1.0, 41)
    volts = [
        loaded_v(bank.bank, station.bus_v, float(share), reading.second, bank.hard_c)
        for share in shares
    ]
    end_v = float(np.interp(1.0 - bank.depth, shares, volts))
    told = (
        f"At {reading.second:g} A, the plan has {volts[-1]:.1f} V at the battery when "
        f"full and {end_v:.1f} V at the lowest charge allowed"
    )
    if reading.value < end_v - NEAR_V:
        why = (
            "Your reading is lower. The battery is empty, aged or colder than planned, or "
            "there is a bad joint before the meter."
        )
        return Meaning(f"{told}. {why}", "/store/bank/health")
    left = float(np.interp(reading.value, np.maximum.accumulate(volts), shares))
    return Meaning(f"{told}. Your reading means about {100 * left:.0f} % charged.")


def _counted(reading: Reading, station: StationModel) -> Meaning:
    if not reading.value or reading.second is None:
        return Meaning("No charge went in, so there is nothing to compare.")
    share, planned = reading.second / reading.value, station.array.kept_share
    told = (
        f"You got {100 * share:.0f} % of the charge back. The plan expects {100 * planned:.0f} %."
    )
    if share < planned - TELLING:
        why = "Either the battery ended fuller than it began, or a lead bypasses the meter's shunt."
        return Meaning(f"{told} {why}", "/bus/all_through_shunt")
    return Meaning(told)


def _temperature(reading: Reading, station: StationModel, report: Report) -> Meaning:
    if reading.value is None:
        return Meaning("")
    planned = {
        "bank": report.number(report.store.hottest_c) if report.store else None,
        "battery": report.number(report.store.hottest_c) if report.store else None,
        "box": report.number(report.bus.box.hottest_c) if report.bus.box else None,
        "air": station.climate.hottest_c,
    }.get(reading.of)
    if planned is None:
        return Meaning("The plan has no figure to compare with.")
    told = f"The plan expects {celsius(planned)} at most, on the hottest afternoon."
    over = reading.value > planned + 2.0
    field = {"box": "/bus/box", "air": "/brief/hottest_c"}.get(reading.of, "/store/bank/housing")
    return Meaning(f"{told} Your reading is hotter.", field) if over else Meaning(told)


def _gravity(reading: Reading, station: StationModel) -> Meaning:
    bank = station.bank
    if bank is None or reading.value is None:
        return Meaning("There is no battery in this design to compare it with.")
    if not kind_of(bank.bank.chemistry).free_acid:
        return Meaning(
            f"You can't measure acid in a {kind_of(bank.bank.chemistry).label} battery.",
            "/store/bank/chemistry",
        )
    share = float(
        np.interp(reading.value, column("gravity", "gravity"), column("gravity", "charge_share"))
    )
    return Meaning(
        f"About {100 * share:.0f} % charged, at 25 °C. All cells should read within 0.02 "
        "of each other."
    )


def _capacity(reading: Reading, station: StationModel) -> Meaning:
    bank = station.bank
    if bank is None or reading.value is None:
        return Meaning("There is no battery in this design to compare it with.")
    held, label = bank.rated_ah, bank.label_ah
    share = 100.0 * reading.value / label
    told = (
        f"The plan expects {held:.0f} Ah at {celsius(25.0)}; the label says "
        f"{label:.0f}. Your test gave {share:.0f} % of the plan."
    )
    if abs(reading.value / held - 1.0) < TELLING:
        return Meaning(f"{told} They agree.")
    value = {"value": reading.value / bank.bank.parallel, "basis": "measured"}
    patch = (replace("/store/bank/tested_ah", value),)
    change = Change(
        f"Use the tested {reading.value:g} Ah", "the plan rests on a measurement", patch
    )
    field = "/store/bank/tested_ah" if bank.bank.tested_ah else "/store/bank/health"
    return Meaning(
        f"{told} The most likely error is the planned capacity left with age.", field, change
    )


def meaning_of(reading: Reading, station: StationModel, report: Report) -> Meaning:
    """What a reading means for a design.

    Parameters
    ----------
    reading : Reading
        What was read, as it is kept.
    report : Report
        The figures of the design.
    """
    match reading.kind:
        case "rest":
            return _rest(reading, station)
        case "load":
            return _load(reading, station)
        case "counted":
            return _counted(reading, station)
        case "temperature":
            return _temperature(reading, station, report)
        case "gravity":
            return _gravity(reading, station)
        case "capacity":
            return _capacity(reading, station)
        case "run":
            return Meaning(f"It ran for {hours_and_minutes(reading.value or 0.0)}.")
        case _:
            return Meaning("")
