"""What lies on the club's shelf."""

from typing import Any

from .words import known

OLD_85 = {"watts": known(85), "cells": 36, "v_mp": known(17.4)}
SHELF: tuple[dict[str, Any], ...] = (
    {
        "id": "spare-85",
        "name": "Spare 85 W",
        "kind": "panel",
        "count": 2.0,
        "module": {
            "watts": known(85, "label"),
            "cells": 36,
            "v_mp": known(17.4, "label"),
            "measured_v_oc": known(21.2, "measured"),
        },
        "age_years": known(20, "stated"),
        "weight_kg": known(8.5, "measured"),
        "condition": "glass whole, frames scratched",
        "owner": "the club",
        "kept": "QY3RIM's shed",
    },
    {
        "id": "crazed-85",
        "name": "Crazed 85 W",
        "kind": "panel",
        "count": 1.0,
        "module": {**OLD_85, "condition": "cracked"},
        "condition": "crazed glass",
        "kept": "QY3RIM's shed",
    },
    {
        "id": "pwm-15",
        "name": "Old PWM, 15 A",
        "kind": "controller",
        "count": 1.0,
        "controller": "pwm",
        "regulator": {
            "max_v": known(25, "label"),
            "max_charge_a": known(15, "label"),
            "shows": "three lamps",
        },
        "owner": "the club",
        "kept": "the hall",
    },
    {
        "id": "twin-4",
        "name": "4 mm² twin",
        "kind": "cable",
        "count": 30.0,
        "mm2": 4.0,
        "cores": 2,
        "kept": "the hall",
    },
    {
        "id": "lithium-100",
        "name": "LiFePO4 100 Ah of 2023",
        "kind": "battery",
        "count": 1.0,
        "battery": {
            "chemistry": "lifepo4",
            "unit_v": 12.8,
            "unit_ah": known(100),
            "unit_kg": known(12.5),
            "limits": {"cold_cutoff": "yes"},
        },
        "age_years": known(3, "stated"),
        "weight_kg": known(12.5, "label"),
        "price": known(640, "stated"),
        "currency": "NZD",
        "priced": "2023-05-04",
        "owner": "QY3ABL lends it",
        "kept": "the hall",
    },
    {
        "id": "blade-15",
        "name": "Blade fuses, 15 A",
        "kind": "fuse",
        "count": 12.0,
        "rating_a": 15.0,
        "kept": "the hall",
    },
    {
        "id": "blade-25",
        "name": "Blade fuses, 25 A",
        "kind": "fuse",
        "count": 6.0,
        "rating_a": 25.0,
        "fuse": "blade",
    },
    {
        "id": "charger-10",
        "name": "Mains charger, 10 A, lead only",
        "kind": "charger",
        "count": 1.0,
        "made_for": ["flooded", "agm", "gel"],
        "charger": {
            "id": "charger",
            "name": "Mains charger",
            "kind": "mains",
            "amps": known(10, "label"),
            "volts": known(14.4, "label"),
        },
        "kept": "the hall",
    },
)
