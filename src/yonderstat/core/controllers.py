"""Kinds of charge controller: a row each, with everything in which they differ.

Nobody else asks which kind a controller is; one asks the kind. To add one: its row, and its name in
`design/array.py`.
"""

from dataclasses import dataclass
from functools import cache
from typing import get_args

from .data import rows_by
from .design import ControllerKind


@dataclass(frozen=True, slots=True, kw_only=True)
class ControllerType:
    """All in which a kind of controller differs from others."""

    kind: ControllerKind
    label: str
    hint: str
    """What it does, in a few words."""
    regulates: bool
    """Whether it stops the charge; without a controller nothing does."""
    tracks: bool
    """Whether it finds the panel's best point, and passes its power in place of its current."""
    shorts: bool
    """Whether it stops the charge by shorting the panel, which a panel stands and nothing else
    does."""
    max_v: float
    start_v: float
    """So far the panel's volts must stand above the bank's."""
    efficiency: float
    drop_v: float
    self_draw_a: float
    price_ratio: float

    @property
    def named(self) -> str:
        """As it stands within a sentence: “PWM controller”, “shunt controller”."""
        return f"{self.label if self.label.isupper() else self.label.lower()} controller"

    @property
    def passes_current(self) -> bool:
        """Whether it joins the panel to the bank: current is passed whole, and volts above the
        bank's are lost."""
        return self.regulates and not self.tracks


YES = {"yes": True, "no": False}


@cache
def controller_type(kind: ControllerKind) -> ControllerType:
    """All that a kind of controller is."""
    row = rows_by("controllers", "controller")[kind]
    return ControllerType(
        kind=kind,
        label=row["label"],
        hint=row["hint"],
        regulates=YES[row["regulates"]],
        tracks=YES[row["tracks"]],
        shorts=YES[row["shorts"]],
        max_v=float(row["max_v"]),
        start_v=float(row["start_v"]),
        efficiency=float(row["efficiency"]),
        drop_v=float(row["drop_v"]),
        self_draw_a=float(row["self_draw_a"]),
        price_ratio=float(row["price_ratio"]),
    )


def all_controllers() -> tuple[ControllerType, ...]:
    """Every kind, in the order they are told."""
    return tuple(controller_type(kind) for kind in get_args(ControllerKind))
