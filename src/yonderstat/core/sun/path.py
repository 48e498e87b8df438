"""The sun's way over the sky through the day, to lay a skyline against."""

from dataclasses import dataclass

import numpy as np

from ..calendar import MONTH_NAMES
from .geometry import STEP_H, sky_grid

MIDDLE_DAY = {
    1: 17,
    2: 47,
    3: 75,
    4: 105,
    5: 135,
    6: 162,
    7: 198,
    8: 228,
    9: 258,
    10: 288,
    11: 318,
    12: 344,
}
"""The day standing for each month, that of a mean sky. [P] Klein 1977, from memory."""


@dataclass(frozen=True, slots=True)
class SunTrack:
    """Where the sun stands above a flat horizon on a month's mean day, half-hour by half-hour."""

    month: int
    name: str
    azimuth_deg: tuple[float, ...]
    elevation_deg: tuple[float, ...]
    solar_hour: tuple[float, ...]


def sun_tracks(latitude_deg: float, months: tuple[int, ...]) -> tuple[SunTrack, ...]:
    """The tracks of some months, in order of the compass; a month of polar night has an empty
    one."""
    days = np.array([MIDDLE_DAY[month] for month in months], dtype=float)
    grid = sky_grid(latitude_deg, (np.array(months), days))
    tracks = []
    for row, month in enumerate(months):
        elevation = 90.0 - np.degrees(grid.zenith_rad[row])
        up = np.flatnonzero(elevation > 0)
        solar_hour = np.arange(0.0, 24.0, STEP_H) + STEP_H / 2.0
        tracks.append(
            SunTrack(
                month,
                MONTH_NAMES[month - 1],
                tuple(float(value) for value in grid.azimuth_deg[row][up]),
                tuple(float(value) for value in elevation[up]),
                tuple(float(value) for value in solar_hour[up]),
            )
        )
    return tuple(tracks)
