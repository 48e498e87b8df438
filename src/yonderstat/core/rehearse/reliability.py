"""The weather years behind the verdict: by month, how sure that is, and where it goes dark."""

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ..calendar import MONTH_NAMES, month_key
from ..design import Design
from ..station import StationModel
from ..store import YearUse
from ..working import Input, Key, Quantity, Workings, used
from .assumed import assumed_figure
from .bands import SERVICE, SPELL, SUN, Meaning, band_quantities
from .brown_out import BrownHours, brown_hours
from .cases import SpellCases, cases_of
from .half_again import begin_half_again
from .station import HourlyStation
from .tally import MonthSums, Tally
from .use import year_use
from .wear import frozen_h, locked_h, worn_figures, years_behind
from .years import (
    Carried,
    Dark,
    Served,
    dark_of,
    served_by,
)

FloatArray = NDArray[np.float64]
State = Literal["good", "edge", "short"]


@dataclass(frozen=True, slots=True)
class BrownFigures:
    """Hours a year a set is on, under its window when keyed, and browning out."""

    load_id: str
    name: str
    on_h: Key
    below_h: Key
    brown_h: Key


@dataclass(frozen=True, slots=True, kw_only=True)
class Reliability:
    """What the weather years say, by the figure the purpose asks for: vital service, or the chance
    of a spell."""

    years: int
    state: State
    by_month: tuple[Key | None, ...]
    month_states: tuple[State | None, ...]
    share: Key
    """Of the year; of a spell the least of the months in use."""
    low: Key
    """The same where sun and draw were guessed too kindly."""
    high: Key
    """The same where they were guessed too harshly."""
    dark_h: Key | None
    """Dark vital hours a year; None where spells are judged."""
    mute_h: Key | None
    """Hours a year in which what is vital has power and too few volts for what it is to do; None
    where spells are judged."""
    worn_h: Key | None
    """Hours a year that end under the planned depth; None where it is kept to."""
    worn_d: Key | None
    """And days on which any does."""
    least_share: Key | None
    """The least that is left in the bank, of all it holds; None where it keeps to the plan, as the
    next two."""
    flat: Key | None
    """Times a year it is run to where it gives nothing any more."""
    planned_years: Key | None
    """Years the bank would last if it never went under the planned depth."""
    frozen_h: Key | None
    """Hours a year in which the acid of a lead bank freezes; None for lithium, and where spells are
    judged."""
    wears: tuple[int, ...]
    """Months, 1 to 12, that stay up only by going under the planned depth."""
    with_volts: Key | None
    """Of a spell that falls short: the share that would come through with volts enough; None where
    they change nothing.
    """
    dark: Dark | None
    """How the dark hours lie, and how often the station was cut off; None where spells are
    judged."""
    left_ah: Key | None
    """Of a spell: what is left at its end in the middle case, in the worst month in use."""
    carried_kwh: Key | None
    """What the sun carried of the use in a year; None where spells are judged."""
    used_kwh: Key | None
    backed_kwh: Key | None
    """What mains or a generator gave in a year; None where none stands behind the bank."""
    backup: str
    worst_month: int
    """The month in use that stands worst, 1 to 12."""
    worst_low: Key | None
    """Its share where sun and draw were guessed too kindly."""
    worst_high: Key | None
    """And where they were guessed too harshly."""
    locked_h: Key | None
    """Hours a year in which lithium is too cold to be charged, heater or not; None for lead."""
    brown: tuple[BrownFigures, ...]
    """How often each set browns out when keyed; nothing where spells are judged, and a scene tells
    it."""


def _state(low: float, middle: float, high: float, least: float) -> State:
    """Good where even the pessimistic case holds, short where even the kind one does not, else on
    the edge."""
    if low >= least <= middle:
        return "good"
    return "edge" if high >= least else "short"


