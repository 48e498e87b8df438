"""What several steps know of wire and volts: conductors and their drops, blocks of 12 V, the window
a load wants."""

from .conductors import WARM_C, awg_mm2, cable_ohm_per_m, copper_ohm_per_m, loop_drop_v, loop_ohm
from .sizes import (
    Tradition,
    WireSize,
    ambient_factor,
    ampacity_a,
    bundle_factor,
    size_name,
    table_a,
    tradition,
)
from .windows import (
    MOST_V,
    NARROW,
    WIDE,
    Window,
    blocks_of_12v,
    narrowest_window,
    usual_window,
    window_of,
)

__all__ = [
    "MOST_V",
    "NARROW",
    "WARM_C",
    "WIDE",
    "Tradition",
    "Window",
    "WireSize",
    "ambient_factor",
    "ampacity_a",
    "awg_mm2",
    "blocks_of_12v",
    "bundle_factor",
    "cable_ohm_per_m",
    "copper_ohm_per_m",
    "loop_drop_v",
    "loop_ohm",
    "narrowest_window",
    "size_name",
    "table_a",
    "tradition",
    "usual_window",
    "window_of",
]
