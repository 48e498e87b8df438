"""Guided tests: what is done in which order, what to expect, and what the result means for the
plan."""

from . import bank, loads, panel, powering, said
from .bank import at_label_rate, held_of_test
from .base import Asked, Expected, FigureError, Kind, Procedure, Subject, Values
from .panel import panel_verdict

KINDS: dict[str, Kind] = powering.KINDS | bank.KINDS | panel.KINDS | loads.KINDS | said.KINDS
"""Every test, in the order they are offered."""

__all__ = [
    "KINDS",
    "Asked",
    "Expected",
    "FigureError",
    "Kind",
    "Procedure",
    "Subject",
    "Values",
    "at_label_rate",
    "held_of_test",
    "panel_verdict",
]
