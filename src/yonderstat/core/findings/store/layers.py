"""Findings about layers beside the main bank, and about who charges whom."""

from collections.abc import Iterator

from ...changes import replace
from ...claim import less
from ...design import MAIN, Design, Layer, with_layer
from ...finding import Finding
from ...purposes import purpose_of
from ...report import Report
from ...station import StationModel
from ...store import kind_of
from ...words import counted
from ..register import mild_rule, rule
from ..remedies import mending

COMMON = {"switch", "lead"}
"""Ways of joining that can lay two banks in parallel."""
UNLIKE_SHARE = 0.1
LIKE_V = 0.6
HOURS_A_DAY = 24.0


def _unlike(design: Design, layer: Layer) -> str:
    """How a layer differs from the main bank, in words; empty where they are alike."""
    main = design.store.bank
    if main is None:
        return ""
    other = layer.bank
    if main.chemistry != other.chemistry:
        return f"{kind_of(main.chemistry).label} and {kind_of(other.chemistry).label}"
    one, two = main.unit_ah.value * main.parallel, other.unit_ah.value * other.parallel
    if abs(one - two) > UNLIKE_SHARE * max(one, two):
        return f"{one:.0f} Ah and {two:.0f} Ah"
    if (
        main.age_years
        and other.age_years
        and abs(main.age_years.value - other.age_years.value) > 1.0
    ):
        return f"{main.age_years.value:g} and {other.age_years.value:g} years old"
    return ""


@rule
def unlike_in_parallel(station: StationModel, report: Report) -> Iterator[Finding]:
    """Unlike banks that a switch on both, or a lead, lays in parallel."""
    for index, layer in enumerate(station.design.store.layers):
        told = _unlike(station.design, layer)
        if not told or layer.joining not in COMMON:
            continue
        at = f"/store/layers/{index}/joining"
        yield Finding(
            id=f"store.unlike.{layer.id}",
            severity="stop" if layer.joining == "lead" else "fix",
            step="store",
            sentence=(
                f"{layer.name} can end up in parallel with the main battery, and they differ: "
                f"{told}"
            ),
            why="Unlike batteries push current into each other, limited only by the leads, and the "
            "weaker one is ruined. Switch from one to the other, or connect them through a "
            "converter.",
            pointer=at,
            remedies=(
                mending(
                    station,
                    "Switch automatically: first the main battery, then this one",
                    "never in parallel",
                    with_layer(station.design, index, joining="automatic"),
                    [replace(at, "automatic")],
                ),
                mending(
                    station,
                    "Through a converter that charges this one from the main battery",
                    "never in parallel",
                    with_layer(station.design, index, joining="converter"),
                    [replace(at, "converter")],
                ),
            ),
        )


@rule
def volts_that_do_not_match(station: StationModel, report: Report) -> Iterator[Finding]:
    """A layer of another voltage than the bus it is switched to."""
    main = station.design.store.bank
    if main is None:
        return
    bus_v = main.unit_v * main.series
    for index, layer in enumerate(station.design.store.layers):
        volts = layer.bank.unit_v * layer.bank.series
        if (
            layer.joining in {"converter", "apart"}
            or abs(volts - bus_v) <= LIKE_V * max(1.0, bus_v / 12.0) + 0.3
        ):
            continue
        yield Finding(
            id=f"store.volts.{layer.id}",
            severity="stop",
            step="store",
            sentence=f"{layer.name} has {volts:g} V, but the bus is {bus_v:g} V",
            why=(
                "The loads get the wrong voltage the moment it takes over. Connect the right "
                "number of batteries in series, or use a converter."
            ),
            pointer=f"/store/layers/{index}/bank/series",
        )


@rule
def nobody_charges(station: StationModel, report: Report) -> Iterator[Finding]:
    """A bank or pack that no source charges."""
    if report.store is None:
        return
    for item in report.store.charged:
        kind = purpose_of(station.design.brief.purpose)
        mains_fill_it = kind.is_spell and kind.mains_normally
        if item.sources or (item.id == MAIN and not station.design.array.strings and mains_fill_it):
            continue
        yield Finding(
            id=f"store.uncharged.{item.id}",
            severity="fix",
            step="store",
            sentence=f"Nothing charges {item.name if item.id != MAIN else 'the main battery'}",
            why="It will be empty when you need it: a battery loses a few per cent a month by "
            "itself. In Battery, enter what charges it, and in which switch position.",
            pointer="/store/paths",
        )


