"""The short safety words beside the field that can hurt."""

from collections.abc import Callable

from ..data import toml_table
from ..design import Bank, Design
from ..finding import Caution
from ..report import Report
from ..store import kind_of

SHOCK_V = 60.0
TRAVELS = {"trailer", "vehicle", "go_box"}
MAINS = {"mains", "changeover", "bench_supply", "maintainer", "panel_supply"}


def _banks(design: Design) -> list[Bank]:
    main = [design.store.bank] if design.store.bank else []
    return [*main, *(layer.bank for layer in design.store.layers)]


def _has_charger(design: Design, kinds: set[str]) -> bool:
    return any(charger.kind in kinds for charger in design.array.chargers)


def _shocks(report: Report) -> bool:
    return any((report.number(check.cold_v) or 0.0) > SHOCK_V for check in report.charging.strings)


WHEN: dict[str, Callable[[Design, Report], bool]] = {
    "always": lambda design, report: True,
    "lead": lambda design, report: any(kind_of(bank.chemistry).is_lead for bank in _banks(design)),
    "lithium": lambda design, report: any(
        not kind_of(bank.chemistry).is_lead for bank in _banks(design)
    ),
    "inverter": lambda design, report: any(rail.kind == "inverter" for rail in design.draw.rails),
    "mains": lambda design, report: _has_charger(design, MAINS),
    "generator": lambda design, report: _has_charger(design, {"generator"}),
    "shock": lambda design, report: _shocks(report),
    "acid_travels": lambda design, report: (
        design.brief.kind in TRAVELS
        and any(kind_of(bank.chemistry).free_acid for bank in _banks(design))
    ),
    "tower": lambda design, report: design.brief.kind == "unattended",
    "own_inverter": lambda design, report: any(
        string.module.own_inverter for string in design.array.strings
    ),
    "charger": lambda design, report: bool(design.array.chargers),
    "travels": lambda design, report: design.brief.kind in TRAVELS,
}
"""What of a design calls for a caution."""


def cautions_of(design: Design, report: Report) -> tuple[Caution, ...]:
    """The cautions that apply to a design, in the order of the steps."""
    entries = toml_table("cautions")["caution"]
    return tuple(
        Caution(entry["step"], entry["at"], entry["text"], entry["why"])
        for entry in entries
        if WHEN[entry["when"]](design, report)
    )
