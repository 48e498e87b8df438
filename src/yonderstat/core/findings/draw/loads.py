"""Findings about the loads."""

from collections.abc import Iterator

from ...changes import replace
from ...claim import more
from ...data import rows_by
from ...design import BUS, KnownAmps, KnownHours, KnownWatts, Load, with_draw, with_load, with_rail
from ...draw import (
    LoadDraw,
    busiest_w,
    groups_of,
    has_mains_when_judged,
    inverter_input_a,
    is_operated,
    mode_share,
    power_in_use_w,
)
from ...finding import Finding
from ...purposes import purpose_of
from ...report import Report
from ...station import StationModel
from ...store import kind_of
from ...words import hours_in_words
from ..register import mild_rule, rule
from ..remedies import lasting, mending, try_change
from ..severity import of_waste

RECEIVE_RULES_SHARE = 0.6
COMFORT_SHARE, IDLE_SHARE, HARDER = 0.1, 0.2, 1.1
LONG_CARRIER_SHARE, SAFE_CARRIER_POWER = 0.25, 0.5
AMP_HOURS_LIKE_A, AMPS_LIKE_AH = 10.0, 3.0
LEAD_PEAK_C, LITHIUM_PEAK_C = 0.5, 1.0


def _pointer(index: int, field: str) -> str:
    return f"/draw/loads/{index}/{field}"


def _kind(load: Load) -> dict[str, str]:
    return rows_by("load_kinds", "kind")[load.kind]


@mild_rule
def receive_dominates(station: StationModel, report: Report) -> Iterator[Finding]:
    """Receive current is what is forgotten."""
    for index, item in enumerate(station.draw.loads):
        shown = report.draw.loads[index]
        if (
            item.load.transmit_a is None
            or shown.receive_share < RECEIVE_RULES_SHARE
            or shown.share < COMFORT_SHARE
        ):
            continue
        yield Finding(
            id=f"draw.receive.{item.load.id}",
            severity="mind",
            step="draw",
            sentence=(
                f"{item.load.name} uses {shown.receive_share * 100:.0f} % of its amp-hours "
                "while receiving"
            ),
            alike="These use most of their amp-hours while receiving",
            why="2 A all day is more than 20 A for a few minutes. "
            + (
                (
                    "A radio with a lower receive current, or one that sleeps between calls, saves "
                    "more than turning the power down."
                )
                if item.load.kind == "repeater" or not is_operated(item.load)
                else "A radio with a lower receive current, or one switched off when nobody "
                "listens, saves more than turning the power down."
            ),
            pointer=_pointer(index, "receive_a"),
        )


@mild_rule
def comfort_in_an_outage(station: StationModel, report: Report) -> Iterator[Finding]:
    """Comfort loads on the battery while the mains are out."""
    if not purpose_of(station.design.brief.purpose).is_spell:
        return
    month = report.verdict.hard_month - 1
    comfort = [item for item in station.draw.loads if item.load.tier == "comfort"]
    total = float(station.draw.by_month[month])
    taken = sum(float(item.daily_ah[month]) for item in comfort)
    if not total or taken / total < COMFORT_SHARE:
        return
    usable = report.number(report.store.carries_ah) if report.store else None
    kept_ah = total - taken
    gain = (
        f" The battery then lasts {hours_in_words(24 * usable / kept_ah)} without sun."
        if usable and kept_ah > 0
        else ""
    )
    yield Finding(
        id="draw.comfort",
        severity="mind",
        step="draw",
        sentence=(
            f"Nice-to-have loads use {100 * taken / total:.0f} % of your power: "
            f"{', '.join(item.load.name for item in comfort)}"
        ),
        why=f"In an outage, switch these off first.{gain}",
    )


MOST_DIRECT_A = 200.0
"""No DC adapter carries more: past it the inverter is what does the job."""


def _direct_load(item: LoadDraw, bus_v: float) -> Load | None:
    """The load on the battery bus at the same watts; None where that is past any adapter."""
    assert item.rail is not None
    amps_a = round(item.load.receive_a.value * item.rail.volts.value / bus_v, 4)
    if amps_a > MOST_DIRECT_A:
        return None
    amps = KnownAmps(value=amps_a, basis=item.load.receive_a.basis)
    return item.load.model_copy(update={"rail": BUS, "receive_a": amps})


