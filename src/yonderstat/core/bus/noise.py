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
                f"{string.name}: tape the panel leads together, and wind them through a "
                "ferrite at the controller."
            ),
            (
                f"Its MPPT controller switches at tens of kilohertz and up;{lead} parted "
                "leads are a loop that radiates."
            ),
        )
    passing = [controller_type(string.controller) for string in design.array.strings]
    passing = [kind for kind in passing if kind.passes_current]
    if passing and not mppt:
        yield Advice(
            (
                f"The {passing[0].named} switches slowly: listen with the panels covered and "
                "uncovered before ferrites."
            ),
            "Most of its noise lies low; a series diode kind is quieter still near full.",
        )
    inverters = [rail for rail in design.draw.rails if rail.kind == "inverter"]
    for rail in inverters:
        wave = " Its stepped wave is the noisier kind." if rail.waveform == "stepped" else ""
        yield Advice(
            (
                f"{rail.name}: off while you listen on weak signals, or as far from the "
                "antenna lead as its cable allows."
            ),
            f"It chops the whole bus current, and its outlet leads radiate.{wave}",
        )
    for rail in design.draw.rails:
        if rail.kind == "dc" and rail.efficiency.value < 0.99:
            yield Advice(
                f"{rail.name}: a ferrite on its input and its output, close to the case.",
                "A converter's two leads carry its switching out both ways.",
            )
    long = [
        run for run in model.runs if run.leg.feeds == "load" and run.laid.length_m >= LONG_LEAD_M
    ]
    sets = {load.id for load in design.draw.loads if load.transmit_a}
    for run in long:
        if run.leg.of in sets:
            yield Advice(
                f"{run.leg.name}: plus and minus side by side all "
                f"{metres(run.laid.length_m)}, both fused, "
                "a ferrite at the set.",
                (
                    "What the leads pick up enters the set by them; its own transmission "
                    "comes back the same way."
                ),
            )
    if design.bus.earthed != "yes":
        yield Advice(
            "Bond negative, set cases, mast and antenna entry to one earth, by short wide straps.",
            (
                "Noise and lightning both look for the other way round. Nobody has said yet "
                "that it is done."
            ),
        )
    if design.store.bank and kind_of(design.store.bank.chemistry).has_electronics and sets:
        yield Advice(
            (
                "Keep antenna leads off the battery: its electronics have tripped on their "
                "own station's transmission."
            ),
            "A ferrite on its leads, or a turn of distance, ends it.",
        )


def noise_advice(design: Design, model: BusModel) -> tuple[Advice, ...]:
    """Advice tied to what this design holds."""
    return tuple(_advice(design, model))
