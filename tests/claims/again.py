"""What a finding asserts, worked out again from the hours of the run or from the wire, without
asking the finding."""

from collections.abc import Callable, Iterator

import numpy as np

from yonderstat.core import Report
from yonderstat.core.bus import BusModel
from yonderstat.core.claim import Claim
from yonderstat.core.design import POST, Design
from yonderstat.core.draw import keyed_together
from yonderstat.core.finding import Finding
from yonderstat.core.rehearse import HourlyStation, hourly_station
from yonderstat.core.rehearse.kernel import (
    OUT_BACKED,
    OUT_CHARGE,
    OUT_DEFERRED,
    OUT_VITAL,
    OUTS,
    Hours,
    run_years,
)
from yonderstat.core.rehearse.tally import tally_of
from yonderstat.core.rehearse.years import cheap_every_d, spell_starts
from yonderstat.core.station import StationModel
from yonderstat.core.store import bank_resistance_ohm
from yonderstat.core.store import rest_v as rest_v_of
from yonderstat.core.words import plain

HOURS = 24
GRADE_ODD, STALLS = 0.95, 0.75
SLACK_V = 0.01
"""A set that stands so near its limit is on either side of it."""
NET_ROUNDS, NET_V = 60, 0.02
FULL_SUN_SEEN_W_M2 = 850.0
AT_BEST, AT_LEAST = 1.4, 0.85
"""The most a source is said to give, over the most it gives in any hour of ten years: no less but
for a clear hour over snow, which may pass 1000 W/m² by a tenth and more, and not far above."""


def _lasts(design: Design, report: Report, claim: Claim) -> float:
    """Usable over the day's draw, the draw added up from the hours of the run."""
    station = StationModel(design)
    hours = hourly_station(station, 1)
    month = int(claim.of)
    assert report.store is not None
    carried_ah = report.number(report.store.carries_ah) or 0.0
    if hours is None or month not in design.brief.months:
        return carried_ah / station.daily_ah
    drawn_a = hours.hours.load_a[hours.months == month - 1].sum(axis=1)
    return carried_ah / (float(drawn_a.mean()) * HOURS)


def _dark(design: Design, report: Report) -> np.ndarray:  # type: ignore[type-arg]
    """Every hour of the verdict's weather years: 1 dark, 0 served, −1 nothing vital wanted."""
    assert report.rehearsed is not None
    hours = hourly_station(StationModel(design), report.rehearsed.years)
    assert hours is not None
    tally = tally_of(hours)
    wanted = np.tile(hours.hours.load_a[:, 0] > 0.0, hours.years)
    return np.where(wanted, tally.dark.ravel().astype(int), -1)


def _dark_year(design: Design, report: Report, claim: Claim) -> float:
    assert report.rehearsed is not None
    return float((_dark(design, report) == 1).sum()) / report.rehearsed.years


def _dark_spell(design: Design, report: Report, claim: Claim) -> float:
    longest, first = 0, None
    for hour, said in enumerate(_dark(design, report)):
        if said == 1:
            first = hour if first is None else first
            longest = max(longest, hour - first + 1)
        elif said == 0:
            first = None
    return float(longest)


