"""Patrol 2: a vehicle with a flat panel on the roof and a fridge that competes with the radio."""

from .words import NEW_ZEALAND, Json, known, load

LOADS = [
    load(
        "vhf-set",
        "VHF radio, 25 W",
        0.5,
        12,
        "vital",
        kind="vhf_mobile",
        rated_w=known(25),
        mode="fm",
        transmit_a=known(6.5),
        transmit_share=known(0.03, "stated"),
    ),
    load(
        "hf-set",
        "HF radio, 50 W",
        0.9,
        4,
        "useful",
        kind="hf_set",
        rated_w=known(50),
        mode="ssb",
        transmit_a=known(12.0),
        transmit_share=known(0.04, "stated"),
    ),
    load("fridge", "Fridge", 4.0, 7, "comfort", kind="fridge"),
]

PATROL_2: Json = {
    "format": "yonderstat-design",
    "version": 3,
    "name": "A · as built",
    "brief": {
        "currency": "NZD",
        "usd_rate": {"value": 1.7, "basis": "stated"},
        "kind": "vehicle",
        "purpose": "mobile",
        "preparing_for": "night",
        "attended": "present",
        "asked_days": known(2, "stated"),
        "coldest_c": known(-10, "stated"),
        "note": "Parked two days at a time on the high roads.",
    },
    "place": {
        "latitude_deg": -43.88,
        "longitude_deg": 170.53,
        "elevation_m": known(720, "stated"),
        "time_zone": NEW_ZEALAND,
    },
    "draw": {"loads": LOADS},
    "store": {
        "bank": {
            "chemistry": "lifepo4",
            "unit_v": 12.8,
            "unit_ah": known(60),
            "housing": "outdoors",
            "cold_c": known(-5, "measured"),
        }
    },
    "array": {
        "strings": [
            {
                "id": "roof",
                "name": "Roof panel",
                "module": {"watts": known(120), "cells": 36, "v_mp": known(18.2)},
                "mount": "flat",
                "fitted": "glued",
                "controller": "mppt",
            }
        ],
        "alternator": {"charge_a": known(25), "driving_h_per_day": known(1.0, "stated")},
    },
}
