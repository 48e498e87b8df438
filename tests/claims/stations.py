"""Stations somebody might build, drawn from a seed: kinds, purposes, places, chemistries, layers,
supplies and wire.

Unlike the documents drawn from the schema these are plausible: a proposal for a place, changed in
one to six ways as people change them. What a station is proposed from is kept, so that a thousand
of them take minutes.
"""

import json
from collections.abc import Callable
from functools import cache
from random import Random
from typing import Any, get_args

from tools.frozen import design_of, stations

from yonderstat.core import propose
from yonderstat.core.design import (
    Design,
    InvalidDesignError,
    Place,
    design_from_document,
    document_of,
)
from yonderstat.core.design.brief import Kind, Purpose
from yonderstat.demo.beech_hut import BEECH_HUT
from yonderstat.demo.harrier_ridge import HARRIER_AS_BUILT
from yonderstat.demo.packhorse import PACKHORSE
from yonderstat.demo.patrol import PATROL_2
from yonderstat.demo.quay_street import QUAY_STREET

Json = dict[str, Any]
PLACES = ((65.0, 25.5), (57.1, -4.7), (51.5, -1.0), (47.0, 9.5), (40.1, -105.2), (35.2, -97.4), (28.6, 77.2),
          (13.7, 100.5), (1.3, 103.8), (-1.3, 36.8), (-23.5, -46.6), (-33.9, 18.5), (-43.1, 171.6), (-51.7, -59.0),
          (69.6, 18.9))  # fmt: skip
KINDS, PURPOSES = get_args(Kind), get_args(Purpose)
APPROVED_EVERY = 8
"""One station in so many starts from one that was read and approved, or from the demo."""


@cache
def _proposed(kind: str, purpose: str, spot: tuple[float, float]) -> str:
    place = Place(latitude_deg=spot[0], longitude_deg=spot[1])
    return json.dumps(document_of(propose(kind, purpose, place)))  # type: ignore[arg-type]


@cache
def known() -> tuple[str, ...]:
    """The approved stations and those of the demo, as documents."""
    demo = (HARRIER_AS_BUILT, QUAY_STREET, PACKHORSE, BEECH_HUT, PATROL_2)
    designs = [design_from_document(document) for document in demo]
    designs += [design_of(path) for path in stations().values()]
    return tuple(json.dumps(document_of(design)) for design in designs)


def _bank(document: Json) -> Json | None:
    found: Json | None = document["store"].get("bank")
    return found


def _strings(document: Json) -> list[Json]:
    found: list[Json] = document["array"]["strings"]
    return found


def _loads(document: Json) -> list[Json]:
    found: list[Json] = document["draw"]["loads"]
    return found


def _sized(value: float, chance: Random, low: float, high: float) -> float:
    return round(value * chance.uniform(low, high), 1)


def bank_size(document: Json, chance: Random) -> None:
    """Another bank: smaller or larger."""
    if bank := _bank(document):
        bank["parallel"] = max(
            1, min(12, round(bank["parallel"] * chance.choice((0.3, 0.5, 0.8, 1.5, 2.5))))
        )


def chemistry(document: Json, chance: Random) -> None:
    """Another kind of battery, its volts with it."""
    if bank := _bank(document):
        bank["chemistry"] = chance.choice(("flooded", "agm", "gel", "lifepo4", "nmc", "starting"))
        bank["unit_v"] = {"lifepo4": 12.8, "nmc": 11.1}.get(bank["chemistry"], 12.0)
        bank |= {"depth": None, "school": None}


def series(document: Json, chance: Random) -> None:
    """24 volts."""
    if (bank := _bank(document)) and bank["series"] == 1:
        bank["series"] = 2


def worn(document: Json, chance: Random) -> None:
    """An old bank."""
    if bank := _bank(document):
        bank["health"] = {"value": chance.choice((0.5, 0.7, 0.85)), "basis": "stated"}
        bank["age_years"] = {"value": chance.choice((2.0, 6.0)), "basis": "stated"}


def cut_off(document: Json, chance: Random) -> None:
    """A disconnect that somebody has set."""
    if bank := _bank(document):
        blocks = bank["series"] * max(1, round(bank["unit_v"] / 12.0))
        bank["disconnect_v"] = {
            "value": blocks * chance.choice((10.5, 11.1, 11.6, 12.0)),
            "basis": "stated",
        }
        bank["restart"] = chance.choice(("by_itself", "by_hand"))
        bank["reconnect_v"] = None


def depth(document: Json, chance: Random) -> None:
    """A depth of one's own."""
    if bank := _bank(document):
        bank["depth"] = {"value": chance.choice((0.2, 0.5, 0.8, 1.0)), "basis": "stated"}


