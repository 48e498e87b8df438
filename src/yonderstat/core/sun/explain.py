"""The sun explained: sun-hours on every plane by month, and where they come from."""

from dataclasses import dataclass

import numpy as np

from ..calendar import MONTH_NAMES, month_key
from ..climate import Here, equator_azimuth_deg, relief_m
from ..data import rows_by
from ..design import Design, Place, Sun
from ..working import Input, Key, Quantity, Workings, given, stated, table
from .conditions import conditions_of
from .geometry import night_hours_by_month
from .planes import Plane, PlaneBasis, PlaneFigures, plane_figures
from .resource import Resource, great_circle_km, resource_at
from .spread import DaySpread, day_spread


@dataclass(frozen=True, slots=True, kw_only=True)
class SunReport:
    """The sun at the place. `state` tells whether there is anything to go on."""

    state: str
    """known, no_place or no_cell"""
    provenance: str
    """Where the figures come from, in words."""
    confidence: str
    """How far to trust them, in words."""
    allowance: Key | None
    elevation_m: Key | None
    distance_km: Key | None
    record_km: Key | None
    """From the place to where the weather file was taken."""
    longest_night_h: tuple[Key, ...]
    planes: tuple[PlaneFigures, ...]
    towards_deg: float
    """Where the noon sun stands over the year: the way a new panel faces."""


def _elevation(place: Place, workings: Workings) -> Quantity:
    if place.elevation_m is not None:
        item = given("z", "elevation given", place.elevation_m, "m", "/place/elevation_m")
    else:
        height = relief_m(round(place.latitude_deg, 3), round(place.longitude_deg, 3))
        item = table("z", "terrain map at the place", height, "m", "relief")
    return workings.add(
        "sun.elevation_m",
        item.value,
        "m",
        label="Elevation",
        formula="z",
        words="your figure, or from the built-in terrain map",
        inputs=[item],
        source="relief",
    )


def _allowance(sun: Sun, spread: DaySpread, workings: Workings) -> Quantity:
    key, label = "sun.allowance", "Allowance on the sun figures"
    if sun.source == "own":
        own = Input(
            symbol="a",
            label="your own figures, unchanged",
            value=1.0,
            unit="share",
            origin="stated",
            pointer="/sun/own_hours",
        )
        return workings.add(
            key,
            1.0,
            "share",
            label=label,
            formula="a",
            words="your own figures are used without an allowance",
            inputs=[own],
            source="arithmetic",
        )
    if all(spread.recorded):
        file = Input(
            symbol="a",
            label="the weather file, unchanged",
            value=1.0,
            unit="share",
            origin="measured",
            pointer="/sun/record",
        )
        return workings.add(
            key,
            1.0,
            "share",
            label=label,
            formula="a",
            words="measured days are used without an allowance",
            inputs=[file],
            source="arithmetic",
        )
    row = rows_by("allowances", "allowance")[sun.allowance]
    factor = float(row["factor"])
    at, source = "/sun/allowance", "allowance"
    item = Input(
        symbol="a",
        label=f"{row['label']} allowance",
        value=factor,
        unit="share",
        origin="stated",
        pointer=at,
        source=source,
    )
    words = "the NASA weather data read a little high, so we plan with this share of them"
    if any(spread.recorded):
        words += ", in the months the file does not have"
    return workings.add(
        key, factor, "share", label=label, formula="a", words=words, inputs=[item], source=source
    )


def _distance(resource: Resource, workings: Workings) -> Quantity:
    return workings.add(
        "sun.distance_km",
        resource.distance_km,
        "km",
        label="Distance to the nearest point of the weather data",
        formula="d",
        words="from the place to the middle of the nearest 3° grid cell used",
        inputs=[table("n", "cells blended", resource.cells, "", "merra2")],
        source="merra2",
    )


def _nights(place: Place, workings: Workings) -> tuple[Key, ...]:
    latitude = stated("φ", "latitude", place.latitude_deg, "°", "/place/latitude_deg")
    return tuple(
        workings.add(
            month_key("sun.night_h", month),
            float(hours),
            "h",
            label=f"Longest night of {MONTH_NAMES[month - 1]}",
            formula="N = 24 · (1 − ω_s / π)",
            words="sunset to sunrise on the shortest day of the month, with a flat horizon",
            inputs=[latitude],
            source="geometry",
        ).key
        for month, hours in enumerate(night_hours_by_month(place.latitude_deg), start=1)
    )


