"""Changes worth trying, with their gain worked out on the changed design."""

import math
from collections.abc import Callable, Sequence

from ..calendar import MONTH_NAMES
from ..changes import Change, Gain, Operation, changed_for
from ..design import Design
from ..station import StationModel

MAX_PARALLEL = 64
Tried = Callable[[Design], Gain]


def try_change(
    station: StationModel,
    label: str,
    changed: Design,
    patch: list[Operation],
    tried: Tried,
    judged: bool = True,
) -> Change:
    """A change with what it gains on the changed design; it is remembered, to be judged by all the
    rules, unless it is no remedy but says what is asked for.

    Parameters
    ----------
    label : str
        What it is called on its button.
    patch : list of Operation
        JSON Patch that makes it.
    tried : Tried
        What it is to gain, on a changed design.
    judged : bool
        Whether it is a remedy that all rules judge.
    """
    if station.trial or station.first_look:
        return Change(label, "", tuple(patch))
    change = changed_for(label, tuple(patch), tried(changed))
    if judged:
        station.trials.append((change, changed))
        station.memo[measure_of(change)] = tried
    return change


def measure_of(change: Change) -> tuple[object, ...]:
    """The key a change's measure is remembered by: with the fuses it needs it is measured anew."""
    return "measure", id(change)


def mending(
    station: StationModel, label: str, effect: str, changed: Design, patch: Sequence[Operation]
) -> Change:
    """A change that gains no figure but makes its finding go; it is judged by all the rules like
    any other.

    Parameters
    ----------
    effect : str
        What it does, in words.
    patch : sequence of Operation
        JSON Patch that makes it.
    """
    change = Change(label, effect, tuple(patch))
    if not (station.trial or station.first_look):
        station.trials.append((change, changed))
    return change


def lasting(station: StationModel) -> Tried:
    """What a change does to the days without sun in the month the design is judged by."""
    month = station.hard_month
    before = station.days_without_sun(month) if station.bank else 0.0

    def tried(changed: Design) -> Gain:
        return Gain("days_without_sun", before, station.tried(changed).days_without_sun(month))

    return tried


def covering(station: StationModel, month: int) -> Tried:
    """What a change does to the part of a month's draw that its mean sun covers, over the whole
    where it is more."""
    before = station.covered(month)

    def tried(changed: Design) -> Gain:
        return Gain(
            "covered", before, station.tried(changed).covered(month), MONTH_NAMES[month - 1]
        )

    return tried


def parallel_that_lasts(station: StationModel) -> int | None:
    """Units in parallel that last the asked days, at the present share held; None where no number
    would."""
    bank, days = station.design.store.bank, station.days_without_sun(station.hard_month)
    if bank is None or not days:
        return None
    need = math.ceil(bank.parallel * station.asked_days / days - 1e-9)
    return need if need <= MAX_PARALLEL else None
