"""Findings about fuses, breakers and the wire they are there for."""

from collections.abc import Iterator

from ...bus import Run, load_run, most_fuse_a, part_rating_a, rail_run
from ...bus import fuse_for as needed_a
from ...changes import Change
from ...claim import Claim, less, more
from ...data import rows_by
from ...design import MAIN_RUN, POST, KnownAmps, KnownWire, RunFuse
from ...finding import Finding
from ...report import Report
from ...station import StationModel
from ...words import celsius, metres, wire
from ..register import mild_rule, rule
from ..remedies import mending
from .rows import with_run

NEAR_POST_M = 0.3
"""A fuse sits within so much of what can feed a short. [C]"""
FAR_DROP = 2.0


def _at(run: Run, field: str) -> str:
    return f"/bus/runs/{run.leg.index}/{field}" if run.leg.index is not None else "/bus/runs"


def _fused(station: StationModel, run: Run) -> tuple[Change, ...]:
    """The fuse that is proposed for it, with thicker wire where what is there would not carry what
    it lets through; nothing where no such fuse or wire is made."""
    fuse = station.bus.proposed_fuse(run.leg.id)
    if fuse.rating_a > most_fuse_a() or fuse.interrupt_a < run.must_break_a:
        return ()
    label = f"{fuse.label[0].upper()}{fuse.label[1:]}, {fuse.rating_a:g} A"
    fields: dict[str, object] = {
        "fuse": RunFuse(kind=fuse.kind, rating_a=KnownAmps(value=fuse.rating_a, basis="stated"))
    }
    if fuse.rating_a > run.ampacity_a + 1e-6:
        fits = _fitting_mm2(station, run, fuse.rating_a)
        if fits is None:
            return ()
        fields["mm2"] = KnownWire(value=fits, basis="stated")
        label = f"{label}, on {wire(fits)}"
    design, patch = with_run(station.design, run.leg.id, **fields)
    return (mending(station, label, "the wire is protected", design, patch),)


def _fitting_mm2(station: StationModel, run: Run, amps: float) -> float | None:
    """The thinnest size that carries so much in a run's place; None where none does."""
    sizes = station.bus.book.sizes
    return next((size.mm2 for size in sizes if station.bus.carries(run, size.mm2, amps)), None)


def _counted(run: Run) -> str:
    """By what insulation and air a wire is counted, and who says so."""
    row = run.leg.row
    said = row is not None and row.insulation_c is not None and row.ambient_c is not None
    return (
        f"Counted with {celsius(run.laid.insulation_c)} insulation and terminals in air of "
        f"{celsius(run.laid.ambient_c)}{'' if said else ', our guess where nothing is typed'}."
    )


@rule
def no_fuse(station: StationModel, report: Report) -> Iterator[Finding]:
    """A run without a fuse."""
    for run in station.bus.runs:
        if run.fuse.kind != "none":
            continue
        at_post = run.leg.fed_from == POST
        before = None if at_post else station.bus.run(run.leg.fed_from)
        before_a = before.fuse.rating_a if before else 0.0
        begins = (
            "the battery post"
            if before is None
            else "the bus"
            if run.leg.fed_from == MAIN_RUN
            else before.leg.name
        )
        covered = 0.0 < before_a <= run.ampacity_a
        yield Finding(
            id=f"bus.no_fuse.{run.leg.id}",
            severity="stop" if at_post else "mind" if covered else "fix",
            step="bus",
            sentence=f"{run.leg.name} has no fuse where it starts, at {begins}",
            why=(
                f"The {before_a:g} A fuse before it protects its wire. But a fault here blows "
                "that fuse, and everything else on it loses power too."
            )
            if covered
            else "It can start a fire: a short anywhere on it draws up to "
            f"{run.prospective_a:,.0f} A from the battery until something melts. "
            + (
                f"Put a fuse within {metres(NEAR_POST_M)} of the post."
                if at_post
                else "The fuse before it is too large for this wire."
                if before_a > 0
                else "There is no fuse before it either."
            ),
            pointer=_at(run, "fuse"),
            remedies=_fused(station, run),
        )


