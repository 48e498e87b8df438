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
    "Vital loads",
    "Σ I_served / Σ I_wanted",
    (
        "amp-hours the vital loads got divided by what they needed, hour by hour in all "
        "weather years"
    ),
)
SPELL = Meaning(
    "Chance of lasting",
    "n_carried / n_starts",
    (
        "share of starts with a full battery in which no vital load loses power; the worst "
        "month in use counts"
    ),
)
SUN = Meaning(
    "Supplied by the sun",
    "Σ (I_served − I_b) / Σ I_wanted",
    "share of what the loads need that came from the sun, not from mains or a generator",
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
            "sun figures may be off by, in the least certain month",
            float(spread.sun.max()),
            "share",
            "band",
        ),
        table("δ", "load figures may be off by", spread.load, "share", "band"),
    ]
    guessed = [*ground, *guesses]
    cases = (
        ("share", "", "", ground, "rehearsal"),
        (
            "low",
            ", if we guessed too kindly",
            "; with e^−σ of each month's sun and 1 + δ of the draw",
            guessed,
            "band",
        ),
        (
            "high",
            ", if we guessed too strictly",
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
