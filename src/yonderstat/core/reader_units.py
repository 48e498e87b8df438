"""The units of whoever reads: figures are SI inside, and said in theirs by papers and the command
line."""

import re
from dataclasses import dataclass

from .electrical import size_name, tradition
from .words import MEASURE

FOOT_M, POUND_KG, MILE_KM = 0.3048, 0.45359237, 1.609344
HAND, SHORT = 2.0, 20.0
"""A length under these is told to a hundredth and to a tenth, a longer one whole: what is cut short
must not be cut wrong."""
SHOWN = {
    "d": "days",
    "A·h": "Ah",
    "W·h": "Wh",
    "kW·h": "kWh",
    "money": "",
    "money/kW·h": "/kWh",
    "×": "",
}


def _number(value: float, digits: int) -> str:
    """So many digits after the point at most, without trailing zeros, with a true minus."""
    text = f"{abs(value):,.{digits}f}"
    text = text.rstrip("0").rstrip(".") if "." in text else text
    return f"−{text}" if value < 0 and text.strip("0.,") else text


@dataclass(frozen=True, slots=True, kw_only=True)
class ReaderUnits:
    """Feet, pounds and gauges belong together; degrees are chosen apart."""

    feet: bool = False
    fahrenheit: bool = False

    def length(self, length_m: float) -> str:
        """A length: “4 m”, “13.1 ft”."""
        value = length_m / FOOT_M if self.feet else length_m
        digits = 2 if value < HAND else 1 if value < SHORT else 0
        return f"{_number(value, digits)} {'ft' if self.feet else 'm'}"

    def wire(self, mm2: float) -> str:
        """A conductor: “6 mm²”, and by its gauge where it is one and gauges are read."""
        if self.feet:
            return size_name(tradition("nec"), mm2)
        return f"{_number(mm2, 2)} mm²"

    def figure(self, value: float, unit: str, digits: int | None = None) -> str:
        """A figure with its unit, in about three digits that matter or in those it was given with.

        Parameters
        ----------
        value : float
            In the unit figures are kept in.
        unit : str
            That unit; a share is told in per cent.
        digits : int, optional
            How many after the point it was given with.
        """
        if unit == "m":
            return self.length(value)
        if unit == "mm²":
            return self.wire(value)
        if unit == "share":
            value, unit = 100.0 * value, "%"
        elif unit in {"°C", "K"} and self.fahrenheit:
            value = 1.8 * value + (32.0 if unit == "°C" else 0.0)
            unit = "°F"
        elif unit == "kg" and self.feet:
            value, unit = value / POUND_KG, "lb"
        elif unit == "km" and self.feet:
            value, unit = value / MILE_KM, "mi"
        if digits is None:
            size = abs(value)
            digits = 0 if size >= 100 else 1 if size >= 10 else 2 if size >= 0.1 else 3
        return f"{_number(value, digits)} {SHOWN.get(unit, unit)}".strip()

    def said(self, text: str) -> str:
        """A sentence with its marked figures, “{−9 °C}”, in these units."""

        def told(match: re.Match[str]) -> str:
            number, unit = match.groups()
            digits = len(number.partition(".")[2])
            if unit == "mm²" and not self.feet:
                return f"{number} {unit}"
            return self.figure(float(number.replace("−", "-")), unit, digits)

        return MEASURE.sub(told, text)


METRIC = ReaderUnits()
