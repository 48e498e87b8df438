"""The layers behind the main bank, as one reserve at its volts."""

from dataclasses import dataclass

from ..chemistries import kind_of
from ..design import Design, Layer, PowerPack
from .kind import most_charge_a
from .model import layer_usable_wh, pack_usable_wh

PACK_EFFICIENCY = 0.95
"""Of a power pack's own charger. [C]"""


BY_HAND = {"switch", "swap"}
"""Ways of joining that take somebody there."""


@dataclass(frozen=True, slots=True)
class Reserve:
    """Amp-hours at the bus that may be used, what charging keeps, and the most it may be charged
    with. [A·h], [A]"""

    usable_ah: float
    efficiency: float
    charge_a: float


def _layer_charge_a(design: Design, layer: Layer, bus_v: float) -> float:
    """The most it is charged with; nothing where no path leads to it and no converter or lead feeds
    it."""
    fed = any(path.bank == layer.id for path in design.store.paths)
    if not fed and layer.joining not in {"converter", "lead"}:
        return 0.0
    most = most_charge_a(layer.bank) * layer.bank.unit_v * layer.bank.series / bus_v
    return min(most, layer.converter_a.value) if layer.converter_a else most


def comes_on(design: Design, layer: Layer) -> bool:
    """Whether a layer takes over when the main bank is at its end: by itself, or by somebody who is
    there."""
    if layer.joining == "apart" or any(rail.bank == layer.id for rail in design.draw.rails):
        # What feeds loads of its own is no reserve of the station's.
        return False
    return layer.joining not in BY_HAND or design.brief.attended == "present"


def pack_comes_on(design: Design, pack: PowerPack) -> bool:
    """Whether somebody is there to plug a pack in, and nothing of its own hangs on it."""
    return design.brief.attended == "present" and all(
        rail.bank != pack.id for rail in design.draw.rails
    )


def reserve_of(design: Design, bank_c: float, mean_w: float, bus_v: float) -> Reserve:
    """All layers and packs that take over when the main bank is at its end, by the Store's own
    model."""
    wh, charge_a, efficiency = 0.0, 0.0, 1.0
    for layer in design.store.layers:
        if comes_on(design, layer):
            wh += layer_usable_wh(layer, design.brief, bank_c)
            charge_a += _layer_charge_a(design, layer, bus_v)
            efficiency = min(efficiency, kind_of(layer.bank.chemistry).coulombic_efficiency)
    for pack in design.store.packs:
        if not pack_comes_on(design, pack):
            continue
        wh += pack_usable_wh(pack, mean_w)
        efficiency = min(efficiency, PACK_EFFICIENCY)
        if pack.input_w and any(path.bank == pack.id for path in design.store.paths):
            charge_a += pack.input_w.value / bus_v
    return Reserve(wh / bus_v, efficiency, charge_a)
