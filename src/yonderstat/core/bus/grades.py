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
    return [grade_of(value, window) for value in volts.tolist()]


def grade_of(volts: float, window: Window) -> str:
    """How a set does at so many volts."""
    *grades, (worst, _) = volt_grades()
    if window.low_v <= 0:
        return grades[0][0]
    share = volts / window.low_v + 1e-6
    return next((grade for grade, least in grades if share >= least), worst)
