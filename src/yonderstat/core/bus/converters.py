"""What a converter needs at its input, and how an inverter is joined to a bank without a spark."""

import math
from dataclasses import dataclass

from ..data import rows_by
from ..design import Converter, Rail
from ..electrical import blocks_of_12v

UF_PER_W = 10.0
"""Input capacitance of an inverter per watt of its rating. [C] a guess"""
FIRST_A = 5.0
"""What a pre-charge resistor lets through at first. [C]"""
CHARGED_SHARE = 0.95
OUTLET_EFFICIENCY = 0.995


@dataclass(frozen=True, slots=True)
class InputWindow:
    """What a rail makes its volts of. `headroom_v` is how far above its own volts its input must
    stand."""

    converter: Converter
    label: str
    least_v: float
    most_v: float
    headroom_v: float


def converter_of(rail: Rail, bus_v: float) -> Converter:
    """How a DC rail makes its volts: as typed, else an outlet where it loses nothing at the bus's
    own volts, a buck where it gives clearly less, a buck-boost where it gives about as much or
    more."""
    if rail.converter is not None:
        return rail.converter
    near = abs(rail.volts.value / bus_v - 1.0) < 0.1
    if near and rail.efficiency.value >= OUTLET_EFFICIENCY:
        return "outlet"
    return "buck" if rail.volts.value < 0.75 * bus_v else "buck_boost"


def input_window(rail: Rail, bus_v: float) -> InputWindow:
    """The volts a rail works between, its label first."""
    kind = "buck_boost" if rail.kind == "inverter" else converter_of(rail, bus_v)
    row, blocks = rows_by("converters", "converter")[kind], blocks_of_12v(bus_v)
    least_v, most_v = float(row["least_in_v_12v"]) * blocks, float(row["most_in_v_12v"]) * blocks
    if rail.kind == "inverter":
        least_v, most_v = INVERTER_LOW_V * blocks, INVERTER_HIGH_V * blocks
    return InputWindow(
        kind,
        "inverter" if rail.kind == "inverter" else row["label"],
        rail.least_in_v.value if rail.least_in_v else least_v,
        rail.most_in_v.value if rail.most_in_v else most_v,
        float(row["headroom_v"]),
    )


INVERTER_LOW_V, INVERTER_HIGH_V = 10.5, 15.5
"""Where an inverter usually shuts down, of a 12 V block. [C]"""


def output_v(rail: Rail, window: InputWindow, input_v: float) -> float:
    """What a rail gives at so many volts at its input; nothing outside its window [V].

    Parameters
    ----------
    window : InputWindow
        Between which volts at its input it works.
    input_v : float
        Volts at its input. [V]
    """
    if window.converter == "outlet":
        return input_v
    if input_v < window.least_v or input_v > window.most_v:
        # A boost passes on what is higher than it makes.
        return input_v if window.converter == "boost" and input_v > window.most_v else 0.0
    if window.converter == "buck":
        return min(rail.volts.value, max(0.0, input_v - window.headroom_v))
    return max(rail.volts.value, input_v) if window.converter == "boost" else rail.volts.value


@dataclass(frozen=True, slots=True, kw_only=True)
class Precharge:
    """Joining an inverter through a resistor: ohms, seconds to wait, and what the resistor must
    take."""

    capacitance_f: float
    ohm: float
    first_a: float
    wait_s: float
    energy_j: float
    first_w: float


def input_capacitance_f(rail: Rail) -> float:
    """Of an inverter: as typed, or our guess by its watts [F]."""
    rated_w = rail.rated_w.value if rail.rated_w else 300.0
    return (rail.input_uf if rail.input_uf is not None else UF_PER_W * rated_w) * 1e-6


def precharge(capacitance_f: float, volts: float, ohm: float | None = None) -> Precharge:
    """What a resistor does before an inverter is joined to so many volts.

    Parameters
    ----------
    capacitance_f : float
        At the input of the inverter. [F]
    volts : float
        Between the posts. [V]
    ohm : float or None
        The resistor; a usual one where none is named. [Ω]

    Notes
    -----
    V(t) = V₀ (1 − e^(−t/RC)): at 95 % after t = −RC · ln 0.05, which is nearly 3 RC. The resistor
    takes ½ C V², whatever its ohms, and V²/R at first.
    """
    resistance = ohm if ohm is not None else volts / FIRST_A
    return Precharge(
        capacitance_f=capacitance_f,
        ohm=resistance,
        first_a=volts / resistance,
        wait_s=-resistance * capacitance_f * math.log(1.0 - CHARGED_SHARE),
        energy_j=0.5 * capacitance_f * volts**2,
        first_w=volts**2 / resistance,
    )
