"""The weather years of a station as it is guessed, too kindly and too harshly guessed, run beside
what is explained."""

from dataclasses import dataclass
from functools import partial
from typing import cast

from ..station import StationModel
from .assumed import assumed_figure
from .at_once import Begun
from .station import HourlyStation, hourly_station
from .tally import AS_IT_IS, MonthSums, Tally, tally_with
from .years import (
    Carried,
    Spread,
    carried_of_each,
    cheap_every_d,
    spread_of,
    too_harshly,
    too_kindly,
)

KNOWN = "weather years begun"


@dataclass(frozen=True, slots=True)
class YearCases:
    """All years in a row: those of the station as it is guessed, and the sums of both other
    cases."""

    station: HourlyStation
    spread: Spread
    run: Begun[tuple[Tally, list[MonthSums]]]


@dataclass(frozen=True, slots=True)
class SpellCases:
    """Spells from full banks, in the middle, the pessimistic and the kind case."""

    station: HourlyStation
    spread: Spread
    run: Begun[list[Carried]]


def _begun(model: StationModel) -> YearCases | SpellCases | None:
    station = hourly_station(model, int(assumed_figure("verdict_years")))
    if station is None or not station.hours.load_a.any():
        return None
    spread, days = spread_of(model), model.asked_days
    others = [too_kindly(spread), too_harshly(spread)]
    found: YearCases | SpellCases
    if model.purpose.is_spell:
        every = cheap_every_d(station, days)
        found = SpellCases(
            station,
            spread,
            Begun(partial(carried_of_each, station, [AS_IT_IS, *others], days, every)),
        )
    else:
        found = YearCases(station, spread, Begun(partial(tally_with, station, others)))
    found.run.let_begin()
    return found


def begin_cases(model: StationModel) -> None:
    """Begin to run what a verdict asks for, so that it runs beside all that is explained before
    it."""
    model.memo[KNOWN] = _begun(model)


def cases_of(model: StationModel) -> YearCases | SpellCases | None:
    """The cases, begun now if they were not before; None where the station cannot be rehearsed.

    They are not kept: the hours of a run weigh megabytes.
    """
    if KNOWN not in model.memo:
        return _begun(model)
    return cast(YearCases | SpellCases | None, model.memo.pop(KNOWN))
