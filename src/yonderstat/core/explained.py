"""The pipeline: a station in, its report out. It reads from top to bottom, in the order energy
flows."""

from dataclasses import replace

from .array import (
    SizingBasis,
    StringBasis,
    absorb_quantity,
    array_report,
    charging_report,
    sizing_report,
)
from .bus import bus_report
from .climate import extremes
from .data import sources
from .design import Design
from .draw import DrawReport, bus_volts, draw_report, night_figures, tempo_report
from .parts import build_report
from .rehearse import begin_cases, reliability_of
from .report import Report
from .station import SECTIONS, StationModel, bus_of
from .store import StationLoad, asked_days, life_report, store_report
from .sun import sun_report
from .verdict import energy_line, month_ground, rules_of_thumb, sun_hours, verdict_of
from .weather import weather_report
from .working import Quantity, Workings


def explained(station: StationModel) -> Report:
    """The station explained: every section and its working, without findings."""
    design, month, workings = station.design, station.hard_month, Workings()
    brief, climate, plane = design.brief, station.climate, station.main_plane
    begin_cases(station)

    bus_v = bus_volts(design, workings)
    sun = sun_report(design, station.here, station.planes, workings)
    weather = weather_report(design, station.here, climate, plane, month, workings)
    cold, hot = (
        (workings[weather.cold_c], workings[weather.hot_c])
        if weather
        else extremes(climate, brief, workings)
    )
    array = array_report(
        design,
        station.array,
        sky=station.sky,
        bus_v=bus_v,
        planes=sun.planes,
        drawn_ah=station.draw.by_month,
        workings=workings,
    )
    draw = draw_report(design, station.draw, bus_v, station.low_end_v, month, workings)
    asked = asked_days(brief, workings)

    bank = station.bank
    load = _asked_of_the_bank(station, bus_v, draw, workings)
    store = store_report(design, bank, load, climate, station.sun_w_m2, workings) if bank else None
    usable, carries = workings.get("store.usable_ah"), workings[store.carries_ah] if store else None
    coldest = {item.string.id: item.coldest_c for item in station.array.strings}
    absorb_v = absorb_quantity(design, station.array, bus_v, workings)
    basis = StringBasis(
        bank=design.store.bank,
        bus_v=bus_v,
        absorb_v=absorb_v,
        cold=cold,
        hot=hot,
        store=store,
        hard_month=month,
        coldest_cells_c=coldest,
        set_v=station.bus.lowest_v,
    )
    stored = workings[array.stored_ah[month - 1]] if array.stored_ah else None
    charging = charging_report(design, basis, station.sky, stored, workings)
    nights = [workings[key] for key in sun.longest_night_h]
    night = (
        night_figures(
            design, station.draw, nights, _every_night(station, usable, carries), workings
        )
        if nights
        else None
    )
    sizing_basis = SizingBasis.of(array, sun_hours(plane, month, workings), asked, month, workings)
    sizing = sizing_report(design, sizing_basis, workings)

    line = energy_line(month, plane, draw, array, workings)
    means = rules_of_thumb(station, draw, array, asked, workings)
    tempos = tempo_report(
        design.draw,
        station.draw,
        draw_at=station.draw_at,
        climate=climate,
        month=month,
        usable=carries,
        workings=workings,
    )
    bus = bus_report(
        design,
        station.bus,
        array=station.array,
        climate=climate,
        mean_draw_w=station.mean_w,
        bus_v=bus_v,
        workings=workings,
    )
    rehearsed = use = None
    if usable is not None:
        ground = month_ground(draw, array, workings)
        rehearsed, use = reliability_of(station, asked, usable, ground, workings)
    life = life_report(bank, brief, use, workings) if bank else None
    years = workings[life.years] if life else None
    build = build_report(
        design, station.bus, bus, workings[store.usable_wh] if store else None, years, workings
    )
    verdict = verdict_of(
        station,
        draw,
        store=store,
        array=array,
        rehearsed=rehearsed,
        asked=asked,
        means=means,
        workings=workings,
    )
    return Report(
        verdict=verdict,
        energy_line=line,
        draw=draw,
        tempo_runtime=tempos,
        night=night,
        store=store,
        life=life,
        sun=sun,
        weather=weather,
        array=array,
        charging=charging,
        sizing=sizing,
        bus=bus,
        build=build,
        rehearsed=rehearsed,
        asked_days=asked.key,
        working=workings.as_dict(),
        sources=sources(),
    )


