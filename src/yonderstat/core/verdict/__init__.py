"""What a design comes to: figures in the order energy flows, and the verdict in a sentence."""

from .effects import days_without_sun, draw_covered
from .figures import Figures, figures_of
from .life import LifeReport, year_of_charge
from .months import (
    carried_days,
    covered_share,
)
from .report import EnergyLine, MonthCell, State, Verdict

__all__ = [
    "EnergyLine",
    "Figures",
    "LifeReport",
    "MonthCell",
    "State",
    "Verdict",
    "carried_days",
    "covered_share",
    "days_without_sun",
    "draw_covered",
    "figures_of",
    "year_of_charge",
]
