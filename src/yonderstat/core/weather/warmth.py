"""The air of a place by month: from a weather file, a city near by, or an estimate that says how good it is."""

from dataclasses import dataclass
from functools import cache, lru_cache

import numpy as np
from numpy.typing import NDArray

from ..data import rows, toml_table
from ..design import WeatherRecord
from ..draw import MONTH_NAMES
from ..sun import great_circle_km, relief_m
from .zone import SEA, climate_zone, zone_figure

FloatArray = NDArray[np.float64]

LETTERS = ("A", "B", "C", "D", "h", "k", "a", "b", "c", "s", "w", "f", "m")
MONTH_COLUMNS = tuple(f"{month[:3].lower()}_c" for month in MONTH_NAMES)


CITY_ERROR_K = 1.0
"""[C] assumed within the city's reach."""
UNKNOWN_ZONE_ERROR_K = 10.0
"""[C] assumed in a climate zone without a packaged city; deep continental winters are missed by more."""


@dataclass(frozen=True, slots=True)
class Warmth:
    """The air of a place. Arrays of shape (12,)."""

    mean_c: FloatArray
    swing_k: FloatArray
    """From the coldest to the warmest hour of a usual day."""
    spread_k: FloatArray
    """Standard deviation of the days' means."""
    basis: str
    """record, city or guess"""
    error_k: float | None
    """How far a month's mean may be off, root mean square; None where it was measured."""
    zone: str
    distance_km: float | None


@dataclass(frozen=True, slots=True)
class _Cities:
    latitude_deg: FloatArray
    longitude_deg: FloatArray
    elevation_m: FloatArray
    zones: tuple[str, ...]
    mean_c: FloatArray
    """Shape (city, month), as measured."""


def zone_error_k(zone: str) -> float:
    """How far an estimated month is off in a climate zone, root mean square; a zone without a city is a guess. [K]"""
    return float(toml_table("weather_model")["fit"]["zone_error_k"].get(zone, UNKNOWN_ZONE_ERROR_K))


@cache
def _cities() -> _Cities:
    table = rows("temperature_cities")

    def column(name: str) -> FloatArray:
        return np.array([float(row[name]) for row in table])

    return _Cities(
        column("latitude_deg"),
        column("longitude_deg"),
        column("elevation_m"),
        tuple(row["zone"] for row in table),
        np.array([[float(row[name]) for name in MONTH_COLUMNS] for row in table]),
    )


def _lapse_k_per_m() -> float:
    return float(toml_table("weather_model")["lapse_k_per_km"]) / 1000.0


def _features(latitude_deg: float, zone: str) -> FloatArray:
    tens = abs(latitude_deg) / 10.0
    return np.array([1.0, tens, tens**2, *(float(zone != SEA and letter in zone) for letter in LETTERS)])


def _winter_first(mean_c: FloatArray, latitude_deg: float) -> FloatArray:
    """Southern years turned by half, so that January is winter everywhere; turning twice gives them back."""
    return np.roll(mean_c, 6) if latitude_deg < 0 else mean_c


@cache
def _fit() -> tuple[FloatArray, FloatArray, FloatArray]:
    """Features of the cities, their years at sea level, and what the fit leaves of them."""
    cities = _cities()
    features = np.array([_features(lat, zone) for lat, zone in zip(cities.latitude_deg, cities.zones, strict=True)])
    level = np.array(
        [
            _winter_first(mean, lat) + _lapse_k_per_m() * height
            for mean, lat, height in zip(cities.mean_c, cities.latitude_deg, cities.elevation_m, strict=True)
        ]
    )
    return features, level, level - features @ _coefficients(features, level)


def _coefficients(features: FloatArray, level: FloatArray) -> FloatArray:
    ridge = float(toml_table("weather_model")["fit"]["ridge"])
    square = features.T @ features + ridge * np.eye(features.shape[1])
    return np.asarray(np.linalg.solve(square, features.T @ level))


def within_zone(mean_c: FloatArray, zone: str) -> FloatArray:
    """A year stretched so that its coldest and hottest months lie where the zone's definition puts them."""
    low, high = float(mean_c.min()), float(mean_c.max())
    new_low = min(max(low, zone_figure(zone, "coldest_low_c")), zone_figure(zone, "coldest_high_c"))
    new_high = min(max(high, zone_figure(zone, "hottest_low_c")), zone_figure(zone, "hottest_high_c"))
    new_high = max(new_high, new_low)
    return np.asarray(new_low + (mean_c - low) * ((new_high - new_low) / (high - low) if high > low else 0.0))


