"""Everything a design comes to, worked out once in the order energy flows; findings and remedies read this."""

import math
from dataclasses import dataclass

from ..array import (
    ArrayReport,
    ChargingReport,
    SizingReport,
    Station,
    absorb_quantity,
    array_report,
    charging_report,
    hardest_month,
    sizing_report,
    sky_over,
)
from ..array.sizing import Basis
from ..climate import climate_of, extremes
from ..design import Design, Purpose
from ..draw import DrawReport, StationDraw, bus_volts, draw_report, heaviest_month, station_draw
from ..purposes import purpose_of
from ..rehearse import JudgedYears, judged_years
from ..store import StationLoad, StoreReport, asked_days, store_report
from ..sun import PlaneFigures, SunReport, sun_report
from ..weather import WeatherReport, weather_report
from ..working import Key, Quantity, Workings, used
from .around import main_plane, surroundings
from .life import LifeReport, life_report
from .months import carry_quantity, cover_quantity
from .night import NightFigures, night_figures
from .report import EnergyLine, Link, MonthCell, Verdict
from .sentences import Case, sentence_for


@dataclass(frozen=True, slots=True)
class Figures:
    """The figures of a design, without findings."""

    verdict: Verdict
    energy_line: EnergyLine
    draw: DrawReport
    store: StoreReport | None
    life: LifeReport | None
    sun: SunReport
    weather: WeatherReport | None
    array: ArrayReport
    charging: ChargingReport
    sizing: SizingReport
    night: NightFigures | None
    rehearsed: JudgedYears | None
    station: StationDraw
    asked_days: Key
    working: dict[Key, Quantity]

    def number(self, key: Key | None) -> float | None:
        """The value of a quantity by key, None where there is none."""
        return self.working[key].value if key else None


def _hard_month(design: Design, station: StationDraw, array: ArrayReport, workings: Workings) -> int:
    drawn = station.by_month
    if not array.stored_ah or not drawn.any():
        return heaviest_month(drawn, design.brief.months)
    known = workings
    return hardest_month(design.brief.months, [known[key].number for key in array.stored_ah], list(drawn))


def _window(design: Design) -> str:
    """The narrower of the usual windows of volts that a load wants."""
    return "10" if any(load.window == "10" for load in design.draw.loads) else "15"


def _means(
    design: Design,
    draw: DrawReport,
    store: StoreReport | None,
    array: ArrayReport,
    asked: Quantity,
    workings: Workings,
) -> list[Quantity | None]:
    """The rule of thumb by month: what each month's mean sun covers, or how much of a spell it carries."""
    known = workings
    usable = known[store.usable_ah] if store else None
    means: list[Quantity | None] = []
    for month in range(1, 13):
        drawn = known[draw.months_ah[month - 1]]
        stored = known[array.stored_ah[month - 1]] if array.stored_ah else None
        share: Quantity | None = None
        if not design.draw.loads or month not in design.brief.months:
            pass
        elif purpose_of(design.brief.purpose).is_spell:
            if usable is not None:
                share = carry_quantity(month, usable, stored, drawn, asked, workings)
        elif stored is not None:
            share = cover_quantity(month, stored, drawn, workings)
        means.append(share)
    return means


def _rehearsed(
    design: Design,
    station: StationDraw,
    draw: DrawReport,
    store: StoreReport | None,
    array: ArrayReport,
    asked: Quantity,
    workings: Workings,
) -> JudgedYears | None:
    if store is None:
        return None
    known, ground = workings, []
    for month in range(12):
        figures = [used("Q_day", known[draw.months_ah[month]]), used("Q", known[store.usable_ah])]
        if array.harvest_ah:
            figures.append(used("Q_h", known[array.harvest_ah[month]]))
        ground.append(figures)
    return judged_years(design, station, asked, known[store.usable_ah], ground, workings)


def _cells(design: Design, means: list[Quantity | None], rehearsed: JudgedYears | None) -> tuple[MonthCell, ...]:
    cells = []
    for month in range(1, 13):
        mean = means[month - 1]
        share = rehearsed.by_month[month - 1] if rehearsed else None
        state = rehearsed.month_states[month - 1] if rehearsed else None
        cells.append(MonthCell(month, month in design.brief.months, share, mean.key if mean else None, state))
    return tuple(cells)


