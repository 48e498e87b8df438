"""What a transmitter takes on the key, at the power in use and in the mode in use."""

import math
from dataclasses import dataclass

import numpy as np

from ..data import rows_by
from ..design import Load, Mode, PowerPoint


@dataclass(frozen=True, slots=True)
class KeyDown:
    """Key-down current and how it was found; `clamped` says the table had to be held at its end."""

    amps: float
    watts: float | None
    by: str
    """full, curve or table"""
    clamped: bool = False


def stage_current_a(power_w: float, rated_w: float, full_a: float, quiescent_a: float) -> float:
    """Current of a class-AB stage below full power. [A]

    Parameters
    ----------
    power_w : float
        The power it is turned to. [W]
    rated_w : float
        Its full power. [W]
    full_a : float
        At full power. [A]
    quiescent_a : float
        Keyed with no drive. [A]

    Notes
    -----
    I = I_q + (I_max − I_q) · √(P / P_max); from memory.
    """
    return quiescent_a + (full_a - quiescent_a) * math.sqrt(min(1.0, power_w / rated_w))


def table_current_a(table: list[PowerPoint], power_w: float) -> tuple[float, bool]:
    """Current from a set's own power table: straight between points, held at the ends and said so.
    [A]"""
    points = sorted(table, key=lambda point: point.watts)
    watts, amps = [point.watts for point in points], [point.amps for point in points]
    return float(np.interp(power_w, watts, amps)), not watts[0] <= power_w <= watts[-1]


def power_in_use_w(load: Load) -> float | None:
    """The power setting in use, its cap minded; None where the set names no power. [W]"""
    setting = load.power_w or load.rated_w
    if setting is None:
        return None
    cap_w = load.power_cap_w.value if load.power_cap_w else setting.value
    return min(setting.value, cap_w)


def key_down(load: Load) -> KeyDown | None:
    """Key-down current at the power in use; None for what does not transmit."""
    if load.transmit_a is None:
        return None
    power_w, full_a = power_in_use_w(load), load.transmit_a.value
    if power_w is not None and load.power_table:
        amps, clamped = table_current_a(load.power_table, power_w)
        return KeyDown(amps, power_w, "table", clamped)
    if power_w is not None and load.rated_w and power_w < load.rated_w.value:
        quiescent_a = min(load.receive_a.value, full_a)
        return KeyDown(
            stage_current_a(power_w, load.rated_w.value, full_a, quiescent_a), power_w, "curve"
        )
    return KeyDown(full_a, power_w, "full")


def power_within_w(load: Load, amps: float) -> float | None:
    """The highest power, up to what it is rated for, whose key-down current stays within so many
    amps.

    Zero where it takes more even at the least power; None where the set names no power. [W]
    """
    if load.transmit_a is None or load.rated_w is None:
        return None
    rated_w, full_a = load.rated_w.value, load.transmit_a.value
    quiescent_a = min(load.receive_a.value, full_a)

    def takes_a(power_w: float) -> float:
        if load.power_table:
            return table_current_a(load.power_table, power_w)[0]
        return stage_current_a(power_w, rated_w, full_a, quiescent_a)

    if takes_a(rated_w) <= amps:
        return rated_w
    low, high = 0.0, rated_w
    while high - low > rated_w / 200.0:
        middle = (low + high) / 2
        low, high = (middle, high) if takes_a(middle) <= amps else (low, middle)
    return low


def mode_share(mode: Mode | None) -> float:
    """Share of the key-down current while transmitting; 1 where no mode is named."""
    return 1.0 if mode is None else float(rows_by("modes", "mode")[mode]["current_share"])


def transmitting_a(load: Load) -> float:
    """Mean current of one unit while transmitting: key-down times the mode's share, never below
    receive. [A]"""
    pressed = key_down(load)
    if pressed is None:
        return load.receive_a.value
    return max(load.receive_a.value, pressed.amps * mode_share(load.mode))


def held_s(mode: Mode | None) -> float:
    """How long the key-down current flows without a gap: a syllable of speech, a dash of Morse at
    some ten words a minute, a whole transmission where the carrier is held or no mode is named.
    From memory. [s]"""
    return math.inf if mode is None else float(rows_by("modes", "mode")[mode]["held_s"])
