"""The parts list explained: what is there, what is bought, what it costs and weighs."""

from dataclasses import dataclass

from ..bus import BusModel, BusReport
from ..design import Design, OwnPart
from ..working import Input, Key, Quantity, Workings, given, stated, table, used
from .balance import BalanceReport, balance_report
from .checklists import Checklist, checklists_of
from .model import Item, items_of, reuse_of
from .prices import DOLLARS, Exchange, band_words, exchange_of, price_class

GUESS_YEAR = price_class("panel").year
NO_SUM = (
    "There is no sum yet: say in Brief which currency your prices are in, and what a "
    "dollar is in it."
)


@dataclass(frozen=True, slots=True, kw_only=True)
class PartLine:
    """A line of the parts list: how many it takes, and what is to be bought of them."""

    id: str
    group: str
    name: str
    unit: str
    quantity: Key
    buy: Key
    cost: Key | None
    """Of what is bought; None without a price."""
    weight_kg: Key | None
    """Of all of it; None where nobody knows."""
    index: int | None
    """Its row in the document."""
    guess_low: Key | None
    """Of what is bought, by the class; None where its price is known."""
    guess_high: Key | None
    price_from_design: float | None
    weight_from_design: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class BuildReport:
    """What it takes to build the station."""

    takeaway: str
    lines: tuple[PartLine, ...]
    to_buy: Key | None
    """What is to be bought costs so much, where anything has a price."""
    unpriced: int
    """Lines to be bought whose price nobody has given."""
    sum_low: Key | None
    """All that is to be bought, what has no price by its class, freight and duty on top; None where
    typed prices are in a currency of which nobody has said what a dollar is."""
    sum_high: Key | None
    sum_currency: str
    guess_year: int | None
    """Of the class prices, where any count."""
    worth: Key
    weight_kg: Key | None
    per_kwh: Key | None
    per_year: Key | None
    reuse: tuple[str, ...]
    balance: BalanceReport | None
    checklists: tuple[Checklist, ...]
    done: int
    to_do: int


def _line(
    item: Item, own: OwnPart | None, index: int | None, money: Exchange, workings: Workings
) -> tuple[PartLine, float | None]:
    """A line explained, and what all of it is worth."""
    key, at = f"parts.{item.id}", f"/build/parts/{index}" if index is not None else "/build/parts"
    unit = "m" if item.unit == "m" else "×"
    have = own.have if own else 0.0
    needed = workings.add(
        f"{key}.quantity",
        item.quantity,
        unit,
        f"{item.name}: number needed",
        "n",
        "counted from the design",
        source="arithmetic",
    )
    buy = workings.add(
        f"{key}.buy",
        max(0.0, item.quantity - have),
        unit,
        label=f"{item.name}: to buy",
        formula="max(0, n − h)",
        words="needed, less what you already have",
        inputs=[used("n", needed), stated("h", "already there", have, unit, f"{at}/have")],
        source="arithmetic",
    )
    price = own.price if own and own.price else item.price
    weight = own.weight_kg if own and own.weight_kg else item.weight_kg
    cost = mass = None
    if price is not None:
        cost = workings.add(
            f"{key}.cost",
            buy.number * price.value,
            "money",
            label=f"{item.name}: cost",
            formula="b · p",
            words="number to buy times the price",
            inputs=[
                used("b", buy),
                given("p", "price of one, or of a metre", price, "money", f"{at}/price"),
            ],
            source="arithmetic",
        )
    if weight is not None:
        mass = workings.add(
            f"{key}.kg",
            item.quantity * weight.value,
            "kg",
            label=f"{item.name}: weight",
            formula="n · m",
            words="needed times the weight",
            inputs=[
                used("n", needed),
                given("m", "weight of one, or of a metre", weight, "kg", f"{at}/weight_kg"),
            ],
            source="arithmetic",
        )
    guess = None if price is not None else _guess(item, buy, money, workings)
    line = PartLine(
        id=item.id,
        group=item.group,
        name=item.name,
        unit=item.unit,
        quantity=needed.key,
        buy=buy.key,
        cost=cost.key if cost else None,
        weight_kg=mass.key if mass else None,
        index=index,
        guess_low=guess[0] if guess else None,
        guess_high=guess[1] if guess else None,
        price_from_design=item.price.value if item.price else None,
        weight_from_design=item.weight_kg.value if item.weight_kg else None,
    )
    return line, None if price is None else item.quantity * price.value


