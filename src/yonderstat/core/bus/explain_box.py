"""The box of electronics explained."""

from ..array import ArrayModel
from ..design import Design
from ..working import Workings, assumed, given, table, used
from .box import BoxHeat
from .model import BusModel
from .report import BoxFigures


def inside_w(design: Design, model: BusModel, array: ArrayModel, mean_draw_w: float) -> float:
    """Watts let go in the box: what controllers lose at their most, and what the sets take. [W]

    Parameters
    ----------
    array : ArrayModel
        Its controllers.
    mean_draw_w : float
        What the station draws on the mean. [W]
    """
    box = design.bus.box
    if box is not None and box.inside_w is not None:
        return box.inside_w.value
    lost_share = {item.string.id: item.electric.lost_share for item in array.strings}
    lost = sum(
        run.carried.continuous_a * model.bus_v * lost_share[run.leg.of]
        for run in model.runs
        if run.leg.feeds == "charge"
    )
    return lost + mean_draw_w


def box_figures(heat: BoxHeat, design: Design, workings: Workings) -> BoxFigures:
    box = design.bus.box
    watts = (
        given("P", "heat from equipment inside", box.inside_w, "W", "/bus/box/inside_w")
        if box and box.inside_w
        else assumed(
            "P",
            "losses in the controllers and the average use of the loads inside",
            heat.inside_w,
            "W",
            "bus-box",
            "/bus/box/inside_w",
        )
    )
    inside = workings.add(
        "bus.box.inside_w",
        heat.inside_w,
        "W",
        label="Watts inside the box",
        formula="P",
        words="heat from the equipment inside",
        inputs=[watts],
        source="bus-box",
    )
    sun_words = (
        "full sun on a third of its walls: what they absorb, minus what they give back to "
        "the air outside"
    )
    formula = "G · A_lit · α · U / h"
    if box is not None and box.clear:
        sun_words, formula = (
            "full sun through a third of its walls, which are transparent",
            "G · A_lit · τ",
        )
    sun = workings.add(
        "bus.box.sun_w",
        heat.sun_w,
        "W",
        label="Sun into the box",
        formula=formula,
        words=sun_words,
        inputs=(),
        source="bus-box",
    )
    rise = workings.add(
        "bus.box.rise_k",
        heat.rise_k,
        "K",
        label="Hotter inside than outside by",
        formula="ΔT = (P + P_sun) / (U · A + ρc · Q)",
        words="heat coming in divided by what walls and moving air carry away",
        inputs=[
            used("P", inside),
            used("P_sun", sun),
            table("U · A", "through the walls", heat.wall_w_k, "W/K", "bus-box"),
            table("ρc · Q", "by vents or fan", heat.air_w_k, "W/K", "bus-box"),
        ],
        source="bus-box",
    )
    hottest = workings.add(
        "bus.box.hottest_c",
        heat.hottest_c,
        "°C",
        label="Temperature in the box on the hottest afternoon",
        formula="T = T_hot + ΔT",
        words="hottest afternoon of a year plus the rise inside the box",
        inputs=[
            table("T_hot", "hottest afternoon", heat.hottest_c - heat.rise_k, "°C", "extremes"),
            used("ΔT", rise),
        ],
        source="bus-box",
    )
    closed = None
    if heat.air_w_k > 0:
        closed = workings.add(
            "bus.box.closed_c",
            heat.hottest_c - heat.rise_k + heat.closed_k,
            "°C",
            label="The same with the fan still and the vents shut",
            formula="T = T_hot + (P + P_sun) / (U · A)",
            words="what the walls alone let out",
            inputs=[
                used("P", inside),
                used("P_sun", sun),
                table("U · A", "through the walls", heat.wall_w_k, "W/K", "bus-box"),
            ],
            source="bus-box",
        )
    limit = workings.add(
        "bus.box.limit_c",
        heat.limit_c,
        "°C",
        label="Highest temperature the electronics can take",
        formula="T_max",
        words="from their labels, or usual",
        inputs=[
            given("T_max", "typed", box.limit_c, "°C", "/bus/box/limit_c")
            if box and box.limit_c
            else assumed(
                "T_max",
                "usual for radios and controllers",
                heat.limit_c,
                "°C",
                "practice",
                "/bus/box/limit_c",
            )
        ],
        source="practice",
    )
    return BoxFigures(
        inside_w=inside.key,
        sun_w=sun.key,
        rise_k=rise.key,
        hottest_c=hottest.key,
        limit_c=limit.key,
        closed_c=closed.key if closed else None,
    )
