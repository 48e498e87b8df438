"""What never runs together: groups of which one is at its hardest at a time. A load may be in several."""

from collections.abc import Sequence
from dataclasses import dataclass

from ..design import Load

EXACT_UP_TO = 16
"""So many loads that exclude each other are tried in every combination; more are counted on the safe side."""


@dataclass(frozen=True, slots=True)
class Step:
    """What a load adds at its hardest moment [A], and the groups it shares that moment with nobody of."""

    adds_a: float
    groups: frozenset[str]


def groups_of(load: Load) -> frozenset[str]:
    """The groups a load names, parted by commas: “operator, bench”."""
    return frozenset(part.strip().casefold() for part in load.interlock.split(",") if part.strip())


def _apart(steps: list[Step]) -> list[list[Step]]:
    """Steps that have to do with each other, directly or through others."""
    found: list[tuple[set[str], list[Step]]] = []
    for step in steps:
        groups, members = set(step.groups), [step]
        rest = []
        for other_groups, others in found:
            if groups & other_groups:
                groups, members = groups | other_groups, members + others
            else:
                rest.append((other_groups, others))
        found = [*rest, (groups, members)]
    return [members for _, members in found]


def _exact_a(steps: list[Step], taken: frozenset[str]) -> float:
    """The most of steps, in turn with and without the first, of which no two share a group."""
    if not steps:
        return 0.0
    first, rest = steps[0], steps[1:]
    without = _exact_a(rest, taken)
    if first.groups & taken:
        return without
    return max(without, first.adds_a + _exact_a(rest, taken | first.groups))


def _safe_a(steps: list[Step]) -> float:
    """No less than the most: each step counts in one of its groups, and of each group the largest."""
    largest: dict[str, float] = {}
    for step in steps:
        group = min(step.groups)
        largest[group] = max(largest.get(group, 0.0), step.adds_a)
    return sum(largest.values())


def most_together_a(steps: Sequence[Step]) -> float:
    """The most that steps can add at one moment, those of one group never together [A]."""
    free_a = sum(step.adds_a for step in steps if not step.groups)
    bound = [step for step in steps if step.groups and step.adds_a > 0.0]
    return free_a + sum(
        _exact_a(members, frozenset()) if len(members) <= EXACT_UP_TO else _safe_a(members) for members in _apart(bound)
    )
