"""Findings about the sun on the panels."""

import math
from collections.abc import Iterator

from scipy.special import ndtr

from ...calendar import MONTH_NAMES
from ...changes import replace
from ...climate import equator_azimuth_deg
from ...data import rows_by
from ...design import with_string, with_sun
from ...finding import Finding, Severity
from ...rehearse import assumed_figure
from ...report import Report
from ...station import StationModel
from ...sun import (
    mounting_of,
    tilt_map,
)
from ..register import mild_rule, rule
from ..remedies import covering, try_change
from ..severity import of_waste

FLAT_DEG, SHALLOW_DEG, AWAY_DEG = 10.0, 30.0, 90.0
TROPICS_DEG, FROST_LATITUDE_DEG = 15.0, 35.0
FROST_C = -5.0
SUN_SPREAD = assumed_figure("cell", "sun_spread")
FOUR_IN_FIVE_SIGMAS = 1.28
WORTH_SAYING, DARK_MONTH_H = 0.15, 0.5


def _turned_deg(one: float, other: float) -> float:
    return abs((one - other + 180.0) % 360.0 - 180.0)


@rule
def facing_away(station: StationModel, report: Report) -> Iterator[Finding]:
    """A panel that faces away from the noon sun: north and south mixed up."""
    place = station.design.place
    if place is None or abs(place.latitude_deg) < TROPICS_DEG:
        return
    towards = equator_azimuth_deg(place.latitude_deg)
    name = "north" if place.latitude_deg < 0 else "south"
    month = report.verdict.hard_month
    for index, string in enumerate(station.design.array.strings):
        if (
            string.mount != "fixed"
            or string.tilt_deg <= FLAT_DEG
            or _turned_deg(string.azimuth_deg, towards) <= AWAY_DEG
        ):
            continue
        at = f"/array/strings/{index}/azimuth_deg"
        effect = covering(station, month)
        changed = with_string(station.design, index, azimuth_deg=towards)
        label = f"Turn {string.name} to face {name}"
        yield Finding(
            id=f"sun.away.{string.id}",
            severity=of_waste(station, report),
            step="sun",
            sentence=f"{string.name} faces {string.azimuth_deg:g}°, away from the noon sun",
            why=(
                f"At this latitude the noon sun is in the {name}. Check the compass reading: was "
                "it taken the wrong way round?"
            ),
            pointer=at,
            remedies=(try_change(station, label, changed, [replace(at, towards)], effect),),
        )


@mild_rule
def flat_in_winter(station: StationModel, report: Report) -> Iterator[Finding]:
    """A flat panel where the sun stands low in the hard month."""
    month = report.verdict.hard_month
    found = tilt_map(station.design, (month,))
    if found is None or found.best_hours <= 0:
        return
    name = MONTH_NAMES[month - 1]
    planes = {plane.string_id: plane for plane in report.sun.planes}
    for index, string in enumerate(station.design.array.strings):
        if string.mount not in {"fixed", "flat"} or mounting_of(string).tilt_deg > FLAT_DEG:
            continue
        hours = report.working[planes[string.id].hours[month - 1]].number
        lost = 1.0 - hours / found.best_hours
        if lost < WORTH_SAYING:
            continue
        at = f"/array/strings/{index}/tilt_deg"
        aimed = {
            "mount": "fixed",
            "tilt_deg": found.best_tilt_deg,
            "azimuth_deg": found.best_azimuth_deg,
        }
        changed = with_string(station.design, index, **aimed)
        patch = [
            replace(f"/array/strings/{index}/mount", "fixed"),
            replace(at, found.best_tilt_deg),
            replace(f"/array/strings/{index}/azimuth_deg", found.best_azimuth_deg),
        ]
        label = (
            f"Tilt {string.name} to {found.best_tilt_deg:.0f}°, facing "
            f"{found.best_azimuth_deg:.0f}°"
        )
        yield Finding(
            id=f"sun.flat.{string.id}",
            severity="mind",
            step="array",
            sentence=f"{string.name} lies flat and loses {lost * 100:.0f} % of {name}'s sun",
            why="A flat panel catches least when the sun is low, and snow and dust stay on it.",
            pointer=at,
            remedies=(try_change(station, label, changed, patch, covering(station, month)),),
        )


