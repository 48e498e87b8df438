"""Findings about chargers, supplies and generators."""

from collections.abc import Iterator

from ...array import is_too_high, most_charge_v, rated_input_v
from ...calendar import HOURS_A_DAY
from ...changes import replace
from ...claim import more
from ...controllers import controller_type
from ...data import rows_by
from ...design import Bank, Charger, with_array
from ...electrical import blocks_of_12v
from ...finding import Finding
from ...report import Report
from ...station import StationModel
from ...store import charge_settings, kind_of
from ...words import percent
from ..register import rule
from ..remedies import mending

HELD = {"bench_supply", "changeover", "maintainer"}
"""Kinds that hold the bank at their volts for weeks."""
MARGIN = 1.2
LEAST_SHARE = 0.01
NEAR_V = 0.1


@rule
def source_too_low(station: StationModel, report: Report) -> Iterator[Finding]:
    """A source whose volts never fill the bank."""
    for index, source in enumerate(report.charging.sources):
        if not source.works:
            yield Finding(
                id=f"array.source_low.{source.id}",
                severity="stop",
                step="array",
                sentence=f"{source.name} never fills the battery",
                why=source.words,
                pointer=f"/array/chargers/{index}/volts",
            )


@rule
def source_too_high(station: StationModel, report: Report) -> Iterator[Finding]:
    """A source set above what any school of thought charges this bank with."""
    bank = station.design.store.bank
    if bank is None:
        return
    for index, charger in enumerate(station.design.array.chargers):
        if not is_too_high(charger, bank) or charger.volts is None:
            continue
        lead = kind_of(bank.chemistry).is_lead
        yield Finding(
            id=f"array.source_high.{charger.id}",
            severity="stop",
            step="array",
            sentence=f"{charger.name} puts {charger.volts.value:.1f} V on a battery that should "
            f"get {most_charge_v(bank):.1f} V at most",
            why="Lead boils dry and gives off hydrogen."
            if lead
            else "Its electronics cut off, or its cells are damaged.",
            pointer=f"/array/chargers/{index}/volts",
        )


@rule
def outside_its_range(station: StationModel, report: Report) -> Iterator[Finding]:
    """A supply said to be set where it cannot be turned, or that cannot be turned up to what fills
    the bank."""
    full_v = station.array.absorb_v
    for index, charger in enumerate(station.design.array.chargers):
        low, high, volts = charger.least_v, charger.most_v, charger.volts
        at = f"/array/chargers/{index}"
        beyond = volts and (
            (high and volts.value > high.value) or (low and volts.value < low.value)
        )
        if beyond and volts:
            least, most = (f"{end.value:g}" if end else "any" for end in (low, high))
            yield Finding(
                id=f"array.supply_range.{charger.id}",
                severity="fix",
                step="array",
                sentence=(
                    f"{charger.name} is set to {volts.value:g} V, but its range is {least} to "
                    f"{most} V"
                ),
                why=("One of these figures is wrong, and the charging voltage depends on them."),
                pointer=f"{at}/volts",
            )
        elif (
            volts is None
            and high
            and charger.kind != "panel_supply"
            and high.value < full_v - NEAR_V
        ):
            yield Finding(
                id=f"array.supply_low.{charger.id}",
                severity="mind",
                step="array",
                sentence=(
                    f"{charger.name} goes up to {high.value:g} V; absorption needs {full_v:.1f} V"
                ),
                why=(
                    "It keeps the battery up, or fills it slowly. Another source must charge "
                    "it fully now and then."
                ),
                pointer=f"{at}/most_v",
            )


@rule
def waits_for_a_hand(station: StationModel, report: Report) -> Iterator[Finding]:
    """Stand-by by a selector: the mains fail, and somebody must turn it."""
    if not station.purpose.mains_normally or not station.purpose.is_spell:
        return
    for index, charger in enumerate(station.design.array.chargers):
        if charger.kind == "selector":
            there = station.design.brief.attended == "present"
            yield Finding(
                id=f"array.selector.{charger.id}",
                severity="mind" if there else "fix",
                step="array",
                sentence=(
                    "When the mains fail, the station is off until somebody switches over from "
                    f"{charger.name}"
                ),
                why="With somebody on site, that takes about a minute."
                if there
                else "Nobody is on site to do it. An automatic changeover unit does it alone; so "
                "does a supply floated on the bus behind a diode.",
                pointer=f"/array/chargers/{index}/kind",
            )


