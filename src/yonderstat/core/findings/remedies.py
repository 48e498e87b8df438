"""Changes worth trying, with their effect worked out on the changed design."""

import math
from collections.abc import Callable, Iterable
from typing import Any

from ..design import Design
from ..verdict import Figures, days_without_sun, draw_covered
from .model import Remedy

MAX_PARALLEL = 64
Effect = Callable[[Design], str]


def replace(pointer: str, value: Any) -> dict[str, Any]:
    """One JSON Patch operation that sets a field."""
    return {"op": "replace", "path": pointer, "value": value}


def try_change(label: str, changed: Design, patch: Iterable[dict[str, Any]], effect: Effect) -> Remedy:
    """A remedy with the effect of the changed design."""
    return Remedy(label, effect(changed), tuple(patch))


def with_bank(design: Design, **changes: Any) -> Design:
    """The design with some fields of its bank changed."""
    if design.store.bank is None:
        raise ValueError("the design has no bank to change")
    bank = design.store.bank.model_copy(update=changes)
    return design.model_copy(update={"store": design.store.model_copy(update={"bank": bank})})


def with_load(design: Design, index: int, **changes: Any) -> Design:
    """The design with some fields of one load changed."""
    loads = list(design.draw.loads)
    loads[index] = loads[index].model_copy(update=changes)
    return design.model_copy(update={"draw": design.draw.model_copy(update={"loads": loads})})


def with_string(design: Design, index: int, **changes: Any) -> Design:
    """The design with some fields of one string changed."""
    strings = list(design.array.strings)
    strings[index] = strings[index].model_copy(update=changes)
    return design.model_copy(update={"array": design.array.model_copy(update={"strings": strings})})


def lasting_effect(figures: Figures) -> Effect:
    """What a change does to the days without sun in the month the design is judged by."""

    def effect(changed: Design) -> str:
        days = days_without_sun(changed, figures.verdict.hard_month)
        return "no end" if days is None else f"{days:.1f} days without sun"

    return effect


def cover_effect(month: int, name: str) -> Effect:
    """What a change does to the share of the draw covered in a month."""

    def effect(changed: Design) -> str:
        covered = draw_covered(changed, month)
        return "not known" if covered is None else f"{100 * covered:.0f} % of {name}"

    return effect


def parallel_that_lasts(design: Design, figures: Figures) -> int | None:
    """Units in parallel that last the asked days, at the present share held; None where no number would."""
    bank, store = design.store.bank, figures.store
    if bank is None or store is None:
        return None
    days, asked = figures.number(store.days_without_sun), figures.number(figures.asked_days)
    if not days or not asked:
        return None
    need = math.ceil(bank.parallel * asked / days - 1e-9)
    return need if need <= MAX_PARALLEL else None
