"""Volts at the sets while a scene plays: where one keyed on what is left of the bank falls under
its window.

It is the Bus's own model, read at the charge of each hour; nothing of the network is worked out a
second time.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..bus import BusModel, grades_of, volt_grades
from ..electrical import Window
from ..station import StationModel
from .in_service import LEAST_V, is_keyed, lost_v
from .kernel import OUT_BACKED, OUT_CHARGE, OUT_TAKEN, hours_under
from .playing import Played, turned_down
from .scene import Scene
from .station import HOURS
from .tally import Tally

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class SetVolts:
    """The volts that reach a set when it is keyed, in every hour of a scene, shape (n,). [V]"""

    load_id: str
    name: str
    window: Window
    keyed_v: FloatArray
    grades: list[str]
    """How it does in each hour: full output, less, odd behaviour, off."""


def _watts_by_hour(scene: Scene, hours: int) -> list[float | None]:
    """What the sets are turned down to, hour by hour; None is as they are set."""
    found: list[float | None] = [None] * hours
    for item in scene.happenings:
        if item.kind == "low_power" and item.amount is not None:
            for hour in range(item.from_h, min(item.to_h, hours)):
                now = found[hour]
                found[hour] = item.amount if now is None else min(now, item.amount)
    return found


def _bus_at(model: StationModel, watts: float | None) -> BusModel:
    return model.bus if watts is None else model.changed(turned_down(model.design, watts)).bus


@dataclass(frozen=True, slots=True)
class BrownHours:
    """Hours a year a set is on, and those of them in which it falls under its window or browns out
    when keyed."""

    load_id: str
    name: str
    on_h: float
    below_h: float
    """Less than full output."""
    brown_h: float
    """Odd behaviour, or off."""


def brown_hours(tally: Tally) -> tuple[BrownHours, ...]:
    """How often each set with a window that is keyed browns out over all weather years."""
    station = tally.station
    # Under the last volts that still give less output a set behaves oddly.
    brown_share = dict(volt_grades())["less"]
    even = np.linspace(0.0, 1.0, station.hours.rest_v.size)
    end_share, clock, found = 1.0 - station.held.depth, np.arange(station.months.size) % HOURS, []
    for item in station.model.bus.loads:
        if item.window is None or not is_keyed(item):
            continue
        low_v, hours = item.window.low_v, np.zeros(3)
        hours_under(
            course=tally.course,
            cut_off=tally.cut_off,
            full_ah=station.rules.full_ah,
            keyed_v=station.hours.rest_v - lost_v(item, even, end_share),
            ohm=station.model.bus.bank_ohm,
            most_v=float(item.bank_v[3]),
            on_share=np.asarray(item.item.on_share[station.months, clock]),
            low_v=low_v - LEAST_V,
            brown_v=brown_share * low_v - LEAST_V,
            found_h=hours,
        )
        found.append(
            BrownHours(
                item.item.load.id, item.item.load.name, *(float(h) / station.years for h in hours)
            )
        )
    return tuple(found)


def set_volts(played: Played, scene: Scene) -> tuple[SetVolts, ...]:
    """The volts at every set that has a window and is keyed now and then.

    While sources bring current in, the bank gives that much less, and sags that much less.
    """
    station = played.stage.station
    model, out, hours = station.model, played.out, len(played.out)
    share = np.clip(out[:, OUT_CHARGE] / played.full_ah, 0.0, 1.0)
    even = np.linspace(0.0, 1.0, station.hours.rest_v.size)
    rest = np.interp(share, even, station.hours.rest_v)
    brought = out[:, OUT_TAKEN] + out[:, OUT_BACKED]
    watts = _watts_by_hour(scene, hours)
    buses = {power: _bus_at(model, power) for power in set(watts)}
    end_share = 1.0 - station.held.depth
    found = []
    for item in model.bus.loads:
        if item.window is None or not is_keyed(item):
            continue
        lost = np.empty(hours)
        for power, bus in buses.items():
            mine = np.array([now == power for now in watts])
            there = bus.of_load(item.item.load.id)
            if there is not None and mine.any():
                spared = np.minimum(brought[mine] * bus.bank_ohm, there.bank_v[3])
                lost[mine] = lost_v(there, share[mine], end_share) - spared
        volts = rest - lost
        grades = grades_of(volts, item.window)
        found.append(SetVolts(item.item.load.id, item.item.load.name, item.window, volts, grades))
    return tuple(found)
