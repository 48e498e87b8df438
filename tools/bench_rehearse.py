"""Benchmarks of the rehearsal: the kernel beside the two programs it agrees with, the map, its
memory, its growth."""

import statistics
import subprocess
import sys
import time
from collections.abc import Callable

import numpy as np
from tests.bench.kernel_in_c import compiler, vital_lanes_in_c
from tests.bench.over_designs import vital_over_designs
from tests.bench.plain_loop import plain_hours

from yonderstat.core.design import Design, design_from_document, with_bank, with_string
from yonderstat.core.rehearse import (
    HourlyStation,
    MapAsk,
    hourly_station,
    run_all,
    served_of,
    sizing_map,
    years_report,
)
from yonderstat.core.rehearse.lanes import LANES
from yonderstat.core.rehearse.sizes import lanes_of, served_by_size
from yonderstat.core.station import StationModel
from yonderstat.demo.harrier_ridge import HARRIER_AS_BUILT

ROUNDS, LOOP_HOURS, NUMPY_HOURS = 8, 8760, 2000
DESIGNS, MANY = 40, 24
MAP_CODE = """
from pathlib import Path
from yonderstat.core.design import design_from_document, with_bank, with_string
from yonderstat.core.station import StationModel
from yonderstat.core.rehearse import MapAsk, sizing_map
from yonderstat.demo.harrier_ridge import HARRIER_AS_BUILT
design = with_bank(with_string(design_from_document(HARRIER_AS_BUILT), 0, parallel=24), parallel=24)
def most_kb():
    return int(next(line.split()[1] for line in Path("/proc/self/status").read_text().splitlines() if "VmHWM" in line))

sizing_map(design, MapAsk(steps=8, years=10))
before = most_kb()
sizing_map(design, MapAsk(steps=40, years=10))
print(most_kb(), most_kb() - before)
"""


def _seconds(work: Callable[[], object], rounds: int = 3) -> float:
    times = []
    for _ in range(rounds):
        began = time.perf_counter()
        work()
        times.append(time.perf_counter() - began)
    return statistics.median(times)


def _one_at_a_time_mdh(station: HourlyStation) -> float:
    """Millions of design-hours a second on one core, one size after another."""
    served_of(station)
    seconds = _seconds(lambda: served_of(station), ROUNDS)
    return station.hours.panels_a.size / seconds / 1e6


def _side_by_side_mdh(station: HourlyStation) -> float:
    """The same, 64 sizes side by side, as the map runs them."""
    panels, banks = np.linspace(0.5, 4.0, LANES), np.linspace(4.0, 0.5, LANES)
    served_by_size(station, panels, banks)
    seconds = _seconds(lambda: served_by_size(station, panels, banks))
    return LANES * station.hours.panels_a.size / seconds / 1e6


def _in_c_mdh(station: HourlyStation) -> float:
    """The same in C, on the same core."""
    panels, banks = np.linspace(0.5, 4.0, LANES), np.linspace(4.0, 0.5, LANES)

    def work() -> None:
        lanes = lanes_of(station, panels, banks)
        vital_lanes_in_c(station.rules, station.hours, lanes, station.months, np.zeros(12 * LANES))

    work()
    return LANES * station.hours.panels_a.size / _seconds(work) / 1e6


def _loop_seconds_per_hour(station: HourlyStation) -> float:
    one = station.first(1)
    began = time.perf_counter()
    plain_hours(one.rules, one.hours, one.rules.full_ah)
    return (time.perf_counter() - began) / LOOP_HOURS


def _numpy_seconds_per_hour(station: HourlyStation) -> float:
    """One step an hour over all sizes of the large map at once."""
    one = station.first(1).hours
    scales = np.geomspace(0.5, 8.0, DESIGNS)
    part = one._replace(
        fixed_a=one.fixed_a[:NUMPY_HOURS],
        panels_a=one.panels_a[:, :NUMPY_HOURS],
        load_a=one.load_a[:NUMPY_HOURS],
    )
    panels, banks = (grid.ravel() for grid in np.meshgrid(scales, scales))
    began = time.perf_counter()
    vital_over_designs(station.rules, part, panels, banks)
    return (time.perf_counter() - began) / (NUMPY_HOURS * panels.size)


def _map_memory_mb() -> tuple[float, float]:
    """The most a process of its own takes that makes the large map, libraries and all, and what the
    map adds."""
    told = subprocess.run(
        [sys.executable, "-c", MAP_CODE], capture_output=True, text=True, check=True
    )
    most_kb, more_kb = (float(part) for part in told.stdout.split())
    return most_kb / 1024.0, more_kb / 1024.0


def _size_years(design: Design, ask: MapAsk) -> int:
    found = sizing_map(design, ask)
    if found is None:
        raise RuntimeError("the bench cannot be mapped")
    return len(found.panels) * len(found.batteries) * found.years


def _growth(design: Design) -> float:
    """Time of twice the years and of about four times the sizes, over what a straight line would
    cost."""
    few, many = MapAsk(steps=12, years=5), MapAsk(steps=24, years=10)
    times = _size_years(design, many) / _size_years(design, few)
    return _seconds(lambda: sizing_map(design, many)) / (
        times * _seconds(lambda: sizing_map(design, few))
    )


def _with_large_axes(design: Design) -> Design:
    """So many panels and batteries that forty whole numbers lie on each axis."""
    return with_bank(with_string(design, 0, parallel=MANY), parallel=MANY)


def rehearse_figures() -> dict[str, tuple[float, str]]:
    """Every figure of the rehearsal by name, with its unit."""
    design = design_from_document(HARRIER_AS_BUILT)
    station = hourly_station(StationModel(design), 10)
    if station is None:
        raise RuntimeError("the bench cannot be rehearsed")
    core = _side_by_side_mdh(station)
    if not compiler():
        print("bench: no C compiler here; kernel_vs_c is left out")
    run_all(station)
    years_report(design)
    most_mb, more_mb = _map_memory_mb()
    large, grown = MapAsk(steps=DESIGNS, years=10), _with_large_axes(design)
    sizing_map(design, MapAsk(steps=8, years=10))
    return {
        # All of one core against one core: the plain loop, numpy over all sizes, one size after
        # another.
        "kernel_core_mdh_per_s": (core, "Mh/s"),
        **({"kernel_vs_c": (core / _in_c_mdh(station), "x")} if compiler() else {}),
        "kernel_vs_loop": (_loop_seconds_per_hour(station) * core * 1e6, "x"),
        "kernel_vs_numpy": (_numpy_seconds_per_hour(station) * core * 1e6, "x"),
        "kernel_vs_one_at_a_time": (core / _one_at_a_time_mdh(station), "x"),
        "years_warm_s": (_seconds(lambda: years_report(design)), "s"),
        "map_40x40x10_s": (_seconds(lambda: sizing_map(grown, large), 1), "s"),
        "map_memory_mb": (most_mb, "MB"),
        "map_adds_mb": (more_mb, "MB"),
        "map_growth": (_growth(grown), "x"),
    }
