"""Single failures: every part lost in turn, and what that does over the weather years."""

from dataclasses import dataclass

from ..design import Design
from .sizing_map import MAP_YEARS
from .station import hourly_station
from .years import dark_hours, run_all


@dataclass(frozen=True, slots=True)
class Failure:
    """A part lost for good: vital service and dark hours a year without it; None where nothing is left to run."""

    part: str
    served_vital: float
    dark_hours_a_year: float
    sentence: str


@dataclass(frozen=True, slots=True)
class FailuresReport:
    """Vital service with everything there, and without each part, the worst first."""

    years: int
    served_vital: float
    dark_hours_a_year: float
    failures: tuple[Failure, ...]


def _without_string(design: Design, index: int) -> Design:
    gone = design.array.strings[index].id
    # What shared its controller loses it too: it stays on the roof with nothing to charge through.
    left = [item for item in design.array.strings if item.id != gone and item.joins != gone]
    return design.model_copy(update={"array": design.array.model_copy(update={"strings": left})})


def _cases(design: Design) -> list[tuple[str, Design]]:
    found = [(string.name, _without_string(design, index)) for index, string in enumerate(design.array.strings)]
    if design.array.alternator:
        array = design.array.model_copy(update={"alternator": None})
        found.append(("The engine's charger", design.model_copy(update={"array": array})))
    bank = design.store.bank
    if bank and bank.parallel > 1:
        fewer = bank.model_copy(update={"parallel": bank.parallel - 1})
        store = design.store.model_copy(update={"bank": fewer})
        found.append((f"One of {bank.parallel} battery strings", design.model_copy(update={"store": store})))
    return found


def _judge(design: Design) -> tuple[float, float] | None:
    station = hourly_station(design, MAP_YEARS)
    if station is None:
        return None
    run = run_all(station)
    wanted = float(station.load_a[:, 0].sum()) * MAP_YEARS
    return (float(run.served_a[:, :, 0].sum()) / wanted if wanted > 0 else 1.0), dark_hours(run, station)


def _sentence(served: float, before: float, dark_h: float) -> str:
    if served >= before - 0.0005:
        return "No vital hour more is dark without it."
    return f"{served * 100:.1f} % of vital service without it, {dark_h:.0f} dark hours a year."


def failures_report(design: Design) -> FailuresReport | None:
    """Lose every part in turn; None where the design cannot be rehearsed."""
    whole = _judge(design)
    if whole is None:
        return None
    found = []
    for name, case in _cases(design):
        judged = _judge(case)
        if judged is not None:
            found.append(Failure(name, judged[0], judged[1], _sentence(judged[0], whole[0], judged[1])))
    bank = design.store.bank
    if bank and bank.parallel == 1:
        hours = 8760.0 * len(design.brief.months) / 12.0
        found.append(Failure("The battery", 0.0, hours, "Everything is dark at once: no layer stands behind it here."))
    found.sort(key=lambda item: item.served_vital)
    return FailuresReport(MAP_YEARS, whole[0], whole[1], tuple(found))
