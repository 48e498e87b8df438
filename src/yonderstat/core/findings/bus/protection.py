"""Findings about fuses, breakers and the wire they are there for."""

from collections.abc import Iterator

from ...bus import Run
from ...bus import fuse_for as needed_a
from ...changes import Change
from ...design import MAIN_RUN, MOST_A, POST, KnownAmps, KnownWire, RunFuse
from ...finding import Finding
from ...report import Report
from ...station import StationModel
from ...words import metres, wire
from ..register import rule
from .rows import with_run

NEAR_POST_M = 0.3
"""A fuse sits within so much of what can feed a short. [C]"""
FAR_DROP = 2.0


def _at(run: Run, field: str) -> str:
    return f"/bus/runs/{run.leg.index}/{field}" if run.leg.index is not None else "/bus/runs"


def _fused(station: StationModel, run: Run) -> tuple[Change, ...]:
    """The fuse that is proposed for it; nothing where no fuse is made for so much."""
    fuse = station.bus.proposed_fuse(run.leg.id)
    if fuse.rating_a > MOST_A:
        return ()
    typed = RunFuse(kind=fuse.kind, rating_a=KnownAmps(value=fuse.rating_a, basis="stated"))
    _, patch = with_run(station.design, run.leg.id, fuse=typed)
    label = f"{fuse.label[0].upper()}{fuse.label[1:]}, {fuse.rating_a:g} A"
    return (Change(label, "the wire is protected", tuple(patch)),)


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
            "the battery post" if before is None else "the bus" if run.leg.fed_from == MAIN_RUN else before.leg.name
        )
        covered = 0.0 < before_a <= run.ampacity_a
        yield Finding(
            f"bus.no_fuse.{run.leg.id}",
            "stop" if at_post else "mind" if covered else "fix",
            "bus",
            f"{run.leg.name} begins at {begins} without a fuse",
            f"The {before_a:g} A fuse before it protects its wire; what goes wrong on it then takes all the rest along."
            if covered
            else f"A short anywhere on it draws up to {run.prospective_a:,.0f} A from the bank until something melts: "
            "a fire. "
            + (
                "Put one within a hand of the post."
                if at_post
                else "The fuse before it is made for thicker wire."
                if before_a > 0
                else "There is none before it either."
            ),
            _at(run, "fuse"),
            _fused(station, run),
        )


