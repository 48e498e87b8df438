"""Which source charges which bank."""

from dataclasses import dataclass

from ..design import MAIN, Design

ALTERNATOR = "alternator"
PASSED_ON = {"lead": "by the levelling lead", "converter": "through the converter"}
"""Ways of joining by which the main bank charges a layer without a path of its own."""


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
    names[MAIN] = "Main battery"
    names.update({layer.id: layer.name for layer in design.store.layers})
    return names


def reaches(design: Design, source: str, bank: str = MAIN) -> bool:
    """Whether a source charges a bank.

    By the paths named for it. Without any path at all every source charges the main bank alone, and
    a charger always does unless a path says otherwise: it is on the bus.

    Parameters
    ----------
    source : str
        The id of a controller, charger or engine.
    bank : str
        The id of a layer, or the main bank's.
    """
    own = [path for path in design.store.paths if path.source == source]
    if own:
        return any(path.bank == bank for path in own)
    return bank == MAIN and source in _pathless(design)


def _pathless(design: Design) -> set[str]:
    """Sources that charge the main bank although no path is named for them."""
    # What a selector puts in the bank's place runs the station and charges nothing.
    chargers = {charger.id for charger in design.array.chargers if charger.kind != "selector"}
    if design.store.paths:
        return chargers - {path.source for path in design.store.paths}
    engine = {ALTERNATOR} if design.array.alternator else set()
    return {string.id for string in design.array.strings} | chargers | engine


def bank_names(design: Design) -> dict[str, str]:
    """Every bank and pack by its id."""
    names = {MAIN: "Main battery"} if design.store.bank else {}
    names.update({layer.id: layer.name for layer in design.store.layers})
    names.update({pack.id: pack.name for pack in design.store.packs})
    return names


def charged_banks(design: Design) -> tuple[ChargedBank, ...]:
    """What charges each bank: by the paths named, and what charges the main bank without one."""
    names, pathless = source_names(design), _pathless(design)
    joined = {layer.id: layer.joining for layer in design.store.layers}
    found = []
    for key, name in bank_names(design).items():
        told = [
            f"{names[path.source]}{f' ({path.position})' if path.position else ''}"
            for path in design.store.paths
            if path.bank == key and path.source in names
        ]
        fed_by = PASSED_ON.get(joined.get(key, ""))
        if (
            fed_by
            and MAIN in names
            and not any(path.bank == key and path.source == MAIN for path in design.store.paths)
        ):
            told.append(f"{names[MAIN]} ({fed_by})")
        if key == MAIN:
            told += [label for source, label in names.items() if source in pathless]
        found.append(ChargedBank(key, name, tuple(told)))
    return tuple(found)
