"""Findings about where the sun's figures come from: shade, weather files, far cells, a guessed
cold."""

from collections.abc import Iterator
from dataclasses import replace as changed_copy

from ...calendar import MONTH_NAMES
from ...changes import Change, replace
from ...climate import here_of, relief_m
from ...finding import Finding, Severity
from ...report import Report
from ...station import StationModel
from ...sun import (
    conditions_of,
    plane_sun,
    planes_of,
    resource_at,
)
from ...words import celsius, kilometres
from ..register import mild_rule, rule

MUCH_SEA = 0.5
"""Where less than this of the sun's cells around, by weight, is land, the sea speaks for the
place."""
FAR_FILE_KM, STRANGE_FILE_KM = 50.0, 200.0
STRANGE_HEIGHT_M = 400.0
"""The packaged relief has a cell of some kilometres: stations in hills differ from it by 200 or 300
m. [C]"""
SHADE_WORTH_SAYING, UNLIKE_CELL, WHOLE_YEAR_DAYS = 0.15, 0.30, 330


@mild_rule
def trees_in_the_way(station: StationModel, report: Report) -> Iterator[Finding]:
    """Trees that take a good part of the hard month."""
    here, month = here_of(station.design), report.verdict.hard_month
    conditions = conditions_of(station.design.sun)
    if (
        here is None
        or report.sun.state != "known"
        or not any(conditions.shade_morning + conditions.shade_afternoon)
    ):
        return
    open_air = changed_copy(conditions, shade_morning=(0.0,) * 12, shade_afternoon=(0.0,) * 12)
    for plane in planes_of(station.design, here.latitude_deg):
        shaded, free = (plane_sun(here, item, plane.mounting) for item in (conditions, open_air))
        if shaded is None or free is None or free.mean[month - 1] <= 0:
            continue
        lost = 1.0 - shaded.mean[month - 1] / free.mean[month - 1]
        if lost >= SHADE_WORTH_SAYING:
            yield Finding(
                id=f"sun.shade.{plane.id}",
                severity="mind",
                step="sun",
                sentence=(
                    f"Trees take {lost * 100:.0f} % of {MONTH_NAMES[month - 1]}'s sun from "
                    f"{plane.name}"
                ),
                why=(
                    "A shaded cell holds back its whole string, so the loss can be larger "
                    "than the shaded share. "
                )
                + (
                    "Move the panel, raise it, or cut the tree."
                    if station.design.array.strings
                    else "Another spot, a raised panel, or a cut tree."
                ),
                pointer="/sun/shade_morning",
            )


@mild_rule
def far_cell(station: StationModel, report: Report) -> Iterator[Finding]:
    """An island or a coast where the reanalysis speaks from far off or from one cell alone."""
    place = station.design.place
    if place is None or station.design.sun.source != "reanalysis":
        return
    resource = resource_at(place.latitude_deg, place.longitude_deg)
    if resource is None or resource.land_share >= MUCH_SEA:
        return
    yield Finding(
        id="sun.far_cell",
        severity="mind",
        step="sun",
        sentence=f"{100.0 * (1.0 - resource.land_share):.0f} % of the sun data used here is for "
        f"open sea; the nearest data on land is {kilometres(resource.distance_km)} away",
        why="Coasts and islands have their own clouds, which data on a 3° grid cannot show. "
        "Load a weather file from a nearby station, or plan with the cautious allowance.",
        pointer="/sun/source",
    )


@rule
def file_from_elsewhere(station: StationModel, report: Report) -> Iterator[Finding]:
    """A weather file taken at another place."""
    km, record = report.number(report.sun.record_km), station.design.sun.record
    if km is None or record is None or station.design.place is None or km < FAR_FILE_KM:
        return
    south, file_south = station.design.place.latitude_deg < 0, (record.latitude_deg or 0.0) < 0
    severity: Severity = (
        "stop" if south != file_south else "fix" if km >= STRANGE_FILE_KM else "mind"
    )
    why = (
        (
            "The file is from the other side of the equator: its summer is your winter, and "
            "every month is wrong."
        )
        if south != file_south
        else (
            "Clouds differ within tens of kilometres, and near coasts and mountains within a "
            "few. Is this the right file?"
        )
    )
    remedy = Change(
        "Use the built-in sun data instead",
        "figures for this place, with an allowance",
        (replace("/sun/source", "reanalysis"),),
    )
    yield Finding(
        id="sun.file_elsewhere",
        severity=severity,
        step="sun",
        sentence=f"The weather file “{record.name}” was measured {kilometres(km)} from here",
        why=why,
        pointer="/sun/record",
        remedies=(remedy,),
    )


