"""What several steps know of wire and volts: conductors and their drops, blocks of 12 V, the window a load wants."""

from .conductors import awg_mm2, copper_ohm_per_m, loop_drop_v, loop_ohm
from .windows import MOST_V, NARROW, WIDE, Window, blocks_of_12v, narrowest_window, usual_window, window_of

__all__ = [
    "MOST_V",
    "NARROW",
    "WIDE",
    "Window",
    "awg_mm2",
    "blocks_of_12v",
    "copper_ohm_per_m",
    "loop_drop_v",
    "loop_ohm",
    "narrowest_window",
    "usual_window",
    "window_of",
]
