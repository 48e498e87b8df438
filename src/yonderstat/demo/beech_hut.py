"""Beech Hut: a digipeater in a box under trees, too small on purpose."""

from .words import NEW_ZEALAND, Json, known, load

# Evergreen beech to the east and north: worst while the sun is low.
MORNING_SHADE = [0.35, 0.35, 0.4, 0.5, 0.6, 0.6, 0.6, 0.5, 0.4, 0.35, 0.35, 0.35]
AFTERNOON_SHADE = [0.15, 0.15, 0.2, 0.3, 0.4, 0.45, 0.4, 0.3, 0.2, 0.15, 0.15, 0.15]

BEECH_HUT: Json = {
    "format": "yonderstat-design",
    "version": 3,
    "name": "A · as built",
    "brief": {
        "currency": "NZD",
        "usd_rate": {"value": 1.7, "basis": "stated"},
        "kind": "unattended",
        "purpose": "continuous",
        "preparing_for": "always",
        "attended": "visits",
        "coldest_c": known(-9, "stated"),
        "note": "Nobody has climbed up since autumn.",
    },
    "place": {
        "latitude_deg": -42.93,
        "longitude_deg": 171.56,
        "elevation_m": known(820, "stated"),
        "time_zone": NEW_ZEALAND,
    },
    "sun": {"shade_morning": MORNING_SHADE, "shade_afternoon": AFTERNOON_SHADE},
    "draw": {
        "loads": [
            load(
                "digipeater",
                "Digipeater, 5 W",
                0.12,
                24,
                "vital",
                kind="repeater",
                rated_w=known(5),
                mode="data",
                transmit_a=known(1.6, "measured"),
                transmit_share=known(0.05, "measured"),
            )
        ]
    },
    "store": {
        "bank": {
            "chemistry": "agm",
            "unit_v": 12.0,
            "unit_ah": known(12),
            "health": known(0.8, "stated"),
            "housing": "outdoors",
        }
    },
    "array": {
        "strings": [
            {
                "id": "hut-wall",
                "name": "Hut wall",
                "module": {"watts": known(20), "cells": 36},
                "fitted": "wall",
                "tilt_deg": 70.0,
                "azimuth_deg": 10.0,
                "controller": "pwm",
            }
        ]
    },
    "bus": {
        "runs": [
            {
                "id": "main",
                "length_m": known(0.4, "measured"),
                "fuse": {"kind": "none"},
                "parts": [],
            }
        ],
        "box": {"ingress": "ip65", "in_sun": False},
        "earthed": "no",
    },
}
