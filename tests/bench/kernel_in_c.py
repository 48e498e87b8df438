"""The kernel in C, compiled where there is a compiler: what the lanes are measured against, and
must agree with."""

import ctypes
import shutil
import subprocess
from functools import cache
from pathlib import Path
from tempfile import TemporaryDirectory

import numpy as np
from numpy.typing import NDArray

from yonderstat.core.rehearse import Hours, Rules
from yonderstat.core.rehearse import kernel as rows
from yonderstat.core.rehearse import lanes as more_rows
from yonderstat.core.rehearse.lanes import LANES

FloatArray = NDArray[np.float64]
SOURCE = Path(__file__).with_name("kernel.c")
FLAGS = (
    "-O3",
    "-march=native",
    "-ffinite-math-only",
    "-fno-signed-zeros",
    "-fno-math-errno",
    "-shared",
    "-fPIC",
)
STATE_ROWS = (
    "CHARGE",
    "RESERVE",
    "OWED",
    "BACKUP_LEFT_H",
    "DARK_H",
    "TRIPPED",
    "USEFUL_OFF",
    "COMFORT_OFF",
    "BACKUP_RUNS",
    "COLD_HELPED",
    "COLD_HOPELESS",
    "COLD_SLOW",
)
SIZE_ROWS = ("LANE_PANELS", "LANE_BANK", "LANE_FULL", "LANE_MOST", "LANE_OHM", "LANE_PART")


def compiler() -> str | None:
    """The C compiler of this machine, if it has one."""
    return shutil.which("cc") or shutil.which("gcc")


def _prelude() -> str:
    places = [f"{name} = {number}" for number, name in enumerate(Rules._fields)]
    places += [f"{name} = {getattr(rows, name)}" for name in STATE_ROWS]
    places += [f"{name} = {getattr(more_rows, name)}" for name in SIZE_ROWS]
    return (
        f"#define LANES {LANES}\n#define NO_LIMIT_A {rows.NO_LIMIT_A:.1f}\nenum {{ "
        f"{', '.join(places)} }};\n"
    )


@cache
def _library() -> ctypes.CDLL:
    program = compiler()
    if program is None:
        raise RuntimeError("no C compiler on this machine")
    with TemporaryDirectory() as folder:
        code, built = Path(folder) / "kernel.c", Path(folder) / "kernel.so"
        code.write_text(_prelude() + SOURCE.read_text())
        subprocess.run([program, *FLAGS, "-o", str(built), str(code)], check=True)
        return ctypes.CDLL(str(built))


def _at(values: np.ndarray, kind: type = np.float64) -> tuple[ctypes.c_void_p, np.ndarray]:
    held = np.ascontiguousarray(values, dtype=kind)
    return ctypes.c_void_p(held.ctypes.data), held


def vital_lanes_in_c(
    rules: Rules, hours: Hours, lanes: FloatArray, month: NDArray[np.int64], served: FloatArray
) -> None:
    """What `vital_lanes` does, in C; `lanes` and `served` are changed."""
    given = [
        _at(hours.rest_v),
        _at(hours.fixed_a),
        _at(hours.panels_a),
        _at(hours.backup_a),
        _at(hours.load_a),
        _at(hours.floor_ah),
        _at(hours.end_ah),
        _at(hours.locked, np.int8),
        _at(hours.new_day, np.uint8),
        _at(month, np.int64),
    ]
    numbers, held = _at(np.array(rules, dtype=np.float64))
    rest_v, *others = (pointer for pointer, _ in given)
    years, in_a_year = hours.panels_a.shape
    _library().vital_lanes(
        numbers,
        rest_v,
        ctypes.c_int(hours.rest_v.size),
        *others,
        ctypes.c_int64(years),
        ctypes.c_int64(in_a_year),
        ctypes.c_void_p(lanes.ctypes.data),
        ctypes.c_void_p(served.ctypes.data),
    )
    del held, given
