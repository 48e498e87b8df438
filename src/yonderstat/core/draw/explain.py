"""The draw explained: every figure of it with its working."""

from dataclasses import dataclass, replace

from ..calendar import MONTH_NAMES, month_key
from ..data import rows
from ..design import Design, Draw, Load, Rail
from ..words import celsius
from ..working import Input, Key, Quantity, Workings, given, stated, table, used
from .load_report import LoadFigures, load_figures, month_shown
from .model import LoadDraw, StationDraw, mean_on_current_a, nominal_bus_v
from .peak import everything_keys_a, peak_a, supply_size_a
from .profile import DayProfile, day_profile, peak_words, share_words
from .rails import busiest_w, inverter_input_a, rail_efficiency
from .restart import back_minutes
from .transmit import key_down, transmitting_a
from .when import FloatArray

LEAST_LOW_END_SHARE = 0.75
"""Of the nominal volts: under this everything has switched off. [C]"""


@dataclass(frozen=True, slots=True)
class TierFigures:
    """What the loads of one tier draw in the design's month."""

    tier: str
    daily_ah: Key


@dataclass(frozen=True, slots=True)
class CurvePoint:
    """Efficiency of an inverter at a load, its idle draw counted in, 0 to 1."""

    load_w: float
    efficiency: float


@dataclass(frozen=True, slots=True)
class RailFigures:
    """A rail: what it idles away, and for an inverter its busiest watts and the amps they take at
    the low end."""

    id: str
    idle_ah: Key
    peak_w: Key
    low_end_a: Key
    efficiency: tuple[CurvePoint, ...]


@dataclass(frozen=True, slots=True)
class DirectFigures:
    """What a load on an inverter would save on the bus itself."""

    load_id: str
    saved_ah: Key


@dataclass(frozen=True, slots=True, kw_only=True)
class DrawReport:
    """What the station draws. `daily_*` and `average_a` are of `month`, the month the design is
    judged by."""

    tempo: str
    heating_w: Key | None
    """What holding the bank's box warm takes in the hard month; None where nothing does."""
    daily_ah: Key
    daily_wh: Key
    average_a: Key
    peak_a: Key
    everything_keys_a: Key
    flowing_a: Key
    """Mean current while it flows: what the rate of discharge counts by."""
    low_end_peak_a: Key
    supply_a: Key
    bus_v: Key
    month: int
    months_ah: tuple[Key, ...]
    tiers: tuple[TierFigures, ...]
    rails: tuple[RailFigures, ...]
    direct: tuple[DirectFigures, ...]
    loads: tuple[LoadFigures, ...]
    day: DayProfile
    share_takeaway: str
    peak_takeaway: str
    back_min: Key | None
    """Minutes after a cut-off until everything vital is in service again; None where nobody has
    said any."""


def bus_volts(design: Design, workings: Workings) -> Quantity:
    """Nominal volts of the battery bus, explained."""
    bank, bus_v = design.store.bank, nominal_bus_v(design)
    words = "batteries in series times the volts of one"
    key, label = "draw.bus_v", "Battery voltage, nominal"
    if bank is None:
        return workings.add(
            key, bus_v, "V", label, "V = 12", words, source="practice", note="no battery yet"
        )
    inputs = [
        stated("s", "units in series", bank.series, "", "/store/bank/series"),
        stated("V₁", "volts of one unit", bank.unit_v, "V", "/store/bank/unit_v"),
    ]
    return workings.add(
        key,
        bus_v,
        "V",
        label=label,
        formula="V = s · V₁",
        words=words,
        inputs=inputs,
        source="arithmetic",
    )


def _at_low_end(item: LoadDraw, low_v: float) -> LoadDraw:
    """The load on a nearly empty bank: a constant-power one, or one behind a converter, takes more
    amps."""
    if item.rail is None and item.load.behaviour == "constant_current":
        return item
    factor = max(1.0, item.bus_v / low_v)
    return replace(item, receive_a=item.receive_a * factor, key_step_a=item.key_step_a * factor)


