"""The cheapest station of sizes that are sold which holds in the weather years and obeys our rules.

Of a bank and an array the years are played, not a formula asked: for each bank that can pay, from
the cheapest on, the smallest array that holds is found by halving. What comes out is then judged by
every rule, and grown a step at a time until none of them holds anything grave against it.
"""

import math
from dataclasses import dataclass, field

from ..design import Charger, Design, KnownAmps, with_array, with_store
from ..explained import explained
from ..findings import findings_of
from ..purposes import purpose_of
from ..rehearse import state_of
from ..report import Report
from ..station import StationModel
from ..store import kind_of, most_charge_a, planned_c, vent_of_a_box
from .sold import ArraySize, BankSize

LEAD_FULL_WITHIN_D, LONGEST_NIGHT_SHARE = 14.0, 1.0
MOST_STEPS = 9
"""How many sizes beyond the cheapest one are tried where a rule holds something against it."""
MUCH_LARGER = (4, 6, 9, 13)
MOST_CHARGER_A = 30.0


@dataclass(frozen=True, slots=True)
class Found:
    """A station, what its bank and array usually cost [US dollars], and what our rules hold against
    it: Stops, and Fixes."""

    design: Design
    cost: float
    stops: int
    fixes: int

    @property
    def rank(self) -> tuple[int, int, float]:
        """The fewer the better, then the cheaper."""
        return self.stops, self.fixes, self.cost


def grave_of(station: StationModel, report: Report) -> tuple[int, int]:
    """How many Stops and how many Fixes our own rules hold against a station."""
    found = [item.severity for item in findings_of(station, report)]
    return found.count("stop"), found.count("fix")


@dataclass(frozen=True)
class Search:
    """Sizes tried on one station, each once."""

    base: StationModel
    banks: list[BankSize]
    arrays: list[ArraySize]
    wanted: frozenset[str] = frozenset({"good"})
    """Verdicts that will do."""
    known: dict[tuple[int, int], bool] = field(default_factory=dict)

    def design(self, bank: int, array: int) -> Design:
        """The station with one of the banks and one of the arrays."""
        size = self.banks[bank].bank
        if size.housing == "heated":
            size = size.model_copy(update={"vent_cm2": vent_of_a_box(size)})
        design = with_store(self.base.design, bank=size)
        return with_mains(with_array(design, strings=list(self.arrays[array].strings)))

    def cost(self, bank: int, array: int) -> float:
        """What both cost [US dollars]."""
        return self.banks[bank].cost + self.arrays[array].cost

    def holds(self, bank: int, array: int) -> bool:
        """Whether the years say that it does, and the bank stands what all sources give."""
        key = bank, array
        if key not in self.known:
            model = self.base.changed(self.design(bank, array))
            gentle = model.array.together_a()[0] <= most_charge_a(self.banks[bank].bank) + 1e-9
            self.known[key] = gentle and _lasts(model) and state_of(model) in self.wanted
        return self.known[key]

    def cheapest(self, under: float = math.inf) -> tuple[int, int] | None:
        """The cheapest pair that holds for less than a sum; None where none does."""
        best: tuple[int, int] | None = None
        for bank in range(self._first_bank(), len(self.banks)):
            if self.cost(bank, 0) >= under:
                break
            array = self._smallest(bank, under)
            if array is not None:
                best, under = (bank, array), self.cost(bank, array)
        return best

    def _first_bank(self) -> int:
        """The smallest bank that holds with all the panels the place takes; one past the last where
        none does. More battery never makes it darker, so that halving finds it."""
        low, high = -1, len(self.banks)
        while high - low > 1:
            middle = (low + high) // 2
            if self.holds(middle, self.most_panels(middle)):
                high = middle
            else:
                low = middle
        return high

    def most_panels(self, bank: int) -> int:
        """The largest array a bank stands."""
        most_a = most_charge_a(self.banks[bank].bank)
        can = [n for n, size in enumerate(self.arrays) if size.watts <= most_a * WATTS_PER_A]
        return can[-1] if can else 0

    def _smallest(self, bank: int, under: float) -> int | None:
        """The smallest array that holds with a bank for less than a sum."""
        most_a = most_charge_a(self.banks[bank].bank)
        can = [
            index
            for index, size in enumerate(self.arrays)
            if self.cost(bank, index) < under and size.watts <= most_a * WATTS_PER_A
        ]
        if not can or not self.holds(bank, can[-1]):
            return None
        low, high = -1, len(can) - 1
        while high - low > 1:
            middle = (low + high) // 2
            if self.holds(bank, can[middle]):
                high = middle
            else:
                low = middle
        return can[high]

    def largest(self) -> tuple[int, int]:
        """What comes nearest where nothing holds: the largest bank, with all the panels it
        stands."""
        bank = len(self.banks) - 1
        return bank, self.most_panels(bank)

    def judged(self, bank: int, array: int) -> Found:
        """A pair judged by every rule."""
        design = self.design(bank, array)
        station = StationModel(design, trial=True)
        report = explained(station)
        stops, fixes = grave_of(station, report)
        fixes += _wears(design, report)
        return Found(design, self.cost(bank, array), stops, fixes)

    def cleanest(self, bank: int, array: int) -> Found:
        """The first of a pair and the next larger ones that our rules hold nothing against, or the
        one with the least."""
        found = [self.judged(bank, array)]
        for more_bank, more_array in _steps(MOST_STEPS):
            if found[-1].rank[:2] == (0, 0):
                break
            larger = bank + more_bank, array + more_array
            if larger[0] < len(self.banks) and larger[1] < len(self.arrays) and self.holds(*larger):
                found.append(self.judged(*larger))
        return min(found, key=lambda item: item.rank)