def _month_share(
    month: int, value: float | None, meaning: Meaning, inputs: list[Input], workings: Workings
) -> Quantity | None:
    if value is None:
        return None
    return workings.add(
        month_key("rehearse.month", month),
        value,
        "share",
        label=f"{meaning.label}, {MONTH_NAMES[month - 1]}",
        formula=meaning.formula,
        words=meaning.words,
        inputs=inputs,
        source="rehearsal",
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class _Told:
    """The figure by month and of the whole, in the middle, pessimistic and kind case, and what it
    must reach."""

    by_month: list[float | None]
    low_by_month: list[float | None]
    high_by_month: list[float | None]
    middle: float
    low: float
    high: float
    least: float
    meaning: Meaning
    kept: tuple[tuple[float | None, ...], ...] = ()
    """Share of the hours within the planned depth by month, in the same three cases; nothing where
    that is kept to."""

    @classmethod
    def of(
        cls, meaning: Meaning, rows: list[list[float | None]], totals: list[float], least: float
    ) -> "_Told":
        """From the middle, pessimistic and kind case in turn."""
        return cls(
            by_month=rows[0],
            low_by_month=rows[1],
            high_by_month=rows[2],
            middle=totals[0],
            low=totals[1],
            high=totals[2],
            least=least,
            meaning=meaning,
        )

    def wears(self, month: int) -> bool:
        """Whether a month stays up only by going under the planned depth."""
        return self._served_state(month) == "good" and self._kept_state(month) not in {"good", None}

    def _kept_state(self, month: int) -> State | None:
        if not self.kept:
            return None
        middle, low, high = (row[month - 1] for row in self.kept)
        if low is None or middle is None or high is None:
            return None
        return _state(low, middle, high, self.least)

    def state(self, months: list[int]) -> State:
        """How the whole stands: as its worst month in use does, so that strip and sentence never
        disagree.

        What the sun carries is judged by the year: nobody expects it of every winter month.
        """
        if self.meaning is SUN:
            return _state(self.low, self.middle, self.high, self.least)
        states = {self.month_state(month) for month in months}
        return "short" if "short" in states else "edge" if "edge" in states else "good"

    def month_state(self, month: int) -> State | None:
        """How one month stands, 1 to 12; None where nothing vital is wanted. It needs service and
        the planned depth."""
        return "edge" if self.wears(month) else self._served_state(month)

    def _served_state(self, month: int) -> State | None:
        values = [row[month - 1] for row in (self.low_by_month, self.by_month, self.high_by_month)]
        low, middle, high = values
        if low is None or middle is None or high is None:
            return None
        return _state(low, middle, high, self.least)


def _spells(design: Design, cases: list[Carried], days: float) -> _Told:
    rows = [
        [
            case.chance(month, days) if month in design.brief.months else None
            for month in range(1, 13)
        ]
        for case in cases
    ]
    least = [min(value for value in row if value is not None) for row in rows]
    return _Told.of(SPELL, rows, least, assumed_figure("carry_chance"))


def _service(cases: list[Served]) -> _Told:
    rows, shares = [list(case.by_month) for case in cases], [case.share for case in cases]
    told = _Told.of(SERVICE, rows, shares, assumed_figure("up_share"))
    return replace(told, kept=tuple(case.kept_by_month for case in cases))


def _sun_part(sums: MonthSums) -> FloatArray:
    """Amp-hours served by month over all years that no backup gave, shape (12,).

    Without any panel, engine or other source of its own nothing is carried: what the bank began
    with is not the sun's.
    """
    hours = sums.station.hours
    if not (hours.panels_a.any() or hours.fixed_a.any()):
        return np.zeros(12)
    # A backup may fill the bank in one month for the next: what it gave counts in the month it gave
    # it.
    return np.maximum(sums.used_ah - sums.backed_ah, 0.0)


def _wanted(station: HourlyStation) -> FloatArray:
    """Amp-hours all loads want by month over all years, shape (12,)."""
    hourly = station.hours.load_a.sum(axis=1)
    return np.asarray(np.bincount(station.months, weights=hourly, minlength=12) * station.years)


def _carried_by_sun(cases: list[MonthSums]) -> _Told:
    """What the sun carries of the use, by month, where mains stand behind it."""
    rows, totals = [], []
    for case in cases:
        total, sun = _wanted(case.station) * case.load, _sun_part(case)
        rows.append([float(sun[m] / total[m]) if total[m] > 0 else None for m in range(12)])
        totals.append(float(sun.sum() / total.sum()) if total.sum() > 0 else 0.0)
    return _Told.of(SUN, rows, totals, assumed_figure("sun_carries"))


def _told(model: StationModel, sums: list[MonthSums]) -> _Told:
    if model.purpose.judged_by == "sun_share":
        return _carried_by_sun(sums)
    return _service([served_by(case) for case in sums])


def state_of(model: StationModel) -> State | None:
    """How a station stands in the weather years, as its verdict says; None where it cannot be
    rehearsed."""
    cases = cases_of(model)
    if cases is None:
        return None
    if isinstance(cases, SpellCases):
        told = _spells(model.design, cases.run.result(), model.asked_days)
    else:
        tally, others = cases.run.result()
        told = _told(model, [tally.sums, *others])
    return told.state(list(model.design.brief.months))


def _energy(run: MonthSums, workings: Workings) -> tuple[Quantity, Quantity, Quantity | None]:
    """In a year: carried by the sun, used, and given by what stands behind the bank. [kW·h]"""
    station = run.station
    per = station.bus_v / 1000.0 / station.years
    ground = years_behind(station)
    used_kwh = workings.add(
        "rehearse.used_kwh",
        float(run.used_ah.sum()) * per,
        "kW·h",
        label="Used per year",
        formula="Σ I_served · V / n",
        words="what all loads actually got, at the nominal battery voltage",
        inputs=ground,
        source="rehearsal",
    )
    carried = workings.add(
        "rehearse.carried_kwh",
        float(_sun_part(run).sum()) * per,
        "kW·h",
        label="Supplied by the sun per year",
        formula="Σ (I_served − I_b) · V / n",
        words="what was used, less what mains or a generator gave, added up by month",
        inputs=[used("E", used_kwh), *ground],
        source="rehearsal",
    )
    if not station.backup:
        return carried, used_kwh, None
    backed = workings.add(
        "rehearse.backed_kwh",
        float(run.backed_ah.sum()) * per,
        "kW·h",
        label=f"From {station.backup} per year",
        formula="Σ I_b · V / n",
        words=(
            f"what it delivers; it starts when less than {station.rules.backup_on * 100:.0f} "
            "% of the usable charge is left"
        ),
        inputs=ground,
        source="rehearsal",
    )
    return carried, used_kwh, backed


def _left(
    design: Design, station: HourlyStation, carried: Carried, usable: Quantity, workings: Workings
) -> Quantity:
    """What is left at the end of a spell in the month in use that leaves least."""
    middles = {}
    for month in design.brief.months:
        chosen = sorted(carried.left_share[carried.months == month - 1])
        if chosen:
            middles[month] = max(0.0, float(chosen[len(chosen) // 2]))
    worst = min(middles, key=lambda month: middles[month])
    return workings.add(
        "rehearse.left_ah",
        middles[worst] * usable.number,
        "A·h",
        label=f"Usable charge left at the end, {MONTH_NAMES[worst - 1]}",
        formula="Q · s",
        words=("share of the usable charge left; the typical outage in the month with least left"),
        inputs=[used("Q", usable), *years_behind(station)],
        source="rehearsal",
    )


SEEN = 0.005
"""Half a per cent: what is less is not seen in a share."""


def _with_volts(
    station: HourlyStation, told: _Told, carried: Carried, days: float, workings: Workings
) -> Quantity | None:
    """Of a spell that falls short: what would come through if nothing vital ever had too few
    volts."""
    months = list(station.model.design.brief.months)
    if not station.rules.lines or told.state(months) == "good":
        return None
    share = min((carried.chance(month, days, powered=True) or 0.0 for month in months), default=0.0)
    if share < told.middle + SEEN:
        return None
    return workings.add(
        "rehearse.with_volts",
        share,
        "share",
        label="Survived if low volts were no problem",
        formula=told.meaning.formula,
        words="the same tries, counting every load that has power as in service",
        inputs=years_behind(station),
        source="rehearsal",
    )


def _worst(
    told: _Told, months: list[int], workings: Workings
) -> tuple[int, Key | None, Key | None]:
    """The month in use that stands worst, by its pessimistic case first, with both ends of its
    range."""
    lows = {month: told.low_by_month[month - 1] for month in months}
    known = {month: value for month, value in lows.items() if value is not None}
    if not known:
        return months[0], None, None
    month = min(
        known,
        key=lambda item: (
            known[item],
            told.by_month[item - 1] or 0.0,
            told.high_by_month[item - 1] or 0.0,
        ),
    )
    ends = (
        ("worst_low", known[month], "guessed too kindly"),
        ("worst_high", told.high_by_month[month - 1], "guessed too harshly"),
    )
    keys = [
        workings.add(
            f"rehearse.{key}",
            value,
            "share",
            label=f"{told.meaning.label}, {MONTH_NAMES[month - 1]}, {words}",
            formula=told.meaning.formula,
            words=told.meaning.words,
            inputs=[],
            source="band",
        ).key
        for key, value, words in ends
    ]
    return month, keys[0], keys[1]


def _brown(item: BrownHours, station: HourlyStation, workings: Workings) -> BrownFigures:
    key, ground = f"rehearse.brown.{item.load_id}", years_behind(station)
    words = (
        "hour by hour in the weather years: its volts while transmitting, at the charge of "
        "that hour, from the Wiring figures"
    )

    def hours(name: str, value: float, label: str, formula: str) -> Key:
        label = f"{item.name}: hours a year {label}"
        return workings.add(
            f"{key}.{name}",
            value,
            "h",
            label=label,
            formula=formula,
            words=words,
            inputs=ground,
            source="rehearsal",
        ).key

    return BrownFigures(
        item.load_id,
        item.name,
        hours("on_h", item.on_h, "on, not cut off", "Σ [on] / n"),
        hours(
            "below_h", item.below_h, "with too few volts while transmitting", "Σ [V < V_low] / n"
        ),
        hours(
            "brown_h",
            item.brown_h,
            "distorting or resetting while transmitting",
            "Σ [V < 0.95 · V_low] / n",
        ),
    )


def reliability_of(
    model: StationModel,
    asked: Quantity,
    usable: Quantity,
    ground: list[list[Input]],
    workings: Workings,
) -> tuple[Reliability | None, YearUse | None]:
    """Rehearse a station for its verdict; None where it cannot be (no bank, or no sun known).

    The second is how the bank was used meanwhile; None where spells are judged, and no year is
    played through.

    Parameters
    ----------
    ground : list
        By month, the figures that a month's share rests on.
    """
    cases = cases_of(model)
    if cases is None:
        return None, None
    design, station, spread, spell = (
        model.design,
        cases.station,
        cases.spread,
        model.purpose.is_spell,
    )
    left = dark_h = mute_h = with_volts = carried_kwh = used_kwh = backed = None
    dark = use = None
    brown: tuple[BrownHours, ...] = ()
    middle: Tally | None = None
    if isinstance(cases, SpellCases):
        spells = cases.run.result()
        told = _spells(design, spells, asked.number)
        left = _left(design, station, spells[0], usable, workings)
        with_volts = _with_volts(station, told, spells[0], asked.number, workings)
    else:
        middle, others = cases.run.result()
        told, served = _told(model, [middle.sums, *others]), served_by(middle.sums)
        if served.dark_hours_a_year > 0.0 and told.state(list(design.brief.months)) != "good":
            begin_half_again(model, station)
        use, brown, dark = year_use(middle), brown_hours(middle), dark_of(middle)
        carried_kwh, used_kwh, backed = _energy(middle.sums, workings)
        dark_h = workings.add(
            "rehearse.dark_h",
            served.dark_hours_a_year,
            "h",
            label="Hours a year vital loads are without power",
            formula="Σ [I_served < I_wanted] / n",
            words="hours when a vital load gets less than it needs, over the weather years",
            inputs=years_behind(station),
            source="rehearsal",
        )
        mute_h = workings.add(
            "rehearse.mute_h",
            served.mute_hours_a_year,
            "h",
            label="Hours a year with too few volts",
            formula="Σ [V < 0.95 · V_low] / n",
            words=(
                "hours in which what is vital has power, and its volts are out of the range "
                "of what it is to do"
            ),
            inputs=years_behind(station),
            source="rehearsal",
        )
    keys = []
    for month, value in enumerate(told.by_month, start=1):
        inputs = [
            *ground[month - 1],
            *years_behind(station),
            *([used("D", asked)] if spell else []),
        ]
        in_use = value if month in design.brief.months else None
        quantity = _month_share(month, in_use, told.meaning, inputs, workings)
        keys.append(quantity.key if quantity else None)
    values = (told.middle, told.low, told.high)
    band = band_quantities(
        "rehearse", told.meaning, values, spread, years_behind(station), workings
    )
    months = list(design.brief.months)
    wear = worn_figures(middle, workings)
    worst_month, worst_low, worst_high = _worst(told, months, workings)

    def key_of(quantity: Quantity | None) -> Key | None:
        return quantity.key if quantity else None

    judged = Reliability(
        years=station.years,
        state=told.state(months),
        by_month=tuple(keys),
        month_states=tuple(
            told.month_state(month) if keys[month - 1] else None for month in range(1, 13)
        ),
        share=band.share,
        low=band.low,
        high=band.high,
        dark_h=key_of(dark_h),
        mute_h=key_of(mute_h),
        worn_h=wear.worn_h,
        worn_d=wear.worn_d,
        least_share=wear.least_share,
        flat=wear.flat,
        planned_years=wear.planned_years,
        frozen_h=frozen_h(middle, workings),
        wears=tuple(month for month in months if told.wears(month)),
        with_volts=key_of(with_volts),
        dark=dark,
        left_ah=key_of(left),
        carried_kwh=key_of(carried_kwh),
        used_kwh=key_of(used_kwh),
        backed_kwh=key_of(backed),
        backup=station.backup,
        worst_month=worst_month,
        worst_low=worst_low,
        worst_high=worst_high,
        locked_h=locked_h(station, workings),
        brown=tuple(_brown(item, station, workings) for item in brown),
    )
    return judged, use
