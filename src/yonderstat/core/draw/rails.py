"""From amps at a rail to amps at the battery bus."""

import numpy as np

from ..data import column
from ..design import BUS, Draw, Load, Rail


def inverter_efficiency(peak: float, load_share: float) -> float:
    """Efficiency of an inverter at a share of its rating, its idle draw apart. [C] shape of the usual curve."""
    shares, relative = column("inverter_curve", "load_share"), column("inverter_curve", "relative_efficiency")
    return peak * float(np.interp(load_share, shares, relative))


def inverter_input_a(power_w: float, efficiency: float, bus_v: float) -> float:
    """Amps an inverter takes from the bus. [A]"""
    return power_w / (efficiency * bus_v)


def rail_efficiency(rail: Rail, power_w: float) -> float:
    """Efficiency of a rail while it carries this power. [W]"""
    if rail.kind == "inverter" and rail.rated_w is not None:
        return inverter_efficiency(rail.efficiency.value, power_w / rail.rated_w.value)
    return rail.efficiency.value


def rail_of(draw: Draw, load: Load) -> Rail | None:
    """The rail a load hangs on; None for the battery bus."""
    if load.rail == BUS:
        return None
    return next(rail for rail in draw.rails if rail.id == load.rail)


def bus_current_a(amps: float, rail: Rail | None, bus_v: float) -> float:
    """Amps at the bus for amps at a rail: the same on the bus, by power through a converter. [A]"""
    if rail is None:
        return amps
    power_w = amps * rail.volts.value
    return inverter_input_a(power_w, rail_efficiency(rail, power_w), bus_v) if power_w > 0 else 0.0


def idle_daily_ah(rail: Rail, bus_v: float) -> float:
    """Amp-hours a day a rail takes for itself while it is on. [A·h]"""
    return rail.idle_w.value * rail.on_hours.value / bus_v
