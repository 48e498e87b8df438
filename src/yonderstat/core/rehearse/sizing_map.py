"""How much is enough: panels against bank, every size rehearsed over weather years."""

import dataclasses
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from ..changes import Operation, replace
from ..design import Chemistry, Design, Section, with_bank, with_string
from ..design.base import Words
from ..station import StationModel
from ..store import bank_kg
from .assumed import assumed_figure
from .reliability import State, state_of
from .sizes import batches, chances_by_size, served_by_size, worst_month_by_size
from .sizing_axes import Axes
from .station import HourlyStation, hourly_station
from .years import cheap_every_d, pessimistic, spread_of

FloatArray = NDArray[np.float64]

MAPPERS = 2
"""Threads that draw a map; whoever edits meanwhile has others."""
MOST_TRIES = 6
"""Designs judged in search of the cheapest whose verdict is good."""
OF_THE_KIND = ("unit_kg", "unit_price", "tested_ah", "depth")
"""Fields of a bank that another chemistry makes untrue."""
Money = Annotated[float, Field(ge=0, le=10_000_000)]


class MapAsk(Section):
    """What is mapped: how fine, what is changed first, and what limits the choice."""

    steps: Annotated[int, Field(ge=8, le=40)] = 24
    years: Annotated[int, Field(ge=1, le=30)] = 10
    tilt_deg: Annotated[float, Field(ge=0, le=90)] | None = None
    controller: Literal["pwm", "mppt"] | None = None
    chemistry: Chemistry | None = None
    panel_price_per_w: Money | None = None
    bank_price_per_ah: Money | None = None
    """None takes the bank's own price, where it has one."""
    currency: Annotated[Words, Field(max_length=8)] = ""
    priced_on: Annotated[Words, Field(max_length=20)] = ""
    most_w: Annotated[float, Field(gt=0, le=1_000_000)] | None = None
    """What roof, wall or stand has room for."""
    most_kg: Annotated[float, Field(gt=0, le=100_000)] | None = None
    """Of batteries; None takes the brief's."""
    budget: Money | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class MapPoint:
    """A size on the map. `cost` is money where prices are known, else multiples of what the design
    has."""

    watts: float
    amp_hours: float
    share: float
    cost: float
    kg: float
    panels: int
    """In parallel on the string that grows."""
    batteries: int
    """In parallel."""


@dataclass(frozen=True, slots=True)
class FrontPoint:
    """A share that no cheaper size reaches."""

    cost: float
    share: float


@dataclass(frozen=True, slots=True, kw_only=True)
class SizingMap:
    """Vital service, or the chance of a spell, by label watts (columns) and label amp-hours
    (rows)."""

    years: int
    share_of: str
    string: str
    """Whose panels grow; other strings stay as they are."""
    panels: tuple[int, ...]
    """In parallel, by column."""
    batteries: tuple[int, ...]
    """In parallel, by row."""
    watts: tuple[float, ...]
    amp_hours: tuple[float, ...]
    served: tuple[tuple[float, ...], ...]
    cost: tuple[tuple[float, ...], ...]
    kg: tuple[float, ...]
    """Of the bank, by row."""
    allowed: tuple[tuple[bool, ...], ...]
    """Within roof, hitch and sum."""
    here: MapPoint
    target: float
    enough_watts: float | None
    """Least panel that meets the target with the bank there is."""
    enough_ah: float | None
    """Least bank that meets it with the panels there are."""
    cheapest: MapPoint | None
    """Of those within the limits that meet the target whichever way sun and draw are guessed; where
    none does, of those that meet it in the middle case."""
    cheapest_state: State | None
    """What the verdict on it would be."""
    front: tuple[FrontPoint, ...]
    """What service costs at least: cost and share, each dearer and better than the one before,
    within the limits."""
    best_for_sum: MapPoint | None
    """The highest share within the sum and the limits; None without a sum."""
    shelf_watts: float | None
    """Label watts with the usable panels of the shelf; None where there are none."""
    priced: bool
    currency: str
    priced_on: str
    patch: tuple[Operation, ...]
    """JSON Patch to the cheapest point, in whole panels and batteries."""
    sentence: str


class CancelledError(Exception):
    """Somebody stopped the map."""


Progress = Callable[[float], bool]
"""Told the share done after every row; it answers whether to go on."""


