"""The Sun figures of a design: sun-hours on every plane by month, and where they come from."""

from dataclasses import dataclass
from functools import cache, lru_cache

import numpy as np
import pvlib

from ..data import rows_by
from ..design import Allowance, Design, PanelString, Place
from ..draw import MONTH_NAMES, month_key
from ..working import Input, Key, Quantity, Workings, given, stated, table, used
from .conditions import Conditions, conditions_of
from .geometry import night_hours_by_month
from .resource import Resource, resource_at
from .tilted import BRIGHT_SHARE, DULL_SHARE, plane_sun

REFERENCE_PLANE = "reference"


@dataclass(frozen=True, slots=True)
class PlaneFigures:
    """Sun-hours on one plane, January to December. `dull` and `bright` bound the middle eight days in ten."""

    string_id: str
    name: str
    tilt_deg: float
    azimuth_deg: float
    hours: tuple[Key, ...]
    dull: tuple[Key, ...]
    bright: tuple[Key, ...]
    takeaway: str


@dataclass(frozen=True, slots=True)
class SunReport:
    """The sun at the place. `state` tells whether there is anything to go on."""

    state: str
    """known, no_place or no_cell"""
    provenance: str
    """Where the figures come from, in words."""
    allowance: Key | None
    elevation_m: Key | None
    distance_km: Key | None
    longest_night_h: tuple[Key, ...]
    planes: tuple[PlaneFigures, ...]


@cache
def relief_m(latitude_deg: float, longitude_deg: float) -> float:
    """Height of the ground from the packaged relief [m], pvlib's lookup_altitude."""
    return float(pvlib.location.lookup_altitude(latitude_deg, longitude_deg))


def equator_azimuth_deg(latitude_deg: float) -> float:
    """The way that faces the equator: south in the north, north in the south."""
    return 0.0 if latitude_deg < 0 else 180.0


def _elevation(place: Place, workings: Workings) -> Quantity:
    if place.elevation_m is not None:
        item = given("z", "elevation given", place.elevation_m, "m", "/place/elevation_m")
    else:
        height = relief_m(round(place.latitude_deg, 3), round(place.longitude_deg, 3))
        item = table("z", "relief at the place", height, "m", "relief")
    return workings.add(
        "sun.elevation_m",
        item.value,
        "m",
        "Elevation",
        "z",
        "given, or from the packaged relief",
        [item],
        "relief",
    )


def _allowance(name: Allowance, conditions: Conditions, workings: Workings) -> Quantity:
    key, label = "sun.allowance", "Allowance on the figures"
    if conditions.own_hours is not None:
        own = Input("a", "your own figures, as they are", 1.0, "share", "stated", pointer="/sun/own_hours")
        return workings.add(
            key, 1.0, "share", label, "a", "nothing is taken off figures of your own", [own], "arithmetic"
        )
    row = rows_by("allowances", "allowance")[name]
    factor = float(row["factor"])
    at, source = "/sun/allowance", "allowance"
    item = Input("a", f"{row['label']} allowance", factor, "share", "stated", pointer=at, source=source)
    words = "the reanalysis reads high; this much of it is planned on"
    return workings.add(key, factor, "share", label, "a", words, [item], source)


def _distance(resource: Resource, workings: Workings) -> Quantity:
    return workings.add(
        "sun.distance_km",
        resource.distance_km,
        "km",
        "Nearest cell of the reanalysis",
        "d",
        "over the ground from the place to the middle of the nearest 3° cell that counts",
        [table("n", "cells blended", resource.cells, "", "merra2")],
        "merra2",
    )


@dataclass(frozen=True, slots=True)
class _Plane:
    id: str
    name: str
    tilt: Input
    azimuth: Input


