"""Tests of the bank: what it really holds, and whether it gets full."""

from ...changes import Change, Operation, replace
from ...chemistries import kind_of
from ...electrical import blocks_of_12v
from ...station import StationModel
from ...store import (
    bank_resistance_ohm,
    cut_off_v,
    loaded_v,
    peukert_of,
    rate_factor,
    rest_v,
    temperature_factor,
)
from ..meaning import TELLING, Meaning
from .base import FUSED, ROOM_C, Asked, Expected, Kind, Subject, Values, may, needs

EARLY_V = 0.2
"""Volts over the end, for every block of 12 V, at which a test was broken off. [C]"""


def _bank_subjects(station: StationModel) -> tuple[Subject, ...]:
    bank = station.bank
    if bank is None:
        return ()
    amps = max(float(station.draw.by_month.mean()) / 24.0, 0.05 * bank.label_ah)
    warm = temperature_factor(bank.bank.chemistry, ROOM_C)
    held = bank.aged_ah * warm
    full = rest_v(bank.bank, station.bus_v, 1.0)
    return (
        Subject(
            "bank",
            "The battery",
            (
                Expected("Rested and full", full, "V"),
                Expected("Use a steady load of", amps, "A"),
                Expected("Hours the plan expects", held / amps, "h"),
                Expected("Stop at these volts, load still on", _end_v(station), "V"),
            ),
        ),
    )


def _end_v(station: StationModel) -> float:
    """Loaded volts where a discharge test ends: the cut-off, or nearly empty at a twentieth of the
    label."""
    bank = station.bank
    if bank is None:
        return 0.0
    return max(
        cut_off_v(bank.bank),
        loaded_v(bank.bank, station.bus_v, 0.02, 0.05 * bank.label_ah, ROOM_C),
    )


def at_label_rate(ah: float, amps: float, hour_rate_h: float, exponent: float) -> float:
    """What a battery holds at its label's rate, from what it gave at a current.

    Parameters
    ----------
    ah : float
        Taken out at a steady current. [A·h]
    amps : float
        That current. [A]
    hour_rate_h : float
        The hour rate of the label. [h]
    exponent : float
        Peukert exponent.

    Returns
    -------
    float
        Amp-hours at the label's rate: the C for which C · rate_factor(C, I) is what was taken out.
    """
    held = ah
    for _ in range(40):
        held = ah / rate_factor(held, hour_rate_h, amps, exponent)
    return held


def held_of_test(station: StationModel, values: Values) -> float | None:
    """What a discharge test found the whole bank to hold, at its label's rate and room temperature.
    [A·h]"""
    bank = station.bank
    amps, hours = values.get("amps"), values.get("hours")
    if bank is None or not amps or not hours:
        return None
    one = bank.bank
    rate = at_label_rate(
        amps * hours / one.parallel, amps / one.parallel, one.hour_rate_h, peukert_of(one)
    )
    return rate * one.parallel / temperature_factor(one.chemistry, values.get("celsius", ROOM_C))


def _discharge(station: StationModel, _subject: str, values: Values) -> Meaning:
    bank = station.bank
    if bank is None:
        return Meaning("There is no battery in this design to compare it with.")
    amps = needs(values, "amps", 0.01, 2000.0, "the current of the load")
    hours = needs(values, "hours", 0.05, 500.0, "how long it lasted")
    end_v = needs(values, "end_v", 1.0, 1000.0, "the volts at the end, load still on")
    celsius = may(values, "celsius", -30.0, 60.0, "the battery's temperature")
    before_v = may(values, "before_v", 1.0, 1000.0, "the volts just before the load")
    first_v = may(values, "first_v", 1.0, 1000.0, "the volts right after the load came on")
    one = bank.bank
    given = amps * hours
    held = held_of_test(station, values) or 0.0
    told = [
        (
            f"It gave {given:.1f} Ah. At the label's rate and room temperature that equals "
            f"{held:.0f} Ah"
        )
    ]
    told[0] += f", {100 * held / bank.label_ah:.0f} % of its label."
    if before_v is not None and first_v is not None:
        ohm = (before_v - first_v) / amps
        planned = bank_resistance_ohm(one, station.bus_v, ROOM_C if celsius is None else celsius)
        told.append(f"Its resistance is {1000 * ohm:.0f} mΩ; the plan has {1000 * planned:.0f} mΩ.")
    if end_v > _end_v(station) + EARLY_V * blocks_of_12v(station.bus_v):
        told.append(
            f"The test ended early, at {end_v:.2f} V, so its capacity is at least that much."
        )
        return Meaning(" ".join(told))
    if abs(held / bank.aged_ah - 1.0) < TELLING:
        return Meaning(" ".join([*told, "This agrees with the plan."]))
    value = {"value": round(held / one.parallel, 2), "basis": "measured"}
    told.append(
        f"The plan has {bank.aged_ah:.0f} Ah. The most likely error is the planned "
        "capacity left with age."
    )
    change = Change(
        f"Use the tested {held:.0f} Ah", "the plan rests on a measurement", (_tested(value),)
    )
    return Meaning(
        " ".join(told), "/store/bank/tested_ah" if one.tested_ah else "/store/bank/health", change
    )