@rule
def fuse_above_its_wire(station: StationModel, report: Report) -> Iterator[Finding]:
    """A fuse that lets through more than its wire carries; without a fuse of its own the one before
    it counts."""
    for run in station.bus.runs:
        rating_a = run.fuse.rating_a
        if rating_a <= 0 or rating_a <= run.ampacity_a + 1e-6:
            continue
        if not run.fuse.typed and run.gauge.binds == "nothing":
            # Said already, by the run's own length and current.
            continue
        typed, built = run.fuse.typed, run.leg.row is not None and run.leg.row.mm2 is not None
        smaller_holds = typed and needed_a(run.carried) <= run.ampacity_a
        remedies = _fused(station, run) if smaller_holds else ()
        told = more("amps", run.leg.id, rating_a, run.ampacity_a, "A")
        fits = _fitting_mm2(station, run, rating_a)
        if fits is not None:
            design, patch = with_run(
                station.design, run.leg.id, mm2=KnownWire(value=fits, basis="stated")
            )
            label = f"Use {wire(fits)} for {run.leg.name}"
            remedies += (
                mending(
                    station, label, "the wire can carry what the fuse lets through", design, patch
                ),
            )
        yield Finding(
            id=f"bus.fuse_above.{run.leg.id}" if typed else f"bus.wire_hot.{run.leg.id}",
            severity="mind" if not built else "stop" if typed else "fix",
            step="bus",
            sentence=(
                f"{run.leg.name}: a fuse of {told.words[0]} on {wire(run.mm2)} wire, which "
                f"can only carry {told.words[1]}"
            )
            if typed
            else f"{run.leg.name}: {wire(run.mm2)} carries {told.words[1]} for hours, but its "
            f"peak of {run.carried.peak_a:.1f} A needs a fuse of {told.words[0]}",
            why=(
                ""
                if built
                else "This wire is proposed, not entered: it is the thickest on our list. "
            )
            + "The wire can overheat before the fuse opens. "
            + (
                "Fit a smaller one, or thicker wire"
                if smaller_holds
                else "Fit thicker wire, or lay less on it"
            )
            + f"; the local code has the last word. {_counted(run)}",
            pointer=_at(run, "fuse" if typed else "mm2"),
            remedies=remedies,
            claims=(told,),
        )


@rule
def fuse_too_small(station: StationModel, report: Report) -> Iterator[Finding]:
    """A fuse or breaker that opens in ordinary use."""
    inverters = {rail.id for rail in station.design.draw.rails if rail.kind == "inverter"}
    for run in station.bus.runs:
        if not run.fuse.typed or run.fuse.kind == "none":
            continue
        rating_a, peak_a = run.fuse.rating_a, run.carried.peak_a
        if rating_a >= needed_a(run.carried) - 1e-6:
            continue
        opens = rating_a < peak_a
        need_a = needed_a(run.carried)
        told = less("amps", run.leg.id, rating_a, peak_a if opens else need_a, "A")
        on_inverter = run.leg.feeds == "rail" and run.leg.of in inverters
        yield Finding(
            id=f"bus.fuse_small.{run.leg.id}",
            severity="fix" if opens else "mind",
            step="bus",
            sentence=(
                f"{run.leg.name}: fused for {told.words[0]}, it carries up to {told.words[1]}"
            )
            if opens
            else (f"{run.leg.name}: fused for {told.words[0]}, but its loads need {told.words[1]}"),
            why=(
                "This current includes the inverter's losses, at the lowest battery volts. "
                if on_inverter
                else ""
            )
            + (
                (_when_it_opens(station, run))
                if opens
                else (
                    "So that it does not age, choose one a quarter above the continuous "
                    "current and a tenth above the peak."
                )
            ),
            pointer=_at(run, "fuse/rating_a"),
            remedies=_fused(station, run),
            claims=(told,),
        )


def _when_it_opens(station: StationModel, run: Run) -> str:
    return (
        "The fuse blows, or the breaker trips, in the middle of a transmission."
        if _is_keyed(station, run)
        else "It opens in ordinary use."
    )


def _is_keyed(station: StationModel, run: Run) -> bool:
    """Whether a set that transmits hangs on a run."""
    keyed = {load_run(load.id) for load in station.design.draw.loads if load.transmit_a is not None}
    keyed |= {
        rail_run(load.rail) for load in station.design.draw.loads if load.transmit_a is not None
    }
    runs = {item.leg.id: item.leg for item in station.bus.runs}
    for key in keyed & runs.keys():
        while key != POST:
            if key == run.leg.id:
                return True
            key = runs[key].fed_from
    return False


