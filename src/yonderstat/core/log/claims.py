"""Claims people make, worked out for this very station: whether they hold here, and under which
conditions."""

import numpy as np

from ..array import string_months_ah
from ..calendar import MONTH_NAMES
from ..design import Tempo
from ..station import StationModel
from ..words import hours_in_words

NEAR = 0.1
"""A claim within a tenth is one that holds."""


def _verdict(claimed: float, found: float) -> str:
    if abs(found - claimed) <= NEAR * max(abs(claimed), 1e-9):
        return "The claim holds for this station."
    return (
        "This station does better than the claim."
        if found > claimed
        else "The claim doesn't hold for this station."
    )


def tempo_hours(station: StationModel, tempo: Tempo) -> float | None:
    """Hours from full to the end of what may be used, at a tempo of the hard month; None where
    nothing is drawn."""
    bank = station.bank
    drawn = float(station.draw_at(tempo.id).by_month[station.hard_month - 1])
    return None if bank is None or drawn <= 0 else 24.0 * bank.usable_ah / drawn


def runs_so_long(station: StationModel, tempo_id: str, hours: float) -> str:
    """“It runs nine hours”.

    Parameters
    ----------
    tempo_id : str
        How the station works meanwhile.
    hours : float
        On the air, as it was said. [h]
    """
    tempo = next((item for item in station.design.draw.tempos if item.id == tempo_id), None)
    found = tempo_hours(station, tempo) if tempo else None
    if tempo is None or found is None:
        return "This design has no battery or no loads, so we can't work it out."
    month = MONTH_NAMES[station.hard_month - 1]
    told = (
        f"It runs {hours_in_words(found)}: activity level {tempo.name}, battery full, "
        f"no sun, {month} cold."
    )
    return f"{told} {_verdict(hours, found)}"


def tracker_brings(station: StationModel, percent: float) -> str:
    """“An MPPT brings 20 to 25 per cent more”: this array through both, by month."""
    design, sky = station.design, station.sky
    if sky is None or not design.array.strings:
        return "This design has no panels or no place, so we can't work it out."
    sums = {}
    for kind in ("pwm", "mppt"):
        parts = [
            string_months_ah(item, design.array, station.array.charge_v, sky, kind)
            for item in design.array.strings
        ]
        if any(part is None for part in parts):
            return "The sun of this place is not known."
        sums[kind] = np.sum([part for part in parts if part is not None], axis=0)
    if not (sums["pwm"] > 0).all():
        return "With a PWM controller, these panels cannot charge this battery at all."
    gains = 100.0 * (sums["mppt"] / sums["pwm"] - 1.0)
    hard = float(gains[station.hard_month - 1])
    month = MONTH_NAMES[station.hard_month - 1]
    over = f"from {gains.min():+.0f} to {gains.max():+.0f} %"
    told = f"With these panels and this battery, MPPT yields {hard:+.0f} % in {month}, and {over}"
    return f"{told} over the year. {_verdict(percent, hard)}"
