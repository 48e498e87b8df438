"""State of charge from the volts of a rested battery, and back."""

from dataclasses import dataclass

import numpy as np

from ..design import Chemistry
from .kind import block_share, kind_of, rest_curve

READING_TOLERANCE_V = 0.02
"""A good hand meter on its 20 V range reads to about this. [C] common practice."""


LITHIUM_REST_H, LEAD_REST_H = 3.0, 6.0
"""Least hours without charge or load before volts mean anything; lead better 24. [C] common practice."""
EMPTY_SHARE = 0.05
SURE_SHARE = 0.15
"""A range narrower than this tells the charge well enough."""


@dataclass(frozen=True, slots=True)
class RestingRow:
    """Resting volts of the bank at a share of charge."""

    charge_share: float
    rest_v: float


def charge_range_from_rest(chemistry: Chemistry, bus_v: float, rest_v: float) -> tuple[float, float]:
    """The range of charge a resting reading can mean, given what a hand meter can tell apart.

    On the flat part of lithium the range is wide: that is the honest answer.
    """
    shares, volts = rest_curve(chemistry)
    per_block_v = rest_v / block_share(chemistry, bus_v)
    low = np.interp(per_block_v - READING_TOLERANCE_V, volts, shares, left=0.0, right=1.0)
    high = np.interp(per_block_v + READING_TOLERANCE_V, volts, shares, left=shares[0], right=1.0)
    return float(low), float(high)


def rest_hours(chemistry: Chemistry) -> float:
    """Hours to rest before a reading. [h]"""
    return LEAD_REST_H if kind_of(chemistry).is_lead else LITHIUM_REST_H


def reading_in_words(chemistry: Chemistry, low_share: float, high_share: float) -> str:
    """What a resting reading says, without pretending to more than it does."""
    if high_share <= EMPTY_SHARE:
        return "Empty, or nearly: charge it before anything else."
    if low_share >= 1.0:
        return "Full."
    told = f"Between {low_share * 100:.0f} and {high_share * 100:.0f} %"
    if high_share - low_share <= SURE_SHARE:
        return f"{told}."
    flat = "lithium hardly changes its volts here" if not kind_of(chemistry).is_lead else "the meter cannot tell finer"
    return f"{told}: {flat}. Count amp-hours, or read again when it is fuller or emptier."


def resting_table(chemistry: Chemistry, bus_v: float) -> tuple[RestingRow, ...]:
    """The wall card: resting volts of the bank at each tabled share of charge, fullest first."""
    shares, volts = rest_curve(chemistry)
    blocks = block_share(chemistry, bus_v)
    return tuple(
        RestingRow(float(share), float(volt) * blocks) for share, volt in zip(shares[::-1], volts[::-1], strict=True)
    )
