"""The array in numbers: what every string, and the engine, put into the bank, by month."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..climate import AIR_SOURCES, Climate, Here
from ..data import rows_by
from ..design import Array, Bank, Design, PanelString
from ..electrical import blocks_of_12v
from ..store import charge_settings
from ..sun import Conditions, conditions_of, mounting_of
from .electric import Electric, cell_rise_k, electric_of
from .harvest import charge_volts
from .year import month_ah

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class SkyOver:
    """The place and the air that strings are judged in."""

    here: Here
    conditions: Conditions
    air_c: tuple[float, ...]
    swing_k: tuple[float, ...]
    air_source: str
    """Key of the source of the air."""


@dataclass(frozen=True, slots=True)
class StringModel:
    """A string on its controller; amp-hours a day by month, None where the sun is not known."""

    string: PanelString
    electric: Electric
    months_ah: tuple[float, ...] | None

    @property
    def watts(self) -> float:
        """By the label."""
        return self.string.module.watts.value * self.string.series * self.string.parallel


@dataclass(frozen=True, slots=True)
class ArrayModel:
    """What comes in. Amp-hours are a day's, by month."""

    charge_v: float
    """Mean volts of the bank while it charges."""
    absorb_v: float
    strings: tuple[StringModel, ...]
    engine_ah: float
    kept_share: float
    """Share of the charge put in that the bank gives back."""

    @property
    def harvest_ah(self) -> FloatArray | None:
        """Into the bank, shape (12,); None where the sun is not known though there are panels. [A·h]"""
        total = np.full(12, self.engine_ah)
        for string in self.strings:
            if string.months_ah is None:
                return None
            total = total + np.array(string.months_ah)
        return total

    @property
    def stored_ah(self) -> FloatArray | None:
        """What the bank keeps of it. [A·h]"""
        harvest = self.harvest_ah
        return None if harvest is None else harvest * self.kept_share

    @property
    def watts(self) -> float:
        """By the labels."""
        return sum(string.watts for string in self.strings)


def sky_over(design: Design, here: Here | None, climate: Climate) -> SkyOver | None:
    """The sky over a design; None without a place."""
    if here is None:
        return None
    air, swing = (tuple(float(value) for value in part) for part in (climate.mean_c, climate.swing_k))
    return SkyOver(here, conditions_of(design.sun), air, swing, AIR_SOURCES[climate.basis])


def string_months_ah(
    string: PanelString, array: Array, charge_v: float, sky: SkyOver, kind: str | None = None
) -> tuple[float, ...] | None:
    """Amp-hours a day a string puts into the bank, by month; None where the sun is not known."""
    electric = electric_of(string, array, charge_v, kind)
    return _months_ah(string, electric, sky)


def _months_ah(string: PanelString, electric: Electric, sky: SkyOver) -> tuple[float, ...] | None:
    rise_k = cell_rise_k(string.fitted)
    return month_ah(sky.here, sky.conditions, mounting_of(string), sky.air_c, sky.swing_k, rise_k, electric)


def chemistry_row(bank: Bank | None) -> dict[str, str]:
    """The bank's chemistry; AGM's where there is no bank yet."""
    return rows_by("chemistries", "chemistry")[bank.chemistry if bank else "agm"]


def array_model(design: Design, bus_v: float, sky: SkyOver | None) -> ArrayModel:
    """The array of a design on a bus of so many volts."""
    array, bank = design.array, design.store.bank
    charge_v = charge_volts(blocks_of_12v(bus_v))
    strings = []
    for string in array.strings:
        electric = electric_of(string, array, charge_v)
        strings.append(StringModel(string, electric, _months_ah(string, electric, sky) if sky else None))
    engine = array.alternator
    return ArrayModel(
        charge_v,
        charge_settings(bank or Bank(), bus_v, 100.0, 25.0)[0].absorb_v,
        tuple(strings),
        engine.into_bank_a * engine.driving_h_per_day.value if engine else 0.0,
        float(chemistry_row(bank)["coulombic_efficiency"]),
    )
