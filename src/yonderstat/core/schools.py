"""Where practitioners disagree: the schools, our default with its reason, and where it is
chosen."""

from dataclasses import dataclass
from functools import cache

from .data import toml_table
from .steps import StepId


@dataclass(frozen=True, slots=True, kw_only=True)
class Disagreement:
    """One question that good people answer differently."""

    step: StepId
    question: str
    schools: list[str]
    taken: str
    """What we take unless it is chosen otherwise."""
    why: str
    where: str
    """Where it is chosen."""


@cache
def disagreements() -> tuple[Disagreement, ...]:
    """Every question of the table, in its order."""
    return tuple(Disagreement(**row) for row in toml_table("schools")["school"])
