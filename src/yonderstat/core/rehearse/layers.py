"""The layers behind the main bank, as one reserve at its volts."""

from dataclasses import dataclass

from ..design import Design, Layer, PowerPack
from ..store import default_depth, kind_of, most_charge_a, temperature_factor


@dataclass(frozen=True, slots=True)
class Reserve:
    """Amp-hours at the bus that may be used, what charging keeps, and the most it may be charged with. [A·h], [A]"""

    usable_ah: float
    efficiency: float
    charge_a: float


def layer_usable_ah(design: Design, layer: Layer, bank_c: float, bus_v: float) -> float:
    """What a layer holds for the station, at the bus volts. [A·h]"""
    bank = layer.bank
    depth = bank.depth.value if bank.depth else default_depth(bank, design.brief)
    unit_ah = bank.tested_ah.value if bank.tested_ah else bank.unit_ah.value * bank.health.value
    wh = unit_ah * bank.parallel * bank.unit_v * bank.series * depth * temperature_factor(bank.chemistry, bank_c)
    return wh / bus_v


def pack_usable_ah(pack: PowerPack, bus_v: float) -> float:
    """What a power pack gives at its DC outlet, its own appetite left out, at the bus volts. [A·h]"""
    return pack.energy_wh.value * (1.0 - pack.cutoff_share.value) * pack.efficiency.value / bus_v


def _layer_charge_a(design: Design, layer: Layer, bus_v: float) -> float:
    """The most it is charged with; nothing where no path leads to it and no converter or lead feeds it."""
    fed = any(path.bank == layer.id for path in design.store.paths)
    if not fed and layer.joining not in {"converter", "lead"}:
        return 0.0
    most = most_charge_a(layer.bank) * layer.bank.unit_v * layer.bank.series / bus_v
    return min(most, layer.converter_a.value) if layer.converter_a else most


def comes_on(design: Design, layer: Layer) -> bool:
    """Whether a layer takes over when the main bank is at its end: by itself, or by somebody who is there."""
    if layer.joining == "apart":
        return False
    return layer.joining != "switch" or design.brief.attended == "present"


def reserve_of(design: Design, bank_c: float, bus_v: float) -> Reserve:
    """All layers and packs that take over when the main bank is at its end."""
    layers = [layer for layer in design.store.layers if comes_on(design, layer)]
    packs = design.store.packs if design.brief.attended == "present" else []
    usable = sum(layer_usable_ah(design, layer, bank_c, bus_v) for layer in layers)
    charge = sum(_layer_charge_a(design, layer, bus_v) for layer in layers)
    for pack in packs:
        usable += pack_usable_ah(pack, bus_v)
        if pack.input_w and any(path.bank == pack.id for path in design.store.paths):
            charge += pack.input_w.value / bus_v
    efficiency = min((kind_of(layer.bank.chemistry).coulombic_efficiency for layer in layers), default=0.95)
    return Reserve(usable, efficiency, charge)
