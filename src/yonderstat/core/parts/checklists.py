"""What is done before, while and after a station is built, each thing tied to what the design
holds."""

from collections.abc import Callable
from dataclasses import dataclass

from ..bus import BusReport
from ..data import toml_table
from ..design import Design
from ..draw import TIERS
from ..working import Key

TRAVELS = {"trailer", "vehicle", "go_box"}
WHEN: dict[str, Callable[[Design], bool]] = {
    "always": lambda design: True,
    "panels": lambda design: bool(design.array.strings),
    "bank": lambda design: design.store.bank is not None,
    "travels": lambda design: design.brief.kind in TRAVELS,
}


@dataclass(frozen=True, slots=True)
class CheckItem:
    """One thing to do, and the reading to expect where there is one."""

    id: str
    text: str
    expect: Key | None = None


@dataclass(frozen=True, slots=True)
class Checklist:
    """Things done together."""

    id: str
    title: str
    items: tuple[CheckItem, ...]


def _packaged(design: Design) -> list[Checklist]:
    found = []
    for entry in toml_table("checklists")["list"]:
        items = tuple(
            CheckItem(f"{entry['id']}.{key}", text)
            for key, when, text in entry["items"]
            if WHEN[when](design)
        )
        if items:
            found.append(Checklist(entry["id"], entry["title"], items))
    return found


def _go_dark(design: Design) -> Checklist:
    """What is switched off first when the charge runs down: comfort, then useful; the vital loads
    last."""
    words = {
        "comfort": "when 60 % of the usable charge is left",
        "useful": "at 40 %",
        "vital": "last, when the battery cuts off",
    }
    items = [
        CheckItem(f"dark.{load.id}", f"{load.name}: {words[tier]}")
        for tier in reversed(TIERS)
        for load in design.draw.loads
        if (load.tier or "vital") == tier
    ]
    return Checklist("dark", "What to switch off, in order", tuple(items))


def checklists_of(design: Design, bus: BusReport) -> tuple[Checklist, ...]:
    """The lists of a design, in the order they are needed; the first power-up is the Bus's own
    card."""
    power_up = next(card for card in bus.cards if card.id == "power-up")
    first = Checklist(
        "power-up",
        power_up.title,
        tuple(
            CheckItem(f"power-up.{number}", step.text, step.expect)
            for number, step in enumerate(power_up.steps, 1)
        ),
    )
    lists = _packaged(design)
    place = next(number for number, item in enumerate(lists) if item.id == "install") + 1
    dark = _go_dark(design)
    return (*lists[:place], first, *lists[place:], *((dark,) if dark.items else ()))