def changed_by(design: Design, ask: MapAsk) -> Design:
    """The design with the choices of tilt, controller and chemistry that are mapped."""
    changes: dict[str, object] = {}
    if ask.tilt_deg is not None:
        changes["tilt_deg"] = ask.tilt_deg
    if ask.controller is not None:
        changes["controller"] = ask.controller
    for index in range(len(design.array.strings)):
        design = with_string(design, index, **changes)
    bank = design.store.bank
    if ask.chemistry is not None and bank is not None and bank.chemistry != ask.chemistry:
        # What was known of the other kind's units does not hold for these.
        design = with_bank(design, chemistry=ask.chemistry, **dict.fromkeys(OF_THE_KIND))
    return design


Share = Callable[[FloatArray, FloatArray], FloatArray]
"""Of sizes given as times the panels and times the bank."""


def _share(station: HourlyStation) -> Share:
    """What the map shows: vital service, or the chance of a spell in the worst month."""
    model = station.model
    days, months = model.asked_days, list(model.design.brief.months)
    if model.purpose.is_spell:
        every_d = cheap_every_d(station, days)
        return lambda panels, banks: chances_by_size(station, days, every_d, months, panels, banks)
    return lambda panels, banks: served_by_size(station, panels, banks)


def _worst_share(station: HourlyStation) -> Share:
    """What a verdict goes by: the worst month in use."""
    if station.model.purpose.is_spell:
        return _share(station)
    months = list(station.model.design.brief.months)
    return lambda panels, banks: worst_month_by_size(station, months, panels, banks)


def _cells(share: Share, axes: Axes, progress: Progress | None) -> FloatArray:
    """Share of every size, shape (banks, panels)."""
    banks, panels = (part.ravel() for part in np.meshgrid(*axes.scales(), indexing="ij"))
    found = np.empty(banks.size)

    def some(part: slice) -> None:
        found[part] = share(panels[part], banks[part])

    # In threads of its own, which step back as the one does that maps.
    parts = list(batches(banks.size))
    with ThreadPoolExecutor(MAPPERS) as pool:
        for first in range(0, len(parts), MAPPERS):
            list(pool.map(some, parts[first : first + MAPPERS]))
            if progress is not None and not progress(min(1.0, (first + MAPPERS) / len(parts))):
                raise CancelledError
    return found.reshape(axes.batteries.size, axes.panels.size)


@dataclass(frozen=True, slots=True)
class _Prices:
    per_w: float
    per_ah: float
    known: bool


def _prices(design: Design, ask: MapAsk, watts: float, label_ah: float) -> _Prices:
    """Money where both prices are known; else each as a multiple of what the design has."""
    bank = design.store.bank
    per_ah = ask.bank_price_per_ah
    if per_ah is None and bank is not None and bank.unit_price is not None:
        per_ah = bank.unit_price.value * bank.series / bank.unit_ah.value
    if ask.panel_price_per_w is not None and per_ah is not None:
        return _Prices(ask.panel_price_per_w, per_ah, True)
    return _Prices(0.5 / watts, 0.5 / label_ah, False)


class _Sizes:
    """The sizes of a map with their costs, weights and limits."""

    def __init__(self, axes: Axes, ask: MapAsk, served: FloatArray) -> None:
        design, bank = axes.design, axes.design.store.bank
        assert bank is not None
        self.design, self.axes, self.served = design, axes, served
        row, column = axes.here
        self.prices = _prices(design, ask, float(axes.watts[column]), float(axes.amp_hours[row]))
        self.kg = bank_kg(bank) * axes.scales()[0]
        self.cost = (
            self.prices.per_w * axes.watts[None, :] + self.prices.per_ah * axes.amp_hours[:, None]
        )
        limit = ask.most_kg or (design.brief.payload_kg.value if design.brief.payload_kg else None)
        self.allowed = np.ones(served.shape, dtype=np.bool_)
        if ask.most_w is not None:
            self.allowed &= (axes.watts <= ask.most_w)[None, :]
        if limit is not None:
            self.allowed &= (self.kg <= limit)[:, None]

    def point(self, row: int, column: int) -> MapPoint:
        """One size."""
        return MapPoint(
            watts=float(self.axes.watts[column]),
            amp_hours=float(self.axes.amp_hours[row]),
            share=float(self.served[row, column]),
            cost=float(self.cost[row, column]),
            kg=float(self.kg[row]),
            panels=int(self.axes.panels[column]),
            batteries=int(self.axes.batteries[row]),
        )

    def by_cost(self, chosen: NDArray[np.bool_]) -> list[tuple[int, int]]:
        """Cells that may be taken within the limits, the cheapest first.

        Parameters
        ----------
        chosen : ndarray
            Which cells may be taken, shape of the map.

        Returns
        -------
        list of (int, int)
            Rows and columns.
        """
        rows, columns = np.nonzero(chosen & self.allowed)
        order = np.argsort(self.cost[rows, columns], kind="stable")
        return [(int(rows[number]), int(columns[number])) for number in order]

    def best_within(self, budget: float) -> MapPoint | None:
        """The highest share a sum buys within the limits, the cheaper of equals."""
        fits = self.allowed & (self.cost <= budget)
        if not fits.any():
            return None
        best = float(self.served[fits].max())
        return self.point(*self.by_cost(fits & (self.served >= best - 1e-12))[0])

    def front(self) -> tuple[FrontPoint, ...]:
        """What service costs at least, the cheapest first."""
        found: list[FrontPoint] = []
        for row, column in self.by_cost(self.allowed):
            share = float(self.served[row, column])
            if not found or share > found[-1].share + 1e-12:
                found.append(FrontPoint(float(self.cost[row, column]), share))
        return tuple(found)


