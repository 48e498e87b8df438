"""From the newest reading: how long what is left lasts at every tempo, with no sun."""

from dataclasses import dataclass

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


def left_of(station: StationModel, rest_v: float, rested_h: float | None) -> Left | None:
    """What a bank that rests at so many volts has left; None without one.

    Parameters
    ----------
    rest_v : float
        At its posts. [V]
    rested_h : float or None
        How long nothing flowed. [h]
    """
    bank = station.bank
    if bank is None:
        return None
    rested = rested_h is not None and rested_h >= rest_hours(bank.bank.chemistry)
    taken = RestReading(METER_SHARE, float(bank.month_c.min()), float(max(bank.hot_days_c)), rested)
    low, high = charge_range_from_rest(bank.bank.chemistry, station.bus_v, rest_v, taken)
    end = 1.0 - bank.depth
    rows = []
    for tempo in station.design.draw.tempos:
        drawn_ah = float(station.draw_at(tempo.id).by_month[station.hard_month - 1])
        hours = [
            24.0 * max(0.0, share - end) * bank.held_ah / drawn_ah if drawn_ah > 0 else None for share in (low, high)
        ]
        rows.append(TempoLeft(tempo.name, hours[0], hours[1]))
    shown = f"{100 * low:.0f} to {100 * high:.0f} % charged" if high - low > 0.005 else f"{100 * low:.0f} % charged"
    spent = " Nothing that may be used is sure to be left." if low <= end else ""
    return Left(low, high, tuple(rows), f"By the newest resting volts it is {shown}.{spent}")