def _every_night(
    station: StationModel, usable: Quantity | None, carries: Quantity | None
) -> Quantity | None:
    """What there is night after night: a layer or pack that nothing charges gives what it holds
    once."""
    design = station.design
    rows = {layer.id for layer in design.store.layers} | {pack.id for pack in design.store.packs}
    fed = {path.bank for path in design.store.paths} | {
        item.id for item in design.store.layers if item.joining in {"converter", "lead"}
    }
    return carries if station.purpose.is_spell or not rows - fed else usable


def _asked_of_the_bank(
    station: StationModel, bus_v: Quantity, draw: DrawReport, workings: Workings
) -> StationLoad:
    """What is asked of the main bank, and of each other one by what hangs on it alone."""
    keys = (draw.daily_ah, draw.average_a, draw.flowing_a, draw.peak_a)
    daily, average, flowing, peak = (workings[key] for key in keys)
    own_wh = {rail.bank: station.own_wh(rail.bank) for rail in station.design.draw.rails}
    return StationLoad(
        bus_v=bus_v,
        daily_ah=daily,
        average_a=average,
        flowing_a=flowing,
        peak_a=peak,
        own_wh=own_wh,
    )


def explained_change(station: StationModel, was: Design, before: Report) -> Report:
    """What the rules look at of a station with something changed: sections that the change moves
    are worked out anew, the rest stands as it was. It is not rehearsed.

    Parameters
    ----------
    was : Design
        The design before the change; its sections are the very same objects where they are
        untouched.
    before : Report
        Its report.
    """
    design, month, workings = station.design, station.hard_month, Workings(before.working)
    same = {name for name in SECTIONS if getattr(design, name) is getattr(was, name)}
    placed = {"place", "brief", "sun"} <= same
    array_same = placed and "array" in same and bus_of(design) == bus_of(was)
    still = array_same and month == before.verdict.hard_month and "store" in same
    bus_v = bus_volts(design, workings)

    sun, array, draw, charging = before.sun, before.array, before.draw, before.charging
    if not array_same:
        sun = sun_report(design, station.here, station.planes, workings)
        array = array_report(
            design,
            station.array,
            sky=station.sky,
            bus_v=bus_v,
            planes=sun.planes,
            drawn_ah=station.draw.by_month,
            workings=workings,
        )
    if not (still and "draw" in same):
        draw = draw_report(design, station.draw, bus_v, station.low_end_v, month, workings)
    bank, store = station.bank, None
    if bank is not None:
        load = _asked_of_the_bank(station, bus_v, draw, workings)
        store = store_report(
            design, bank, load, station.climate, station.sun_w_m2, workings, whole=False
        )
    if not still:
        cold, hot = extremes(station.climate, design.brief, workings)
        coldest = {item.string.id: item.coldest_c for item in station.array.strings}
        absorb_v = absorb_quantity(design, station.array, bus_v, workings)
        basis = StringBasis(
            bank=design.store.bank,
            bus_v=bus_v,
            absorb_v=absorb_v,
            cold=cold,
            hot=hot,
            store=store,
            hard_month=month,
            coldest_cells_c=coldest,
            set_v=station.bus.lowest_v,
        )
        charging = charging_report(design, basis, None, None, workings)
    nights = [workings[key] for key in sun.longest_night_h]
    carries = workings[store.carries_ah] if store else None
    usable = workings.get("store.usable_ah") if store else None
    night = (
        night_figures(
            design, station.draw, nights, _every_night(station, usable, carries), workings
        )
        if nights
        else None
    )
    verdict = replace(before.verdict, hard_month=month)
    return replace(
        before,
        verdict=verdict,
        draw=draw,
        night=night,
        store=store,
        sun=sun,
        array=array,
        charging=charging,
        rehearsed=None,
        working=workings.as_dict(),
    )