@mild_rule
def file_of_a_strange_height(station: StationModel, report: Report) -> Iterator[Finding]:
    """A weather file whose header gives a height that the ground there has not."""
    record = station.design.sun.record
    if station.design.sun.source != "record" or record is None or record.elevation_m is None:
        return
    if record.latitude_deg is None or record.longitude_deg is None:
        return
    ground_m = relief_m(round(record.latitude_deg, 3), round(record.longitude_deg, 3))
    if abs(record.elevation_m - ground_m) < STRANGE_HEIGHT_M:
        return
    yield Finding(
        id="sun.file_height",
        severity="mind",
        step="sun",
        sentence=f"The weather file “{record.name}” says its station is at "
        f"{record.elevation_m:,.0f} m; the ground there is at about {ground_m:,.0f} m",
        why="Either the height or the place in its header is wrong. If it is the place, the "
        "sunshine of every month is wrong too. Check where the file was measured. In steep "
        "country a summit or a valley can differ that much from the map.",
        pointer="/sun/record",
    )


@mild_rule
def file_mended(station: StationModel, report: Report) -> Iterator[Finding]:
    """A weather file with gaps, short of a year, or unlike the packaged figures."""
    record, place = station.design.sun.record, station.design.place
    if record is None or place is None or station.design.sun.source != "record":
        return
    held = [value for value in record.day_wh_m2 if value is not None]
    if record.repairs:
        yield Finding(
            id="sun.file_mended",
            severity="mind",
            step="sun",
            sentence=f"We repaired “{record.name}” while reading it: {record.repairs[0]}"
            + (f", and {len(record.repairs) - 1} more" if len(record.repairs) > 1 else ""),
            why=(
                "The hours we filled and the days we left out are listed under the file. Check the "
                "months with many of them."
            ),
            pointer="/sun/record",
        )
    if len(held) < WHOLE_YEAR_DAYS:
        yield Finding(
            id="sun.file_short",
            severity="mind",
            step="sun",
            sentence=f"“{record.name}” has {len(held)} days, less than a year",
            why=(
                "No two summers or winters are alike. For the missing months we use the built-in "
                "sun data."
            ),
            pointer="/sun/record",
        )
    resource = resource_at(place.latitude_deg, place.longitude_deg)
    if resource is None or len(held) < WHOLE_YEAR_DAYS:
        return
    ratio = sum(held) / len(held) / 1000.0 / float(resource.day_kwh_m2.mean())
    if abs(ratio - 1.0) >= UNLIKE_CELL:
        yield Finding(
            id="sun.file_unlike",
            severity="mind",
            step="sun",
            sentence=f"“{record.name}” has {abs(ratio - 1.0) * 100:.0f} % "
            f"{'more' if ratio > 1 else 'less'} sun over the year than the built-in sun data",
            why="The two usually agree within 15 %. Look for a wrong unit, a shaded or tilted "
            "sensor, or another "
            "place's file.",
            pointer="/sun/record",
        )


@mild_rule
def cold_not_given(station: StationModel, report: Report) -> Iterator[Finding]:
    """A cold nobody has given, under panels whose volts rise in it."""
    weather = report.weather
    if (
        weather is None
        or not station.design.array.strings
        or station.design.brief.coldest_c is not None
    ):
        return
    cold = report.working[weather.cold_c].number
    yield Finding(
        id="sun.cold_guess",
        severity="mind",
        step="brief",
        sentence=(
            f"No coldest temperature entered, so string volts are checked at {celsius(cold)}"
        ),
        why=(
            "A guess that is too warm can burn a controller: cold panels give more volts. "
            "Enter the lowest temperature you know of."
        ),
        pointer="/brief/coldest_c",
    )
