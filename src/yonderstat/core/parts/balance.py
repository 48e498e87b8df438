"""Weight on the hitch by moments: every load's weight times its way ahead of the axle, over the way
to the hitch."""

from dataclasses import dataclass

from ..design import Design
from ..working import Key, Quantity, Workings, given, used
from .model import Item

HEAVY = ("battery-", "pack-", "panel-")
LEAST_NOSE, MOST_NOSE = 0.04, 0.10
"""Share of a trailer's weight that stands on the hitch when it tows well. [C]"""


@dataclass(frozen=True, slots=True, kw_only=True)
class BalanceReport:
    """What the trailer weighs and what of it stands on the hitch."""

    gross_kg: Key
    nose_kg: Key
    nose_share: Key
    nose_limit_kg: float | None
    gross_limit_kg: float | None
    unplaced: tuple[str, ...]
    """Panels and batteries whose weight or place is not known."""
    takeaway: str


def _weights(
    design: Design, items: tuple[Item, ...], workings: Workings
) -> list[tuple[str, Quantity, float]]:
    """What is placed: name, weight and metres ahead of the axle."""
    rows = {row.id: row for row in design.build.parts}
    found = []
    for item in items:
        row, mass = rows.get(item.id), workings.get(f"parts.{item.id}.kg")
        if row is not None and row.ahead_m is not None and mass is not None:
            found.append((item.name, mass, row.ahead_m))
    haul = design.build.haul
    for index, cargo in enumerate(haul.cargo if haul else ()):
        mass = workings.add(
            f"parts.cargo.{cargo.id}.kg",
            cargo.kg.value,
            "kg",
            label=f"{cargo.name}: weight",
            formula="m",
            words="as typed",
            inputs=[given("m", "weight", cargo.kg, "kg", f"/build/haul/cargo/{index}/kg")],
            source="arithmetic",
        )
        found.append((cargo.name, mass, cargo.ahead_m))
    return found


def balance_report(
    design: Design, items: tuple[Item, ...], workings: Workings
) -> BalanceReport | None:
    """The balance explained; None where no trailer is described.

    Parameters
    ----------
    items : tuple of Item
        Everything that has a weight, with where it stands.
    """
    haul = design.build.haul
    if haul is None:
        return None
    placed = _weights(design, items, workings)
    gross = workings.add(
        "parts.balance.gross_kg",
        haul.empty_kg.value + sum(mass.number for _, mass, _ in placed),
        "kg",
        label="Loaded weight of the trailer",
        formula="m₀ + Σ m",
        words="empty weight plus everything placed in it",
        inputs=[
            given("m₀", "empty", haul.empty_kg, "kg", "/build/haul/empty_kg"),
            *(used(f"m{number}", mass) for number, (_, mass, _) in enumerate(placed, start=1)),
        ],
        source="moments",
    )
    moment = sum(mass.number * ahead_m for _, mass, ahead_m in placed)
    nose = workings.add(
        "parts.balance.nose_kg",
        haul.empty_nose_kg.value + moment / haul.hitch_m.value,
        "kg",
        label="Weight on the hitch",
        formula="n₀ + Σ m · x / L",
        words=(
            "hitch weight when empty, plus each weight times its distance ahead of the axle, "
            "divided by the distance from axle to hitch"
        ),
        inputs=[
            given(
                "n₀", "on the hitch, empty", haul.empty_nose_kg, "kg", "/build/haul/empty_nose_kg"
            ),
            given("L", "axle to hitch", haul.hitch_m, "m", "/build/haul/hitch_m"),
            *(
                used(f"m{number} at {ahead_m:g} m", mass)
                for number, (_, mass, ahead_m) in enumerate(placed, start=1)
            ),
        ],
        source="moments",
    )
    share = workings.add(
        "parts.balance.nose_share",
        nose.number / gross.number,
        "share",
        label="Share of the weight on the hitch",
        formula="n / m",
        words="weight on the hitch divided by the whole weight",
        inputs=[used("n", nose), used("m", gross)],
        source="moments",
    )
    known = {name for name, _, _ in placed}
    return BalanceReport(
        gross_kg=gross.key,
        nose_kg=nose.key,
        nose_share=share.key,
        nose_limit_kg=haul.nose_limit_kg.value if haul.nose_limit_kg else None,
        gross_limit_kg=haul.gross_limit_kg.value if haul.gross_limit_kg else None,
        unplaced=tuple(
            item.name
            for item in items
            if item.id.startswith(HEAVY) and item.unit == "×" and item.name not in known
        ),
        takeaway=f"Weight on the hitch: {nose.number:.0f} kg of {gross.number:.0f} kg in all.",
    )