def _planes(design: Design, place: Place) -> tuple[_Plane, ...]:
    strings: list[PanelString] = design.array.strings
    if not strings:
        tilt = round(abs(place.latitude_deg))
        faces = equator_azimuth_deg(place.latitude_deg)
        reference = _Plane(
            REFERENCE_PLANE,
            "a panel tilted like the latitude, facing the equator",
            Input("β", "tilt", tilt, "°", "default", source="practice"),
            Input("γ", "faces", faces, "°", "default", source="practice"),
        )
        return (reference,)
    return tuple(
        _Plane(
            string.id,
            string.name,
            stated("β", "tilt", string.tilt_deg, "°", f"/array/strings/{index}/tilt_deg"),
            stated("γ", "faces", string.azimuth_deg, "°", f"/array/strings/{index}/azimuth_deg"),
        )
        for index, string in enumerate(strings)
    )


def _takeaway(means: np.ndarray, months: tuple[int, ...], name: str) -> str:
    used_months = np.array(months) - 1
    worst, best = used_months[np.argmin(means[used_months])], used_months[np.argmax(means[used_months])]
    if means[best] <= 0:
        return f"No sun reaches {name} in the months in use."
    if worst == best:
        return f"{MONTH_NAMES[worst]} gives {means[worst]:.1f} h on {name}."
    return (
        f"{MONTH_NAMES[worst]} gives {means[worst]:.1f} h on {name}, "
        f"{means[worst] / means[best]:.0%} of {MONTH_NAMES[best]}'s {means[best]:.1f} h.".replace("%", " %")
    )


def _flat_input(month: int, hours: float, conditions: Conditions) -> Input:
    if conditions.own_hours is not None:
        return Input("H", "your mean day on the flat", hours, "h", "stated", pointer=f"/sun/own_hours/{month - 1}")
    return table("H", "mean day on the flat, before allowance", hours, "h", "merra2")


def _month_inputs(month: int, conditions: Conditions) -> list[Input]:
    albedo, snow = conditions.albedo[month - 1], conditions.snow_days[month - 1]
    inputs = [stated("ρ", "ground reflection", albedo, "share", f"/sun/albedo/{month - 1}")]
    if snow:
        inputs.append(stated("s", "days under snow", snow, "d", f"/sun/snow_days/{month - 1}"))
    if conditions.horizon:
        highest = max(elevation for _, elevation in conditions.horizon)
        inputs.append(stated("θ", "skyline, its highest", highest, "°", "/sun/horizon"))
    return inputs


def _bound(
    plane: _Plane, month: int, word: str, share: float, value: float, mean: Quantity, workings: Workings
) -> Quantity:
    percent = round(share * 100)
    return workings.add(
        month_key(f"sun.{plane.id}.{word}", month),
        value,
        "h",
        f"A {word} day on {plane.name}, {MONTH_NAMES[month - 1]} (P{percent})",
        f"P{percent} of the days",
        f"{percent} days in a hundred give less",
        [used("H_β", mean)],
        "tilted",
    )


