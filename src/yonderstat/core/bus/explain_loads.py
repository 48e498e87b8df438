"""The volts at every load explained, hop by hop from the post, and how a set does on them."""

from ..data import rows
from ..design import Design
from ..electrical import Window
from ..working import Input, Key, Workings, table, used
from .grades import grade_of
from .model import LEVELS, BusModel
from .report import Grade, LoadAtBus, WalkHop
from .volts import LoadVolts

LEVEL_WORDS = ("full", "half used", "at the end of what may be used")
STATES = ("rx-full", "tx-full", "rx-end", "tx-end")
STATE_WORDS = ("receiving, full", "keyed, full", "receiving, at the end", "keyed, at the end")


def _walk(item: LoadVolts, model: BusModel, workings: Workings) -> tuple[WalkHop, ...]:
    """What each hop loses, from the inside of the bank to the set."""
    key, name = f"bus.walk.{item.item.load.id}", item.item.load.name
    rows_: list[tuple[str, str, tuple[float, ...]]] = [
        ("", "Inside the bank", tuple(float(v) for v in item.bank_v))
    ]
    for place, lost in zip(item.path, item.walk_v, strict=True):
        leg = model.runs[place].leg
        hop = f"Lead to {leg.name}" if leg.feeds in {"load", "rail"} else leg.name
        rows_.append((leg.id, hop, tuple(float(v) for v in lost)))
    ohm = workings.get("store.resistance_ohm")
    hops = []
    for run, hop, lost in rows_:
        keys: list[Key] = []
        for state, words, volts in zip(STATES, STATE_WORDS, lost, strict=True):
            keys.append(
                workings.add(
                    f"{key}.{run or 'bank'}.{state}",
                    volts,
                    "V",
                    label=f"{hop}: lost on the way to {name}, {words}",
                    formula="I · R + V_d" if run else "I · R_bank",
                    words="everything that flows through it, times what resists"
                    if run
                    else "everything that flows, times the bank's resistance on a cold day",
                    inputs=[used("R", ohm)] if ohm and not run else (),
                    source="kirchhoff",
                ).key
            )
        hops.append(WalkHop(run, hop, tuple(keys)))
    return tuple(hops)


def graded(
    volts: tuple[float, float, float], window: Window | None
) -> tuple[Grade, Grade, Grade] | None:
    if window is None:
        return None
    full, half, end = (grade_of(value, window) for value in volts)
    return full, half, end  # type: ignore[return-value]


def _how(grade: Grade) -> str:
    """How a set does, after a semicolon: “less output”, “it cuts off”."""
    label = {row["grade"]: row["label"] for row in rows("volt_grades")}[grade]
    return f"it {label}" if grade == "off" else label


def takeaway_of(item: LoadVolts) -> str:
    """How a load does along the discharge, in a sentence; nothing where it names no window."""
    grades = graded(item.keyed_v, item.window)
    if grades is None:
        return ""
    full, half, end = grades
    who = f"{item.item.load.name}, {'keyed' if item.item.load.transmit_a else 'with all keyed'},"
    if end == "full":
        return f"{who} stays inside its window to the end of what may be used."
    if full != "full":
        return (
            f"{who} is below its window on a full bank already: {_how(full)}; at the end "
            f"{_how(end)}."
        )
    if half == "full":
        return f"{who} has full output on a full and a half used bank; at the end {_how(end)}."
    return f"{who} has full output on a full bank; half used {_how(half)}; at the end {_how(end)}."


def load_figures(item: LoadVolts, model: BusModel, design: Design, workings: Workings) -> LoadAtBus:
    load, key = item.item.load, f"bus.volts.{item.item.load.id}"
    rail = next((rail for rail in design.draw.rails if rail.id == load.rail), None)
    walk = _walk(item, model, workings) if item.window else ()
    source = "kirchhoff"

    def volts(state: str, level: int, value: float, hop_state: int | None) -> Key:
        words = (
            f"{load.name}: volts {'receiving' if state == 'rx' else 'keyed'}, {LEVEL_WORDS[level]}"
        )
        inputs: list[Input] = [
            table("V_rest", "rested bank", item.rest_v[level], "V", "resistance")
        ]
        if hop_state is not None:
            inputs += [used("V_l", workings[hop.lost_v[hop_state]]) for hop in walk]
        formula = "V = V_rest − Σ V_lost"
        if rail is not None:
            formula = f"what {rail.name} makes of V_rest − Σ V_lost"
        told = (
            "the rested bank less what its inside and every hop lose, at a cold day of the "
            "hard month"
        )
        return workings.add(
            f"{key}.{state}-{LEVELS[level]}",
            value,
            "V",
            label=words,
            formula=formula,
            words=told,
            inputs=inputs,
            source=source,
        ).key

    hops = {("rx", 0): 0, ("tx", 0): 1, ("rx", 2): 2, ("tx", 2): 3}
    receive = tuple(
        volts("rx", level, item.receive_v[level], hops.get(("rx", level))) for level in range(3)
    )
    keyed = tuple(
        volts("tx", level, item.keyed_v[level], hops.get(("tx", level))) for level in range(3)
    )
    cold, warm = (
        workings.add(
            f"{key}.{word}",
            value,
            "V",
            label=f"{load.name}: volts keyed at the end, the bank at its {word}est",
            formula="V = V_rest − Σ V_lost",
            words="the same with the bank's resistance at that temperature",
            inputs=[table("V_rest", "rested bank", item.rest_v[2], "V", "resistance")],
            source=source,
        ).key
        for word, value in (("cold", item.cold_end_v), ("warm", item.warm_end_v))
    )
    powers = [
        None
        if value is None or item.window is None
        else workings.add(
            f"{key}.most-{level}_w",
            value,
            "W",
            label=f"{load.name}: highest transmit power a {words} bank carries",
            formula="largest P with V(P) ≥ V_low and I(P) ≤ I_bank",
            words="everything else receiving; the set's own current curve or table",
            inputs=[
                table("V_low", "least volts of its window", item.window.low_v, "V", "practice")
            ],
            source=source,
        ).key
        for level, words, value in zip(
            ("full", "half"), ("full", "half used"), item.most_w, strict=True
        )
    ]
    return LoadAtBus(
        load_id=load.id,
        name=load.name,
        through=rail.name if rail else "",
        window=item.window.label if item.window else "",
        low_v=item.window.low_v if item.window else None,
        high_v=item.window.high_v if item.window else None,
        receive_v=receive,
        keyed_v=keyed,
        receive_grade=graded(item.receive_v, item.window),
        keyed_grade=graded(item.keyed_v, item.window),
        cold_v=cold,
        warm_v=warm,
        most_full_w=powers[0],
        most_half_w=powers[1],
        walk=walk,
        takeaway=takeaway_of(item),
    )
