"""Benchmarks of the bus: a large station's model and report, and its diagram."""

import statistics
import time
from collections.abc import Callable

from tests.formats.test_one_line import large

from yonderstat.core import evaluate
from yonderstat.core.bus import bus_model, bus_report
from yonderstat.core.draw import bus_volts
from yonderstat.core.station import StationModel
from yonderstat.core.working import Workings
from yonderstat.formats import one_line

ROUNDS = 50


def _median_ms(work: Callable[[], object]) -> float:
    times = []
    for _ in range(ROUNDS):
        began = time.perf_counter()
        work()
        times.append(time.perf_counter() - began)
    return statistics.median(times) * 1000.0


def bus_figures() -> dict[str, tuple[float, str]]:
    """Every figure of the bus by name, with its unit: three strings, two banks, twenty loads."""
    design = large()
    station, report = StationModel(design), evaluate(design)
    known = station.draw, station.array, station.bank, station.bus_v, station.low_end_v

    def explain() -> None:
        workings = Workings()
        volts = bus_volts(design, workings)
        bus_report(design, bus_model(design, *known), station.climate, station.mean_w, volts, workings)

    return {
        "bus_report_ms": (_median_ms(explain), "ms"),
        "drawing_ms": (_median_ms(lambda: one_line(design, report).svg), "ms"),
    }
