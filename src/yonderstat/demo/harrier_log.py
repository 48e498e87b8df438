"""Two years on record at Harrier Ridge, by the hour: weather years of the plan, with one thing
nobody counted."""

from dataclasses import replace
from datetime import datetime, timedelta

import numpy as np

from yonderstat.core.calendar import hour_of_year
from yonderstat.core.design import design_from_document
from yonderstat.core.rehearse import HourlyStation, Life, hourly_station, life_of
from yonderstat.core.station import StationModel

from .harrier_ridge import HARRIER_AS_BUILT

FIRST, YEARS, SEED = datetime(2024, 5, 24), (3, 4), 7
"""Until the day the stand-ins go on from; which weather years, one after the other."""
HOURS, BEGINS = 8760, 0.8
UNCOUNTED_A = 0.25
"""Planted: a heater mat on the telemetry box that stays on."""
OVER_A, EVERY = 5.0, 11
"""A long over, in one hour of so many; in the rest the draw is less by as much."""
SCATTER, METER_V = 0.05, 0.004


def _lived(station: HourlyStation) -> list[Life]:
    """The years one after the other, each from where the one before it ended."""
    first, share, found = hour_of_year(FIRST), BEGINS, []
    for year in YEARS:
        found.append(life_of(station, year, first, HOURS, share))
        share = float(found[-1].charge_share[-1])
    return found


def harrier_record() -> str:
    """The record as the monitor's CSV file."""
    planned = hourly_station(StationModel(design_from_document(HARRIER_AS_BUILT)), max(YEARS) + 1)
    if planned is None:
        raise RuntimeError("Harrier Ridge has no battery or no sun data")
    drawn = planned.hours.load_a.copy()
    drawn[:, 0] += UNCOUNTED_A
    parts = _lived(replace(planned, hours=planned.hours._replace(load_a=drawn)))
    volts, charge_a, load_a, box_c = (
        np.concatenate([getattr(part, name) for part in parts])
        for name in ("volts", "charge_a", "load_a", "box_c")
    )
    chance = np.random.default_rng(SEED)
    over_a = np.where(np.arange(volts.size) % EVERY == 0, OVER_A, 0.0) - OVER_A / EVERY
    over_a = np.where(load_a > OVER_A / EVERY, over_a, 0.0)
    read_a = (load_a + over_a) * np.exp(chance.normal(0.0, SCATTER, volts.size))
    read_v = volts - planned.rules.ohm * over_a + chance.normal(0.0, METER_V, volts.size)
    rows = ["Time,Battery V,Solar A,Load A,Box C"]
    for hour, figures in enumerate(zip(read_v, charge_a, read_a, box_c, strict=True)):
        at = FIRST + timedelta(hours=hour)
        volt, given, taken, box = figures
        rows.append(f"{at:%Y-%m-%d %H}:00,{volt:.3f},{given:.2f},{taken:.2f},{box:.1f}")
    return "\n".join(rows) + "\n"
