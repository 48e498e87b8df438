"""Tarn Valley Radio Society, which does not exist, and its stations."""

from typing import Any

from flask import Flask
from flask.testing import FlaskClient

Json = dict[str, Any]


def _known(value: float, basis: str = "label") -> Json:
    return {"value": value, "basis": basis}


def _load(key: str, name: str, receive_a: float, hours: float, tier: str, **more: Any) -> Json:
    load = {
        "id": key,
        "name": name,
        "receive_a": _known(receive_a, "measured"),
        "hours_per_day": _known(hours, "stated"),
    }
    return {**load, "tier": tier, **more}


EVENING = [1.0 if 18 <= hour < 23 else 0.0 for hour in range(24)]

HARRIER_LOADS = [
    _load(
        "repeater",
        "VHF repeater, 25 W",
        0.45,
        24,
        "vital",
        kind="repeater",
        rated_w=_known(25),
        mode="fm",
        transmit_a=_known(7.5, "measured"),
        transmit_share=_known(0.06, "measured"),
    ),
    _load("telemetry", "Telemetry controller", 0.12, 24, "vital"),
    _load("gateway", "Digital gateway", 0.35, 24, "useful", kind="network"),
    _load("fan", "Box fan", 0.2, 10, "comfort", kind="fan", months=[1, 2, 11, 12]),
]

HILL_TO_THE_NORTH_WEST = [
    {"azimuth_deg": azimuth, "elevation_deg": elevation}
    for azimuth, elevation in ((280.0, 0.0), (295.0, 30.0), (330.0, 30.0), (345.0, 0.0))
]

HARRIER_AS_BUILT: Json = {
    "format": "yonderstat-design",
    "version": 1,
    "name": "A · as built",
    "brief": {
        "kind": "unattended",
        "purpose": "continuous",
        "preparing_for": "always",
        "attended": "nobody",
        "coldest_c": _known(-15, "measured"),
        "note": "Snow in winter; a hill of 30° to the north-west. It goes dark some Junes.",
    },
    "place": {"latitude_deg": -43.10, "longitude_deg": 171.60, "elevation_m": _known(1480, "stated")},
    "sun": {"horizon": HILL_TO_THE_NORTH_WEST},
    "draw": {"loads": HARRIER_LOADS},
    "store": {
        "bank": {
            "chemistry": "agm",
            "unit_v": 6.0,
            "unit_ah": _known(225),
            "series": 2,
            "parallel": 2,
            "health": _known(0.75, "stated"),
            "housing": "outdoors",
            "cold_c": _known(-4, "measured"),
        }
    },
    "array": {
        "strings": [
            {
                "id": "hut-north-wall",
                "name": "Hut north wall",
                "module": {"watts": _known(110), "cells": 36, "working_v": _known(17.6)},
                "parallel": 2,
                "tilt_deg": 90.0,
                "azimuth_deg": 0.0,
                "controller": "pwm",
            }
        ]
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
            "unit_ah": _known(100),
            "series": 1,
            "parallel": 3,
            "housing": "heated",
        },
    },
    {"op": "replace", "path": "/array/strings/0/controller", "value": "mppt"},
    {"op": "replace", "path": "/array/strings/0/tilt_deg", "value": 65.0},
    {"op": "replace", "path": "/array/strings/0/name", "value": "Frame clear of the wall"},
]

QUAY_LOADS = [
    _load(
        "hf-set",
        "HF set, 100 W",
        1.6,
        8,
        "vital",
        kind="hf_set",
        rated_w=_known(100),
        mode="ssb",
        transmit_a=_known(22.0),
        transmit_share=_known(0.06, "stated"),
        interlock="operator",
    ),
    _load(
        "vhf-uhf-set",
        "VHF/UHF set, 50 W",
        0.7,
        16,
        "vital",
        kind="vhf_mobile",
        rated_w=_known(50),
        mode="fm",
        transmit_a=_known(11.0),
        transmit_share=_known(0.03, "stated"),
        interlock="operator",
    ),
    _load("computer", "Small computer", 1.1, 8, "useful", kind="computer", standby_a=_known(0.1, "measured")),
    _load("router", "Router", 0.9, 24, "useful", kind="network", needs=["internet"]),
    _load("monitors", "Monitors", 0.08, 5, "comfort", kind="monitor", quantity=2, rail="inverter", pattern=EVENING),
    _load("lights", "Lights", 0.8, 5, "useful", kind="light", pattern=EVENING),
]

QUAY_STREET: Json = {
    "format": "yonderstat-design",
    "version": 1,
    "name": "A · as built",
    "brief": {
        "kind": "home",
        "purpose": "standby",
        "preparing_for": "storm",
        "attended": "present",
        "asked_days": _known(3, "stated"),
        "coldest_c": _known(-6, "stated"),
        "note": "Three days without mains in July?",
    },
    "place": {"latitude_deg": -44.09, "longitude_deg": 171.24, "elevation_m": _known(120, "stated")},
    "draw": {
        "loads": QUAY_LOADS,
        "rails": [
            {
                "id": "inverter",
                "name": "Inverter 230 V",
                "kind": "inverter",
                "volts": _known(230),
                "efficiency": _known(0.9),
                "idle_w": _known(8, "measured"),
                "on_hours": _known(5, "stated"),
                "rated_w": _known(300),
            }
        ],
    },
    "store": {"bank": {"chemistry": "lifepo4", "unit_v": 12.8, "unit_ah": _known(100), "housing": "indoors"}},
    "array": {
        "strings": [
            {
                "id": "shed-roof",
                "name": "Shed roof",
                "module": {"watts": _known(200), "cells": 36, "working_v": _known(20.4)},
                "tilt_deg": 25.0,
                "azimuth_deg": 20.0,
                "controller": "mppt",
            }
        ]
    },
}


class DemoRefusedError(RuntimeError):
    """A door of the app refused what the demo brought."""


def _send(client: FlaskClient, method: str, path: str, body: Any, headers: dict[str, str] | None = None) -> Json:
    response = client.open(path, method=method, json=body, headers=headers, base_url="http://127.0.0.1")
    if response.status_code >= 300:
        raise DemoRefusedError(f"{method} {path}: {response.status_code} {response.get_data(as_text=True)}")
    answer: Json = response.get_json()
    return answer


def build_demo_sites(app: Flask) -> int:
    """Build the demo sites; how many were built."""
    client = app.test_client()
    ridge = _send(client, "POST", "/api/sites", {"name": "Harrier Ridge repeater", "document": HARRIER_AS_BUILT})
    copy = {"copy_of": ridge["designs"][0]["id"]}
    second = _send(client, "POST", f"/api/sites/{ridge['id']}/designs", copy)
    at = {"If-Match": str(second["revision"])}
    _send(client, "PATCH", f"/api/designs/{second['id']}", HARRIER_HEATED_LITHIUM, at)
    _send(client, "POST", "/api/sites", {"name": "Quay Street shack", "document": QUAY_STREET})
    return 2
