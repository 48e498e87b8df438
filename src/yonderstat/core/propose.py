"""A first design for a new site: usual loads for its kind, and a bank and array sized to run
them."""

import math
from collections.abc import Iterator
from typing import Any

from .climate import Climate, climate_of, equator_azimuth_deg
from .controllers import controller_type
from .data import toml_table
from .design import (
    Alternator,
    Array,
    Bank,
    Brief,
    Chemistry,
    Design,
    Draw,
    Housing,
    Kind,
    KnownAmpHours,
    KnownWatts,
    Module,
    PanelString,
    Place,
    Purpose,
    Store,
    with_bank,
    with_string,
)
from .draw import load_of
from .explained import explained
from .findings import findings_of
from .purposes import purpose_of
from .station import StationModel
from .store import kind_of, most_charge_a, vent_of_a_box

MAX_UNITS, MAX_PANELS = 12, 24
MOST_ROUNDS, GROWTH, SLOW_GROWTH = 12, 1.3, 1.1
"""How a first design grows while the weather years do not hold: by so much a round, the bank more
slowly."""
LEAD_FULL_WITHIN_D, LONGEST_NIGHT_SHARE = 14.0, 1.0
LEAST_TILT_DEG, MOST_TILT_DEG = 10.0, 75.0
STEEPER_THAN_LATITUDE_DEG = 15.0
"""Tilting 15° above the latitude favours winter. [C] common practice."""


def _winter_tilt_deg(latitude_deg: float) -> float:
    tilt = abs(latitude_deg) + STEEPER_THAN_LATITUDE_DEG
    return float(round(min(max(tilt, LEAST_TILT_DEG), MOST_TILT_DEG)))


def _sized(design: Design) -> Design:
    """The design with as many units and panels as the worst-month rule asks for, within reason."""
    sizing = explained(StationModel(design))
    bank, strings = design.store.bank, design.array.strings
    units = sizing.number(sizing.sizing.worst_month.bank_units)
    panels = sizing.number(sizing.sizing.worst_month.array_panels)
    update: dict[str, Any] = {}
    if bank and units:
        parallel = min(max(1, math.ceil(units)), MAX_UNITS)
        update["store"] = Store(bank=bank.model_copy(update={"parallel": parallel}))
    if strings and panels:
        parallel = min(max(1, math.ceil(panels)), MAX_PANELS)
        update["array"] = design.array.model_copy(
            update={"strings": [strings[0].model_copy(update={"parallel": parallel})]}
        )
    return _rehearsed(_charged_gently(design.model_copy(update=update)))


def _with_sizes(design: Design, units: int, panels: int) -> Design:
    bank, strings = design.store.bank, design.array.strings
    if bank is None or not strings:
        return design
    design = with_bank(design, parallel=min(units, MAX_UNITS))
    return _charged_gently(with_string(design, 0, parallel=min(panels, MAX_PANELS)))


def _rehearsed(design: Design) -> Design:
    """The design grown until the weather years hold, or as far as a first design goes.

    Mean sun flatters: a station sized on it alone goes dark in a dull fortnight. Panels grow where
    days bring too little, where a spell is to be carried or lead never gets full; the bank where
    nights are too long.
    """
    for _ in range(MOST_ROUNDS):
        bank, strings = design.store.bank, design.array.strings
        if bank is None or not strings:
            return design
        report = explained(StationModel(design))
        years, night = report.rehearsed, report.number(report.night.share) if report.night else None
        if years is None:
            return design
        unfull_d = report.number(report.life.longest_not_full_d) if report.life else None
        sulphates = kind_of(bank.chemistry).is_lead and (unfull_d or 0.0) > LEAD_FULL_WITHIN_D
        long_night = night is not None and night > LONGEST_NIGHT_SHARE
        if years.state == "good" and not sulphates and not long_night:
            return design
        before_dawn = years.dark is not None and years.dark.kind == "before_dawn"
        units, panels = bank.parallel, strings[0].parallel
        if long_night or (before_dawn and not sulphates):
            units = math.ceil(units * GROWTH)
        else:
            panels = math.ceil(panels * GROWTH)
            units = units if sulphates and years.state == "good" else math.ceil(units * SLOW_GROWTH)
        grown = _with_sizes(design, units, panels)
        together_a = StationModel(grown).array.together_a()[0]
        if grown == design or (grown.store.bank and together_a > most_charge_a(grown.store.bank)):
            # As large as a first design goes, or more panel than so many batteries may be charged
            # with.
            return design
        design = grown
    return design


