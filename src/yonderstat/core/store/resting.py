"""State of charge from the volts of a rested battery, and back."""

from dataclasses import dataclass

import numpy as np

from ..data import column
from ..design import Chemistry

AGM_RAISE_V = 0.15
"""AGM and gel rest 0.1–0.2 V above flooded per 12 V. [C] common practice; the middle is used."""

READING_TOLERANCE_V = 0.02
"""A good hand meter on its 20 V range reads to about this. [C] common practice."""


@dataclass(frozen=True, slots=True)
class RestingRow:
    """Resting volts of the bank at a share of charge."""

    charge_share: float
    rest_v: float


def _curve(chemistry: Chemistry) -> tuple[np.ndarray, np.ndarray]:
    name = "resting_lifepo4" if chemistry == "lifepo4" else "resting_flooded"
    raise_v = AGM_RAISE_V if chemistry in {"agm", "gel"} else 0.0
    return column(name, "charge_share"), column(name, "rest_v_12v") + raise_v


def blocks_of_12v(bus_v: float) -> int:
    """How many 12 V-class blocks a bank's nominal volts stand for (12.8 V lithium is one)."""
    return max(1, round(bus_v / 12.4))


def charge_range_from_rest(chemistry: Chemistry, bus_v: float, rest_v: float) -> tuple[float, float]:
    """The range of charge a resting reading can mean, given what a hand meter can tell apart.

    On the flat part of lithium the range is wide: that is the honest answer.
    """
    shares, volts = _curve(chemistry)
    per_block_v = rest_v / blocks_of_12v(bus_v)
    low = np.interp(per_block_v - READING_TOLERANCE_V, volts, shares, left=0.0, right=1.0)
    high = np.interp(per_block_v + READING_TOLERANCE_V, volts, shares, left=shares[0], right=1.0)
    return float(low), float(high)


def resting_table(chemistry: Chemistry, bus_v: float) -> tuple[RestingRow, ...]:
    """The wall card: resting volts of the bank at each tabled share of charge, fullest first."""
    shares, volts = _curve(chemistry)
    blocks = blocks_of_12v(bus_v)
    return tuple(
        RestingRow(float(share), float(volt) * blocks) for share, volt in zip(shares[::-1], volts[::-1], strict=True)
    )
