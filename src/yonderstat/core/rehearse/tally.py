"""The weather years summed as they are run: what the verdict, the bank's life and the sets' volts read of them."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..calendar import DAYS_A_YEAR
from .assumed import assumed_figure
from .kernel import tally_years
from .station import HourlyStation

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Tally:
    """What a run of all weather years comes to."""

    station: HourlyStation
    vital_ah: FloatArray
    """Served by month over all years, shape (12,)."""
    dark_hours: FloatArray
    """By month over all years, shape (12,)."""
    used_ah: FloatArray
    """All that was served, by month over all years, shape (12,)."""
    backed_ah: FloatArray
    """Given by what stands behind the bank, by month over all years, shape (12,)."""
    course: FloatArray
    """Charge at the end of every hour [A·h], and what sources and backup brought in it [A], shape (2, years, 8760)."""
    dark: NDArray[np.bool_]
    """Hours whose vital load is not served in full, shape (years, 8760)."""
    cut_off: NDArray[np.int8]
    """Hours in which the station is cut off, 0 or 1, shape (years, 8760)."""
    full: NDArray[np.bool_]
    """Days on which the bank gets full, shape (years, 365)."""
    from_bank_ah: float
    trips: float

    @property
    def charge_ah(self) -> FloatArray:
        """Of every hour, shape (years, 8760)."""
        return np.asarray(self.course[0])


def tally_of(station: HourlyStation) -> Tally:
    """Run all weather years and sum them up.

    Parameters
    ----------
    station : HourlyStation
        The station hour by hour.

    Returns
    -------
    Tally
        What they come to.
    """
    shape = station.hours.panels_a.shape
    by_month, course, totals = np.zeros((12, 4)), np.empty((2, *shape)), np.zeros(2)
    marks, full = np.empty((2, *shape), dtype=np.int8), np.zeros((shape[0], DAYS_A_YEAR), dtype=np.bool_)
    line_ah = assumed_figure("full_share") * station.rules.full_ah
    tally_years(
        station.rules, station.hours, station.start(), station.months, line_ah, by_month, course, marks, full, totals
    )
    vital, dark, used, backed = (np.asarray(column) for column in by_month.T)
    from_bank_ah, trips = (float(total) for total in totals)
    return Tally(
        station, vital, dark, used, backed, course, marks[0].view(np.bool_), marks[1], full, from_bank_ah, trips
    )