@rule
def supply_on_panel_terminals(station: StationModel, report: Report) -> Iterator[Finding]:
    """A supply in the panel's place: above the controller's input, or stiff where nothing limits
    its current."""
    strings = {string.id: string for string in station.design.array.strings}
    for index, charger in enumerate(station.design.array.chargers):
        string = strings.get(charger.through or "")
        if charger.kind != "panel_supply" or string is None:
            continue
        limit_v = (
            rated_input_v(string, blocks_of_12v(station.bus_v))
            if controller_type(string.controller).regulates
            else None
        )
        if charger.volts is not None and limit_v is not None and charger.volts.value > limit_v:
            yield Finding(
                id=f"array.supply_over.{charger.id}",
                severity="stop",
                step="array",
                sentence=(
                    f"{charger.name} puts {charger.volts.value:.0f} V on panel terminals "
                    f"rated for {limit_v:.0f} V"
                ),
                why="Above its input limit a controller dies at once.",
                pointer=f"/array/chargers/{index}/volts",
            )
        kind = controller_type(string.controller)
        if kind.shorts:
            yield Finding(
                id=f"array.supply_shorted.{charger.id}",
                severity="stop",
                step="array",
                sentence=(
                    f"{charger.name} feeds a {kind.named}, which shorts what feeds it once "
                    "the battery is full"
                ),
                why=(
                    "Fire hazard: a panel survives that, a power supply does not, and one of "
                    "the two burns. Connect the supply to the battery."
                ),
                pointer=f"/array/chargers/{index}/through",
            )
        most = string.regulator.max_charge_a
        if (
            kind.passes_current
            and not kind.shorts
            and (most is None or charger.amps.value > most.value)
        ):
            yield Finding(
                id=f"array.supply_stiff.{charger.id}",
                severity="fix" if most else "mind",
                step="array",
                sentence=(
                    f"{charger.name} gives up to {charger.amps.value:g} A into a PWM controller"
                )
                + (f" rated for {most.value:g} A" if most else " ; its rated amps are not entered"),
                why="A panel limits its own current; a supply does not. A PWM controller "
                "connects it straight to the battery. Turn down the supply's current limit.",
                pointer=f"/array/chargers/{index}/amps",
            )


@rule
def alternator_straight_on(station: StationModel, report: Report) -> Iterator[Finding]:
    """An alternator on the bank without anything that limits its current."""
    engine, bank = station.design.array.alternator, station.design.store.bank
    if engine is None or engine.dc_dc or bank is None:
        return
    lithium = not kind_of(bank.chemistry).is_lead
    yield Finding(
        id="array.no_dc_dc",
        severity="stop" if lithium else "fix",
        step="array",
        sentence="The alternator is connected straight to the battery, without a DC-DC charger",
        why=(
            "The alternator can burn out: lithium takes all the current it can give. If the "
            "battery then cuts off, the voltage spike can kill the vehicle's electronics."
        )
        if lithium
        else (
            "The battery never gets full, or it boils: volts and current follow the engine, "
            "not the battery."
        ),
        pointer="/array/alternator/dc_dc",
        remedies=(
            mending(
                station,
                "Add a DC-DC charger",
                "limits the current, and charges at the battery's voltage",
                with_array(station.design, alternator=engine.model_copy(update={"dc_dc": True})),
                [replace("/array/alternator/dc_dc", True)],
            ),
        ),
    )


@rule
def feeds_back(station: StationModel, report: Report) -> Iterator[Finding]:
    """A supply left in parallel with the bank and nothing that stops the current flowing back."""
    for index, charger in enumerate(station.design.array.chargers):
        if charger.kind != "bench_supply" or charger.blocks_back == "yes":
            continue
        known = charger.blocks_back == "no"
        yield Finding(
            id=f"array.back_feed.{charger.id}",
            severity="fix" if known else "mind",
            step="array",
            sentence=f"{charger.name} stays connected: {'nothing' if known else 'perhaps nothing'} "
            "stops the battery from feeding back into it",
            why="When the mains fail, some supplies drain the battery or are damaged. A diode "
            "costs 0.3–0.7 V; an ideal diode or a changeover unit costs almost nothing.",
            pointer=f"/array/chargers/{index}/blocks_back",
        )


