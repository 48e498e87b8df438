"""Everything that is wrong with a drawn station: its claims, its words, its remedies, and what gets
better by worse."""

from random import Random

from tests.claims.again import troubles_of_claims
from tests.claims.live import troubles_of_live
from tests.claims.presses import troubles_of_presses
from tests.claims.sources import troubles_of_words
from tests.claims.stations import drawn_station
from tests.claims.worse import WAYS, troubles_of_worse
from yonderstat.core import evaluate

WORSE_EACH = 3
"""So many of the ways to be worse are tried on each station."""


def troubles_of(seed: int) -> list[str]:
    """What is wrong, each with the seed and what was done to the station."""
    design, told = drawn_station(seed)
    report = evaluate(design)
    found = [*troubles_of_claims(design, report), *troubles_of_words(design, report)]
    found += troubles_of_presses(design, report)
    found += troubles_of_live(design, seed)
    for way in Random(seed).sample(WAYS, WORSE_EACH):
        found += troubles_of_worse(design, report, way)
    return [f"{seed} ({told}): {trouble}" for trouble in found]
