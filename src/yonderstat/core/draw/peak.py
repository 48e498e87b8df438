"""The largest current at one moment, given what never transmits together."""

from collections import defaultdict

from ..design import Load


def transmit_step_a(load: Load) -> float:
    """What keying all units of a load adds to its receive current; one unit at a time if interlocked. [A]"""
    if load.transmit_a is None:
        return 0.0
    units = 1 if load.interlock.strip() else load.quantity
    return max(0.0, load.transmit_a.value - load.receive_a.value) * units


def peak_a(loads: list[Load]) -> float:
    """Receive currents of everything, plus for each interlock group its largest transmit step. [A]

    A load without a group can key at any moment, so its step always counts.
    """
    standing_a = sum(load.receive_a.value * load.quantity for load in loads)
    free_a = 0.0
    grouped: dict[str, float] = defaultdict(float)
    for load in loads:
        group = load.interlock.strip().casefold()
        if group:
            grouped[group] = max(grouped[group], transmit_step_a(load))
        else:
            free_a += transmit_step_a(load)
    return standing_a + free_a + sum(grouped.values())