@rule
def could_run_direct(station: StationModel, report: Report) -> Iterator[Finding]:
    """An inverter between a battery and something that wants low voltage."""
    bus_v = report.working[report.draw.bus_v].number
    for index, item in enumerate(station.draw.loads):
        if item.rail is None or item.rail.kind != "inverter" or _kind(item.load)["direct"] != "yes":
            continue
        direct = _direct_load(item, bus_v)
        if direct is None:
            continue
        patch = [
            replace(_pointer(index, "rail"), BUS),
            replace(_pointer(index, "receive_a"), direct.receive_a.model_dump()),
        ]
        changed = with_load(station.design, index, rail=BUS, receive_a=direct.receive_a)
        if sum(load.rail == item.rail.id for load in station.design.draw.loads) == 1:
            # Nothing else hangs on the inverter: left on, it would go on idling.
            rail = next(
                n for n, row in enumerate(station.design.draw.rails) if row.id == item.rail.id
            )
            off = KnownHours(value=0.0, basis="stated")
            patch.append(replace(f"/draw/rails/{rail}/on_hours", off.model_dump()))
            rails = [
                row.model_copy(update={"on_hours": off}) if n == rail else row
                for n, row in enumerate(changed.draw.rails)
            ]
            changed = with_draw(changed, rails=rails)
        yield Finding(
            id=f"draw.direct.{item.load.id}",
            severity=of_waste(station, report),
            step="draw",
            sentence=f"{item.load.name} runs through the inverter but could run on DC",
            alike="These run through the inverter but could run on DC",
            why=(
                "Going up to mains voltage and back down wastes power. A DC adapter of the same "
                "watts avoids the loss, and you may not need the inverter at all."
            ),
            pointer=_pointer(index, "rail"),
            remedies=(
                try_change(
                    station,
                    f"Run {item.load.name} straight from the battery bus",
                    changed,
                    patch,
                    lasting(station),
                ),
            ),
        )


@rule
def inverter_idles(station: StationModel, report: Report) -> Iterator[Finding]:
    """An inverter left on for hours nothing uses."""
    month = report.verdict.hard_month - 1
    for index, rail in enumerate(station.design.draw.rails):
        if rail.kind != "inverter":
            continue
        idle_ah = station.draw.idle_ah[rail.id]
        hanging = [
            item for item in station.draw.loads if item.rail is not None and item.rail.id == rail.id
        ]
        used_ah = sum(float(item.daily_ah[month]) for item in hanging)
        busiest_h = max((float(item.hours[month]) for item in hanging), default=0.0)
        if idle_ah <= IDLE_SHARE * (used_ah + idle_ah) or busiest_h >= rail.on_hours.value:
            continue
        hours = KnownHours(value=round(busiest_h, 2), basis="stated")
        yield Finding(
            id=f"draw.idle.{rail.id}",
            severity=of_waste(station, report),
            step="draw",
            sentence=(
                f"{rail.name} wastes {idle_ah:.1f} Ah a day idling; its loads use {used_ah:.1f} Ah"
            ),
            why=(
                f"It is on for {rail.on_hours.value:g} hours a day; its loads run {busiest_h:.1f} "
                "hours at most. Switch it off in between."
            ),
            pointer=f"/draw/rails/{index}/on_hours",
            remedies=(
                mending(
                    station,
                    f"Switch it on for only {busiest_h:.1f} hours a day",
                    f"saves {idle_ah * (1 - busiest_h / rail.on_hours.value):.1f} Ah a day",
                    with_rail(station.design, index, on_hours=hours),
                    [replace(f"/draw/rails/{index}/on_hours", hours.model_dump(mode="json"))],
                ),
            ),
        )


@rule
def long_carrier(station: StationModel, report: Report) -> Iterator[Finding]:
    """A mode that holds the carrier, at full power, for much of the time."""
    for index, item in enumerate(station.draw.loads):
        load = item.load
        power_w = power_in_use_w(load)
        if load.rated_w is None or power_w is None or not is_operated(load) or load.mode is None:
            continue
        carrier = mode_share(load.mode) >= 1.0
        if not carrier or load.transmit_share.value <= LONG_CARRIER_SHARE:
            continue
        if power_w <= SAFE_CARRIER_POWER * load.rated_w.value:
            continue
        half = KnownWatts(value=load.rated_w.value * SAFE_CARRIER_POWER)
        yield Finding(
            id=f"draw.carrier.{load.id}",
            severity="fix",
            step="draw",
            sentence=(
                f"{load.name} transmits a continuous carrier "
                f"{load.transmit_share.value * 100:.0f} % of the time at {power_w:g} W"
            ),
            why=(
                "Few radios are rated for that at full power. Half power is common practice for FM "
                "and data."
            ),
            pointer=_pointer(index, "power_w"),
            remedies=(
                try_change(
                    station,
                    f"Turn {load.name} down to {half.value:g} W",
                    with_load(station.design, index, power_w=half),
                    [replace(_pointer(index, "power_w"), {"value": half.value, "basis": "stated"})],
                    lasting(station),
                ),
            ),
        )


