"""The Packhorse: the club's emergency trailer, with one battery under the floor and room for a
second."""

from .words import NEW_ZEALAND, Json, known, load, part, run

VHF = {
    "kind": "vhf_mobile",
    "rated_w": known(50),
    "mode": "fm",
    "transmit_a": known(10.5),
    "interlock": "vhf-aerial",
}

LOADS = [
    load(
        "hf-set",
        "HF radio, 100 W",
        1.4,
        10,
        "vital",
        kind="hf_set",
        rated_w=known(100),
        mode="ssb",
        transmit_a=known(21.0),
        transmit_share=known(0.05, "stated"),
    ),
    load(
        "vhf-search",
        "VHF radio, search channel",
        0.5,
        16,
        "vital",
        transmit_share=known(0.05, "stated"),
        **VHF,
    ),
    load(
        "vhf-base",
        "VHF radio, base channel",
        0.5,
        16,
        "useful",
        transmit_share=known(0.02, "stated"),
        **VHF,
    ),
    load("laptop", "Laptop", 2.6, 6, "useful", kind="computer", deferrable=True),
    load("printer", "Printer", 0.13, 1, "comfort", kind="computer", rail="inverter"),
    load("floods", "LED flood lights", 3.0, 4, "useful", kind="light", quantity=2),
]


def _cargo(key: str, name: str, kg: float, ahead_m: float) -> Json:
    return {"id": key, "name": name, "kg": known(kg, "measured"), "ahead_m": ahead_m}


def placed(key: str, have: float, kg: float, ahead_m: float) -> Json:
    """A part with its weight and where it stands.

    Parameters
    ----------
    key : str
        The line of the parts list.
    have : float
        Whether it is there already.
    kg : float
        Its weight. [kg]
    ahead_m : float
        Ahead of the axle. [m]
    """
    return {"id": key, "have": have, "weight_kg": known(kg, "measured"), "ahead_m": ahead_m}


HAUL: Json = {
    "hitch_m": known(2.4, "measured"),
    "empty_kg": known(280.0),
    "empty_nose_kg": known(18.0, "measured"),
    "nose_limit_kg": known(60.0),
    "gross_limit_kg": known(750.0),
    "cargo": [
        _cargo("sets", "Radios and laptop", 16.0, 0.8),
        _cargo("printer", "Printer and paper", 9.0, 0.5),
        _cargo("lights", "Masts and flood lights", 38.0, -0.4),
        _cargo("water", "Water and food", 25.0, 1.0),
    ],
}

PACKHORSE: Json = {
    "format": "yonderstat-design",
    "version": 3,
    "name": "A · as built",
    "brief": {
        "currency": "NZD",
        "usd_rate": {"value": 1.7, "basis": "stated"},
        "kind": "trailer",
        "purpose": "deployment",
        "preparing_for": "storm",
        "attended": "present",
        "asked_days": known(2, "stated"),
        "coldest_c": known(-8, "stated"),
        "payload_kg": known(60, "stated"),
        "note": "Fetched out for search-and-rescue weekends.",
    },
    "place": {
        "latitude_deg": -43.63,
        "longitude_deg": 171.64,
        "elevation_m": None,
        "time_zone": NEW_ZEALAND,
    },
    "draw": {
        "loads": LOADS,
        "rails": [
            {
                "id": "inverter",
                "name": "Inverter 230 V",
                "kind": "inverter",
                "volts": known(230),
                "efficiency": known(0.88),
                "idle_w": known(9, "measured"),
                "on_hours": known(1, "stated"),
                "rated_w": known(600),
            }
        ],
    },
    "store": {
        "bank": {
            "chemistry": "agm",
            "unit_v": 12.0,
            "unit_ah": known(105),
            "health": known(0.9, "stated"),
            "housing": "vented_box",
            "unit_kg": known(31),
        }
    },
    "array": {
        "strings": [
            {
                "id": "folding-stand",
                "name": "Folding stand",
                "module": {"watts": known(85), "cells": 36, "v_mp": known(17.4)},
                "parallel": 2,
                "mount": "reaimed",
                "aims_per_day": 3,
                "fitted": "ground",
                "tilt_deg": 45.0,
                "azimuth_deg": 0.0,
                "controller": "pwm",
                "cable_m": known(8),
                "cable_mm2": 4.0,
                "regulator": {"max_v": known(30), "max_charge_a": known(20), "set_for": "agm"},
            }
        ],
        "chargers": [
            {
                "id": "lead-charger",
                "name": "Mains charger, 10 A",
                "kind": "mains",
                "amps": known(10),
                "volts": known(14.4),
            }
        ],
    },
    "bus": {
        "runs": [
            run("main", 1.2, 16.0, "post", 60),
            run("load-hf-set", 5.0, 4.0, "blade", 25, connector="two_pin"),
        ],
        "panel_switch": "no",
    },
    "build": {
        "stage": "now",
        "haul": HAUL,
        "parts": [
            placed("panel-folding-stand", 2, 8.5, 0.2),
            placed("battery-main", 1, 31.0, 0.6),
            placed("controller-folding-stand", 1, 0.4, 0.6),
            placed("charger-lead-charger", 1, 3.2, 0.6),
        ],
    },
}

PACKHORSE_LITHIUM = [
    {"op": "replace", "path": "/name", "value": "B · two stands, lithium"},
    {"op": "replace", "path": "/bus", "value": {"panel_switch": "yes", "all_through_shunt": "yes"}},
    {
        "op": "replace",
        "path": "/build",
        "value": {
            "stage": "next",
            "haul": HAUL,
            "call": "QY3KOW on the club's channel; the keys hang in the clubroom",
            "parts": [
                part("panel-folding-stand", 4, None, "folding stands")
                | {"weight_kg": known(8.5, "measured"), "ahead_m": 0.2},
                part("battery-main", 1, 690, "battery bay")
                | {"ahead_m": 0.6, "shelf": "lithium-100"},
                part("controller-folding-stand", 0, 240, "wall by the bay")
                | {"weight_kg": known(0.9), "ahead_m": 0.6},
                part("panel-cable-folding-stand", 0, 6.5, "reel"),
                part("charger-lead-charger", 1, None, "left at base"),
                part("cable-4.00", 30, None, "reel in the club stores"),
                part("rail-inverter", 1, None, "under the desk"),
                part("part-shunt", 0, 95, "battery bay"),
                part("part-switch", 0, 45, "battery bay"),
            ],
        },
    },
    {
        "op": "replace",
        "path": "/store/bank",
        "value": {
            "chemistry": "lifepo4",
            "unit_v": 12.8,
            "unit_ah": known(100),
            "parallel": 2,
            "housing": "heated",
            "unit_kg": known(12.5),
            "limits": {"cold_cutoff": "yes"},
        },
    },
    {"op": "replace", "path": "/array/strings/0/name", "value": "Two folding stands"},
    {"op": "replace", "path": "/array/strings/0/parallel", "value": 4},
    {"op": "replace", "path": "/array/strings/0/fused", "value": "yes"},
    {"op": "replace", "path": "/array/strings/0/cable_mm2", "value": 10.0},
    {"op": "replace", "path": "/array/strings/0/controller", "value": "mppt"},
    {
        "op": "replace",
        "path": "/array/strings/0/regulator",
        "value": {
            "max_v": known(75),
            "max_charge_a": known(30),
            "set_for": "lifepo4",
            "sensor": "yes",
        },
    },
    {"op": "replace", "path": "/array/chargers/0/volts", "value": known(14.2)},
]
"""Two folding stands and two lithium batteries in a warm box, one of them from the club's shelf:
with one alone June's weekends are not carried."""
