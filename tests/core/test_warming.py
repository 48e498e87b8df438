"""Nobody waits for a compiler: after the warm-up no station asks a kernel for numbers of another
kind."""

import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
ALL_THAT_IS_ASKED = """
import sys
from numba.core.dispatcher import Dispatcher
from tools.frozen import design_of, stations
from yonderstat.core import evaluate, warm_up
from yonderstat.core.design import with_array
from yonderstat.core.rehearse import (
    Happening, MapAsk, Rationing, Scene, Training,
    failures_report, ration, rehearse, rotation_report, sizing_map, train, years_report,
)

def kinds():
    modules = [module for name, module in sorted(sys.modules.items()) if name.startswith("yonderstat.core")]
    kernels = {id(item): item for module in modules for item in vars(module).values() if isinstance(item, Dispatcher)}
    return {(item.py_func.__module__, item.py_func.__name__): len(item.signatures) for item in kernels.values()}

warm_up()
before = kinds()
assert before[("yonderstat.core.rehearse.kernel", "tally_and_sum")] == 1
for document in stations().values():
    design = design_of(document)
    for one in (design, with_array(design, strings=[], chargers=[], alternator=None)):
        evaluate(one)
        failures_report(one)
        rotation_report(one)
        ration(one, Rationing())
        rehearse(one, Scene(happenings=[Happening(kind="swap", from_h=5, to_h=9)]))
    train(design, Training(days=2))
design = design_of(next(iter(stations().values())))
years_report(design, 3)
sizing_map(design, MapAsk(steps=8, years=2))
after = kinds()
print({name: (before.get(name), count) for name, count in after.items() if count != before.get(name)})
"""


def test_after_the_warm_up_nothing_is_compiled() -> None:
    told = subprocess.run(
        [sys.executable, "-c", ALL_THAT_IS_ASKED],
        cwd=ROOT,
        capture_output=True,
        text=True,
        check=True,
    )
    assert told.stdout.strip() == "{}"
