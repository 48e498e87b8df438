"""The runs explained: what each carries, what is proposed for it, what it loses and stands."""

from ..electrical import Tradition
from ..working import Input, Quantity, Workings, assumed, given, stated, table, used
from .conductors import BINDS_WORDS, fuse_a
from .model import BusModel
from .report import RunFigures
from .runs import Run


def _amps(run: Run, key: str, workings: Workings) -> tuple[Quantity, Quantity]:
    """What flows for hours on end, and at the worst moment."""
    on_end = workings.add(
        f"{key}.continuous_a",
        run.carried.continuous_a,
        "A",
        f"{run.leg.name}: continuous current",
        "Σ I",
        "current while everything on it is on, or from the source, whichever is more",
        source="kirchhoff",
    )
    peak = workings.add(
        f"{key}.peak_a",
        run.carried.peak_a,
        "A",
        f"{run.leg.name}: highest current",
        "Σ I + the most that transmits at one time",
        (
            "loads behind converters count at the lowest volts; loads not used at the same "
            "time count once"
        ),
        source="kirchhoff",
    )
    return on_end, peak


def _most(run: Run, peak: Quantity) -> Input:
    """What wire and fuse are proposed for, where that is more than what it carries as it is
    used."""
    if run.laid_for == run.carried:
        return used("I_peak", peak)
    label = "at its peak: every radio at full power, an inverter at its rating"
    return table("I_peak", label, run.laid_for.peak_a, "A", "kirchhoff")


def _gauge(
    run: Run, key: str, book: Tradition, length: Input, peak: Quantity, workings: Workings
) -> Quantity:
    return workings.add(
        f"{key}.proposed_mm2",
        run.gauge.mm2,
        "mm²",
        label=f"{run.leg.name}: proposed wire size",
        formula="thinnest size with ampacity ≥ fuse and 2 · L · I_peak · R ≤ p · V",
        words=f"from the {book.label} sizes; {BINDS_WORDS[run.gauge.binds]}",
        inputs=[
            length,
            _most(run, peak),
            table(
                "p", "allowed drop, share of nominal volts", run.laid.drop_share, "share", "drop"
            ),
            table(
                "A_min", "strong enough", max(book.least_mm2, run.laid.least_mm2), "mm²", "practice"
            ),
        ],
        source=book.source,
    )


def _fuses(
    run: Run, key: str, at: str, on_end: Quantity, peak: Quantity, workings: Workings
) -> tuple[Quantity, Quantity]:
    """The smallest that holds, and the one there is."""
    needed = workings.add(
        f"{key}.needed_fuse_a",
        fuse_a(run.carried),
        "A",
        label=f"{run.leg.name}: smallest fuse that won't blow in normal use",
        formula="next standard size ≥ max(1.25 · I_on, 1.1 · I_peak, 2 A)",
        words="25 % above the continuous current, 10 % above the highest",
        inputs=[used("I_on", on_end), used("I_peak", peak)],
        source="fuses",
    )
    typed, same = run.fuse.typed, run.fuse.rating_a == needed.number
    proposed = (
        used("I_n", needed)
        if same
        else table(
            "I_n",
            "with every radio at full power and an inverter at its rating",
            run.fuse.rating_a,
            "A",
            "fuses",
        )
    )
    there = workings.add(
        f"{key}.fuse_a",
        run.fuse.rating_a,
        "A",
        label=f"{run.leg.name}: its fuse",
        formula="I_n",
        words="as typed" if typed else "proposed: the smallest that won't blow in normal use",
        inputs=[
            stated("I_n", "rating", run.fuse.rating_a, "A", f"{at}/fuse") if typed else proposed
        ],
        source="arithmetic" if typed else "fuses",
    )
    return needed, there


def _drop(
    run: Run, key: str, length: Input, size: Input, peak: Quantity, workings: Workings
) -> Quantity:
    return workings.add(
        f"{key}.drop_v",
        run.peak_drop_v,
        "V",
        label=f"{run.leg.name}: voltage drop at the highest current",
        formula="I · (R_w + R_parts) / 1000 + V_d",
        words="copper there and back at 50 °C; switches, shunt, connectors and fuse; a diode's own",
        inputs=[
            used("I", peak),
            length,
            size,
            table(
                "R_w",
                "wire there and back, 2 · L · R/m",
                1000.0 * run.wire_ohm,
                "mΩ",
                "iec-60228",
            ),
            table(
                "R_parts",
                "switches, connectors and fuses",
                1000.0 * run.parts_ohm,
                "mΩ",
                "bus-parts",
            ),
            table("V_d", "diodes", run.drop_v, "V", "bus-parts"),
        ],
        source="kirchhoff",
    )


