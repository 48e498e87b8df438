"""The short safety words beside each step."""

from dataclasses import dataclass

from ..data import toml_table
from ..design import Design


@dataclass(frozen=True, slots=True)
class Caution:
    """A caution of a step, and the reason behind it."""

    step: str
    text: str
    why: str


def _applies(when: str, design: Design) -> bool:
    chemistry = design.store.bank.chemistry if design.store.bank else None
    if when == "lead":
        return chemistry in {"flooded", "agm", "gel"}
    return when == "always" or when == chemistry


def cautions_of(design: Design) -> tuple[Caution, ...]:
    """Every caution that applies to the design."""
    entries = toml_table("cautions")["caution"]
    return tuple(
        Caution(entry["step"], entry["text"], entry["why"]) for entry in entries if _applies(entry["when"], design)
    )
