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
            sentence=f"{nose:.0f} kg on the hitch; its limit is {balance.nose_limit_kg:.0f} kg",
            why="An overloaded hitch breaks, and the front wheels lose grip. Move weight toward "
            "the axle, or leave something at home. Weigh it before you drive. The limits in "
            "the car's papers decide.",
            pointer="/build/haul/nose_limit_kg",
        )
    if balance.gross_limit_kg is not None and gross > balance.gross_limit_kg:
        yield Finding(
            id="build.gross_over",
            severity="stop",
            step="build",
            sentence=(
                f"The loaded trailer weighs {gross:.0f} kg; its limit is "
                f"{balance.gross_limit_kg:.0f} kg"
            ),
            why=(
                "Brakes, tyres and axle are built for that limit. Leave something at home, and "
                "weigh the trailer on a public scale."
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
                f"Only {100 * share:.0f} % of the trailer's weight is on the hitch: the trailer "
                "will sway"
            ),
            why=f"By common practice, a trailer tows well with {100 * LEAST_NOSE:.0f} to "
            f"{100 * MOST_NOSE:.0f} % of its weight on the hitch. Move heavy things in front "
            "of the axle.",
            pointer="/build/haul/cargo",
        )
    elif share > MOST_NOSE:
        yield Finding(
            id="build.nose_heavy",
            severity="mind",
            step="build",
            sentence=f"{100 * share:.0f} % of the trailer's weight is on the hitch: too much",
            why=(
                f"More than {100 * MOST_NOSE:.0f} % pushes the rear of the car down. Move weight "
                "back toward the axle."
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
            "The hitch weight leaves them out. Enter what each one weighs, and how far it is "
            "in front of or behind the axle."
        ),
        pointer="/build/parts",
    )
