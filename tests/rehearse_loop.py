"""The rehearsal once more as a plain loop, written apart from the kernel, which must agree with it hour by hour."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Bank:
    """The bank's figures as the kernel takes them."""

    full_ah: float
    efficiency: float
    accept_per_h: float
    most_charge_a: float
    shed_useful: float = 0.0
    shed_comfort: float = 0.0
    back_share: float = 0.2
    hysteresis: float = 0.1


def plain_hours(
    source_a: FloatArray,
    load_a: FloatArray,
    floor_ah: FloatArray,
    locked: NDArray[np.bool_],
    bank: Bank,
    start_ah: float,
) -> tuple[list[float], list[list[float]], list[float]]:
    """Charge, served by tier, and taken from the sources in every hour."""
    charge, dark, off = start_ah, False, {1: False, 2: False}
    charges: list[float] = []
    served: list[list[float]] = []
    taken: list[float] = []
    for source, wants, floor, lock in zip(source_a, load_a, floor_ah, locked, strict=True):
        share = (charge - floor) / max(bank.full_ah - floor, 1e-9)
        for tier, threshold in ((1, bank.shed_useful), (2, bank.shed_comfort)):
            off[tier] = threshold > 0.0 and share < threshold + (bank.hysteresis if off[tier] else 0.0)
        if dark and (share >= bank.back_share or 0.0 < wants[0] <= source):
            dark = False
        now = [0.0 if dark or off.get(tier, False) else float(want) for tier, want in enumerate(wants)]
        total = sum(now)
        from_source = min(float(source), total)
        from_bank = total - from_source
        available = max(charge - floor, 0.0)
        if from_bank > available + 1e-12:
            scale = (from_source + available) / total
            now = [amps * scale for amps in now]
            from_bank, dark = available, True
        charge -= from_bank
        into = 0.0
        if source > from_source and not lock:
            missing = bank.full_ah - charge
            into = max(
                0.0,
                min(source - from_source, bank.most_charge_a, missing / bank.efficiency, bank.accept_per_h * missing),
            )
            charge += into * bank.efficiency
        charges.append(charge)
        served.append(now)
        taken.append(from_source + into)
    return charges, served, taken
