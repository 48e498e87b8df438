"""A reading as it is said on the air: “11.4 at the HF radio, transmitting”, “10.4 A at 11, clear”."""

import re
from dataclasses import dataclass
from difflib import SequenceMatcher

from ..draw import is_operated
from ..station import StationModel
from .moment import Moment, Sky
from .points import Point, points_of

MOST_TEXT = 160
FIGURE = re.compile(
    r"(?<![\w.])(-?\d+(?:[.,]\d+)?)\s*(mv|ma|v(?:olts?)?|a(?:mps?)?)?(?![\w])", re.I
)
HOUR = re.compile(
    r"\b(?:at|@)\s*(\d{1,2})(?::[0-5]\d)?(?:\s*(?:h|o'?clock|hours?))?\b(?!\s*[.,]?\d*\s*[va])",
    re.I,
)
SKIES: dict[Sky, str] = {
    "clear": r"clear|sunny|full sun|blue sky|bright",
    "thin": r"thin|hazy|haze|patchy|part(?:ly)? cloud|some cloud",
    "grey": r"grey|gray|overcast|cloudy|rain|dull",
    "night": r"night|dark|no sun|after sunset|before dawn",
}
KEYED = re.compile(r"transmit|on the key|key(?:ed| down)|\btx\b|while talking|when i talk", re.I)
CHARGER = re.compile(r"charger|on (?:the )?mains|plugged in|engine|generator|driving", re.I)
KINDS: tuple[tuple[str, str], ...] = (
    ("across", r"\bacross\b|holder|over the fuse"),
    ("open", r"\bopen\b|\bvoc\b"),
    ("short", r"\bshort(?:ed)?\b|\bisc\b"),
    (
        "charge",
        r"into the battery|from the (?:controller|panels?)|charging|coming in|\bin\b$|solar",
    ),
    ("draw", r"out of the battery|all loads|total|altogether"),
    ("battery", r"\bbattery\b|\bposts?\b|terminals?|\bbank\b"),
)
EXAMPLES = "11.4 at the HF radio, transmitting · 10.4 A at 11, clear · 13.1 battery · open 19.2"
ALIKE, SHORT = 0.8, 5


class CannotTellError(ValueError):
    """A line of which it cannot be told what was measured, or where."""


@dataclass(frozen=True, slots=True)
class SaidReading:
    """What a line says: where, how much, and when."""

    point: Point
    value: float
    moment: Moment


def _words(text: str) -> list[str]:
    return [word for word in re.split(r"[^a-z0-9äöüéèáíóñç]+", text.lower()) if word]


def _is_alike(word: str, other: str) -> bool:
    """The same word, or one that is mistyped: short ones must be the same, as HF is not VHF."""
    if min(len(word), len(other)) < SHORT:
        return word == other
    return SequenceMatcher(None, word, other).ratio() >= ALIKE


RADIOS = frozenset({"radio", "set", "rig", "transceiver"})


def _one_radio(words: list[str]) -> list[str]:
    """Words without their numbers; a set and a rig are radios, whatever the row is called."""
    return ["radio" if word in RADIOS else word for word in words if not word.isdigit()]


def _named(text: str, station: StationModel) -> str | None:
    """The run, rail or string whose name a line says best; None where it says none."""
    said = _one_radio(_words(text))
    design = station.design
    best: tuple[float, str] | None = None
    rows = [(f"load-{item.id}", item.name) for item in design.draw.loads]
    rows += [(f"rail-{item.id}", item.name) for item in design.draw.rails]
    rows += [(item.id, item.name) for item in design.array.strings]
    for key, name in rows:
        named = [word for word in _one_radio(_words(name)) if len(word) > 1]
        hits = sum(any(_is_alike(word, other) for other in said) for word in named)
        score = hits / max(len(named), 1)
        if hits and (best is None or score > best[0]):
            best = score, key
    return best[1] if best else None


