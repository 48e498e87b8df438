"""The next days from the newest state of charge: every weather year goes on from it, and it is told
what most do."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..data import toml_table
from ..draw import pointless
from ..rehearse import (
    COMFORT,
    DEFERRED,
    USEFUL,
    HourlyStation,
    charge_from,
    charge_of_year,
    hourly_loads,
)
from ..words import days_in_words
from ..working import Input, Key, Quantity, Workings, stated, table, used

FloatArray = NDArray[np.float64]
DAYS, HOURS = 10, 24
MOST_H = DAYS * HOURS
LOW, MIDDLE, HIGH = 0.1, 0.5, 0.9


@dataclass(frozen=True, slots=True)
class Band:
    """A share of charge by hour: four years in five lie between low and high."""

    low: tuple[float, ...]
    middle: tuple[float, ...]
    high: tuple[float, ...]


@dataclass(frozen=True, slots=True)
class TempoDark:
    """How soon it goes dark at a tempo. None is not within the forecast."""

    tempo: str
    name: str
    dark_share: Key
    """Of the weather years, those in which it goes dark within the forecast."""
    soonest_h: Key
    """One year in ten is dark by then."""
    middle_h: Key


@dataclass(frozen=True, slots=True, kw_only=True)
class Forecast:
    """The charge of the next days, and how soon it goes dark. Figures are found by key in
    `working`."""

    hours: int
    charge: Band
    planned: Band
    """What the plan has at this time of year, from its own weather years."""
    tempos: tuple[TempoDark, ...]
    shed: tuple[TempoDark, ...]
    """The tempo sized on, with tiers switched off from now on."""
    floor_share: Key
    """Of the whole bank, where what may be used ends now."""
    under_floor: str
    """What happens under it, in words."""
    floor: tuple[float, ...]
    """The same by hour, in the middle weather year."""
    soon_dark_share: Key
    """Years dark within the hours an alarm looks ahead."""
    soon_dark_h: Key | None
    sentence: str
    working: dict[Key, Quantity]


def _band(shares: FloatArray) -> Band:
    low, middle, high = (
        tuple(row.tolist()) for row in np.quantile(shares, (LOW, MIDDLE, HIGH), axis=0)
    )
    return Band(low, middle, high)


def _when(dark_h: FloatArray, share: float) -> float | None:
    """Hours until so many of the years are dark; None where that is not within the forecast."""
    found = float(np.quantile(dark_h, share, method="inverted_cdf"))
    return found if np.isfinite(found) else None


def _tempo_dark(
    key: str, tempo: str, name: str, dark_h: FloatArray, ground: list[Input], workings: Workings
) -> TempoDark:
    source, beyond = "rehearsal", f"not within {DAYS} days"
    dark = workings.add(
        f"live.{key}.dark_share",
        float(np.isfinite(dark_h).mean()),
        "share",
        label=f"{name}: weather years that lose power within {DAYS} days",
        formula="n_dark / n_years",
        words=(
            "each weather year continues from the charge left now; counted are those in which "
            "a vital load loses power"
        ),
        inputs=ground,
        source=source,
    )
    hours = []
    for word, share, told in (
        ("soonest_h", LOW, "one year in ten has lost power by then"),
        ("middle_h", MIDDLE, "half of the years have lost power by then"),
    ):
        value = _when(dark_h, share)
        made = workings.add(
            f"live.{key}.{word}",
            value,
            "h",
            label=f"{name}: hours until it loses power; {told}",
            formula="t_dark",
            words=(
                "hours until a vital load first lacks power, with the years sorted from shortest "
                "to longest"
            ),
            inputs=ground,
            source=source,
            note="" if value is not None else beyond,
        )
        hours.append(made.key)
    return TempoDark(tempo, name, dark.key, hours[0], hours[1])


def _dark_h(dark: NDArray[np.bool_]) -> FloatArray:
    """Hours until the first dark one of each year; infinite where there is none."""
    return np.where(dark.any(axis=1), dark.argmax(axis=1).astype(float), np.inf)


def _without(loads: FloatArray, columns: tuple[int, ...]) -> FloatArray:
    changed = loads.copy()
    changed[:, columns] = 0.0
    return changed


SHED = (
    ("shed.comfort", "Nice-to-have loads off", (COMFORT,)),
    ("shed.useful", "Nice-to-have and useful loads off", (USEFUL, COMFORT, DEFERRED)),
)


def forecast_of(station: HourlyStation, hour_of_year: int, charge_share: float) -> Forecast:
    """The next ten days of a station that is charged so far.

    Parameters
    ----------
    station : HourlyStation
        Of the design as built.
    hour_of_year : int
        Now, 0 to 8759, by the site's clock.
    charge_share : float
        Of the whole bank, as its monitor says.

    Returns
    -------
    Forecast
        With its workings.
    """
    design, workings = station.model.design, Workings()
    at = (hour_of_year + np.arange(MOST_H)) % station.months.size
    share = float(np.clip(charge_share, 0.0, 1.0))
    now = workings.add(
        "live.charge_share",
        share,
        "share",
        label="State of charge now",
        formula="SOC",
        words="the station's last reading",
        inputs=[stated("SOC", "state of charge, as reported", share, "share", "")],
    )
    ground = [used("SOC", now), table("n", "weather years", float(station.years), "", "rehearsal")]

    def run(loads: FloatArray) -> tuple[FloatArray, FloatArray]:
        charge, dark = charge_from(station, at, share, loads)
        return charge, _dark_h(dark)

    sized_on = design.draw.sized_on
    tempos, charged, dark_h = [], None, None
    for tempo in design.draw.tempos:
        loads = hourly_loads(
            design, station.model.draw_at(tempo.id), pointless(design), all_year=True
        )
        charge, dark = run(loads)
        if tempo.id == sized_on or charged is None:
            charged, dark_h, own_loads = charge, dark, loads
        tempos.append(
            _tempo_dark(f"tempo.{tempo.id}", tempo.id, tempo.name, dark, ground, workings)
        )
    if charged is None or dark_h is None:
        own_loads = station.hours.load_a
        charged, dark_h = run(own_loads)
    shed = tuple(
        _tempo_dark(key, sized_on, name, run(_without(own_loads, columns))[1], ground, workings)
        for key, name, columns in SHED
        if own_loads[:, columns].any()
    )
    floor_ah, full_ah = np.median(station.hours.floor_ah[:, at], axis=0), station.rules.full_ah
    floors = floor_ah / full_ah
    floor = workings.add(
        "live.floor_share",
        float(floors[0]),
        "share",
        label="Lowest charge allowed",
        formula="s = F / C",
        words="lowest charge allowed, at the battery's temperature in this hour of the middle "
        "weather year, divided by its full charge when warm. Cold lead has less capacity, "
        "so it reaches the limit earlier",
        inputs=[
            table("F", "lowest charge allowed", float(floor_ah[0]), "A·h", "rehearsal"),
            table("C", "full charge", full_ah, "A·h", "rehearsal"),
        ],
        source="rehearsal",
    )
    within_h = float(toml_table("live_alarms")["low_charge"]["within_h"])
    soon = workings.add(
        "live.soon_dark_share",
        float((dark_h < within_h).mean()),
        "share",
        label=f"Weather years that lose power within {within_h:.0f} hours",
        formula="n_dark / n_years",
        words="at the activity level the design is sized for",
        inputs=ground,
        source="rehearsal",
    )
    middle = _when(dark_h, MIDDLE)
    middle_key = None
    if middle is not None:
        middle_key = workings.add(
            "live.soon_dark_h",
            middle,
            "h",
            label="Hours until it loses power, in the middle weather year",
            formula="t_dark",
            words=(
                "half of the weather years have lost power by then, at the activity level the "
                "design is sized for"
            ),
            inputs=ground,
            source="rehearsal",
        ).key
    return Forecast(
        hours=MOST_H,
        charge=_band(charged),
        planned=_band(charge_of_year(station)[:, at]),
        tempos=tuple(tempos),
        shed=shed,
        floor_share=floor.key,
        under_floor=WORN_UNDER if station.goes_on else DARK_UNDER,
        floor=tuple(floors.tolist()),
        soon_dark_share=soon.key,
        soon_dark_h=middle_key,
        sentence=_sentence(dark_h, middle),
        working=workings.as_dict(),
    )


WORN_UNDER = (
    "under it the battery wears, and the station goes on until it is cut off or nothing is left"
)
DARK_UNDER = "below it the loads lose power"


def _in(hours: float) -> str:
    return "within the hour" if hours < 1.0 else f"in {days_in_words(hours / 24.0)}"


def _sentence(dark_h: FloatArray, middle: float | None) -> str:
    share = float(np.isfinite(dark_h).mean())
    if share == 0.0:
        return f"It keeps power for the next {DAYS} days in every weather year."
    first = _when(dark_h, LOW)
    if middle is not None and middle < 1.0:
        return "Likely without power now, or within the hour."
    if middle is not None:
        soonest = (
            "" if first is None or first == middle else f"; in a bad year (1 in 10) {_in(first)}"
        )
        return f"Likely to lose power {_in(middle)}{soonest}."
    when = "" if first is None else f"; in a bad year (1 in 10) {_in(first)}"
    return f"In {100 * share:.0f} % of weather years it loses power within {DAYS} days{when}."
