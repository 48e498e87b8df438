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
                sentence=f"{source.name} never fills the bank",
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
            sentence=f"{charger.name} puts {charger.volts.value:.1f} V on a bank that should see "
            f"{most_charge_v(bank):.1f} V at most",
            why="Lead boils dry and gives off hydrogen."
            if lead
            else "Its electronics cut off, or its cells are spoilt.",
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
                    f"{charger.name} is set to {volts.value:g} V, and it can be turned from "
                    f"{least} to {most} V"
                ),
                why=(
                    "One of the figures is wrong, and what the bank is charged with follows "
                    "from them."
                ),
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
                    f"{charger.name} can be turned up to {high.value:g} V, and absorption is "
                    f"{full_v:.1f} V"
                ),
                why=(
                    "It holds or fills slowly. Another source must bring the bank to full "
                    "now and then."
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
                    "When the mains fail the station is off until somebody turns the "
                    f"selector from {charger.name}"
                ),
                why="That is a minute while somebody is there."
                if there
                else "Nobody is there to turn it. An automatic "
                "changeover unit, or a supply floated on the bus behind a diode, needs no hand.",
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
                why="Past its input limit a controller dies at once.",
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
                    "A panel stands that, a supply does not: one of the two burns. Put the "
                    "supply on the bank."
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
                + (f" rated for {most.value:g} A" if most else " whose amps nobody has given"),
                why="A panel limits its own current; a supply does not, and a PWM controller "
                "joins it straight to the "
                "bank. Turn the supply's current limit down.",
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
        sentence="The alternator lies straight on the bank, without a DC-DC charger",
        why=(
            "Lithium takes all an alternator can give until it burns out; its cut-off can "
            "kill the engine's "
            "electronics."
        )
        if lithium
        else (
            "Volts and current then follow the engine, not the battery: it never gets full, "
            "or it boils."
        ),
        pointer="/array/alternator/dc_dc",
        remedies=(
            mending(
                station,
                "A DC-DC charger",
                "limited current at the bank's volts",
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
            sentence=f"{charger.name} stays on the bank: {'nothing' if known else 'perhaps nothing'} "
            "keeps the bank "
            "from feeding back into it",
            why="With the mains gone some supplies draw the bank down, or are damaged. A diode "
            "costs 0.3–0.7 V, an "
            "ideal diode or a changeover unit some hundredths.",
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
                f"{charger.name} holds the bank at {told.words[0]} for weeks, and "
                f"{told.words[1]} is the most for that"
            ),
            why="That is an absorption level: right for some hours, wrong for weeks. "
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
            sentence=f"{charger.name} {'passes' if passes else 'gives'} {gives_a:g} A, and the station "
            "draws "
            f"{average:.1f} A on average",
            why=(
                "What it does not pass the bank must give, and runs down on mains."
                if passes
                else (
                    "What is left over charges the bank; with nothing left over it runs down "
                    "on mains."
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
        return " Receiving alone takes all it gives."
    return (
        ""
        if share >= 1
        else f" It carries {percent(share)} of the time on the key that is planned."
    )