def estimated_year_c(latitude_deg: float, longitude_deg: float, elevation_m: float, zone: str) -> FloatArray:
    """Monthly means where no city is near, shape (12,) [°C].

    A fit of sea-level temperature on latitude and climate zone over the packaged cities, corrected by the departures
    of those around, held within the definition of the zone, and brought to the height.
    """
    return _estimate(latitude_deg, longitude_deg, elevation_m, zone, None)


def _estimate(
    latitude_deg: float, longitude_deg: float, elevation_m: float, zone: str, nearer_left_out_km: float | None
) -> FloatArray:
    features, level, left = _fit()
    cities, model = _cities(), toml_table("weather_model")["fit"]
    away_km = great_circle_km(latitude_deg, longitude_deg, cities.latitude_deg, cities.longitude_deg)
    weight = np.exp(-away_km / float(model["neighbour_km"]))
    coefficients = _coefficients(features, level)
    if nearer_left_out_km is not None:
        others = away_km > nearer_left_out_km
        coefficients = _coefficients(features[others], level[others])
        left = level - features @ coefficients
        weight = np.where(others, weight, 0.0)
    around = weight @ left / (weight.sum() + float(model["neighbour_floor"]))
    year = _features(latitude_deg, zone) @ coefficients + around
    ground_m = relief_m(round(latitude_deg, 3), round(longitude_deg, 3))
    at_ground = within_zone(year - _lapse_k_per_m() * ground_m, zone)
    return _winter_first(at_ground - _lapse_k_per_m() * (elevation_m - ground_m), latitude_deg)


def left_out_errors_k() -> FloatArray:
    """What the estimate misses at every city without it and all cities around it, shape (city, month) [K].

    The neighbours are left out too, as an estimate is only asked for where there are none.
    """
    apart_km = float(toml_table("weather_model")["fit"]["left_out_km"])
    cities = _cities()
    return np.array(
        [
            _estimate(lat, lon, height, zone, apart_km) - mean
            for lat, lon, height, zone, mean in zip(
                cities.latitude_deg,
                cities.longitude_deg,
                cities.elevation_m,
                cities.zones,
                cities.mean_c,
                strict=True,
            )
        ]
    )


def _near_city(latitude_deg: float, longitude_deg: float, elevation_m: float) -> tuple[FloatArray, float] | None:
    cities, reach = _cities(), toml_table("weather_model")["city"]
    away_km = great_circle_km(latitude_deg, longitude_deg, cities.latitude_deg, cities.longitude_deg)
    near = int(np.argmin(away_km))
    if away_km[near] > float(reach["reach_km"]):
        return None
    if abs(cities.latitude_deg[near] - latitude_deg) > float(reach["reach_latitude_deg"]):
        return None
    return cities.mean_c[near] - _lapse_k_per_m() * (elevation_m - cities.elevation_m[near]), float(away_km[near])


def _usual_spread_k(zone: str, mean_c: FloatArray) -> FloatArray:
    """Between the zone's winter and summer figures, by how far the month stands between its extremes."""
    winter, summer = zone_figure(zone, "winter_spread_k"), zone_figure(zone, "summer_spread_k")
    low, high = mean_c.min(), mean_c.max()
    share = (mean_c - low) / (high - low) if high > low else np.ones(12)
    return np.asarray(winter + (summer - winter) * share)


@lru_cache(maxsize=256)
def usual_warmth(latitude_deg: float, longitude_deg: float, elevation_m: float) -> Warmth:
    """The air of a place without a weather file. Arrays are read-only as they are kept."""
    zone = climate_zone(latitude_deg, longitude_deg)
    city = _near_city(latitude_deg, longitude_deg, elevation_m)
    mean_c, distance_km = city or (estimated_year_c(latitude_deg, longitude_deg, elevation_m, zone), None)
    error_k = CITY_ERROR_K if city else zone_error_k(zone)
    swing_k = np.full(12, zone_figure(zone, "swing_k"))
    spread_k = _usual_spread_k(zone, mean_c)
    for part in (mean_c, swing_k, spread_k):
        part.setflags(write=False)
    return Warmth(mean_c, swing_k, spread_k, "guess" if city is None else "city", error_k, zone, distance_km)


def recorded_warmth(record: WeatherRecord, zone: str) -> Warmth | None:
    """The air as a weather file has it, None where it says nothing of it."""
    if record.warmth is None:
        return None
    months = record.warmth
    return Warmth(
        np.array([month.mean_c for month in months]),
        np.array([month.swing_k for month in months]),
        np.array([month.spread_k for month in months]),
        "record",
        None,
        zone,
        None,
    )


def severe_minimum_c(latitude_deg: float, longitude_deg: float) -> float:
    """The cold a string check rests on until somebody gives a design minimum: the zone's severe minimum. [°C]

    Never a guess that could be warm: −40 °C wherever frost is the rule.
    """
    return zone_figure(climate_zone(latitude_deg, longitude_deg), "severe_min_c")
