"""The stand-ins of the demo: Harrier Ridge by SunSpec, Beech Hut by telemetry, through a bad winter
at speed."""

from typing import Any

from .beech_hut import BEECH_HUT
from .harrier_ridge import HARRIER_AS_BUILT

FROM_AT = "2026-05-24T06:00+12:00"
"""Six days before it goes dark for the first time."""
DULL_MONTH = 6
SPEED = 720.0
"""An hour of theirs takes five seconds."""
INTERVAL_S = 2.0
PORTS = 4
CONTROLLER, MONITOR, TELEMETRY, CONTROL = range(PORTS)
"""One after the other from the port that is given."""


def standin_config(port: int, state_file: str) -> dict[str, Any]:
    """What `python -m yonderstat.standins` is to do."""
    lived = {"from_at": FROM_AT, "dull_month": DULL_MONTH, "speed": SPEED}
    return {
        "control_port": port + CONTROL,
        "state": state_file,
        "stations": [
            {
                "name": "ridge",
                "design": HARRIER_AS_BUILT,
                "ports": {
                    "sunspec-controller": port + CONTROLLER,
                    "sunspec-monitor": port + MONITOR,
                },
                **lived,
            },
            {
                "name": "beech",
                "design": BEECH_HUT,
                "ports": {"telemetry": port + TELEMETRY},
                **lived,
            },
        ],
    }


def endpoints_of(port: int) -> dict[str, list[dict[str, Any]]]:
    """Where the demo's sites are asked, by their name."""
    here = {"host": "127.0.0.1"}
    return {
        "Harrier Ridge repeater": [
            {
                "name": "Charge controller",
                "kind": "controller",
                "protocol": "sunspec",
                "port": port + CONTROLLER,
                **here,
            },
            {
                "name": "Battery monitor",
                "kind": "monitor",
                "protocol": "sunspec",
                "port": port + MONITOR,
                **here,
            },
        ],
        "Beech Hut digipeater": [
            {
                "name": "Telemetry",
                "kind": "monitor",
                "protocol": "telemetry",
                "port": port + TELEMETRY,
                **here,
            }
        ],
    }
