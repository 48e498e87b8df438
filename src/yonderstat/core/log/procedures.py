"""Guided tests: what is done in which order, what to expect, and what the result means for the plan."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Literal

from ..array import label_of
from ..changes import Change, Operation, replace
from ..design import Load, Module
from ..station import StationModel
from ..store import (
    bank_resistance_ohm,
    cut_off_v,
    loaded_v,
    peukert_of,
    rate_factor,
    rest_v,
    temperature_factor,
)
from .claims import runs_so_long, tracker_brings
from .meaning import TELLING, Meaning
from .noise import noise_words, noisy_things

Dimension = Literal["amps", "volts", "hours", "amp_hours", "temperature", "number"]
Values = Mapping[str, float]
FULL_SUN, ROOM_C = 1000.0, 25.0
WEAK, DIODE = 0.88, 0.20
"""A panel under this share of its amps is weak; one that lost as large a share of its volts has lost a diode. [C]"""
BAD_JOINT = 1.6
"""A way that resists so many times the plan has a bad joint, or thinner wire than is typed. [C]"""
TAIL_C = {"flooded": 0.02, "agm": 0.01, "gel": 0.01, "starting": 0.02, "lifepo4": 0.05, "nmc": 0.05}
"""Charge current over amp-hours at which a bank held at its absorption volts is full. [C]"""


@dataclass(frozen=True, slots=True)
class Asked:
    """A figure a test asks for."""

    id: str
    label: str
    dimension: Dimension
    optional: bool = False


@dataclass(frozen=True, slots=True)
class Expected:
    """What the plan expects to be read, worked out before the test is done."""

    label: str
    value: float
    unit: str


@dataclass(frozen=True, slots=True)
class Subject:
    """What can be tested: a load, a string, the bank."""

    id: str
    name: str
    expects: tuple[Expected, ...]


@dataclass(frozen=True, slots=True)
class Procedure:
    """A test as it is done."""

    id: str
    title: str
    caution: str
    steps: tuple[str, ...]
    asks: tuple[Asked, ...]
    subjects: tuple[Subject, ...]
    """Nothing to test where it is empty."""


class FigureError(ValueError):
    """A figure that no such test gives; `field` is which."""

    def __init__(self, field: str, message: str) -> None:
        super().__init__(message)
        self.field = field


def _needs(values: Values, field: str, low: float, high: float, what: str) -> float:
    value = values.get(field)
    if value is None:
        raise FigureError(field, f"is missing; type {what}")
    if not low <= value <= high:
        raise FigureError(field, f"is {value:g}; {what} lies between {low:g} and {high:g}")
    return value


def _may(values: Values, field: str, low: float, high: float, what: str) -> float | None:
    return None if values.get(field) is None else _needs(values, field, low, high, what)


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
            "The bank",
            (
                Expected("Rested and full", full, "V"),
                Expected("A steady load of", amps, "A"),
                Expected("Hours to the end, by the plan", held / amps, "h"),
                Expected("Volts at the end, loaded", _end_v(station), "V"),
            ),
        ),
    )


def _end_v(station: StationModel) -> float:
    """Loaded volts where a discharge test ends: the cut-off, or nearly empty at a twentieth of the label."""
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


def _discharge(station: StationModel, _subject: str, values: Values) -> Meaning:
    bank = station.bank
    if bank is None:
        return Meaning("There is no bank to read it against.")
    amps = _needs(values, "amps", 0.01, 2000.0, "the steady current")
    hours = _needs(values, "hours", 0.05, 500.0, "how long it lasted")
    end_v = _needs(values, "end_v", 1.0, 1000.0, "the volts at the end, still loaded")
    celsius = _may(values, "celsius", -30.0, 60.0, "the bank's temperature")
    before_v = _may(values, "before_v", 1.0, 1000.0, "the volts just before the load")
    first_v = _may(values, "first_v", 1.0, 1000.0, "the volts a moment after it came on")
    one = bank.bank
    given = amps * hours
    rate = at_label_rate(given / one.parallel, amps / one.parallel, one.hour_rate_h, peukert_of(one)) * one.parallel
    held = rate / temperature_factor(one.chemistry, ROOM_C if celsius is None else celsius)
    told = [f"It gave {given:.1f} Ah; at its label's rate and room temperature that is {held:.0f} Ah"]
    told[0] += f", {100 * held / bank.label_ah:.0f} % of its label."
    if before_v is not None and first_v is not None:
        ohm = (before_v - first_v) / amps
        planned = bank_resistance_ohm(one, station.bus_v, ROOM_C if celsius is None else celsius)
        told.append(f"It resists {1000 * ohm:.0f} mΩ; the plan has {1000 * planned:.0f} mΩ.")
    if end_v > _end_v(station) + 0.05 * station.bus_v / 12.0 * 4.0:
        told.append(f"The test ended early, at {end_v:.2f} V: it holds at least so much.")
        return Meaning(" ".join(told))
    if abs(held / bank.aged_ah - 1.0) < TELLING:
        return Meaning(" ".join([*told, "The plan agrees."]))
    value = {"value": round(held / one.parallel, 2), "basis": "measured"}
    told.append(f"The plan has {bank.aged_ah:.0f} Ah: what age has left is the input most likely wrong.")
    change = Change(f"Use {held:.0f} Ah as tested", "the plan rests on a measurement", (_tested(value),))
    return Meaning(" ".join(told), "/store/bank/tested_ah" if one.tested_ah else "/store/bank/health", change)


def _tested(value: object) -> Operation:
    return replace("/store/bank/tested_ah", value)


def _charge_subjects(station: StationModel) -> tuple[Subject, ...]:
    bank = station.bank
    if bank is None:
        return ()
    tail = TAIL_C[bank.bank.chemistry] * bank.label_ah
    return (
        Subject(
            "bank",
            "The bank",
            (Expected("Held at", station.array.absorb_v, "V"), Expected("Full when it takes less than", tail, "A")),
        ),
    )


def _charge(station: StationModel, _subject: str, values: Values) -> Meaning:
    bank = station.bank
    if bank is None:
        return Meaning("There is no bank to read it against.")
    volts = _needs(values, "held_v", 1.0, 1000.0, "the volts it was held at")
    tail = _needs(values, "tail_a", 0.0, 500.0, "the amps at the end")
    given = _may(values, "ah", 0.0, 100_000.0, "the amp-hours that went in")
    full_a, absorb_v = TAIL_C[bank.bank.chemistry] * bank.label_ah, station.array.absorb_v
    told = []
    if given is not None:
        back = given * station.array.kept_share
        told.append(f"{given:.0f} Ah went in; of those the plan has {back:.0f} Ah come back.")
    if volts < absorb_v - 0.015 * absorb_v:
        told.append(f"It was held at {volts:.2f} V and wants {absorb_v:.2f} V: it never gets full so.")
        return Meaning(" ".join(told), "/array/strings" if station.design.array.strings else "/array/chargers")
    if tail > full_a:
        told.append(f"It still took {tail:.1f} A, and is full under {full_a:.1f} A: not full yet.")
    else:
        told.append(f"It took {tail:.1f} A at the end, under {full_a:.1f} A: full.")
    return Meaning(" ".join(told))


def _panel_subjects(station: StationModel) -> tuple[Subject, ...]:
    found = []
    for string in station.design.array.strings:
        label = label_of(string.module)
        expects = (
            Expected("Open-circuit volts of one panel, cells at 25 °C", label.v_oc, "V"),
            Expected("Short-circuit amps of one panel, in full sun", label.i_sc, "A"),
        )
        found.append(Subject(string.id, string.name, expects))
    return tuple(found)


def panel_verdict(module: Module, v_oc: float, i_sc: float, sun_w_m2: float, cell_c: float) -> tuple[str, float, float]:
    """What a panel's meter readings say.

    Parameters
    ----------
    v_oc, i_sc : float
        Read on one panel. [V], [A]
    sun_w_m2 : float
        Light on it. [W/m²]
    cell_c : float
        Its cells. [°C]

    Returns
    -------
    tuple of (str, float, float)
        "healthy", "weak", "diode" or "dark"; and volts and amps over what the label has in that light and warmth.

    Notes
    -----
    Amps go with the light; volts with the cells' temperature, and with the logarithm of the light, which is left out
    above a third of full sun (under 3 % there).
    """
    label = label_of(module)
    volts = v_oc / (label.v_oc * (1.0 + label.v_oc_per_k * (cell_c - ROOM_C)))
    amps = i_sc / (label.i_sc * sun_w_m2 / FULL_SUN * (1.0 + label.i_sc_per_k * (cell_c - ROOM_C)))
    if volts < 0.5:
        return "dark", volts, amps
    if volts < 1.0 - DIODE:
        return "diode", volts, amps
    return ("weak" if amps < WEAK else "healthy"), volts, amps


PANEL_WORDS = {
    "healthy": "It is healthy.",
    "weak": "It is weak: dirt, shade, age, or a corroded joint. Clean it and test it again before it is planned so.",
    "diode": "A third of its volts is missing: a bypass diode is gone, or a part of it stands in shade.",
    "dark": "Half its volts and more are missing: a broken joint, deep shade, or another sort of panel.",
}


def _panel(station: StationModel, subject: str, values: Values) -> Meaning:
    strings = station.design.array.strings
    index = next((number for number, string in enumerate(strings) if string.id == subject), None)
    if index is None:
        return Meaning("The string it was is gone from this design.")
    v_oc = _needs(values, "v_oc", 0.0, 150.0, "open-circuit volts of one panel")
    i_sc = _needs(values, "i_sc", 0.0, 40.0, "short-circuit amps of one panel")
    sun = _may(values, "sun_w_m2", 300.0, 1400.0, "the light on it")
    cell = _may(values, "cell_c", -30.0, 100.0, "the cells' temperature")
    light, warmth = (FULL_SUN if sun is None else sun), (50.0 if cell is None else cell)
    found, volts, amps = panel_verdict(strings[index].module, v_oc, i_sc, light, warmth)
    told = f"{100 * volts:.0f} % of the label's volts and {100 * amps:.0f} % of its amps, in that light."
    if sun is None:
        told += " The light was not measured: full sun is taken, and the amps say little without it."
    at = f"/array/strings/{index}/module"
    if found == "healthy" or sun is None:
        return Meaning(f"{told} {PANEL_WORDS[found]}", "" if found == "healthy" else f"{at}/condition")
    label = label_of(strings[index].module)
    measured = {"value": round(label.i_sc * amps, 2), "basis": "measured"}
    patch: tuple[Operation, ...] = (replace(f"{at}/measured_i_sc", measured),)
    if found == "diode":
        patch = (*patch, replace(f"{at}/bypass_lost", True))
    change = Change("Use it as measured", "the plan rests on a measurement", patch)
    return Meaning(f"{told} {PANEL_WORDS[found]}", f"{at}/measured_i_sc", change)


def _load_subjects(station: StationModel) -> tuple[Subject, ...]:
    found = []
    for load in station.design.draw.loads:
        expects = [Expected("On, or receiving", load.receive_a.value, "A")]
        if load.transmit_a is not None:
            expects.append(Expected("Keyed, at full power", load.transmit_a.value, "A"))
        found.append(Subject(load.id, load.name, tuple(expects)))
    return tuple(found)


def _survey(station: StationModel, subject: str, values: Values) -> Meaning:
    index, load = _load_of(station, subject)
    if load is None:
        return Meaning("The load it was is gone from this design.")
    given = {
        "receive_a": _needs(values, "receive_a", 0.0, 500.0, "the amps while it is on or receives"),
        "transmit_a": _may(values, "transmit_a", 0.0, 500.0, "the amps while keyed"),
        "standby_a": _may(values, "standby_a", 0.0, 500.0, "the amps while it is off"),
    }
    told, patch = [], []
    for name, amps in given.items():
        planned = getattr(load, name)
        if amps is None:
            continue
        was = planned.value if planned else None
        told.append(f"{WORDS_OF[name]} {amps:g} A" + ("" if was is None else f", planned {was:g} A"))
        if was is None or abs(amps - was) > max(0.02, TELLING * was / 2.0):
            patch.append(replace(f"/draw/loads/{index}/{name}", {"value": amps, "basis": "measured"}))
    words = f"{'; '.join(told)}."
    if not patch:
        return Meaning(f"{words} The plan agrees.")
    change = Change(f"Use what was measured on {load.name}", "the plan rests on a measurement", tuple(patch))
    return Meaning(words, f"/draw/loads/{index}/receive_a", change)


WORDS_OF = {"receive_a": "On", "transmit_a": "keyed", "standby_a": "off but connected"}


def _load_of(station: StationModel, subject: str) -> tuple[int, Load | None]:
    loads = station.design.draw.loads
    return next(((number, load) for number, load in enumerate(loads) if load.id == subject), (-1, None))


def _way_ohm(station: StationModel, load_id: str) -> float | None:
    reached = station.bus.of_load(load_id)
    return None if reached is None else sum(station.bus.runs[place].ohm for place in reached.path)


def _drop_subjects(station: StationModel) -> tuple[Subject, ...]:
    found = []
    for load in station.design.draw.loads:
        ohm = _way_ohm(station, load.id)
        if ohm is not None:
            amps = (load.transmit_a or load.receive_a).value
            expects = (Expected(f"Lost on its way at {amps:g} A", amps * ohm, "V"),)
            found.append(Subject(load.id, load.name, expects))
    return tuple(found)


def _drop(station: StationModel, subject: str, values: Values) -> Meaning:
    planned = _way_ohm(station, subject)
    if planned is None:
        return Meaning("The load it was is gone from this design.")
    amps = _needs(values, "amps", 0.1, 500.0, "the current meanwhile")
    post = _needs(values, "post_v", 1.0, 1000.0, "the volts at the posts")
    there = _needs(values, "load_v", 0.0, 1000.0, "the volts at the load")
    if there > post + 0.05:
        raise FigureError("load_v", f"is {there:g} V, over the {post:g} V at the posts; swap the two")
    ohm = max(post - there, 0.0) / amps
    told = f"The way resists {1000 * ohm:.0f} mΩ; the plan has {1000 * planned:.0f} mΩ."
    if ohm > BAD_JOINT * planned + 0.002:
        why = "A bad joint, or thinner or longer wire than is typed: feel for what is warm."
        return Meaning(f"{told} {why}", "/bus/runs")
    return Meaning(f"{told} The plan agrees." if ohm > planned / BAD_JOINT else f"{told} Better than planned.")


def _noise_subjects(station: StationModel) -> tuple[Subject, ...]:
    return tuple(Subject(key, name, ()) for key, name in noisy_things(station.design))


def _noise(_station: StationModel, _subject: str, values: Values) -> Meaning:
    band = _needs(values, "band_mhz", 0.1, 3000.0, "the frequency in MHz")
    off = _needs(values, "off", -180.0, 80.0, "the level with it off")
    on = _needs(values, "on", -180.0, 80.0, "the level with it on")
    spacing = _may(values, "spacing_khz", 0.01, 5000.0, "the spacing in kHz")
    words, _ = noise_words(band, off, on, spacing)
    return Meaning(words)


def _tempo_subjects(station: StationModel) -> tuple[Subject, ...]:
    if station.bank is None:
        return ()
    return tuple(Subject(tempo.id, tempo.name, ()) for tempo in station.design.draw.tempos)


def _hours_claim(station: StationModel, subject: str, values: Values) -> Meaning:
    return Meaning(runs_so_long(station, subject, _needs(values, "hours", 0.1, 9000.0, "the hours that are claimed")))


def _array_subject(station: StationModel) -> tuple[Subject, ...]:
    return (Subject("array", "The panels", ()),) if station.design.array.strings else ()


def _tracker_claim(station: StationModel, _subject: str, values: Values) -> Meaning:
    return Meaning(tracker_brings(station, _needs(values, "percent", -100.0, 1000.0, "the per cent that are claimed")))


Judge = Callable[[StationModel, str, Values], Meaning]
FUSED = "Fuse the test lead. A battery drives thousands of amps into a spanner."


@dataclass(frozen=True, slots=True)
class _Kind:
    title: str
    caution: str
    steps: tuple[str, ...]
    asks: tuple[Asked, ...]
    subjects: Callable[[StationModel], tuple[Subject, ...]]
    judge: Judge


KINDS: dict[str, _Kind] = {
    "discharge": _Kind(
        "Discharge test",
        f"{FUSED} Stop at the end volts: deeper harms the battery.",
        (
            "Charge it full and let it rest three hours with nothing on it.",
            "Read the volts, then switch on a steady load and read the volts again at once.",
            "Note the time; read amps and volts every half hour.",
            "Stop at the end volts, still loaded. Note the hours, then charge it at once.",
        ),
        (
            Asked("amps", "Steady current", "amps"),
            Asked("hours", "Lasted", "hours"),
            Asked("end_v", "Volts at the end, loaded", "volts"),
            Asked("before_v", "Volts just before the load", "volts", True),
            Asked("first_v", "Volts a moment after it came on", "volts", True),
            Asked("celsius", "Temperature of the bank", "temperature", True),
        ),
        _bank_subjects,
        _discharge,
    ),
    "charge": _Kind(
        "Charge record",
        "Lead lets hydrogen go near full: air the room, no sparks.",
        (
            "Begin with a bank that is partly empty; reset the meter's amp-hours.",
            "Charge without a break; note when the volts stop rising.",
            "When the amps no longer fall, read volts and amps, and the amp-hours that went in.",
        ),
        (
            Asked("held_v", "Volts it was held at", "volts"),
            Asked("tail_a", "Amps at the end", "amps"),
            Asked("ah", "Amp-hours that went in", "amp_hours", True),
        ),
        _charge_subjects,
        _charge,
    ),
    "panel": _Kind(
        "Panel test",
        "Panels are live in any light; short them only through a meter or a switch made for DC, and never in series.",
        (
            "Disconnect the panel from the controller; clean its glass.",
            "Face it to the sun around noon. Read the open-circuit volts.",
            "Read the short-circuit amps through the meter, at once.",
            "Read the light with a pyranometer or a phone's estimate, and the temperature of its back, where you can.",
        ),
        (
            Asked("v_oc", "Open-circuit volts", "volts"),
            Asked("i_sc", "Short-circuit amps", "amps"),
            Asked("sun_w_m2", "Light on it, W/m²", "number", True),
            Asked("cell_c", "Temperature of its back", "temperature", True),
        ),
        _panel_subjects,
        _panel,
    ),
    "survey": _Kind(
        "Load survey",
        "Transmit into a dummy load, or on a clear frequency with your call.",
        (
            "Put the meter in the load's own lead, or clamp it.",
            "Read the amps while it receives or is simply on.",
            "Key it at the power it is used at and read the amps.",
            "Switch it off and read what it still takes.",
        ),
        (
            Asked("receive_a", "On, or receiving", "amps"),
            Asked("transmit_a", "Keyed", "amps", True),
            Asked("standby_a", "Off, but connected", "amps", True),
        ),
        _load_subjects,
        _survey,
    ),
    "drop": _Kind(
        "Voltage drop test",
        FUSED,
        (
            "Draw a steady current through the load: key it, or switch it on.",
            "Read the amps, the volts at the posts and the volts at the load's own terminals, within a few seconds.",
        ),
        (
            Asked("amps", "Current meanwhile", "amps"),
            Asked("post_v", "Volts at the posts", "volts"),
            Asked("load_v", "Volts at the load", "volts"),
        ),
        _drop_subjects,
        _drop,
    ),
    "noise": _Kind(
        "Noise of a device",
        "Switch off what can be spared, one thing at a time; leave safety and other people's stations on.",
        (
            "Run the receiver from a bare battery, all else off: that is the baseline. No squelch, no noise blanker.",
            "Read the level on a quiet frequency with the device off, then on: in S-units (29 is S9+20) or dBm.",
            "Where carriers stand in a row, note their spacing.",
        ),
        (
            Asked("band_mhz", "Frequency, MHz", "number"),
            Asked("off", "Level with it off, S or dBm", "number"),
            Asked("on", "Level with it on, S or dBm", "number"),
            Asked("spacing_khz", "Spacing of carriers, kHz", "number", True),
        ),
        _noise_subjects,
        _noise,
    ),
    "claim-hours": _Kind(
        "A claim: it runs so long",
        "A claim is somebody's experience with another station.",
        ("Write down how long, as it was said.", "It is worked out for this station, from full, with no sun."),
        (Asked("hours", "Hours that are claimed", "hours"),),
        _tempo_subjects,
        _hours_claim,
    ),
    "claim-mppt": _Kind(
        "A claim: an MPPT brings more",
        "A claim is somebody's experience with other panels and another bank.",
        ("Write down how much more, as it was said.", "It is worked out for these panels, this bank and this sun."),
        (Asked("percent", "Per cent more, as claimed", "number"),),
        _array_subject,
        _tracker_claim,
    ),
}


def procedures_of(station: StationModel) -> tuple[Procedure, ...]:
    """The tests a station can be put to, with what to expect of each."""
    made = (
        Procedure(key, kind.title, kind.caution, kind.steps, kind.asks, kind.subjects(station))
        for key, kind in KINDS.items()
    )
    return tuple(procedure for procedure in made if procedure.subjects)


def judged_test(station: StationModel, kind: str, subject: str, values: Values) -> Meaning:
    """What a test's figures mean for a design.

    Raises
    ------
    FigureError
        Where a figure is missing, or is none such a test gives.
    """
    return KINDS[kind].judge(station, subject, values)


def line_of_test(kind: str, name: str, values: Values) -> str:
    """The line the log keeps of a test."""
    told = ", ".join(
        f"{asked.label[0].lower()}{asked.label[1:]} {values[asked.id]:g}"
        for asked in KINDS[kind].asks
        if asked.id in values
    )
    return f"{KINDS[kind].title}, {name}: {told}"
