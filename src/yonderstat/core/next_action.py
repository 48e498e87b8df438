"""A step that is proposed beside the verdict."""

from dataclasses import dataclass
from typing import Literal

from .changes import Change
from .verdict import State

Rung = Literal["free", "aim", "controller", "panel", "battery", "generator"]


@dataclass(frozen=True, slots=True, kw_only=True)
class NextAction:
    """A step that helps, with what it costs and how the verdict stands after it."""

    rung: Rung
    cost: str
    """In words: free, or what is to be bought, with its price where somebody has typed one."""
    change: Change
    state: State
    """Of the verdict then."""
