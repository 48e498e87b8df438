"""The one model of a station: every number that several steps read, worked out once from a design.

Draw, Store, Array and the weather years are explained, judged, rehearsed, mapped and mended from
this and nothing else, so that no two screens can disagree. It holds no words. Each part is worked
out when it is first asked for.
"""

from dataclasses import dataclass
from functools import cached_property
from typing import cast

import numpy as np
from numpy.typing import NDArray

from .array import ArrayModel, SkyOver, array_model, hardest_month, sky_over
from .bus import BusModel, bus_model
from .calendar import HOURS_A_DAY
from .changes import Change
from .climate import Climate, Here, climate_of, here_of
from .design import Design
from .draw import (
    StationDraw,
    elsewhere_wh,
    heaviest_month,
    nominal_bus_v,
    peak_a,
    pointless,
    station_draw,
)
from .electrical import blocks_of_12v
from .purposes import PurposeKind, purpose_of
from .store import BankModel, Reserve, asked_days_of, bank_model, heating_w, loaded_v, reserve_of
from .sun import Plane, conditions_of, plane_sun, planes_of

FloatArray = NDArray[np.float64]

LOW_END_V_12V = 11.0
"""Bus volts at the end of discharge per 12 V block where there is no bank to tell. [C] common
practice."""

PARTS: dict[str, frozenset[str]] = {
    "here": frozenset({"place", "sun"}),
    "climate": frozenset({"place", "brief", "sun"}),
    "sky": frozenset({"place", "brief", "sun"}),
    "bus_v": frozenset({"bus"}),
    "draw": frozenset({"draw", "place", "brief", "sun", "bus", "warmth"}),
    "array": frozenset({"array", "bus", "place", "brief", "sun"}),
    "planes": frozenset({"array", "place"}),
    "sun_w_m2": frozenset({"array", "place", "sun"}),
}
"""The parts that are handed on to a changed design, and the sections of the document each depends
on; of the store only its volts, its chemistry and who charges it, here called the bus; warmth is
what a heated box takes."""
SECTIONS = frozenset().union(*PARTS.values()) - {"bus", "warmth"}


def bus_of(design: Design) -> tuple[object, ...]:
    """What of the store the draw and the array depend on: its volts, its chemistry and who charges
    it."""
    bank = design.store.bank
    return nominal_bus_v(design), bank.chemistry if bank else None, tuple(design.store.paths)


def _warmth(design: Design) -> tuple[object, ...]:
    """What the watts that hold its box warm depend on; nothing where none does."""
    bank = design.store.bank
    if bank is None or bank.housing != "heated":
        return ()
    return (
        bank.box_w,
        bank.box_in_sun,
        bank.limits.heater_w,
        design.array.strings if bank.box_in_sun else None,
    )


