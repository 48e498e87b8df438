"""Step 8, Build: the parts list, what is there of it, and the checklists."""

from .balance import LEAST_NOSE, MOST_NOSE, BalanceReport
from .checklists import CheckItem, Checklist
from .explain import BuildReport, PartLine, build_report
from .model import Item, Reuse, items_of, largest_current_a, reuse_of, unfit_panel
from .prices import cost_words
from .stages import Step, between

__all__ = [
    "LEAST_NOSE",
    "MOST_NOSE",
    "BalanceReport",
    "BuildReport",
    "CheckItem",
    "Checklist",
    "Item",
    "PartLine",
    "Reuse",
    "Step",
    "between",
    "build_report",
    "cost_words",
    "items_of",
    "largest_current_a",
    "reuse_of",
    "unfit_panel",
]
