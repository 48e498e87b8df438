"""Findings about the volts at a load: too many, too few, and the wrong system altogether."""

from collections.abc import Iterator

from ...draw import LoadDraw
from ...electrical import usual_window
from ...finding import Finding
from ...report import Report
from ...station import StationModel
from ...store import charge_settings
from ..register import mild_rule, rule

NEAR_V = 0.02


def _on_the_bus(station: StationModel) -> Iterator[tuple[int, LoadDraw]]:
    """Loads straight on the battery bus, with their places in the document."""
    for index, item in enumerate(station.draw.loads):
        if item.rail is None:
            yield index, item


def _highest_charge_v(station: StationModel) -> tuple[float, str]:
    """The highest volts the bus sees on an ordinary day, and what brings them."""
    bank = station.bank
    if bank is None:
        return station.bus_v, "the battery"
    setting = charge_settings(bank.bank, station.bus_v, bank.held_ah, float(bank.month_c.min()))[0]
    found = [(max(setting.absorb_v, setting.absorb_cold_v), "absorption charging on a cold day")]
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
            id=f"draw.system_volts.{item.load.id}",
            severity="stop",
            step="draw",
            sentence=(
                f"{item.load.name} needs {window.low_v:g} to {window.high_v:g} V, but the bus "
                f"is {station.bus_v:g} V"
            ),
            why=(
                "It would be destroyed the moment you connect it. Add a converter in Loads as a "
                "supply line, and connect the load to that."
            )
            if over
            else (
                "It will not run. Add a converter in Loads as a supply line, or connect batteries "
                "in series."
            ),
            pointer=f"/draw/loads/{index}/rail",
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
            id=f"draw.over_volts.{item.load.id}",
            severity="fix",
            step="draw",
            sentence=(
                f"{item.load.name} allows {window.high_v:.1f} V at most, but {what} gives "
                f"{highest_v:.1f} V"
            ),
            why="Above its voltage range a radio switches off or is damaged. Lower the absorption "
            "voltage, disconnect the load while charging, or feed it through a regulated "
            "converter.",
            pointer=f"/draw/loads/{index}/window",
        )


@mild_rule
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
            id="draw.equalise",
            severity="mind",
            step="draw",
            sentence=(
                f"Equalising reaches {highest_v:.1f} V: disconnect {' and '.join(named)} while "
                "it runs"
            ),
            why=(
                "That is more than these loads allow. Equalising is an occasional deliberate "
                "overcharge of flooded batteries."
            ),
            pointer="/store/bank/chemistry",
        )