@rule
def fuse_of_the_wrong_kind(station: StationModel, report: Report) -> Iterator[Finding]:
    """A fuse made for fewer volts than there are, or that cannot break what the bank drives into a
    short."""
    for run in station.bus.runs:
        if run.fuse.kind == "none":
            continue
        if not run.fuse.typed:
            yield from _none_is_made(station, run)
            continue
        if run.fuse.dc_v < station.bus.highest_v - 1e-6:
            yield Finding(
                id=f"bus.fuse_volts.{run.leg.id}",
                severity="fix",
                step="bus",
                sentence=f"{run.leg.name}: a {run.fuse.label} rated {run.fuse.dc_v:g} V DC, where "
                f"there can be {station.bus.highest_v:.1f} V",
                why="When it blows, its arc may not go out. An AC rating says nothing about DC.",
                pointer=_at(run, "fuse/dc_v"),
                remedies=_fused(station, run),
            )
        if station.bus.prospective_a > 0 and run.fuse.interrupt_a < run.must_break_a:
            behind = run.leg.fed_from != POST
            told = _falls_short(run)
            yield Finding(
                id=f"bus.interrupt.{run.leg.id}",
                severity="mind" if behind else "fix",
                step="bus",
                sentence=f"{run.leg.name}: its {run.fuse.label} can interrupt {told.words[0]}, "
                f"but the battery drives {told.words[1]} into a short there",
                alike="These fuses can interrupt less than the battery drives into a short",
                why="Above its interrupt rating a fuse bursts or welds shut. "
                + ("The fuse before it must interrupt the short instead." if behind else OWN_FUSES),
                pointer=_at(run, "fuse/kind"),
                remedies=_fused(station, run),
                claims=(told,),
            )


OWN_FUSES = (
    "A kind that breaks more, or a fuse at the post of each battery, that breaks what that "
    "one drives."
)


def _falls_short(run: Run) -> Claim:
    return less("amps", run.leg.id, run.fuse.interrupt_a, run.prospective_a, "A")


def _none_is_made(station: StationModel, run: Run) -> Iterator[Finding]:
    """A fuse that is proposed, and that no list has: by its rating, or by what it would have to
    break."""
    if run.fuse.rating_a > most_fuse_a():
        yield Finding(
            id=f"bus.fuse_none.{run.leg.id}",
            severity="mind",
            step="bus",
            sentence=f"{run.leg.name}: {run.carried.peak_a:.0f} A needs a fuse of "
            f"{run.fuse.rating_a:.0f} A; the largest on our list is {most_fuse_a():g} A",
            why="Split the load over two runs with a fuse each, or go up in volts.",
            pointer=_at(run, "fuse"),
        )
    elif run.fuse.interrupt_a < run.must_break_a and run.leg.fed_from == POST:
        told = _falls_short(run)
        yield Finding(
            id=f"bus.fuse_breaks.{run.leg.id}",
            severity="mind",
            step="bus",
            sentence=f"{run.leg.name}: the battery drives {told.words[1]} into a short there; no "
            f"fuse on our list can interrupt more than {told.words[0]}",
            why=f"Past what it can break a fuse bursts or welds shut. {OWN_FUSES}",
            pointer=_at(run, "fuse"),
            claims=(told,),
        )


@rule
def parts_in_the_way(station: StationModel, report: Report) -> Iterator[Finding]:
    """A switch, shunt, changeover or block that passes more than it is rated for."""
    known = rows_by("bus_parts", "part")
    for run in station.bus.runs:
        for number, part in enumerate(run.parts):
            rating_a, carried = part_rating_a(part), run.carried
            if carried.peak_a <= rating_a + 1e-6:
                continue
            label, said = known[part.kind]["label"], part.rating_a is not None
            for_good = carried.continuous_a > rating_a
            told = more("amps", run.leg.id, carried.peak_a, rating_a, "A")
            yield Finding(
                id=f"bus.part.{run.leg.id}.{number}",
                severity="fix" if said and for_good else "mind",
                step="bus",
                sentence=f"{run.leg.name}: {told.words[0]} through the {label}, "
                f"{'rated for' if said else 'usually rated for'} {told.words[1]}",
                why=(
                    "It does so for hours: it heats, and its contacts burn. "
                    if for_good
                    else "It does so for moments. "
                )
                + (
                    "Fit one that can carry it."
                    if said
                    else "Read its label, and type what it says."
                ),
                pointer=_at(run, "parts"),
                claims=(told,),
            )


