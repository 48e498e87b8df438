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
from ..purposes import purpose_of
from ..station import StationModel
from ..store import bank_kg
from .assumed import assumed_figure
from .sizes import batches, chances_by_size, served_by_size
from .station import HourlyStation, hourly_station
from .years import THREADS, cheap_every_d

FloatArray = NDArray[np.float64]

LEAST, MOST = 0.5, 8.0
"""Times what the design has; steps lie evenly on a log scale, and what it has is one of them."""
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


@dataclass(frozen=True, slots=True)
class MapPoint:
    """A size on the map. `cost` is money where prices are known, else multiples of what the design has."""

    watts: float
    amp_hours: float
    share: float
    cost: float
    kg: float
    panels: int
    """Parallel count of every string that comes to at least this."""
    batteries: int


@dataclass(frozen=True, slots=True)
class SizingMap:
    """Vital service, or the chance of a spell, by label watts (columns) and label amp-hours (rows)."""

    years: int
    share_of: str
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
    """Of those that meet the target within the limits."""
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


def scales(steps: int) -> FloatArray:
    """Even on a log scale, with 1 among them.

    Parameters
    ----------
    steps : int
        How many.

    Returns
    -------
    ndarray of shape (steps,)
        Times what the design has.
    """
    found = np.exp(np.linspace(np.log(LEAST), np.log(MOST), steps))
    found[int(np.argmin(np.abs(found - 1.0)))] = 1.0
    return found


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


def _cells(station: HourlyStation, grid: FloatArray, progress: Progress | None) -> FloatArray:
    """Share of every size, shape (banks, panels)."""
    model = station.model
    days = model.asked_days if model.purpose.is_spell else None
    months = list(model.design.brief.months)
    banks, panels = (part.ravel() for part in np.meshgrid(grid, grid, indexing="ij"))
    found = np.empty(banks.size)

    def some(part: slice) -> None:
        if days is None:
            found[part] = served_by_size(station, panels[part], banks[part])
        else:
            every_d = cheap_every_d(station, days)
            found[part] = chances_by_size(station, days, every_d, months, panels[part], banks[part])

    # In two threads: the kernel holds no lock.
    parts = list(batches(banks.size))
    with ThreadPoolExecutor(THREADS) as pool:
        for first in range(0, len(parts), THREADS):
            list(pool.map(some, parts[first : first + THREADS]))
            if progress is not None and not progress(min(1.0, (first + THREADS) / len(parts))):
                raise CancelledError
    return found.reshape(grid.size, grid.size)


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


def _count(scale: float, parallel: int) -> int:
    return max(1, int(np.ceil(scale * parallel - 1e-9)))


class _Sizes:
    """The sizes of a map with their costs, weights and limits."""

    def __init__(self, design: Design, ask: MapAsk, grid: FloatArray, served: FloatArray) -> None:
        bank = design.store.bank
        assert bank is not None
        self.design, self.grid, self.served = design, grid, served
        self.watts = sum(s.module.watts.value * s.series * s.parallel for s in design.array.strings)
        self.label_ah = bank.unit_ah.value * bank.parallel
        self.prices = _prices(design, ask, self.watts, self.label_ah)
        self.parallel = (min(s.parallel for s in design.array.strings), bank.parallel)
        self.kg = bank_kg(bank) * grid
        self.cost = self.prices.per_w * self.watts * grid[None, :] + self.prices.per_ah * self.label_ah * grid[:, None]
        limit = ask.most_kg or (design.brief.payload_kg.value if design.brief.payload_kg else None)
        self.allowed = np.ones(served.shape, dtype=np.bool_)
        if ask.most_w is not None:
            self.allowed &= (self.watts * grid <= ask.most_w)[None, :]
        if limit is not None:
            self.allowed &= (self.kg <= limit)[:, None]

    def point(self, row: int, column: int) -> MapPoint:
        """One size."""
        bank, panels = float(self.grid[row]), float(self.grid[column])
        return MapPoint(
            self.watts * panels,
            self.label_ah * bank,
            float(self.served[row, column]),
            float(self.cost[row, column]),
            float(self.kg[row]),
            _count(panels, self.parallel[0]),
            _count(bank, self.parallel[1]),
        )

    def cheapest(self, chosen: NDArray[np.bool_]) -> MapPoint | None:
        """The cheapest of those chosen within the limits.

        Parameters
        ----------
        chosen : ndarray
            Which cells may be taken, shape of the map.

        Returns
        -------
        MapPoint or None
            The cheapest of them; None where none may.
        """
        costs = np.where(chosen & self.allowed, self.cost, np.inf)
        row, column = np.unravel_index(int(np.argmin(costs)), costs.shape)
        return self.point(int(row), int(column)) if np.isfinite(costs[row, column]) else None

    def best_within(self, budget: float) -> MapPoint | None:
        """The highest share a sum buys within the limits, the cheaper of equals."""
        fits = self.allowed & (self.cost <= budget)
        if not fits.any():
            return None
        best = float(self.served[fits].max())
        return self.cheapest(fits & (self.served >= best - 1e-12))


