"""From the newest reading: how long what is left lasts at every tempo, with nothing coming in."""

from dataclasses import dataclass

import numpy as np

from ..draw import pointless
from ..rehearse import hourly_loads, hourly_station, hours_left
from ..station import StationModel
from ..store import METER_SHARE, charge_range_from_rest, rest_hours
from ..store import Reading as RestReading


@dataclass(frozen=True, slots=True)
class TempoLeft:
    """A tempo with the hours that are left, at least and at most. None is no end."""

    tempo: str
    low_h: float | None
    high_h: float | None


@dataclass(frozen=True, slots=True)
class Left:
    """What is left of the charge, and how long it lasts."""

    low_share: float
    high_share: float
    tempos: tuple[TempoLeft, ...]
    words: str


def left_of(
    station: StationModel, rest_v: float, rested_h: float | None, hour_of_year: int
) -> Left | None:
    """What a bank that rests at so many volts has left, played by the hour as Rehearse and Live
    play it; None without one.

    Parameters
    ----------
    rest_v : float
        At its posts. [V]
    rested_h : float or None
        How long nothing flowed. [h]
    hour_of_year : int
        From when, 0 to 8759 by the site's clock.
    """
    bank, hourly = station.bank, hourly_station(station)
    if bank is None or hourly is None:
        return None
    rested = rested_h is not None and rested_h >= rest_hours(bank.bank.chemistry)
    taken = RestReading(METER_SHARE, float(bank.month_c.min()), float(max(bank.hot_days_c)), rested)
    low, high = charge_range_from_rest(bank.bank.chemistry, station.bus_v, rest_v, taken)
    rows = []
    for tempo in station.design.draw.tempos:
        loads = hourly_loads(
            station.design, station.draw_at(tempo.id), pointless(station.design), all_year=True
        )
        least, most = (hours_left(hourly, hour_of_year, share, loads) for share in (low, high))
        rows.append(TempoLeft(tempo.name, _ended(float(least.min())), _ended(float(most.max()))))
    shown = (
        f"{100 * low:.0f} to {100 * high:.0f} % charged"
        if high - low > 0.005
        else f"{100 * low:.0f} % charged"
    )
    spent = " The usable charge may already be gone." if low <= 1.0 - bank.depth else ""
    return Left(
        low, high, tuple(rows), f"By the last resting volts, the battery is {shown}.{spent}"
    )


def _ended(hours: float) -> float | None:
    return hours if np.isfinite(hours) else None
