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
    names.update({charger.id: charger.name for charger in design.array.chargers})
    names[MAIN] = "Main bank"
    names.update({layer.id: layer.name for layer in design.store.layers})
    return names


def reaches(design: Design, source: str, bank: str = MAIN) -> bool:
    """Whether a source charges a bank: by the paths named for it, and without any of its own the main bank alone."""
    own = [path for path in design.store.paths if path.source == source]
    return any(path.bank == bank for path in own) if own else bank == MAIN


def bank_names(design: Design) -> dict[str, str]:
    """Every bank and pack by its id."""
    names = {MAIN: "Main bank"} if design.store.bank else {}
    names.update({layer.id: layer.name for layer in design.store.layers})
    names.update({pack.id: pack.name for pack in design.store.packs})
    return names


def charged_banks(design: Design) -> tuple[ChargedBank, ...]:
    """What charges each bank: by the paths named, and a source without any charges the main bank alone."""
    names = source_names(design)
    pathless = _true_sources(design) - {path.source for path in design.store.paths}
    found = []
    for key, name in bank_names(design).items():
        told = [
            f"{names[path.source]}{f' ({path.position})' if path.position else ''}"
            for path in design.store.paths
            if path.bank == key and path.source in names
        ]
        if key == MAIN:
            told += [label for source, label in names.items() if source in pathless]
        found.append(ChargedBank(key, name, tuple(told)))
    return tuple(found)


def _true_sources(design: Design) -> set[str]:
    engine = {ALTERNATOR} if design.array.alternator else set()
    strings = {string.id for string in design.array.strings}
    return strings | {charger.id for charger in design.array.chargers} | engine
