"""Findings about the volts that reach a set on the key, and what would raise them."""

from collections.abc import Iterator

from ...bus import LoadVolts, grade_of, input_window, load_run, lowest_given_v
from ...changes import Change, Gain, add, replace
from ...claim import less
from ...design import (
    MAIN_RUN,
    Design,
    KnownWatts,
    KnownWire,
    Load,
    UnfitLabelError,
    as_labelled,
    with_bank,
    with_draw,
    with_load,
)
from ...draw import usual_rails
from ...electrical import Window
from ...finding import Finding, Severity
from ...report import Report
from ...station import StationModel
from ...words import wire
from ..register import rule
from ..remedies import MAX_PARALLEL, Tried, try_change
from .rows import with_run

ODD_SHARE = 0.95
FAILS = frozenset({"odd", "off"})
WORTH_V = 0.05
"""A thicker wire that saves less is not worth buying."""
THICKER = 2.0
LEAST_POWER_SHARE = 0.1
"""Turned down further a set is hardly worth keying."""


def _standing(station: StationModel, name: str, load_id: str) -> Tried:
    """What a change does to the volts at a keyed set: half used where it fails there, else at the
    end."""
    now = station.bus.of_load(load_id)
    fails_half = now is not None and now.window is not None and now.keyed_v[1] < now.window.low_v
    level, when = (
        (1, "transmitting, battery half charged")
        if fails_half
        else (2, "transmitting, at the lowest charge allowed")
    )

    def volts(model: StationModel) -> float | None:
        found = model.bus.of_load(load_id)
        return found.keyed_v[level] if found else None

    before = volts(station)

    def tried(changed: Design) -> Gain:
        return Gain("set_volts", before, volts(station.tried(changed)), f"{name}, {when}")

    return tried


def _power_words(item: LoadVolts) -> str:
    full_w, half_w = item.most_w
    if full_w is None or half_w is None:
        return ""
    rated, beside = (
        item.item.load.rated_w,
        " With everything else on and no other radio transmitting,",
    )
    if rated is not None and half_w >= rated.value:
        return f"{beside} a half-charged battery still gives it all its {rated.value:.0f} W."
    if full_w < 1.0:
        return f"{beside} even a full battery is not enough for its lowest power."
    half = (
        f"a half-charged one for {half_w:.0f} W"
        if half_w >= 1.0
        else "a half-charged one not even for its lowest power"
    )
    return f"{beside} a full battery is enough for {full_w:.0f} W, {half}."


def _severity(item: LoadVolts, window: Window) -> Severity:
    """A set that behaves oddly with half the bank left fails in use; so does one under a window
    somebody has named."""
    half = grade_of(item.keyed_v[1], window)
    return "fix" if half in FAILS or item.item.load.window != "none" else "mind"


@rule
def too_few_volts(station: StationModel, report: Report) -> Iterator[Finding]:
    """A set that sags below its window on the key before the end of what may be used."""
    said = False
    places = {load.id: index for index, load in enumerate(station.design.draw.loads)}
    for item in station.bus.loads:
        load, window = item.item.load, item.window
        if (
            window is None
            or load.transmit_a is None
            or not 0.95 * window.low_v <= station.bus_v <= window.high_v
        ):
            continue
        end_v = item.keyed_v[2]
        if end_v >= window.low_v - 1e-6 or (
            load.window == "none" and grade_of(end_v, window) not in FAILS
        ):
            # A window that nobody has named is our guess: under it the power falls a little before
            # anything fails.
            continue
        when = (
            "with half of what may be used left"
            if item.keyed_v[1] < window.low_v
            else "at the lowest charge allowed"
        )
        half = item.keyed_v[1] < window.low_v
        told = less("volts", load.id, item.keyed_v[1] if half else end_v, window.low_v, "V")
        lost_v = float(item.walk_v[:, 3].sum())
        posts_v = item.rest_v[2] - float(item.bank_v[3])
        by_bank = (
            ""
            if posts_v >= window.low_v
            else f" No wire mends that: the posts have {posts_v:.1f} V then."
        )
        off = grade_of(end_v, window) == "off"
        yield Finding(
            id=f"bus.under_volts.{load.id}",
            severity=_severity(item, window),
            step="bus",
            sentence=(
                f"{load.name} needs {told.words[1]}, and while it transmits gets "
                f"{told.words[0]} {when}"
            ),
            alike="These radios get too few volts while they transmit",
            why="Output drops first, then the signal distorts, then the radio switches off. At the "
            f"lowest charge allowed, wire, fuses and switches lose {lost_v:.1f} V, and the "
            f"battery itself {float(item.bank_v[3]):.1f} V.{by_bank}"
            + (f" That leaves {end_v:.1f} V: the radio switches off. " if off else " ")
            + "Discharge the battery less deeply, "
            + (
                "turn the power down, or feed this radio through a converter that holds its "
                "voltage."
            )
            + ("" if station.trial else _power_words(item)),
            pointer=f"/draw/loads/{places[load.id]}/window",
            remedies=()
            if station.trial or station.first_look or said
            else tuple(_remedies(station, item, places[load.id])),
            claims=(told,),
        )
        said = True


