"""The band of energy through the station in the hard month, in the direction it flows."""

from ..array import ArrayReport
from ..calendar import month_key
from ..draw import DrawReport
from ..sun import Plane
from ..working import Quantity, Workings, used
from .report import EnergyLine


def sun_hours(plane: Plane | None, month: int, workings: Workings) -> Quantity | None:
    """Sun-hours on a plane in a month; None where they are not known."""
    return None if plane is None else workings.get(month_key(f"sun.{plane.id}.hours", month))


def energy_line(
    month: int, plane: Plane | None, draw: DrawReport, array: ArrayReport, workings: Workings
) -> EnergyLine:
    """The band of energy in the hard month, from the sun to the loads."""
    known = workings
    bus_v = known[draw.bus_v]
    hours = sun_hours(plane, month, workings)
    sun_wh = store_wh = gap = None
    if hours and array.strings:
        sun_wh = workings.add(
            "line.sun_wh",
            hours.number * known[array.watts].number,
            "W·h",
            "What the labels promise at this sun",
            "E = P · H",
            "label watts times sun-hours, before any loss",
            [used("P", known[array.watts]), used("H", hours)],
            "arithmetic",
        )
    if array.stored_ah:
        stored = known[array.stored_ah[month - 1]]
        store_wh = workings.add(
            "line.store_wh",
            stored.number * bus_v.number,
            "W·h",
            "Out of the bank again",
            "E = Q_s · V",
            "amp-hours the bank keeps times the nominal bus volts",
            [used("Q_s", stored), used("V", bus_v)],
            "arithmetic",
        )
        drawn = known[draw.daily_wh]
        gap = workings.add(
            "line.gap_wh",
            drawn.number - store_wh.number,
            "W·h",
            "Missing a day"
            if drawn.number > store_wh.number
            else "Spare a day (negative: more comes in than goes out)",
            "E_draw − E_bank",
            "drawn a day less what the bank gives back of the day's harvest",
            [used("E_draw", drawn), used("E_bank", store_wh)],
            "arithmetic",
        )
    return EnergyLine(
        month,
        hours.key if hours else None,
        sun_wh.key if sun_wh else None,
        array.harvest_wh[month - 1] if array.harvest_wh else None,
        store_wh.key if store_wh else None,
        draw.daily_wh,
        gap.key if gap else None,
    )
