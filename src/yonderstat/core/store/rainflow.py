"""Cycles in a course of charge, by the rainflow count. Plain arrays only.

References
----------
ASTM E1049-85, three points at a time: a range that is no greater than the next is a cycle, half of
one where it holds the start.
"""

import numpy as np
from numba import njit
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]


@njit(cache=True, nogil=True)
def _counted(points: FloatArray, found: FloatArray) -> int:
    """Ranges and counts in turning points, put into `found` (n, 2); how many. `points` is used
    up."""
    count, top = 0, 0
    for number in range(points.size):
        points[top] = points[number]
        top += 1
        while top >= 3:
            newest, before = (
                abs(points[top - 1] - points[top - 2]),
                abs(points[top - 2] - points[top - 3]),
            )
            if newest < before:
                break
            found[count, 0] = before
            if top == 3:
                found[count, 1] = 0.5
                points[0], points[1] = points[1], points[2]
                top = 2
            else:
                found[count, 1] = 1.0
                points[top - 3] = points[top - 1]
                top -= 2
            count += 1
    for number in range(top - 1):
        found[count, 0], found[count, 1] = abs(points[number] - points[number + 1]), 0.5
        count += 1
    return count


def _turning_points(values: FloatArray) -> FloatArray:
    """The first, the last, and every value between at which the course turns, shape (k,)."""
    moving = values[np.append(True, values[1:] != values[:-1])]
    if moving.size < 3:
        return np.asarray(moving)
    steps = np.diff(moving)
    turns = np.append(np.append(True, steps[1:] * steps[:-1] < 0.0), True)
    return np.asarray(moving[turns])


def rainflow_cycles(values: FloatArray) -> FloatArray:
    """Cycles of a course.

    Parameters
    ----------
    values : ndarray of shape (n,)
        The course.

    Returns
    -------
    ndarray of shape (k, 2)
        Range of each cycle, and its count: 1 or a half.
    """
    points = _turning_points(np.asarray(values, dtype=np.float64)).copy()
    found = np.empty((points.size, 2))
    return found[: _counted(points, found)]
