"""Step 8, Build: the parts list, what is there of it, and the checklists."""

from .checklists import CheckItem, Checklist
from .explain import BuildReport, PartLine, build_report
from .model import Item, Reuse, items_of, reuse_of, unfit_panel

__all__ = [
    "BuildReport",
    "CheckItem",
    "Checklist",
    "Item",
    "PartLine",
    "Reuse",
    "build_report",
    "items_of",
    "reuse_of",
    "unfit_panel",
]
