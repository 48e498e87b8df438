"""The array in numbers: what every string, and the engine, put into the bank, by month."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..chemistries import ChemistryKind, kind_of
from ..climate import AIR_SOURCES, Climate, Here
from ..design import Alternator, Array, Bank, Design, PanelString
from ..electrical import blocks_of_12v
from ..store import ALTERNATOR, charge_settings, reaches
from ..sun import Conditions, conditions_of, mounting_of
from .electric import (
    NO_PLACE_AIR_C,
    Electric,
    best_amps,
    cell_rise_k,
    coldest_bright_c,
    electric_of,
)
from .harvest import charge_volts
from .supplies import supply_verdict
from .year import month_ah

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class SkyOver:
    """The place and the air that strings are judged in."""

    here: Here
    conditions: Conditions
    air_c: tuple[float, ...]
    swing_k: tuple[float, ...]
    coldest_c: float
    """The coldest night of a year."""
    air_source: str
    """Key of the source of the air."""


@dataclass(frozen=True, slots=True)
class StringModel:
    """A string on its controller; amp-hours a day by month, None where the sun is not known."""

    string: PanelString
    electric: Electric
    months_ah: tuple[float, ...] | None
    coldest_c: float
    """Its coldest cells in full sun."""

    @property
    def watts(self) -> float:
        """By the label."""
        return self.string.module.watts.value * self.string.series * self.string.parallel


@dataclass(frozen=True, slots=True, kw_only=True)
class ChargeSource:
    """Anything that puts current into the bank, with the most it gives, its own limits counted."""

    id: str
    name: str
    amps: float
    alone: bool = False
    """It must not run together with the others."""
    charges: bool = True
    """Whether its volts put current into the bank at all."""
    passes_a: float = 0.0
    """What it can give to the station beside, on its own lead."""

    @property
    def lead_a(self) -> float:
        """The most its own lead carries."""
        return max(self.amps, self.passes_a)


@dataclass(frozen=True, slots=True, kw_only=True)
class ArrayModel:
    """What comes in. Amp-hours are a day's, by month."""

    charge_v: float
    """Mean volts of the bank while it charges."""
    absorb_v: float
    strings: tuple[StringModel, ...]
    astray: frozenset[str]
    """Strings that no path leads to the main bank from."""
    engine_ah: float
    kept_share: float
    """Share of the charge put in that the bank gives back."""
    sources: tuple[ChargeSource, ...]
    """Of the main bank: strings, the engine, and every charger."""

    @property
    def harvest_ah(self) -> FloatArray | None:
        """Into the bank, shape (12,); None where the sun is not known though there are panels.
        [A·h]"""
        total = np.full(12, self.engine_ah)
        for string in self.strings:
            if string.months_ah is None:
                return None
            if string.string.id not in self.astray:
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

    def together_a(self) -> tuple[float, tuple[ChargeSource, ...]]:
        """The most that can flow into the main bank at once, and the sources of it: all that run
        together, or one that must run alone where it gives more."""
        charging = [source for source in self.sources if source.charges]
        joined = tuple(source for source in charging if not source.alone)
        total = sum(source.amps for source in joined)
        most = max(charging, key=lambda source: source.amps, default=None)
        return (most.amps, (most,)) if most is not None and most.amps > total else (total, joined)


def sky_over(design: Design, here: Here | None, climate: Climate) -> SkyOver | None:
    """The sky over a design; None without a place.

    Parameters
    ----------
    climate : Climate
        Temperatures of the place, month by month.
    """
    if here is None:
        return None
    air, swing = (
        tuple(float(value) for value in part) for part in (climate.mean_c, climate.swing_k)
    )
    return SkyOver(
        here=here,
        conditions=conditions_of(design.sun),
        air_c=air,
        swing_k=swing,
        coldest_c=climate.coldest_c,
        air_source=AIR_SOURCES[climate.basis],
    )


def coldest_bright_of(string: PanelString, sky: SkyOver | None) -> float:
    """A string's coldest cells in full sun under a sky. [°C]"""
    return coldest_bright_c(string, sky.coldest_c if sky else NO_PLACE_AIR_C)


def string_months_ah(
    string: PanelString, array: Array, charge_v: float, sky: SkyOver, kind: str | None = None
) -> tuple[float, ...] | None:
    """Amp-hours a day a string puts into the bank, by month; None where the sun is not known.

    Parameters
    ----------
    charge_v : float
        Volts at the bank while it is charged. [V]
    kind : str or None
        A kind of controller in place of its own.
    """
    electric = electric_of(string, array, charge_v, kind)
    return _months_ah(string, electric, sky)


def _months_ah(string: PanelString, electric: Electric, sky: SkyOver) -> tuple[float, ...] | None:
    rise_k = cell_rise_k(string)
    return month_ah(
        sky.here,
        sky.conditions,
        mounting=mounting_of(string),
        air_c=sky.air_c,
        swing_k=sky.swing_k,
        rise_k=rise_k,
        electric=electric,
    )


def kind_charged(bank: Bank | None) -> ChemistryKind:
    """The bank's kind; AGM's where there is no bank yet."""
    return kind_of(bank.chemistry if bank else "agm")


def _sources(
    design: Design, strings: list[StringModel], engine: Alternator | None, absorb_v: float
) -> Iterator[ChargeSource]:
    for item in strings:
        if reaches(design, item.string.id):
            yield ChargeSource(
                id=item.string.id,
                name=item.string.name,
                amps=best_amps(item.electric, item.coldest_c, cell_rise_k(item.string)),
            )
    if engine is not None:
        yield ChargeSource(id=ALTERNATOR, name="the engine", amps=engine.into_bank_a)
    for charger in design.array.chargers:
        if reaches(design, charger.id):
            charges = charger.kind != "selector" and supply_verdict(charger, design, absorb_v)[0]
            passes_a = (
                charger.passes_a.value if charger.kind == "changeover" and charger.passes_a else 0.0
            )
            yield ChargeSource(
                id=charger.id,
                name=charger.name,
                amps=charger.amps.value,
                alone=charger.alone,
                charges=charges,
                passes_a=passes_a,
            )


def array_model(design: Design, bus_v: float, sky: SkyOver | None) -> ArrayModel:
    """The array of a design on a bus of so many volts.

    Parameters
    ----------
    bus_v : float
        Nominal volts of the bus. [V]
    sky : SkyOver or None
        The sun on its planes; None without a place.
    """
    array, bank = design.array, design.store.bank
    charge_v = charge_volts(blocks_of_12v(bus_v))
    strings = []
    absorb_v = charge_settings(bank or Bank(), bus_v, 100.0, 25.0)[0].absorb_v
    for string in array.strings:
        electric = electric_of(string, array, charge_v)
        months_ah = _months_ah(string, electric, sky) if sky else None
        strings.append(StringModel(string, electric, months_ah, coldest_bright_of(string, sky)))
    engine = array.alternator if reaches(design, ALTERNATOR) else None
    astray = frozenset(string.id for string in array.strings if not reaches(design, string.id))
    return ArrayModel(
        charge_v=charge_v,
        absorb_v=absorb_v,
        strings=tuple(strings),
        astray=astray,
        engine_ah=engine.into_bank_a * engine.driving_h_per_day.value if engine else 0.0,
        kept_share=kind_charged(bank).coulombic_efficiency,
        sources=tuple(_sources(design, strings, engine, absorb_v)),
    )
