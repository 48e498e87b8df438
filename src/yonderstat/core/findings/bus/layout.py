"""Findings about how the runs hang together: shared leads, plugs, meters, the box, and rows that
lead nowhere."""

from collections.abc import Iterator

from ...bus import box_heat, inside_w
from ...changes import Change, Operation
from ...data import rows_by
from ...design import POST
from ...finding import Finding
from ...report import Report
from ...station import StationModel
from ...words import celsius
from ..register import mild_rule, rule
from ..remedies import mending
from .rows import with_run

NEAR_LIMIT_K = 5.0
OUTSIDE = {"trailer", "vehicle", "go_box", "unattended"}


@rule
def shared_leads(station: StationModel, report: Report) -> Iterator[Finding]:
    """Charge and load on one pair of leads to the post."""
    for run in station.bus.runs:
        leg = run.leg
        if leg.feeds not in {"charge", "engine"} or leg.fed_from == POST or leg.index is None:
            continue
        yield Finding(
            id=f"bus.shared_leads.{leg.id}",
            severity="fix",
            step="bus",
            sentence=f"{leg.name} and the loads share one pair of leads to the battery",
            why="If the battery comes off or its fuse blows, the radios get the panel's "
            "open-circuit volts. The controller also misreads the battery, because the loads "
            "drop volts in the same leads. Give it its own leads to the battery.",
            pointer=f"/bus/runs/{leg.index}/fed_from",
            remedies=(
                mending(
                    station,
                    "Give it its own leads to the battery post",
                    "the battery is then between source and loads",
                    with_run(station.design, leg.id, fed_from=POST)[0],
                    [Operation("replace", f"/bus/runs/{leg.index}/fed_from", POST)],
                ),
            ),
        )


@rule
def no_panel_switch(station: StationModel, report: Report) -> Iterator[Finding]:
    """Nothing to part panels and controller with."""
    if station.design.bus.panel_switch == "no" and station.design.array.strings:
        yield Finding(
            id="bus.panel_switch",
            severity="fix",
            step="bus",
            sentence="There is no disconnect between panels and controller",
            why="A plug pulled under load arcs, and panels cannot be switched off. Fit a DC-rated "
            "switch or breaker, for the string's volts in the cold. Until then, cover the "
            "panels first.",
            pointer="/bus/panel_switch",
        )


@rule
def not_bonded(station: StationModel, report: Report) -> Iterator[Finding]:
    """No common earth."""
    if station.design.bus.earthed == "no":
        yield Finding(
            id="bus.earthed",
            severity="fix" if station.design.brief.kind in {"home", "unattended"} else "mind",
            step="bus",
            sentence="Negative, frames, mast and antenna entry are not bonded to one earth",
            why="Lightning and fault currents go through the radios. Bond everything to one earth "
            "with short straps, and fit arrestors at the entry. Follow the local code.",
            pointer="/bus/earthed",
        )


@mild_rule
def past_the_shunt(station: StationModel, report: Report) -> Iterator[Finding]:
    """A meter that does not see every ampere."""
    metered = any(part.kind == "shunt" for run in station.bus.runs for part in run.parts)
    if metered and station.design.bus.all_through_shunt == "no":
        yield Finding(
            id="bus.shunt",
            severity="mind",
            step="bus",
            sentence="A negative lead bypasses the shunt, so the meter misses some of the current",
            why="Its figure for the charge left gets more wrong every day. Connect all negative "
            "leads, the controllers' too, to the side of the shunt away from the battery.",
            pointer="/bus/all_through_shunt",
        )


@rule
def plugs(station: StationModel, report: Report) -> Iterator[Finding]:
    """Connectors as built: too small, the wrong way round, or opened under load."""
    known = rows_by("connectors", "connector")
    for run in station.bus.runs:
        if run.leg.row is None or run.leg.row.connector is None:
            continue
        row, at = known[run.connector], f"/bus/runs/{run.leg.index}/connector"
        if run.carried.peak_a > float(row["rating_a"]) + 1e-6:
            yield Finding(
                id=f"bus.connector.{run.leg.id}",
                severity="fix",
                step="bus",
                sentence=f"{run.leg.name}: {row['label']} rated {float(row['rating_a']):g} A, "
                f"carrying {run.carried.peak_a:.1f} A",
                why="It overheats: the heat softens its spring, and then it gets hotter still.",
                pointer=at,
            )
        if row["keyed"] == "no" and run.connector in {"banana", "tabs", "clips", "barrel"}:
            yield Finding(
                id=f"bus.polarity.{run.leg.id}",
                severity="fix" if run.connector == "clips" and run.leg.fed_from == POST else "mind",
                step="bus",
                sentence=(
                    f"{run.leg.name}, {row['label']}: can be connected the wrong way "
                    "round, or come off by itself"
                ),
                why="Swapping plus and minus destroys a radio at once. Use one kind of polarised "
                "connector all over the station. Don't use a plug as the only switch, and never "
                "pull one under load.",
                pointer=at,
            )
        if row["corrodes"] == "yes" and station.design.brief.kind in OUTSIDE:
            yield Finding(
                id=f"bus.corrodes.{run.leg.id}",
                severity="mind",
                step="bus",
                sentence=f"{run.leg.name}, {row['label']}: corrodes outdoors",
                why=(
                    "A corroded joint loses volts only under load, when nobody measures. "
                    "Grease it, and check it every season."
                ),
                pointer=at,
            )


