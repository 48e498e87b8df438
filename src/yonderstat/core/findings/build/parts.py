"""Findings about the parts list: what is typed of lines that are gone, and panels at hand that are
bought anew."""

from collections.abc import Iterator

from ...changes import Change, Operation
from ...finding import Finding
from ...parts import items_of, reuse_of
from ...report import Report
from ...station import StationModel
from ..register import mild_rule


@mild_rule
def rows_of_what_is_gone(station: StationModel, report: Report) -> Iterator[Finding]:
    """Something typed of a part that the design no longer needs."""
    rows = station.design.build.parts
    if not rows:
        return
    known = {item.id for item in items_of(station.design, station.bus)}
    for index, part in enumerate(rows):
        if part.id not in known:
            at = f"/build/parts/{index}"
            yield Finding(
                id=f"build.gone.{part.id}",
                severity="mind",
                step="build",
                sentence=f"“{part.id}” is still on the parts list, but the design no longer needs it",
                why=(
                    "The design has changed since. Move the part to the club stores, or "
                    "remove it from the list."
                ),
                pointer=at,
                remedies=(
                    Change(
                        "Remove it from the list",
                        "the design does not need it",
                        (Operation("remove", at),),
                    ),
                ),
            )


@mild_rule
def at_hand(station: StationModel, report: Report) -> Iterator[Finding]:
    """Panels of the shelf that would do in a string and are not counted as there."""
    have = {part.id: part.have for part in station.design.build.parts}
    for reuse in reuse_of(station.design):
        if reuse.fit > 0 and have.get(f"panel-{reuse.id}", 0.0) < reuse.needed:
            yield Finding(
                id=f"build.reuse.{reuse.id}",
                severity="mind",
                step="build",
                sentence=(
                    f"{reuse.fit} of the {reuse.needed} panels for {reuse.name} can come from the "
                    "club stores"
                ),
                why=(
                    f"{reuse.words} Measure them in the sun first. Then enter in the parts "
                    "list that you have them."
                ),
                pointer="/build/parts",
            )
