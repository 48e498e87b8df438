"""The bank in numbers: what it holds, how cold it gets, what may be used. Every step reads this,
and none works it out again."""

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from ..climate import Climate
from ..data import rows_by
from ..design import Bank, Brief, Layer, PowerPack
from .capacity import rate_factor, temperature_factor
from .health import health_left
from .kind import depth_of, peukert_of, usual_depth
from .temperature import ColdDay, cold_day, follows_the_air, hot_day_c

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class BankModel:
    """The main bank. Amp-hours are of the whole bank; `hard_month` is the month the design is
    judged by."""

    bank: Bank
    bus_v: float
    hard_month: int
    label_ah: float
    aged_ah: float
    """Label after age, or what a test found."""
    rate_factor: float
    cold_days: tuple[ColdDay, ...]
    """January to December."""
    hot_days_c: tuple[float, ...]
    """The hottest day of each month."""
    usual_depth: float
    depth: float
    least_c: float
    """It is never colder: the coldest night of a year, or its coldest cold day where that is
    colder."""
    spread_k: FloatArray | None
    """Of the days' air by month; None where the bank does not follow the air."""

    @property
    def rated_ah(self) -> float:
        """What it holds at 25 °C, at the current the station draws while it draws."""
        return self.aged_ah * self.rate_factor

    @cached_property
    def month_c(self) -> FloatArray:
        """A cold day of each month, shape (12,). [°C]"""
        return np.array([day.celsius for day in self.cold_days])

    @property
    def mean_c(self) -> float:
        """Over the year's cold days. [°C]"""
        return float(self.month_c.mean())

    @property
    def hard_c(self) -> float:
        """A cold day of the hard month. [°C]"""
        return self.cold_days[self.hard_month - 1].celsius

    @cached_property
    def month_factors(self) -> FloatArray:
        """What the temperature leaves by month, 25 °C being 1, shape (12,)."""
        return np.array(
            [temperature_factor(self.bank.chemistry, day.celsius) for day in self.cold_days]
        )

    @property
    def temperature_factor(self) -> float:
        """What the hard month's cold day leaves."""
        return float(self.month_factors[self.hard_month - 1])

    @property
    def held_ah(self) -> float:
        """What it holds in the cold of the hard month."""
        return self.rated_ah * self.temperature_factor

    @property
    def held_share(self) -> float:
        """Of the label, after age, rate and cold."""
        return self.held_ah / self.label_ah

    @property
    def usable_ah(self) -> float:
        """What may be used in the hard month."""
        return self.held_ah * self.depth

    @property
    def usable_wh(self) -> float:
        """The same at the nominal bus volts."""
        return self.usable_ah * self.bus_v

    @property
    def month_usable_ah(self) -> FloatArray:
        """What may be used in each month, shape (12,)."""
        return self.rated_ah * self.month_factors * self.depth


def bank_model(
    bank: Bank,
    brief: Brief,
    bus_v: float,
    flowing_a: float,
    hard_month: int,
    climate: Climate,
    sun_w_m2: FloatArray,
) -> BankModel:
    """The bank as it is asked of.

    Parameters
    ----------
    flowing_a : float
        Current while it flows, in the hard month. [A]
    sun_w_m2 : ndarray of shape (12,)
        On the main plane, the mean of day and night: what a box in the sun gets. [W/m²]

    Returns
    -------
    BankModel
        The bank in numbers.
    """
    label_ah = bank.unit_ah.value * bank.parallel
    aged_ah = (
        bank.tested_ah.value * bank.parallel if bank.tested_ah else label_ah * health_left(bank)
    )
    days = tuple(cold_day(bank, month, hard_month, climate, sun_w_m2) for month in range(1, 13))
    coldest = min(day.celsius for day in days)
    return BankModel(
        bank=bank,
        bus_v=bus_v,
        hard_month=hard_month,
        label_ah=label_ah,
        aged_ah=aged_ah,
        rate_factor=rate_factor(label_ah, bank.hour_rate_h, flowing_a, peukert_of(bank)),
        cold_days=days,
        hot_days_c=tuple(hot_day_c(bank, month, climate, sun_w_m2) for month in range(1, 13)),
        usual_depth=usual_depth(bank.chemistry, brief),
        depth=depth_of(bank, brief),
        least_c=min(coldest, climate.coldest_c + min(day.rise_k for day in days)),
        spread_k=np.array(climate.spread_k) if follows_the_air(bank, climate) else None,
    )


def layer_usable_wh(layer: Layer, brief: Brief, bank_c: float) -> float:
    """What may be used of a layer at the main bank's temperature [W·h].

    Parameters
    ----------
    bank_c : float
        Of the main bank. [°C]
    """
    bank = layer.bank
    unit_ah = bank.tested_ah or bank.unit_ah
    health = health_left(bank)
    units = bank.parallel * bank.series
    factor = temperature_factor(bank.chemistry, bank_c)
    return unit_ah.value * bank.unit_v * units * health * factor * depth_of(bank, brief)


def pack_usable_wh(pack: PowerPack, mean_w: float) -> float:
    """What a power pack gives at its DC outlet at a mean draw, its own electronics counted
    [W·h]."""
    held_wh = pack.energy_wh.value * (1.0 - pack.cutoff_share.value)
    drawn_w = mean_w / pack.efficiency.value + pack.idle_w.value
    return held_wh * (mean_w / drawn_w if mean_w > 0 else pack.efficiency.value)


def asked_days_of(brief: Brief) -> float:
    """The days a design must last: asked for, or usual for what is being prepared for. [d]"""
    row = rows_by("asked_days", "preparing_for")[brief.preparing_for]
    return brief.asked_days.value if brief.asked_days else float(row["days"])
