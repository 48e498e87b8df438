"""A design while some of its kit is on an outing: what is left of it."""

from ..design import Design, PanelString
from .document import Outing, Shelf


def _gone_lines(design: Design, shelf: Shelf) -> dict[str, Outing]:
    """Lines of the parts list whose part is out now, and on which outing."""
    out = {away.part: outing for outing in shelf.outings if outing.out for away in outing.takes}
    return {row.id: out[row.shelf] for row in design.build.parts if row.shelf in out}


def _needs(string: PanelString) -> set[str]:
    """The lines of the parts list a string is nothing without."""
    return {f"panel-{string.id}", f"controller-{string.id}"}


def without_away(design: Design, shelf: Shelf) -> tuple[Design, tuple[str, ...]] | None:
    """The design without what is out, and what is missing in words; None where nothing of it is.

    A string goes with its panels or its controller, a layer with its battery, the bank with its
    own.
    """
    gone = _gone_lines(design, shelf)
    if not gone:
        return None
    array, store = design.array, design.store
    lost = {string.id for string in array.strings if _needs(string) & gone.keys()}
    strings = [string for string in array.strings if not {string.id, string.joins} & lost]
    chargers = [item for item in array.chargers if f"charger-{item.id}" not in gone]
    layers = [layer for layer in store.layers if f"battery-{layer.id}" not in gone]
    banks = {"main", *(layer.id for layer in layers), *(pack.id for pack in store.packs)}
    sources = {
        *(string.id for string in strings),
        *(item.id for item in chargers),
        "alternator",
        *banks,
    }
    paths = [path for path in store.paths if path.bank in banks and path.source in sources]
    rails = [
        rail.model_copy(
            update={
                "bank": rail.bank if rail.bank in banks else "main",
                "outlet_of": rail.outlet_of if rail.outlet_of in sources else None,
            }
        )
        for rail in design.draw.rails
    ]
    left = design.model_copy(
        update={
            "array": array.model_copy(update={"strings": strings, "chargers": chargers}),
            "store": store.model_copy(
                update={
                    "layers": layers,
                    "paths": paths,
                    "bank": None if "battery-main" in gone else store.bank,
                }
            ),
            "draw": design.draw.model_copy(update={"rails": rails}),
        }
    )
    parts = [
        (shelf.part(row.shelf or ""), gone[row.id]) for row in design.build.parts if row.id in gone
    ]
    return left, tuple(f"{part.name} ({outing.name})" for part, outing in parts if part is not None)