@rule
def fuse_above_its_wire(station: StationModel, report: Report) -> Iterator[Finding]:
    """A fuse that lets through more than its wire carries; without a fuse of its own the one before it counts."""
    for run in station.bus.runs:
        rating_a = run.fuse.rating_a
        if rating_a <= 0 or rating_a <= run.ampacity_a + 1e-6:
            continue
        if not run.fuse.typed and run.gauge.binds == "nothing fits":
            # Said already, by the run's own length and current.
            continue
        fits = next((size.mm2 for size in station.bus.book.sizes if station.bus.carries(run, size.mm2, rating_a)), None)
        remedies: tuple[Change, ...] = ()
        if fits is not None:
            _, patch = with_run(station.design, run.leg.id, mm2=KnownWire(value=fits, basis="stated"))
            remedies = (Change(f"{wire(fits)} for {run.leg.name}", "carries what the fuse lets through", tuple(patch)),)
        typed = run.fuse.typed
        yield Finding(
            f"bus.fuse_above.{run.leg.id}" if typed else f"bus.wire_hot.{run.leg.id}",
            "stop" if typed else "fix",
            "bus",
            f"{run.leg.name}: a {rating_a:g} A fuse on {wire(run.mm2)}, which carries {run.ampacity_a:.0f} A"
            if typed
            else f"{run.leg.name}: {wire(run.mm2)} carries {run.ampacity_a:.0f} A for good, and "
            f"{run.carried.peak_a:.1f} A at its worst moment want a {rating_a:g} A fuse",
            "The wire is then the fuse. Fit a smaller one, or thicker wire; the local code has the last word.",
            _at(run, "fuse" if typed else "mm2"),
            remedies,
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
        on_inverter = run.leg.feeds == "rail" and run.leg.of in inverters
        yield Finding(
            f"bus.fuse_small.{run.leg.id}",
            "fix" if opens else "mind",
            "bus",
            f"{run.leg.name}: {rating_a:g} A, and it carries {peak_a:.1f} A at its worst moment",
            ("It counts watts over efficiency and the lowest volts, not the nominal ones. " if on_inverter else "")
            + (
                "It opens in the middle of a transmission."
                if opens
                else "A quarter in hand over what flows for hours, and a tenth over the peak, keep it from ageing."
            ),
            _at(run, "fuse/rating_a"),
            _fused(station, run) if needed_a(run.carried) <= run.ampacity_a else (),
        )


@rule
def fuse_of_the_wrong_kind(station: StationModel, report: Report) -> Iterator[Finding]:
    """A fuse made for fewer volts than there are, or that cannot break what the bank drives into a short."""
    for run in station.bus.runs:
        if not run.fuse.typed or run.fuse.kind == "none":
            continue
        if run.fuse.dc_v < station.bus.highest_v - 1e-6:
            yield Finding(
                f"bus.fuse_volts.{run.leg.id}",
                "fix",
                "bus",
                f"{run.leg.name}: a {run.fuse.label} for {run.fuse.dc_v:g} V DC where there are "
                f"{station.bus.highest_v:.1f} V",
                "It may not put out its own arc. An AC rating says nothing about DC.",
                _at(run, "fuse/dc_v"),
                _fused(station, run),
            )
        if station.bus.prospective_a > 0 and run.fuse.interrupt_a < run.prospective_a:
            behind = run.leg.fed_from != POST
            yield Finding(
                f"bus.interrupt.{run.leg.id}",
                "mind" if behind else "fix",
                "bus",
                f"{run.leg.name}: its {run.fuse.label} breaks {run.fuse.interrupt_a:,.0f} A, and the bank drives "
                f"{run.prospective_a:,.0f} A into a short there",
                "Past what it can break a fuse bursts or welds shut. "
                + ("The fuse before it must break it in its place." if behind else "Another kind, or a longer run."),
                _at(run, "fuse/kind"),
                _fused(station, run),
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
            f"bus.fuse_far.{run.leg.id}",
            "fix" if at_post else "mind",
            "bus",
            f"{run.leg.name}: its fuse sits {metres(typed.from_start_m.value)} from where the current comes from",
            "All before it is unprotected. It belongs within a hand of the post, or the piece before it in conduit.",
            _at(run, "fuse/from_start_m"),
        )


@rule
def too_thin(station: StationModel, report: Report) -> Iterator[Finding]:
    """Wire as built that loses more than it should, and a run that no size on the list suits."""
    for run in station.bus.runs:
        allowed_v = run.laid.drop_share * station.bus_v
        lost_v = run.carried.peak_a * run.wire_ohm
        if run.gauge.binds == "nothing fits":
            yield Finding(
                f"bus.nothing_fits.{run.leg.id}",
                "fix" if run.leg.index is not None else "mind",
                "bus",
                f"{run.leg.name}: no size up to {wire(run.gauge.mm2)} carries {run.carried.peak_a:.0f} A over "
                f"{metres(run.laid.length_m)}",
                "Go up in volts, bring the two ends nearer, lay it cooler, or part the load over two runs.",
                _at(run, "length_m"),
            )
        elif run.leg.row is not None and run.leg.row.mm2 is not None and lost_v > allowed_v + 1e-6:
            _, patch = with_run(station.design, run.leg.id, mm2=KnownWire(value=run.gauge.mm2, basis="stated"))
            yield Finding(
                f"bus.drop.{run.leg.id}",
                "fix" if lost_v > FAR_DROP * allowed_v else "mind",
                "bus",
                f"{run.leg.name}: {metres(run.laid.length_m)} of {wire(run.mm2)} lose {lost_v:.2f} V, "
                f"the wire alone, at {run.carried.peak_a:.0f} A",
                f"Aim at {allowed_v:.2f} V there, {100 * run.laid.drop_share:.0f} % of the nominal volts.",
                _at(run, "mm2"),
                (Change(f"{wire(run.gauge.mm2)} for {run.leg.name}", "inside the aim", tuple(patch)),),
            )
