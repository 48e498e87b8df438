"""Half as much panel again, and half as much bank again: which of the two shortens the dark
more."""

from dataclasses import dataclass
from functools import partial
from typing import cast

from ..station import StationModel
from .at_once import Begun
from .station import HourlyStation
from .tally import Case, MonthSums, sums_of
from .years import served_by

MORE = 1.5
KNOWN = "half as much again"


@dataclass(frozen=True, slots=True)
class HalfAgain:
    """Dark hours a year with half as much panel again, and with half as much bank again."""

    panel_h: float
    bank_h: float


def begin_half_again(model: StationModel, station: HourlyStation) -> None:
    """Begin to run both, so that they run beside what is explained before somebody asks for
    them."""
    if KNOWN not in model.memo:
        model.memo[KNOWN] = Begun(partial(sums_of, station, [Case(panels=MORE), Case(bank=MORE)]))


def half_again(model: StationModel, station: HourlyStation) -> HalfAgain:
    """What both leave dark; run once a model."""
    begin_half_again(model, station)
    found = model.memo[KNOWN]
    if not isinstance(found, HalfAgain):
        sums = cast(Begun[list[MonthSums]], found).result()
        found = model.memo[KNOWN] = HalfAgain(*(served_by(item).dark_hours_a_year for item in sums))
    return found
