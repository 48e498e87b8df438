"""Benchmarks of the array: a year of hours through the curve, and every string of a full shelf."""

import statistics
import time

import numpy as np

from yonderstat.core.array import (
    Bench,
    amps_into_bank,
    electric_of,
    string_months_ah,
    strings_that_fit,
)
from yonderstat.core.design import (
    Array,
    Design,
    KnownAmps,
    KnownVolts,
    KnownWatts,
    Module,
    Regulator,
    ShelfController,
    ShelfModule,
    design_from_document,
)
from yonderstat.core.station import StationModel
from yonderstat.demo.harrier_ridge import HARRIER_AS_BUILT

HOURS = 8760
KINDS = 10


def _shelf(design: Design) -> Design:
    modules = [
        ShelfModule(
            id=f"m{number}",
            name=f"Panel {number}",
            count=4,
            module=Module(
                watts=KnownWatts(value=60.0 + 10 * number),
                v_mp=KnownVolts(value=17.0 + 0.1 * number),
            ),
        )
        for number in range(KINDS)
    ]
    controllers = [
        ShelfController(
            id=f"c{number}",
            name=f"Controller {number}",
            kind="mppt" if number % 2 else "pwm",
            regulator=Regulator(max_charge_a=KnownAmps(value=10.0 + number)),
        )
        for number in range(KINDS)
    ]
    return design.model_copy(
        update={"array": Array(shelf_modules=modules, shelf_controllers=controllers)}
    )


def array_figures() -> dict[str, tuple[float, str]]:
    """Every figure of the array by name, with its unit."""
    design = design_from_document(HARRIER_AS_BUILT)
    string = design.array.strings[0]
    electric = electric_of(string, design.array, 13.6)
    rng = np.random.default_rng(3)
    sun, cell = rng.uniform(0.0, 1100.0, HOURS), rng.uniform(-10.0, 60.0, HOURS)
    amps_into_bank(electric, sun, cell)
    times = []
    for _ in range(9):
        began = time.perf_counter()
        amps_into_bank(electric, sun, cell)
        times.append(time.perf_counter() - began)
    sky = StationModel(design).sky
    if sky is None:
        raise RuntimeError("the bench has no place")
    bench = Bench(
        sky=sky, plane=string, charge_v=13.6, absorb_v=14.3, cold_c=-15.0, hottest_c=32.0, month=6
    )
    # The place's own sun is known by the time anybody looks at a shelf.
    shelf = _shelf(design)
    string_months_ah(string, design.array, 13.6, sky)
    began = time.perf_counter()
    strings_that_fit(shelf, bench)
    return {
        "iv_year_ms": (statistics.median(times) * 1000.0, "ms"),
        "strings_enum_s": (time.perf_counter() - began, "s"),
    }
