"""Simulated outside devices that ship with the app: a charge controller and a battery monitor on
loopback.

Started by `yonderstat standin`. They live through a weather year of a design at a chosen speed and
fail on demand.
"""

from .faults import FAULTS, Broken, Fault
from .living import Clock, Lived, State, Station, lived
from .sunspec import controller_registers, monitor_registers

__all__ = [
    "FAULTS",
    "Broken",
    "Clock",
    "Fault",
    "Lived",
    "State",
    "Station",
    "controller_registers",
    "lived",
    "monitor_registers",
]