def housing(document: Json, chance: Random) -> None:
    """Lives somewhere else."""
    if bank := _bank(document):
        bank["housing"] = chance.choice(
            ("indoors", "heated", "vented_box", "insulated_box", "outdoors")
        )
        bank["cold_c"] = None


def panels(document: Json, chance: Random) -> None:
    """More or fewer panels."""
    for string in _strings(document):
        string["parallel"] = max(
            1, min(24, round(string["parallel"] * chance.choice((0.3, 0.6, 1.5, 2.5))))
        )


def no_panels(document: Json, chance: Random) -> None:
    """Only what else there is."""
    document["array"]["strings"] = []
    document["store"]["paths"] = []


def panel_kind(document: Json, chance: Random) -> None:
    """Panels of another size, in another string."""
    for string in _strings(document):
        cells, watts = chance.choice(
            ((36, 50.0), (36, 100.0), (36, 180.0), (60, 250.0), (60, 330.0), (72, 400.0))
        )
        string["module"] = {"watts": {"value": watts, "basis": "label"}, "cells": cells}
        string["series"] = chance.choice((1, 1, 2))


def controller(document: Json, chance: Random) -> None:
    """The other controller, or none."""
    for string in _strings(document):
        string["controller"] = chance.choice(("pwm", "mppt", "mppt", "none"))


def aim(document: Json, chance: Random) -> None:
    """Looks another way."""
    for string in _strings(document):
        string["tilt_deg"] = chance.choice((0.0, 15.0, 35.0, 60.0, 90.0))
        if chance.random() < 0.4:
            string["azimuth_deg"] = chance.choice((0.0, 90.0, 135.0, 180.0, 270.0))


def panel_lead(document: Json, chance: Random) -> None:
    """A lead from the panels, as long and as thick as it is."""
    for string in _strings(document):
        string["cable_m"] = {"value": chance.choice((1.0, 5.0, 15.0, 40.0)), "basis": "measured"}
        string["cable_mm2"] = chance.choice((None, 1.5, 2.5, 4.0, 6.0, 10.0))


def charger(document: Json, chance: Random) -> None:
    """Mains, a generator, or both gone."""
    kind = chance.choice(("none", "mains", "generator", "bench_supply", "changeover"))
    rows = document["array"]["chargers"] = []
    if kind != "none":
        rows.append({
            "id": "extra", "name": "Charger" if kind != "generator" else "Generator", "kind": kind,
            "amps": {"value": chance.choice((2.0, 10.0, 25.0)), "basis": "label"},
            "hours_per_day": {"value": chance.choice((2.0, 8.0, 24.0)), "basis": "stated"},
            "at_home": chance.random() < 0.2,
        })  # fmt: skip
    document["store"]["paths"] = []


def engine(document: Json, chance: Random) -> None:
    """Charging from the engine, or no more."""
    if document["array"].get("alternator"):
        document["array"]["alternator"] = None
    else:
        document["array"]["alternator"] = {
            "charge_a": {"value": chance.choice((10.0, 30.0)), "basis": "label"}
        }


def another_load(document: Json, chance: Random) -> None:
    """Something more that draws."""
    rows: list[Json] = [
        {"id": "second-set", "name": "Second set", "kind": "hf_set", "receive_a": {"value": 1.5, "basis": "label"},
         "transmit_a": {"value": 20.0, "basis": "label"}, "transmit_share": {"value": 0.2, "basis": "stated"},
         "rated_w": {"value": 100.0, "basis": "label"}, "mode": "ssb", "hours_per_day": {"value": 6.0}},
        {"id": "screen", "name": "Screen", "kind": "monitor", "receive_a": {"value": 2.0}, "tier": "comfort",
         "hours_per_day": {"value": 10.0}, "needs": ["mains"]},
        {"id": "router", "name": "Router", "kind": "network", "receive_a": {"value": 0.8}, "tier": "useful",
         "needs": ["internet"]},
        {"id": "light", "name": "Light", "kind": "light", "receive_a": {"value": 1.0}, "tier": "useful",
         "hours_per_day": {"value": 5.0}},
    ]  # fmt: skip
    row = chance.choice(rows)
    if all(load["id"] != row["id"] for load in _loads(document)):
        _loads(document).append(row)


def load_hours(document: Json, chance: Random) -> None:
    """Worked harder or less."""
    for load in _loads(document):
        if chance.random() < 0.6 and not load.get("pattern") and not load.get("events"):
            hours = _sized(load.get("hours_per_day", {}).get("value", 24.0), chance, 0.3, 1.6)
            load["hours_per_day"] = {"value": min(24.0, hours), "basis": "stated"}


