"""What a stand-in lives through: a stretch of a weather year of a design, told at any moment of its
own clock."""

import json
import time
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from datetime import UTC, datetime
from multiprocessing import get_context
from typing import Any

import numpy as np
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]
HOUR_S = 3600.0
YEARS, DAYS = 10, 365
FULL_SHARE = 0.96
RIPPLE_V = 0.004


@dataclass(frozen=True, slots=True, kw_only=True)
class Station:
    """A stand-in station: a design, from when on, and how fast."""

    name: str
    design: dict[str, Any]
    from_at: str
    """Its first moment, with its offset from UTC: 2026-05-20T00:00+12:00."""
    dull_month: int
    """The weather year is the one in which the panels bring least in this month, 1 to 12."""
    ports: dict[str, int]
    """By protocol and device: sunspec-controller, sunspec-monitor, telemetry."""
    speed: float = 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class State:
    """What the station's own devices see at a moment."""

    at_s: float
    volts: float
    charge_a: float
    load_a: float
    charge_share: float
    box_c: float
    panel_v: float
    unfed_v: float
    """At the posts if no source gave anything."""

    def figures(self) -> dict[str, float]:
        """As telemetry and MQTT tell it."""
        return {
            "time": int(self.at_s),
            "battery_v": round(self.volts, 2),
            "charge_a": round(self.charge_a, 2),
            "load_a": round(self.load_a, 2),
            "soc_pct": round(100.0 * self.charge_share, 1),
            "box_c": round(self.box_c, 1),
        }


@dataclass(frozen=True, slots=True, kw_only=True)
class Lived:
    """Hour by hour, each shape (n,), from `from_s` on; after the last hour comes the first."""

    from_s: float
    full_ah: float
    volts: FloatArray
    unfed_v: FloatArray
    charge_a: FloatArray
    load_a: FloatArray
    charge_share: FloatArray
    box_c: FloatArray

    def at(self, at_s: float) -> State:
        """The state at a moment: stocks go over from hour to hour, currents stand for their hour
        and swing a little."""
        hours = (at_s - self.from_s) / HOUR_S
        low = int(np.floor(hours)) % self.volts.size
        part, high = hours - np.floor(hours), (low + 1) % self.volts.size

        def between(row: FloatArray) -> float:
            # Nothing came before its first hour: that its last one did is a tale of the second
            # round.
            before = row[low - 1] if hours >= 1.0 else row[low]
            return float(before + (row[low] - before) * part)

        # A slow swing of a few in a hundred: no meter stands still.
        swing = (
            1.0
            + 0.03 * np.sin(2.0 * np.pi * hours * 0.7)
            + 0.01 * np.sin(2.0 * np.pi * hours * 5.3)
        )
        charge_a, volts = float(self.charge_a[low] * swing), between(self.volts)
        return State(
            at_s=at_s,
            volts=volts + RIPPLE_V * float(np.sin(2.0 * np.pi * hours * 3.1)),
            charge_a=charge_a,
            load_a=float(self.load_a[low] * (2.0 - swing)),
            charge_share=between(self.charge_share),
            box_c=float(self.box_c[low] * (1.0 - part) + self.box_c[high] * part),
            panel_v=volts + (0.4 if charge_a > 0.0 else -2.0),
            unfed_v=between(self.unfed_v),
        )


def _work_out(document: str, from_at: str, dull_month: int) -> dict[str, Any]:
    """In a process of its own, so that the stand-in does not keep the whole core in memory."""
    from yonderstat.core.design import design_from_json
    from yonderstat.core.rehearse import dullest_year, hourly_station, life_of
    from yonderstat.core.station import StationModel

    station = hourly_station(StationModel(design_from_json(document.encode())), YEARS)
    if station is None:
        raise ValueError(
            "the design cannot be rehearsed: it needs a place with sun data, and a battery"
        )
    began = datetime.fromisoformat(from_at)
    first_hour = (began.timetuple().tm_yday - 1) * 24 + began.hour
    year = dullest_year(station, dull_month)
    life = life_of(station, year, first_hour, DAYS * 24, FULL_SHARE)
    rows = {
        name: getattr(life, name)
        for name in ("volts", "unfed_v", "charge_a", "load_a", "charge_share", "box_c")
    }
    return {"full_ah": station.rules.full_ah, **rows}


def lived(station: Station) -> Lived:
    """What a stand-in station goes through."""
    began = datetime.fromisoformat(station.from_at)
    if began.tzinfo is None:
        raise ValueError(
            f"{station.from_at!r} has no offset from UTC; give one, such as 2026-05-20T00:00+12:00"
        )
    with ProcessPoolExecutor(1, mp_context=get_context("spawn")) as pool:
        told = pool.submit(
            _work_out, json.dumps(station.design), station.from_at, station.dull_month
        ).result()
    return Lived(from_s=began.astimezone(UTC).timestamp(), **told)


class Clock:
    """A clock that runs faster than ours until it has caught up with it, and never past it."""

    def __init__(self, at_s: float, speed: float, now: Callable[[], float] = time.time) -> None:
        self._now, self._speed = now, speed
        self._from_s, self._began = at_s, now()

    def at_s(self) -> float:
        """The device's time, seconds since 1970."""
        now = self._now()
        return min(self._from_s + (now - self._began) * self._speed, max(now, self._from_s))
