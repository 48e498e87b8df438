"""Radio noise by layout: what of this design switches, and what ferrites, distance and short loops
do about it. [C]"""

from collections.abc import Iterator

from ..chemistries import kind_of
from ..controllers import controller_type
from ..design import Design
from ..words import metres
from .model import BusModel
from .report import Advice

LONG_LEAD_M = 3.0


def _advice(design: Design, model: BusModel) -> Iterator[Advice]:
    mppt = [
        string
        for string in design.array.strings
        if controller_type(string.controller).tracks and string.joins is None
    ]
    for string in mppt:
        lead = f" {metres(string.cable_m.value)} of" if string.cable_m else ""
        yield Advice(
            (
                f"{string.name}: tape the two panel leads together and wind them through a "
                "ferrite at the controller."
            ),
            (
                f"Its MPPT controller switches at tens of kilohertz and up, and{lead} leads that "
                "lie apart act as a loop antenna."
            ),
        )
    passing = [controller_type(string.controller) for string in design.array.strings]
    passing = [kind for kind in passing if kind.passes_current]
    if passing and not mppt:
        yield Advice(
            (
                "Before you buy ferrites, listen with the panels covered and uncovered. The "
                f"{passing[0].named} switches slowly and may make little noise."
            ),
            (
                "Most of its noise is at low frequencies. A series type with a diode is even "
                "quieter when the battery is nearly full."
            ),
        )
    inverters = [rail for rail in design.draw.rails if rail.kind == "inverter"]
    for rail in inverters:
        wave = " A stepped wave makes more noise than a sine." if rail.waveform == "stepped" else ""
        yield Advice(
            (
                f"{rail.name}: switch it off while you listen for weak signals, or keep it as far "
                "as you can from the antenna cable."
            ),
            f"It switches a large current on and off, and its output leads radiate.{wave}",
        )
    for rail in design.draw.rails:
        if rail.kind == "dc" and rail.efficiency.value < 0.99:
            yield Advice(
                f"{rail.name}: put a ferrite on its input and its output leads, close to the case.",
                "Its switching noise gets out through the input and output leads.",
            )
    long = [
        run for run in model.runs if run.leg.feeds == "load" and run.laid.length_m >= LONG_LEAD_M
    ]
    sets = {load.id for load in design.draw.loads if load.transmit_a}
    for run in long:
        if run.leg.of in sets:
            yield Advice(
                f"{run.leg.name}: run plus and minus side by side for all "
                f"{metres(run.laid.length_m)}, fuse both, and put a ferrite at the radio.",
                ("Long leads pick up noise and your own signal, and carry both into the radio."),
            )
    if design.bus.earthed != "yes":
        yield Advice(
            (
                "Bond negative, radio cases, mast and antenna entry to one earth with short, wide "
                "straps."
            ),
            (
                "Without one earth, lightning and noise currents flow through your equipment. The "
                "design doesn't say yet that this is done."
            ),
        )
    if design.store.bank and kind_of(design.store.bank.chemistry).has_electronics and sets:
        yield Advice(
            ("The battery can switch off while you transmit: keep antenna cables away from it."),
            (
                "Strong RF can trip its electronics. A ferrite on the battery leads, or more "
                "distance, cures it."
            ),
        )


def noise_advice(design: Design, model: BusModel) -> tuple[Advice, ...]:
    """Advice tied to what this design holds."""
    return tuple(_advice(design, model))
