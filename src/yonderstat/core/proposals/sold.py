"""Sizes that are sold, and how many of them a place takes: what a proposal may be made of."""

from collections.abc import Iterable
from dataclasses import dataclass
from itertools import product
from typing import Any, TypeVar

from ..chemistries import kind_of
from ..controllers import controller_type
from ..data import rows, toml_table
from ..design import (
    Bank,
    Chemistry,
    Kind,
    KnownAmpHours,
    KnownKilos,
    KnownWatts,
    Module,
    PanelString,
)
from ..parts.prices import price_class
from ..store import bank_kg

Size = TypeVar("Size")
MOST_PARALLEL = 4
"""Batteries, or panels on one controller, beside each other: past that they share badly, and each
wants a fuse of its own. [C]"""
MOST_CONTROLLER_A, MOST_TOGETHER_A, NOMINAL_V = 70.0, 100.0, 12.0
"""What one controller, and all of them together, put into a 12 V bank before thicker volts are the
better way. [C]"""
GRID_PANEL_W = 300.0
"""From here on panels are made for the grid: only a tracker charges 12 V from them. [C]"""
APART = 1.07
"""Sizes nearer to each other than that are one."""


@dataclass(frozen=True, slots=True)
class Bounds:
    """What a kind of site takes before anybody has said more. [C]"""

    panels_w: tuple[float, ...]
    most_panel_w: float
    most_bank_kg: float
    least_panels: int


def bounds_of(kind: Kind, payload: KnownKilos | None) -> Bounds:
    """The bounds of a kind of site; a typed payload takes the place of the usual one."""
    entry: dict[str, Any] = toml_table("site_kinds")[kind]
    return Bounds(
        tuple(float(watts) for watts in entry["panels_w"]),
        float(entry["most_panel_w"]),
        payload.value if payload else float(entry["most_bank_kg"]),
        int(entry["least_panels"]),
    )


@dataclass(frozen=True, slots=True)
class BankSize:
    """A bank of sizes that are sold, and what it usually costs [US dollars]."""

    bank: Bank
    cost: float


@dataclass(frozen=True, slots=True)
class ArraySize:
    """Panels of sizes that are sold, each string on a controller of its own."""

    strings: tuple[PanelString, ...]
    watts: float
    cost: float


def _middle(name: str, size: float) -> float:
    return sum(price_class(name).of(size)) / 2.0


def bank_sizes(bank: Bank, chemistry: Chemistry, bounds: Bounds) -> list[BankSize]:
    """Banks of a chemistry that the place takes, the cheapest first; none that holds less than a
    cheaper one.

    Parameters
    ----------
    bank : Bank
        Where it lives, and all else that is not its size.
    """
    kind = kind_of(chemistry)
    sold = [float(row["ah"]) for row in rows("sold_batteries") if row["chemistry"] == chemistry]
    found = []
    for unit_ah, parallel in product(sold, range(1, MOST_PARALLEL + 1)):
        changes = {
            "chemistry": chemistry,
            "unit_v": kind.unit_v,
            "unit_ah": KnownAmpHours(value=unit_ah),
            "parallel": parallel,
        }
        size = bank.model_copy(update=changes)
        if bank_kg(size) <= bounds.most_bank_kg:
            cost = parallel * _middle(f"battery-{chemistry}", unit_ah * kind.unit_v)
            found.append((cost, unit_ah * parallel, BankSize(size, cost)))
    return [size for _, _, size in _undominated(found)]


def array_sizes(string: PanelString, bounds: Bounds) -> list[ArraySize]:
    """Arrays that the place takes, the cheapest first; none that has fewer watts than a cheaper
    one.

    Parameters
    ----------
    string : PanelString
        How panels stand there, and the kind of controller.
    """
    tracks = not controller_type(string.controller).passes_current
    found: list[tuple[float, float, ArraySize]] = []
    if bounds.least_panels == 0:
        found.append((0.0, 0.0, ArraySize((), 0.0, 0.0)))
    ranges = (bounds.panels_w, range(1, MOST_PARALLEL + 1), range(1, MOST_PARALLEL + 1))
    for watts, parallel, strings in product(*ranges):
        each_w = watts * parallel
        total_w = each_w * strings
        too_much = each_w / NOMINAL_V > MOST_CONTROLLER_A or total_w / NOMINAL_V > MOST_TOGETHER_A
        if too_much or total_w > bounds.most_panel_w or (watts >= GRID_PANEL_W and not tracks):
            continue
        module = Module(watts=KnownWatts(value=watts), cells=72 if watts >= GRID_PANEL_W else 36)
        rows_of = tuple(
            string.model_copy(
                update={
                    "id": f"string-{number}",
                    "name": string.name if strings == 1 else f"{string.name} {number}",
                    "module": module,
                    "parallel": parallel,
                }
            )
            for number in range(1, strings + 1)
        )
        controller = _middle(f"controller-{string.controller}", each_w / NOMINAL_V)
        cost = strings * (parallel * _middle("panel", watts) + controller)
        found.append((cost, total_w, ArraySize(rows_of, total_w, cost)))
    return [size for _, _, size in _undominated(found)]


def _undominated(found: Iterable[tuple[float, float, Size]]) -> list[tuple[float, float, Size]]:
    """By cost, each notably larger than the one before."""
    kept: list[tuple[float, float, Size]] = []
    for cost, size, what in sorted(found, key=lambda item: (item[0], -item[1])):
        if not kept or size > kept[-1][1] * APART or (kept[-1][1] == 0.0 and size > 0.0):
            kept.append((cost, size, what))
    return kept
