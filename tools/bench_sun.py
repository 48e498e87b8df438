"""Benchmarks of the sun: years of weather, planes, and the map of tilts, beside plain pvlib for the
same half-hours."""

import statistics
import time
from collections.abc import Callable

import numpy as np
import pandas as pd
import pvlib

from yonderstat.core.climate import here_of, usual_year
from yonderstat.core.design import Place, design_from_document
from yonderstat.core.sun import (
    Mounting,
    conditions_of,
    tilt_map,
)
from yonderstat.core.weather import YearsOfLight, hourly_air_c, hourly_on_plane_w_m2, years_of_light
from yonderstat.demo.harrier_ridge import HARRIER_AS_BUILT

PLANE = Mounting(60.0, 15.0)
SEED = 7


def _seconds(work: Callable[[], object], rounds: int) -> float:
    times = []
    for _ in range(rounds):
        began = time.perf_counter()
        work()
        times.append(time.perf_counter() - began)
    return statistics.median(times)


def _light(longitude_deg: float, years: int) -> YearsOfLight:
    design = design_from_document(HARRIER_AS_BUILT)
    place = Place(latitude_deg=-43.1, longitude_deg=longitude_deg, time_zone="Pacific/Auckland")
    there = here_of(design.model_copy(update={"place": place}))
    if there is None:
        raise RuntimeError("the bench has no place")
    light = years_of_light(there, conditions_of(design.sun), "Pacific/Auckland", years, SEED)
    if light is None:
        raise RuntimeError("the bench stands where the sun is not known")
    return light


def _whole_weather(longitude_deg: float) -> None:
    light = _light(longitude_deg, 30)
    hourly_on_plane_w_m2(light, PLANE)
    hourly_air_c(light, *usual_year(-43.1, longitude_deg, 700.0))


def _plain_pvlib(years: int) -> None:
    """The same half-hours as a script would do them: positions, Erbs, Hay-Davies."""
    when = pd.date_range("2025-01-01", periods=years * 365 * 48, freq="30min", tz="Etc/GMT-12")
    sun = pvlib.solarposition.get_solarposition(when, -43.1, 171.6, 1480.0)
    flat = 600.0 * np.maximum(np.cos(np.radians(sun["zenith"])), 0.0)
    split = pvlib.irradiance.erbs(flat, sun["zenith"], when)
    pvlib.irradiance.get_total_irradiance(
        PLANE.tilt_deg,
        PLANE.azimuth_deg,
        sun["apparent_zenith"],
        sun["azimuth"],
        dni=split["dni"],
        ghi=flat,
        dhi=split["dhi"],
        dni_extra=pvlib.irradiance.get_extra_radiation(when),
        model="haydavies",
    )


def tilt_map_s() -> float:
    """The map of tilts of a place nobody has asked about yet, median of a few."""
    design = design_from_document(HARRIER_AS_BUILT)
    tilt_map(design, (6,))
    latitudes = iter(-40.0 - number / 10 for number in range(10))

    def once() -> None:
        place = Place(latitude_deg=next(latitudes), longitude_deg=172.0)
        tilt_map(design.model_copy(update={"place": place}), (6,))

    return _seconds(once, 10)


def sun_figures() -> dict[str, tuple[float, str]]:
    """Every figure of the sun by name, with its unit."""
    _whole_weather(171.0)
    places = iter((171.1, 171.2, 171.3))
    light = _light(171.6, 10)
    plane_s = _seconds(lambda: hourly_on_plane_w_m2(light, PLANE), 5)
    return {
        "weather_30y_s": (_seconds(lambda: _whole_weather(next(places)), 3), "s"),
        "poa_10y_ms": (plane_s * 1000.0, "ms"),
        "poa_vs_pvlib": (_seconds(lambda: _plain_pvlib(10), 3) / plane_s, "x"),
        "tilt_map_s": (tilt_map_s(), "s"),
    }