def _cheapest(
    model: StationModel, station: HourlyStation, sizes: _Sizes, target: float
) -> tuple[tuple[int, int], State] | None:
    """The cheapest cell whose verdict is good; where none of those tried is, the cheapest that
    meets the target in the middle case, with what its verdict would be.

    The pessimistic case of many cells runs side by side; only what it lets through is judged as a
    design of its own.
    """
    enough = sizes.by_cost(sizes.served >= target)
    if not enough:
        return None
    worst, (banks, panels) = (
        _worst_share(pessimistic(station, spread_of(model))),
        sizes.axes.scales(),
    )
    tries = MOST_TRIES
    for part in batches(len(enough)):
        cells = enough[part]
        low = worst(
            np.array([panels[column] for _, column in cells]),
            np.array([banks[row] for row, _ in cells]),
        )
        for cell in (cell for cell, share in zip(cells, low, strict=True) if share >= target):
            if tries == 0:
                break
            tries -= 1
            if state_of(model.changed(sizes.axes.built(*cell))) == "good":
                return cell, "good"
    return enough[0], state_of(model.changed(sizes.axes.built(*enough[0]))) or "edge"


def _patch(axes: Axes, ask: MapAsk, cell: tuple[int, int] | None) -> tuple[Operation, ...]:
    """The changes that make a design of a cell."""
    if cell is None:
        return ()
    found = axes.patch(*cell)
    for index in range(len(axes.design.array.strings)):
        at = f"/array/strings/{index}"
        if ask.tilt_deg is not None:
            found.append(replace(f"{at}/tilt_deg", ask.tilt_deg))
        if ask.controller is not None:
            found.append(replace(f"{at}/controller", ask.controller))
    if ask.chemistry is not None:
        found.append(replace("/store/bank/chemistry", ask.chemistry))
        found += [replace(f"/store/bank/{name}", None) for name in OF_THE_KIND]
    return tuple(found)


def _shelf_watts(design: Design) -> float:
    return sum(
        item.module.watts.value * item.count
        for item in design.array.shelf_modules
        if item.module.condition != "cracked" and not item.module.own_inverter
    )


def _add_words(point: MapPoint, axes: Axes) -> str:
    """What to add, in whole panels and batteries."""
    parts = []
    panels, string = point.panels - axes.string.parallel, axes.string
    if panels > 0:
        parts.append(f"{panels} more panels in parallel on {string.name}")
    bank = axes.design.store.bank
    if bank is not None and point.batteries > bank.parallel:
        more = point.batteries - bank.parallel
        parts.append(f"{more} more battery {'string' if more == 1 else 'strings'} of the same kind")
    return f": add {' and '.join(parts)}" if parts else ""


def _sure_words(found: "SizingMap") -> str:
    """How sure the cheapest is, and whether the map ends where it stands."""
    point = found.cheapest
    if point is None:
        return ""
    words = ""
    if found.cheapest_state != "good":
        words += " It is close: no size we tried is enough if we guessed sun and use too kindly."
    if point.panels == found.panels[-1] or point.batteries == found.batteries[-1]:
        words += " It is at the top edge of the map; a size beyond it might be cheaper."
    elif (point.panels == found.panels[0] > 1) or (point.batteries == found.batteries[0] > 1):
        words += " It is at the bottom edge of the map; a smaller size might be enough."
    return words


