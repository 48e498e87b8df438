"""Changes worth trying, with their effect worked out on the changed design."""

import math
from collections.abc import Callable, Iterable
from typing import Any

from ..design import Design
from ..verdict import Figures, days_without_sun, draw_covered
from .model import Remedy

MAX_PARALLEL = 64
Effect = Callable[[Design], str]


def try_change(label: str, changed: Design, patch: Iterable[dict[str, Any]], effect: Effect) -> Remedy:
    """A remedy with the effect of the changed design."""
    return Remedy(label, effect(changed), tuple(patch))


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