@rule
def peak_too_high(station: StationModel, report: Report) -> Iterator[Finding]:
    """The largest current against the supply at hand and the bank."""
    peak = report.working[report.draw.peak_a].number
    supply = station.design.draw.supply_a
    if supply is not None and peak > supply.value:
        told = more("amps", "peak", peak, supply.value, "A")
        yield Finding(
            id="draw.supply",
            severity="fix",
            step="draw",
            sentence=f"Peak current is {told.words[0]}; your power supply gives {told.words[1]}",
            why=(
                "The supply cuts back or trips when someone transmits. Turn the power down, stop "
                "two radios from transmitting together, or add a battery in parallel with the "
                "supply."
            ),
            pointer="/draw/supply_a",
            claims=(told,),
        )
    bank = station.design.store.bank
    if bank is None:
        return
    label_ah = bank.parallel * bank.unit_ah.value
    limit_c = kind_of(bank.chemistry).peak_share
    if peak > limit_c * label_ah:
        much = more("amps", "peak", peak, limit_c * label_ah, "A")
        yield Finding(
            id="draw.peak_bank",
            severity="mind",
            step="draw",
            sentence=(
                f"Peak current of {much.words[0]} is high: {much.words[1]} is usual for a "
                f"{label_ah:.0f} Ah battery"
            ),
            why=f"Above {limit_c:g} C "
            + (
                "the voltage of a lead battery sags too low for a radio."
                if kind_of(bank.chemistry).is_lead
                else "the battery's electronics may cut off."
            ),
            pointer="/store/bank/parallel",
            claims=(much,),
        )


@mild_rule
def no_tier(station: StationModel, report: Report) -> Iterator[Finding]:
    """A load nobody has said the worth of."""
    for index, load in enumerate(station.design.draw.loads):
        if load.tier is None:
            yield Finding(
                id=f"draw.tier.{load.id}",
                severity="mind",
                step="draw",
                sentence=f"{load.name} has no priority yet: vital, useful or nice to have?",
                alike="These have no priority yet: vital, useful or nice to have?",
                why="The priority decides what is switched off first.",
                pointer=_pointer(index, "tier"),
            )


@mild_rule
def no_standby(station: StationModel, report: Report) -> Iterator[Finding]:
    """A device that is seldom truly off, without a standby draw."""
    for index, item in enumerate(station.draw.loads):
        load = item.load
        often_on = _kind(load)["always_on"] == "yes" and load.kind != "repeater"
        if not often_on or load.standby_a is not None or float(item.hours.max()) >= 24:
            continue
        yield Finding(
            id=f"draw.standby.{load.id}",
            severity="mind",
            step="draw",
            sentence=f"{load.name}: no standby current entered for the hours it is off",
            alike="No standby current is entered for the hours these are off",
            why=(
                "Adapters and sleeping electronics still draw current. Measure it, or enter zero "
                "if you unplug it."
            ),
            pointer=_pointer(index, "standby_a"),
        )


@mild_rule
def takes_nothing(station: StationModel, report: Report) -> Iterator[Finding]:
    """A row that nobody has filled in: it counts nothing, and the verdict leaves it out."""
    for index, load in enumerate(station.design.draw.loads):
        known = (load.receive_a, load.transmit_a, load.standby_a)
        if load.receive_a.basis == "default" and not any(one and one.value for one in known):
            yield Finding(
                id=f"draw.nothing.{load.id}",
                severity="mind",
                step="draw",
                sentence=f"{load.name} has no amps yet, so the verdict leaves it out",
                alike="These have no amps yet, so the verdict leaves them out",
                why="Measure what it takes, or read its label. Watts will do: type 20 W.",
                pointer=_pointer(index, "receive_a"),
            )


