"""Benchmarks of the rehearsal kernel: design-hours a second on two cores, and beside the plain loop it agrees with."""

import threading
import time

import numpy as np
from tests.rehearse_loop import Bank, plain_hours

from yonderstat.core.design import Design, design_from_document
from yonderstat.core.rehearse import HourlyStation, hourly_station, run_all, sizing_map, years_report
from yonderstat.demo.harrier_ridge import HARRIER_AS_BUILT

ROUNDS, CORES, LOOP_HOURS = 6, 2, 8760


def _millions_a_second(station: HourlyStation) -> float:
    """Design-hours a second in two threads, each with years of its own."""

    def work() -> None:
        for _ in range(ROUNDS):
            run_all(station)

    run_all(station)
    threads = [threading.Thread(target=work) for _ in range(CORES)]
    began = time.perf_counter()
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return CORES * ROUNDS * station.source_a.size / (time.perf_counter() - began) / 1e6


def _loop_seconds_per_hour(station: HourlyStation) -> float:
    bank = Bank(station.full_ah, station.efficiency, station.accept_per_h, station.most_charge_a)
    began = time.perf_counter()
    plain_hours(station.source_a[0], station.load_a, station.floor_ah, station.locked, bank, station.full_ah)
    return (time.perf_counter() - began) / LOOP_HOURS


def _map_s(design: Design) -> float:
    sizing_map(design)
    began = time.perf_counter()
    sizing_map(design)
    return time.perf_counter() - began


def rehearse_figures() -> dict[str, tuple[float, str]]:
    """Every figure of the rehearsal by name, with its unit."""
    design = design_from_document(HARRIER_AS_BUILT)
    station = hourly_station(design)
    if station is None:
        raise RuntimeError("the bench cannot be rehearsed")
    run_all(station)
    began = time.perf_counter()
    run_all(station)
    kernel_s = (time.perf_counter() - began) / np.size(station.source_a)
    years_report(design)
    began = time.perf_counter()
    years_report(design)
    return {
        "kernel_mdh_per_s": (_millions_a_second(station), "Mh/s"),
        "kernel_vs_loop": (_loop_seconds_per_hour(station) / kernel_s, "x"),
        "years_warm_s": (time.perf_counter() - began, "s"),
        "map_24x24x10_s": (_map_s(design), "s"),
    }
