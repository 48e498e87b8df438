"""Findings about the volts at a load: too many, too few, and the wrong system altogether."""

from collections.abc import Iterator

from ...changes import Change, add, replace
from ...design import as_labelled, with_draw
from ...draw import LoadDraw, power_within_w, usual_rails
from ...electrical import usual_window
from ...finding import Finding
from ...report import Report
from ...station import StationModel
from ...store import bank_resistance_ohm, charge_settings, kind_of, rest_v
from ..register import rule
from ..remedies import lasting, try_change

NEAR_V = 0.02
LEAST_OHM = 1e-9
"""No bank resists less; a figure that rounds to nothing is not divided by."""


def _on_the_bus(station: StationModel) -> Iterator[tuple[int, LoadDraw]]:
    """Loads straight on the battery bus, with their places in the document."""
    for index, item in enumerate(station.draw.loads):
        if item.rail is None:
            yield index, item


def _highest_charge_v(station: StationModel) -> tuple[float, str]:
    """The highest volts the bus sees on an ordinary day, and what brings them."""
    bank = station.bank
    if bank is None:
        return station.bus_v, "the bank"
    setting = charge_settings(bank.bank, station.bus_v, bank.held_ah, float(bank.month_c.min()))[0]
    found = [(max(setting.absorb_v, setting.absorb_cold_v), "absorption on a cold day")]
    for charger in station.design.array.chargers:
        if charger.volts is not None and charger.kind != "panel_supply":
            found.append((charger.volts.value, charger.name))
    return max(found)


@rule
def wrong_system_volts(station: StationModel, report: Report) -> Iterator[Finding]:
    """A load made for another system voltage, straight on the bus."""
    for index, item in _on_the_bus(station):
        window = usual_window(item.load)
        if window is None or window.low_v <= station.bus_v <= window.high_v:
            continue
        over = station.bus_v > window.high_v
        if not over and station.low_end_v > 0 and station.bus_v > 0.95 * window.low_v:
            continue
        yield Finding(
            f"draw.system_volts.{item.load.id}",
            "stop",
            "draw",
            f"{item.load.name} wants {window.low_v:g} to {window.high_v:g} V and is on a bus of {station.bus_v:g} V",
            "It would be destroyed on the first connection. Put a converter between, as a rail."
            if over
            else "It does not run there. Put a converter between, as a rail, or put batteries in series.",
            f"/draw/loads/{index}/rail",
        )


@rule
def too_many_volts(station: StationModel, report: Report) -> Iterator[Finding]:
    """Charging volts above what a load stands."""
    highest_v, what = _highest_charge_v(station)
    for index, item in _on_the_bus(station):
        window = usual_window(item.load)
        if window is None or station.bus_v > window.high_v or highest_v <= window.high_v + NEAR_V:
            continue
        yield Finding(
            f"draw.over_volts.{item.load.id}",
            "fix",
            "draw",
            f"{item.load.name} may have {window.high_v:.1f} V, and {what} brings {highest_v:.1f} V",
            "Sets switch off or are damaged above their window. Lower the absorption volts, take it off the bus while "
            "charging, or give it a regulated converter.",
            f"/draw/loads/{index}/window",
        )


@rule
def equalising(station: StationModel, report: Report) -> Iterator[Finding]:
    """An equalising charge above what the sets on the bus stand."""
    bank = station.design.store.bank
    if bank is None or report.store is None:
        return
    highest_v = max((setting.equalise_v or 0.0 for setting in report.store.settings), default=0.0)
    named = [
        item.load.name
        for _, item in _on_the_bus(station)
        if (window := usual_window(item.load)) and station.bus_v <= window.high_v < highest_v
    ]
    if named:
        yield Finding(
            "draw.equalise",
            "mind",
            "draw",
            f"Equalising goes to {highest_v:.1f} V: take {' and '.join(named)} off the bus while it lasts",
            "Flooded cells are overcharged on purpose now and then. It is above what these loads may have.",
            "/store/bank/chemistry",
        )


def _carried_w(station: StationModel, item: LoadDraw, low_v: float, charge_share: float) -> float | None:
    """The highest power at which the posts stay at a set's least volts, everything else receiving. [W]"""
    bank = station.bank
    if bank is None:
        return None
    sag_v = rest_v(bank.bank, station.bus_v, charge_share) - low_v
    ohm = max(bank_resistance_ohm(bank.bank, station.bus_v, bank.hard_c), LEAST_OHM)
    flows_a = sag_v / ohm
    others_a = sum(other.receive_a for other in station.draw.loads) - item.receive_a
    return power_within_w(item.load, (flows_a - others_a) / item.load.quantity)


def _power_words(station: StationModel, item: LoadDraw, low_v: float) -> str:
    full_w, half_w = (_carried_w(station, item, low_v, share) for share in (1.0, 0.5))
    if full_w is None or half_w is None:
        return ""
    rated = item.load.rated_w
    if rated is not None and half_w >= rated.value:
        return f" Keyed alone, a half full bank still carries all {rated.value:.0f} W of it."
    return f" Keyed alone, a full bank carries {full_w:.0f} W of it, a half full one {half_w:.0f} W."


@rule
def too_few_volts(station: StationModel, report: Report) -> Iterator[Finding]:
    """A set that sags below its window with everything keyed at the end of what may be used."""
    bank = station.bank
    if bank is None:
        return
    told = False
    for index, item in _on_the_bus(station):
        window = usual_window(item.load)
        if window is None or item.load.transmit_a is None or station.bus_v > window.high_v:
            continue
        if station.bus_v < 0.95 * window.low_v or station.low_end_v >= window.low_v:
            continue
        said = item.load.window != "none"
        lead = kind_of(bank.bank.chemistry).is_lead
        yield Finding(
            f"draw.under_volts.{item.load.id}",
            "fix" if said else "mind",
            "draw",
            f"{item.load.name} wants {window.low_v:.1f} V, and the posts come to {station.low_end_v:.1f} V "
            "on the key where the depth allowed ends",
            "Cable and fuse take more. First the power falls, then the signal distorts, then it switches off. "
            + ("Use less of the lead, " if lead else "Use less of the bank, ")
            + "turn the power down, or give that set a boost converter."
            + _power_words(station, item, window.low_v),
            f"/draw/loads/{index}/window",
            () if station.trial or told else tuple(_regulated(station, index)),
        )
        told = True


def _regulated(station: StationModel, index: int) -> Iterator[Change]:
    """Two schools, each with what it costs: a regulated converter for the one set, and for the whole bus."""
    draw = station.design.draw
    usual = next(rail for rail in usual_rails() if rail.id == "regulated")
    if station.bus_v > usual.volts.value or any(rail.id == usual.id for rail in draw.rails):
        return
    every = [number for number, _ in _on_the_bus(station)]
    cases = [(f"{draw.loads[index].name} alone on a converter, {usual.name}", [index])]
    if len(every) > 1:
        cases.append((f"The whole bus on a converter, {usual.name}", every))
    for label, chosen in cases:
        loads = [
            load.model_copy(update={"rail": usual.id}) if number in chosen else load
            for number, load in enumerate(draw.loads)
        ]
        # Watts of a label come to other amps at the converter's volts.
        changed = as_labelled(with_draw(station.design, loads=loads, rails=[*draw.rails, usual]))
        patch = [add("/draw/rails/-", usual.model_dump(mode="json"))]
        patch += [replace(f"/draw/loads/{number}/rail", usual.id) for number in chosen]
        yield try_change(station, label, changed, patch, lasting(station))
