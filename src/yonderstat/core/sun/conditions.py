"""What is done to the sky before it reaches a panel: whose figures, skyline, ground and snow."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..design import Sun

FloatArray = NDArray[np.float64]

STANDARD_SPREAD = np.array([0.30, 0.55, 0.75, 0.90, 1.02, 1.12, 1.21, 1.30, 1.38, 1.47])
"""Ten equally likely days over their mean, where no cell tells how days differ. [C] an assumption; sums to ten."""


@dataclass(frozen=True, slots=True)
class Conditions:
    """The sun section of a design as plain, comparable values."""

    own_hours: tuple[float, ...] | None
    horizon: tuple[tuple[float, float], ...]
    albedo: tuple[float, ...]
    snow_days: tuple[float, ...]


def conditions_of(sun: Sun) -> Conditions:
    """The conditions a design names."""
    return Conditions(
        tuple(sun.own_hours) if sun.source == "own" and sun.own_hours else None,
        tuple((point.azimuth_deg, point.elevation_deg) for point in sun.horizon),
        tuple(sun.albedo),
        tuple(sun.snow_days),
    )


def horizon_elevation_deg(horizon: tuple[tuple[float, float], ...], azimuth_deg: FloatArray) -> FloatArray:
    """Height of the skyline in each direction [°]: straight between points, closed round the compass, 0 without any."""
    if not horizon:
        return np.zeros_like(azimuth_deg)
    azimuths, elevations = zip(*horizon, strict=True)
    return np.asarray(np.interp(azimuth_deg, azimuths, elevations, period=360.0))


def own_days(own_hours: tuple[float, ...], spread: FloatArray | None) -> FloatArray:
    """Ten equally likely days a month around a person's own means, shape (12, 10) [kW·h/m²].

    Parameters
    ----------
    spread : ndarray of shape (12, 10) or None
        The cell's days over their mean, where there is a cell; the standard spread otherwise.
    """
    shape = np.tile(STANDARD_SPREAD, (12, 1)) if spread is None else spread
    return np.asarray(np.array(own_hours)[:, None] * shape)