def _weakest(
    purpose: Purpose, stored: Quantity | None, drawn: Quantity, lasts: Quantity | None, asked: Quantity
) -> Link:
    if drawn.number <= 0:
        return ""
    if not purpose_of(purpose).is_spell and stored is not None and stored.number < drawn.number:
        # No bank makes up for a month that brings too little.
        return "array"
    array_margin = stored.number / drawn.number if stored else math.inf
    store_margin = (lasts.value or math.inf) / asked.number if lasts else 0.0
    return "array" if array_margin < store_margin else "store"


def _energy_line(
    month: int, plane: PlaneFigures | None, draw: DrawReport, array: ArrayReport, workings: Workings
) -> EnergyLine:
    known = workings
    bus_v = known[draw.bus_v]
    hours = known[plane.hours[month - 1]] if plane else None
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


def figures_of(design: Design) -> Figures:
    """Work out everything the design comes to. Pure and total: any valid design has figures."""
    workings = Workings()
    bus_v = bus_volts(design, workings)
    sun = sun_report(design, workings)
    array = array_report(design, bus_v, sun.planes, workings)
    station = station_draw(design, bus_v.number)
    month = _hard_month(design, station, array, workings)
    draw = draw_report(design, station, bus_v, month, workings)
    asked = asked_days(design.brief, workings)
    known = workings
    daily, average = known[draw.daily_ah], known[draw.average_a]
    bank = design.store.bank
    plane = main_plane(design, sun)
    weather = weather_report(design, plane, month, workings)
    load = StationLoad(bus_v, daily, average, known[draw.peak_a])
    around = surroundings(design, weather.air_c if weather else (), plane, workings)
    store = store_report(design, bank, load, month, around, workings) if bank else None
    cold, hot = (
        (workings[weather.cold_c], workings[weather.hot_c])
        if weather
        else extremes(climate_of(design), design.brief, workings)
    )
    absorb_v = absorb_quantity(bank, bus_v, workings)
    beside = Station(bank, bus_v, absorb_v, cold, hot, store, month, _window(design))
    charging = charging_report(design, array, beside, sky_over(design), workings)
    plane_id = plane.string_id if plane else None
    life = life_report(design, station, store, array.stored_ah, plane_id, bus_v.number, workings) if store else None
    night = None
    if sun.longest_night_h:
        nights = [known[key] for key in sun.longest_night_h]
        night = night_figures(design, station, nights, known[store.usable_ah] if store else None, workings)
    has_panels = bool(array.strings) or array.alternator_ah is not None
    harvest = known[array.harvest_ah[month - 1]] if array.harvest_ah and has_panels else None
    stored = known[array.stored_ah[month - 1]] if array.stored_ah and has_panels else None
    basis = Basis(
        daily,
        known[draw.daily_wh],
        asked,
        known[plane.hours[month - 1]] if plane else None,
        harvest,
        known[store.held_share] if store else None,
        known[store.depth] if store else None,
        known[array.charge_v],
    )
    sizing = sizing_report(design, basis, workings)
    line = _energy_line(month, plane, draw, array, workings)
    means = _means(design, draw, store, array, asked, workings)
    rehearsed = _rehearsed(design, station, draw, store, array, asked, workings)
    cells = _cells(design, means, rehearsed)
    case = Case(design, month, cells, draw, store, array, rehearsed, asked, workings)
    sentence, figure = sentence_for(case)
    lasts = workings[store.days_without_sun] if store else None
    verdict = Verdict(
        sentence.headline,
        sentence.rest,
        sentence.state,
        month,
        _weakest(design.brief.purpose, stored, daily, lasts, asked) if sentence.state != "unknown" else "",
        f"Judged hour by hour over {rehearsed.years} weather years." if rehearsed else "Not rehearsed yet.",
        purpose_of(design.brief.purpose).share_of,
        figure,
        cells,
    )
    return Figures(
        verdict,
        line,
        draw,
        store,
        life,
        sun,
        weather,
        array,
        charging,
        sizing,
        night,
        rehearsed,
        station,
        asked.key,
        workings.as_dict(),
    )
