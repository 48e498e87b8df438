"""How many years the bank lasts, explained: its cycles as the weather years count them, damage
summed, or age."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..design import Bank, Brief
from ..working import Input, Key, Quantity, Workings, assumed, given, table, used
from .kind import cycle_table
from .life import calendar_years, cycles_a_year, year_damage
from .model import BankModel

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class YearUse:
    """How the bank is used in the weather years, by the rehearsal."""

    years: int
    counted: FloatArray
    """Depths, as shares of all it holds, and counts of the cycles of a typical year, shape (n,
    2)."""
    delivered_wh: float
    """In a year."""
    full_days: float
    """In a year."""
    longest_not_full_d: float
    """In the middle of the years."""
    full_share: float
    """So full counts as full."""


@dataclass(frozen=True, slots=True, kw_only=True)
class LifeReport:
    """The bank's life. `longest_not_full_d` and `full_days` only where it was rehearsed through
    whole years."""

    years: Key
    cycles_a_year: Key
    cost_per_kwh: Key | None
    full_days: Key | None
    longest_not_full_d: Key | None
    limited_by: str
    """cycles or age"""


@dataclass(frozen=True, slots=True)
class _Use:
    """How the bank is used in a year, in numbers and words."""

    counted: FloatArray
    words: str
    inputs: list[Input]
    delivered_wh: float


def _rehearsed(model: BankModel, use: YearUse, workings: Workings) -> _Use:
    return _Use(
        use.counted,
        "charge and discharge cycles in a typical weather year, counted hour by hour",
        [
            table("n", "weather years", float(use.years), "years", "rehearsal"),
            used("d", workings["store.depth"]),
            used("Q", workings["store.usable_ah"]),
        ],
        use.delivered_wh,
    )


def _now_and_then(model: BankModel, brief: Brief, workings: Workings) -> _Use:
    times = cycles_a_year(brief)
    return _Use(
        np.array([[model.depth, times]]),
        "so many times a year down to the depth allowed",
        [assumed("n", "times a year", times, "", "practice"), used("d", workings["store.depth"])],
        times * model.usable_wh,
    )


def _years(bank: Bank, use: _Use, mean_c: float, workings: Workings) -> tuple[Quantity, str]:
    damage, by_age = year_damage(bank, use.counted), calendar_years(bank, mean_c)
    by_cycles = 1.0 / damage if damage > 0 else float("inf")
    _, _, own = cycle_table(bank)
    age = (
        given("t", "calendar life", bank.calendar_years, "years", "/store/bank/calendar_years")
        if bank.calendar_years
        else assumed(
            "t", "calendar life", by_age, "years", "class-battery", "/store/bank/calendar_years"
        )
    )
    quantity = workings.add(
        "store.life.years",
        min(by_cycles, by_age),
        "years",
        label="Years expected, new",
        formula="min(1 / Σ nᵢ/N(dᵢ), t)",
        words=(
            f"{use.words}; wear of all cycles added up against what the data sheet promises, "
            "or its age limit, whichever comes first"
        ),
        inputs=[
            *use.inputs,
            table("Σ", "wear in a year", damage, "share", "rainflow" if not own else "cycle-life"),
            age,
            table("T", "average of the battery", mean_c, "°C", "box-heat"),
        ],
        source="rainflow",
    )
    return quantity, "cycles" if by_cycles < by_age else "age"


def _cost(bank: Bank, years: Quantity, use: _Use, workings: Workings) -> Quantity | None:
    if bank.unit_price is None or use.delivered_wh <= 0 or years.number <= 0:
        return None
    whole = bank.unit_price.value * bank.series * bank.parallel
    return workings.add(
        "store.life.cost_per_kwh",
        whole / (years.number * use.delivered_wh / 1000.0),
        "money/kW·h",
        label="Battery cost of each kW·h it delivers",
        formula="p / (t · E)",
        words="price of the battery divided by the energy it delivers in its life",
        inputs=[
            given("p₁", "one unit", bank.unit_price, "money", "/store/bank/unit_price"),
            used("t", years),
            table("E", "given in a year", use.delivered_wh / 1000.0, "kW·h", "arithmetic"),
        ],
        source="arithmetic",
    )


def life_report(
    model: BankModel, brief: Brief, use: YearUse | None, workings: Workings
) -> LifeReport:
    """The bank's life, with `use` as the rehearsal found it; None where no whole years were
    played.

    Parameters
    ----------
    use : YearUse or None
        Cycles and temperatures of the whole years that were played.
    """
    bank = model.bank
    told = _rehearsed(model, use, workings) if use else _now_and_then(model, brief, workings)
    years, limited_by = _years(bank, told, model.mean_c, workings)
    cycles = workings.add(
        "store.life.cycles_a_year",
        float(told.counted.prod(axis=1).sum()) / max(model.depth, 1e-9),
        "",
        label="Full cycles a year",
        formula="Σ nᵢ · dᵢ / d",
        words=f"{told.words}; shallow cycles count in part",
        inputs=told.inputs,
        source="rainflow",
    )
    cost = _cost(bank, years, told, workings)
    full = longest = None
    if use is not None:
        percent = f"{use.full_share * 100:.0f} % or more"
        ground = [*told.inputs, table("s", "counts as full", use.full_share, "share", "rehearsal")]
        full = workings.add(
            "store.life.full_days",
            use.full_days,
            "d",
            label="Days a year the battery gets full",
            formula="Σ [Q ≥ s · C] / n",
            words=f"days when it reaches {percent} of its capacity, average of the weather years",
            inputs=ground,
            source="rehearsal",
        ).key
        longest = workings.add(
            "store.life.longest_not_full_d",
            use.longest_not_full_d,
            "d",
            label="Longest run of days without getting full",
            formula="middle of max runs of [Q < s · C]",
            words=(
                f"days in a row that don't reach {percent}; half the weather years have a longer "
                "run"
            ),
            inputs=ground,
            source="rehearsal",
        ).key
    return LifeReport(
        years=years.key,
        cycles_a_year=cycles.key,
        cost_per_kwh=cost.key if cost else None,
        full_days=full,
        longest_not_full_d=longest,
        limited_by=limited_by,
    )
