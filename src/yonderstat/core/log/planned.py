"""What the plan has at the moments of a record: the band of the weather years, by the kernel the
verdict uses."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..rehearse import HourlyStation, life_of

FloatArray = NDArray[np.float64]
LOW, MIDDLE, HIGH = 0.1, 0.5, 0.9
HOURS_A_YEAR = 8760


@dataclass(frozen=True, slots=True)
class PlannedBand:
    """Of a stretch of hours the means of the weather years: four in five lie between low and
    high."""

    low: tuple[float, ...]
    middle: tuple[float, ...]
    high: tuple[float, ...]


def planned_year(station: HourlyStation, channel: str) -> FloatArray:
    """A channel hour by hour in every weather year, each begun as the year before it ended.

    Parameters
    ----------
    station : HourlyStation
        The station hour by hour.
    channel : str
        What is recorded, by name.

    Returns
    -------
    ndarray of shape (years, 8760)
        In the channel's unit.
    """
    share, found = 1.0, []
    for year in range(station.years):
        life = life_of(station, year, 0, HOURS_A_YEAR, share)
        share = float(life.charge_share[-1])
        found.append(getattr(life, channel))
    return np.array(found)


def planned_band(years: FloatArray, first_hours: NDArray[np.int64], hours: int) -> PlannedBand:
    """The band of the means of stretches of so many hours.

    Parameters
    ----------
    years : ndarray of shape (years, 8760)
        As `planned_year` gives them.
    first_hours : ndarray of shape (n,)
        Hour of the year each stretch begins at.
    hours : int
        How long each is, 1 at the least.

    Returns
    -------
    PlannedBand
        A figure a stretch.
    """
    whole = np.concatenate(
        [np.zeros((years.shape[0], 1)), np.cumsum(np.tile(years, 2), axis=1)], axis=1
    )
    length = min(max(1, hours), HOURS_A_YEAR)
    means = (whole[:, first_hours + length] - whole[:, first_hours]) / length
    low, middle, high = (
        tuple(row.tolist()) for row in np.quantile(means, (LOW, MIDDLE, HIGH), axis=0)
    )
    return PlannedBand(low, middle, high)
