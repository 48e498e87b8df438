"""What never runs together: groups of which one is at its hardest at a time. A load may be in
several."""

from collections.abc import Sequence
from dataclasses import dataclass

from ..design import Load

EXACT_UP_TO = 16
"""So many loads that exclude each other are tried in every combination; more are counted on the
safe side."""


@dataclass(frozen=True, slots=True)
class Step:
    """What a load adds at its hardest moment [A], and the groups it shares that moment with nobody
    of."""

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
    """No less than the most: each step counts in one of its groups, and of each group the
    largest."""
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
        _exact_a(members, frozenset()) if len(members) <= EXACT_UP_TO else _safe_a(members)
        for members in _apart(bound)
    )


def _chosen(
    steps: Sequence[Step], left: list[int], taken: frozenset[str]
) -> tuple[float, frozenset[int]]:
    """Of the steps left, those that add most together, in turn with and without the first."""
    if not left:
        return 0.0, frozenset()
    first, rest = left[0], left[1:]
    without = _chosen(steps, rest, taken)
    if steps[first].groups & taken:
        return without
    added, members = _chosen(steps, rest, taken | steps[first].groups)
    with_first = (added + steps[first].adds_a, members | {first})
    return max(without, with_first, key=lambda found: found[0])


TRIED_UP_TO = 8
"""So many are tried in every combination where each keyed set asks anew."""


def keyed_together(steps: Sequence[Step], first: int | None = None) -> frozenset[int]:
    """Places of the steps that add most at one moment, `first` among them, no two sharing a group.

    Of more than can be tried in every combination the largest are taken in turn.
    """
    taken = steps[first].groups if first is not None else frozenset()
    chosen = {number for number, step in enumerate(steps) if step.adds_a > 0.0 and not step.groups}
    bound = [
        number
        for number, step in enumerate(steps)
        if step.adds_a > 0.0 and step.groups and number != first
    ]
    if first is not None:
        chosen.add(first)
    if len(bound) <= TRIED_UP_TO:
        return frozenset(chosen | _chosen(steps, bound, taken)[1])
    for number in sorted(bound, key=lambda number: -steps[number].adds_a):
        if not steps[number].groups & taken:
            chosen.add(number)
            taken |= steps[number].groups
    return frozenset(chosen)