@rule
def modified_supplies(station: StationModel, report: Report) -> Iterator[Finding]:
    """A re-used supply with bare tabs and no fuse on its leads."""
    for run in station.bus.runs:
        if run.leg.feeds == "source" and run.connector == "tabs" and run.fuse.kind == "none":
            yield Finding(
                id=f"bus.tabs.{run.leg.id}",
                severity="fix",
                step="bus",
                sentence=f"{run.leg.name}: bare tabs without a fuse on each lead",
                why="Whatever touches the tabs gets the supply's full current, and more from the "
                "battery. Fit a fuse at both ends of each lead, and cover the tabs.",
                pointer=f"/bus/runs/{run.leg.index}/fuse",
            )


@mild_rule
def by_its_own_display(station: StationModel, report: Report) -> Iterator[Finding]:
    """A supply whose set volts nobody has measured with a meter of their own."""
    for index, charger in enumerate(station.design.array.chargers):
        volts = charger.volts
        if (
            charger.kind != "bench_supply"
            or volts is None
            or volts.basis == "measured"
            or not charger.shows
        ):
            continue
        yield Finding(
            id=f"bus.display.{charger.id}",
            severity="mind",
            step="bus",
            sentence=f"{charger.name}: its setting of {volts.value:g} V has not been measured",
            why="Its own display is a few tenths of a volt off, and shows the volts at the supply, "
            "not at the battery. Measure at the battery post with a meter while it charges, "
            "and enter that.",
            pointer=f"/array/chargers/{index}/volts",
        )


@rule
def hot_box(station: StationModel, report: Report) -> Iterator[Finding]:
    """A box hotter than what is in it stands."""
    box = station.design.bus.box
    if box is None:
        return
    heat = box_heat(
        box,
        inside_w(station.design, station.bus, station.array, station.mean_w),
        station.climate.hottest_c,
    )
    hottest, limit = heat.hottest_c, heat.limit_c
    if hottest > limit - NEAR_LIMIT_K:
        yield Finding(
            id="bus.box_hot",
            severity="fix" if hottest > limit else "mind",
            step="bus",
            sentence=(
                f"The box reaches {celsius(hottest)} on the hottest afternoon; the equipment "
                f"inside allows {celsius(limit)} at most"
            ),
            why="Radios and controllers cut their output, and every ten kelvin more doubles the "
            "ageing. Shade the box, or paint it a light colour. Add openings low and high, or "
            "a fan with a thermostat. Or put fewer watts inside.",
            pointer="/bus/box",
        )
    closed_c = heat.hottest_c - heat.rise_k + heat.closed_k
    if box.fan_m3_h and closed_c > limit >= hottest:
        yield Finding(
            id="bus.box_fan",
            severity="mind",
            step="bus",
            sentence=(
                f"With its fan stopped, the box reaches {celsius(closed_c)}; the equipment "
                f"withstands {celsius(limit)}"
            ),
            why="Dust, a blown fuse or an empty battery stops a fan. Fit a thermometer you can "
            "read from outside, or vents low and high that need no fan.",
            pointer="/bus/box",
        )
    if box.conductive_wrap:
        yield Finding(
            id="bus.box_wrap",
            severity="fix",
            step="bus",
            sentence="There is conductive foil or cloth in or around the box",
            why=(
                "It can short any bare terminal. Use insulating film, or none. A shield belongs on "
                "the outside, bonded to earth."
            ),
            pointer="/bus/box/conductive_wrap",
        )
    if box.ingress in {"ip65", "ip67"} and not box.vent_cm2 and not box.fan_m3_h:
        yield Finding(
            id="bus.box_sealed",
            severity="mind",
            step="bus",
            sentence="The box is sealed: moisture inside cannot get out",
            why="Hydrogen builds up in a sealed box: never put a lead battery in one. On cold "
            "nights moisture settles on the circuit boards. Fit a breather plug low down, with "
            "mesh against insects.",
            pointer="/bus/box/ingress",
        )


@rule
def rows_that_lead_nowhere(station: StationModel, report: Report) -> Iterator[Finding]:
    """A typed run of something that is gone, or that begins nowhere, or leads back into itself."""
    sentences = {
        "nothing": "is still entered, but what it fed is gone",
        "nowhere": ("starts at a run that does not exist; we use the proposed start instead"),
        "loop": "loops back to itself; we use the proposed start instead",
    }
    for item in station.bus.amiss:
        at = f"/bus/runs/{item.index}"
        gone = item.why == "nothing"
        yield Finding(
            id=f"bus.row.{item.run}",
            severity="mind" if gone else "fix",
            step="bus",
            sentence=f"The run “{item.run}” {sentences[item.why]}",
            why="Remove the row, or add again what it fed."
            if gone
            else "Every run must lead back to the battery post.",
            pointer=at if gone else f"{at}/fed_from",
            remedies=(
                Change("Remove the row", "nothing depends on it", (Operation("remove", at),)),
            )
            if gone
            else (),
        )
