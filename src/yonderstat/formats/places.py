"""Reading where a station is: a grid locator, or coordinates in the usual notations."""

import re
from dataclasses import dataclass

import maidenhead

MAX_TEXT = 80
LOCATOR = re.compile(r"[A-R]{2}[0-9]{2}(?:[A-X]{2}(?:[0-9]{2}(?:[A-X]{2})?)?)?")
LOOKS_LIKE_LOCATOR = re.compile(r"[A-Z]{2}[0-9]{2}[A-Z0-9]{0,6}")
SIGNED = re.compile(r"([+-]?\d+(?:\.\d+)?)°?")
NUMBER = r"\d+(?:\.\d+)?"
MARKED = re.compile(
    rf"(?P<before>[NSEW])?\s*(?P<deg>{NUMBER})\s*°?\s*"
    rf"(?:(?P<min>{NUMBER})\s*[′']\s*)?(?:(?P<sec>{NUMBER})\s*(?:″|\"|'')\s*)?(?P<after>[NSEW])?"
)


class PlaceTextError(ValueError):
    """The text is not a place; the message says what to type instead."""


@dataclass(frozen=True, slots=True)
class PlaceText:
    """A place read from text. [°]"""

    latitude_deg: float
    longitude_deg: float
    locator: str


def locator_of(latitude_deg: float, longitude_deg: float) -> str:
    """The six-character grid locator of a place, written RE56tv; the far edges belong to the last
    square."""
    inside_lat = min(max(latitude_deg, -90.0), 89.98)
    inside_lon = min(max(longitude_deg, -180.0), 179.96)
    text = str(maidenhead.to_maiden(inside_lat, inside_lon, 3))
    return text[:4].upper() + text[4:].lower()


def _from_locator(text: str) -> PlaceText:
    if not LOCATOR.fullmatch(text):
        raise PlaceTextError(
            f"{text} isn't a grid locator. Write two letters A–R, two digits and, if you "
            "like, two letters A–X, such as RE56tv"
        )
    latitude, longitude = maidenhead.to_location(text, center=True)
    return PlaceText(round(latitude, 5), round(longitude, 5), text[:4] + text[4:].lower())


def _angle(match: re.Match[str]) -> tuple[float, str]:
    minutes, seconds = float(match["min"] or 0), float(match["sec"] or 0)
    if minutes >= 60 or seconds >= 60:
        raise PlaceTextError("minutes and seconds must be below 60, as in 43°06′S 171°36′E")
    letter = match["before"] or match["after"] or ""
    value = float(match["deg"]) + minutes / 60 + seconds / 3600
    return (-value if letter in {"S", "W"} else value), letter


def _marked(text: str) -> tuple[float, float] | None:
    parts = re.findall(r"[NSEW][^NSEW]+|[^NSEW]+[NSEW]", text)
    if len(parts) != 2 or "".join(parts).replace(" ", "") != text.replace(" ", ""):
        return None
    matches = [MARKED.fullmatch(part.strip()) for part in parts]
    if not all(matches):
        return None
    angles = [_angle(match) for match in matches if match]
    by_axis = {"lat" if letter in {"N", "S"} else "lon": value for value, letter in angles}
    return (by_axis["lat"], by_axis["lon"]) if len(by_axis) == 2 else None


def _signed(text: str) -> tuple[float, float] | None:
    parts = [
        part for part in re.split(r"[\s;]+", text.replace(", ", " ").replace(",", " ")) if part
    ]
    matches = [SIGNED.fullmatch(part) for part in parts]
    if len(parts) != 2 or not all(matches):
        return None
    latitude, longitude = (float(match[1]) for match in matches if match)
    return latitude, longitude


def read_place(text: str) -> PlaceText:
    """The place a text names.

    Takes a grid locator (`RE56tv`, 4 to 10 characters), signed degrees (`-43.10, 171.60`), or
    degrees, minutes and seconds with letters (`43°06′S 171°36′E`).

    Raises
    ------
    PlaceTextError
        Saying what is wrong and what to type instead.
    """
    tidy = " ".join(text.upper().replace("−", "-").replace("º", "°").split())
    if not tidy:
        raise PlaceTextError(
            "is empty; type a grid locator such as RE56tv, or degrees such as -43.10 171.60"
        )
    if len(tidy) > MAX_TEXT:
        raise PlaceTextError(
            f"is longer than {MAX_TEXT} characters; type a grid locator such as RE56tv"
        )
    if LOOKS_LIKE_LOCATOR.fullmatch(tidy):
        return _from_locator(tidy)
    # The letters must be looked for in the text with its commas out: 43.1 S, 171.6 E.
    found = _signed(tidy) or _marked(tidy.replace(",", " "))
    if found is None:
        raise PlaceTextError(
            "isn't a grid locator or coordinates. Type for example RE56tv, -43.10 171.60 or "
            "43°06′S 171°36′E"
        )
    latitude, longitude = found
    if abs(latitude) > 90:
        raise PlaceTextError(f"latitude {latitude:g} doesn't exist; use -90 (south) to 90 (north)")
    if abs(longitude) > 180:
        raise PlaceTextError(
            f"longitude {longitude:g} doesn't exist; use -180 (west) to 180 (east)"
        )
    return PlaceText(latitude, longitude, locator_of(latitude, longitude))
