"""The longest night against the store: a day's sum can close while the station goes dark before
dawn."""

from dataclasses import dataclass

from ..calendar import MONTH_NAMES
from ..design import Design
from ..working import Input, Key, Quantity, Workings, used
from .model import StationDraw


@dataclass(frozen=True, slots=True)
class NightFigures:
    """The night in the months in use that takes most out of the bank."""

    month: int
    draw_ah: Key
    share: Key | None
    """Of the usable amp-hours; None without a bank."""


def night_figures(
    design: Design,
    station: StationDraw,
    nights: list[Quantity],
    usable: Quantity | None,
    workings: Workings,
) -> NightFigures:
    """Find the hardest night and what it takes.

    Parameters
    ----------
    station : StationDraw
        The station at the tempo it is sized on.
    nights : list of Quantity
        The longest night of each month. [h]
    usable : Quantity or None
        What the bank holds for use. [A·h]
    """

    def drawn_ah(month: int) -> float:
        return station.night_ah(month, nights[month - 1].number)

    month = max(design.brief.months, key=drawn_ah)
    inputs: list[Input] = [used("N", nights[month - 1])]
    inputs += [
        used("Iᵢ", workings[f"draw.load.{item.load.id}.mean_a"])
        for item in station.loads
        if item.daily_ah[month - 1] > 0
    ]
    drawn = workings.add(
        "store.night_ah",
        drawn_ah(month),
        "A·h",
        label=f"Used in the longest night, {MONTH_NAMES[month - 1]}",
        formula="Q_N = Σ over the night hours of Σ Iᵢ(h)",
        words=(
            "every load in the night hours it runs; hours you didn't give are the usual ones "
            "for its kind"
        ),
        inputs=inputs,
        source="geometry",
    )
    if usable is None:
        return NightFigures(month, drawn.key, None)
    share = workings.add(
        "store.night_share",
        drawn.number / usable.number if usable.number > 0 else None,
        "share",
        label="Longest night, share of the usable charge",
        formula="Q_N / Q",
        words="amp-hours of the longest night divided by the usable amp-hours",
        inputs=[used("Q_N", drawn), used("Q", usable)],
        source="arithmetic",
        note="" if usable.number > 0 else "the battery gives nothing in this cold",
    )
    return NightFigures(month, drawn.key, share.key)