@mild_rule
def gentle_tempo(station: StationModel, report: Report) -> Iterator[Finding]:
    """Sized on a tempo that is not the hardest, with something vital in it."""
    if station.trial or not any(
        load.tier == "vital" and is_operated(load) for load in station.design.draw.loads
    ):
        return
    month = report.verdict.hard_month - 1
    now = float(station.draw.by_month[month])
    draw = station.design.draw
    days = {tempo.id: float(station.draw_at(tempo.id).by_month[month]) for tempo in draw.tempos}
    hardest = max(draw.tempos, key=lambda tempo: days[tempo.id])
    if days[hardest.id] <= HARDER * now:
        return
    changed, patch = (
        with_draw(station.design, sized_on=hardest.id),
        [replace("/draw/sized_on", hardest.id)],
    )
    yield Finding(
        id="draw.tempo",
        severity="mind",
        step="draw",
        sentence=(
            f"“{hardest.name}” uses {100 * (days[hardest.id] / now - 1):.0f} % more than "
            "the activity level you sized for"
        ),
        why=(
            "In an emergency the station works hard. Size for this level, or plan to transmit less."
        ),
        pointer="/draw/sized_on",
        remedies=(
            try_change(
                station, f"Size for {hardest.name}", changed, patch, lasting(station), judged=False
            ),
        ),
    )


@rule
def interlock_of_automatics(station: StationModel, report: Report) -> Iterator[Finding]:
    """Two automatic transmitters said never to key together, with nobody there to see to it."""
    groups: dict[str, list[Load]] = {}
    for load in station.design.draw.loads:
        for group in (
            groups_of(load) if load.transmit_a is not None and not is_operated(load) else ()
        ):
            groups.setdefault(group, []).append(load)
    for group, loads in groups.items():
        if len(loads) > 1:
            names = " and ".join(load.name for load in loads)
            yield Finding(
                id=f"draw.interlock.{'-'.join(load.id for load in loads)}"[:120],
                severity="fix",
                step="draw",
                sentence=f"{names} are marked “not at the same time”, but nothing prevents it",
                why=(
                    "They transmit by themselves. Wire an inhibit line, or remove the group "
                    f"“{group}” so that the peak current counts them all."
                ),
                pointer=_pointer(station.design.draw.loads.index(loads[0]), "interlock"),
            )


@rule
def vital_needs_what_fails(station: StationModel, report: Report) -> Iterator[Finding]:
    """A vital load that depends on what the outage takes away."""
    words = {
        "mains": "the house mains",
        "internet": "the internet",
        "neighbour": "a neighbour's network",
    }
    for index, load in enumerate(station.design.draw.loads):
        missing = [
            need
            for need in load.needs
            if need != "mains" or not has_mains_when_judged(station.design)
        ]
        if load.tier == "vital" and missing:
            fails = station.purpose.is_spell or "mains" in missing
            yield Finding(
                id=f"draw.needs.{load.id}",
                severity="fix" if fails else "mind",
                step="draw",
                sentence=(
                    f"{load.name} is vital but needs "
                    f"{' and '.join(words[need] for need in missing)}"
                ),
                why=(
                    "In an outage it has power but cannot work. Find another path, or have "
                    "it switch itself off."
                )
                if fails
                else (
                    "If that fails, this load has power but cannot work, and the verdict "
                    "does not show it."
                ),
                pointer=_pointer(index, "needs"),
            )


@mild_rule
def fan_all_day(station: StationModel, report: Report) -> Iterator[Finding]:
    """A fan that runs round the clock, whatever the heat."""
    for index, item in enumerate(station.draw.loads):
        if (
            item.load.kind == "fan"
            and item.load.thermostat is None
            and float(item.hours.max()) >= 20.0
        ):
            yield Finding(
                id=f"draw.fan.{item.load.id}",
                severity="mind",
                step="draw",
                sentence=(
                    f"{item.load.name} runs all day and uses {float(item.daily_ah.max()):.1f} Ah a "
                    "day"
                ),
                why=(
                    "A thermostat that starts it above 25 or 30 °C saves most of that, and "
                    "keeps the warmth in during winter."
                ),
                pointer=_pointer(index, "thermostat"),
            )