@dataclass(frozen=True)
class StationModel:
    """A design in numbers."""

    design: Design
    trial: bool = False
    """Whether it only stands for a change that is tried: then no further changes are worked out on
    it."""
    first_look: bool = False
    """Whether no change is tried on it yet: a first look says what is so, not what would help."""

    def changed(self, design: Design) -> "StationModel":
        """The model of a changed design: what the change does not touch is handed on, the rest
        worked out anew.

        A section counts as untouched where it is the very same object, as the `with_*` helpers
        leave it.
        """
        moved = {
            name for name in SECTIONS if getattr(design, name) is not getattr(self.design, name)
        }
        if bus_of(design) != bus_of(self.design):
            moved.add("bus")
        if _warmth(design) != _warmth(self.design):
            moved.add("warmth")
        found = StationModel(design, self.trial)
        for part, needs in PARTS.items():
            if part in self.__dict__ and not needs & moved:
                found.__dict__[part] = self.__dict__[part]
        return found

    def looked_at(self) -> "StationModel":
        """The same, with all that is worked out on it, for a first look."""
        found = StationModel(self.design)
        found.__dict__.update(
            self.__dict__ | {"memo": self.memo, "trials": [], "first_look": True, "trial": False}
        )
        return found

    def tried(self, design: Design) -> "StationModel":
        """The model of a change that is tried, worked out once however often it is asked about."""
        known = ("tried", id(design))
        if known not in self.memo:
            found = self.changed(design)
            object.__setattr__(found, "trial", True)
            # The design is kept with it, so that its id stays its own.
            self.memo[known] = found
        return cast(StationModel, self.memo[known])

    def adopting(self, other: "StationModel") -> "StationModel":
        """The same with all parts another model of the same design has worked out."""
        for part in PARTS:
            if part in other.__dict__:
                self.__dict__[part] = other.__dict__[part]
        return self

    @cached_property
    def trials(self) -> list[tuple[Change, Design]]:
        """Changes the rules propose, with the designs they make: they must pass the rules
        themselves."""
        return []

    @cached_property
    def memo(self) -> dict[object, object]:
        """What rooms above work out of this model and would otherwise work out again."""
        return {}

    @property
    def purpose(self) -> PurposeKind:
        """What the design is for."""
        return purpose_of(self.design.brief.purpose)

    @property
    def asked_days(self) -> float:
        """Days it must last. [d]"""
        return asked_days_of(self.design.brief)

    @cached_property
    def here(self) -> Here | None:
        """Where it stands."""
        return here_of(self.design)

    @cached_property
    def climate(self) -> Climate:
        """The air of the site."""
        return climate_of(self.design)

    @cached_property
    def sky(self) -> SkyOver | None:
        """The sky over it; None without a place."""
        return sky_over(self.design, self.here, self.climate)

    @cached_property
    def bus_v(self) -> float:
        """Nominal volts of the battery bus."""
        return nominal_bus_v(self.design)

    @cached_property
    def draw(self) -> StationDraw:
        """What it draws at the tempo it is sized on."""
        return self._drawing(None, None)

    def draw_at(self, tempo_id: str | None, how: str | None = None) -> StationDraw:
        """What it draws at a tempo, with hours that nobody has placed laid as is usual, or as
        told."""
        if how is None and tempo_id in {None, self.design.draw.sized_on}:
            return self.draw
        known = ("draw", tempo_id, how)
        if known not in self.memo:
            self.memo[known] = self._drawing(tempo_id, how)
        return cast(StationDraw, self.memo[known])

    def _drawing(self, tempo_id: str | None, how: str | None) -> StationDraw:
        bank = self.design.store.bank
        warming_w = heating_w(bank, self.climate, self.sun_w_m2) if bank else None
        gone = pointless(self.design)
        return station_draw(
            self.design.draw,
            self.bus_v,
            climate=self.climate,
            tempo_id=tempo_id,
            heating_w=warming_w,
            how=how,
            gone=gone,
        )

    @cached_property
    def array(self) -> ArrayModel:
        """What panels and engine put into the bank."""
        return array_model(self.design, self.bus_v, self.sky)

    @cached_property
    def planes(self) -> tuple[Plane, ...]:
        """The planes the panels stand in; the reference plane without any, none without a place."""
        place = self.design.place
        return planes_of(self.design, place.latitude_deg) if place else ()

    @property
    def main_plane(self) -> Plane | None:
        """The plane with the most label watts on it."""
        if not self.planes:
            return None
        watts = {string.string.id: string.watts for string in self.array.strings}
        return max(self.planes, key=lambda plane: watts.get(plane.id, 0.0))

    @cached_property
    def sun_w_m2(self) -> FloatArray:
        """Sun on the main plane by month, the mean of day and night, shape (12,); nothing where it
        is not known."""
        plane, here = self.main_plane, self.here
        if plane is None or here is None:
            return np.zeros(12)
        found = plane_sun(here, conditions_of(self.design.sun), plane.mounting)
        return np.zeros(12) if found is None else found.mean * 1000.0 / HOURS_A_DAY

    @cached_property
    def hard_month(self) -> int:
        """The month in use in which the sun covers least of the draw; the heaviest where it is not
        known."""
        months, drawn, stored = self.design.brief.months, self.draw.by_month, self.array.stored_ah
        if stored is None or not drawn.any():
            return heaviest_month(drawn, months)
        return hardest_month(months, list(stored), list(drawn))

    def own_wh(self, bank: str) -> float:
        """What hangs on another bank takes of it in a day of the hard month. [W·h]"""
        hours = {item.load.id: float(item.hours[self.hard_month - 1]) for item in self.draw.loads}
        return elsewhere_wh(self.design.draw, bank, lambda load: hours[load.id])

    @property
    def daily_ah(self) -> float:
        """Drawn in a day of the hard month."""
        return float(self.draw.by_month[self.hard_month - 1])

    @property
    def mean_w(self) -> float:
        """Drawn on the mean of a day of the hard month."""
        return self.daily_ah / HOURS_A_DAY * self.bus_v

    @cached_property
    def bank(self) -> BankModel | None:
        """The main bank, judged in the hard month."""
        return self.bank_in(self.hard_month)

    @cached_property
    def reserve(self) -> Reserve:
        """What takes over when the main bank is at its end: layers and packs that come on."""
        if self.bank is None:
            return Reserve(0.0, 1.0, 0.0)
        return reserve_of(self.design, self.bank.hard_c, self.mean_w, self.bus_v)

    def bank_in(self, month: int) -> BankModel | None:
        """The main bank, judged in a month."""
        bank = self.design.store.bank
        if bank is None:
            return None
        flowing_a = self.draw.flowing_a(month)
        return bank_model(
            bank,
            self.design.brief,
            bus_v=self.bus_v,
            flowing_a=flowing_a,
            hard_month=month,
            climate=self.climate,
            sun_w_m2=self.sun_w_m2,
        )

    @cached_property
    def low_end_v(self) -> float:
        """Bus volts where the depth allowed ends, at the highest draw."""
        bank = self.bank
        if bank is None:
            return LOW_END_V_12V * blocks_of_12v(self.bus_v)
        highest_a = peak_a(self.draw.loads)
        return loaded_v(bank.bank, self.bus_v, 1.0 - bank.depth, highest_a, bank.hard_c)

    @cached_property
    def bus(self) -> BusModel:
        """The runs between post, sources and loads, and the volts that reach every load."""
        return bus_model(self.design, self.draw, self.array, self.bank, self.bus_v, self.low_end_v)

    def days_without_sun(self, month: int) -> float | None:
        """Days the bank, and the layers that come on after it, last in a month with nothing coming
        in; None where nothing draws or there is no bank. [d]"""
        bank = self.bank if month == self.hard_month else self.bank_in(month)
        daily_ah = float(self.draw.by_month[month - 1])
        return (
            None
            if bank is None or daily_ah <= 0
            else (bank.usable_ah + self.reserve.usable_ah) / daily_ah
        )

    def covered(self, month: int) -> float | None:
        """What the bank keeps of a day's harvest over what is drawn, in a month; None where either
        is not known."""
        stored, drawn_ah = self.array.stored_ah, float(self.draw.by_month[month - 1])
        return None if stored is None or drawn_ah <= 0 else float(stored[month - 1]) / drawn_ah