def _lasts(model: StationModel) -> bool:
    """Whether a station that must stay up all year lasts the days that are asked of it without
    sun."""
    days = model.days_without_sun(model.hard_month) if model.purpose.all_year else None
    return days is None or days >= model.asked_days


WATTS_PER_A = 12.8
"""Watts of panel that put an ampere into a 12 V bank, on the safe side of what they do. [C]"""


def _steps(most: int) -> list[tuple[int, int]]:
    """A few sizes larger, the nearest first, and at last banks that are larger by much."""
    near = [(bank, array) for bank in range(4) for array in range(4) if bank + array > 0]
    near.sort(key=lambda step: (step[0] + step[1], step[0]))
    return [*near[:most], *((bank, 0) for bank in MUCH_LARGER)]


def _wears(design: Design, report: Report) -> int:
    """What a first design does not do to its bank though it stays up: lead that is never full, and
    nights longer than it is good for."""
    bank = design.store.bank
    if bank is None:
        return 0
    unfull_d = report.number(report.life.longest_not_full_d) if report.life else None
    night = report.number(report.night.share) if report.night else None
    never_full = kind_of(bank.chemistry).is_lead and (unfull_d or 0.0) > LEAD_FULL_WITHIN_D
    return int(never_full) + int((night or 0.0) > LONGEST_NIGHT_SHARE)


def with_mains(design: Design) -> Design:
    """A first design with a charger on the mains where it has no other source, or where the mains
    keep it full between outages."""
    bank, array = design.store.bank, design.array
    purpose = purpose_of(design.brief.purpose)
    alone = not array.strings and array.alternator is None
    if bank is None or not (alone or (purpose.is_spell and purpose.mains_normally)):
        return design
    # Together with the panels it must not be more than the bank stands.
    watts = sum(one.module.watts.value * one.series * one.parallel for one in array.strings)
    planned_a = planned_c(bank) * bank.unit_ah.value * bank.parallel
    room_a = most_charge_a(bank) - watts / WATTS_PER_A
    amps = float(math.floor(min(MOST_CHARGER_A, planned_a, room_a)))
    if amps < 1.0 and not alone:
        return design
    return with_array(design, chargers=[_charger(design, max(1.0, amps))])


def _charger(design: Design, amps: float) -> Charger:
    """A charger on the mains: at the site where it has them, else where it comes home to."""
    return Charger(
        id="charger",
        name="Charger",
        kind="mains",
        amps=KnownAmps(value=amps),
        at_home=design.brief.kind != "home",
    )
