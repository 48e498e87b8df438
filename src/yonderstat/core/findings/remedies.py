"""Changes worth trying, with their gain worked out on the changed design."""

import math
from collections.abc import Callable

from ..calendar import MONTH_NAMES
from ..changes import Change, Gain, Operation, changed_for
from ..design import Design
from ..verdict import Figures, days_without_sun, draw_covered

MAX_PARALLEL = 64
Tried = Callable[[Design], Gain]


def try_change(label: str, changed: Design, patch: list[Operation], tried: Tried) -> Change:
    """A change with what it gains on the changed design."""
    return changed_for(label, tuple(patch), tried(changed))


def lasting(figures: Figures) -> Tried:
    """What a change does to the days without sun in the month the design is judged by."""
    before = figures.number(figures.store.days_without_sun) if figures.store else 0.0

    def tried(changed: Design) -> Gain:
        return Gain("days_without_sun", before, days_without_sun(changed, figures.verdict.hard_month))

    return tried


def covering(figures: Figures, month: int) -> Tried:
    """What a change does to the part of a month's draw that its mean sun covers, over the whole where it is more."""
    stored = figures.number(figures.array.stored_ah[month - 1]) if figures.array.stored_ah else None
    drawn = figures.number(figures.draw.months_ah[month - 1])
    before = stored / drawn if stored is not None and drawn else None

    def tried(changed: Design) -> Gain:
        return Gain("covered", before, draw_covered(changed, month), MONTH_NAMES[month - 1])

    return tried


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
