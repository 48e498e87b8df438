"""A series that remembers a share of itself: what carries over from one day or hour to the next."""

import numpy as np
from numba import njit
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]


@njit(cache=True, nogil=True)
def lagged(shocks: FloatArray, keep: float, before: float) -> FloatArray:
    """First-order recursive filter: each value keeps a share of the last and adds what comes.

    Parameters
    ----------
    shocks : ndarray of shape (n,)
        What comes, step by step.
    keep : float
        Share of the last value that stays, 0 to 1.
    before : float
        The value before the first.

    Returns
    -------
    ndarray of shape (n,)
        Values.

    Notes
    -----
    y[t] = x[t] + k · y[t − 1]. The scientific library's filter gives the same (a test says so), but
    to import it takes longer than all else in a start.
    """
    found = np.empty(shocks.size)
    value = before
    for step in range(shocks.size):
        value = shocks[step] + keep * value
        found[step] = value
    return found
