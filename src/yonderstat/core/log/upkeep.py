"""Upkeep: what is due, by what the station has and by what was done when."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import date

from ..chemistries import ChemistryKind, kind_of
from ..data import toml_table
from ..design import Design
from ..draw import has_mains

SOON_DAYS = 30


@dataclass(frozen=True, slots=True)
class Task:
    """Something to be done every so often."""

    id: str
    title: str
    why: str
    months: int


@dataclass(frozen=True, slots=True)
class Due:
    """A task with when it was last done and when it is due; without a last time it is due now."""

    task: Task
    last: date | None
    due: date
    overdue_days: int
    """Negative while it is not due yet."""


def _has_generator(design: Design) -> bool:
    return any(charger.kind == "generator" for charger in design.array.chargers)


def _kind(design: Design) -> ChemistryKind | None:
    bank = design.store.bank
    return kind_of(bank.chemistry) if bank is not None else None


def _has_water(design: Design) -> bool:
    kind = _kind(design)
    return kind is not None and kind.free_acid


def _is_equalised(design: Design) -> bool:
    kind = _kind(design)
    return kind is not None and any(school.equalise_v_12v for school in kind.schools)


def _has_electronics(design: Design) -> bool:
    kind = _kind(design)
    return kind is not None and kind.has_electronics


NEEDS: dict[str, Callable[[Design], bool]] = {
    "always": lambda design: True,
    "bank": lambda design: design.store.bank is not None,
    "water": _has_water,
    "equalising": _is_equalised,
    "electronics": _has_electronics,
    "panels": lambda design: bool(design.array.strings),
    "box": lambda design: design.bus.box is not None,
    "generator": _has_generator,
    "mains": has_mains,
}


def tasks_of(design: Design) -> tuple[Task, ...]:
    """What a station asks for, by its chemistry and what it has."""
    found = []
    for entry in toml_table("upkeep")["task"]:
        if NEEDS[entry["needs"]](design):
            found.append(Task(entry["id"], entry["title"], entry["why"], entry["months"]))
    return tuple(found)


def months_later(day: date, months: int) -> date:
    """The same day some months on; the month's last where it has no such day."""
    month = day.month - 1 + months
    year, month = day.year + month // 12, month % 12 + 1
    for number in range(day.day, 27, -1):
        try:
            return date(year, month, number)
        except ValueError:
            continue
    return date(year, month, min(day.day, 28))


def due_of(design: Design, done: Mapping[str, date], today: date) -> tuple[Due, ...]:
    """Every task with when it is due, the most overdue first.

    Parameters
    ----------
    done : mapping of str to date
        When each task was last done, by its id.
    """
    found = []
    for task in tasks_of(design):
        last = done.get(task.id)
        due = months_later(last, task.months) if last else today
        found.append(Due(task, last, due, (today - due).days))
    return tuple(sorted(found, key=lambda item: (item.due, item.task.title)))
