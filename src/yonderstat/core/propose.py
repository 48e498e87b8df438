"""A first design for a new site: usual loads for its kind, and a bank and array sized to run them."""

import math
from typing import Any

from .climate import Climate, climate_of, equator_azimuth_deg
from .data import rows, rows_by, toml_table
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
    KnownAmps,
    KnownHours,
    KnownIdleWatts,
    KnownShare,
    KnownUsableShare,
    KnownVolts,
    KnownWatts,
    Load,
    Module,
    PanelString,
    Place,
    Purpose,
    Rail,
    Store,
)
from .evaluate import explained
from .purposes import purpose_of
from .station import StationModel
from .store import COLD_DAY_SIGMAS, kind_of, most_charge_a

MAX_UNITS, MAX_PANELS = 12, 24
LEAST_TILT_DEG, MOST_TILT_DEG = 10.0, 75.0
STEEPER_THAN_LATITUDE_DEG = 15.0
"""Tilting 15° above the latitude favours winter. [C] common practice."""


def _slug(name: str, number: int) -> str:
    letters = "".join(char if char.isascii() and char.isalnum() else "-" for char in name.lower())
    return f"{'-'.join(part for part in letters.split('-') if part)[:40]}-{number}"


def usual_load(kind: str) -> Load:
    """A load of a kind with the figures usual for it, all marked as guesses."""
    return _load({"kind": kind, "name": rows_by("load_kinds", "kind")[kind]["label"]}, 1)


def usual_rails() -> list[Rail]:
    """The rails to choose from, with usual figures, all marked as guesses."""
    return [
        Rail(
            id=row["rail"],
            name=row["label"],
            kind=row["kind"],  # type: ignore[arg-type]
            volts=KnownVolts(value=float(row["volts"])),
            efficiency=KnownUsableShare(value=float(row["efficiency"])),
            idle_w=KnownIdleWatts(value=float(row["idle_w"])),
            limit_a=KnownAmps(value=float(row["limit_a"])) if row["limit_a"] else None,
            rated_w=KnownWatts(value=float(row["rated_w"])) if row["rated_w"] else None,
        )
        for row in rows("rail_kinds")
    ]


def _load(entry: dict[str, Any], number: int) -> Load:
    """A load of a kind, with what the entry says otherwise."""
    usual = rows_by("load_kinds", "kind")[entry["kind"]]
    transmits = bool(usual["transmit_a"])
    return Load(
        id=_slug(entry["name"], number),
        name=entry["name"],
        kind=entry["kind"],
        receive_a=KnownAmps(value=float(entry.get("receive_a", usual["receive_a"]))),
        transmit_a=KnownAmps(value=float(entry.get("transmit_a", usual["transmit_a"]))) if transmits else None,
        transmit_share=KnownShare(value=float(entry.get("transmit_share", usual["transmit_share"]))),
        rated_w=KnownWatts(value=float(entry.get("rated_w", usual["rated_w"]))) if transmits else None,
        mode=entry.get("mode", usual["mode"]) or None,
        behaviour=usual["behaviour"],  # type: ignore[arg-type]
        hours_per_day=KnownHours(value=float(entry.get("hours_per_day", usual["hours_per_day"]))),
        tier=entry.get("tier", usual["tier"]),
        interlock=entry.get("interlock", ""),
    )


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
    return _charged_gently(design.model_copy(update=update))


def _charged_gently(design: Design) -> Design:
    """The design with as many units as take what its sources give at their best."""
    bank = design.store.bank
    if bank is None:
        return design
    figures = explained(StationModel(design))
    amps = [figures.number(f"array.string.{string.id}.best_a") or 0.0 for string in design.array.strings]
    engine_a = design.array.alternator.into_bank_a if design.array.alternator else 0.0
    one_takes_a = most_charge_a(bank) / bank.parallel
    parallel = min(max(bank.parallel, math.ceil((sum(amps) + engine_a) / one_takes_a - 1e-9)), MAX_UNITS)
    return design.model_copy(update={"store": Store(bank=bank.model_copy(update={"parallel": parallel}))})


def _frost_proof(chemistry: Chemistry, housing: Housing, climate: Climate) -> Chemistry:
    """The kind's usual chemistry, or AGM where lithium would stand outdoors too cold to be charged."""
    kind = kind_of(chemistry)
    coldest_day_c = float((climate.mean_c - COLD_DAY_SIGMAS * climate.spread_k).min())
    sheltered = housing in {"indoors", "heated"}
    return "agm" if not kind.is_lead and not sheltered and coldest_day_c < kind.charge_low_c else chemistry


def propose(kind: Kind, purpose: Purpose, place: Place | None) -> Design:
    """A design that already runs, every figure marked as our guess.

    Parameters
    ----------
    place : Place or None
        Where it is; without it the array keeps one panel, as no sun can be worked out.
    """
    entry = toml_table("site_kinds")[kind]
    brief = Brief(kind=kind, purpose=purpose, preparing_for=entry["preparing_for"], attended=entry["attended"])
    climate = climate_of(Design(brief=brief, place=place))
    chemistry = _frost_proof(entry["chemistry"], entry["housing"], climate) if place else entry["chemistry"]
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
        draw=Draw(loads=[_load(load, number) for number, load in enumerate(entry["loads"], start=1)]),
        store=Store(
            bank=Bank(
                chemistry=chemistry,
                unit_v=kind_of(chemistry).unit_v,
                unit_ah=KnownAmpHours(value=float(entry["unit_ah"])),
                housing=entry["housing"],
            )
        ),
        array=Array(strings=[string], alternator=Alternator() if purpose_of(purpose).with_engine else None),
    )
    return _sized(design)
