"""What a purpose means for the computation: one table, asked nowhere else."""

from dataclasses import dataclass
from functools import cache
from typing import Literal

from .data import rows, rows_by
from .design import Purpose

JudgedBy = Literal["service", "spell", "sun_share"]
Use = Literal["daily", "outages", "outings"]


@dataclass(frozen=True, slots=True, kw_only=True)
class PurposeKind:
    """A row of the table of purposes."""

    purpose: Purpose
    label: str
    question: str
    judged_by: JudgedBy
    """Vital service over the year, the chance to carry a spell from a full bank, or the share the
    sun carries."""
    share_of: str
    """What the months' shares are of, in words."""
    spell: str
    """How the days of a spell are spent, in words: without mains, away; empty where there is no
    spell."""
    mains_normally: bool
    """Whether there are mains on an ordinary day."""
    mains_when_judged: bool
    """Whether they are there in what the design is judged by: in an outage they are what failed."""
    mains_by_plug: bool
    """Whether there are mains only where something is plugged into them: a hilltop has none, a
    house has."""
    sun_must_balance: bool
    """Whether sun (and engine) must make good what is drawn: nothing else does, and no full start
    is counted on."""
    fails_without_source: bool
    """Whether the purpose fails where nothing charges the bank by day."""
    all_year: bool
    """Whether it must stay up all year: published rules then take their stricter figures."""
    use: Use
    cycles_a_year: float | None
    """How often a bank is used that is not used daily. [C] assumed."""
    deep_discharge: bool
    """Whether outages are rare enough to draw the bank down deep."""
    with_engine: bool
    """Whether a first design has an engine that charges."""

    @property
    def spells(self) -> str:
        """What the spells are called, in words: a station at home has outages, one that leaves has
        trips."""
        return "outages" if self.mains_normally else "trips"

    @property
    def is_spell(self) -> bool:
        """Whether it is judged by a spell from a full bank."""
        return self.judged_by == "spell"


def _yes(text: str) -> bool:
    return {"yes": True, "no": False}[text]


@cache
def purpose_of(purpose: Purpose) -> PurposeKind:
    """What a purpose means."""
    row = rows_by("purposes", "purpose")[purpose]
    return PurposeKind(
        purpose=purpose,
        label=row["label"],
        question=row["question"],
        judged_by=row["judged_by"],  # type: ignore[arg-type]
        share_of=row["share_of"],
        spell=row["spell"],
        mains_normally=_yes(row["mains_normally"]),
        mains_when_judged=_yes(row["mains_when_judged"]),
        mains_by_plug=_yes(row["mains_by_plug"]),
        sun_must_balance=_yes(row["sun_must_balance"]),
        fails_without_source=_yes(row["fails_without_source"]),
        all_year=_yes(row["all_year"]),
        use=row["use"],  # type: ignore[arg-type]
        cycles_a_year=float(row["cycles_a_year"]) if row["cycles_a_year"] else None,
        deep_discharge=_yes(row["deep_discharge"]),
        with_engine=_yes(row["with_engine"]),
    )


def all_purposes() -> tuple[PurposeKind, ...]:
    """Every purpose, in the table's order."""
    return tuple(purpose_of(row["purpose"]) for row in rows("purposes"))
