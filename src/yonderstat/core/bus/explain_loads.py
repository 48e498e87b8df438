"""The volts at every load explained, hop by hop from the post, and how a set does on them."""

from ..data import rows
from ..design import Design
from ..electrical import Window
from ..working import Input, Key, Workings, table, used
from .grades import grade_of
from .model import LEVELS, BusModel
from .report import Grade, LoadAtBus, WalkHop
from .volts import LoadVolts

LEVEL_WORDS = ("battery full", "half charged", "at the lowest charge allowed")
STATES = ("rx-full", "tx-full", "rx-end", "tx-end")
STATE_WORDS = (
    "receiving, battery full",
    "transmitting, battery full",
    "receiving, at the lowest charge allowed",
    "transmitting, at the lowest charge allowed",
)


def _walk(item: LoadVolts, model: BusModel, workings: Workings) -> tuple[WalkHop, ...]:
    """What each hop loses, from the inside of the bank to the set."""
    key, name = f"bus.walk.{item.item.load.id}", item.item.load.name
    rows_: list[tuple[str, str, tuple[float, ...]]] = [
        ("", "Inside the battery", tuple(float(v) for v in item.bank_v))
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
                    label=f"{hop}: voltage drop on the way to {name}, {words}",
                    formula="I · R + V_d" if run else "I · R_bank",
                    words="all the current through it, times its resistance"
                    if run
                    else "all the current, times the battery's resistance on a cold day",
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
    who = (
        f"{item.item.load.name}, "
        f"{'transmitting' if item.item.load.transmit_a else 'while the radios transmit'}"
    )
    if end == "full":
        return f"{who}: inside its voltage range down to the lowest charge allowed."
    if full != "full":
        return (
            f"{who}: too few volts even from a full battery ({_how(full)}). At the lowest "
            f"charge allowed: {_how(end)}."
        )
    if half == "full":
        return (
            f"{who}: full output with the battery full or half charged. At the lowest charge "
            f"allowed: {_how(end)}."
        )
    return (
        f"{who}: full output only with the battery full. Half charged: {_how(half)}. At "
        f"the lowest charge allowed: {_how(end)}."
    )


def load_figures(item: LoadVolts, model: BusModel, design: Design, workings: Workings) -> LoadAtBus:
    load, key = item.item.load, f"bus.volts.{item.item.load.id}"
    rail = next((rail for rail in design.draw.rails if rail.id == load.rail), None)
    walk = _walk(item, model, workings) if item.window else ()
    source = "kirchhoff"

    def volts(state: str, level: int, value: float, hop_state: int | None) -> Key:
        words = (
            f"{load.name}: volts {'receiving' if state == 'rx' else 'transmitting'}, "
            f"{LEVEL_WORDS[level]}"
        )
        inputs: list[Input] = [
            table("V_rest", "resting battery", item.rest_v[level], "V", "resistance")
        ]
        if hop_state is not None:
            inputs += [used("V_l", workings[hop.lost_v[hop_state]]) for hop in walk]
        formula = "V = V_rest − Σ V_lost"
        if rail is not None:
            formula = f"what {rail.name} makes of V_rest − Σ V_lost"
        told = (
            "resting battery volts, less the drop inside the battery and at every step, on a "
            "cold day of the worst month"
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
            label=(
                f"{load.name}: volts transmitting at the lowest charge allowed, battery at its "
                f"{word}est"
            ),
            formula="V = V_rest − Σ V_lost",
            words="the same, with the battery's resistance at that temperature",
            inputs=[table("V_rest", "resting battery", item.rest_v[2], "V", "resistance")],
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
            label=f"{load.name}: highest transmit power with the battery {words}",
            formula="largest P with V(P) ≥ V_low and I(P) ≤ I_bank",
            words="everything else receiving; from the radio's own current curve or table",
            inputs=[
                table("V_low", "lowest volts of its range", item.window.low_v, "V", "practice")
            ],
            source=source,
        ).key
        for level, words, value in zip(
            ("full", "half"), ("full", "half charged"), item.most_w, strict=True
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