def _low_end(bus_v: Quantity, low_end_v: float, workings: Workings) -> Quantity:
    """Bus volts on a nearly empty bank; Store tells where they come from."""
    least_v = LEAST_LOW_END_SHARE * bus_v.number
    return workings.add(
        "draw.low_end_v",
        max(low_end_v, least_v),
        "V",
        label="Battery voltage at the lowest charge allowed",
        formula="max(V_end, 0.75 · V)",
        words=(
            "battery voltage at the lowest charge allowed, with everything on; never below "
            "three quarters of nominal, where all loads have switched off"
        ),
        inputs=[
            table(
                "V_end",
                "battery voltage at the lowest charge allowed, with the highest current",
                low_end_v,
                "V",
                "resistance",
            ),
            used("V", bus_v),
        ],
        source="resistance",
    )


def _low_end_peak(
    station: StationDraw, bus_v: Quantity, low_end: Quantity, peak: Quantity, workings: Workings
) -> Quantity:
    low_v = low_end.number
    changed = [item.load.name for item in station.loads if _at_low_end(item, low_v) is not item]
    return workings.add(
        "draw.low_end_peak_a",
        peak_a([_at_low_end(item, low_v) for item in station.loads]),
        "A",
        label="Largest current when the battery is low",
        formula="I = Σ I · V / V_low for what takes constant power",
        words=(
            "when the voltage falls, computers and converters take more amps for the same "
            "watts; radios don't"
        )
        + (f" ({', '.join(changed)})" if changed else ""),
        inputs=[
            used("I", peak),
            used("V", bus_v),
            used("V_low", low_end),
        ],
        source="practice",
    )


def _part(item: LoadDraw, month: int, design_month: int, workings: Workings) -> Input:
    """A load's amp-hours of one month, as an input; a reference where its own figure is of the same
    amount."""
    figure = workings[f"draw.load.{item.load.id}.daily_ah"]
    value = float(item.daily_ah[month - 1])
    if month_shown(item, design_month) == month or value == figure.value:
        return used("Qᵢ", figure)
    return Input(
        symbol="Qᵢ",
        label=f"{item.load.name} in this month",
        value=value,
        unit="A·h",
        origin="computed",
    )


def _month_total(
    month: int, station: StationDraw, by_month: FloatArray, design_month: int, workings: Workings
) -> Quantity:
    inputs = [
        _part(item, month, design_month, workings)
        for item in station.loads
        if item.daily_ah[month - 1] > 0
    ]
    inputs += [
        used("Q_idle", workings[f"draw.rail.{rail_id}.idle_ah"]) for rail_id in station.idle_ah
    ]
    if station.heating_ah.any():
        warm = float(station.heating_ah[month - 1])
        inputs.append(
            Input(
                symbol="Q_heat",
                label="keeping the battery box at 5 °C",
                value=warm,
                unit="A·h",
                origin="table",
                source="box-heat",
            )
        )
    return workings.add(
        month_key("draw.month_ah", month),
        float(by_month[month - 1]),
        "A·h",
        label=f"Used per day in {MONTH_NAMES[month - 1]}",
        formula="Q = Σ Qᵢ",
        words=(
            "amp-hours a day of all loads, plus the idle use of the supply lines and the "
            "battery heater"
        ),
        inputs=inputs,
        source="arithmetic",
    )


def _idle(rail: Rail, index: int, value: float, bus_v: Quantity, workings: Workings) -> Quantity:
    at = f"/draw/rails/{index}"
    return workings.add(
        f"draw.rail.{rail.id}.idle_ah",
        value,
        "A·h",
        label=f"{rail.name}: idle use per day",
        formula="Q = P_idle · h / V",
        words="its idle watts times the hours it is on, divided by the battery voltage",
        inputs=[
            given("P_idle", "idle watts", rail.idle_w, "W", f"{at}/idle_w"),
            given("h", "hours on", rail.on_hours, "h", f"{at}/on_hours"),
            used("V", bus_v),
        ],
        source="practice",
    )