def window(document: Json, chance: Random) -> None:
    """Sets whose volts somebody has looked up."""
    for load in _loads(document):
        if load.get("transmit_a"):
            load["window"] = chance.choice(("10", "15", "none"))
            load["mode"] = chance.choice(("ssb", "cw", "fm", "data", None))


def turned_down(document: Json, chance: Random) -> None:
    """Sets at less than their full power."""
    for load in _loads(document):
        if load.get("rated_w"):
            load["power_w"] = {
                "value": round(load["rated_w"]["value"] * chance.choice((0.25, 0.5))),
                "basis": "stated",
            }


def run_typed(document: Json, chance: Random) -> None:
    """Wire and fuse as built."""
    load = chance.choice(_loads(document)) if _loads(document) else None
    run = "main" if load is None or chance.random() < 0.5 else f"load-{load['id']}"
    row: Json = {
        "id": run,
        "length_m": {"value": chance.choice((0.5, 2.0, 6.0, 12.0)), "basis": "measured"},
    }
    if chance.random() < 0.6:
        row["mm2"] = {"value": chance.choice((1.5, 2.5, 6.0, 16.0, 35.0)), "basis": "label"}
    if chance.random() < 0.5:
        fuse = {"kind": chance.choice(("blade", "maxi", "bolt_down", "class_t")),
                "rating_a": {"value": chance.choice((10.0, 30.0, 60.0, 150.0)), "basis": "label"}}  # fmt: skip
        row["fuse"] = fuse
    rows = document["bus"]["runs"]
    if all(other["id"] != run for other in rows):
        rows.append(row)


def layer(document: Json, chance: Random) -> None:
    """A second bank."""
    if document["store"].get("bank") and not document["store"]["layers"]:
        kind = chance.choice(("agm", "lifepo4"))
        document["store"]["layers"] = [{
            "id": "second", "name": "Second battery", "joining": chance.choice(
                ("switch", "automatic", "changeover", "converter", "lead", "swap", "apart")),
            "bank": {"chemistry": kind, "unit_v": 12.8 if kind == "lifepo4" else 12.0},
        }]  # fmt: skip


def pack(document: Json, chance: Random) -> None:
    """A power pack."""
    if not document["store"]["packs"]:
        document["store"]["packs"] = [
            {"id": "pack", "name": "Power pack", "energy_wh": {"value": 500.0}}
        ]


def season(document: Json, chance: Random) -> None:
    """Used in some months alone."""
    document["brief"]["months"] = chance.choice(([5, 6, 7, 8], [11, 12, 1, 2], [6]))
    document["brief"]["months"].sort()


def attended(document: Json, chance: Random) -> None:
    """Who is there."""
    document["brief"]["attended"] = chance.choice(("nobody", "visits", "present"))


def inverter(document: Json, chance: Random) -> None:
    """Something behind an inverter."""
    if not document["draw"]["rails"] and _loads(document):
        document["draw"]["rails"] = [{
            "id": "inverter", "name": "Inverter", "kind": "inverter", "volts": {"value": 230.0},
            "efficiency": {"value": 0.88}, "idle_w": {"value": 8.0}, "rated_w": {"value": 600.0},
        }]  # fmt: skip
        _loads(document).append({
            "id": "laptop", "name": "Laptop", "kind": "computer", "rail": "inverter", "receive_a": {"value": 0.3},
            "hours_per_day": {"value": 5.0}, "tier": "useful",
        })  # fmt: skip


WAYS: tuple[Callable[[Json, Random], None], ...] = (
    bank_size, chemistry, series, worn, cut_off, depth, housing, panels, no_panels, panel_kind, controller, aim,
    panel_lead, charger, engine, another_load, load_hours, window, turned_down, run_typed, layer, pack, season,
    attended, inverter,
)  # fmt: skip


def drawn_station(seed: int) -> tuple[Design, str]:
    """A station and what was done to it, in words."""
    chance = Random(seed)
    while True:
        if chance.randrange(APPROVED_EVERY) == 0:
            number = chance.randrange(len(known()))
            document, told = json.loads(known()[number]), f"known {number}"
        else:
            kind, purpose, spot = (
                chance.choice(KINDS),
                chance.choice(PURPOSES),
                chance.choice(PLACES),
            )
            document, told = json.loads(_proposed(kind, purpose, spot)), f"{kind} {purpose} {spot}"
        ways = chance.sample(WAYS, chance.choice((0, 1, 2, 3, 4, 6)))
        for way in ways:
            way(document, chance)
        try:
            return design_from_document(document), (
                f"{told}: {', '.join(way.__name__ for way in ways)}"
            )
        except InvalidDesignError:
            continue
