"""The figures of one load, each with its working."""

from dataclasses import dataclass

import numpy as np

from ..calendar import MONTH_NAMES
from ..words import celsius
from ..working import Input, Key, Quantity, Workings, given, stated, table, used
from .model import LoadDraw
from .transmit import key_down, mode_share
from .when import hours_in_words


@dataclass(frozen=True, slots=True, kw_only=True)
class LoadFigures:
    """What one load draws.

    `share` is its part of the station's amp-hours over the year, `receive_share` the part of its
    own that it spends receiving or idle, both 0 to 1. `hourly_a` is its mean current by clock hour
    in `month`, or in its own hardest month where it rests in that one.
    """

    id: str
    month: int
    key_down_a: Key | None
    mean_a: Key
    daily_ah: Key
    daily_wh: Key
    share: float
    receive_share: float
    hourly_a: tuple[float, ...]
    guessed_hours: str
    """When it is taken to run, in words, where nobody has said; empty where it is known."""


def month_shown(item: LoadDraw, month: int) -> int:
    """The month a load's own figures are for: the one asked about, or its hardest if it rests
    then."""
    return month if item.daily_ah[month - 1] > 0 else int(np.argmax(item.daily_ah)) + 1


def _key_down(item: LoadDraw, at: str, workings: Workings) -> Quantity | None:
    load = item.load
    pressed = key_down(load)
    if pressed is None or load.transmit_a is None:
        return None
    full = given(
        "I_max", "transmit current at full power", load.transmit_a, "A", f"{at}/transmit_a"
    )
    key, label = (
        f"draw.load.{load.id}.key_down_a",
        f"{load.name}: current while transmitting, at its own supply",
    )
    if pressed.by == "full" or pressed.watts is None:
        return workings.add(
            key,
            pressed.amps,
            "A",
            label=label,
            formula="I_max",
            words="the current given for full power",
            inputs=[full],
            source="practice",
        )
    setting = stated("P", "power in use", pressed.watts, "W", f"{at}/power_w")
    if pressed.by == "table":
        points = [
            stated("I(P)", f"at {p.watts:g} W", p.amps, "A", f"{at}/power_table")
            for p in load.power_table
        ]
        note = (
            "the power is outside the table, so the nearest row is used" if pressed.clamped else ""
        )
        words = "from the radio's own table of watts and amps, in straight lines between the rows"
        return workings.add(
            key,
            pressed.amps,
            "A",
            label=label,
            formula="I(P)",
            words=words,
            inputs=[setting, *points],
            source="practice",
            note=note,
        )
    inputs = [
        full,
        setting,
        given(
            "I_q",
            "receive current, used as the idle current",
            load.receive_a,
            "A",
            f"{at}/receive_a",
        ),
    ]
    if load.rated_w:
        inputs.append(given("P_max", "rated power", load.rated_w, "W", f"{at}/rated_w"))
    words = "idle current, plus the rest times the square root of the share of full power"
    return workings.add(
        key,
        pressed.amps,
        "A",
        label=label,
        formula="I_q + (I_max − I_q) · √(P / P_max)",
        words=words,
        inputs=inputs,
        source="stage",
    )


def _rail_inputs(item: LoadDraw) -> list[Input]:
    rail = item.rail
    if rail is None:
        return []
    return [
        table("V_r", f"volts of {rail.name}", rail.volts.value, "V", "practice"),
        table("η", f"efficiency of {rail.name}", rail.efficiency.value, "share", "practice"),
        table("V", "bus volts", item.bus_v, "V", "arithmetic"),
    ]


