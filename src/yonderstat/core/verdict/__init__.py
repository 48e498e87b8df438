"""What a design comes to: the verdict in a sentence, twelve months, the weakest link, and the band
of energy."""

from .energy import energy_line, sun_hours
from .months import carried_days, covered_share, month_ground, rules_of_thumb
from .report import EnergyLine, MonthCell, State, Verdict, VerdictFigure
from .verdict import verdict_of

__all__ = [
    "EnergyLine",
    "MonthCell",
    "State",
    "Verdict",
    "VerdictFigure",
    "carried_days",
    "covered_share",
    "energy_line",
    "month_ground",
    "rules_of_thumb",
    "sun_hours",
    "verdict_of",
]