def _tested(value: object) -> Operation:
    return replace("/store/bank/tested_ah", value)


def _charge_subjects(station: StationModel) -> tuple[Subject, ...]:
    bank = station.bank
    if bank is None:
        return ()
    tail = kind_of(bank.bank.chemistry).full_tail_share * bank.label_ah
    return (
        Subject(
            "bank",
            "The battery",
            (
                Expected("Charge voltage", station.array.absorb_v, "V"),
                Expected("Full when the current is below", tail, "A"),
            ),
        ),
    )


def _charge(station: StationModel, _subject: str, values: Values) -> Meaning:
    bank = station.bank
    if bank is None:
        return Meaning("There is no battery in this design to compare it with.")
    volts = needs(values, "held_v", 1.0, 1000.0, "the charge voltage at the end")
    tail = needs(values, "tail_a", 0.0, 500.0, "the amps at the end")
    given = may(values, "ah", 0.0, 100_000.0, "the amp-hours that went in")
    full_a, absorb_v = (
        kind_of(bank.bank.chemistry).full_tail_share * bank.label_ah,
        station.array.absorb_v,
    )
    told = []
    if given is not None:
        back = given * station.array.kept_share
        told.append(f"{given:.0f} Ah went in. By the plan you get {back:.0f} Ah of it back.")
    if volts < absorb_v - 0.015 * absorb_v:
        told.append(
            f"The charge voltage was {volts:.2f} V, and this battery needs {absorb_v:.2f} "
            "V. It never gets full like this."
        )
        return Meaning(
            " ".join(told), "/array/strings" if station.design.array.strings else "/array/chargers"
        )
    if tail > full_a:
        told.append(
            f"Not full yet: it still took {tail:.1f} A, and it is full below {full_a:.1f} A."
        )
    else:
        told.append(f"Full: it took {tail:.1f} A at the end, below {full_a:.1f} A.")
    return Meaning(" ".join(told))


KINDS: dict[str, Kind] = {
    "discharge": Kind(
        title="Discharge test",
        caution=f"{FUSED} Going below the end volts harms the battery: stop there.",
        steps=(
            "Charge it full. Let it rest for three hours with nothing connected.",
            "Read the volts. Switch on a steady load and read the volts again at once.",
            "Note the time. Read amps and volts every half hour.",
            (
                "Stop when the volts under load reach the end figure. Note the hours, then charge "
                "the battery at once."
            ),
        ),
        asks=(
            Asked("amps", "Load current", "amps"),
            Asked("hours", "Hours it lasted", "hours"),
            Asked("end_v", "Stop at these volts, load still on", "volts"),
            Asked("before_v", "Volts before the load came on", "volts", True),
            Asked("first_v", "Volts right after", "volts", True),
            Asked("celsius", "Battery temperature", "temperature", True),
        ),
        subjects=_bank_subjects,
        judge=_discharge,
    ),
    "charge": Kind(
        title="Charge record",
        caution=(
            "Hydrogen can explode, and lead batteries give it off near full: air the room, no "
            "sparks."
        ),
        steps=(
            "Start with a partly empty battery. Reset the amp-hours on the meter.",
            "Charge without a break. Note when the volts stop rising.",
            (
                "When the amps stop falling, read the volts, the amps and the amp-hours that went "
                "in."
            ),
        ),
        asks=(
            Asked("held_v", "Charge voltage at the end", "volts"),
            Asked("tail_a", "Amps at the end", "amps"),
            Asked("ah", "Amp-hours that went in", "amp_hours", True),
        ),
        subjects=_charge_subjects,
        judge=_charge,
    ),
}
