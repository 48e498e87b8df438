"""The typical-year files that ship inside pvlib, as text and as pvlib reads them."""

import os
from pathlib import Path

import pandas as pd
import pvlib

FOLDER = Path(os.path.dirname(pvlib.__file__)) / "data"
GREENSBORO, SAND_POINT, MIAMI = "723170TYA.CSV", "703165TY.csv", "12839.tm2"
ALL = (GREENSBORO, SAND_POINT, MIAMI)


def text_of(name: str) -> str:
    return (FOLDER / name).read_text()


def by_pvlib(name: str) -> tuple[pd.DataFrame, dict[str, float]]:
    """Hours with columns ghi, dni, dhi, air; index a common year in local standard time at the
    middle of each hour."""
    if name == MIAMI:
        hours, place = pvlib.iotools.read_tmy2(FOLDER / name)
        hours = hours.rename(columns={"GHI": "ghi", "DNI": "dni", "DHI": "dhi"}).assign(
            air=hours["DryBulb"] / 10.0
        )
        zone, stamped_end = place["TZ"], False
    else:
        hours, place = pvlib.iotools.read_tmy3(FOLDER / name, map_variables=True)
        hours = hours.rename(columns={"temp_air": "air"})
        zone, stamped_end = place["TZ"], True
    # All months on one common year; both stamps brought to the middle of their hour.
    start = pd.Timestamp("2001-01-01 00:30", tz=f"Etc/GMT{-int(zone):+d}")
    hours.index = pd.date_range(start, periods=len(hours), freq="h")
    assert stamped_end or hours.index[0].hour == 0
    return hours[["ghi", "dni", "dhi", "air"]], place
