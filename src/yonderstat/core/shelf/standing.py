"""What is free of every part: what designs reserve and outings take is not."""

from collections.abc import Sequence
from dataclasses import dataclass

from .document import Shelf


@dataclass(frozen=True, slots=True, kw_only=True)
class Use:
    """A design that takes a part of the shelf."""

    part: str
    site_id: str
    site: str
    design_id: str
    design: str
    as_built: bool
    line: str
    """The line of its parts list."""
    count: float


@dataclass(frozen=True, slots=True)
class Stock:
    """How a part stands. A site builds one of its designs: it reserves what the hungriest of them
    takes."""

    part: str
    count: float
    reserved: float
    away: float

    @property
    def free(self) -> float:
        """What a new design could have; never less than nothing."""
        return max(0.0, self.count - max(self.reserved, 0.0) - self.away)

    @property
    def over(self) -> float:
        """Promised beyond what there is."""
        return max(0.0, self.reserved - self.count)


def _reserved(uses: Sequence[Use]) -> float:
    """The sum over sites of what the hungriest design of each takes."""
    by_site: dict[str, dict[str, float]] = {}
    for use in uses:
        designs = by_site.setdefault(use.site_id, {})
        designs[use.design_id] = designs.get(use.design_id, 0.0) + use.count
    return sum(max(designs.values()) for designs in by_site.values())


def stock_of(shelf: Shelf, uses: Sequence[Use], but_site: str | None = None) -> dict[str, Stock]:
    """The stock of every part by id; what one site reserves is left out where that site asks.

    Parameters
    ----------
    uses : sequence of Use
        Of all designs.
    but_site : str, optional
        The site whose own reservations do not count.
    """
    taken: dict[str, float] = {}
    for outing in shelf.outings:
        for away in outing.takes if outing.out else ():
            taken[away.part] = taken.get(away.part, 0.0) + away.count
    found = {}
    for part in shelf.parts:
        mine = [use for use in uses if use.part == part.id and use.site_id != but_site]
        # What is reserved and away at once is the same thing: it is away from where it is used.
        # A parts list counts conductors; a twin has two in each of its metres.
        reserved = _reserved(mine) / (part.cores if part.kind == "cable" else 1)
        away_n = taken.get(part.id, 0.0)
        found[part.id] = Stock(part.id, part.count, reserved, max(0.0, away_n - reserved))
    return found