def _keyed_w(load: Load, rail: Rail) -> float:
    pressed = key_down(load)
    return (
        load.quantity
        * max(load.receive_a.value, pressed.amps if pressed else 0.0)
        * rail.volts.value
    )


def _rail_figures(
    draw: Draw, index: int, station: StationDraw, low_end: Quantity, workings: Workings
) -> RailFigures:
    rail = draw.rails[index]
    idle = workings[f"draw.rail.{rail.id}.idle_ah"]
    hanging = [item for item in station.loads if item.rail is not None and item.rail.id == rail.id]
    watts = [_keyed_w(item.load, rail) for item in hanging]
    peak = workings.add(
        f"draw.rail.{rail.id}.peak_w",
        busiest_w(draw, rail),
        "W",
        label=f"{rail.name}: highest output",
        formula="P = Σ n · I_key · V_r",
        words=(
            "all its loads at once, radios transmitting; of those not used at the same time, "
            "only the largest counts"
        ),
        inputs=[
            Input(symbol="P", label=item.load.name, value=power, unit="W", origin="computed")
            for item, power in zip(hanging, watts, strict=True)
        ],
        source="arithmetic",
    )
    efficiency = rail_efficiency(rail, peak.number)
    low = workings.add(
        f"draw.rail.{rail.id}.low_end_a",
        inverter_input_a(peak.number + rail.idle_w.value * efficiency, efficiency, low_end.number),
        "A",
        label=f"{rail.name}: amps it takes when the battery is low",
        formula="I = (P / η + P_idle) / V_low",
        words=(
            "highest output divided by efficiency, plus idle watts, at the voltage of a low battery"
        ),
        inputs=[
            used("P", peak),
            table("η", "efficiency at that load", efficiency, "share", "practice"),
            given("P_idle", "idle watts", rail.idle_w, "W", f"/draw/rails/{index}/idle_w"),
            used("V_low", low_end),
        ],
        source="practice",
    )
    return RailFigures(rail.id, idle.key, peak.key, low.key, _efficiency_curve(rail))


def _efficiency_curve(rail: Rail) -> tuple[CurvePoint, ...]:
    if rail.rated_w is None:
        return ()
    curve = []
    for row in rows("inverter_curve"):
        power_w = float(row["load_share"]) * rail.rated_w.value
        taken_w = power_w / rail_efficiency(rail, power_w) + rail.idle_w.value
        curve.append(CurvePoint(power_w, power_w / taken_w))
    return tuple(curve)


def _direct(
    item: LoadDraw, alone: bool, month: int, bus_v: Quantity, workings: Workings
) -> DirectFigures:
    """What the load would save on the bus: the inverter's loss, and its idle draw if nothing else
    needs it."""
    rail, load = item.rail, item.load
    assert rail is not None
    daily = workings[f"draw.load.{load.id}.daily_ah"]
    idle = workings[f"draw.rail.{rail.id}.idle_ah"]
    rail_a = mean_on_current_a(
        load.receive_a.value, transmitting_a(load), load.transmit_share.value
    )
    power_w = rail_a * load.quantity * rail.volts.value
    hours = float(item.hours[month - 1])
    direct_ah = power_w * hours / bus_v.number
    saved = max(0.0, daily.number - direct_ah) + (idle.number if alone else 0.0)
    inputs = [
        used("Q", daily),
        Input(
            symbol="Q_direct",
            label="the same watts straight from the battery",
            value=direct_ah,
            unit="A·h",
            origin="computed",
        ),
    ]
    if alone:
        inputs.append(used("Q_idle", idle))
    figure = workings.add(
        f"draw.load.{load.id}.direct_ah",
        saved,
        "A·h",
        label=f"{load.name}: saved per day if fed straight from the battery",
        formula="ΔQ = Q − Q_direct" + (" + Q_idle" if alone else ""),
        words="the inverter's loss"
        + (", and its idle use, because nothing else is connected to it" if alone else ""),
        inputs=inputs,
        source="practice",
    )
    return DirectFigures(load.id, figure.key)


