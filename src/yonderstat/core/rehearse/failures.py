"""Single failures: every part lost in turn, and what that does over the weather years."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from ..design import Design, Load, with_array, with_bank, with_store, with_string
from ..purposes import purpose_of
from ..station import StationModel
from ..words import days_in_words, hours_in_words, percent
from .assumed import assumed_figure
from .gone_dark import TakesAlong, taken_along
from .station import HourlyStation, hourly_station
from .years import carried_of, cheap_every_d, served_of

MOST_NAMED = 3


@dataclass(frozen=True, slots=True)
class Failure:
    """A part lost for good: vital service, dark hours a year, and of a spell its chance, without
    it."""

    part: str
    served_vital: float
    dark_hours_a_year: float
    chance: float | None
    sentence: str


@dataclass(frozen=True, slots=True)
class FailuresReport:
    """Vital service with everything there, and without each part, the worst first."""

    years: int
    served_vital: float
    dark_hours_a_year: float
    chance: float | None
    failures: tuple[Failure, ...]


@dataclass(frozen=True, slots=True)
class _Judged:
    served: float
    dark_h: float
    chance: float | None
    carried_h: float
    """In the middle of the spells from the worst month; of no meaning where none is asked."""


def _without_string(design: Design, index: int) -> Design:
    gone = design.array.strings[index].id
    # What shared its controller loses it too: it stays on the roof with nothing to charge through.
    return with_array(
        design,
        strings=[item for item in design.array.strings if item.id != gone and item.joins != gone],
    )


def _cases(design: Design) -> Iterator[tuple[str, Design]]:
    for index, string in enumerate(design.array.strings):
        if string.parallel > 1:
            yield (
                f"One of {string.parallel} panels in parallel, {string.name}",
                with_string(design, index, parallel=string.parallel - 1),
            )
        yield f"{string.name}, or its controller", _without_string(design, index)
    if design.array.alternator:
        yield "The alternator charger", with_array(design, alternator=None)
    for charger in design.array.chargers:
        rest = [item for item in design.array.chargers if item.id != charger.id]
        yield charger.name, with_array(design, chargers=rest)
    bank = design.store.bank
    if bank and bank.parallel > 1:
        yield (
            f"One of {bank.parallel} battery strings",
            with_bank(design, parallel=bank.parallel - 1),
        )
    if bank and (bank.housing == "heated" or bank.limits.heater_w):
        limits = bank.limits.model_copy(update={"heater_w": None})
        housing = "insulated_box" if bank.housing == "heated" else bank.housing
        yield "The battery's heater", with_bank(design, limits=limits, housing=housing)
    for layer in design.store.layers:
        kept = [path for path in design.store.paths if path.bank != layer.id]
        rest_layers = [item for item in design.store.layers if item.id != layer.id]
        yield layer.name, with_store(design, layers=rest_layers, paths=kept)
    for pack in design.store.packs:
        kept = [path for path in design.store.paths if path.bank != pack.id]
        yield (
            pack.name,
            with_store(
                design,
                packs=[item for item in design.store.packs if item.id != pack.id],
                paths=kept,
            ),
        )


def _judged(station: HourlyStation) -> _Judged:
    served = served_of(station)
    model = station.model
    if not model.purpose.is_spell:
        return _Judged(served.share, served.dark_hours_a_year, None, 0.0)
    days = model.asked_days
    carried = carried_of(station, days, cheap_every_d(station, days))
    chances = {month: carried.chance(month, days) or 0.0 for month in model.design.brief.months}
    hours = min(float(np.median(carried.hours[carried.months == month - 1])) for month in chances)
    return _Judged(served.share, served.dark_hours_a_year, min(chances.values()), hours)


def _spell_sentence(after: _Judged, before: _Judged) -> str:
    assert after.chance is not None
    assert before.chance is not None
    if after.chance < before.chance - 0.005:
        return (
            f"Without it, it gets through {percent(after.chance)} of the time in the worst month, "
            f"instead of {percent(before.chance)}."
        )
    if after.carried_h < before.carried_h - 0.5:
        lasts, lasted = (
            days_in_words(after.carried_h / 24.0),
            days_in_words(before.carried_h / 24.0),
        )
        return f"Without it, the station lasts {lasts} in the worst month, instead of {lasted}."
    return "The station lasts just as long without it."


def _sentence(after: _Judged, before: _Judged) -> str:
    if after.chance is not None:
        return _spell_sentence(after, before)
    if after.served >= before.served - 0.0005:
        return "Without it, the station has power just as long."
    return (
        f"Without it, vital loads get {percent(after.served)} of what they need and are "
        f"without power {after.dark_h:.0f} hours a year."
    )


def _no_battery(design: Design, station: HourlyStation) -> Failure:
    """The main battery lost: the layers carry what they hold; without any everything is dark at
    once."""
    hours = 8760.0 * len(design.brief.months) / 12.0
    reserve, mean_a = (
        station.rules.reserve_ah,
        float(station.hours.load_a[:, :3].sum(axis=1).mean()),
    )
    if reserve > 0 and mean_a > 0:
        words = (
            f"The other batteries run the station for {hours_in_words(reserve / mean_a)}. "
            "Without the main battery, nothing charges them."
        )
    else:
        words = "The station loses power at once. It has no second battery."
    return Failure(
        "The battery", 0.0, hours, 0.0 if purpose_of(design.brief.purpose).is_spell else None, words
    )


def _without(gone: TakesAlong, model: StationModel, whole: _Judged) -> Failure:
    """Something in the way of the current lost: what hangs behind it is dark until it is mended,
    the rest goes on."""
    months = np.array(model.design.brief.months) - 1
    vital = {
        item.load.id: float(item.daily_ah[months].mean())
        for item in model.draw.loads
        if _is_vital(item.load)
    }
    total, lost = sum(vital.values()), sum(vital.get(load.id, 0.0) for load in gone.loads)
    named = [load.name for load in gone.loads[:MOST_NAMED]]
    named += [f"{len(gone.loads) - MOST_NAMED} more"] if len(gone.loads) > MOST_NAMED else []
    names = " and ".join([", ".join(named[:-1]), named[-1]] if len(named) > 1 else named)
    if lost <= 0 or total <= 0:
        words = f"{names} out of service; no vital load needs it."
        return Failure(gone.part, whole.served, whole.dark_h, whole.chance, words)
    words = f"{names} out of service at once, until somebody repairs it."
    hours = 8760.0 * len(months) / 12.0
    return Failure(
        gone.part,
        whole.served * (1.0 - lost / total),
        hours,
        0.0 if whole.chance is not None else None,
        words,
    )


def _is_vital(load: Load) -> bool:
    return (load.tier or "vital") == "vital"


def failures_report(design: Design) -> FailuresReport | None:
    """Lose every part in turn; None where the design cannot be rehearsed."""
    years = int(assumed_figure("verdict_years"))
    model = StationModel(design)
    station = hourly_station(model, years)
    if station is None:
        return None
    whole = _judged(station)
    found = []
    for name, case in _cases(design):
        without = hourly_station(model.changed(case), years)
        if without is not None:
            after = _judged(without)
            found.append(
                Failure(name, after.served, after.dark_h, after.chance, _sentence(after, whole))
            )
    if station.bank.parallel == 1:
        found.append(_no_battery(design, station))
    found += [_without(item, model, whole) for item in taken_along(model)]
    found.sort(
        key=lambda item: (item.chance if item.chance is not None else 0.0, item.served_vital)
    )
    return FailuresReport(years, whole.served, whole.dark_h, whole.chance, tuple(found))
