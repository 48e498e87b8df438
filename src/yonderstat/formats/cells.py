"""Cells of a table that a spreadsheet opens."""

import re

PLAIN_NUMBER = re.compile(r"[+-]?\d+(?:\.\d+)?")


def tame(cell: str) -> str:
    """A cell no spreadsheet takes for a formula: what begins like one is quoted, unless it is a
    plain number."""
    risky = cell[:1] in {"=", "+", "-", "@", "\t", "\r", "\n"}
    return f"'{cell}" if risky and not PLAIN_NUMBER.fullmatch(cell) else cell
