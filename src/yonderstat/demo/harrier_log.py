"""Two years on record at Harrier Ridge, by the hour: as planned, but for the weather and one thing nobody counted."""

from datetime import date, timedelta

import numpy as np

from yonderstat.core.design import design_from_document
from yonderstat.core.station import StationModel
from yonderstat.core.store import bank_resistance_ohm

from .harrier_ridge import HARRIER_AS_BUILT

FIRST, DAYS, SEED = date(2024, 5, 24), 730, 7
UNCOUNTED_A = 0.25
"""Planted: a heater mat on the telemetry box that stays on."""
LIGHT = np.clip(np.sin((np.arange(24) - 6) / 12 * np.pi), 0.0, None)
OVER_A, EVERY = 5.0, 11
"""A long over, in one hour of so many."""
CALM = 0.5
"""Scatter of a day's sun about the month's mean, as a logarithm."""


def harrier_record() -> str:
    """The record as the monitor's CSV file."""
    station, chance = StationModel(design_from_document(HARRIER_AS_BUILT)), np.random.default_rng(SEED)
    harvest, drawn = station.array.harvest_ah, station.draw.by_month
    if harvest is None:
        raise RuntimeError("Harrier Ridge has no sun data")
    rows = ["Time,Battery V,Solar A,Load A,Box C"]
    charge = 0.6
    bank = station.bank
    if bank is None:
        raise RuntimeError("Harrier Ridge has no bank")
    ohm = bank_resistance_ohm(bank.bank, station.bus_v, bank.mean_c)
    for number in range(DAYS):
        day = FIRST + timedelta(days=number)
        sun_ah = float(harvest[day.month - 1]) * float(np.exp(chance.normal(0.0, CALM) - CALM**2 / 2))
        load_a = float(drawn[day.month - 1]) / 24.0 - OVER_A / EVERY + UNCOUNTED_A
        warmth = 8.0 - 9.0 * np.cos(2 * np.pi * (day.timetuple().tm_yday - 200) / 365) * -1.0
        for hour in range(24):
            given_a = sun_ah * LIGHT[hour] / LIGHT.sum()
            taken_a = load_a * float(np.exp(chance.normal(0.0, 0.05))) + (
                OVER_A if (number + hour) % EVERY == 0 else 0.0
            )
            charge = float(np.clip(charge + (0.9 * given_a - taken_a) / bank.held_ah, 0.05, 1.0))
            volts = 11.8 + 1.0 * charge + 0.08 * given_a - ohm * taken_a
            box = warmth + 6.0 * LIGHT[hour]
            rows.append(f"{day} {hour:02d}:00,{volts:.3f},{given_a:.2f},{taken_a:.2f},{box:.1f}")
    return "\n".join(rows) + "\n"
