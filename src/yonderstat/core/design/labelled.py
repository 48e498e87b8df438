"""Figures that a label gives in watts or watt-hours: the amps and amp-hours that the rest reads
follow from them."""

from .base import MOST_A, MOST_AH, KnownAmpHours, KnownAmps
from .draw import BUS, Draw, Load
from .store import Bank, Store


class UnfitLabelError(ValueError):
    """A label whose watts come to more than a design holds; `pointer` is the field at fault."""

    def __init__(self, pointer: str, message: str) -> None:
        super().__init__(message)
        self.pointer = pointer


def _bank(bank: Bank, at: str) -> Bank:
    if bank.unit_wh is None:
        return bank
    if bank.unit_wh.value / bank.unit_v > MOST_AH:
        raise UnfitLabelError(
            f"{at}/unit_wh",
            f"equals more than {MOST_AH:g} Ah at {bank.unit_v:g} V; check the watt-hours",
        )
    unit_ah = KnownAmpHours(value=bank.unit_wh.value / bank.unit_v, basis=bank.unit_wh.basis)
    return bank if bank.unit_ah == unit_ah else bank.model_copy(update={"unit_ah": unit_ah})


def store_as_labelled(store: Store) -> Store:
    """The store with amp-hours from watt-hours: C = E / V of a unit; the very same where nothing
    changes."""
    bank = _bank(store.bank, "/store/bank") if store.bank else None
    layers = [
        layer.model_copy(update={"bank": _bank(layer.bank, f"/store/layers/{index}/bank")})
        for index, layer in enumerate(store.layers)
    ]
    if bank is store.bank and layers == store.layers:
        return store
    return store.model_copy(update={"bank": bank, "layers": layers})


def draw_as_labelled(draw: Draw, bus_v: float) -> Draw:
    """The draw with amps from watts: I = P / V of the rail a load hangs on; the very same where
    nothing changes.

    Parameters
    ----------
    bus_v : float
        Nominal volts of the battery bus. [V]
    """
    volts = {BUS: bus_v, **{rail.id: rail.volts.value for rail in draw.rails}}

    def amps(index: int, load: Load) -> Load:
        if load.receive_w is None:
            return load
        amps_a = load.receive_w.value / volts[load.rail]
        if amps_a > MOST_A:
            at = f"/draw/loads/{index}/receive_w"
            raise UnfitLabelError(
                at, f"equals more than {MOST_A:g} A at {volts[load.rail]:g} V; check the watts"
            )
        found = KnownAmps(value=amps_a, basis=load.receive_w.basis)
        return load if load.receive_a == found else load.model_copy(update={"receive_a": found})

    loads = [amps(index, load) for index, load in enumerate(draw.loads)]
    return draw if loads == draw.loads else draw.model_copy(update={"loads": loads})
