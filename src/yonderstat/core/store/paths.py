"""Which source charges which bank."""

from dataclasses import dataclass

from ..design import MAIN, Design

ALTERNATOR = "alternator"


@dataclass(frozen=True, slots=True)
class ChargedBank:
    """A bank or pack, and what charges it: names of sources with the switch position each needs."""

    id: str
    name: str
    sources: tuple[str, ...]


def source_names(design: Design) -> dict[str, str]:
    """Every source of charge by its id, banks that pass charge on counted in."""
    names = {string.id: string.name for string in design.array.strings}
    if design.array.alternator:
        names[ALTERNATOR] = "Engine"
    names[MAIN] = "Main bank"
    names.update({layer.id: layer.name for layer in design.store.layers})
    return names


def bank_names(design: Design) -> dict[str, str]:
    """Every bank and pack by its id."""
    names = {MAIN: "Main bank"} if design.store.bank else {}
    names.update({layer.id: layer.name for layer in design.store.layers})
    names.update({pack.id: pack.name for pack in design.store.packs})
    return names


def charged_banks(design: Design) -> tuple[ChargedBank, ...]:
    """What charges each bank. Without any path every source charges the main bank, and nothing else is charged."""
    names = source_names(design)
    found = []
    for key, name in bank_names(design).items():
        if design.store.paths:
            told = [
                f"{names[path.source]}{f' ({path.position})' if path.position else ''}"
                for path in design.store.paths
                if path.bank == key and path.source in names
            ]
        else:
            told = [label for source, label in names.items() if source in _true_sources(design)] if key == MAIN else []
        found.append(ChargedBank(key, name, tuple(told)))
    return tuple(found)


def _true_sources(design: Design) -> set[str]:
    engine = {ALTERNATOR} if design.array.alternator else set()
    return {string.id for string in design.array.strings} | engine
