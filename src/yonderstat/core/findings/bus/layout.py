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
            why="When the battery comes off, or its fuse blows, the source is left with the "
            "radios: a panel's "
            "open-circuit volts reach them. The controller also reads the bank through the "
            "loads' drop. Give it "
            "leads of its own.",
            pointer=f"/bus/runs/{leg.index}/fed_from",
            remedies=(
                mending(
                    station,
                    "Leads of its own to the post",
                    "the battery lies between source and loads",
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
            why="Panels cannot be switched off: without one the only way is a plug pulled under "
            "load, or a blanket. "
            "A DC-rated switch or breaker, for the string's cold volts.",
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
            why="Lightning and faults find their own way, through the sets. One earth, short "
            "straps, arrestors at the "
            "entry; by the local code.",
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
            sentence="Some minus lead goes past the shunt: the meter does not see every ampere",
            why="What it counts as left drifts away from the truth day by day. Every minus lead, "
            "the controllers' too, "
            "on the far side of the shunt.",
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
                sentence=f"{run.leg.name}: a {row['label']} is good for {float(row['rating_a']):g} A, "
                "and it carries "
                f"{run.carried.peak_a:.1f} A",
                why="It heats, its spring goes soft, and it heats more.",
                pointer=at,
            )
        if row["keyed"] == "no" and run.connector in {"banana", "tabs", "clips", "barrel"}:
            yield Finding(
                id=f"bus.polarity.{run.leg.id}",
                severity="fix" if run.connector == "clips" and run.leg.fed_from == POST else "mind",
                step="bus",
                sentence=(
                    f"{run.leg.name}: a {row['label']} can be put on the wrong way round, or "
                    "off by itself"
                ),
                why="Plus and minus swapped kills a set in a moment. A keyed connector, the same "
                "all over the "
                "station; no plug is the only switch, and none is pulled under load.",
                pointer=at,
            )
        if row["corrodes"] == "yes" and station.design.brief.kind in OUTSIDE:
            yield Finding(
                id=f"bus.corrodes.{run.leg.id}",
                severity="mind",
                step="bus",
                sentence=f"{run.leg.name}: a {row['label']} corrodes outdoors",
                why=(
                    "A corroded joint loses volts only under load, where no meter looks. "
                    "Grease it, look each season."
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
                why="A re-used supply drives all it has into whatever touches its tabs, and the "
                "bank drives more "
                "the other way. A fuse per lead, at both ends, and covers.",
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
            sentence=f"{charger.name}: nobody has measured the {volts.value:g} V it is set to",
            why="Its own display is a few tenths off, and reads at the supply, not at the post. "
            "Measure at the "
            "post with a meter, while it charges, and type that.",
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
                f"The box reaches {celsius(hottest)} on the hottest afternoon; what is in "
                f"it stands {celsius(limit)}"
            ),
            why="Sets fold back their power, controllers their current, and everything ages "
            "twice as fast for "
            "every ten kelvin. Shade it, open it low and high, or a fan with a thermostat; a "
            "light colour; fewer "
            "watts inside.",
            pointer="/bus/box",
        )
    closed_c = heat.hottest_c - heat.rise_k + heat.closed_k
    if box.fan_m3_h and closed_c > limit >= hottest:
        yield Finding(
            id="bus.box_fan",
            severity="mind",
            step="bus",
            sentence=(
                f"With its fan still the box reaches {celsius(closed_c)}; what is in it "
                f"stands {celsius(limit)}"
            ),
            why="A fan stops by dust, by its fuse, or with the bank. A thermometer that can be "
            "read from outside, or "
            "vents low and high that do without.",
            pointer="/bus/box",
        )
    if box.conductive_wrap:
        yield Finding(
            id="bus.box_wrap",
            severity="fix",
            step="bus",
            sentence="Conductive foil or cloth is in or around the box",
            why=(
                "It finds the one bare terminal. Insulating film, or none; a screen belongs "
                "outside, bonded to earth."
            ),
            pointer="/bus/box/conductive_wrap",
        )
    if box.ingress in {"ip65", "ip67"} and not box.vent_cm2 and not box.fan_m3_h:
        yield Finding(
            id="bus.box_sealed",
            severity="mind",
            step="bus",
            sentence="The box is sealed: what is damp in it stays in it",
            why="Warm days drive the damp out of things and cold nights lay it on the boards. A "
            "breather plug low "
            "down, mesh against insects; and never a lead battery in a sealed box: hydrogen.",
            pointer="/bus/box/ingress",
        )


@rule
def rows_that_lead_nowhere(station: StationModel, report: Report) -> Iterator[Finding]:
    """A typed run of something that is gone, or that begins nowhere, or leads back into itself."""
    sentences = {
        "nothing": "is typed, and what it fed is not there any more",
        "nowhere": (
            "begins at a run that is not there: it is taken to begin where it is proposed to"
        ),
        "loop": "leads back into itself: it is taken to begin where it is proposed to",
    }
    for item in station.bus.amiss:
        at = f"/bus/runs/{item.index}"
        gone = item.why == "nothing"
        yield Finding(
            id=f"bus.row.{item.run}",
            severity="mind" if gone else "fix",
            step="bus",
            sentence=f"The run “{item.run}” {sentences[item.why]}",
            why="Remove the row, or type again what it hangs on."
            if gone
            else "Every run begins at the post in the end.",
            pointer=at if gone else f"{at}/fed_from",
            remedies=(Change("Remove the row", "nothing hangs on it", (Operation("remove", at),)),)
            if gone
            else (),
        )
