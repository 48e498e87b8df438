"""From amps at a rail to amps at the battery bus."""

from collections.abc import Callable

import numpy as np

from ..data import column
from ..design import BUS, Draw, Load, Rail
from .exclusions import Step, groups_of, most_together_a
from .transmit import key_down, transmitting_a


def inverter_efficiency(peak: float, load_share: float) -> float:
    """Efficiency of an inverter at a share of its rating, its idle draw apart. [C] shape of the
    usual curve."""
    shares, relative = (
        column("inverter_curve", "load_share"),
        column("inverter_curve", "relative_efficiency"),
    )
    return peak * float(np.interp(load_share, shares, relative))


def inverter_input_a(power_w: float, efficiency: float, bus_v: float) -> float:
    """Amps an inverter takes from the bus. [A]

    Parameters
    ----------
    power_w : float
        At its output. [W]
    efficiency : float
        Of the inverter, 0 to 1.
    bus_v : float
        Nominal volts. [V]
    """
    return power_w / (efficiency * bus_v)


IDLE_COUNTED_SHARE = 0.3
"""What makes an inverter's curve fall below this is what it takes for itself."""


def rail_efficiency(rail: Rail, power_w: float) -> float:
    """Efficiency of a rail while it carries this power. [W]

    Where its idle draw is known that is counted apart, and the curve's fall at little load, which
    comes of it, is not counted a second time.
    """
    if rail.kind == "inverter" and rail.rated_w is not None:
        share = power_w / rail.rated_w.value
        return inverter_efficiency(
            rail.efficiency.value,
            max(share, IDLE_COUNTED_SHARE) if rail.idle_w.value > 0 else share,
        )
    return rail.efficiency.value


def elsewhere_wh(draw: Draw, bank: str, hours: Callable[[Load], float]) -> float:
    """What hangs on another bank takes of it in a day, converters and their idle draw counted
    [W·h].

    Parameters
    ----------
    hours : callable
        Hours a day a load is on.
    """
    total = 0.0
    for rail in draw.rails:
        if rail.bank != bank:
            continue
        total += rail.idle_w.value * rail.on_hours.value
        for load in draw.loads:
            if load.rail == rail.id:
                mean_a = load.receive_a.value * (1.0 - load.transmit_share.value)
                mean_a += transmitting_a(load) * load.transmit_share.value
                watts = mean_a * rail.volts.value
                total += (
                    load.quantity * watts / rail_efficiency(rail, watts) * hours(load)
                    if watts > 0
                    else 0.0
                )
    return total


def rail_of(draw: Draw, load: Load) -> Rail | None:
    """The rail a load hangs on; None for the battery bus."""
    if load.rail == BUS:
        return None
    return next(rail for rail in draw.rails if rail.id == load.rail)


def bus_current_a(amps: float, rail: Rail | None, bus_v: float) -> float:
    """Amps at the bus for amps at a rail: the same on the bus, by power through a converter. [A]

    Parameters
    ----------
    amps : float
        At the rail. [A]
    rail : Rail or None
        Its converter; None on the bus itself.
    bus_v : float
        Nominal volts. [V]
    """
    if rail is None:
        return amps
    power_w = amps * rail.volts.value
    return inverter_input_a(power_w, rail_efficiency(rail, power_w), bus_v) if power_w > 0 else 0.0


def busiest_w(draw: Draw, rail: Rail) -> float:
    """The most a rail carries at once [W]: every load on it, the transmitters keyed, interlocks
    minded.

    Of loads that never key together only the largest step counts, as at the battery bus.
    """
    standing_a, steps = 0.0, []
    for load in draw.loads:
        if load.rail != rail.id:
            continue
        pressed, groups, on_a = (
            key_down(load),
            groups_of(load),
            load.quantity * load.receive_a.value,
        )
        if groups and load.transmit_a is None:
            steps.append(Step(on_a, groups))
            continue
        standing_a += on_a
        adds_a = max(0.0, pressed.amps - load.receive_a.value) if pressed else 0.0
        steps.append(Step(adds_a * (1 if groups else load.quantity), groups))
    return (standing_a + most_together_a(steps)) * rail.volts.value


def idle_daily_ah(rail: Rail, bus_v: float) -> float:
    """Amp-hours a day a rail takes for itself while it is on. [A·h]"""
    return rail.idle_w.value * rail.on_hours.value / bus_v