def _plane_figures(
    plane: _Plane,
    months: tuple[int, ...],
    place: Place,
    conditions: Conditions,
    allowance: Quantity,
    elevation: Quantity,
    workings: Workings,
) -> PlaneFigures:
    tilt_deg, azimuth_deg = float(plane.tilt.value or 0.0), float(plane.azimuth.value or 0.0)
    on_plane = plane_sun(
        place.latitude_deg,
        place.longitude_deg,
        elevation.number,
        allowance.number,
        conditions,
        tilt_deg,
        azimuth_deg,
    )
    if on_plane is None:
        raise ValueError("asked for a plane where there is no resource")
    base = [
        stated("φ", "latitude", place.latitude_deg, "°", "/place/latitude_deg"),
        stated("λ", "longitude", place.longitude_deg, "°", "/place/longitude_deg"),
        used("z", elevation),
        used("a", allowance),
        plane.tilt,
        plane.azimuth,
    ]
    hours: list[Key] = []
    dull: list[Key] = []
    bright: list[Key] = []
    for month in range(1, 13):
        flat = _flat_input(month, float(on_plane.flat_mean[month - 1]), conditions)
        mean = workings.add(
            month_key(f"sun.{plane.id}.hours", month),
            float(on_plane.mean[month - 1]),
            "h",
            f"Sun-hours on {plane.name}, {MONTH_NAMES[month - 1]}",
            "H_β = mean over days of R(β, γ, φ, ρ, skyline) · min(a · H, 1.05 · clear) · (1 − snow)",
            "ten equally likely days of the month on the flat, times the allowance, split into beam and "
            "diffuse, spread over the hours, cut off at the skyline and tilted onto the plane, less the days under "
            "snow; one sun-hour is 1 kW·h/m²",
            [flat, *base, *_month_inputs(month, conditions)],
            "tilted",
        )
        hours.append(mean.key)
        dull.append(_bound(plane, month, "dull", DULL_SHARE, float(on_plane.dull[month - 1]), mean, workings).key)
        bright.append(
            _bound(plane, month, "bright", BRIGHT_SHARE, float(on_plane.bright[month - 1]), mean, workings).key
        )
    return PlaneFigures(
        plane.id,
        plane.name,
        tilt_deg,
        azimuth_deg,
        tuple(hours),
        tuple(dull),
        tuple(bright),
        _takeaway(on_plane.mean, months, "this plane" if plane.id != REFERENCE_PLANE else plane.name),
    )


def _nights(place: Place, workings: Workings) -> tuple[Key, ...]:
    latitude = stated("φ", "latitude", place.latitude_deg, "°", "/place/latitude_deg")
    return tuple(
        workings.add(
            month_key("sun.night_h", month),
            float(hours),
            "h",
            f"Longest night of {MONTH_NAMES[month - 1]}",
            "N = 24 · (1 − ω_s / π)",
            "the day of the month with the lowest sun, sunset to sunrise on a flat horizon",
            [latitude],
            "geometry",
        ).key
        for month, hours in enumerate(night_hours_by_month(place.latitude_deg), start=1)
    )


@lru_cache(maxsize=256)
def _sun_of(
    place: Place, allowance_name: Allowance, conditions: Conditions, planes: tuple[_Plane, ...], months: tuple[int, ...]
) -> tuple[SunReport, tuple[Quantity, ...]]:
    """The report and its figures; kept, as editing a load must not work out the sun again."""
    workings = Workings()
    nights = _nights(place, workings)
    resource = resource_at(place.latitude_deg, place.longitude_deg)
    elevation = _elevation(place, workings)
    if resource is None and conditions.own_hours is None:
        return SunReport("no_cell", "", None, elevation.key, None, nights, ()), workings.all()
    allowance = _allowance(allowance_name, conditions, workings)
    distance = _distance(resource, workings) if resource else None
    figures = tuple(
        _plane_figures(plane, months, place, conditions, allowance, elevation, workings) for plane in planes
    )
    provenance = _provenance(resource, conditions)
    distance_key = distance.key if distance else None
    return SunReport("known", provenance, allowance.key, elevation.key, distance_key, nights, figures), workings.all()


def _provenance(resource: Resource | None, conditions: Conditions) -> str:
    if conditions.own_hours is None:
        return (
            "NASA MERRA-2 reanalysis, 2011–2015, as a spread of days for each month. "
            "Five years show how days differ, not how years do."
        )
    if resource is None:
        return "Your own monthly figures; how days differ is a standard guess, as no cell of the reanalysis is near."
    return "Your own monthly figures; how days differ is taken from the nearest cell of the reanalysis."


def sun_report(design: Design, workings: Workings) -> SunReport:
    """Work out the sun-hours on every plane of the design, month by month."""
    place = design.place
    if place is None:
        return SunReport("no_place", "", None, None, None, (), ())
    conditions = conditions_of(design.sun)
    months = tuple(design.brief.months)
    report, quantities = _sun_of(place, design.sun.allowance, conditions, _planes(design, place), months)
    workings.take(quantities)
    return report
