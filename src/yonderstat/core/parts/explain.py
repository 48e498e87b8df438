"""The parts list explained: what is there, what is bought, what it costs and weighs."""

from dataclasses import dataclass

from ..bus import BusModel, BusReport
from ..design import Design, OwnPart
from ..working import Input, Key, Quantity, Workings, given, stated, used
from .balance import BalanceReport, balance_report
from .checklists import Checklist, checklists_of
from .model import Item, items_of, reuse_of


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
    item: Item, own: OwnPart | None, index: int | None, workings: Workings
) -> tuple[PartLine, float | None]:
    """A line explained, and what all of it is worth."""
    key, at = f"parts.{item.id}", f"/build/parts/{index}" if index is not None else "/build/parts"
    unit = "m" if item.unit == "m" else "×"
    have = own.have if own else 0.0
    needed = workings.add(
        f"{key}.quantity",
        item.quantity,
        unit,
        f"{item.name}: needed",
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
        words="needed less what is there",
        inputs=[used("n", needed), stated("h", "there already", have, unit, f"{at}/have")],
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
            words="to buy times the price",
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
        price_from_design=item.price.value if item.price else None,
        weight_from_design=item.weight_kg.value if item.weight_kg else None,
    )
    return line, None if price is None else item.quantity * price.value


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
        formula="Σ of what is known",
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
    lines, worths = [], 0.0
    items = items_of(design, bus)
    for item in items:
        index, own = rows.get(item.id, (None, None))
        line, value = _line(item, own, index, workings)
        lines.append(line)
        worths += value or 0.0
    costs = [line.cost for line in lines if line.cost]
    to_buy = _sum(
        "parts.to_buy", "money", "To buy", "cost of every line with a price", costs, workings
    )
    weight = _sum(
        "parts.weight_kg",
        "kg",
        "Weight of what is known",
        "weight of every line somebody or its label knows",
        [line.weight_kg for line in lines if line.weight_kg],
        workings,
    )
    worth = workings.add(
        "parts.worth",
        worths,
        "money",
        label="All parts with a price, those there counted in",
        formula="Σ n · p",
        words="needed times the price, of every line with one",
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
            label="Price of a usable kilowatt-hour held",
            formula="1000 · W / E",
            words="all parts with a price over what may be used of the bank",
            inputs=[used("W", worth), used("E", usable_wh)],
            source="arithmetic",
        ).key
    if worths > 0 and life_y is not None and life_y.value:
        per_year = workings.add(
            "parts.per_year",
            worths / life_y.number,
            "money",
            label="Price of a year",
            formula="W / t",
            words="all parts with a price over the years the bank lasts; other parts outlive it",
            inputs=[used("W", worth), used("t", life_y)],
            source="arithmetic",
        ).key
    buying = [line for line in lines if workings[line.buy].number > 0]
    unpriced = sum(line.cost is None for line in buying)
    lists = checklists_of(design, explained)
    to_tick = {item.id for one in lists for item in one.items}
    done = sum(tick.id in to_tick for tick in design.build.ticks)
    return BuildReport(
        takeaway=_takeaway(len(lines), len(buying), unpriced),
        lines=tuple(lines),
        to_buy=to_buy,
        unpriced=unpriced,
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


def _takeaway(lines: int, buying: int, unpriced: int) -> str:
    if buying == 0:
        return f"All {lines} sorts of parts are there."
    priced = "each with a price" if unpriced == 0 else f"{unpriced} without a price yet"
    return f"{lines} sorts of parts; {buying} to buy, {priced}."
