"""Where a design stands, as the sun needs to know it."""

from dataclasses import dataclass
from functools import cache

import pvlib

from ..data import rows_by
from ..design import Design


@dataclass(frozen=True, slots=True)
class Here:
    """A place, and how much of the reanalysis is planned on there."""

    latitude_deg: float
    longitude_deg: float
    elevation_m: float
    allowance: float = 1.0


@cache
def relief_m(latitude_deg: float, longitude_deg: float) -> float:
    """Height of the ground from the packaged relief [m], pvlib's lookup_altitude."""
    return float(pvlib.location.lookup_altitude(latitude_deg, longitude_deg))


def equator_azimuth_deg(latitude_deg: float) -> float:
    """The way that faces the equator: south in the north, north in the south."""
    return 0.0 if latitude_deg < 0 else 180.0


def here_of(design: Design) -> Here | None:
    """Where a design stands; None without a place."""
    place = design.place
    if place is None:
        return None
    known = place.elevation_m
    height_m = (
        known.value
        if known
        else relief_m(round(place.latitude_deg, 3), round(place.longitude_deg, 3))
    )
    allowance = float(rows_by("allowances", "allowance")[design.sun.allowance]["factor"])
    return Here(place.latitude_deg, place.longitude_deg, height_m, allowance)