def _worn_days(design: Design, report: Report, claim: Claim) -> float:
    """Days with an hour under the depth, told hour by hour by the kernel and counted one at a
    time."""
    assert report.rehearsed is not None
    hours = hourly_station(StationModel(design), report.rehearsed.years)
    assert hours is not None
    out = np.empty((hours.years, 8760, OUTS))
    run_years(hours.rules, hours.hours, hours.start(), out)
    worn = set()
    for year, hour in np.argwhere(out[:, :, OUT_CHARGE] < hours.hours.floor_ah - 1e-6):
        worn.add((int(year), int(hour) // 24))
    return len(worn) / hours.years


def _run(
    design: Design, report: Report, slack_v: float = SLACK_V
) -> tuple[HourlyStation, np.ndarray, np.ndarray]:  # type: ignore[type-arg]
    """The verdict's weather years told hour by hour, and the hours in which what is vital has too
    few volts."""
    assert report.rehearsed is not None
    station = StationModel(design)
    hours = hourly_station(station, report.rehearsed.years)
    assert hours is not None
    out = np.empty((hours.years, 8760, OUTS))
    run_years(hours.rules, hours.hours, hours.start(), out)
    wanted = hours.hours.load_a[:, 0]
    short = np.empty(out.shape[:2], dtype=bool)
    for year in range(hours.years):
        played = _window(hours.hours, year, 0, 8760)
        dark = out[year, :, OUT_VITAL] < wanted - 1e-9
        few = _too_few_volts(station, hours, 0, out[year, :, OUT_CHARGE], played, slack_v)
        short[year] = (wanted > 0.0) & ~dark & few
    return hours, out, short


def _within(said: float, one: float, other: float) -> float:
    """What was said where it lies between the two, else the nearer of them."""
    return min(max(said, min(one, other)), max(one, other))


def _mute_year(design: Design, report: Report, claim: Claim) -> float:
    found = []
    for slack_v in (-SLACK_V, SLACK_V):
        hours, _, short = _run(design, report, slack_v)
        found.append(float(short.sum()) / hours.years)
    return _within(claim.value, found[0], found[1])


def _served(design: Design, report: Report, claim: Claim) -> float:
    """Vital amp-hours that were served with volts enough, over all that were wanted."""
    found = []
    for slack_v in (-SLACK_V, SLACK_V):
        hours, out, short = _run(design, report, slack_v)
        wanted = float(hours.hours.load_a[:, 0].sum()) * hours.years
        found.append(float(out[:, :, OUT_VITAL][~short].sum()) / wanted if wanted > 0.0 else 1.0)
    return _within(claim.value, found[0], found[1])


def _sun_part(design: Design, report: Report, claim: Claim) -> float:
    """What was used less what mains or a generator gave, month by month over all years, over what
    was wanted."""
    hours, out, _ = _run(design, report)
    wanted = float(hours.hours.load_a.sum()) * hours.years
    if not (hours.hours.panels_a.any() or hours.hours.fixed_a.any()) or wanted <= 0.0:
        return 0.0
    used, backed = out[:, :, OUT_VITAL : OUT_DEFERRED + 1].sum(axis=2), out[:, :, OUT_BACKED]
    carried = 0.0
    for month in range(12):
        chosen = hours.months == month
        carried += max(0.0, float(used[:, chosen].sum()) - float(backed[:, chosen].sum()))
    return carried / wanted


def _window(hours: Hours, year: int, hour: int, many: int) -> Hours:
    """So many hours from one on, as a year of their own; a year goes on into the next, and the last
    into the first."""
    years, in_a_year = hours.panels_a.shape
    steps = hour + np.arange(many)
    of_year, at = (year + steps // in_a_year) % years, steps % in_a_year
    return hours._replace(
        fixed_a=hours.fixed_a[at],
        panels_a=hours.panels_a[of_year, at][None, :],
        backup_a=hours.backup_a[at],
        load_a=hours.load_a[at],
        floor_ah=hours.floor_ah[of_year, at][None, :],
        end_ah=hours.end_ah[of_year, at][None, :],
        locked=hours.locked[of_year, at][None, :],
        new_day=hours.new_day[at],
        still_ah=hours.still_ah[at],
        fed_ah=hours.fed_ah[at],
    )


def _too_few_volts(
    station: StationModel,
    hours: HourlyStation,
    first: int,
    charge_ah: np.ndarray,
    played: Hours,  # type: ignore[type-arg]
    slack_v: float = SLACK_V,
) -> np.ndarray:  # type: ignore[type-arg]
    """Hours in which a vital set that is on gets too few volts for what it does, by its volts and
    no line of charge."""
    found = np.zeros(len(charge_ah), dtype=bool)
    assert station.bank is not None
    clock = (first + np.arange(len(charge_ah))) % 24
    months = hours.months[(first + np.arange(len(charge_ah))) % 8760]
    share = np.clip(charge_ah / hours.rules.full_ah, 0.0, 1.0)
    rest_v = np.interp(share, np.linspace(0.0, 1.0, len(hours.hours.rest_v)), hours.hours.rest_v)
    brought = played.fixed_a + played.panels_a[0]
    for item in station.bus.loads:
        load = item.item.load
        if item.window is None or (load.tier or "vital") != "vital" or item.item.nothing:
            continue
        keyed = load.transmit_a is not None and load.transmit_share.value > 0.0
        volts, column = (item.keyed_v, 3) if keyed else (item.receive_v, 2)
        lost = np.interp(
            share,
            [1.0 - station.bank.depth, 1.0],
            [item.rest_v[2] - volts[2], item.rest_v[0] - volts[0]],
        )
        spared = np.minimum(1.0, brought / hours.rules.fed_a) * float(item.bank_v[column])
        on = item.item.on_share[months, clock] > 0.0
        found |= on & (rest_v - lost + spared < GRADE_ODD * item.window.low_v - slack_v)
    return found


def _starts(design: Design, report: Report, claim: Claim) -> float:
    """Every start of the verdict's years played on by the kernel that tells each hour, and looked
    at hour by hour."""
    assert report.rehearsed is not None
    station = StationModel(design)
    hours = hourly_station(station, report.rehearsed.years)
    assert hours is not None
    need = max(1, int(np.ceil(station.asked_days * HOURS)))
    counts: dict[tuple[float, int], list[bool]] = {}
    for year, hour in spell_starts(hours, cheap_every_d(hours, station.asked_days)):
        played = _window(hours.hours, int(year), int(hour), need)
        out = np.empty((1, need, OUTS))
        run_years(hours.rules, played, hours.start(), out)
        dark, wanted = out[0, :, OUT_VITAL] < played.load_a[:, 0] - 1e-9, played.load_a[:, 0] > 0.0
        for slack_v in (-SLACK_V, SLACK_V):
            few = _too_few_volts(station, hours, int(hour), out[0, :, OUT_CHARGE], played, slack_v)
            month = int(hours.months[hour]) + 1
            counts.setdefault((slack_v, month), []).append(not (dark | (wanted & few)).any())
    low, high = (
        min(
            float(np.mean(counts[slack_v, month]))
            for month in design.brief.months
            if (slack_v, month) in counts
        )
        for slack_v in (-SLACK_V, SLACK_V)
    )
    return _within(claim.value, low, high)


def _run_ohm(bus: BusModel, run_id: str) -> tuple[list[str], float]:
    path, ohm = [], 0.0
    while run_id != POST:
        run = bus.run(run_id)
        path.append(run_id)
        ohm += run.ohm
        run_id = run.leg.fed_from
    return path, ohm


def _set_volts(design: Design, report: Report, claim: Claim) -> float:
    """The volts at a keyed set, by going round the net until it stands still: half used where that
    is said, else at the end. Every load by its own current, growing ones by their watts at the
    volts they get."""
    station = StationModel(design)
    bus, bank, found = station.bus, station.bank, station.bus.of_load(claim.of)
    assert bank is not None
    assert found is not None
    half = found.window is not None and found.keyed_v[1] < found.window.low_v
    rest_v = found.rest_v[1 if half else 2]
    bank_ohm = bank_resistance_ohm(bank.bank, station.bus_v, bank.hard_c)
    loads = station.draw.loads
    own = [item.load.id for item in loads].index(claim.of)
    keyed = keyed_together([item.step for item in loads], own)
    taps: list[tuple[str, float, bool, float]] = []
    for number, item in enumerate(loads):
        amps = item.standing_a + (item.step.adds_a if number in keyed else 0.0)
        if item.rail is not None and item.rail.bank != "main":
            continue
        name = f"rail-{item.rail.id}" if item.rail is not None else f"load-{item.load.id}"
        taps.append(
            (name, amps, item.rail is not None or item.load.behaviour == "constant_power", 0.0)
        )
    for rail in design.draw.rails:
        if rail.bank == "main":
            taps.append((f"rail-{rail.id}", rail.idle_w.value / station.bus_v, True, 0.0))
    paths = {name: _run_ohm(bus, name)[0] for name, *_ in taps}
    beside = [f"layer-{item.id}" for item in design.store.layers if item.joining == "lead"]
    banks = {f"layer-{item.id}": item.bank for item in design.store.layers}
    paths |= {name: _run_ohm(bus, name)[0][1:] for name in beside}
    given = dict.fromkeys(beside, 0.0)
    volts = dict.fromkeys(paths, rest_v)
    for _ in range(NET_ROUNDS * (10 if beside else 1)):
        amps_now = [
            (name, amps * station.bus_v / max(volts[name], 0.7 * station.bus_v) if grows else amps)
            for name, amps, grows, _ in taps
        ]
        for name in beside:
            # A battery in parallel takes what its lead lets through, step by step so that it comes
            # to rest.
            resting = min(
                rest_v_of(banks[name], station.bus_v, 1.0 - bank.depth * (0.5 if half else 1.0)),
                rest_v,
            )
            ohm = bank_resistance_ohm(banks[name], station.bus_v, bank.hard_c) + bus.run(name).ohm
            takes = (volts[name] - (resting - bus.run(name).drop_v)) / ohm
            given[name] += 0.05 * (takes - given[name])
            amps_now.append((name, given[name]))
        through: dict[str, float] = {}
        for name, amps in amps_now:
            for run in paths[name]:
                through[run] = through.get(run, 0.0) + amps
        total = sum(amps for _, amps in amps_now)
        for name in volts:
            lost = sum(through[run] * bus.run(run).ohm + bus.run(run).drop_v for run in paths[name])
            volts[name] = rest_v - total * bank_ohm - lost
    return volts[f"load-{claim.of}"]


def _charge(design: Design, report: Report, claim: Claim) -> tuple[float, float] | None:
    """Between what sources give in the best hour of the run and somewhat more."""
    station = StationModel(design)
    hours = hourly_station(station, 10)
    if hours is None:
        return None
    by_source = {key: float(amps.max()) for key, amps in hours.strings_a}
    # A plane that looks away never sees the full sun that a bank and a fuse must stand.
    looks_away = float(hours.sun_w_m2.max()) < FULL_SUN_SEEN_W_M2
    charging = [source for source in station.array.sources if source.charges]
    fixed = {source.id: source.amps for source in charging if source.id not in by_source}
    if claim.of == "together":
        if any(source.alone for source in station.array.sources):
            return None
        amps = sum(by_source.get(source.id, 0.0) for source in station.array.sources) + sum(
            fixed.values()
        )
        most = np.inf if looks_away else sum(by_source.values()) * AT_BEST + sum(fixed.values())
        return amps * AT_LEAST, most
    if claim.of in fixed:
        return fixed[claim.of] * 0.999, fixed[claim.of] * 1.001
    return None if claim.than != "above" else (by_source.get(claim.of, 0.0) * AT_LEAST, np.inf)


CLOSE: dict[str, tuple[Callable[[Design, Report, Claim], float], float]] = {
    "lasts": (_lasts, 0.02),
    "dark_year": (_dark_year, 0.51),
    "dark_spell": (_dark_spell, 0.01),
    "starts": (_starts, 0.0201),
    "worn_days": (_worn_days, 0.11),
    "mute_year": (_mute_year, 3.0),
    "served": (_served, 0.002),
    "sun_part": (_sun_part, 0.002),
}


def _not_so(design: Design, report: Report, claim: Claim) -> str:
    again, within = CLOSE[claim.kind]
    found = again(design, report, claim)
    if abs(found - claim.value) > within * max(1.0, abs(found) if claim.kind == "lasts" else 1.0):
        return f"{claim.kind} {claim.value:.3f} is said, and {found:.3f} is so"
    return ""


def _checked(design: Design, report: Report, finding: Finding, claim: Claim) -> str:
    if not claim.holds:
        return f"{claim.value:g} is not seen to be {claim.than} {claim.limit:g}"
    if claim.than != "alone":
        said = plain(f"{finding.sentence} {finding.why}")
        for word in claim.words:
            if word.removesuffix(" days") not in said:
                return f"“{word}” does not stand in “{said}”"
    if claim.kind in CLOSE and (trouble := _not_so(design, report, claim)):
        return trouble
    if claim.kind == "volts" and finding.id.startswith("bus.under_volts."):
        found = _set_volts(design, report, claim)
        # Far under what anything works at, what takes more amps the fewer volts it gets has no one
        # answer.
        stalls = found < STALLS * StationModel(design).bus_v
        if not stalls and abs(found - claim.value) > NET_V:
            return f"{claim.value:.3f} V are said, and {found:.3f} reach it"
    if claim.kind == "charge" and finding.id.startswith("store."):
        between = _charge(design, report, claim)
        if between is not None and not between[0] <= claim.value <= between[1]:
            return (
                f"{claim.value:.2f} A are said, and the run has {between[0]:.2f} to "
                f"{between[1]:.2f}"
            )
    return ""


def troubles_of_claims(design: Design, report: Report) -> Iterator[str]:
    """What a report asserts and is not so."""
    for claim in report.verdict.claims:
        if claim.kind in CLOSE and (trouble := _not_so(design, report, claim)):
            yield f"verdict: {trouble}"
    for finding in report.findings:
        for claim in finding.claims:
            if trouble := _checked(design, report, finding, claim):
                yield f"{finding.id}: {trouble}"
