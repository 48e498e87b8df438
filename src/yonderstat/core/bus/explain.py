"""The bus explained: every figure of it with its working."""

from ..array import ArrayModel
from ..climate import Climate
from ..design import MAIN_RUN, POST, Design
from ..working import Quantity, Workings, table
from .box import box_heat
from .cards import cards_of
from .explain_box import box_figures, inside_w
from .explain_converters import changeover_options, converter_figures, inverter_figures
from .explain_loads import load_figures, takeaway_of
from .explain_runs import run_figures
from .leads import lead_figures, leads_of
from .model import BusModel
from .noise import noise_advice
from .report import BusReport


def _summary(model: BusModel) -> str:
    lowest = model.lowest
    if not model.loads:
        return "Add a battery and loads to see the volts at each radio."
    if lowest is None or lowest.window is None:
        return (
            "No load says what voltage it needs, so there is nothing to check. Enter it in Loads."
        )
    return takeaway_of(lowest)


def bus_report(
    design: Design,
    model: BusModel,
    array: ArrayModel,
    climate: Climate,
    mean_draw_w: float,
    bus_v: Quantity,
    workings: Workings,
) -> BusReport:
    """Explain the bus.

    Parameters
    ----------
    mean_draw_w : float
        What the station draws on the mean of the hard month. [W]
    bus_v : Quantity
        Nominal volts.
    """
    names = {run.leg.id: run.leg.name for run in model.runs} | {
        POST: "the battery",
        MAIN_RUN: "the bus",
    }
    runs = tuple(
        run_figures(run, number, names, model, workings)
        for number, run in enumerate(model.runs, start=1)
    )
    loads = tuple(load_figures(item, model, design, workings) for item in model.loads)
    prospective = (
        workings.add(
            "bus.prospective_a",
            model.prospective_a,
            "A",
            label="Short-circuit current at the battery terminals",
            formula="V_full / R_bank",
            words="a full, warm battery, limited only by its own resistance",
            inputs=[table("V_full", "rested, full", model.full_v, "V", "resistance")],
            source="kirchhoff",
        )
        if model.prospective_a > 0
        else None
    )
    if model.loads:
        workings.add(
            "bus.expect.post_v",
            model.full_v,
            "V",
            "At the battery, full and rested",
            "V_rest",
            "resting voltage of this battery type when full",
            source="resistance",
        )
    lowest = model.lowest
    shown = next((item for item in loads if lowest and item.load_id == lowest.item.load.id), None)
    peak = workings[runs[0].peak_a]
    box = design.bus.box
    heat = (
        box_heat(box, inside_w(design, model, array, mean_draw_w), climate.hottest_c)
        if box
        else None
    )
    inverters = tuple(
        inverter_figures(rail, design, model, workings)
        for rail in design.draw.rails
        if rail.kind == "inverter" and any(run.leg.of == rail.id for run in model.runs)
    )
    return BusReport(
        takeaway=_summary(model),
        tradition_label=model.book.label,
        lowest_v=shown.keyed_v[2] if shown else None,
        lowest_load=shown.load_id if shown else "",
        highest_power_w=shown.most_half_w if shown else None,
        prospective_a=prospective.key if prospective else None,
        main_peak_a=peak.key,
        loads=loads,
        runs=runs,
        inverters=inverters,
        converters=converter_figures(design, model, workings),
        changeovers=changeover_options(design, peak, workings),
        box=box_figures(heat, design, workings) if heat else None,
        cards=cards_of(design, loads, runs, inverters),
        advice=noise_advice(design, model),
        leads=tuple(
            lead_figures(lead, model.book, workings) for lead in leads_of(design, model.book)
        ),
    )
