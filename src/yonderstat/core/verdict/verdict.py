"""The verdict: a sentence, the months, and the weakest link."""

import math

from ..array import ArrayReport
from ..design import AnyKnown, Design
from ..draw import DrawReport
from ..rehearse import Reliability
from ..station import StationModel
from ..store import StoreReport
from ..working import Quantity, Workings
from .months import month_cells
from .report import Link, Verdict
from .sentences import Case, sentence_for


def _weakest(station: StationModel, asked: Quantity) -> Link:
    month, drawn = station.hard_month - 1, station.daily_ah
    if drawn <= 0:
        return ""
    stored = (
        station.array.stored_ah
        if station.array.strings or station.design.array.alternator
        else None
    )
    if not station.purpose.is_spell and stored is not None and stored[month] < drawn:
        # No bank makes up for a month that brings too little.
        return "array"
    days = station.days_without_sun(station.hard_month)
    array_margin = float(stored[month]) / drawn if stored is not None else math.inf
    store_margin = (days or math.inf) / asked.number if station.bank else 0.0
    return "array" if array_margin < store_margin else "store"


def verdict_of(
    station: StationModel,
    draw: DrawReport,
    store: StoreReport | None,
    array: ArrayReport,
    rehearsed: Reliability | None,
    asked: Quantity,
    means: list[Quantity | None],
    workings: Workings,
) -> Verdict:
    """What the design comes to.

    Parameters
    ----------
    means : list of Quantity or None
        The rule of thumb by month.
    """
    cells = month_cells(list(station.design.brief.months), means, rehearsed)
    case = Case(
        design=station.design,
        month=station.hard_month,
        cells=cells,
        draw=draw,
        store=store,
        array=array,
        rehearsed=rehearsed,
        asked=asked,
        workings=workings,
    )
    sentence, figure = sentence_for(case)
    return Verdict(
        headline=sentence.headline,
        rest=sentence.rest,
        state=sentence.state,
        hard_month=station.hard_month,
        weakest=_weakest(station, asked) if sentence.state != "unknown" else "",
        judged_on=_judged_on(station.design, rehearsed),
        share_of=station.purpose.share_of,
        figure=figure,
        figures=sentence.figures,
        months=cells,
        claims=tuple(case.claims),
    )


def is_all_guessed(design: Design) -> bool:
    """Whether every load, the bank and every panel are as we proposed them: nobody has said a
    figure of their own."""
    bank, strings = design.store.bank, design.array.strings
    figures: list[AnyKnown] = [load.receive_a for load in design.draw.loads]
    figures += [string.module.watts for string in strings]
    if bank is not None:
        figures.append(bank.unit_ah)
    return bool(figures) and all(figure.basis == "default" for figure in figures)


def _judged_on(design: Design, rehearsed: Reliability | None) -> str:
    how = (
        f"Checked hour by hour over {rehearsed.years} weather years."
        if rehearsed
        else "Not checked against the weather yet."
    )
    return (
        (
            f"{how} All figures are our guesses: you have not entered a load, battery or "
            "panel of your own."
        )
        if is_all_guessed(design)
        else how
    )
