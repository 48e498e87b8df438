"""Monthly mean surface temperature anywhere, from the packaged grid of ITU-R P.1510-1."""

import numpy as np
from numpy.typing import NDArray

from ..data import arrays, toml_table

FloatArray = NDArray[np.float64]

STEP_DEG = 0.75
FREEZING_K = 273.15
ROWS, COLUMNS = 241, 481


def _corners(latitude_deg: float, longitude_deg: float) -> list[tuple[int, int, float]]:
    """The four grid points around a place with their bilinear weights."""
    y, x = (latitude_deg + 90.0) / STEP_DEG, ((longitude_deg + 180.0) % 360.0) / STEP_DEG
    row, column = min(int(y), ROWS - 2), min(int(x), COLUMNS - 2)
    up, right = y - row, x - column
    return [
        (row + r, column + c, (up if r else 1.0 - up) * (right if c else 1.0 - right))
        for r in (0, 1)
        for c in (0, 1)
    ]


def lapse_k_per_m() -> float:
    """How much colder the air is a metre higher [K/m], by the standard atmosphere."""
    return float(toml_table("weather_model")["lapse_k_per_km"]) / 1000.0


def surface_year_c(latitude_deg: float, longitude_deg: float, elevation_m: float) -> FloatArray:
    """Mean surface temperature by month, shape (12,) [°C].

    Parameters
    ----------
    elevation_m : float
        Height of the site, to which the grid's value is brought from the mean height of its cells.
        [m]

    Returns
    -------
    ndarray of shape (12,)
        Monthly means. [°C]

    Notes
    -----
    T = T_grid + 6.5 K/km · (height of the cells − height of the site), both bilinear  [1]_

    References
    ----------
    .. [1] Recommendation ITU-R P.1510-1, annual and monthly mean surface temperature; heights from
           P.1511-2.
    """
    table = arrays("surface_temperature")
    corners = _corners(latitude_deg, longitude_deg)
    kelvin = sum(
        weight * table["tenths_k"][:, row, column] / 10.0 for row, column, weight in corners
    )
    height_m = sum(
        weight * float(table["height_m"][row, column]) for row, column, weight in corners
    )
    return np.asarray(kelvin - FREEZING_K + lapse_k_per_m() * (height_m - elevation_m))