LAID = (
    ("T_c", "insulation", "°C", "insulation_c"),
    ("T_a", "air temperature around it", "°C", "ambient_c"),
    ("n", "loaded conductors side by side", "", "bundled"),
)


def _ampacity(
    run: Run, key: str, at: str, size: Input, book: Tradition, workings: Workings
) -> Quantity:
    row = run.leg.row
    laid = [
        Input(
            symbol=symbol,
            label=label,
            value=getattr(run.laid, field),
            unit=unit,
            origin="stated" if row is not None and getattr(row, field) is not None else "default",
            ref="",
            pointer=f"{at}/{field}",
            source="practice",
        )
        for symbol, label, unit, field in LAID
    ]
    return workings.add(
        f"{key}.ampacity_a",
        run.ampacity_a,
        "A",
        label=f"{run.leg.name}: current its wire may carry continuously",
        formula="I_table · √((T_c − T_a)/(T_c − 30)) · k_bundle",
        words=(
            f"{book.label}; small wires have a limit of their own. Your local code has the "
            "last word"
        ),
        inputs=[size, *laid],
        source=book.source,
    )


def _prospective(run: Run, key: str, model: BusModel, workings: Workings) -> Quantity:
    return workings.add(
        f"{key}.prospective_a",
        run.prospective_a if model.prospective_a else None,
        "A",
        label=f"{run.leg.name}: short-circuit current where it begins",
        formula="V_full / (R_bank + Σ R)",
        words="a full, warm battery, limited by its own resistance and the cables before this one",
        inputs=[table("V_full", "rested, full", model.full_v, "V", "resistance")]
        if model.prospective_a
        else [],
        source="kirchhoff",
        note="no battery yet",
    )


def _run_quantities(run: Run, model: BusModel, workings: Workings) -> dict[str, Quantity]:
    """What a run carries, loses and stands."""
    leg, row, key = run.leg, run.leg.row, f"bus.run.{run.leg.id}"
    at = f"/bus/runs/{leg.index}" if leg.index is not None else "/bus/runs"
    on_end, peak = _amps(run, key, workings)
    length = (
        given("L", "length one way", leg.length, "m", f"{at}/length_m")
        if row and row.length_m
        else assumed(
            "L",
            "length one way, usual for this kind of site",
            leg.length.value,
            "m",
            "practice",
            at,
        )
    )
    proposed = _gauge(run, key, model.book, length, peak, workings)
    size = (
        given("A", "conductor", row.mm2, "mm²", f"{at}/mm2")
        if row and row.mm2
        else used("A", proposed)
    )
    needed, there = _fuses(run, key, at, on_end, peak, workings)
    return {
        "on_end": on_end,
        "peak": peak,
        "proposed": proposed,
        "needed": needed,
        "fuse": there,
        "drop": _drop(run, key, length, size, peak, workings),
        "ampacity": _ampacity(run, key, at, size, model.book, workings),
        "prospective": _prospective(run, key, model, workings),
    }


def run_figures(
    run: Run, number: int, names: dict[str, str], model: BusModel, workings: Workings
) -> RunFigures:
    found = {name: quantity.key for name, quantity in _run_quantities(run, model, workings).items()}
    row = run.leg.row
    return RunFigures(
        id=run.leg.id,
        name=run.leg.name,
        feeds=run.leg.feeds,
        fed_from=run.leg.fed_from,
        fed_from_name=names[run.leg.fed_from],
        index=run.leg.index,
        length_m=run.laid.length_m,
        mm2=run.mm2,
        mm2_typed=bool(row and row.mm2),
        proposed_mm2=found["proposed"],
        binds=run.gauge.binds,
        binds_why=BINDS_WORDS[run.gauge.binds],
        connector=run.connector,
        parts=tuple(part.kind for part in run.parts),
        fuse_kind=run.fuse.kind,
        fuse_label=run.fuse.label,
        fuse_typed=run.fuse.typed,
        fuse_a=found["fuse"],
        needed_fuse_a=found["needed"],
        continuous_a=found["on_end"],
        peak_a=found["peak"],
        drop_v=found["drop"],
        ampacity_a=found["ampacity"],
        prospective_a=found["prospective"],
        number=number,
    )
