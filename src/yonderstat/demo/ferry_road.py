"""Ferry Road: a home shack run from the sun because the bill hurts, with the mains behind it. What
good looks like."""

from .words import EVENING, NEW_ZEALAND, Json, known, load

FERRY_LOADS = [
    load(
        "hf-set",
        "HF radio, 100 W",
        1.5,
        3,
        "vital",
        kind="hf_set",
        rated_w=known(100),
        mode="ssb",
        transmit_a=known(20.0),
        transmit_share=known(0.05, "stated"),
        interlock="operator",
        pattern=EVENING,
    ),
    load(
        "vhf-set",
        "VHF radio, 50 W",
        0.5,
        12,
        "vital",
        kind="vhf_mobile",
        rated_w=known(50),
        mode="fm",
        transmit_a=known(10.0),
        transmit_share=known(0.02, "stated"),
        interlock="operator",
        pattern=[1.0 if 9 <= hour < 21 else 0.0 for hour in range(24)],
    ),
    load("computer", "Small computer", 1.0, 5, "useful", kind="computer", pattern=EVENING),
]

FERRY_ROAD: Json = {
    "format": "yonderstat-design",
    "version": 3,
    "name": "A · as built",
    "brief": {
        "currency": "NZD",
        "usd_rate": {"value": 1.7, "basis": "stated"},
        "kind": "home",
        "purpose": "everyday",
        "preparing_for": "night",
        "attended": "present",
        "coldest_c": known(-4, "stated"),
        "price_per_kwh": known(0.34, "stated"),
        "note": "The bill hurts.",
    },
    "place": {
        "latitude_deg": -44.2,
        "longitude_deg": 171.7,
        "elevation_m": known(15, "stated"),
        "time_zone": NEW_ZEALAND,
    },
    "draw": {"loads": FERRY_LOADS},
    "store": {
        "bank": {
            "chemistry": "lifepo4",
            "unit_v": 12.8,
            "unit_ah": known(100),
            "parallel": 2,
            "housing": "indoors",
            "unit_kg": known(11.5),
            "limits": {"cold_cutoff": "yes"},
        }
    },
    "array": {
        "strings": [
            {
                "id": "roof",
                "name": "North roof",
                "module": {
                    "watts": known(200),
                    "cells": 36,
                    "v_mp": known(20.4),
                    "v_oc": known(24.3),
                    "i_sc": known(10.4),
                },
                "series": 2,
                "tilt_deg": 45.0,
                "azimuth_deg": 0.0,
                "fitted": "roof",
                "controller": "mppt",
                "cable_m": known(6),
                "cable_mm2": 6.0,
                "regulator": {
                    "max_v": known(100),
                    "max_charge_a": known(30),
                    "set_for": "lifepo4",
                    "sensor": "yes",
                    "over_volts_guard": "yes",
                },
            }
        ],
        "chargers": [
            {
                "id": "mains-charger",
                "name": "Mains charger, 20 A",
                "kind": "mains",
                "amps": known(20),
                "volts": known(14.2),
                "blocks_back": "yes",
            }
        ],
    },
    "bus": {
        "panel_switch": "yes",
        "earthed": "yes",
        "all_through_shunt": "yes",
        "meter_at": "the desk",
    },
}
