"""What the weather years do to the bank: under the planned depth, frozen, too cold to be
charged."""

from dataclasses import dataclass

import numpy as np

from ..store import kind_of, years_of_use
from ..working import Input, Key, Workings, table, used
from .station import HourlyStation
from .tally import Tally
from .use import frozen_hours, planned_cycles


def years_behind(station: HourlyStation) -> list[Input]:
    """What every figure of the weather years rests on."""
    return [
        table("n", "weather years", float(station.years), "years", "rehearsal"),
        table("η", "charge kept", station.rules.efficiency, "share", "rehearsal"),
    ]


@dataclass(frozen=True, slots=True)
class Wear:
    """The figures of what is taken out beyond the plan; nothing where it is kept to."""

    worn_h: Key | None = None
    worn_d: Key | None = None
    least_share: Key | None = None
    flat: Key | None = None
    planned_years: Key | None = None


def worn_figures(tally: Tally | None, workings: Workings) -> Wear:
    """What is taken out beyond the planned depth; nothing where a cut-off keeps to it."""
    if tally is None or not tally.station.goes_on:
        return Wear()
    station = tally.station
    ground = [used("d", workings["store.depth"]), *years_behind(station)]

    def add(key: str, value: float, unit: str, label: str, formula: str, words: str) -> Key:
        return workings.add(
            f"rehearse.{key}",
            value,
            unit,
            label=label,
            formula=formula,
            words=words,
            inputs=ground,
            source="rehearsal",
        ).key

    hours = add(
        "worn_h",
        float(tally.sums.worn_hours.sum()) / station.years,
        "h",
        "Hours a year under the planned depth",
        "Σ [Q < Q_d] / n",
        "hours of the weather years with less charge left than the planned depth allows",
    )
    days_a_year = tally.worn_days / station.years
    days = add(
        "worn_d",
        days_a_year,
        "days",
        "Days a year under the planned depth",
        "Σ [any hour of the day under it] / n",
        "days of the weather years on which an hour ends so",
    )
    if days_a_year < WORTH_SAYING_D:
        return Wear(hours, days)
    return Wear(
        hours,
        days,
        add(
            "least_share",
            tally.least_ah / station.rules.full_ah,
            "share",
            "Lowest charge of the battery",
            "min Q / C",
            "in any hour of the weather years, as a share of its capacity",
        ),
        add(
            "flat",
            tally.flat_times / station.years,
            "",
            "Run flat, times a year",
            "n_flat / n",
            "how often it is run to where it gives nothing any more, within a hundredth",
        ),
        add(
            "planned_years",
            years_of_use(station.bank, planned_cycles(tally), float(station.bank_c.mean())),
            "years",
            "Years it would last within the planned depth",
            "min(1 / Σ nᵢ/N(dᵢ), t)",
            (
                "the same typical year with the charge held at the planned depth, counted by "
                "rainflow; or age"
            ),
        ),
    )


WORTH_SAYING_D = 1.0
"""Days a year under the planned depth; on fewer nobody looks how it wears."""


def frozen_h(tally: Tally | None, workings: Workings) -> Key | None:
    """Hours a year in which lead's acid freezes; None of anything else."""
    if tally is None or not kind_of(tally.station.bank.chemistry).is_lead:
        return None
    return workings.add(
        "rehearse.frozen_h",
        frozen_hours(tally),
        "h",
        label="Hours a year the acid freezes",
        formula="Σ [T < T_f(Q / C)] / n",
        words=(
            "hours of the weather years in which the battery is colder than its acid can be at "
            "that charge"
        ),
        inputs=years_behind(tally.station),
        source="rehearsal",
    ).key


def locked_h(station: HourlyStation, workings: Workings) -> Key | None:
    """Hours a year in which lithium is too cold to be charged; None of lead."""
    if kind_of(station.bank.chemistry).is_lead:
        return None
    heater = station.rules.heater_a > 0
    # Seldom is it ever cold enough, and to look at every hour for which of them takes long.
    used = np.isin(station.months + 1, station.model.design.brief.months)
    shut_h = float(station.shut[:, used].sum()) if station.hours.locked.any() else 0.0
    return workings.add(
        "rehearse.locked_h",
        shut_h / station.years,
        "h",
        label="Hours a year the battery is too cold to be charged",
        formula="Σ [T_bank < T_low] / n",
        words="hours of the months in use, over the weather years, in which charging is locked"
        + ("and its heater can't warm it enough" if heater else ""),
        inputs=years_behind(station),
        source="rehearsal",
    ).key
