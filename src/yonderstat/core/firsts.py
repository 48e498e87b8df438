"""What a new row of a table starts from, every figure marked as our guess."""

from dataclasses import dataclass

from .design import (
    Alternator,
    Bank,
    Events,
    KnownAmps,
    KnownCelsius,
    KnownWattHours,
    Layer,
    Load,
    PanelString,
    PowerPack,
    Regulator,
    ShelfController,
    ShelfModule,
    Thermostat,
)

EVENING_H = range(18, 23)


@dataclass(frozen=True, slots=True)
class Firsts:
    """One of each; its id is given where it is put in."""

    load: Load
    pattern: tuple[float, ...]
    """By the clock: an operator's evening."""
    events: Events
    thermostat: Thermostat
    bank: Bank
    layer: Layer
    pack: PowerPack
    string: PanelString
    alternator: Alternator
    shelf_module: ShelfModule
    shelf_controller: ShelfController


def firsts() -> Firsts:
    """What each new row starts from. [C] sizes are common practice."""
    return Firsts(
        Load(id="load", name="New load", receive_a=KnownAmps(value=0.5), tier="useful"),
        tuple(1.0 if hour in EVENING_H else 0.0 for hour in range(24)),
        Events(per_day=6.0, minutes=10.0),
        Thermostat(when="above", at_c=KnownCelsius(value=25.0)),
        Bank(),
        Layer(id="layer", name="Second bank", joining="automatic"),
        PowerPack(id="pack", name="Power pack", energy_wh=KnownWattHours(value=500.0)),
        PanelString(id="string", name="New string"),
        Alternator(),
        ShelfModule(id="panel", name="Panel"),
        ShelfController(id="controller", name="Controller", regulator=Regulator(max_charge_a=KnownAmps(value=20.0))),
    )
