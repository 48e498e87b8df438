"""What a new site begins with: the usual loads of its kind, one battery and one panel, each figure
our guess."""

from ..climate import Climate, climate_of, equator_azimuth_deg
from ..data import toml_table
from ..design import (
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
)
from ..draw import load_of
from ..purposes import purpose_of
from ..store import kind_of

LEAST_TILT_DEG, MOST_TILT_DEG = 10.0, 75.0
STEEPER_THAN_LATITUDE_DEG = 15.0
"""Tilting 15° above the latitude favours winter. [C] common practice."""


def _winter_tilt_deg(latitude_deg: float) -> float:
    tilt = abs(latitude_deg) + STEEPER_THAN_LATITUDE_DEG
    return float(round(min(max(tilt, LEAST_TILT_DEG), MOST_TILT_DEG)))


def frost_proof(chemistry: Chemistry, housing: Housing, climate: Climate) -> Chemistry:
    """The kind's usual chemistry, or AGM where lithium would stand outdoors too cold to be
    charged."""
    kind = kind_of(chemistry)
    sheltered = housing in {"indoors", "heated"}
    too_cold = not kind.is_lead and not sheltered and climate.coldest_c < kind.charge_low_c
    return "agm" if too_cold else chemistry


def starting_design(kind: Kind, purpose: Purpose, place: Place | None) -> Design:
    """A design of one battery and one panel, every figure marked as our guess.

    Parameters
    ----------
    place : Place or None
        Where it is; without it the panel faces as at the equator.
    """
    entry = toml_table("site_kinds")[kind]
    brief = Brief(
        kind=kind, purpose=purpose, preparing_for=entry["preparing_for"], attended=entry["attended"]
    )
    climate = climate_of(Design(brief=brief, place=place))
    chemistry = entry["chemistry"]
    if place:
        chemistry = frost_proof(chemistry, entry["housing"], climate)
    latitude_deg = place.latitude_deg if place else 0.0
    string = PanelString(
        id="string-1",
        name="Main panels",
        module=Module(watts=KnownWatts(value=float(entry["module_w"]))),
        tilt_deg=0.0 if kind == "vehicle" else _winter_tilt_deg(latitude_deg),
        azimuth_deg=equator_azimuth_deg(latitude_deg),
        controller=entry["controller"],
    )
    loads = [load_of(load, number) for number, load in enumerate(entry["loads"], start=1)]
    bank = Bank(
        chemistry=chemistry,
        unit_v=kind_of(chemistry).unit_v,
        unit_ah=KnownAmpHours(value=float(entry["unit_ah"])),
        housing=entry["housing"],
    )
    return Design(
        name="A",
        brief=brief,
        place=place,
        draw=Draw(loads=loads),
        store=Store(bank=bank),
        array=Array(
            strings=[string], alternator=Alternator() if purpose_of(purpose).with_engine else None
        ),
    )
