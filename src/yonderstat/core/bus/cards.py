"""Order cards: what is joined first and what last, what a turned switch does, and the readings to
expect.

Orders are common practice [C]: battery before panel on the way in, panel before battery on the way
out. The main switch is closed before any charger is joined, since a charger fed from the loads'
leads sees no bank until then; and a resistor charges an inverter only once the main fuse stands
behind the open switch.
"""

from collections.abc import Iterator

from ..chemistries import kind_of
from ..design import MAIN_RUN, POST, Design
from .report import Card, CardStep, InverterFigures, LoadAtBus, RunFigures

LEADS = (
    "A short circuit here melts tools. First take off rings, use insulated tools, "
    "cover the terminals, pull every fuse, open every switch."
)


def _charge_runs(runs: tuple[RunFigures, ...]) -> list[RunFigures]:
    return [run for run in runs if run.feeds == "charge"]


def _connect(
    design: Design, runs: tuple[RunFigures, ...], inverters: tuple[InverterFigures, ...]
) -> Iterator[CardStep]:
    yield CardStep(
        "Measure the volts at the battery terminals, red lead on plus. Note volts and polarity."
    )
    main = next(run for run in runs if run.id == MAIN_RUN)
    yield CardStep(
        "Connect the main cable to the battery, minus last. Then fit main fuse "
        f"F{main.number}. Leave the main switch off."
    )
    for item in inverters:
        yield CardStep(
            (
                f"{item.name}: a spark burns the contacts. Before you close its switch, hold the "
                "resistor across it."
            ),
            item.precharge_s,
        )
    yield CardStep("Close the main switch.")
    for run in _charge_runs(runs):
        yield CardStep(
            f"Connect {run.name} to {run.fed_from_name}, then fit fuse F{run.number}. It "
            "must now show the battery voltage."
        )
    if design.array.strings:
        yield CardStep(
            "Cover the panels or open their switch. Connect the panel leads to the controller, "
            "plus to plus. Then uncover the panels or close the switch."
        )
    yield CardStep(
        "Switch on the loads one at a time, the simplest first. After ten minutes, feel "
        "every connector for heat."
    )


def _disconnect(design: Design, runs: tuple[RunFigures, ...]) -> Iterator[CardStep]:
    yield CardStep(
        "A plug pulled under load makes an arc: switch radios and loads off at their own "
        "switches first."
    )
    if any(charger.kind != "generator" for charger in design.array.chargers):
        yield CardStep("Switch off mains chargers and power supplies.")
    if design.array.strings:
        yield CardStep(
            "Cover the panels or open their switch. Then disconnect their leads from the "
            "controller."
        )
    for run in _charge_runs(runs):
        yield CardStep(f"{run.name}: take out fuse F{run.number}.")
    main = next(run for run in runs if run.id == MAIN_RUN)
    yield CardStep(
        f"Open the main switch and take out fuse F{main.number}. Disconnect minus from "
        "the battery first, then plus. Cover both terminals."
    )


def _turned(design: Design) -> Iterator[CardStep]:
    yield CardStep("Set all radios to receive. Nobody transmits.")
    yield CardStep(
        "A large current flows between unequal batteries. If the two differ by more than "
        "0.5 V, don't turn through “both”."
    )
    if design.array.strings:
        yield CardStep(
            "Disconnect the panels first, at their switch, or cover them: a controller without "
            "its battery lets the voltage rise and can damage radios."
        )
    elif design.array.chargers:
        yield CardStep(
            "Switch chargers off first: without its battery a charger may let the voltage rise "
            "and damage radios."
        )
    yield CardStep("Turn past “off” without stopping there.")
    for layer in design.store.layers:
        if layer.joining == "switch":
            yield CardStep(
                f"In position {layer.name}, only the sources connected to it charge it. In "
                "“both”, the two batteries are in parallel."
            )
    if design.array.strings:
        yield CardStep("Connect the panels again, and check that they charge the battery.")


