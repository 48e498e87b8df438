"""What a change to a design does, worked out without the whole report: the same formulas, only what is asked."""

from ..array import charge_volts, coulombic_share, sky_over, string_months_ah
from ..climate import air_by_month, climate_of, here_of
from ..design import Design
from ..draw import bus_volts, station_draw
from ..store import blocks_of_12v, days_held
from ..sun import (
    sun_report,
)
from ..working import Workings
from .around import main_plane, surroundings


def days_without_sun(design: Design, month: int) -> float | None:
    """Days the bank lasts in a month with no sun; None where nothing draws or there is no bank. [d]"""
    workings = Workings()
    bus_v = bus_volts(design, workings)
    daily_ah = float(station_draw(design, bus_v.number).by_month[month - 1])
    if design.store.bank is None:
        return None
    daily = workings.add("daily_ah", daily_ah, "A·h", "a day", "Q", "a day's draw")
    average = workings.add("average_a", daily_ah / 24.0, "A", "average", "Q / 24", "around the clock")
    here = here_of(design)
    air_c = air_by_month(climate_of(design), workings)[0] if here else ()
    plane = main_plane(design, sun_report(design, workings))
    around = surroundings(design, air_c, plane, workings)
    return days_held(design, design.store.bank, daily, average, month, around, workings)


def draw_covered(design: Design, month: int) -> float | None:
    """What the bank keeps of a day's harvest over what is drawn, in a month; None where either is not known."""
    workings = Workings()
    bus_v = bus_volts(design, workings).number
    sun = sun_report(design, workings)
    drawn_ah = float(station_draw(design, bus_v).by_month[month - 1])
    if drawn_ah <= 0 or (design.array.strings and sun.state != "known"):
        return None
    charge_v, sky = charge_volts(blocks_of_12v(bus_v)), sky_over(design)
    harvest_ah = 0.0
    for string in design.array.strings:
        months = string_months_ah(string, design.array, charge_v, sky) if sky else None
        harvest_ah += months[month - 1] if months else 0.0
    engine = design.array.alternator
    if engine is not None:
        harvest_ah += engine.into_bank_a * engine.driving_h_per_day.value
    return harvest_ah * coulombic_share(design) / drawn_ah
