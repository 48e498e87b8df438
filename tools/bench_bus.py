"""Benchmarks of the bus and of what leaves the screen: a large station's report, its diagram, parts
and papers."""

import statistics
import time
from collections.abc import Callable

from tests.formats.test_one_line import large

from yonderstat.core import evaluate
from yonderstat.core.bus import bus_model, bus_report
from yonderstat.core.draw import bus_volts
from yonderstat.core.parts import items_of
from yonderstat.core.station import StationModel
from yonderstat.core.working import Workings
from yonderstat.formats import card_pdf, one_line, report_pdf

ROUNDS, PAPERS = 50, 3


def _median_ms(work: Callable[[], object], rounds: int = ROUNDS) -> float:
    times = []
    for _ in range(rounds):
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
        model = bus_model(design, *known)
        bus_report(
            design,
            model,
            array=station.array,
            climate=station.climate,
            mean_draw_w=station.mean_w,
            bus_v=volts,
            workings=workings,
        )

    return {
        "bus_report_ms": (_median_ms(explain), "ms"),
        "drawing_ms": (_median_ms(lambda: one_line(design, report).svg), "ms"),
        "parts_ms": (_median_ms(lambda: items_of(design, station.bus)), "ms"),
        "card_pdf_s": (_median_ms(lambda: card_pdf("Large", design, report), PAPERS) / 1000.0, "s"),
        "report_pdf_s": (
            _median_ms(lambda: report_pdf("Large", design, report), PAPERS) / 1000.0,
            "s",
        ),
    }
