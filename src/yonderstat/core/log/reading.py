"""A reading as an operator says it, on one line: “12.62 rest 3h”, “in 31 Ah out 28”, “box 34 C”."""

import re
from dataclasses import dataclass
from typing import Literal

Kind = Literal[
    "rest", "load", "counted", "temperature", "run", "gravity", "capacity", "amps", "words"
]
MOST_TEXT = 200
NUMBER = r"([+-]?\d+(?:[.,]\d+)?)"
LIMITS: dict[str, tuple[float, float, str]] = {
    "V": (0.0, 1000.0, "volts"),
    "A": (-2000.0, 2000.0, "amps"),
    "A·h": (0.0, 100_000.0, "amp-hours"),
    "h": (0.0, 10_000.0, "hours"),
    "°C": (-70.0, 120.0, "degrees"),
    "": (1.0, 1.4, "a specific gravity"),
}


@dataclass(frozen=True, slots=True)
class Reading:
    """What was read. `value` is in `unit`; `second` is hours rested, amps drawn, or amp-hours
    out."""

    kind: Kind
    value: float | None
    unit: str
    second: float | None = None
    of: str = ""
    """What was measured, where there are several: the box, the air."""


class ReadingError(ValueError):
    """A line that looks like a reading and is none."""


def _figure(text: str, unit: str) -> float:
    value = float(text.replace(",", "."))
    low, high, what = LIMITS[unit]
    if not low <= value <= high:
        raise ReadingError(f"{value:g} can't be {what}; it must be between {low:g} and {high:g}")
    return value


def _rest(found: re.Match[str]) -> Reading:
    hours = _figure(found[2], "h") if found[2] else None
    return Reading("rest", _figure(found[1], "V"), "V", hours)


def _load(found: re.Match[str]) -> Reading:
    return Reading("load", _figure(found[1], "V"), "V", _figure(found[2], "A"))


def _counted(found: re.Match[str]) -> Reading:
    return Reading("counted", _figure(found[1], "A·h"), "A·h", _figure(found[2], "A·h"))


def _temperature(found: re.Match[str]) -> Reading:
    degrees = float(found[2].replace(",", "."))
    celsius = (degrees - 32.0) / 1.8 if found[3].lower() == "f" else degrees
    return Reading("temperature", _figure(f"{celsius:.2f}", "°C"), "°C", None, found[1].lower())


def _run(found: re.Match[str]) -> Reading:
    minutes = float(found[2]) / 60.0 if found[2] else 0.0
    return Reading("run", _figure(found[1], "h") + minutes, "h")


def _gravity(found: re.Match[str]) -> Reading:
    return Reading("gravity", _figure(found[1], ""), "")


def _capacity(found: re.Match[str]) -> Reading:
    return Reading("capacity", _figure(found[1], "A·h"), "A·h")


def _amps(found: re.Match[str]) -> Reading:
    return Reading("amps", _figure(found[1], "A"), "A", None, found[2].lower())


FORMS = (
    (
        re.compile(
            rf"{NUMBER}\s*v?\s*(?:rest|rested|resting)\s*(?:(?:for\s*)?{NUMBER}\s*h(?:ours?)?)?",
            re.I,
        ),
        _rest,
    ),
    (re.compile(rf"{NUMBER}\s*v?\s*(?:at|under|@)\s*{NUMBER}\s*a(?:mps?)?", re.I), _load),
    (re.compile(rf"in\s*{NUMBER}\s*(?:ah)?[\s,;]*out\s*{NUMBER}\s*(?:ah)?", re.I), _counted),
    (re.compile(rf"(box|air|bank|battery|panel)\s*{NUMBER}\s*°?\s*([cf])", re.I), _temperature),
    (re.compile(rf"(?:ran|run)\s*{NUMBER}\s*h(?:ours?)?\s*(\d{{1,2}})?(?:\s*min)?", re.I), _run),
    (re.compile(rf"(?:sg|gravity)\s*{NUMBER}", re.I), _gravity),
    (re.compile(rf"(?:test|capacity|held)\s*{NUMBER}\s*ah", re.I), _capacity),
    (re.compile(rf"{NUMBER}\s*a(?:mps?)?\s*(in|out)", re.I), _amps),
)
EXAMPLES = "12.62 rest 3h, 11.9 at 20 A, in 31 Ah out 28, box 34 C, sg 1.225, test 78 Ah, ran 4h30"


def read_line(text: str) -> Reading:
    """What a line says; words are words.

    Raises
    ------
    ReadingError
        Where it begins like a reading and cannot be one, or is empty or too long.
    """
    tidy = " ".join(text.replace("−", "-").split())
    if not tidy:
        raise ReadingError(f"is empty; type a reading such as {EXAMPLES}")
    if len(tidy) > MOST_TEXT:
        raise ReadingError(f"has {len(tidy)} characters; {MOST_TEXT} are allowed")
    for form, make in FORMS:
        found = form.fullmatch(tidy)
        if found:
            return make(found)
    if re.match(r"[+-]?\d", tidy):
        raise ReadingError(
            f"begins with a number, but we can't read it; type a reading such as {EXAMPLES}"
        )
    return Reading("words", None, "")
