"""What it takes to build a design: every part counted from the other steps, cable by the metre."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from ..bus import BusModel, Run
from ..chemistries import kind_of
from ..controllers import controller_type
from ..data import rows_by
from ..design import Design, KnownKilos, KnownMoney, Module, PanelString, Rail
from ..electrical import size_name

Unit = Literal["×", "m"]
SPARE = 1.1
"""A tenth more cable than the runs are long. [C]"""
COPPER_KG_M_MM2, INSULATED = 8.96e-3, 1.35
"""Copper's density by metre and mm², and what insulation adds. [P: copper; C: insulation]"""
NOMINAL_V, USUAL_CONVERTER_A, USUAL_INVERTER_W = 12.0, 10.0, 600.0
"""Where nobody has typed what a part is made for; for its price alone. [C] assumed."""
CONNECTORS_A_RUN = 2
"""A pair each end is one of each."""
POLES = 2
LIKE_WATTS = 0.1
"""Panels that differ by no more share a string without much loss. [C]"""


@dataclass(frozen=True, slots=True, kw_only=True)
class Item:
    """A line of the parts list. `price` and `weight_kg` are of one, where the design knows them."""

    id: str
    group: str
    name: str
    quantity: float
    unit: Unit
    price: KnownMoney | None = None
    weight_kg: KnownKilos | None = None
    price_class: str = ""
    """The class whose usual price is its own where nobody has typed one; empty for none."""
    size: float = 0.0
    """Of one, in the unit of its class."""


def _panel_name(module: Module) -> str:
    return f"Panel {module.watts.value:g} W, {module.cells} cells"


def _store(design: Design) -> Iterator[Item]:
    banks = [("main", design.store.bank)] + [
        (layer.id, layer.bank) for layer in design.store.layers
    ]
    for key, bank in banks:
        if bank is None:
            continue
        label = kind_of(bank.chemistry).label
        name = f"Battery {label}, {bank.unit_v:g} V {bank.unit_ah.value:g} Ah"
        count = float(bank.series * bank.parallel)
        yield Item(
            id=f"battery-{key}",
            group="Battery",
            name=name,
            quantity=count,
            unit="×",
            price=bank.unit_price,
            weight_kg=bank.unit_kg,
            price_class=f"battery-{bank.chemistry}",
            size=bank.unit_v * bank.unit_ah.value,
        )
    for pack in design.store.packs:
        yield Item(
            id=f"pack-{pack.id}",
            group="Battery",
            name=pack.name,
            quantity=1.0,
            unit="×",
            weight_kg=pack.unit_kg,
            price_class="pack",
            size=pack.energy_wh.value,
        )


def _array(design: Design) -> Iterator[Item]:
    for string in design.array.strings:
        count = float(string.series * string.parallel)
        yield Item(
            id=f"panel-{string.id}",
            group="Panels",
            name=f"{_panel_name(string.module)}, {string.name}",
            quantity=count,
            unit="×",
            price_class="panel",
            size=string.module.watts.value,
        )
        if string.joins is None and controller_type(string.controller).regulates:
            limit = string.regulator.max_charge_a
            rated = f" {limit.value:g} A" if limit else ""
            name = f"{string.controller.upper()} controller{rated}, {string.name}"
            yield Item(
                id=f"controller-{string.id}",
                group="Panels",
                name=name,
                quantity=1.0,
                unit="×",
                price=string.regulator.price,
                price_class=f"controller-{string.controller}",
                size=limit.value if limit else largest_current_a(design, string),
            )
        if string.cable_m and string.cable_mm2:
            yield Item(
                id=f"panel-cable-{string.id}",
                group="Panels",
                name=f"Panel cable {string.cable_mm2:g} mm², {string.name}",
                quantity=POLES * string.cable_m.value * SPARE,
                unit="m",
                weight_kg=_cable_kg(string.cable_mm2),
                price_class="cable",
                size=string.cable_mm2,
            )
    for charger in design.array.chargers:
        yield Item(
            id=f"charger-{charger.id}",
            group="Panels",
            name=charger.name,
            quantity=1.0,
            unit="×",
            price_class="charger",
            size=charger.amps.value,
        )
    if design.array.alternator and design.array.alternator.dc_dc:
        amps = design.array.alternator.charge_a.value
        yield Item(
            id="dc-dc",
            group="Panels",
            name=f"DC-DC charger, {amps:g} A",
            quantity=1.0,
            unit="×",
            price_class="dc-dc",
            size=amps,
        )


def largest_current_a(design: Design, string: PanelString) -> float:
    """What a controller without a typed limit must pass: the string's label watts at the bank's
    nominal volts."""
    bank = design.store.bank
    bus_v = bank.unit_v * bank.series if bank else NOMINAL_V
    return string.series * string.parallel * string.module.watts.value / bus_v


def _rail_class(rail: Rail) -> tuple[str, float]:
    """The price class of a supply, and its watts."""
    if rail.kind == "inverter":
        return "inverter", rail.rated_w.value if rail.rated_w else USUAL_INVERTER_W
    if rail.converter == "outlet" or rail.efficiency.value >= 1.0:
        return "outlet", 0.0
    amps = rail.limit_a.value if rail.limit_a else USUAL_CONVERTER_A
    return "converter", amps * rail.volts.value


def _cable_kg(mm2: float) -> KnownKilos:
    """Weight of a metre of one conductor."""
    return KnownKilos(value=mm2 * COPPER_KG_M_MM2 * INSULATED)


