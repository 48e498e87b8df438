"""The layers behind the main bank, as one reserve at its volts."""

from dataclasses import dataclass

from ..design import Design, Layer
from ..store import kind_of, layer_figures, most_charge_a, pack_figures
from ..working import Quantity, Workings

PACK_EFFICIENCY = 0.95
"""Of a power pack's own charger. [C]"""


@dataclass(frozen=True, slots=True)
class Reserve:
    """Amp-hours at the bus that may be used, what charging keeps, and the most it may be charged with. [A·h], [A]"""

    usable_ah: float
    efficiency: float
    charge_a: float


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


def reserve_of(design: Design, bank_c: Quantity, mean_w: Quantity, bus_v: float) -> Reserve:
    """All layers and packs that take over when the main bank is at its end, by the Store's own figures."""
    workings, wh, charge_a = Workings(), 0.0, 0.0
    efficiency = 1.0
    for index, layer in enumerate(design.store.layers):
        if comes_on(design, layer):
            made = layer_figures(layer, index, design.brief, bank_c, mean_w, workings)
            wh += workings[made.usable_wh].number
            charge_a += _layer_charge_a(design, layer, bus_v)
            efficiency = min(efficiency, kind_of(layer.bank.chemistry).coulombic_efficiency)
    for index, pack in enumerate(design.store.packs if design.brief.attended == "present" else []):
        wh += workings[pack_figures(pack, index, mean_w, workings).usable_wh].number
        efficiency = min(efficiency, PACK_EFFICIENCY)
        if pack.input_w and any(path.bank == pack.id for path in design.store.paths):
            charge_a += pack.input_w.value / bus_v
    return Reserve(wh / bus_v, efficiency, charge_a)
