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
    "Before anything: rings off, insulated tools, posts covered, every fuse out and every "
    "switch off."
)


def _charge_runs(runs: tuple[RunFigures, ...]) -> list[RunFigures]:
    return [run for run in runs if run.feeds == "charge"]


def _connect(
    design: Design, runs: tuple[RunFigures, ...], inverters: tuple[InverterFigures, ...]
) -> Iterator[CardStep]:
    yield CardStep("Measure the battery at its posts, plus to plus: note volts and polarity.")
    main = next(run for run in runs if run.id == MAIN_RUN)
    yield CardStep(
        f"Main run on the posts, minus last; then main fuse F{main.number} in, main switch "
        "still off."
    )
    for item in inverters:
        yield CardStep(
            f"{item.name}: hold the resistor across the open switch before it closes.",
            item.precharge_s,
        )
    yield CardStep("Main switch on.")
    for run in _charge_runs(runs):
        yield CardStep(
            f"{run.name} to {run.fed_from_name}; then its fuse F{run.number}: it reads the bank."
        )
    if design.array.strings:
        yield CardStep(
            "Cover the panels or open their switch; panel leads to the controller, plus to "
            "plus; uncover."
        )
    yield CardStep(
        "Loads one at a time, the plainest first; feel every connector after ten minutes."
    )


def _disconnect(design: Design, runs: tuple[RunFigures, ...]) -> Iterator[CardStep]:
    yield CardStep("Sets and loads off at their own switches: no plug is pulled under load.")
    if any(charger.kind != "generator" for charger in design.array.chargers):
        yield CardStep("Mains chargers and supplies off.")
    if design.array.strings:
        yield CardStep("Panels covered or their switch open, then their leads off the controller.")
    for run in _charge_runs(runs):
        yield CardStep(f"{run.name}: fuse F{run.number} out.")
    main = next(run for run in runs if run.id == MAIN_RUN)
    yield CardStep(
        f"Main switch off, fuse F{main.number} out, minus off the post first, then plus; "
        "cover both."
    )


def _turned(design: Design) -> Iterator[CardStep]:
    yield CardStep("Sets to receive, nothing keyed.")
    yield CardStep("Read both banks: more than half a volt apart, do not go over “both”.")
    if design.array.strings:
        yield CardStep(
            "Panels open first, at their switch or covered: a controller that loses its bank "
            "runs away."
        )
    elif design.array.chargers:
        yield CardStep("Chargers off first: one that loses its bank may run away.")
    yield CardStep("Turn past “off” without stopping there.")
    for layer in design.store.layers:
        if layer.joining == "switch":
            yield CardStep(
                f"On {layer.name} only what a path leads to it charges; on both the two lie "
                "in parallel."
            )
    if design.array.strings:
        yield CardStep("Panels closed again, and a look whether the bank is charged.")


def _unplugged(runs: tuple[RunFigures, ...]) -> Iterator[CardStep]:
    shared = [run for run in _charge_runs(runs) if run.fed_from != POST]
    if shared:
        names = " and ".join(run.name for run in shared)
        yield CardStep(
            f"Cover the panels at once: {names} is on the loads' leads, and its volts reach "
            "the radios."
        )
    yield CardStep("Panels covered or their switch open, before the lead goes back on.")
    yield CardStep(
        "Look for why: a loose lug, a blown fuse, electronics that tripped. Then as in “Connect”."
    )


def _restart(design: Design, runs: tuple[RunFigures, ...]) -> Iterator[CardStep]:
    main = next(run for run in runs if run.id == MAIN_RUN)
    yield CardStep(f"All loads off. Look at F{main.number} and the fuse of whatever ran last.")
    if design.store.bank and kind_of(design.store.bank.chemistry).has_electronics:
        yield CardStep(
            "Read the battery: no volts at all means its electronics tripped, not that it is dead."
        )
        yield CardStep(
            "Wake it with a charger or a controller that charges from nothing; panels alone "
            "may not."
        )
    else:
        yield CardStep(
            "Read the battery at rest: under its cut-off it is empty; charge before anything else."
        )
    yield CardStep("Vital loads on first; the next only when the volts have held for a minute.")


def _first_power(
    design: Design, loads: tuple[LoadAtBus, ...], runs: tuple[RunFigures, ...]
) -> Iterator[CardStep]:
    yield CardStep(
        "Bank full and rested, loads off: volts at the posts.",
        "bus.expect.post_v" if loads else None,
    )
    for item in loads:
        yield CardStep(f"At {item.name}, on and receiving with all the rest on.", item.receive_v[0])
        if item.keyed_grade is not None:
            yield CardStep(f"At {item.name}, keyed at full power.", item.keyed_v[0])
    if design.bus.meter_at:
        yield CardStep(
            f"The meter ({design.bus.meter_at}) counts out while a set is on, and in while "
            "the sun is."
        )
    for run in runs:
        if run.feeds == "bus":
            yield CardStep(
                "Lost from post to bus with the hardest keying: more means a bad joint.",
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
            "First power-up: readings to expect",
            LEADS,
            tuple(_first_power(design, loads, runs)),
        ),
        Card(
            "restart",
            "Restart after a trip",
            "Find the cause before the fuse.",
            tuple(_restart(design, runs)),
        ),
        Card(
            "unplugged",
            "The battery came off",
            "A source without its bank runs away.",
            tuple(_unplugged(runs)),
        ),
    ]
    selector = any(charger.kind == "selector" for charger in design.array.chargers)
    if selector or any(layer.joining == "switch" for layer in design.store.layers):
        cards.append(
            Card(
                "selector",
                "Selector turned",
                "Unlike banks are never joined.",
                tuple(_turned(design)),
            )
        )
    return tuple(cards)
