"""Quay Street: a home shack floated on the mains, and the question of three days without them in
July."""

from .words import EVENING, NEW_ZEALAND, Json, known, load, run

QUAY_LOADS = [
    load(
        "hf-set",
        "HF radio, 100 W",
        1.6,
        8,
        "vital",
        kind="hf_set",
        rated_w=known(100),
        mode="ssb",
        transmit_a=known(22.0),
        transmit_share=known(0.06, "stated"),
        interlock="operator",
    ),
    load(
        "vhf-uhf-set",
        "VHF/UHF radio, 50 W",
        0.7,
        16,
        "vital",
        kind="vhf_mobile",
        rated_w=known(50),
        mode="fm",
        transmit_a=known(11.0),
        transmit_share=known(0.03, "stated"),
        interlock="operator",
    ),
    load(
        "computer",
        "Small computer",
        1.1,
        8,
        "useful",
        kind="computer",
        standby_a=known(0.1, "measured"),
    ),
    load("router", "Router", 0.9, 24, "useful", kind="network", needs=["internet"]),
    load(
        "monitors",
        "Monitors",
        0.08,
        5,
        "comfort",
        kind="monitor",
        quantity=2,
        rail="inverter",
        pattern=EVENING,
    ),
    load("lights", "Lights", 0.8, 5, "useful", kind="light", pattern=EVENING),
]

QUAY_STREET: Json = {
    "format": "yonderstat-design",
    "version": 3,
    "name": "A · as built",
    "brief": {
        "currency": "NZD",
        "usd_rate": {"value": 1.7, "basis": "stated"},
        "kind": "home",
        "purpose": "standby",
        "preparing_for": "storm",
        "attended": "present",
        "asked_days": known(3, "stated"),
        "coldest_c": known(-6, "stated"),
        "note": "Three days without mains in July?",
    },
    "place": {
        "latitude_deg": -44.09,
        "longitude_deg": 171.24,
        "elevation_m": known(120, "stated"),
        "time_zone": NEW_ZEALAND,
    },
    "draw": {
        "loads": QUAY_LOADS,
        "rails": [
            {
                "id": "inverter",
                "name": "Inverter 230 V",
                "kind": "inverter",
                "volts": known(230),
                "efficiency": known(0.9),
                "idle_w": known(8, "measured"),
                "on_hours": known(5, "stated"),
                "rated_w": known(300),
            }
        ],
    },
    "store": {
        "bank": {
            "chemistry": "lifepo4",
            "unit_v": 12.8,
            "unit_ah": known(100),
            "housing": "indoors",
            "unit_kg": known(11.5),
        }
    },
    "array": {
        "strings": [
            {
                "id": "shed-roof",
                "name": "Shed roof",
                "module": {
                    "watts": known(200),
                    "cells": 36,
                    "v_mp": known(20.4),
                    "v_oc": known(24.3),
                },
                "tilt_deg": 25.0,
                "azimuth_deg": 20.0,
                "fitted": "roof",
                "controller": "mppt",
                "regulator": {"max_v": known(100), "max_charge_a": known(20), "set_for": "lifepo4"},
            }
        ],
        "chargers": [
            {
                "id": "changeover",
                "name": "Changeover unit, 20 A",
                "kind": "changeover",
                "amps": known(20),
                "volts": known(14.5),
                "hours_per_day": known(24, "stated"),
                "blocks_back": "yes",
            },
            {
                "id": "bench",
                "name": "Bench supply at 13.5 V",
                "kind": "bench_supply",
                "amps": known(25),
                "volts": known(13.5, "measured"),
            },
        ],
    },
    "bus": {
        "runs": [
            run(
                "main",
                1.2,
                16.0,
                "maxi",
                60,
                parts=[{"kind": "switch"}, {"kind": "shunt"}, {"kind": "changeover"}],
            ),
            run("load-hf-set", 4.0, 6.0, "blade", 25, connector="flat_30"),
            run("load-vhf-uhf-set", 3.0, 4.0, "blade", 15, connector="flat_15"),
        ],
        "panel_switch": "yes",
        "earthed": "yes",
        "all_through_shunt": "yes",
        "meter_at": "the desk",
    },
}
