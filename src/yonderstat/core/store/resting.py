"""State of charge from the volts of a rested battery, and back."""

from dataclasses import dataclass

import numpy as np

from ..chemistries import kind_of
from ..design import Chemistry
from ..words import hours_in_words
from .kind import block_share, rest_curve

READING_TOLERANCE_V = 0.02
"""A good hand meter on its 20 V range reads to about this. [C] common practice."""


METER_SHARE = 0.005
"""What an ordinary hand meter may be off by, of its reading. [C] common practice."""
LEAD_V_PER_K = 0.0012
"""Resting volts of a 12 V lead block rise by so much a kelvin, 0.2 mV a cell. From memory; 25 °C is
the table's."""
TABLE_C = 25.0
SURFACE_V = 0.3
"""So much a 12 V block reads too high after a charge that is not yet rested away. [C] common
practice, 0.1 to 0.3."""
SAGGED_V = 0.1
"""And so much too low after a load. [C]"""

EMPTY_SHARE = 0.05
SURE_SHARE = 0.15
"""A range narrower than this tells the charge well enough."""


@dataclass(frozen=True, slots=True)
class RestingRow:
    """Resting volts of the bank at a share of charge."""

    charge_share: float
    rest_v: float


@dataclass(frozen=True, slots=True)
class Reading:
    """How a reading was taken: what the meter may be off by, how warm the bank may be, and whether
    it had rested."""

    meter_share: float = 0.0
    coldest_c: float = TABLE_C
    warmest_c: float = TABLE_C
    rested: bool = True

    def block_range_v(self, block_v: float, is_lead: bool) -> tuple[float, float]:
        """The volts of one 12 V block at 25 °C and at rest that a reading can stand for. [V]"""
        off = READING_TOLERANCE_V + self.meter_share * block_v
        rise = LEAD_V_PER_K if is_lead else 0.0
        surface, sagged = (0.0, 0.0) if self.rested else (SURFACE_V, SAGGED_V)
        low = block_v - off - surface - rise * max(self.warmest_c - TABLE_C, 0.0)
        high = block_v + off + sagged + rise * max(TABLE_C - self.coldest_c, 0.0)
        return low, high


IDEAL = Reading()


def charge_range_from_rest(
    chemistry: Chemistry, bus_v: float, rest_v: float, reading: Reading = IDEAL
) -> tuple[float, float]:
    """The range of charge a resting reading can mean, given how it was taken.

    On the flat part of lithium the range is wide: that is the honest answer.
    """
    shares, volts = rest_curve(chemistry)
    block_v = rest_v / block_share(chemistry, bus_v)
    low_v, high_v = reading.block_range_v(block_v, kind_of(chemistry).is_lead)
    low = np.interp(low_v, volts, shares, left=0.0, right=1.0)
    high = np.interp(high_v, volts, shares, left=shares[0], right=1.0)
    return float(low), float(high)


def rest_hours(chemistry: Chemistry) -> float:
    """Hours to rest before a reading. [h]"""
    return kind_of(chemistry).rest_h


def reading_in_words(
    chemistry: Chemistry, low_share: float, high_share: float, rested: bool = True
) -> str:
    """What a resting reading says, without pretending to more than it does."""
    if high_share <= EMPTY_SHARE:
        return "Empty or nearly empty. Charge it first."
    if low_share >= 1.0:
        return "Full."
    told = f"{low_share * 100:.0f} to {high_share * 100:.0f} % charged"
    if not rested:
        hours = rest_hours(chemistry)
        return (
            f"{told}, but it hasn't rested. After charging it reads too high, under load too "
            f"low. Leave it for {hours_in_words(hours)}, then read again."
        )
    if high_share - low_share <= SURE_SHARE:
        return f"{told}."
    flat = (
        "lithium voltage hardly changes in this range"
        if not kind_of(chemistry).is_lead
        else "the voltage alone can't tell more exactly"
    )
    return f"{told}; {flat}. Count amp-hours, or read again when it is fuller or emptier."


def resting_table(chemistry: Chemistry, bus_v: float) -> tuple[RestingRow, ...]:
    """The wall card: resting volts of the bank at each tabled share of charge, fullest first."""
    shares, volts = rest_curve(chemistry)
    blocks = block_share(chemistry, bus_v)
    return tuple(
        RestingRow(float(share), float(volt) * blocks)
        for share, volt in zip(shares[::-1], volts[::-1], strict=True)
    )


def rest_note(chemistry: Chemistry) -> str:
    """How long to rest before the volts mean anything, and where they tell little; in words."""
    kind = kind_of(chemistry)
    told = f"after {hours_in_words(kind.rest_h)} at rest"
    if kind.is_lead:
        told += ", better a day"
    flat = kind.flat_shares
    if flat is None:
        return told
    return f"{told}; from {100 * flat[0]:.0f} to {100 * flat[1]:.0f} % a reading is only a range"