@rule
def cascade_that_drains(station: StationModel, report: Report) -> Iterator[Finding]:
    """A power pack fed from the main bank, awake all day."""
    bank = station.design.store.bank
    if bank is None or report.store is None:
        return
    usable_wh = report.working[report.store.usable_wh].number
    for index, pack in enumerate(station.design.store.packs):
        fed = any(
            path.source == MAIN and path.bank == pack.id for path in station.design.store.paths
        )
        if not fed:
            continue
        idle_wh = pack.idle_w.value * HOURS_A_DAY
        share = pack.energy_wh.value / pack.efficiency.value / usable_wh if usable_wh > 0 else 1.0
        yield Finding(
            id=f"store.cascade.{pack.id}",
            severity="fix" if share > 0.25 else "mind",
            step="store",
            sentence=f"{pack.name} charges from the main battery: filling it takes {share * 100:.0f} "
            f"% of what that can give, and staying on takes {idle_wh:.0f} Wh a day",
            why="Energy is lost twice: charging the pack and coming out of it again. Charge it "
            "from the panels, or by day only, and switch it off in between.",
            pointer=f"/store/packs/{index}/idle_w",
        )


@rule
def pack_outlet_too_small(station: StationModel, report: Report) -> Iterator[Finding]:
    """A power pack whose 12 V outlet trips under the station."""
    peak = report.working[report.draw.peak_a].number
    for index, pack in enumerate(station.design.store.packs):
        if pack.dc_out_a is None or pack.dc_out_a.value >= peak:
            continue
        told = less("amps", "peak", pack.dc_out_a.value, peak, "A")
        yield Finding(
            id=f"store.pack_outlet.{pack.id}",
            severity="fix",
            step="store",
            sentence=(
                f"{pack.name}'s 12 V outlet gives {told.words[0]}; the station peaks at "
                f"{told.words[1]}"
            ),
            why=(
                "It switches off the first time you transmit. Turn the power down while you run "
                "from the pack, or run less from it."
            ),
            pointer=f"/store/packs/{index}/dc_out_a",
            claims=(told,),
        )


@rule
def carries_loads_of_its_own(station: StationModel, report: Report) -> Iterator[Finding]:
    """A layer or pack that loads hang on: it is no reserve of the station's, and lasts so long by
    itself."""
    draw, bank = station.design.draw, station.bank
    if report.store is None or bank is None:
        return
    for row in report.store.layers:
        drawn_wh, days = report.number(row.own_wh), report.number(row.own_days)
        if drawn_wh is None or days is None:
            continue
        asked = station.asked_days
        charged = any(path.bank == row.id for path in station.design.store.paths)
        rail = next(number for number, item in enumerate(draw.rails) if item.bank == row.id)
        yield Finding(
            id=f"store.own_loads.{row.id}",
            severity="mind" if charged or days >= asked else "fix",
            step="store",
            sentence=f"{row.name} has its own loads: {drawn_wh:.0f} Wh a day empties it in "
            f"{counted(days, 'day', 1)}; you asked for {asked:g}",
            why=("These loads don't use the main battery, and this battery is not its reserve. ")
            + (
                "Its own charging is not counted in these days."
                if charged
                else "Nothing charges it."
            ),
            pointer=f"/draw/rails/{rail}/bank",
        )


@mild_rule
def only_when_selected(station: StationModel, report: Report) -> Iterator[Finding]:
    """A bank or pack that is charged only in a switch position somebody must choose."""
    names = {layer.id: layer.name for layer in station.design.store.layers}
    names.update({pack.id: pack.name for pack in station.design.store.packs})
    for key, name in names.items():
        paths = [path for path in station.design.store.paths if path.bank == key]
        if paths and all(path.position.strip() for path in paths):
            where = " or ".join(f"“{path.position}”" for path in paths)
            yield Finding(
                id=f"store.selected.{key}",
                severity="mind",
                step="store",
                sentence=f"{name} charges only while the switch is at {where}",
                why=("In any other position it gets no charge, and slowly loses what it has."),
                pointer="/store/paths",
            )