def _unplugged(runs: tuple[RunFigures, ...]) -> Iterator[CardStep]:
    shared = [run for run in _charge_runs(runs) if run.fed_from != POST]
    if shared:
        names = " and ".join(run.name for run in shared)
        yield CardStep(
            f"Panel voltage reaches the radios: cover the panels at once. {names} shares the "
            "leads of the loads."
        )
    yield CardStep("Cover the panels or open their switch before you reconnect the battery lead.")
    yield CardStep(
        "Find the cause: a loose lug, a blown fuse, battery electronics that tripped. Then "
        "follow the card “Connect”."
    )


def _restart(design: Design, runs: tuple[RunFigures, ...]) -> Iterator[CardStep]:
    main = next(run for run in runs if run.id == MAIN_RUN)
    yield CardStep(
        f"Switch all loads off. Check fuse F{main.number} and the fuse of the load that ran last."
    )
    if design.store.bank and kind_of(design.store.bank.chemistry).has_electronics:
        yield CardStep(
            "Measure the battery. No volts at all means its electronics tripped; the battery "
            "isn't dead."
        )
        yield CardStep(
            "Wake it with a charger or controller that can start at 0 V. Panels alone may not "
            "do it."
        )
    else:
        yield CardStep(
            "Measure the battery at rest. Below its cut-off voltage it is empty: charge it first."
        )
    yield CardStep(
        "Switch on vital loads first. Add the next one only after the volts have stayed "
        "steady for a minute."
    )


def _first_power(
    design: Design, loads: tuple[LoadAtBus, ...], runs: tuple[RunFigures, ...]
) -> Iterator[CardStep]:
    yield CardStep(
        "At the battery terminals: battery full and rested, all loads off.",
        "bus.expect.post_v" if loads else None,
    )
    for item in loads:
        yield CardStep(f"At {item.name}, receiving, with everything else on.", item.receive_v[0])
        if item.keyed_grade is not None:
            yield CardStep(f"At {item.name}, transmitting at full power.", item.keyed_v[0])
    if design.bus.meter_at:
        yield CardStep(
            f"The meter ({design.bus.meter_at}) shows current out while a radio is on, and "
            "current in while the sun shines."
        )
    for run in runs:
        if run.feeds == "bus":
            yield CardStep(
                (
                    "Voltage drop from battery to bus while everything that can transmit does. A "
                    "higher reading means a bad joint."
                ),
                run.drop_v,
            )


def cards_of(
    design: Design,
    loads: tuple[LoadAtBus, ...],
    runs: tuple[RunFigures, ...],
    inverters: tuple[InverterFigures, ...],
) -> tuple[Card, ...]:
    """The cards of a design, in the order they are needed.

    Parameters
    ----------
    loads : tuple of LoadAtBus
        Volts at each set.
    runs : tuple of RunFigures
        Every run of wire.
    inverters : tuple of InverterFigures
        What stands on the AC rails.
    """
    cards = [
        Card("connect", "Connect", LEADS, tuple(_connect(design, runs, inverters))),
        Card(
            "disconnect",
            "Disconnect",
            "Panels are live in any light.",
            tuple(_disconnect(design, runs)),
        ),
        Card(
            "power-up",
            "First power-up: what you should read",
            LEADS,
            tuple(_first_power(design, loads, runs)),
        ),
        Card(
            "restart",
            "Restart after a cut-off",
            "Find the cause before you replace a fuse.",
            tuple(_restart(design, runs)),
        ),
        Card(
            "unplugged",
            "The battery came loose",
            "Radios can be damaged: a charger without its battery lets the voltage rise.",
            tuple(_unplugged(runs)),
        ),
    ]
    selector = any(charger.kind == "selector" for charger in design.array.chargers)
    if selector or any(layer.joining == "switch" for layer in design.store.layers):
        cards.append(
            Card(
                "selector",
                "Turning the battery selector",
                "Different batteries in parallel can be damaged: never use “both” with them.",
                tuple(_turned(design)),
            )
        )
    return tuple(cards)
