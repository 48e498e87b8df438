"""What age has left of a battery's label: tested, typed, or guessed from its years."""

from ..chemistries import kind_of
from ..design import Bank
from ..working import Input, Quantity, Workings, assumed, given, table, used

SPENT_SHARE = 0.8
"""A battery's life ends by definition where so much of its label is left. [C] common practice."""
LEAST_SHARE = 0.5
"""Nobody can say from its years alone that less is left."""


def is_guessed(bank: Bank) -> bool:
    """Whether what age has left is our guess from the years: nobody tested it or said."""
    return bank.tested_ah is None and bank.health.basis == "default" and bank.age_years is not None


def health_left(bank: Bank) -> float:
    """Share of the label that age has left; 1 for a tested bank, whose test already says so.

    Notes
    -----
    h = 1 − 0.2 · a / L in a straight line to the end of its usual years and on, never below a half:
    common practice.
    """
    if bank.tested_ah:
        return 1.0
    if not is_guessed(bank) or bank.age_years is None:
        return bank.health.value
    faded = (1.0 - SPENT_SHARE) * bank.age_years.value / kind_of(bank.chemistry).calendar_years
    return max(LEAST_SHARE, 1.0 - faded)


def health_input(bank: Bank, workings: Workings, key: str, at: str) -> Input:
    """What age has left, as an input of another figure; guessed from the years it is a figure of
    its own.

    Parameters
    ----------
    key : str
        Where its quantity stands.
    at : str
        Pointer to the bank in the design.
    """
    if not is_guessed(bank) or bank.age_years is None:
        return given("h", "health", bank.health, "share", f"{at}/health")
    return used("h", _guessed(bank, workings, key, at))


def _guessed(bank: Bank, workings: Workings, key: str, at: str) -> Quantity:
    assert bank.age_years is not None
    kind = kind_of(bank.chemistry)
    return workings.add(
        key,
        health_left(bank),
        "share",
        label="Capacity left with age, our guess",
        formula="h = 1 − (1 − h_end) · a / L, at least 0.5",
        words=(
            "falls evenly from new to the end of its usual life; a discharge test is more certain"
        ),
        inputs=[
            given("a", "age", bank.age_years, "years", f"{at}/age_years"),
            table("L", f"usual years, {kind.label}", kind.calendar_years, "years", "class-battery"),
            assumed(
                "h_end",
                "share left when the battery is worn out",
                SPENT_SHARE,
                "share",
                "practice",
                f"{at}/health",
            ),
        ],
        source="practice",
    )
