"""What a new row of a table starts from, every figure marked as our guess."""

from dataclasses import dataclass
from typing import get_args

from .design import (
    Alternator,
    Bank,
    Box,
    BusRun,
    Cargo,
    Charger,
    Chemistry,
    Events,
    Haul,
    KnownAmpHours,
    KnownAmps,
    KnownCelsius,
    KnownKilos,
    KnownLength,
    KnownWattHours,
    Layer,
    Load,
    Module,
    PanelString,
    PowerPack,
    Regulator,
    ShelfController,
    ShelfModule,
    Thermostat,
)
from .shelf import ShelfKind, ShelfPart
from .store import kind_of

EVENING_H = range(18, 23)


@dataclass(frozen=True, slots=True, kw_only=True)
class Firsts:
    """One of each; its id is given where it is put in."""

    load: Load
    pattern: tuple[float, ...]
    """By the clock: an operator's evening."""
    events: Events
    thermostat: Thermostat
    bank: Bank
    banks: dict[Chemistry, Bank]
    """A new one of each chemistry."""
    layer: Layer
    pack: PowerPack
    string: PanelString
    alternator: Alternator
    run: BusRun
    """Of one's own: a second fuse block."""
    box: Box
    shelf_module: ShelfModule
    shelf_controller: ShelfController
    haul: Haul
    cargo: Cargo
    shelf_parts: dict[ShelfKind, ShelfPart]
    """A part of each kind for the club's shelf."""


def new_bank(chemistry: Chemistry) -> Bank:
    """A new unit as is usual for a chemistry."""
    kind = kind_of(chemistry)
    return Bank(chemistry=chemistry, unit_v=kind.unit_v, unit_ah=KnownAmpHours(value=kind.unit_ah))


def _shelf_part(kind: ShelfKind) -> ShelfPart:
    """A part of a kind with the label of its class."""
    return ShelfPart(
        id=kind,
        name=f"New {kind}" if kind != "other" else "New part",
        kind=kind,
        module=Module() if kind == "panel" else None,
        battery=Bank() if kind == "battery" else None,
        regulator=Regulator(max_charge_a=KnownAmps(value=20.0)) if kind == "controller" else None,
        charger=Charger(id="charger", name="Charger") if kind == "charger" else None,
        mm2=4.0 if kind == "cable" else None,
        cores=2 if kind == "cable" else 1,
        rating_a=15.0 if kind == "fuse" else None,
        fuse="blade" if kind == "fuse" else None,
    )


def firsts() -> Firsts:
    """What each new row starts from. [C] sizes are common practice."""
    return Firsts(
        # It counts nothing until somebody says what it takes.
        load=Load(id="load", name="New load", receive_a=KnownAmps(value=0.0), tier="useful"),
        pattern=tuple(1.0 if hour in EVENING_H else 0.0 for hour in range(24)),
        events=Events(per_day=6.0, minutes=10.0),
        thermostat=Thermostat(when="above", at_c=KnownCelsius(value=25.0)),
        bank=Bank(),
        banks={chemistry: new_bank(chemistry) for chemistry in get_args(Chemistry)},
        layer=Layer(id="layer", name="Second battery", joining="automatic"),
        pack=PowerPack(id="pack", name="Power pack", energy_wh=KnownWattHours(value=500.0)),
        string=PanelString(id="string", name="New string"),
        alternator=Alternator(),
        run=BusRun(id="block-second", name="Second fuse block"),
        box=Box(),
        shelf_module=ShelfModule(id="panel", name="Panel"),
        shelf_controller=ShelfController(
            id="controller",
            name="Controller",
            regulator=Regulator(max_charge_a=KnownAmps(value=20.0)),
        ),
        haul=Haul(
            hitch_m=KnownLength(value=2.5),
            empty_kg=KnownKilos(value=350.0),
            empty_nose_kg=KnownKilos(value=25.0),
            nose_limit_kg=KnownKilos(value=60.0),
        ),
        cargo=Cargo(id="cargo", name="Something", kg=KnownKilos(value=10.0)),
        shelf_parts={kind: _shelf_part(kind) for kind in get_args(ShelfKind)},
    )