def _peaks(
    design: Design, station: StationDraw, workings: Workings
) -> tuple[Quantity, Quantity, Quantity]:
    inputs: list[Input] = []
    for index, item in enumerate(station.loads):
        at = f"/draw/loads/{index}"
        if item.standing_a > 0 or not item.groups:
            label = f"{item.load.name}: receiving, or on"
            inputs.append(
                Input(
                    symbol="I_rx",
                    label=label,
                    value=item.standing_a,
                    unit="A",
                    origin="computed",
                    pointer=at,
                )
            )
        if item.step.adds_a > 0:
            group = f", in “{item.load.interlock}”" if item.groups else ""
            what = "transmitting adds" if item.load.transmit_a else "switching it on adds"
            label = f"{item.load.name}: {what}{group}"
            inputs.append(
                Input(
                    symbol="ΔI",
                    label=label,
                    value=item.step.adds_a,
                    unit="A",
                    origin="computed",
                    pointer=f"{at}/interlock",
                )
            )
    peak = workings.add(
        "draw.peak_a",
        peak_a(station.loads),
        "A",
        label="Largest current at one moment",
        formula="I = Σ I_rx + max Σ ΔI",
        words=(
            "everything on and receiving, plus the most that can transmit or run at one time; "
            "of each group, one"
        ),
        inputs=inputs,
        source="practice",
    )
    everything = workings.add(
        "draw.everything_keys_a",
        everything_keys_a(station.loads),
        "A",
        label="Current if everything transmits at once",
        formula="I = Σ I_rx + Σ ΔI",
        words="the same, as if every load could transmit at the same time",
        inputs=inputs,
        source="practice",
    )
    size = supply_size_a(peak.number)
    supply = workings.add(
        "draw.supply_a",
        size,
        "A",
        label="Mains power supply that could run it",
        formula="next size ≥ 1.1 · I",
        words=(
            "the smallest common power supply at least 10 % above the largest current; radios "
            "not used at the same time share it"
        ),
        inputs=[used("I", peak)],
        source="practice",
        note="" if size else "more than any common power supply gives",
    )
    return peak, everything, supply


PRIORITY_NAMES = {
    "vital": "Vital loads",
    "useful": "Useful loads",
    "comfort": "Nice-to-have loads",
    "none": "Loads without a priority",
}


def _tiers(station: StationDraw, month: int, workings: Workings) -> tuple[TierFigures, ...]:
    found = []
    for tier in ("vital", "useful", "comfort", "none"):
        mine = [item for item in station.loads if (item.load.tier or "none") == tier]
        if not mine:
            continue
        total = workings.add(
            f"draw.tier.{tier}.daily_ah",
            sum(float(item.daily_ah[month - 1]) for item in mine),
            "A·h",
            label=f"{PRIORITY_NAMES[tier]}, per day in {MONTH_NAMES[month - 1]}",
            formula="Q = Σ Qᵢ",
            words="amp-hours of the loads with this priority",
            inputs=[_part(item, month, month, workings) for item in mine],
            source="arithmetic",
        )
        found.append(TierFigures(tier, total.key))
    return tuple(found)


def _totals(
    month: int, total: Quantity, bus_v: Quantity, workings: Workings
) -> tuple[Key, Key, Key]:
    name = MONTH_NAMES[month - 1]
    words = "amp-hours per day in the worst month"
    daily = workings.add(
        "draw.daily_ah",
        total.value,
        "A·h",
        label=f"Used per day, {name}",
        formula="Q = Q_month",
        words=words,
        inputs=[used("Q_month", total)],
        source="arithmetic",
    )
    energy = workings.add(
        "draw.daily_wh",
        daily.number * bus_v.number,
        "W·h",
        label=f"Watt-hours per day, {name}",
        formula="E = Q · V",
        words="amp-hours times the nominal battery voltage",
        inputs=[used("Q", daily), used("V", bus_v)],
        source="arithmetic",
    )
    average = workings.add(
        "draw.average_a",
        daily.number / 24.0,
        "A",
        label="Average current around the clock",
        formula="I = Q / 24",
        words="the day's amp-hours spread over 24 hours",
        inputs=[used("Q", daily)],
        source="arithmetic",
    )
    return daily.key, energy.key, average.key


