"""Where a design could use what lies on the shelf: each line of its parts list against every part
of its kind."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from ..changes import Operation, add, replace
from ..chemistries import kind_of
from ..design import Bank, Design, OwnPart, PanelString, ShelfController, ShelfModule
from ..parts import Item, unfit_panel
from ..words import metres
from .document import Shelf, ShelfPart
from .standing import Stock

LIKE_AH = 0.02
"""Batteries that differ by no more than rounding of a label are alike: unlike ones never go in
parallel."""
OF_A_UNIT = (
    "unit_v",
    "unit_ah",
    "hour_rate_h",
    "chemistry",
    "tested_ah",
    "age_years",
    "limits",
    "cycle_life",
)
OF_A_UNIT_TOO = ("unit_milliohm", "peukert_k", "calendar_years", "unit_kg", "unit_price", "unit_wh")


@dataclass(frozen=True, slots=True, kw_only=True)
class Pick:
    """A part of the shelf for a line of the parts list: how many of it, and the change that takes
    it."""

    line: str
    name: str
    part: str
    part_name: str
    needed: float
    free: float
    takes: float
    fits: bool
    """It is what the design already says; otherwise taking it changes the design."""
    taken: bool
    """The design takes it now."""
    words: str
    patch: tuple[Operation, ...]
    """Nothing where it does not do."""


def _row_patch(design: Design, line: str, part: ShelfPart, count: float) -> tuple[Operation, ...]:
    """Take so many for a line: the row of the parts list, with the price and weight the shelf
    knows."""
    for index, row in enumerate(design.build.parts):
        if row.id == line:
            at = f"/build/parts/{index}"
            told = [replace(f"{at}/shelf", part.id), replace(f"{at}/have", count)]
            if part.kept and not row.where:
                told.append(replace(f"{at}/where", part.kept))
            known = part.model_dump(mode="json")
            told += [
                replace(f"{at}/{name}", known[name])
                for name in ("price", "weight_kg")
                if known[name] is not None and getattr(row, name) is None
            ]
            return tuple(told)
    fresh = OwnPart(
        id=line,
        have=count,
        price=part.price,
        weight_kg=part.weight_kg,
        where=part.kept,
        shelf=part.id,
    )
    return (add("/build/parts/-", fresh.model_dump(mode="json")),)


def _string_of(design: Design, line: str, before: str) -> tuple[int, PanelString] | None:
    for index, string in enumerate(design.array.strings):
        if line == f"{before}-{string.id}":
            return index, string
    return None


def _panel(design: Design, line: str, part: ShelfPart) -> tuple[str, bool, tuple[Operation, ...]]:
    """Why a panel does not do, whether it is alike, and what taking it changes."""
    found = _string_of(design, line, "panel")
    if found is None or part.module is None:
        return "", True, ()
    index, string = found
    if not part.is_sound:
        return (
            unfit_panel(part.module, string.module)
            or "it can't charge a battery: it has a built-in inverter",
            False,
            (),
        )
    if part.module == string.module:
        return "", True, ()
    set_module = replace(f"/array/strings/{index}/module", part.module.model_dump(mode="json"))
    return "", not unfit_panel(part.module, string.module), (set_module,)


def _bank_of(design: Design, line: str) -> tuple[str, Bank] | None:
    if line == "battery-main" and design.store.bank is not None:
        return "/store/bank", design.store.bank
    for index, layer in enumerate(design.store.layers):
        if line == f"battery-{layer.id}":
            return f"/store/layers/{index}/bank", layer.bank
    return None


def _battery(design: Design, line: str, part: ShelfPart) -> tuple[str, bool, tuple[Operation, ...]]:
    found, unit = _bank_of(design, line), part.battery
    if found is None or unit is None:
        return "", True, ()
    at, bank = found
    if abs(unit.unit_v / bank.unit_v - 1.0) > 0.15:
        return f"it is {unit.unit_v:g} V, and your batteries are {bank.unit_v:g} V", False, ()
    alike = (
        unit.chemistry == bank.chemistry
        and abs(unit.unit_ah.value / bank.unit_ah.value - 1.0) <= LIKE_AH
    )
    told = unit.model_dump(mode="json")
    changed = [
        name for name in (*OF_A_UNIT, *OF_A_UNIT_TOO) if getattr(unit, name) != getattr(bank, name)
    ]
    return "", alike, tuple(replace(f"{at}/{name}", told[name]) for name in changed)


def _controller(
    design: Design, line: str, part: ShelfPart
) -> tuple[str, bool, tuple[Operation, ...]]:
    found = _string_of(design, line, "controller")
    if found is None or part.regulator is None:
        return "", True, ()
    index, string = found
    at = f"/array/strings/{index}"
    alike = string.controller == part.controller and string.regulator == part.regulator
    if alike:
        return "", True, ()
    set_kind = replace(f"{at}/controller", part.controller)
    return "", False, (set_kind, replace(f"{at}/regulator", part.regulator.model_dump(mode="json")))


def _charger(design: Design, line: str, part: ShelfPart) -> tuple[str, bool, tuple[Operation, ...]]:
    bank = design.store.bank
    if bank is not None and part.made_for and bank.chemistry not in part.made_for:
        kinds = ", ".join(kind_of(kind).label for kind in part.made_for)
        return f"it is made for {kinds}", False, ()
    for index, own in enumerate(design.array.chargers):
        if line == f"charger-{own.id}" and part.charger is not None:
            mine = part.charger.model_copy(
                update={"id": own.id, "name": own.name, "hours_per_day": own.hours_per_day}
            )
            at_home = mine.model_copy(
                update={"at_home": own.at_home, "alone": own.alone, "through": own.through}
            )
            if at_home == own:
                return "", True, ()
            return (
                "",
                False,
                (replace(f"/array/chargers/{index}", at_home.model_dump(mode="json")),),
            )
    return "", True, ()


def _plain(design: Design, item: Item, part: ShelfPart) -> str:
    """Why a cable or a fuse does not do for a line."""
    string = _string_of(design, item.id, "panel-cable")
    if part.kind == "cable":
        wanted = (string[1].cable_mm2 or 0.0) if string else float(item.id.partition("-")[2])
        if part.mm2 is None:
            return "its wire size isn't known"
        return (
            ""
            if part.mm2 >= wanted - 0.01
            else f"it has {part.mm2:g} mm², and you need {wanted:g} mm²"
        )
    if part.kind == "fuse" and item.id.startswith("fuse-"):
        family, _, rating = item.id.removeprefix("fuse-").rpartition("-")
        if part.fuse is None or part.rating_a is None:
            return "its fuse type or rating isn't known"
        alike = part.fuse.replace("_", "-") == family and abs(part.rating_a - float(rating)) < 0.01
        return "" if alike else "it is another fuse type or rating"
    return ""


def _left(design: Design, item: Item, part: ShelfPart, stock: Stock) -> float:
    """What is free for a line, in the line's own measure: other lines of the same design take from
    it too."""
    per = part.cores if part.kind == "cable" else 1
    taken = sum(
        row.have for row in design.build.parts if row.shelf == part.id and row.id != item.id
    )
    return max(0.0, stock.free * per - taken)


TOLD_EITHER_WAY = ("panel-", "battery-", "controller-", "charger-")
"""Of these it is said why a part does not do; of a fuse or a cable that is of another size there is
nothing to say."""
KIND_OF_LINE = {
    "panel": "panel",
    "battery": "battery",
    "controller": "controller",
    "charger": "charger",
    "cable": "cable",
    "fuse": "fuse",
    "rail": "converter",
    "dc": "charger",
}
BY_KIND = {"panel": _panel, "battery": _battery, "controller": _controller, "charger": _charger}


def _amount(item: Item, part: ShelfPart, quantity: float) -> str:
    """So much of a line: pieces, metres of cable, or metres of conductor where the cable has more
    than one."""
    if item.unit != "m":
        return f"{quantity:g}"
    return f"{metres(quantity)} of conductor" if part.cores > 1 else metres(quantity)


def _cut(item: Item, part: ShelfPart, takes: float) -> str:
    """What is taken of a part: of a twin half as much is cut as the list counts in conductors."""
    if item.unit == "m" and part.cores > 1:
        return f"cut {metres(takes / part.cores)} of it for {_amount(item, part, takes)}"
    whose = "of it" if item.unit == "m" else "of them"
    return f"you can use {_amount(item, part, takes)} {whose}"


def _one(design: Design, item: Item, part: ShelfPart, stock: Stock) -> Pick:
    row = next((row for row in design.build.parts if row.id == item.id), None)
    taken = row is not None and row.shelf == part.id
    why, fits, changes = (
        BY_KIND[part.kind](design, item.id, part) if part.kind in BY_KIND else ("", True, ())
    )
    why = why or _plain(design, item, part)
    left = _left(design, item, part, stock)
    takes = 0.0 if why else min(left, item.quantity)
    if not why and takes <= 0:
        why = "all of it is reserved or away" if part.count > 0 else "none is left"
    if not why and takes < item.quantity:
        # A label is the whole line's: some of a line cannot take another, nor what was measured on
        # them alone.
        why = "" if fits else f"you need {item.quantity:g} of the same kind, and {left:g} are free"
        changes = ()
    patch = () if why else (*changes, *_row_patch(design, item.id, part, takes))
    cut, needed = _cut(item, part, takes), _amount(item, part, item.quantity)
    if why:
        words = f"can't be used: {why}"
    elif fits:
        words = f"{cut}; {needed} needed"
    else:
        words = (
            f"use {_amount(item, part, takes)} of these instead; the design then takes the "
            "figures of their label"
        )
    return Pick(
        line=item.id,
        name=item.name,
        part=part.id,
        part_name=part.name,
        needed=item.quantity,
        free=left,
        takes=takes,
        fits=fits and not why,
        taken=taken,
        words=words,
        patch=patch,
    )


def _is_of_line(item: Item, part: ShelfPart) -> bool:
    prefix = item.id.removeprefix("panel-") if item.id.startswith("panel-cable-") else item.id
    return KIND_OF_LINE.get(prefix.split("-", 1)[0]) == part.kind


def picks_for(
    design: Design, items: Sequence[Item], shelf: Shelf, stock: Mapping[str, Stock]
) -> tuple[Pick, ...]:
    """Every part of the shelf that is of a line's kind, those that fit as they are first.

    Parameters
    ----------
    items : sequence of Item
        The design's parts list.
    stock : mapping of str to Stock
        By part, without what the design's own site reserves.
    """

    def all_of_them() -> Iterator[Pick]:
        for item in items:
            mine = [
                _one(design, item, part, stock[part.id])
                for part in shelf.parts
                if _is_of_line(item, part)
            ]
            if not item.id.startswith(TOLD_EITHER_WAY):
                mine = [pick for pick in mine if pick.patch or pick.taken]
            yield from sorted(
                mine, key=lambda pick: (not pick.patch, not pick.fits, pick.part_name)
            )

    return tuple(all_of_them())


def _needed(design: Design, line: str) -> int:
    """How many a line of panels or batteries takes; one of anything else that has a label."""
    string, bank = _string_of(design, line, "panel"), _bank_of(design, line)
    rows = string[1] if string else bank[1] if bank else None
    return rows.series * rows.parallel if rows else 1


def refreshed(design: Design, shelf: Shelf, line: str) -> tuple[Operation, ...]:
    """What makes a design say again what the label of the part says that it takes for a line;
    nothing where it does.

    A line that takes only some of its parts from the shelf keeps its own label.

    Parameters
    ----------
    shelf : Shelf
        What the club has.
    line : str
        The line of the parts list.
    """
    row = next((row for row in design.build.parts if row.id == line), None)
    part = shelf.part(row.shelf) if row and row.shelf else None
    if row is None or part is None or part.kind not in BY_KIND or row.have < _needed(design, line):
        return ()
    return BY_KIND[part.kind](design, line, part)[2]


def with_shelf(design: Design, shelf: Shelf, stock: Mapping[str, Stock]) -> Design:
    """A design with the free panels and controllers of the club beside those of its own document,
    each once.

    Parameters
    ----------
    shelf : Shelf
        What the club has.
    stock : Mapping[str, Stock]
        How many of each are free.
    """
    modules = list(design.array.shelf_modules)
    controllers = list(design.array.shelf_controllers)
    for part in shelf.parts:
        free = int(stock[part.id].free)
        if part.kind == "panel" and part.module is not None and free > 0:
            own = next(
                (item for item in modules if item.name == part.name and item.module == part.module),
                None,
            )
            if own is None:
                modules.append(
                    ShelfModule(id=part.id, name=part.name, count=min(free, 64), module=part.module)
                )
        elif part.kind == "controller" and part.regulator is not None and free > 0:
            alike = [
                item
                for item in controllers
                if item.name == part.name and item.regulator == part.regulator
            ]
            if not alike:
                controllers.append(
                    ShelfController(
                        id=part.id, name=part.name, kind=part.controller, regulator=part.regulator
                    )
                )
    array = design.array.model_copy(
        update={"shelf_modules": modules, "shelf_controllers": controllers}
    )
    return design.model_copy(update={"array": array})
