"""What a part usually costs, by its class and size: a guess with its band, where nobody has typed a
price."""

from dataclasses import dataclass
from functools import cache

from ..data import rows_by
from ..design import Brief, KnownMoney, KnownRate

USD_WORDS = frozenset({"", "usd", "us$", "$", "us dollars"})
"""Currencies of a brief in which class prices count as they are; an empty one is taken for dollars
while nobody has typed a price, and it is said."""
DOLLARS = "US dollars"
ALIKE = 1e-6


@dataclass(frozen=True, slots=True)
class PriceClass:
    """What parts of a class usually cost [US dollars]: a base, and so much for each unit of size.
    [M] from memory."""

    label: str
    base: tuple[float, float]
    each: tuple[float, float]
    year: int

    def of(self, size: float) -> tuple[float, float]:
        """The least and the most of one of that size."""
        return self.base[0] + self.each[0] * size, self.base[1] + self.each[1] * size


@cache
def price_class(name: str) -> PriceClass:
    """A class of the table."""
    row = rows_by("class_prices", "class")[name]
    base = float(row["base_low"]), float(row["base_high"])
    each = float(row["each_low"]), float(row["each_high"])
    return PriceClass(row["label"], base, each, int(row["year"]))


@dataclass(frozen=True, slots=True)
class Exchange:
    """How class prices come into the money of a brief."""

    currency: str
    rate: KnownRate | None
    """What a dollar is in it; None where it is dollars, or nobody has said."""

    @property
    def counts(self) -> bool:
        """Whether class prices and typed ones may be added."""
        return self.rate is not None or self.currency == DOLLARS


def exchange_of(brief: Brief) -> Exchange:
    """The money a design counts in, and what a dollar is in it."""
    typed = brief.currency.strip()
    if typed.lower() in USD_WORDS:
        return Exchange(DOLLARS, None)
    return Exchange(typed, brief.usd_rate)


def about(value: float) -> float:
    """A sum to two figures: a guess is good for no more."""
    return float(f"{value:.2g}")


def band_words(low: float, high: float, currency: str) -> str:
    """A sum from and to, in words."""
    if high <= low * (1.0 + ALIKE):
        return f"{low:,.0f} {currency}"
    return f"about {about(low):,.0f} to {about(high):,.0f} {currency}"


def cost_words(brief: Brief, count: float, price: KnownMoney | None, name: str, size: float) -> str:
    """What so many parts cost: at the typed price, else by their class.

    Parameters
    ----------
    count : float
        How many are bought.
    price : KnownMoney or None
        Of one, where it is typed.
    name : str
        Their class.
    size : float
        Of one, in the unit of the class.
    """
    money = exchange_of(brief)
    if price is not None:
        return f"{count * price.value:,.0f} {brief.currency.strip()}".strip()
    rate = money.rate.value if money.rate else 1.0
    low, high = (count * value * rate for value in price_class(name).of(size))
    return band_words(low, high, money.currency if money.counts else DOLLARS)