@rule
def fuse_far_from_the_post(station: StationModel, report: Report) -> Iterator[Finding]:
    """A fuse at the far end of what it should protect."""
    for run in station.bus.runs:
        typed = run.leg.row.fuse if run.leg.row else None
        if typed is None or typed.from_start_m is None or typed.from_start_m.value <= NEAR_POST_M:
            continue
        at_post = run.leg.fed_from == POST
        yield Finding(
            id=f"bus.fuse_far.{run.leg.id}",
            severity="fix" if at_post else "mind",
            step="bus",
            sentence=(
                f"{run.leg.name}: its fuse is {metres(typed.from_start_m.value)} from the start "
                "of the cable"
            ),
            why="A short before the fuse burns the cable. Put the fuse within "
            f"{metres(NEAR_POST_M)} of the post, or run that piece in conduit.",
            pointer=_at(run, "fuse/from_start_m"),
        )


@mild_rule
def fuse_in_the_minus(station: StationModel, report: Report) -> Iterator[Finding]:
    """A fuse in the minus lead: two schools."""
    for run in station.bus.runs:
        typed = run.leg.row.fuse if run.leg.row else None
        if typed is None or typed.kind == "none" or typed.lead == "plus":
            continue
        alone = typed.lead == "minus"
        yield Finding(
            id=f"bus.fuse_minus.{run.leg.id}",
            severity="fix" if alone and run.leg.fed_from == POST else "mind",
            step="bus",
            sentence=f"{run.leg.name}: its fuse is in the minus lead alone"
            if alone
            else f"{run.leg.name}: a fuse in each lead",
            why=(
                (
                    "A short from plus to the frame does not go through it, so it does not "
                    "open. Put one in the plus lead. "
                )
                if alone
                else "Two schools. "
            )
            + "Some fit one in the minus as well: if the main minus comes off, the radio's "
            "current returns through its antenna and microphone leads. Others leave it out: if "
            "only the minus fuse blows, the current takes those same leads. Bond well. Fuse "
            "both leads or plus alone, never minus alone.",
            pointer=_at(run, "fuse/lead"),
        )


@rule
def too_thin(station: StationModel, report: Report) -> Iterator[Finding]:
    """Wire as built that loses more than it should, and a run that no size on the list suits."""
    for run in station.bus.runs:
        allowed_v = run.laid.drop_share * station.bus_v
        lost_v = run.carried.peak_a * run.wire_ohm
        if run.gauge.binds == "nothing":
            yield Finding(
                id=f"bus.nothing_fits.{run.leg.id}",
                severity="mind",
                step="bus",
                sentence=f"{run.leg.name}: no wire up to {wire(run.gauge.mm2)} can carry "
                f"{run.carried.peak_a:.0f} A over {metres(run.laid.length_m)}",
                why=(
                    "Use a higher system voltage, bring the two ends closer, lay the cable "
                    "in a cooler place, or split the load over two cables."
                ),
                pointer=_at(run, "length_m"),
            )
        elif run.leg.row is not None and run.leg.row.mm2 is not None and lost_v > allowed_v + 1e-6:
            design, patch = with_run(
                station.design, run.leg.id, mm2=KnownWire(value=run.gauge.mm2, basis="stated")
            )
            told = more("volts", run.leg.id, lost_v, allowed_v, "V")
            yield Finding(
                id=f"bus.drop.{run.leg.id}",
                severity="fix" if lost_v > FAR_DROP * allowed_v else "mind",
                step="bus",
                sentence=f"{run.leg.name}: {metres(run.laid.length_m)} of {wire(run.mm2)} wire: "
                f"{told.words[0]} lost at {run.carried.peak_a:.0f} A",
                alike="These wires lose more volts than they should",
                why=(
                    f"Aim for {told.words[1]} or less in this wire: "
                    f"{100 * run.laid.drop_share:.0f} % of the nominal voltage."
                ),
                pointer=_at(run, "mm2"),
                remedies=(
                    mending(
                        station,
                        f"Use {wire(run.gauge.mm2)} for {run.leg.name}",
                        "the drop is then small enough",
                        design,
                        patch,
                    ),
                ),
                claims=(told,),
            )