def _remedies(station: StationModel, item: LoadVolts, index: int) -> Iterator[Change]:
    yield from _thicker(station, item)
    yield from _regulated(station, item, index)
    quieter = list(_quieter(station, item, index))
    yield from quieter or _more_bank(station, item)


def _thicker(station: StationModel, item: LoadVolts) -> Iterator[Change]:
    """The run to the set, or the main run, of about twice the copper, where that saves
    something."""
    load, book = item.item.load, station.bus.book
    found = []
    for run_id in (load_run(load.id), MAIN_RUN):
        run = station.bus.run(run_id)
        size = next((size for size in book.sizes if size.mm2 >= THICKER * run.mm2 - 1e-9), None)
        if size is not None:
            found.append(
                (run.carried.peak_a * run.wire_ohm * (1.0 - run.mm2 / size.mm2), run_id, run, size)
            )
    # The run whose copper loses most is the one worth buying.
    for saved_v, run_id, run, size in sorted(found, key=lambda one: -one[0])[:1]:
        if saved_v < WORTH_V:
            continue
        changed, patch = with_run(
            station.design, run_id, mm2=KnownWire(value=size.mm2, basis="stated")
        )
        where = (
            run.leg.name[0].lower() + run.leg.name[1:]
            if run_id == MAIN_RUN
            else f"the cable to {load.name}"
        )
        label = f"Use {wire(size.mm2)} for {where}"
        yield try_change(station, label, changed, patch, _standing(station, load.name, load.id))


def _regulated(station: StationModel, item: LoadVolts, index: int) -> Iterator[Change]:
    """Two schools, each with what it costs: a regulated converter for the one set, and for the
    whole bus."""
    draw = station.design.draw
    usual = next(rail for rail in usual_rails() if rail.id == "regulated")
    if station.bus_v > usual.volts.value or any(rail.id == usual.id for rail in draw.rails):
        return
    every = [number for number, other in enumerate(station.draw.loads) if other.rail is None]
    cases = [(f"Feed only {draw.loads[index].name} through a converter ({usual.name})", [index])]
    if len(every) > 1:
        cases.append((f"Feed the whole bus through a converter ({usual.name})", every))
    for label, chosen in cases:
        loads = [
            load.model_copy(update={"rail": usual.id}) if number in chosen else load
            for number, load in enumerate(draw.loads)
        ]
        # Watts of a label come to other amps at the converter's volts.
        try:
            changed = as_labelled(
                with_draw(station.design, loads=loads, rails=[*draw.rails, usual])
            )
        except UnfitLabelError:
            # Watts that no converter of those volts carries: there is nothing to propose.
            continue
        patch = [add("/draw/rails/-", usual.model_dump(mode="json"))]
        patch += [replace(f"/draw/loads/{number}/rail", usual.id) for number in chosen]
        name = draw.loads[index].name
        yield try_change(
            station, label, changed, patch, _standing(station, name, item.item.load.id)
        )


def _quieter(station: StationModel, item: LoadVolts, index: int) -> Iterator[Change]:
    """Turned down to what half of the bank carries."""
    load: Load = item.item.load
    half_w = item.most_w[1]
    now = load.power_w or load.rated_w
    if (
        half_w is None
        or half_w < 1.0
        or now is None
        or not LEAST_POWER_SHARE * now.value <= half_w < now.value - 1.0
    ):
        return
    watts = KnownWatts(value=float(int(half_w)), basis="stated")
    changed = with_load(station.design, index, power_w=watts)
    patch = [replace(f"/draw/loads/{index}/power_w", watts.model_dump(mode="json"))]
    label = f"Turn {load.name} down to {watts.value:.0f} W"
    yield try_change(station, label, changed, patch, _standing(station, load.name, load.id))


