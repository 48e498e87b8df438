"""Findings about weight on the road: the hitch, the whole, and whether it tows well."""

from collections.abc import Iterator

from ...finding import Finding
from ...parts import LEAST_NOSE, MOST_NOSE
from ...report import Report
from ...station import StationModel
from ..register import mild_rule, rule


@rule
def over_the_hitch(station: StationModel, report: Report) -> Iterator[Finding]:
    """More on the hitch than it allows, or than the trailer may weigh."""
    balance = report.build.balance
    if balance is None:
        return
    nose, gross = report.working[balance.nose_kg].number, report.working[balance.gross_kg].number
    if balance.nose_limit_kg is not None and nose > balance.nose_limit_kg:
        yield Finding(
            id="build.nose_over",
            severity="stop",
            step="build",
            sentence=f"{nose:.0f} kg on the hitch, which allows {balance.nose_limit_kg:.0f} kg",
            why="An overloaded hitch breaks, and lifts the front wheels off their grip. Move "
            "weight toward the axle or "
            "leave some of it at home; weigh it before you drive. The car's own papers have "
            "the last word.",
            pointer="/build/haul/nose_limit_kg",
        )
    if balance.gross_limit_kg is not None and gross > balance.gross_limit_kg:
        yield Finding(
            id="build.gross_over",
            severity="stop",
            step="build",
            sentence=(
                f"The trailer weighs {gross:.0f} kg loaded, and may weigh "
                f"{balance.gross_limit_kg:.0f} kg"
            ),
            why=(
                "Brakes, tyres and axle are made for its limit. Leave some of it at home; "
                "weigh it on a public scale."
            ),
            pointer="/build/haul/gross_limit_kg",
        )


@rule
def tows_badly(station: StationModel, report: Report) -> Iterator[Finding]:
    """Too little or too much of its weight in front. [C]"""
    balance = report.build.balance
    if balance is None:
        return
    share = report.working[balance.nose_share].number
    if share < LEAST_NOSE:
        yield Finding(
            id="build.nose_light",
            severity="fix",
            step="build",
            sentence=(
                f"{100 * share:.0f} % of the trailer's weight stands on the hitch: it will sway"
            ),
            why=f"A trailer tows well with {100 * LEAST_NOSE:.0f} to {100 * MOST_NOSE:.0f} % of "
            "its weight in "
            "front, by common practice. Move heavy things ahead of the axle.",
            pointer="/build/haul/cargo",
        )
    elif share > MOST_NOSE:
        yield Finding(
            id="build.nose_heavy",
            severity="mind",
            step="build",
            sentence=f"{100 * share:.0f} % of the trailer's weight stands on the hitch",
            why=(
                f"Over {100 * MOST_NOSE:.0f} % presses the car's tail down. Move weight back "
                "toward the axle."
            ),
            pointer="/build/haul/cargo",
        )


@mild_rule
def not_all_placed(station: StationModel, report: Report) -> Iterator[Finding]:
    """Heavy parts nobody has placed: the sum is short of them."""
    balance = report.build.balance
    if balance is None or not balance.unplaced:
        return
    yield Finding(
        id="build.not_placed",
        severity="mind",
        step="build",
        sentence=f"Weight or place not known: {', '.join(balance.unplaced[:3])}",
        why=(
            "The weight on the hitch leaves them out. Type where each stands, ahead of the "
            "axle or behind it."
        ),
        pointer="/build/parts",
    )
