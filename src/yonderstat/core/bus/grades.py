"""How a set does at the volts that reach it: the table of grades, and the grade of a voltage."""

from functools import cache

import numpy as np
from numpy.typing import NDArray

from ..data import rows
from ..electrical import Window

FloatArray = NDArray[np.float64]


@cache
def volt_grades() -> tuple[tuple[str, float], ...]:
    """Each grade and the share of a window's least volts it reaches down to, the best first."""
    return tuple((row["grade"], float(row["from_share"])) for row in rows("volt_grades"))


def grades_of(volts: FloatArray, window: Window) -> list[str]:
    """How a set does at each of so many volts: full output, less of it, odd behaviour, or off.

    Parameters
    ----------
    volts : ndarray of shape (n,)
        At the set. [V]

    Returns
    -------
    list of str
        A grade each.
    """
    if window.low_v <= 0:
        return ["full"] * len(volts)
    share = volts / window.low_v
    found = np.full(share.shape, len(volt_grades()) - 1)
    for place in range(len(volt_grades()) - 2, -1, -1):
        found[share >= volt_grades()[place][1] - 1e-6] = place
    return [volt_grades()[place][0] for place in found]


def grade_of(volts: float, window: Window) -> str:
    """How a set does at so many volts."""
    return grades_of(np.array([volts]), window)[0]
