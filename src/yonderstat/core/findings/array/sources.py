"""Findings about chargers, supplies and generators."""

from collections.abc import Iterator

from ...finding import Finding
from ...report import Report
from ...station import StationModel
from ...store import charge_settings
from ..register import rule

HELD = {"bench_supply", "changeover", "maintainer"}
"""Kinds that hold the bank at their volts for weeks."""
MARGIN = 1.2
NEAR_V = 0.1


@rule
def source_too_low(station: StationModel, report: Report) -> Iterator[Finding]:
    """A source whose volts never fill the bank."""
    for index, source in enumerate(report.charging.sources):
        if not source.works:
            yield Finding(
                f"array.source_low.{source.id}",
                "stop",
                "array",
                f"{source.name} never fills the bank",
                source.words,
                f"/array/chargers/{index}/volts",
            )


@rule
def feeds_back(station: StationModel, report: Report) -> Iterator[Finding]:
    """A supply left in parallel with the bank and nothing that stops the current flowing back."""
    for index, charger in enumerate(station.design.array.chargers):
        if charger.kind != "bench_supply" or charger.blocks_back == "yes":
            continue
        known = charger.blocks_back == "no"
        yield Finding(
            f"array.back_feed.{charger.id}",
            "fix" if known else "mind",
            "array",
            f"{charger.name} stays on the bank: {'nothing' if known else 'perhaps nothing'} keeps the bank from "
            "feeding back into it",
            "With the mains gone some supplies draw the bank down, or are damaged. A diode costs 0.3–0.7 V; an ideal "
            "diode or a changeover unit costs none.",
            f"/array/chargers/{index}/blocks_back",
        )


@rule
def held_too_high(station: StationModel, report: Report) -> Iterator[Finding]:
    """Absorption volts held for weeks."""
    bank = station.design.store.bank
    if bank is None:
        return
    setting = charge_settings(bank, bank.unit_v * bank.series, 100.0, 25.0)[0]
    most = setting.float_v or setting.absorb_v
    for index, charger in enumerate(station.design.array.chargers):
        if charger.kind not in HELD or charger.volts is None or charger.volts.value <= most + NEAR_V:
            continue
        yield Finding(
            f"array.held_high.{charger.id}",
            "fix",
            "array",
            f"{charger.name} holds the bank at {charger.volts.value:.1f} V for weeks; it floats at {most:.1f} V",
            "That is an absorption level: right for some hours, wrong for weeks. Lead dries out, lithium ages full.",
            f"/array/chargers/{index}/volts",
        )


@rule
def supply_too_small(station: StationModel, report: Report) -> Iterator[Finding]:
    """A supply or maintainer that gives hardly more than the station draws."""
    average = report.working[report.draw.average_a].number
    for index, charger in enumerate(station.design.array.chargers):
        if charger.kind not in HELD or average <= 0 or charger.amps.value >= MARGIN * average:
            continue
        yield Finding(
            f"array.supply_small.{charger.id}",
            "fix" if charger.amps.value <= average else "mind",
            "array",
            f"{charger.name} gives {charger.amps.value:g} A, and the station draws {average:.1f} A on average",
            "What is left over charges the bank; with nothing left over it runs down on mains.",
            f"/array/chargers/{index}/amps",
        )
