"""What comes back after a cut-off: which loads start by themselves, how long they take, and what
they wait for."""

from dataclasses import dataclass

from ..design import Design, Load
from ..working import Input, Quantity, Workings, stated


@dataclass(frozen=True, slots=True)
class ComesBack:
    """How a load comes back: what it waits for first, itself last."""

    load: Load
    chain: tuple[Load, ...]

    @property
    def minutes(self) -> float:
        """Until all of the chain is in service, one after the other. [min]"""
        return sum(item.ready_min or 0.0 for item in self.chain)

    @property
    def by_hand(self) -> tuple[Load, ...]:
        """Those of the chain that somebody has to switch on."""
        return tuple(item for item in self.chain if item.restarts == "no")


def _chain(design: Design, load: Load) -> tuple[Load, ...]:
    """A load and what it waits for; what waits for itself, or for what is not there, waits for
    nothing."""
    rows = {item.id: item for item in design.draw.loads}
    found, at = [load], load.waits_for
    while at is not None and at in rows and rows[at] not in found:
        found.append(rows[at])
        at = rows[at].waits_for
    return tuple(reversed(found))


def comes_back(design: Design) -> tuple[ComesBack, ...]:
    """Every vital load, the last to come back first."""
    vital = [load for load in design.draw.loads if (load.tier or "vital") == "vital"]
    rows = [ComesBack(load, _chain(design, load)) for load in vital]
    return tuple(sorted(rows, key=lambda row: -row.minutes))


def waits_for_a_hand(design: Design) -> bool:
    """Whether something vital comes back only when somebody switches it, or what it waits for,
    on."""
    return any(row.by_hand for row in comes_back(design))


def back_minutes(design: Design, workings: Workings) -> Quantity | None:
    """Minutes after a cut-off until everything vital is in service again; None where nobody has
    said any."""
    rows = comes_back(design)
    if not rows or rows[0].minutes <= 0:
        return None
    inputs: list[Input] = []
    for load in rows[0].chain:
        if load.ready_min:
            at = f"/draw/loads/{design.draw.loads.index(load)}/ready_min"
            inputs.append(stated(f"t{len(inputs) + 1}", load.name, load.ready_min, "min", at))
    return workings.add(
        "draw.back_min",
        rows[0].minutes,
        "min",
        label="Until all that is vital is back",
        formula="Σ tᵢ",
        words="after a cut-off: the slowest of the vital loads, each after what it waits for",
        inputs=inputs,
        source="arithmetic",
    )