def _mean(item: LoadDraw, at: str, pressed: Quantity | None, workings: Workings) -> Quantity:
    load = item.load
    key, label = f"draw.load.{load.id}.mean_a", f"{load.name}: average current while on"
    if item.nothing:
        return workings.add(
            key,
            item.mean_on_a,
            "A",
            label=label,
            formula="I = 0",
            words=item.nothing,
            inputs=[],
            source="practice",
        )
    inputs = [given("I_rx", "current receiving, or on", load.receive_a, "A", f"{at}/receive_a")]
    formula, words = "I = n · I_rx", "current when on, times how many"
    if pressed is not None:
        inputs.append(used("I_k", pressed))
        if load.mode is not None:
            inputs.append(
                table(
                    "m",
                    f"average share of transmit current in {load.mode.upper()}",
                    mode_share(load.mode),
                    "share",
                    "mode-share",
                )
            )
        share = given(
            "s",
            "share of its hours transmitting",
            load.transmit_share,
            "share",
            f"{at}/transmit_share",
        )
        inputs.append(share)
        formula = f"I = n · (I_rx · (1 − s) + {'m · ' if load.mode else ''}I_k · s)"
        words = (
            "receive and transmit current, each times its share of the time, added, times how many"
        )
    inputs.append(stated("n", "how many", load.quantity, "", f"{at}/quantity"))
    if item.rail is not None:
        formula += ", · V_r / (η · V) at the bus"
        words += "; through the converter to the bus"
        inputs += _rail_inputs(item)
    source = "mode-share" if load.mode and pressed else "practice"
    return workings.add(
        key,
        item.mean_on_a,
        "A",
        label=label,
        formula=formula,
        words=words,
        inputs=inputs,
        source=source,
    )


def _hours(item: LoadDraw, at: str, month: int) -> Input:
    load, value = item.load, float(item.hours[month - 1])
    if load.thermostat is not None:
        label = f"hours {load.thermostat.when} {celsius(load.thermostat.at_c.value)}"
        return table("h", label, value, "h", "season")
    if load.pattern is not None:
        return stated("h", "hours in its daily plan", value, "h", f"{at}/pattern")
    if load.events is not None:
        label = f"{load.events.per_day:g} times a day, {load.events.minutes:g} min"
        return stated("h", label, value, "h", f"{at}/events")
    return given("h", "hours a day", load.hours_per_day, "h", f"{at}/hours_per_day")


def load_figures(
    index: int, item: LoadDraw, month: int, bus_v: Quantity, year_ah: float, workings: Workings
) -> LoadFigures:
    """Work out one load. `year_ah` is the station's sum over twelve months' days, for the share.
    [A·h]

    Parameters
    ----------
    index : int
        Its place in the list, from 0.
    month : int
        The month of the figures, 1 to 12.
    bus_v : Quantity
        Nominal volts.
    year_ah : float
        The station's sum over twelve months' days. [A·h]
    """
    load, at = item.load, f"/draw/loads/{index}"
    shown = month_shown(item, month)
    pressed = _key_down(item, at, workings)
    mean = _mean(item, at, pressed, workings)
    inputs = [used("I", mean), _hours(item, at, shown)]
    formula, words = "Q = I · h", "average current while on, times the hours it is on"
    if load.standby_a is not None and not item.nothing:
        inputs.append(given("I_sb", "standby", load.standby_a, "A", f"{at}/standby_a"))
        formula, words = (
            "Q = I · h + I_sb · (24 − h)",
            words + ", and standby for the rest of the day",
        )
    label = f"{load.name}: amp-hours per day, {MONTH_NAMES[shown - 1]}"
    value = float(item.daily_ah[shown - 1])
    daily = workings.add(
        f"draw.load.{load.id}.daily_ah",
        value,
        "A·h",
        label=label,
        formula=formula,
        words=words,
        inputs=inputs,
        source="arithmetic",
    )
    energy = workings.add(
        f"draw.load.{load.id}.daily_wh",
        value * bus_v.number,
        "W·h",
        label=f"{load.name}: watt-hours a day",
        formula="E = Q · V",
        words="amp-hours times the nominal battery voltage",
        inputs=[used("Q", daily), used("V", bus_v)],
        source="arithmetic",
    )
    receiving = item.receive_daily_ah / float(item.daily_ah.max()) if item.daily_ah.any() else 0.0
    return LoadFigures(
        id=load.id,
        month=shown,
        key_down_a=pressed.key if pressed else None,
        mean_a=mean.key,
        daily_ah=daily.key,
        daily_wh=energy.key,
        share=float(item.daily_ah.sum()) / year_ah if year_ah else 0.0,
        receive_share=min(1.0, receiving),
        hourly_a=tuple(float(value) for value in item.hourly_a[shown - 1]),
        guessed_hours=hours_in_words(item.load),
    )