def _patch(design: Design, ask: MapAsk, point: MapPoint | None, grid_watts: float) -> tuple[Operation, ...]:
    """The changes that make a design of a point."""
    if point is None:
        return ()
    found: list[Operation] = []
    scale = point.watts / grid_watts
    for index, string in enumerate(design.array.strings):
        at = f"/array/strings/{index}"
        found.append(replace(f"{at}/parallel", _count(scale, string.parallel)))
        if ask.tilt_deg is not None:
            found.append(replace(f"{at}/tilt_deg", ask.tilt_deg))
        if ask.controller is not None:
            found.append(replace(f"{at}/controller", ask.controller))
    found.append(replace("/store/bank/parallel", point.batteries))
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


def _add_words(point: MapPoint, design: Design) -> str:
    """What to add, in whole panels and batteries."""
    parts = []
    panels = point.panels - min(s.parallel for s in design.array.strings)
    if panels > 0:
        strings = len(design.array.strings)
        parts.append(f"{panels} more in parallel on {'every string' if strings > 1 else design.array.strings[0].name}")
    bank = design.store.bank
    if bank is not None and point.batteries > bank.parallel:
        more = point.batteries - bank.parallel
        parts.append(f"{more} more battery {'string' if more == 1 else 'strings'} like yours")
    return f": add {' and '.join(parts)}" if parts else ""


def _sentence(design: Design, sizes: _Sizes, found: "SizingMap", unpriced_sum: bool) -> str:
    what = "spells carried" if purpose_of(design.brief.purpose).is_spell else "vital service"
    share = f"{found.target * 100:g} % of {what}"
    here, cheapest = found.here, found.cheapest
    if here.share >= found.target:
        less = (
            f" {cheapest.watts:.0f} W and {cheapest.amp_hours:.0f} Ah would be the cheapest that do."
            if cheapest is not None and cheapest.cost < here.cost * 0.95
            else ""
        )
        return f"What you have holds {share} over {found.years} weather years.{less}"
    if cheapest is None:
        limited = "within the limits" if not sizes.allowed.all() else f"up to {MOST:g} times what you have"
        return f"Nothing {limited} holds {share}; you have {here.share * 100:.1f} %."
    money = f" ({cheapest.cost:.0f} {found.currency})".replace(" )", ")") if found.priced else ""
    more = "" if found.priced else " Without prices, sizes count as multiples of what you have."
    if unpriced_sum:
        more += " A sum to spend needs both prices."
    return (
        f"The cheapest that holds {share} is {cheapest.watts:.0f} W and {cheapest.amp_hours:.0f} Ah{money}; "
        f"you have {here.watts:.0f} W and {here.amp_hours:.0f} Ah, which hold {here.share * 100:.1f} %"
        f"{_add_words(cheapest, design)}.{more}"
    )


def sizing_map(design: Design, ask: MapAsk | None = None, progress: Progress | None = None) -> SizingMap | None:
    """Rehearse every size; None where the design cannot be rehearsed or has no panels to grow.

    Raises
    ------
    CancelledError
        When `progress` says not to go on.
    """
    ask = ask or MapAsk()
    design = changed_by(design, ask)
    station, bank = hourly_station(StationModel(design), ask.years), design.store.bank
    if station is None or bank is None or not design.array.strings:
        return None
    grid = scales(ask.steps)
    served = _cells(station, grid, progress)
    sizes = _Sizes(design, ask, grid, served)
    spell = purpose_of(design.brief.purpose).is_spell
    target = assumed_figure("carry_chance" if spell else "up_share")
    mine = int(np.flatnonzero(grid == 1.0)[0])
    enough = served >= target
    cheapest = sizes.cheapest(enough)
    shelf = _shelf_watts(design)
    found = SizingMap(
        ask.years,
        "chance to carry the spell" if spell else "vital service",
        tuple(float(value) for value in sizes.watts * grid),
        tuple(float(value) for value in sizes.label_ah * grid),
        tuple(tuple(float(value) for value in row) for row in served),
        tuple(tuple(float(value) for value in row) for row in sizes.cost),
        tuple(float(value) for value in sizes.kg),
        tuple(tuple(bool(value) for value in row) for row in sizes.allowed),
        sizes.point(mine, mine),
        target,
        float(sizes.watts * grid[int(np.argmax(enough[mine]))]) if enough[mine].any() else None,
        float(sizes.label_ah * grid[int(np.argmax(enough[:, mine]))]) if enough[:, mine].any() else None,
        cheapest,
        sizes.best_within(ask.budget) if ask.budget is not None and sizes.prices.known else None,
        sizes.watts + shelf if shelf > 0 else None,
        sizes.prices.known,
        ask.currency or design.brief.currency,
        ask.priced_on or bank.bought,
        _patch(design, ask, cheapest, sizes.watts),
        "",
    )
    return dataclasses.replace(
        found, sentence=_sentence(design, sizes, found, ask.budget is not None and not found.priced)
    )
