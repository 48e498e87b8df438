"""The panel test: healthy, weak, or a diode gone."""

from ...array import label_of
from ...changes import Change, Operation, replace
from ...design import Module
from ...station import StationModel
from ..meaning import Meaning
from .base import ROOM_C, Asked, Expected, Kind, Subject, Values, may, needs

FULL_SUN = 1000.0
WEAK, DIODE = 0.88, 0.20
"""A panel under this share of its amps is weak; one that lost as large a share of its volts has
lost a diode. [C]"""


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


def panel_verdict(
    module: Module, v_oc: float, i_sc: float, sun_w_m2: float, cell_c: float
) -> tuple[str, float, float]:
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
        "healthy", "weak", "diode" or "dark"; and volts and amps over what the label has in that
        light and warmth.

    Notes
    -----
    Amps go with the light; volts with the cells' temperature, and with the logarithm of the light,
    which is left out above a third of full sun (under 3 % there).
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
    "weak": (
        "It is weak: dirt, shade, age or a corroded joint. Clean it and test again before "
        "you plan with these figures."
    ),
    "diode": (
        "About a third of its volts is missing. A bypass diode has failed, or part of the "
        "panel is in shade."
    ),
    "dark": (
        "More than half of its volts are missing: a broken joint, deep shade, or another "
        "type of panel."
    ),
}


def _panel(station: StationModel, subject: str, values: Values) -> Meaning:
    strings = station.design.array.strings
    index = next((number for number, string in enumerate(strings) if string.id == subject), None)
    if index is None:
        return Meaning("The string it was is gone from this design.")
    v_oc = needs(values, "v_oc", 0.0, 150.0, "open-circuit volts of one panel")
    i_sc = needs(values, "i_sc", 0.0, 40.0, "short-circuit amps of one panel")
    sun = may(values, "sun_w_m2", 300.0, 1400.0, "the light on it")
    cell = may(values, "cell_c", -30.0, 100.0, "the cells' temperature")
    light, warmth = (FULL_SUN if sun is None else sun), (50.0 if cell is None else cell)
    found, volts, amps = panel_verdict(strings[index].module, v_oc, i_sc, light, warmth)
    told = (
        f"{100 * volts:.0f} % of the label's volts and {100 * amps:.0f} % of its amps, "
        "corrected for that light."
    )
    if sun is None:
        told += (
            " The light was not measured, so we assume full sun. The amps say little without it."
        )
    at = f"/array/strings/{index}/module"
    if found == "healthy" or sun is None:
        return Meaning(
            f"{told} {PANEL_WORDS[found]}", "" if found == "healthy" else f"{at}/condition"
        )
    label = label_of(strings[index].module)
    measured = {"value": round(label.i_sc * amps, 2), "basis": "measured"}
    patch: tuple[Operation, ...] = (replace(f"{at}/measured_i_sc", measured),)
    if found == "diode":
        patch = (*patch, replace(f"{at}/bypass_lost", True))
    change = Change("Use these measured figures", "the plan rests on a measurement", patch)
    return Meaning(f"{told} {PANEL_WORDS[found]}", f"{at}/measured_i_sc", change)


KINDS: dict[str, Kind] = {
    "panel": Kind(
        title="Panel test",
        caution=(
            "Shock and arcs: panels are live in any light. Short-circuit a panel only through "
            "a meter or switch made for DC, and never panels in series."
        ),
        steps=(
            "Disconnect the panel from the controller and clean its glass.",
            "Point it at the sun around noon. Read the open-circuit volts.",
            "Right after that, read the short-circuit amps with the meter.",
            (
                "If you can, measure the light with a pyranometer or a phone, and the temperature "
                "of the panel's back."
            ),
        ),
        asks=(
            Asked("v_oc", "Open-circuit volts", "volts"),
            Asked("i_sc", "Short-circuit amps", "amps"),
            Asked("sun_w_m2", "Light on it, W/m²", "number", True),
            Asked("cell_c", "Temperature of its back", "temperature", True),
        ),
        subjects=_panel_subjects,
        judge=_panel,
    ),
}
