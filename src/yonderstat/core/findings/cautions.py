"""The short safety words beside each step."""

from ..data import toml_table
from ..design import Design
from ..finding import Caution
from ..store import kind_of


def _applies(when: str, design: Design) -> bool:
    banks = [design.store.bank] if design.store.bank else []
    banks += [layer.bank for layer in design.store.layers]
    return when == "always" or any(kind_of(bank.chemistry).family == when for bank in banks)


def cautions_of(design: Design) -> tuple[Caution, ...]:
    """Every caution that applies to the design."""
    entries = toml_table("cautions")["caution"]
    return tuple(
        Caution(entry["step"], entry["text"], entry["why"]) for entry in entries if _applies(entry["when"], design)
    )
