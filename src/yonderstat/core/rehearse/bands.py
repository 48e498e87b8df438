"""A share with its range: as guessed, where sun and draw were guessed too kindly, and where too
harshly."""

from dataclasses import dataclass

from ..working import Input, Key, Workings, table
from .years import Spread


@dataclass(frozen=True, slots=True)
class Meaning:
    """What a share is, in its label, its formula and its words."""

    label: str
    formula: str
    words: str


SERVICE = Meaning(
    "Vital service",
    "Σ I_served / Σ I_wanted",
    "vital amp-hours served over those wanted, hour by hour in all years",
)
SPELL = Meaning(
    "Chance to carry it",
    "n_carried / n_starts",
    (
        "of all starts from a full bank, those in which no vital hour is dark; of the months "
        "in use the worst"
    ),
)
SUN = Meaning(
    "Carried by the sun",
    "Σ (I_served − I_b) / Σ I_wanted",
    "of all that the loads want, what they were given and neither mains nor a generator gave",
)


@dataclass(frozen=True, slots=True)
class BandKeys:
    """A share and both ends of its range."""

    share: Key
    low: Key
    high: Key


def band_quantities(
    stem: Key,
    meaning: Meaning,
    values: tuple[float, float, float],
    spread: Spread,
    ground: list[Input],
    workings: Workings,
) -> BandKeys:
    """The share as guessed and both ends of its range, each askable.

    Parameters
    ----------
    values : tuple of float
        As guessed, guessed too kindly, guessed too harshly.
    """
    guesses = [
        table(
            "σ",
            "sun may be off by, in the month least sure",
            float(spread.sun.max()),
            "share",
            "band",
        ),
        table("δ", "draw may be off by", spread.load, "share", "band"),
    ]
    guessed = [*ground, *guesses]
    cases = (
        ("share", "", "", ground, "rehearsal"),
        (
            "low",
            ", guessed too kindly",
            "; with e^−σ of each month's sun and 1 + δ of the draw",
            guessed,
            "band",
        ),
        (
            "high",
            ", guessed too harshly",
            "; with e^σ of each month's sun and 1 / (1 + δ) of the draw",
            guessed,
            "band",
        ),
    )
    keys = []
    for (name, kind, words, inputs, source), value in zip(cases, values, strict=True):
        label, told = meaning.label + kind, meaning.words + words
        made = workings.add(
            f"{stem}.{name}",
            value,
            "share",
            label=label,
            formula=meaning.formula,
            words=told,
            inputs=inputs,
            source=source,
        )
        keys.append(made.key)
    return BandKeys(*keys)
