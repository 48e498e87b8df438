"""What goes wrong with a stand-in, on demand: what its devices tell is bent, never how they tell
it."""

from dataclasses import dataclass, field, replace
from typing import Literal, get_args

from .living import HOUR_S, Lived, State

Fault = Literal[
    "panel_lost",
    "sensor_stuck",
    "comms_lost",
    "clock_wrong",
    "cold_lock",
    "monitor_drift",
    "regulation_lost",
]
FAULTS: tuple[Fault, ...] = get_args(Fault)
NO_CHARGE: frozenset[Fault] = frozenset({"panel_lost", "cold_lock"})
DRIFT_SHARE_A_DAY = -0.3
AHEAD_S = 40.0 * 86_400.0
COLD_C = -8.0
OVER_V = 2.5
DAY_S = 86_400.0
STEP_S = 900.0
MADE_UP_A = 2.0
"""What was missed is charged again so fast, once the panels give again."""


@dataclass
class Broken:
    """What is wrong with a station, each with the true state when it began, and the charge it has
    missed by that."""

    lived: Lived
    at_s: float
    faults: dict[Fault, State] = field(default_factory=dict)
    missed_ah: float = 0.0

    def set_fault(self, fault: Fault, is_on: bool, at_s: float) -> None:
        """Break it, or mend it.

        Parameters
        ----------
        fault : Fault
            What breaks.
        is_on : bool
            Whether it is broken.
        at_s : float
            When, on the clock of the stand-ins. [s]
        """
        self.come_to(at_s)
        if is_on:
            self.faults.setdefault(fault, self.told(at_s))
        else:
            self.faults.pop(fault, None)

    def come_to(self, at_s: float) -> None:
        """Go on to a moment: what is not charged meanwhile is missed, what was missed is made
        up."""
        while self.at_s < at_s:
            step_s = min(STEP_S, at_s - self.at_s)
            given_a = self.lived.at(self.at_s).charge_a
            rate_a = (
                given_a if NO_CHARGE & self.faults.keys() else -MADE_UP_A if given_a > 0.0 else 0.0
            )
            self.missed_ah = max(0.0, self.missed_ah + rate_a * step_s / HOUR_S)
            self.at_s += step_s

    def told(self, at_s: float) -> State:
        """What the devices tell at a moment."""
        self.come_to(at_s)
        told = self.lived.at(at_s)
        if NO_CHARGE & self.faults.keys():
            told = replace(told, charge_a=0.0, volts=told.unfed_v)
        elif self.missed_ah > 0.0 and told.charge_a > 0.0:
            told = replace(told, charge_a=told.charge_a + MADE_UP_A)
        left = max(0.0, told.charge_share - self.missed_ah / self.lived.full_ah)
        return _bent(replace(told, charge_share=left), self.faults)


def _bent(told: State, faults: dict[Fault, State]) -> State:
    """The faults of the instruments."""
    if "cold_lock" in faults:
        told = replace(told, box_c=COLD_C)
    if "regulation_lost" in faults and told.charge_a > 0.0:
        told = replace(told, volts=told.volts + OVER_V)
    if "monitor_drift" in faults:
        drifted = DRIFT_SHARE_A_DAY * (told.at_s - faults["monitor_drift"].at_s) / DAY_S
        told = replace(told, charge_share=max(0.0, told.charge_share + drifted))
    if "sensor_stuck" in faults:
        began = faults["sensor_stuck"]
        told = replace(told, volts=began.volts, charge_share=began.charge_share)
    if "clock_wrong" in faults:
        told = replace(told, at_s=told.at_s + AHEAD_S)
    return told