def _guess(
    item: Item, buy: Quantity, money: Exchange, workings: Workings
) -> tuple[Key, Key] | None:
    """What a line without a price costs by its class, from and to; None where nothing of it is
    bought or it has no class."""
    if not item.price_class or buy.number <= 0:
        return None
    usual = price_class(item.price_class)
    rate = money.rate.value if money.rate else 1.0
    keys = []
    for end, value in zip(("low", "high"), usual.of(item.size), strict=True):
        one = table("p", f"one by its class, {usual.label}", value, "US$", "class-prices")
        inputs = [used("b", buy), one]
        if money.rate is not None:
            inputs.append(given("r", "for one US dollar", money.rate, "money", "/brief/usd_rate"))
        keys.append(
            workings.add(
                f"parts.{item.id}.guess_{end}",
                buy.number * value * rate,
                "money",
                label=f"{item.name}: {'at least' if end == 'low' else 'at most'}, by its class",
                formula="b · p · r" if money.rate is not None else "b · p",
                words="to buy times what parts of its class and size usually cost",
                inputs=inputs,
                source="class-prices",
            ).key
        )
    return keys[0], keys[1]


def _sum_band(
    design: Design, lines: list[PartLine], to_buy: Key | None, workings: Workings
) -> tuple[Key, Key] | None:
    """What all that is to be bought costs, from and to."""
    money = exchange_of(design.brief)
    guessed = [line for line in lines if line.guess_low and line.guess_high]
    typed = to_buy is not None and workings[to_buy].number > 0
    if guessed and typed and (not money.counts or not design.brief.currency.strip()):
        # Prices somebody typed are in money nobody has named, or of which nobody knows the rate.
        return None
    on_top = design.brief.on_top
    share = on_top.value if on_top else 0.0
    found = []
    for end in ("low", "high"):
        keys = [key for line in guessed if (key := getattr(line, f"guess_{end}"))]
        if to_buy is not None:
            keys = [to_buy, *keys]
        inputs = [used(f"x{number}", workings[key]) for number, key in enumerate(keys, 1)]
        if on_top is not None:
            inputs.append(given("z", "freight and duty", on_top, "share", "/brief/on_top"))
        found.append(
            workings.add(
                f"parts.sum_{end}",
                (1.0 + share) * sum(workings[key].number for key in keys),
                "money",
                label=f"All that is to be bought, {'at least' if end == 'low' else 'at most'}",
                formula="(1 + z) · Σ x" if on_top is not None else "Σ x",
                words="lines with a price at that price, the others by their class",
                inputs=inputs,
                source="class-prices" if guessed else "arithmetic",
            ).key
        )
    return found[0], found[1]


def _sum(
    key: str, unit: str, label: str, words: str, keys: list[Key], workings: Workings
) -> Key | None:
    """The sum of what is known; None where nothing is."""
    if not keys:
        return None
    parts = [workings[one] for one in keys]
    inputs = [used(f"x{number}", part) for number, part in enumerate(parts, 1)]
    total = sum(part.number for part in parts)
    return workings.add(
        key,
        total,
        unit,
        label=label,
        formula="sum of what is known",
        words=words,
        inputs=inputs,
        source="arithmetic",
    ).key