def _figure(text: str) -> tuple[float, str]:
    found = FIGURE.search(text)
    if found is None:
        raise CannotTellError(f"has no figure in it; say something like {EXAMPLES}")
    unit = (found[2] or "").lower()
    value = float(found[1].replace(",", "."))
    if unit in {"mv", "ma"}:
        return value / 1000.0, unit[1].upper()
    return value, unit[:1].upper()


def _unit_meant(value: float, station: StationModel) -> str:
    """Volts where the figure is one of the bus's, whatever is said to flow; else nothing."""
    return "V" if 0.75 * station.bus_v <= value <= 1.35 * station.bus_v else ""


def _point(text: str, unit: str, typed: bool, station: StationModel) -> Point:
    points = {item.id: item for item in points_of(station)}
    named = _named(text, station)
    kind = next((kind for kind, form in KINDS if re.search(form, text, re.I)), "")
    wanted: list[str] = []
    if kind == "charge" and unit == "V":
        kind, named = "battery", None
    if named and kind in {"open", "short", "charge"}:
        wanted = [f"{kind}:{named}"]
    elif named and kind == "across":
        wanted = [f"across:{named}"]
    elif named and unit == "A":
        wanted = [f"amps:{named}", f"charge:{named}"]
    elif named:
        wanted = [f"volts:{named}", f"open:{named}"]
    elif re.search(r"fuse block|\bbus\b", text, re.I):
        wanted = [item.id for item in points.values() if item.short == "fuse block"]
    elif kind in {"battery", "draw"} and not (kind == "battery" and unit == "A"):
        wanted = [kind]
    elif kind:
        wanted = [key for key, item in points.items() if item.kind == kind]
    elif re.search(r"panels?\b", text, re.I):
        wanted = [key for key, item in points.items() if item.kind == "open"]
    if not wanted or wanted[0] not in points:
        sunny = any(re.search(form, text, re.I) for form in (SKIES["clear"], SKIES["thin"]))
        wanted += [key for key, item in points.items() if unit == "A" and item.kind == "charge"]
        wanted += ["draw" if unit == "A" and not sunny else "battery"]
    found = next((points[key] for key in wanted if key in points), None)
    if found is None:
        raise CannotTellError(f"does not say where; say something like {EXAMPLES}")
    if unit and unit != found.unit and typed:
        raise CannotTellError(
            f"gives {'amps' if unit == 'A' else 'volts'} {found.name}, where "
            f"{'volts' if found.unit == 'V' else 'amps'} are measured; say which you mean"
        )
    return found


def _keyed(text: str, point: Point, station: StationModel, before: str) -> str:
    if not KEYED.search(text):
        return before
    radios = [item.id for item in station.design.draw.loads if is_operated(item)]
    at = point.of.removeprefix("load-")
    if at in radios:
        return at
    named = (_named(text, station) or "").removeprefix("load-")
    return named if named in radios else (before or (radios[0] if radios else ""))


def reading_of(text: str, station: StationModel, now: Moment) -> SaidReading:
    """What a line says of a station.

    Parameters
    ----------
    text : str
        As it was typed.
    now : Moment
        What holds where the line does not say otherwise.

    Raises
    ------
    CannotTellError
        Where it has no figure, is too long, or does not say what of the station was measured.
    """
    tidy = " ".join(text.replace("−", "-").split())
    if len(tidy) > MOST_TEXT:
        raise CannotTellError(f"has {len(tidy)} characters; {MOST_TEXT} are allowed")
    value, unit = _figure(tidy)
    point = _point(tidy, unit or _unit_meant(value, station), bool(unit), station)
    changes: dict[str, object] = {}
    for sky, form in SKIES.items():
        if re.search(form, tidy, re.I):
            changes["sky"] = sky
    rest = FIGURE.sub("", tidy, count=1)
    hour = HOUR.search(rest)
    if hour is not None and int(hour[1]) < 24:
        changes["hour"] = int(hour[1])
    if CHARGER.search(tidy) or (re.search("charging", tidy, re.I) and now.sky == "night"):
        changes["charger"] = bool(station.design.array.chargers or station.design.array.alternator)
    changes["keyed"] = _keyed(tidy, point, station, now.keyed)
    return SaidReading(point, value, now.model_copy(update=changes))