def _more_bank(station: StationModel, item: LoadVolts) -> Iterator[Change]:
    """One more battery in parallel: each then gives less, and sags less."""
    bank, load = station.design.store.bank, item.item.load
    if bank is None or bank.parallel >= MAX_PARALLEL:
        return
    limit = bank.limits.max_parallel
    if limit is not None and bank.parallel >= limit:
        return
    changed = with_bank(station.design, parallel=bank.parallel + 1)
    patch = [replace("/store/bank/parallel", bank.parallel + 1)]
    yield try_change(
        station,
        "Add one more battery in parallel",
        changed,
        patch,
        _standing(station, load.name, load.id),
    )


SUPPLIES = frozenset({"bench_supply", "selector", "changeover"})


@rule
def too_few_from_a_supply(station: StationModel, report: Report) -> Iterator[Finding]:
    """A set that a supply feeds while the mains are there, and that gets too few volts on the
    key."""
    runs = {run.leg.id: run for run in station.bus.runs}
    for place, charger in enumerate(station.design.array.chargers):
        source, main = runs.get(f"source-{charger.id}"), runs.get(MAIN_RUN)
        if charger.kind not in SUPPLIES or charger.volts is None or source is None or main is None:
            continue
        # A changeover lies in the main run; of what else is there the supply's current passes
        # nothing.
        through_v = sum(part.drop_v or 0.0 for part in main.parts if part.kind == "changeover")
        standing_a = sum(item.standing_a for item in station.draw.loads if item.rail is None)
        for item in station.bus.loads:
            load, window, run = item.item.load, item.window, runs.get(load_run(item.item.load.id))
            if window is None or load.transmit_a is None or run is None:
                continue
            key_a = item.item.step.adds_a
            lost_v = (standing_a + key_a) * source.ohm + source.drop_v + through_v
            lost_v += (item.item.standing_a + key_a) * run.ohm + run.drop_v
            gets_v = charger.volts.value - lost_v
            least_v = window.low_v if load.window != "none" else ODD_SHARE * window.low_v
            if (
                gets_v >= least_v - 1e-6
                or not 0.9 * window.low_v <= charger.volts.value <= window.high_v
            ):
                continue
            told = less("volts", load.id, gets_v, least_v, "V")
            yield Finding(
                id=f"bus.supply_volts.{charger.id}.{load.id}"[:120],
                severity="fix" if load.window != "none" else "mind",
                step="bus",
                sentence=(
                    f"Fed by {charger.name}, {load.name} transmits at {told.words[0]} and "
                    f"needs {told.words[1]}"
                ),
                why=f"{charger.volts.value:g} V at the supply, minus {lost_v:.2f} V in leads, "
                "fuses and parts between. Turn the supply up if it and the battery allow "
                "that, or use shorter and thicker leads.",
                pointer=f"/array/chargers/{place}/volts",
                claims=(told,),
            )


@rule
def converter_drops_out(station: StationModel, report: Report) -> Iterator[Finding]:
    """A converter whose input falls out of its window before the bank is at its end."""
    for place, rail in enumerate(station.design.draw.rails):
        lowest_v, least_v = (
            lowest_given_v(station.bus, rail.id),
            input_window(rail, station.bus_v).least_v,
        )
        if lowest_v is None or lowest_v >= least_v:
            continue
        told = less("volts", rail.id, lowest_v, least_v, "V")
        on_it = [load for load in station.design.draw.loads if load.rail == rail.id]
        vital = any(load.tier == "vital" for load in on_it)
        yield Finding(
            id=f"bus.dropout.{rail.id}",
            severity="fix" if vital else "mind",
            step="bus",
            sentence=(
                f"{rail.name} works down to {told.words[1]}; at the lowest charge allowed it "
                f"gets {told.words[0]}"
            ),
            why=(
                "It switches off, and everything connected to it loses power. Discharge the "
                "battery less deeply, or use a converter that works at lower volts."
            ),
            pointer=f"/draw/rails/{place}/least_in_v",
            claims=(told,),
        )
