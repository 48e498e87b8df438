"""Measure what is planned on against typical-year files, and keep the ratios for the tests.

python -m tools.sun_ratios FOLDER        FOLDER holds a folder of EPW files for each package they
come from, named like
                                         it; pvlib's own three are added

The files themselves are not kept: the wheels that carry them are large. Each row is one place: the
sun on a plane tilted like the latitude by the packaged reanalysis with the planning allowance, dust
left out, over the sum of the file's hours on the same plane by pvlib, month by month.
"""

import csv
import io
import sys
import warnings
from pathlib import Path

import numpy as np
import pandas as pd
import pvlib
from tests.typical_years import ALL, by_pvlib

from yonderstat.core.climate import Here
from yonderstat.core.design import Sun
from yonderstat.core.sun import Mounting, conditions_of, plane_sun

OUT = Path(__file__).resolve().parents[1] / "tests" / "reference" / "sun_ratios.csv"
PLANNED = 0.88
SOILING = Sun().soiling.value


def ratios(
    hours: pd.DataFrame, latitude: float, longitude: float, height_m: float
) -> list[float] | None:
    """Planned on over the file, by month; None where the reanalysis does not reach.

    Parameters
    ----------
    hours : pd.DataFrame
        The hours of a typical year.
    height_m : float
        Above the sea. [m]
    """
    tilt, azimuth = float(round(abs(latitude))), 180.0 if latitude > 0 else 0.0
    sun = pvlib.solarposition.get_solarposition(hours.index, latitude, longitude, altitude=height_m)
    plane = pvlib.irradiance.get_total_irradiance(
        tilt,
        azimuth,
        sun["apparent_zenith"],
        sun["azimuth"],
        dni=hours["dni"],
        ghi=hours["ghi"],
        dhi=hours["dhi"],
        dni_extra=pvlib.irradiance.get_extra_radiation(hours.index),
        model="haydavies",
        albedo=0.2,
    )["poa_global"].fillna(0.0)
    month_kwh = plane.groupby(hours.index.month).mean() * 24.0 / 1000.0
    planned = plane_sun(
        Here(latitude, longitude, height_m, PLANNED), conditions_of(Sun()), Mounting(tilt, azimuth)
    )
    return (
        None
        if planned is None
        else [float(v) for v in planned.mean / (1.0 - SOILING) / month_kwh.to_numpy()]
    )


def main() -> int:
    """Measure every present-day file once, by its place."""
    warnings.simplefilter("ignore")
    rows: dict[tuple[float, float], list[object]] = {}
    folder = Path(sys.argv[1])
    for path in sorted(folder.rglob("*.epw")):
        if "RCP" in path.name:
            continue  # a climate to come is no measurement
        package = path.relative_to(folder).parts[0]
        # Some files hold names in an older encoding; their figures are plain.
        text = io.StringIO(path.read_text(encoding="latin-1"))
        hours, place = pvlib.iotools.read_epw(text, coerce_year=2001)
        hours.index = hours.index + pd.Timedelta(minutes=30)
        at = (round(place["latitude"], 2), round(place["longitude"], 2))
        found = ratios(hours, place["latitude"], place["longitude"], place["altitude"])
        if at not in rows and found is not None:
            rows[at] = [f"{at[0]:.2f} {at[1]:.2f}", package, at[0], *np.round(found, 4)]
    for name in ALL:
        hours, place = by_pvlib(name)
        at = (round(place["latitude"], 2), round(place["longitude"], 2))
        found = ratios(hours, place["latitude"], place["longitude"], place["altitude"])
        if found is not None:
            rows[at] = [f"{at[0]:.2f} {at[1]:.2f}", "pvlib", at[0], *np.round(found, 4)]
    with OUT.open("w", newline="", encoding="utf-8") as file:
        writer = csv.writer(file)
        writer.writerow(
            ["place", "package", "latitude_deg", *(f"m{month:02d}" for month in range(1, 13))]
        )
        writer.writerows(rows[at] for at in sorted(rows))
    return 0


if __name__ == "__main__":
    sys.exit(main())
