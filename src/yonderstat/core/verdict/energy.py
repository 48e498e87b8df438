"""The band of energy through the station in the hard month, in the direction it flows."""

from ..array import ArrayReport
from ..calendar import month_key
from ..draw import DrawReport
from ..sun import Plane
from ..working import Quantity, Workings, used
from .report import EnergyLine


def sun_hours(plane: Plane | None, month: int, workings: Workings) -> Quantity | None:
    """Sun-hours on a plane in a month; None where they are not known.

    Parameters
    ----------
    plane : Plane or None
        The sun on the panels; None where nobody knows it.
    month : int
        1 to 12.
    """
    return None if plane is None else workings.get(month_key(f"sun.{plane.id}.hours", month))


def energy_line(
    month: int, plane: Plane | None, draw: DrawReport, array: ArrayReport, workings: Workings
) -> EnergyLine:
    """The band of energy in the hard month, from the sun to the loads.

    Parameters
    ----------
    month : int
        The month that decides, 1 to 12.
    plane : Plane or None
        The sun on the panels; None where nobody knows it.
    """
    known = workings
    bus_v = known[draw.bus_v]
    hours = sun_hours(plane, month, workings)
    sun_wh = store_wh = gap = None
    if hours and array.strings:
        sun_wh = workings.add(
            "line.sun_wh",
            hours.number * known[array.watts].number,
            "W·h",
            label="What the panel labels promise in this sun",
            formula="E = P · H",
            words="label watts times sun-hours, before any loss",
            inputs=[used("P", known[array.watts]), used("H", hours)],
            source="arithmetic",
        )
    if array.stored_ah:
        stored = known[array.stored_ah[month - 1]]
        store_wh = workings.add(
            "line.store_wh",
            stored.number * bus_v.number,
            "W·h",
            label="Usable from the battery",
            formula="E = Q_s · V",
            words="amp-hours stored times the nominal bus voltage",
            inputs=[used("Q_s", stored), used("V", bus_v)],
            source="arithmetic",
        )
        drawn = known[draw.daily_wh]
        gap = workings.add(
            "line.gap_wh",
            drawn.number - store_wh.number,
            "W·h",
            label="Missing per day"
            if drawn.number > store_wh.number
            else "Spare per day (negative: more comes in than goes out)",
            formula="E_draw − E_bank",
            words=(
                "what the loads use in a day, minus what the battery gives back of that day's "
                "charge"
            ),
            inputs=[used("E_draw", drawn), used("E_bank", store_wh)],
            source="arithmetic",
        )
    return EnergyLine(
        month=month,
        sun_hours=hours.key if hours else None,
        sun_wh=sun_wh.key if sun_wh else None,
        array_wh=array.harvest_wh[month - 1] if array.harvest_wh else None,
        store_wh=store_wh.key if store_wh else None,
        draw_wh=draw.daily_wh,
        gap_wh=gap.key if gap else None,
    )
