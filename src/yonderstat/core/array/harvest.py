"""The simple figures of the trade that the rules of thumb go by."""

from ..data import rows_by


def derate(name: str) -> float:
    """One of the simple derates of the trade, by name."""
    return float(rows_by("derates", "derate")[name]["factor"])


def charge_volts(blocks: int) -> float:
    """Mean volts of the bank while it is charged [V], from the number of 12 V blocks."""
    return blocks * derate("charge_v_12v")


def class_working_volts(cells: int) -> float:
    """Volts at maximum power usual for a panel of this cell count [V]."""
    return float(rows_by("module_classes", "cells")[str(cells)]["working_v"])