def _held_for_weeks(station: StationModel, charger: Charger) -> bool:
    """Whether its mains are there for weeks on end: at a site that has them, or where the station
    stands between its journeys; not where it is said to run some hours of the day."""
    some_hours = charger.hours_per_day.basis != "default" and charger.running_h < HOURS_A_DAY / 2
    return (station.purpose.mains_normally or charger.at_home) and not some_hours


def _asked_of_a_supply(charger: Charger, bank: Bank) -> str:
    """That a changeover unit is usually fed at just these volts, which is a school; in words."""
    row = rows_by("changeover_volts", "chemistry").get(bank.chemistry)
    if charger.kind != "changeover" or row is None or charger.volts is None:
        return ""
    asked_v = float(row["volts_12v"]) * blocks_of_12v(bank.unit_v * bank.series)
    if abs(charger.volts.value - asked_v) > NEAR_V + 1e-9:
        return ""
    return (
        f" Such units are often fed at {asked_v:.1f} V for this kind of battery, so that it "
        "is full soon after an "
        "outage: a school that suits some hours a day."
    )


@rule
def held_too_high(station: StationModel, report: Report) -> Iterator[Finding]:
    """Absorption volts held for weeks."""
    bank = station.design.store.bank
    if bank is None:
        return
    setting = charge_settings(bank, bank.unit_v * bank.series, 100.0, 25.0)[0]
    # Where no school floats it, holding it anywhere is wrong; where several do, the highest float
    # is not.
    floats = [
        setting.float_v for setting in charge_settings(bank, bank.unit_v * bank.series, 100.0, 25.0)
    ]
    most = max((value for value in floats if value is not None), default=setting.absorb_v)
    for index, charger in enumerate(station.design.array.chargers):
        if (
            charger.kind not in HELD
            or charger.volts is None
            or charger.volts.value <= most + NEAR_V
        ):
            continue
        if (
            charger.stops_when_full
            or is_too_high(charger, bank)
            or not _held_for_weeks(station, charger)
        ):
            continue
        told = more("volts", charger.id, charger.volts.value, most, "V")
        yield Finding(
            id=f"array.held_high.{charger.id}",
            severity="fix",
            step="array",
            sentence=(
                f"{charger.name} keeps the battery at {told.words[0]} for weeks; "
                f"{told.words[1]} is the most for that"
            ),
            why="That is an absorption voltage: right for a few hours, wrong for weeks. "
            + (
                "Lead dries out."
                if kind_of(bank.chemistry).is_lead
                else "Lithium ages fast while it is full."
            )
            + _asked_of_a_supply(charger, bank),
            pointer=f"/array/chargers/{index}/volts",
            claims=(told,),
        )


@rule
def supply_too_small(station: StationModel, report: Report) -> Iterator[Finding]:
    """A supply or maintainer that gives hardly more than the station draws."""
    average = report.working[report.draw.average_a].number
    for index, charger in enumerate(station.design.array.chargers):
        # A changeover feeds the station past the bank: what it passes is what counts, where that is
        # known.
        passes = charger.passes_a if charger.kind == "changeover" else None
        gives_a = passes.value if passes else charger.amps.value
        if charger.kind not in HELD or average <= 0 or gives_a >= MARGIN * average:
            continue
        yield Finding(
            id=f"array.supply_small.{charger.id}",
            severity="fix" if gives_a <= average else "mind",
            step="array",
            sentence=f"{charger.name} {'passes' if passes else 'gives'} {gives_a:g} A; the station "
            f"uses {average:.1f} A on average",
            why=(
                "The battery must give the rest, and runs down even with mains."
                if passes
                else (
                    "Only what is left over charges the battery. With nothing left over, it "
                    "runs down even with the mains on."
                )
            )
            + _keyed_at_most(station, gives_a),
            pointer=f"/array/chargers/{index}/amps",
        )


def _keyed_at_most(station: StationModel, amps: float) -> str:
    """How much of the planned time on the key a supply carries by itself, in words; nothing where
    nobody keys."""
    month = station.hard_month - 1
    keyed = 0.0
    for item in station.draw.loads:
        adds_a = (item.transmit_a - item.receive_a) * item.load.transmit_share.value
        keyed += max(adds_a, 0.0) * float(item.hours[month]) / HOURS_A_DAY
    if keyed <= 0:
        return ""
    share = (amps - (station.daily_ah / HOURS_A_DAY - keyed)) / keyed
    if share < LEAST_SHARE:
        return " Receiving alone uses all that it gives."
    return "" if share >= 1 else f" It can supply {percent(share)} of the transmitting you planned."
