"""From one stage to the next: which parts are added, and which are free for the shelf again."""

from collections.abc import Sequence
from dataclasses import dataclass

from .model import Item

ALIKE = 1e-6


@dataclass(frozen=True, slots=True)
class Step:
    """So many of a part, from one design to the next."""

    name: str
    quantity: float
    unit: str
    cost: float | None


def _counted(items: Sequence[Item]) -> dict[tuple[str, str], tuple[float, float | None]]:
    found: dict[tuple[str, str], tuple[float, float | None]] = {}
    for item in items:
        # Strings and rails are named after themselves: what the part is comes before the comma.
        key = (
            item.name.rsplit(", ", 1)[0]
            if item.id.startswith(("panel-", "controller-"))
            else item.name,
            item.unit,
        )
        before, price = found.get(key, (0.0, None))
        found[key] = (before + item.quantity, item.price.value if item.price else price)
    return found


def between(
    first: Sequence[Item], second: Sequence[Item]
) -> tuple[tuple[Step, ...], tuple[Step, ...]]:
    """What the second design takes beyond the first, and what of the first it no longer needs.

    Parameters
    ----------
    first, second : sequence of Item
        Their parts lists.

    Returns
    -------
    tuple of (tuple of Step, tuple of Step)
        Added and freed, in the order of the lists.
    """
    before, after = _counted(first), _counted(second)
    added = [_step(key, after[key], before.get(key)) for key in after]
    freed = [_step(key, before[key], after.get(key)) for key in before]
    return (
        tuple(step for step in added if step.quantity > ALIKE),
        tuple(step for step in freed if step.quantity > ALIKE),
    )


def _step(
    key: tuple[str, str], here: tuple[float, float | None], there: tuple[float, float | None] | None
) -> Step:
    count = here[0] - (there[0] if there else 0.0)
    return Step(key[0], count, key[1], None if here[1] is None else count * here[1])
