"""Whether a supply fills this bank: a matter of volts before amps."""

from ..controllers import controller_type
from ..design import Bank, Charger, Design
from ..store import ChargeSetting, block_share, charge_settings, kind_of
from .electric import controller_figure

MPPT_SUPPLY_DROP_V = 2.0
"""A bench supply on an MPPT's panel terminals must stand this far above the bank. [C] a volt or
two."""
HOLDS_LEAD_12V = 13.3
"""Lead held here holds; it does not charge in useful time. [C]"""
NEAR_V = 0.05


def panel_terminal_v(charger: Charger, design: Design) -> float | None:
    """Volts a supply on a controller's panel terminals leaves for the bank; None where either is
    not known. [V]"""
    string = next((item for item in design.array.strings if item.id == charger.through), None)
    if charger.volts is None or string is None:
        return None
    drop = controller_figure(string, "drop_v") + (
        MPPT_SUPPLY_DROP_V if controller_type(string.controller).tracks else 0.0
    )
    return charger.volts.value - drop


OVER_HIGHEST_V = 0.2
"""So much above the highest school's absorption, of a 12 V block, is past all schools. [C]"""


def _schools(bank: Bank) -> tuple[ChargeSetting, ...]:
    return charge_settings(bank, bank.unit_v * bank.series, 100.0, 25.0)


def most_charge_v(bank: Bank) -> float:
    """The highest volts at 25 °C that any school of thought charges this bank with, and a little.
    [V]"""
    blocks = block_share(bank.chemistry, bank.unit_v * bank.series)
    return max(setting.absorb_v for setting in _schools(bank)) + OVER_HIGHEST_V * blocks


def _least_float_v(bank: Bank) -> float:
    return min((setting.float_v or setting.absorb_v) for setting in _schools(bank))


def is_too_high(charger: Charger, bank: Bank) -> bool:
    """Whether a charger's own volts are above all schools for this bank; one on panel terminals has
    a controller."""
    known = charger.volts is not None and charger.kind != "panel_supply"
    return known and charger.volts is not None and charger.volts.value > most_charge_v(bank) + 1e-9


def supply_verdict(charger: Charger, design: Design, absorb_v: float) -> tuple[bool, str]:
    """Whether a source fills the bank, and why or why not.

    Parameters
    ----------
    charger : Charger
        The source asked about.
    absorb_v : float
        Volts the bank is to be charged at. [V]
    """
    bank = design.store.bank
    if charger.kind == "selector":
        return True, "It runs the station while mains are on. It doesn't charge the battery."
    if charger.kind == "panel_supply":
        left = panel_terminal_v(charger, design)
        if left is None:
            return (
                True,
                "Enter its voltage and the string whose controller it feeds, so we can judge it.",
            )
        if left < absorb_v:
            return False, (
                f"It never fills the battery: {left:.1f} V are left after the controller, and the "
                f"battery needs {absorb_v:.1f} V."
            )
        return True, (
            f"It fills the battery: {left:.1f} V are left after the controller, and "
            f"{absorb_v:.1f} V are needed. The controller switches this supply on and off all "
            "the time."
        )
    if charger.volts is None or bank is None:
        return True, "Its voltage isn't given; we assume it suits the battery."
    if is_too_high(charger, bank):
        most_v = most_charge_v(bank)
        return True, (
            f"It overcharges the battery: it gives {charger.volts.value:.1f} V, and "
            f"{most_v:.1f} V is the most allowed."
        )
    setting = _schools(bank)[0]
    holds_v = HOLDS_LEAD_12V * block_share(bank.chemistry, bank.unit_v * bank.series)
    if charger.kind == "maintainer" and charger.volts.value >= _least_float_v(bank) - NEAR_V:
        return True, (
            f"{charger.volts.value:.1f} V keeps a full battery full, but takes too long to "
            "refill it."
        )
    if kind_of(bank.chemistry).is_lead and charger.volts.value <= holds_v + NEAR_V:
        return False, (
            f"{charger.volts.value:.1f} V keeps a full lead battery full, but takes too long "
            "to charge it."
        )
    if charger.volts.value < (setting.float_v or setting.absorb_v) - 0.2:
        return False, (
            f"It can't keep the battery full: {charger.volts.value:.1f} V is below the float "
            "voltage."
        )
    if charger.volts.value < absorb_v - NEAR_V:
        return True, (
            f"{charger.volts.value:.1f} V fills the battery slowly; {absorb_v:.1f} V would "
            "be right."
        )
    return True, f"{charger.volts.value:.1f} V fills the battery."