def _record_km(design: Design, here: Here, workings: Workings) -> Quantity | None:
    record = design.sun.record
    if (
        design.sun.source != "record"
        or record is None
        or record.latitude_deg is None
        or record.longitude_deg is None
    ):
        return None
    away = great_circle_km(
        here.latitude_deg,
        here.longitude_deg,
        np.array([record.latitude_deg]),
        np.array([record.longitude_deg]),
    )
    return workings.add(
        "sun.record_km",
        float(away[0]),
        "km",
        label=f"Distance to where “{record.name}” was measured",
        formula="d",
        words="from the place to the coordinates in the file",
        inputs=[
            Input(
                symbol="φ",
                label="latitude of the file",
                value=record.latitude_deg,
                unit="°",
                origin="measured",
                pointer="/sun/record",
            ),
            Input(
                symbol="λ",
                label="longitude of the file",
                value=record.longitude_deg,
                unit="°",
                origin="measured",
                pointer="/sun/record",
            ),
        ],
        source="geometry",
    )


def _years_of(record_days: int) -> str:
    years = record_days / 365.25
    return f"{record_days} days" if years < 1.5 else f"{years:.0f} years"


def _provenance(sun: Sun, resource: Resource | None, spread: DaySpread) -> str:
    if sun.source == "record" and sun.record is not None:
        record = sun.record
        held = sum(value is not None for value in record.day_wh_m2)
        what = (
            "a typical year"
            if record.kind == "typical"
            else f"{_years_of(held)} measured from {record.first_day}"
        )
        missing = [MONTH_NAMES[month] for month in range(12) if not spread.recorded[month]]
        rest = (
            (
                f" It has no data for {', '.join(missing)}. For these months we use the NASA "
                "weather data."
            )
            if missing
            else ""
        )
        return f"“{record.name}”, {what} ({record.form.upper()} file).{rest}"
    if sun.source == "reanalysis":
        return (
            "NASA weather data (MERRA-2 reanalysis, 2011–2015), as ten typical days for each "
            "month. Five years show how days differ, but not how years do."
        )
    if resource is None:
        return (
            "Your own monthly figures. How much days differ is a standard guess, because no "
            "NASA weather data are near."
        )
    return (
        "Your own monthly figures. How much days differ comes from the nearest NASA weather data."
    )


def _confidence(sun: Sun, resource: Resource | None) -> str:
    if sun.source == "record" and sun.record is not None:
        if sun.record.kind == "typical":
            return (
                "Fair to good for the average of a month. It is built from average months, so "
                "every second year is duller."
            )
        return (
            "As good as the instrument. A few years contain few long dull spells, and our "
            "simulated years add none."
        )
    if sun.source == "own" or resource is None:
        return "As good as your source."
    near = "Fair" if resource.distance_km < 250 else "Poor"
    return (
        f"{near}: in four months of five, the sun is within 25 % of the plan; within 50 % "
        "where the noon sun is below 15°. The data read high under broken cloud, and low "
        "in midwinter far from the equator. They don't show valleys, fog or islands."
    )


def sun_report(
    design: Design, here: Here | None, planes: tuple[Plane, ...], workings: Workings
) -> SunReport:
    """The sun-hours on every plane of the design, month by month.

    Parameters
    ----------
    here : Here or None
        The place; None where the site has none.
    planes : tuple of Plane
        Every plane panels stand in.
    """
    place = design.place
    if place is None or here is None:
        return SunReport(
            state="no_place",
            provenance="",
            confidence="",
            allowance=None,
            elevation_m=None,
            distance_km=None,
            record_km=None,
            longest_night_h=(),
            planes=(),
            towards_deg=equator_azimuth_deg(0.0),
        )
    conditions, towards_deg = conditions_of(design.sun), equator_azimuth_deg(place.latitude_deg)
    nights = _nights(place, workings)
    resource = resource_at(place.latitude_deg, place.longitude_deg)
    elevation = _elevation(place, workings)
    spread = day_spread(here, conditions)
    if spread is None:
        return SunReport(
            state="no_cell",
            provenance="",
            confidence="",
            allowance=None,
            elevation_m=elevation.key,
            distance_km=None,
            record_km=None,
            longest_night_h=nights,
            planes=(),
            towards_deg=towards_deg,
        )
    allowance = _allowance(design.sun, spread, workings)
    distance = _distance(resource, workings) if resource else None
    record_km = _record_km(design, here, workings)
    basis = PlaneBasis(
        here=here,
        conditions=conditions,
        soiling=design.sun.soiling,
        months=tuple(design.brief.months),
        elevation=elevation,
        allowance=allowance,
    )
    told = []
    for plane in planes:
        figures, quantities = plane_figures(plane, basis)
        workings.take(quantities)
        told.append(figures)
    return SunReport(
        state="known",
        provenance=_provenance(design.sun, resource, spread),
        confidence=_confidence(design.sun, resource),
        allowance=allowance.key,
        elevation_m=elevation.key,
        distance_km=distance.key if distance else None,
        record_km=record_km.key if record_km else None,
        longest_night_h=nights,
        planes=tuple(told),
        towards_deg=towards_deg,
    )
