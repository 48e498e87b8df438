"""The packaged reanalysis: for every month, how the days' sunshine on the flat is spread at a place."""

from dataclasses import dataclass
from functools import cache

import gsee_climate_data
import numpy as np
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]

CELL_DEG = 3.0
MIN_VALID_WEIGHT = 0.2
MAX_REACH_KM = 200.0
EARTH_KM = 6371.0
TENTHS = 10
"""Each month's spread is carried as ten equally likely days, each the mean of its tenth."""


@dataclass(frozen=True, slots=True)
class Resource:
    """Sunshine on the horizontal at a place, before any allowance.

    `day_kwh_m2[month, k]` is the k-th of ten equally likely days of a month, dullest first.
    """

    day_kwh_m2: FloatArray
    distance_km: float
    """From the place to the nearest cell centre that counts."""
    cells: int


@cache
def _packaged() -> tuple[FloatArray, FloatArray, FloatArray, FloatArray, NDArray[np.bool_]]:
    """Latitudes, longitudes, day values [kW·h/m²·d], their chances, and which cells hold data."""
    with gsee_climate_data.load() as data:
        lat, lon = data["lat"].astype(float), data["lon"].astype(float)
        days = data["xk"].astype(float) * 24.0 / 1000.0
        chances = np.nan_to_num(data["pk"].astype(float), nan=0.0)
    days = np.nan_to_num(days, nan=0.0)
    return lat, lon, days, chances, chances.sum(axis=(2, 3)) > 0.0


def great_circle_km(lat1: float, lon1: float, lat2: FloatArray, lon2: FloatArray) -> FloatArray:
    """Distance over the sphere from one point to others [km]."""
    a1, a2 = np.radians(lat1), np.radians(lat2)
    half = np.sin((a2 - a1) / 2) ** 2 + np.cos(a1) * np.cos(a2) * np.sin(np.radians(lon2 - lon1) / 2) ** 2
    return np.asarray(2 * EARTH_KM * np.arcsin(np.sqrt(np.clip(half, 0, 1))))


def _bilinear(latitude_deg: float, longitude_deg: float) -> list[tuple[int, int, float]]:
    """The four cells around a place with their bilinear weights; longitudes wrap at the date line."""
    lat, lon, *_ = _packaged()
    row = (latitude_deg - lat[0]) / CELL_DEG
    column = ((longitude_deg - lon[0]) % 360.0) / CELL_DEG
    corners = []
    for r in (int(np.floor(row)), int(np.floor(row)) + 1):
        for c in (int(np.floor(column)), int(np.floor(column)) + 1):
            weight = (1 - abs(row - r)) * (1 - abs(column - c))
            if 0 <= r < lat.size and weight > 0:
                corners.append((r, c % lon.size, weight))
    return corners


def _cells(latitude_deg: float, longitude_deg: float) -> list[tuple[int, int, float]]:
    lat, lon, _, _, valid = _packaged()
    near = [cell for cell in _bilinear(latitude_deg, longitude_deg) if valid[cell[0], cell[1]]]
    if sum(weight for *_, weight in near) >= MIN_VALID_WEIGHT:
        return near
    rows, columns = np.nonzero(valid)
    distance = great_circle_km(latitude_deg, longitude_deg, lat[rows], lon[columns])
    best = int(np.argmin(distance))
    return [(int(rows[best]), int(columns[best]), 1.0)] if distance[best] <= MAX_REACH_KM else []


def _month_quantiles(cells: list[tuple[int, int, float]], month_index: int) -> FloatArray:
    """Ten equally likely days of a month from the blended spread of the cells, means kept within each tenth."""
    _, _, days, chances, _ = _packaged()
    values: list[FloatArray] = []
    weights: list[FloatArray] = []
    for row, column, weight in cells:
        chance = chances[row, column, month_index]
        total = chance.sum()
        if total > 0:
            # The smoothed histogram runs below zero; no day gives less than nothing.
            values.append(np.maximum(days[row, column, month_index], 0.0))
            weights.append(weight * chance / total)
    if not values:
        return np.zeros(TENTHS)
    value, chance = np.concatenate(values), np.concatenate(weights)
    order = np.argsort(value)
    value, chance = value[order], chance[order] / chance.sum()
    share = np.append(0.0, np.cumsum(chance))
    energy = np.append(0.0, np.cumsum(value * chance))
    edges = np.interp(np.linspace(0.0, 1.0, TENTHS + 1), share, energy)
    return np.asarray(np.diff(edges) * TENTHS)


@cache
def resource_at(latitude_deg: float, longitude_deg: float) -> Resource | None:
    """The packaged resource at a place, or None where no cell is near enough to stand for it.

    Notes
    -----
    Bilinear weights over the cells that hold data; if they weigh less than 0.2 in all, the nearest cell within
    200 km; beyond that there is no honest answer.
    """
    cells = _cells(latitude_deg, longitude_deg)
    if not cells:
        return None
    lat, lon, *_ = _packaged()
    distance = min(
        float(great_circle_km(latitude_deg, longitude_deg, lat[[row]], lon[[column]])[0]) for row, column, _ in cells
    )
    day_kwh_m2 = np.array([_month_quantiles(cells, index) for index in range(12)])
    day_kwh_m2.setflags(write=False)
    return Resource(day_kwh_m2, distance, len(cells))
