"""Tests of loads and their wires: what they take, and what is lost on the way."""

from ...changes import Change, replace
from ...design import Load
from ...station import StationModel
from ..meaning import TELLING, Meaning
from .base import FUSED, Asked, Expected, FigureError, Kind, Subject, Values, may, needs

BAD_JOINT = 1.6
"""A way that resists so many times the plan has a bad joint, or thinner wire than is typed. [C]"""


def _load_subjects(station: StationModel) -> tuple[Subject, ...]:
    found = []
    for load in station.design.draw.loads:
        expects = [Expected("On, or receiving", load.receive_a.value, "A")]
        if load.transmit_a is not None:
            expects.append(Expected("Transmitting at full power", load.transmit_a.value, "A"))
        found.append(Subject(load.id, load.name, tuple(expects)))
    return tuple(found)


def _survey(station: StationModel, subject: str, values: Values) -> Meaning:
    index, load = _load_of(station, subject)
    if load is None:
        return Meaning("This load is no longer in the design.")
    given = {
        "receive_a": needs(values, "receive_a", 0.0, 500.0, "the amps while it is on or receiving"),
        "transmit_a": may(values, "transmit_a", 0.0, 500.0, "the amps while transmitting"),
        "standby_a": may(values, "standby_a", 0.0, 500.0, "the amps while it is off"),
    }
    told, patch = [], []
    for name, amps in given.items():
        planned = getattr(load, name)
        if amps is None:
            continue
        was = planned.value if planned else None
        told.append(
            f"{WORDS_OF[name]} {amps:g} A" + ("" if was is None else f", planned {was:g} A")
        )
        if was is None or abs(amps - was) > max(0.02, TELLING * was / 2.0):
            patch.append(
                replace(f"/draw/loads/{index}/{name}", {"value": amps, "basis": "measured"})
            )
    words = f"{'; '.join(told)}."
    if not patch:
        return Meaning(f"{words} This agrees with the plan.")
    change = Change(
        f"Use your readings for {load.name}", "the plan rests on a measurement", tuple(patch)
    )
    return Meaning(words, f"/draw/loads/{index}/receive_a", change)


WORDS_OF = {"receive_a": "On", "transmit_a": "keyed", "standby_a": "off but connected"}


def _load_of(station: StationModel, subject: str) -> tuple[int, Load | None]:
    loads = station.design.draw.loads
    return next(
        ((number, load) for number, load in enumerate(loads) if load.id == subject), (-1, None)
    )


def _way_ohm(station: StationModel, load_id: str) -> float | None:
    reached = station.bus.of_load(load_id)
    return None if reached is None else sum(station.bus.runs[place].ohm for place in reached.path)


def _drop_subjects(station: StationModel) -> tuple[Subject, ...]:
    found = []
    for load in station.design.draw.loads:
        ohm = _way_ohm(station, load.id)
        if ohm is not None:
            amps = (load.transmit_a or load.receive_a).value
            expects = (Expected(f"Voltage drop at {amps:g} A", amps * ohm, "V"),)
            found.append(Subject(load.id, load.name, expects))
    return tuple(found)


def _drop(station: StationModel, subject: str, values: Values) -> Meaning:
    planned = _way_ohm(station, subject)
    if planned is None:
        return Meaning("This load is no longer in the design.")
    amps = needs(values, "amps", 0.1, 500.0, "the current meanwhile")
    post = needs(values, "post_v", 1.0, 1000.0, "the volts at the posts")
    there = needs(values, "load_v", 0.0, 1000.0, "the volts at the load")
    if there > post + 0.05:
        raise FigureError(
            "load_v", f"is {there:g} V, higher than the {post:g} V at the battery; swap the two"
        )
    ohm = max(post - there, 0.0) / amps
    told = f"The wiring has {1000 * ohm:.0f} mΩ; the plan has {1000 * planned:.0f} mΩ."
    if ohm > BAD_JOINT * planned + 0.002:
        why = (
            "There is a bad joint, or the wire is thinner or longer than you entered. Feel for "
            "warm spots."
        )
        return Meaning(f"{told} {why}", "/bus/runs")
    return Meaning(
        f"{told} The plan agrees."
        if ohm > planned / BAD_JOINT
        else f"{told} That is better than planned."
    )


KINDS: dict[str, Kind] = {
    "survey": Kind(
        title="Load survey",
        caution="Transmit into a dummy load, or on a clear frequency with your call sign.",
        steps=(
            "Put the meter in the load's own lead, or use a clamp meter.",
            "Read the amps while it is receiving, or just on.",
            "Transmit at the power you normally use and read the amps.",
            "Switch it off and read the amps it still draws.",
        ),
        asks=(
            Asked("receive_a", "On, or receiving", "amps"),
            Asked("transmit_a", "Transmitting", "amps", True),
            Asked("standby_a", "Off, but connected", "amps", True),
        ),
        subjects=_load_subjects,
        judge=_survey,
    ),
    "drop": Kind(
        title="Voltage drop test",
        caution=FUSED,
        steps=(
            "Make the load draw a steady current: transmit, or switch it on.",
            (
                "Within a few seconds, read the amps, the volts at the battery and the volts at "
                "the load's own terminals."
            ),
        ),
        asks=(
            Asked("amps", "Current during the test", "amps"),
            Asked("post_v", "Volts at the posts", "volts"),
            Asked("load_v", "Volts at the load", "volts"),
        ),
        subjects=_drop_subjects,
        judge=_drop,
    ),
}