def build_report(
    design: Design,
    bus: BusModel,
    explained: BusReport,
    usable_wh: Quantity | None,
    life_y: Quantity | None,
    workings: Workings,
) -> BuildReport:
    """Explain the parts list.

    Parameters
    ----------
    usable_wh, life_y : Quantity, optional
        Of the bank: what the price is set against.
    """
    rows = {part.id: (index, part) for index, part in enumerate(design.build.parts)}
    lines, worths, money = [], 0.0, exchange_of(design.brief)
    items = items_of(design, bus)
    for item in items:
        index, own = rows.get(item.id, (None, None))
        line, value = _line(item, own, index, money, workings)
        lines.append(line)
        worths += value or 0.0
    costs = [line.cost for line in lines if line.cost]
    to_buy = _sum(
        "parts.to_buy",
        "money",
        "Cost of what to buy",
        "sum of all lines that have a price",
        costs,
        workings,
    )
    weight = _sum(
        "parts.weight_kg",
        "kg",
        "Weight, of parts whose weight is known",
        "sum of all lines whose weight is known",
        [line.weight_kg for line in lines if line.weight_kg],
        workings,
    )
    worth = workings.add(
        "parts.worth",
        worths,
        "money",
        label="Value of all parts with a price, those you have included",
        formula="Σ n · p",
        words="number needed times the price, for each line that has a price",
        inputs=[
            Input(
                symbol="n",
                label="lines with a price",
                value=float(len(costs)),
                unit="",
                origin="computed",
                source="arithmetic",
            )
        ],
        source="arithmetic",
    )
    per_kwh = per_year = None
    if worths > 0 and usable_wh is not None and usable_wh.value:
        per_kwh = workings.add(
            "parts.per_kwh",
            1000.0 * worths / usable_wh.number,
            "money/kW·h",
            label="Price of each usable kilowatt-hour of storage",
            formula="1000 · W / E",
            words="all parts with a price divided by the usable energy of the battery",
            inputs=[used("W", worth), used("E", usable_wh)],
            source="arithmetic",
        ).key
    if worths > 0 and life_y is not None and life_y.value:
        per_year = workings.add(
            "parts.per_year",
            worths / life_y.number,
            "money",
            label="Cost per year",
            formula="W / t",
            words=(
                "all parts with a price divided by the years the battery lasts; other parts last "
                "longer"
            ),
            inputs=[used("W", worth), used("t", life_y)],
            source="arithmetic",
        ).key
    buying = [line for line in lines if workings[line.buy].number > 0]
    unpriced = sum(line.cost is None for line in buying)
    band = _sum_band(design, lines, to_buy, workings)
    guessed = [line for line in lines if line.guess_low]
    currency = money.currency if money.counts else DOLLARS
    lists = checklists_of(design, explained)
    to_tick = {item.id for one in lists for item in one.items}
    done = sum(tick.id in to_tick for tick in design.build.ticks)
    return BuildReport(
        takeaway=_takeaway(
            len(lines), len(buying), len(guessed), _band_words(band, currency, workings)
        ),
        lines=tuple(lines),
        to_buy=to_buy,
        unpriced=unpriced,
        sum_low=band[0] if band else None,
        sum_high=band[1] if band else None,
        sum_currency=currency,
        guess_year=GUESS_YEAR if guessed else None,
        worth=worth.key,
        weight_kg=weight,
        per_kwh=per_kwh,
        per_year=per_year,
        reuse=tuple(item.words for item in reuse_of(design)),
        balance=balance_report(design, items, workings),
        checklists=lists,
        done=done,
        to_do=len(to_tick) - done,
    )


def _band_words(band: tuple[Key, Key] | None, currency: str, workings: Workings) -> str:
    if band is None:
        return ""
    low, high = (workings[key].number for key in band)
    return band_words(low, high, currency)


def _takeaway(lines: int, buying: int, guessed: int, band: str) -> str:
    if buying == 0:
        return f"You have all {lines} kinds of parts."
    told = f"{lines} kinds of parts. {buying} to buy" + (f": {band}." if band else ".")
    if not guessed:
        return told
    whose = "all of them" if guessed == buying else f"{guessed} of them"
    told += f" The price of {whose} is our guess by kind and size ({GUESS_YEAR}, not checked)."
    return told if band else f"{told} {NO_SUM}"