@mild_rule
def dark_months(station: StationModel, report: Report) -> Iterator[Finding]:
    """Months in use in which no panel size is sensible."""
    month = report.verdict.hard_month
    found = tilt_map(station.design, (month,))
    if found is None or found.best_hours >= DARK_MONTH_H:
        return
    severity: Severity = of_waste(station, report) if station.purpose.all_year else "mind"
    yield Finding(
        id="sun.dark_month",
        severity=severity,
        step="sun",
        sentence=(
            f"{MONTH_NAMES[month - 1]} has {found.best_hours:.1f} sun-hours a day at best, "
            "at any tilt and direction"
        ),
        why=(
            "At this latitude there is almost no sun in winter. Plan another source for that "
            "month, or don't use the station then."
        ),
        pointer="/brief/months",
    )


@mild_rule
def skyline(station: StationModel, report: Report) -> Iterator[Finding]:
    """A skyline that takes a good part of the hard month."""
    if not station.design.sun.horizon:
        return
    month = report.verdict.hard_month
    here = tilt_map(station.design, (month,))
    open_sky = tilt_map(with_sun(station.design, horizon=[]), (month,))
    if here is None or open_sky is None or open_sky.best_hours <= 0:
        return
    lost = 1.0 - here.best_hours / open_sky.best_hours
    if lost >= WORTH_SAYING:
        yield Finding(
            id="sun.skyline",
            severity="mind",
            step="sun",
            sentence=(
                f"The skyline blocks {lost * 100:.0f} % of {MONTH_NAMES[month - 1]}'s sun, even "
                "for the best-aimed panel"
            ),
            why=(
                "Putting the panels higher, or further from what blocks the sun, helps more than a "
                "larger panel."
            ),
            pointer="/sun/horizon",
        )


@mild_rule
def snow_on_the_panels(station: StationModel, report: Report) -> Iterator[Finding]:
    """A shallow panel in frost, with no day under snow counted."""
    place = station.design.place
    if (
        place is None
        or abs(place.latitude_deg) < FROST_LATITUDE_DEG
        or station.climate.coldest_c >= FROST_C
    ):
        return
    if any(station.design.sun.snow_days):
        return
    for index, string in enumerate(station.design.array.strings):
        if string.mount != "two_axis" and mounting_of(string).tilt_deg < SHALLOW_DEG:
            yield Finding(
                id=f"sun.snow.{string.id}",
                severity="mind",
                step="sun",
                sentence=f"{string.name} is tilted only {mounting_of(string).tilt_deg:g}° where it "
                "freezes, and no days under snow are counted",
                why=(
                    "Snow slides off steep panels and stays on shallow ones. Enter how many days a "
                    "month snow covers them."
                ),
                pointer=f"/array/strings/{index}/tilt_deg",
            )


@mild_rule
def thin_allowance(station: StationModel, report: Report) -> Iterator[Finding]:
    """Planned on the middle of the figures, with nothing in hand."""
    sun = station.design.sun
    rows = rows_by("allowances", "allowance")
    below = float(rows["planning"]["factor"]) / float(rows["central"]["factor"])
    # Months that have more sun than the planning value, where their ratio to the middle is
    # log-normal.
    covered = float(ndtr(-math.log(below) / (SUN_SPREAD / FOUR_IN_FIVE_SIGMAS)))
    if sun.source == "reanalysis" and sun.allowance == "central" and report.sun.state == "known":
        yield Finding(
            id="sun.central",
            severity="mind",
            step="sun",
            sentence="You plan on the middle sun value: half of all places get less",
            why=f"Four months in five are within {100 * SUN_SPREAD:.0f} % of this value. With the "
            f"planning allowance, {100 * covered:.0f} % of all months have at least the sun "
            "you plan on.",
            pointer="/sun/allowance",
        )