def _slug(group: str, kind: str) -> str:
    return f"{group}-{kind}".replace("_", "-").replace("+", "")


def _capital(label: str) -> str:
    return label[0].upper() + label[1:]


def _fuses_of(run: Run) -> int:
    """How many fuses a run has: one in each lead where both have one, and one at each post of a
    link between banks."""
    both = (
        run.leg.row is not None and run.leg.row.fuse is not None and run.leg.row.fuse.lead == "both"
    )
    return (2 if both else 1) * (2 if run.leg.feeds == "layer" else 1)


def _wire(bus: BusModel) -> Iterator[Item]:
    """Cable by conductor, fuses by kind and rating, connectors and what lies in the way, each sort
    once."""
    metres: dict[float, float] = {}
    fuses: dict[tuple[str, float], int] = {}
    plugs: dict[str, int] = {}
    parts: dict[str, int] = {}
    for run in bus.runs:
        # Sorts are told apart as finely as they are named.
        area = round(run.mm2, 2)
        metres[area] = metres.get(area, 0.0) + POLES * run.laid.length_m * SPARE
        if run.fuse.kind != "none":
            key = (run.fuse.kind, float(f"{run.fuse.rating_a:g}"))
            fuses[key] = fuses.get(key, 0) + _fuses_of(run)
        plugs[run.connector] = plugs.get(run.connector, 0) + CONNECTORS_A_RUN
        for part in run.parts:
            parts[part.kind] = parts.get(part.kind, 0) + 1
    for mm2, length in sorted(metres.items()):
        if length > 0:
            name = f"Cable {size_name(bus.book, mm2)}, single"
            yield Item(
                id=f"cable-{mm2:.2f}",
                group="Wiring",
                name=name,
                quantity=length,
                unit="m",
                weight_kg=_cable_kg(mm2),
                price_class="cable",
                size=mm2,
            )
    for (kind, rating_a), count in sorted(fuses.items()):
        holder = "" if kind == "breaker" else ", with holder"
        name = f"{_capital(rows_by('fuse_families', 'kind')[kind]['label'])} {rating_a:g} A{holder}"
        yield Item(
            id=_slug("fuse", f"{kind}-{rating_a:g}"),
            group="Wiring",
            name=name,
            quantity=float(count),
            unit="×",
            price_class=f"fuse-{kind}",
            size=rating_a,
        )
    for kind, count in sorted(plugs.items()):
        label = rows_by("connectors", "connector")[kind]["label"]
        yield Item(
            id=_slug("connector", kind),
            group="Wiring",
            name=_capital(label),
            quantity=float(count),
            unit="×",
            price_class="connector",
        )
    for kind, count in sorted(parts.items()):
        label = rows_by("bus_parts", "part")[kind]["label"]
        yield Item(
            id=_slug("part", kind),
            group="Wiring",
            name=_capital(label),
            quantity=float(count),
            unit="×",
            price_class="junction" if kind == "junction" else "part",
        )
    yield Item(
        id="label-fuse",
        group="Wiring",
        name="Labels, one for each fuse",
        quantity=float(sum(fuses.values())),
        unit="×",
        price_class="label",
    )


def _converters(design: Design) -> Iterator[Item]:
    for rail in design.draw.rails:
        named, size = _rail_class(rail)
        yield Item(
            id=f"rail-{rail.id}",
            group="Loads",
            name=rail.name,
            quantity=1.0,
            unit="×",
            price_class=named,
            size=size,
        )
    if design.bus.box is not None:
        yield Item(
            id="box",
            group="Wiring",
            name="Box for the electronics",
            quantity=1.0,
            unit="×",
            price_class="box",
        )


def items_of(design: Design, bus: BusModel) -> tuple[Item, ...]:
    """Every line, in the order energy flows. The loads themselves are what the station is for, and
    no part of it."""
    return (*_array(design), *_store(design), *_wire(bus), *_converters(design))


@dataclass(frozen=True, slots=True)
class Reuse:
    """Panels of the shelf that would do in a string, and those that would not, with why."""

    id: str
    """Of the string."""
    name: str
    fit: int
    needed: int
    words: str


def unfit_panel(module: Module, wanted: Module) -> str:
    """Why a panel does not do in a string; nothing where it does."""
    if module.condition == "cracked":
        return "its glass is cracked"
    if module.cells != wanted.cells:
        return f"it has {module.cells} cells, and the string has {wanted.cells}"
    if abs(module.watts.value / wanted.watts.value - 1.0) > LIKE_WATTS:
        return f"{module.watts.value:g} W doesn't match {wanted.watts.value:g} W"
    return ""


def reuse_of(design: Design) -> tuple[Reuse, ...]:
    """Which panels at hand do for which string: like cells, label watts within a tenth, and glass
    that is whole."""
    found = []
    for string in design.array.strings:
        needed, told, fit = string.series * string.parallel, [], 0
        for item in design.array.shelf_modules:
            why = unfit_panel(item.module, string.module)
            fit += 0 if why else item.count
            told.append(
                f"{item.name} can't be used: {why}"
                if why
                else f"you can use {item.count} of {item.name}"
            )
        if told:
            found.append(
                Reuse(
                    string.id,
                    string.name,
                    min(fit, needed),
                    needed,
                    f"{string.name}: {'; '.join(told)}.",
                )
            )
    return tuple(found)
