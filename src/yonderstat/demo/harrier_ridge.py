"""Harrier Ridge: an unattended repeater that goes dark some Junes, and the design that would
not."""

from .words import NEW_ZEALAND, Json, known, load, run

HARRIER_LOADS = [
    load(
        "repeater",
        "VHF repeater, 25 W",
        0.45,
        24,
        "vital",
        kind="repeater",
        rated_w=known(25),
        mode="fm",
        transmit_a=known(7.5, "measured"),
        transmit_share=known(0.06, "measured"),
    ),
    load("telemetry", "Telemetry controller", 0.12, 24, "vital"),
    load("gateway", "Digital gateway", 0.35, 24, "useful", kind="network"),
    load("fan", "Box fan", 0.2, 10, "comfort", kind="fan", months=[1, 2, 11, 12]),
]

HILL_TO_THE_NORTH_WEST = [
    {"azimuth_deg": azimuth, "elevation_deg": elevation}
    for azimuth, elevation in ((280.0, 0.0), (295.0, 30.0), (330.0, 30.0), (345.0, 0.0))
]

HARRIER_AS_BUILT: Json = {
    "format": "yonderstat-design",
    "version": 3,
    "name": "A · as built",
    "brief": {
        "currency": "NZD",
        "usd_rate": {"value": 1.7, "basis": "stated"},
        "kind": "unattended",
        "purpose": "continuous",
        "preparing_for": "always",
        "attended": "nobody",
        "coldest_c": known(-15, "measured"),
        "note": "Snow in winter; a hill of 30° to the north-west. It loses power in some Junes.",
    },
    "place": {
        "latitude_deg": -43.10,
        "longitude_deg": 171.60,
        "elevation_m": known(1480, "stated"),
        "time_zone": NEW_ZEALAND,
    },
    "sun": {"horizon": HILL_TO_THE_NORTH_WEST},
    "draw": {"loads": HARRIER_LOADS},
    "store": {
        "bank": {
            "chemistry": "agm",
            "unit_v": 6.0,
            "unit_ah": known(225),
            "series": 2,
            "parallel": 2,
            "health": known(0.75, "stated"),
            "age_years": known(8, "stated"),
            "unit_kg": known(31),
            "housing": "outdoors",
            "cold_c": known(-4, "measured"),
        }
    },
    "array": {
        "strings": [
            {
                "id": "hut-north-wall",
                "name": "Hut north wall",
                "module": {
                    "watts": known(110),
                    "cells": 36,
                    "v_mp": known(17.6),
                    "v_oc": known(21.8),
                    "i_sc": known(6.7),
                },
                "parallel": 2,
                "tilt_deg": 90.0,
                "azimuth_deg": 0.0,
                "fitted": "wall",
                "controller": "pwm",
                "regulator": {
                    "max_v": known(30),
                    "max_charge_a": known(20),
                    "set_for": "flooded",
                    "sensor": "no",
                    "over_volts_guard": "no",
                },
            }
        ]
    },
    "bus": {
        "runs": [run("load-repeater", 2.0, 2.5, "blade", 15)],
        "box": {
            "ingress": "ip54",
            "vent_cm2": known(60),
            "fan_m3_h": 40,
            "fan_on_c": known(30, "stated"),
        },
        "earthed": "yes",
    },
}

HARRIER_HEATED_LITHIUM = [
    {"op": "replace", "path": "/name", "value": "B · heated lithium"},
    {
        "op": "replace",
        "path": "/store/bank",
        "value": {
            "chemistry": "lifepo4",
            "unit_v": 12.8,
            "unit_ah": known(100),
            "series": 1,
            "parallel": 3,
            "housing": "heated",
            "unit_kg": known(12.5),
        },
    },
    {"op": "replace", "path": "/array/strings/0/controller", "value": "mppt"},
    {
        "op": "replace",
        "path": "/array/strings/0/regulator",
        "value": {
            "max_v": known(75),
            "max_charge_a": known(15),
            "set_for": "lifepo4",
            "sensor": "yes",
        },
    },
    {"op": "replace", "path": "/array/strings/0/tilt_deg", "value": 65.0},
    {"op": "replace", "path": "/array/strings/0/fitted", "value": "rack"},
    {"op": "replace", "path": "/array/strings/0/name", "value": "Frame clear of the wall"},
]

HARRIER_STAYS_UP = [
    {"op": "replace", "path": "/name", "value": "C · stays up"},
    {"op": "replace", "path": "/store/bank/parallel", "value": 6},
    {"op": "replace", "path": "/array/strings/0/parallel", "value": 6},
    {"op": "replace", "path": "/array/strings/0/fused", "value": "yes"},
    {"op": "replace", "path": "/array/strings/0/regulator/max_charge_a", "value": known(60)},
]
"""From B: what the sizing map says it takes, in whole panels and batteries."""