def _sentence(axes: Axes, sizes: _Sizes, found: "SizingMap", unpriced_sum: bool) -> str:
    share = f"{found.target * 100:g} % of {found.share_of}"
    here, cheapest = found.here, found.cheapest
    sure = ", even if our sun and load guesses are off," if found.cheapest_state == "good" else ""
    if cheapest is not None and cheapest == here:
        return (
            "What you have is already the cheapest size for "
            f"{share}{sure.rstrip(',')}.{_sure_words(found)}"
        )
    if cheapest is None:
        top = f"up to {found.panels[-1]} panels and {found.batteries[-1]} batteries in parallel"
        limited = "within your limits" if not sizes.allowed.all() else top
        return f"No size {limited} reaches {share}. You have {here.share * 100:.1f} %."
    size = f"{cheapest.watts:.0f} W and {cheapest.amp_hours:.0f} Ah"
    if here.share >= found.target and cheapest.cost < here.cost:
        held = f"What you have reaches {share}. The cheapest size that does is {size}"
        return f"{held}{sure.rstrip(',')}.{_sure_words(found)}"
    money = f" ({cheapest.cost:.0f} {found.currency})".replace(" )", ")") if found.priced else ""
    more = "" if found.priced else " Without prices, we compare sizes with what you have."
    if unpriced_sum:
        more += " To plan for a budget, enter both prices."
    return (
        f"Cheapest size for {share}{sure.rstrip(',')}: {size}{money}. You have "
        f"{here.watts:.0f} W and {here.amp_hours:.0f} Ah, which reach "
        f"{here.share * 100:.1f} %{_add_words(cheapest, axes)}.{_sure_words(found)}{more}"
    )


def sizing_map(
    design: Design, ask: MapAsk | None = None, progress: Progress | None = None
) -> SizingMap | None:
    """Rehearse every size; None where the design cannot be rehearsed or has no panels to grow.

    Parameters
    ----------
    ask : MapAsk or None
        Sizes to play; the usual spread where none are named.
    progress : Progress or None
        Told the share that is done, 0 to 1; says whether to go on.

    Raises
    ------
    CancelledError
        When `progress` says not to go on.
    """
    ask = ask or MapAsk()
    model = StationModel(changed_by(design, ask))
    axes, station, bank = (
        Axes.of(model.design, ask.steps),
        hourly_station(model, ask.years),
        model.design.store.bank,
    )
    if axes is None or station is None or bank is None:
        return None
    station = station.kept_to_plan()
    served = _cells(_share(station), axes, progress)
    sizes, row, column = _Sizes(axes, ask, served), *axes.here
    target = assumed_figure("carry_chance" if model.purpose.is_spell else "up_share")
    enough = served >= target
    cheapest, shelf = _cheapest(model, station, sizes, target), _shelf_watts(design)
    found = SizingMap(
        years=ask.years,
        share_of=model.purpose.spells if model.purpose.is_spell else "the time with power",
        string=axes.string.name,
        panels=tuple(int(count) for count in axes.panels),
        batteries=tuple(int(count) for count in axes.batteries),
        watts=tuple(float(value) for value in axes.watts),
        amp_hours=tuple(float(value) for value in axes.amp_hours),
        served=tuple(tuple(float(value) for value in cells) for cells in served),
        cost=tuple(tuple(float(value) for value in cells) for cells in sizes.cost),
        kg=tuple(float(value) for value in sizes.kg),
        allowed=tuple(tuple(bool(value) for value in cells) for cells in sizes.allowed),
        here=sizes.point(row, column),
        target=target,
        enough_watts=float(axes.watts[int(np.argmax(enough[row]))]) if enough[row].any() else None,
        enough_ah=float(axes.amp_hours[int(np.argmax(enough[:, column]))])
        if enough[:, column].any()
        else None,
        cheapest=sizes.point(*cheapest[0]) if cheapest else None,
        cheapest_state=cheapest[1] if cheapest else None,
        front=sizes.front(),
        best_for_sum=sizes.best_within(ask.budget)
        if ask.budget is not None and sizes.prices.known
        else None,
        shelf_watts=float(axes.watts[column]) + shelf if shelf > 0 else None,
        priced=sizes.prices.known,
        currency=ask.currency or design.brief.currency,
        priced_on=ask.priced_on or bank.bought,
        patch=_patch(axes, ask, cheapest[0] if cheapest else None),
        sentence="",
    )
    words = _sentence(axes, sizes, found, ask.budget is not None and not found.priced)
    return dataclasses.replace(found, sentence=words)