def _flowing(station: StationDraw, month: int, workings: Workings) -> Quantity:
    return workings.add(
        "draw.flowing_a",
        station.flowing_a(month),
        "A",
        label="Average current, weighted by use",
        formula="I = Σ I(h)² / Σ I(h)",
        words=(
            "each amp-hour counts at the current it is drawn at; the battery's capacity "
            "depends on this"
        ),
        inputs=[used("Q", workings["draw.daily_ah"])],
        source="arithmetic",
    )


def draw_report(
    design: Design,
    station: StationDraw,
    bus_v: Quantity,
    low_end_v: float,
    month: int,
    workings: Workings,
) -> DrawReport:
    """What the station draws.

    Parameters
    ----------
    station : StationDraw
        The station at the tempo the design is sized on.
    bus_v : Quantity
        Nominal volts of the battery bus. [V]
    low_end_v : float
        Volts at the posts where the depth allowed ends, with everything on. [V]
    month : int
        The month, 1 to 12, that the daily figures are for.
    """
    by_month = station.by_month
    year_ah = float(by_month.sum())
    for index, rail in enumerate(design.draw.rails):
        _idle(rail, index, station.idle_ah[rail.id], bus_v, workings)
    loads = tuple(
        load_figures(index, item, month, bus_v, year_ah, workings)
        for index, item in enumerate(station.loads)
    )
    months = [_month_total(number, station, by_month, month, workings) for number in range(1, 13)]
    daily, energy, average = _totals(month, months[month - 1], bus_v, workings)
    peak, everything, supply = _peaks(design, station, workings)
    low_end = _low_end(bus_v, low_end_v, workings)
    inverters = {rail.id for rail in design.draw.rails if rail.kind == "inverter"}
    on_inverter = [
        item for item in station.loads if item.rail is not None and item.rail.id in inverters
    ]
    heating = None
    if station.heating_ah.any():
        heating = workings.add(
            "draw.heating_w",
            float(station.heating_ah[month - 1]) * bus_v.number / 24.0,
            "W",
            label=f"Keeping the battery box at {celsius(5.0)}, {MONTH_NAMES[month - 1]}",
            formula="P = E[max(0, T_set − T)] / R",
            words="average heat missing on days that are too cold, divided by how much each watt "
            "warms the box; used day and night, counted as vital",
            inputs=[
                Input(
                    symbol="Q_heat",
                    label="a day",
                    value=float(station.heating_ah[month - 1]),
                    unit="A·h",
                    origin="table",
                    source="box-heat",
                )
            ],
            source="box-heat",
        )
    back = back_minutes(design, workings)
    return DrawReport(
        tempo=design.draw.sized_on,
        heating_w=heating.key if heating else None,
        daily_ah=daily,
        daily_wh=energy,
        average_a=average,
        peak_a=peak.key,
        everything_keys_a=everything.key,
        flowing_a=_flowing(station, month, workings).key,
        low_end_peak_a=_low_end_peak(station, bus_v, low_end, peak, workings).key,
        supply_a=supply.key,
        bus_v=bus_v.key,
        month=month,
        months_ah=tuple(item.key for item in months),
        tiers=_tiers(station, month, workings),
        rails=tuple(
            _rail_figures(design.draw, n, station, low_end, workings)
            for n in range(len(design.draw.rails))
        ),
        direct=tuple(
            _direct(
                item,
                sum(o.load.rail == item.load.rail for o in on_inverter) == 1,
                month_shown(item, month),
                bus_v,
                workings,
            )
            for item in on_inverter
        ),
        loads=loads,
        day=day_profile(station, month),
        share_takeaway=share_words(station),
        peak_takeaway=peak_words(peak.number, everything.number),
        back_min=back.key if back else None,
    )