@mild_rule
def inverter_beyond_the_battery(station: StationModel, report: Report) -> Iterator[Finding]:
    """An inverter whose full load the battery's electronics would not let through."""
    bank, limit = (
        station.design.store.bank,
        station.design.store.bank and station.design.store.bank.limits.max_discharge_a,
    )
    if bank is None or not limit:
        return
    lets = limit.value * bank.parallel
    for index, rail in enumerate(station.design.draw.rails):
        if rail.kind != "inverter" or rail.rated_w is None:
            continue
        amps = inverter_input_a(
            rail.rated_w.value, rail.efficiency.value, max(station.low_end_v, 0.75 * station.bus_v)
        )
        if amps > lets:
            yield Finding(
                id=f"draw.inverter_big.{rail.id}",
                severity="mind",
                step="draw",
                sentence=(
                    f"{rail.name} at its full {rail.rated_w.value:g} W takes {amps:.0f} A; the "
                    f"battery allows {lets:.0f} A"
                ),
                why=(
                    "Today's loads may be smaller. But the first large load makes the "
                    "battery cut off, and the whole station loses power."
                ),
                pointer=f"/draw/rails/{index}/rated_w",
            )


@mild_rule
def amps_or_amp_hours(station: StationModel, report: Report) -> Iterator[Finding]:
    """A figure that looks like the other unit."""
    for index, item in enumerate(station.draw.loads):
        load = item.load
        all_day = float(item.hours.max()) >= 20
        if (
            load.receive_a.value >= AMP_HOURS_LIKE_A
            and all_day
            and load.kind not in {"heater", "amplifier"}
        ):
            yield Finding(
                id=f"draw.unit.{load.id}",
                severity="mind",
                step="draw",
                sentence=(
                    f"{load.name}: {load.receive_a.value:g} A all day comes to "
                    f"{load.receive_a.value * 24:.0f} Ah a day"
                ),
                why="Did you enter amp-hours a day? Enter the amps it draws while it is on.",
                pointer=_pointer(index, "receive_a"),
            )
    bank = station.design.store.bank
    if (
        bank is not None
        and bank.unit_ah.value < AMPS_LIKE_AH
        and report.working[report.draw.peak_a].number > 5
    ):
        yield Finding(
            id="store.unit",
            severity="mind",
            step="store",
            sentence=f"One battery has only {bank.unit_ah.value:g} Ah, but peak current is over 5 A",
            why="Did you enter amps instead of the amp-hours on the label?",
            pointer="/store/bank/unit_ah",
        )


NEAR_RATING = 0.8
"""Continuous current over a rating. [P] as NEC 210.20: 125 %."""


@rule
def outlet_too_small(station: StationModel, report: Report) -> Iterator[Finding]:
    """An outlet, or an inverter, that cannot carry what hangs on it."""
    for index, rail in enumerate(station.design.draw.rails):
        watts = busiest_w(station.design.draw, rail)
        amps = watts / rail.volts.value
        if rail.limit_a is not None and amps > rail.limit_a.value:
            yield Finding(
                id=f"draw.outlet.{rail.id}",
                severity="stop",
                step="draw",
                sentence=(
                    f"{rail.name} is rated {rail.limit_a.value:g} A; while transmitting, its loads "
                    f"take {amps:.1f} A"
                ),
                why=(
                    "Its connector overheats, or it trips. Connect the transmitter to the "
                    "battery bus with its own fuse."
                ),
                pointer=f"/draw/rails/{index}/limit_a",
            )
        elif rail.limit_a is not None and amps > NEAR_RATING * rail.limit_a.value:
            yield Finding(
                id=f"draw.outlet_near.{rail.id}",
                severity="mind",
                step="draw",
                sentence=(
                    f"{rail.name} is near its limit: rated {rail.limit_a.value:g} A, its "
                    f"loads take {amps:.1f} A"
                ),
                why=(
                    "Plan fuses and connectors with a quarter to spare. Used at their full rating, "
                    "they trip on a warm day."
                ),
                pointer=f"/draw/rails/{index}/limit_a",
            )
        if rail.rated_w is not None and watts > rail.rated_w.value:
            yield Finding(
                id=f"draw.overload.{rail.id}",
                severity="stop",
                step="draw",
                sentence=(
                    f"{rail.name} is rated {rail.rated_w.value:g} W; its loads take {watts:.0f} W"
                ),
                why="It shuts down, and everything connected to it loses power.",
                pointer=f"/draw/rails/{index}/rated_w",
            )
