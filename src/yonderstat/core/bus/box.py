"""The box that electronics live in: how hot it gets on the hottest day, and what lets the heat
out."""

from dataclasses import dataclass

from ..design import Box

WALL_W_M2_K = 5.0
"""Heat through a thin wall, inside and outside air together. [C]"""
AIR_WH_M3_K = 0.335
"""What a cubic metre of air carries for each kelvin. [W·h]"""
SUN_W_M2, LIT_SHARE = 900.0, 0.33
"""Full sun, and the part of the walls it falls on."""
TAKEN_SHARE, CLEAR_TAKEN_SHARE = 0.6, 0.9
"""Of the sun on it: a wall takes some, a clear lid lets nearly all in. [C]"""
OUTSIDE_W_M2_K = 15.0
"""From a sunlit wall to the air outside, wind and radiation together, nearly calm. From memory."""
DRAUGHT_M_S = 0.1
"""Air through a vent by its own warmth. [C]"""
USUAL_WALL_CM2, USUAL_LIMIT_C = 4200.0, 50.0


@dataclass(frozen=True, slots=True, kw_only=True)
class BoxHeat:
    """A box on its hottest day. `rise_k` is over the air outside; `closed_k` with vents shut and
    the fan still."""

    inside_w: float
    sun_w: float
    wall_w_k: float
    air_w_k: float
    rise_k: float
    closed_k: float
    hottest_c: float
    limit_c: float


def box_heat(box: Box, inside_w: float, hottest_c: float) -> BoxHeat:
    """The heat balance: what comes in over what walls and moved air let out.

    Parameters
    ----------
    inside_w : float
        Let go inside. [W]
    hottest_c : float
        The hottest afternoon of a year. [°C]
    """
    wall_m2 = (box.wall_cm2.value if box.wall_cm2 else USUAL_WALL_CM2) / 1e4
    # A wall gives most of the sun it takes back to the air before it comes through (the sol-air
    # temperature); through a clear lid it shines in.
    taken = CLEAR_TAKEN_SHARE if box.clear else TAKEN_SHARE * WALL_W_M2_K / OUTSIDE_W_M2_K
    sun_w = SUN_W_M2 * wall_m2 * LIT_SHARE * taken if box.in_sun else 0.0
    vent_m3_h = (box.vent_cm2.value if box.vent_cm2 else 0.0) / 1e4 * DRAUGHT_M_S * 3600.0
    moved_m3_h = max(vent_m3_h, box.fan_m3_h or 0.0)
    wall_w_k, air_w_k = WALL_W_M2_K * max(wall_m2, 1e-3), AIR_WH_M3_K * moved_m3_h
    heat_w = inside_w + sun_w
    rise_k = heat_w / (wall_w_k + air_w_k)
    return BoxHeat(
        inside_w=inside_w,
        sun_w=sun_w,
        wall_w_k=wall_w_k,
        air_w_k=air_w_k,
        rise_k=rise_k,
        closed_k=heat_w / wall_w_k,
        hottest_c=hottest_c + rise_k,
        limit_c=box.limit_c.value if box.limit_c else USUAL_LIMIT_C,
    )