def _charged_gently(design: Design) -> Design:
    """The design with as many units as take what its sources give at their best, and no more panel
    than that."""
    bank, strings = design.store.bank, design.array.strings
    if bank is None:
        return design
    together_a = StationModel(design).array.together_a()[0]
    one_takes_a = most_charge_a(bank) / bank.parallel
    units = min(max(bank.parallel, math.ceil(together_a / one_takes_a - 1e-9)), MAX_UNITS)
    design = with_bank(design, parallel=units)
    over = together_a / (units * one_takes_a)
    if over > 1.0 + 1e-9 and strings and strings[0].parallel > 1:
        return with_string(design, 0, parallel=max(1, math.floor(strings[0].parallel / over)))
    return design


def _frost_proof(chemistry: Chemistry, housing: Housing, climate: Climate) -> Chemistry:
    """The kind's usual chemistry, or AGM where lithium would stand outdoors too cold to be
    charged."""
    kind = kind_of(chemistry)
    sheltered = housing in {"indoors", "heated"}
    return (
        "agm"
        if not kind.is_lead and not sheltered and climate.coldest_c < kind.charge_low_c
        else chemistry
    )


def _held_against(design: Design) -> tuple[int, int]:
    """How many Stops and how many Fixes our own rules hold against a design; remedies are not
    looked for."""
    station = StationModel(design, trial=True)
    found = [item.severity for item in findings_of(station, explained(station))]
    return found.count("stop"), found.count("fix")


def _variants(design: Design) -> Iterator[Design]:
    """A first design as the kind usually is, then for a harder place: a tracker, a heated box, and
    both."""
    bank, strings = design.store.bank, design.array.strings
    yield design
    tracked = (
        with_string(design, 0, controller="mppt")
        if strings and controller_type(strings[0].controller).passes_current
        else None
    )
    if tracked is not None:
        yield tracked
    if bank is None or bank.housing in {"indoors", "heated"}:
        return
    yield with_bank(design, housing="heated")
    if tracked is not None:
        yield with_bank(tracked, housing="heated")


def _vented(design: Design) -> Design:
    """A bank in a closed box with the vent it needs, once its size is known."""
    bank = design.store.bank
    if bank is None or bank.housing != "heated":
        return design
    return with_bank(design, vent_cm2=vent_of_a_box(bank))


def _cleanest(design: Design) -> Design:
    """The first variant our own rules hold nothing against; where the place has none, the one with
    the fewest."""
    found = []
    for variant in _variants(design):
        sized = _vented(_sized(variant))
        found.append((_held_against(sized), sized))
        if found[-1][0] == (0, 0):
            break
    return min(found, key=lambda item: item[0])[1]


def propose(kind: Kind, purpose: Purpose, place: Place | None) -> Design:
    """A design that already runs, every figure marked as our guess.

    Parameters
    ----------
    place : Place or None
        Where it is; without it the array keeps one panel, as no sun can be worked out.
    """
    entry = toml_table("site_kinds")[kind]
    brief = Brief(
        kind=kind, purpose=purpose, preparing_for=entry["preparing_for"], attended=entry["attended"]
    )
    climate = climate_of(Design(brief=brief, place=place))
    chemistry = (
        _frost_proof(entry["chemistry"], entry["housing"], climate) if place else entry["chemistry"]
    )
    latitude_deg = place.latitude_deg if place else 0.0
    string = PanelString(
        id="string-1",
        name="Main panels",
        module=Module(watts=KnownWatts(value=float(entry["module_w"]))),
        tilt_deg=0.0 if kind == "vehicle" else _winter_tilt_deg(latitude_deg),
        azimuth_deg=equator_azimuth_deg(latitude_deg),
        controller=entry["controller"],
    )
    design = Design(
        name="A",
        brief=brief,
        place=place,
        draw=Draw(
            loads=[load_of(load, number) for number, load in enumerate(entry["loads"], start=1)]
        ),
        store=Store(
            bank=Bank(
                chemistry=chemistry,
                unit_v=kind_of(chemistry).unit_v,
                unit_ah=KnownAmpHours(value=float(entry["unit_ah"])),
                housing=entry["housing"],
            )
        ),
        array=Array(
            strings=[string], alternator=Alternator() if purpose_of(purpose).with_engine else None
        ),
    )
    # Without a place no sun is known, and nothing is to be chosen between.
    return _cleanest(design) if place else _sized(design)
