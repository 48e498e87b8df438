"""Whether a set that has power can do its work: the charge under which its volts are out of its
range.

The net of the Bus is monotone: a bank with less in it gives fewer volts. So one charge a set stands
for all its volts, and the kernels compare one number an hour.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..bus import LoadVolts, volt_grades
from ..calendar import year_days
from ..station import StationModel

FloatArray = NDArray[np.float64]
HOURS = 24
ALWAYS = 2.0
"""Of a full bank: a line no charge is above."""
LEAST_V = 1e-6
"""So little under a limit is on it."""


@dataclass(frozen=True, slots=True)
class Lines:
    """Charges under which something vital is out of its range, by hour of the year, shape (8760,).

    Shares of a full bank; 0 where nothing vital that names a window is on.
    """

    still: FloatArray
    """With nothing coming in."""
    fed: FloatArray
    """With as much coming in as the station draws: the bank does not sag then."""
    fed_a: float
    """So much. [A]"""

    @property
    def any(self) -> bool:
        """Whether there is a line at all."""
        return bool(self.still.any())


def is_keyed(item: LoadVolts) -> bool:
    """Whether a set names a window and is keyed now and then."""
    load = item.item.load
    return (
        item.window is not None and load.transmit_a is not None and load.transmit_share.value > 0.0
    )


def lost_v(item: LoadVolts, share: FloatArray, end_share: float, keyed: bool = True) -> FloatArray:
    """Lost between the rested bank and a set, keyed or not, by the charge left: straight between
    the end and full.

    Parameters
    ----------
    item : LoadVolts
        The set.
    share : ndarray
        Of charge, any shape.
    end_share : float
        Where the depth allowed ends.
    keyed : bool
        Whether it transmits.

    Returns
    -------
    ndarray
        Of the same shape. [V]
    """
    volts = item.keyed_v if keyed else item.receive_v
    points = (item.rest_v[2] - volts[2], item.rest_v[0] - volts[0])
    return np.asarray(np.interp(share, (end_share, 1.0), points))


def _line(volts: FloatArray, shares: FloatArray, least_v: float) -> float:
    """The share of charge under which rising volts are too few."""
    under = np.flatnonzero(volts < least_v - LEAST_V)
    if not under.size:
        return 0.0
    last = int(under[-1])
    if last == len(volts) - 1:
        return ALWAYS
    step = (least_v - volts[last]) / max(volts[last + 1] - volts[last], 1e-12)
    return float(shares[last] + step * (shares[last + 1] - shares[last]))


def lines_of(model: StationModel, rest_v: FloatArray) -> Lines:
    """The lines of a station.

    Parameters
    ----------
    rest_v : ndarray
        Resting volts at even shares of charge, empty to full.

    Returns
    -------
    Lines
        By hour of the year.
    """
    held = model.bank
    shares = np.linspace(0.0, 1.0, rest_v.size)
    still, fed, fed_a = np.zeros((12, HOURS)), np.zeros((12, HOURS)), 1.0
    oddly = dict(volt_grades())["less"]
    for item in model.bus.loads:
        if (
            held is None
            or item.window is None
            or (item.item.load.tier or "vital") != "vital"
            or item.item.nothing
        ):
            continue
        keyed, end_share = is_keyed(item), 1.0 - held.depth
        volts = rest_v - lost_v(item, shares, end_share, keyed)
        sag_v, least_v = float(item.bank_v[3 if keyed else 2]), oddly * item.window.low_v
        on = np.asarray(item.item.on_share) > 0.0
        still = np.where(on, np.maximum(still, _line(volts, shares, least_v)), still)
        fed = np.where(on, np.maximum(fed, _line(volts + sag_v, shares, least_v)), fed)
        fed_a = max(fed_a, sag_v / max(model.bus.bank_ohm, 1e-9))
    of_day = year_days()[0] - 1
    return Lines(still[of_day].ravel(), fed[of_day].ravel(), fed_a)
