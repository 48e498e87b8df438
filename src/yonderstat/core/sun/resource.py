"""The packaged reanalysis: for every month, how the days' sunshine on the flat is spread at a
place."""

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
PARTS = 50
"""Each month's spread is carried as fifty equally likely days, each the mean of its fiftieth."""


@dataclass(frozen=True, slots=True)
class Resource:
    """Sunshine on the horizontal at a place, before any allowance.

    `day_kwh_m2[month, k]` is the k-th of fifty equally likely days of a month, dullest first.
    """

    day_kwh_m2: FloatArray
    distance_km: float
    """From the place to the nearest cell centre that counts."""
    cells: int
    land_share: float
    """Part of the cells around, by their weight, that hold data; 0 where one cell further off
    stands for them all."""


@dataclass(frozen=True, slots=True, kw_only=True)
class _Packaged:
    """The cells of the whole Earth: those that hold data one after another, as the sea would take
    half the memory."""

    lat: FloatArray
    lon: FloatArray
    valid: NDArray[np.bool_]
    """Which cells hold data, shape (lat, lon)."""
    place: NDArray[np.int64]
    """Where those stand in the two below, shape (lat, lon)."""
    days: NDArray[np.float32]
    """Day values, shape (cells, 12, bins). [kW·h/m²·d]"""
    chances: NDArray[np.float32]
    """How often they come, of the same shape."""


@cache
def _packaged() -> _Packaged:
    with gsee_climate_data.load() as data:
        lat, lon = data["lat"].astype(float), data["lon"].astype(float)
        chances = np.nan_to_num(data["pk"], nan=0.0, copy=False)
        valid = chances.sum(axis=(2, 3)) > 0.0
        # Kept in the single precision they come in, and of the two one at a time is whole.
        kept = chances[valid]
        del chances
        days = np.nan_to_num(data["xk"][valid], nan=0.0, copy=False)
        days *= 24.0 / 1000.0
    return _Packaged(
        lat=lat,
        lon=lon,
        valid=valid,
        place=np.cumsum(valid).reshape(valid.shape) - 1,
        days=days,
        chances=kept,
    )


def great_circle_km(lat1: float, lon1: float, lat2: FloatArray, lon2: FloatArray) -> FloatArray:
    """Distance over the sphere from one point to others [km].

    Parameters
    ----------
    lat1 : float
        From there. [°]
    lon1 : float
        [°]
    lat2 : ndarray
        To there, any shape. [°]
    lon2 : ndarray
        Of the same shape. [°]

    Returns
    -------
    ndarray
        Of the same shape. [km]
    """
    a1, a2 = np.radians(lat1), np.radians(lat2)
    half = (
        np.sin((a2 - a1) / 2) ** 2
        + np.cos(a1) * np.cos(a2) * np.sin(np.radians(lon2 - lon1) / 2) ** 2
    )
    return np.asarray(2 * EARTH_KM * np.arcsin(np.sqrt(np.clip(half, 0, 1))))


def _bilinear(latitude_deg: float, longitude_deg: float) -> list[tuple[int, int, float]]:
    """The four cells around a place with their bilinear weights; longitudes wrap at the date
    line."""
    packed = _packaged()
    lat, lon = packed.lat, packed.lon
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
    packed = _packaged()
    lat, lon, valid = packed.lat, packed.lon, packed.valid
    near = [cell for cell in _bilinear(latitude_deg, longitude_deg) if valid[cell[0], cell[1]]]
    if sum(weight for *_, weight in near) >= MIN_VALID_WEIGHT:
        return near
    rows, columns = np.nonzero(valid)
    distance = great_circle_km(latitude_deg, longitude_deg, lat[rows], lon[columns])
    best = int(np.argmin(distance))
    return [(int(rows[best]), int(columns[best]), 1.0)] if distance[best] <= MAX_REACH_KM else []


def _land_share(latitude_deg: float, longitude_deg: float) -> float:
    """Weight of the cells around that hold data, 0 to 1; those of no weight do not count, on land
    or at sea."""
    valid = _packaged().valid
    return sum(
        weight
        for row, column, weight in _bilinear(latitude_deg, longitude_deg)
        if valid[row, column]
    )


def equal_parts(value: FloatArray, chance: FloatArray, parts: int = PARTS) -> FloatArray:
    """A spread of values as equally likely parts, each the mean of its share, smallest first; the
    mean is kept.

    Parameters
    ----------
    value, chance : ndarray of shape (n,)
        Values and how often they come, in any order; the chances need not sum to one.

    Returns
    -------
    ndarray
        The mean of each part, least first.
    """
    order = np.argsort(value)
    value, chance = value[order], chance[order] / chance.sum()
    share = np.append(0.0, np.cumsum(chance))
    total = np.append(0.0, np.cumsum(value * chance))
    edges = np.interp(np.linspace(0.0, 1.0, parts + 1), share, total)
    return np.asarray(np.diff(edges) * parts)


def _month_spread(cells: list[tuple[int, int, float]], month_index: int) -> FloatArray:
    """Fifty equally likely days of a month from the blended spread of the cells."""
    packed = _packaged()
    values: list[FloatArray] = []
    weights: list[FloatArray] = []
    for row, column, weight in cells:
        cell = packed.place[row, column]
        chance = packed.chances[cell, month_index].astype(float)
        total = chance.sum()
        if total > 0:
            # The smoothed histogram runs below zero; no day gives less than nothing.
            values.append(np.maximum(packed.days[cell, month_index].astype(float), 0.0))
            weights.append(weight * chance / total)
    if not values:
        return np.zeros(PARTS)
    return equal_parts(np.concatenate(values), np.concatenate(weights))


@cache
def resource_at(latitude_deg: float, longitude_deg: float) -> Resource | None:
    """The packaged resource at a place, or None where no cell is near enough to stand for it.

    Notes
    -----
    Bilinear weights over the cells that hold data; if they weigh less than 0.2 in all, the nearest
    cell within 200 km; beyond that there is no honest answer.
    """
    cells = _cells(latitude_deg, longitude_deg)
    if not cells:
        return None
    lat, lon = _packaged().lat, _packaged().lon
    distance = min(
        float(great_circle_km(latitude_deg, longitude_deg, lat[[row]], lon[[column]])[0])
        for row, column, _ in cells
    )
    day_kwh_m2 = np.array([_month_spread(cells, index) for index in range(12)])
    day_kwh_m2.setflags(write=False)
    return Resource(day_kwh_m2, distance, len(cells), _land_share(latitude_deg, longitude_deg))
