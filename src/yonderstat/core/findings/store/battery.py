"""Findings about what the batteries are, and what they are asked to do."""

from collections.abc import Iterator
from dataclasses import dataclass

from ...changes import replace
from ...claim import less, more
from ...design import Bank, with_bank
from ...draw import Step, held_s, most_together_a
from ...finding import Finding
from ...report import Report
from ...station import StationModel
from ...store import (
    kind_of,
    most_charge_a,
    planned_charge_a,
)
from ...words import kilos
from ..register import mild_rule, rule
from ..remedies import lasting, try_change

WORN_SHARE = 0.8
FULL_WITHIN_D, DAYS = 14.0, 365
"""Lead that is not full for longer sulphates. [C] common practice."""
CARRIER_S, DASH_S = 1.0, 0.1
"""A current held this long is a carrier, and one held this long a dash; what is shorter is a
syllable of speech. [C]"""


def _label_ah(bank: Bank) -> float:
    return bank.unit_ah.value * bank.parallel


@rule
def starting_battery(station: StationModel, report: Report) -> Iterator[Finding]:
    """A battery made to turn an engine, used as a store."""
    bank = station.design.store.bank
    if bank is None or kind_of(bank.chemistry).made_to_cycle:
        return
    changed = with_bank(station.design, chemistry="agm", depth=None)
    yield Finding(
        id="store.starting",
        severity="fix",
        step="store",
        sentence="A car starting battery is used to store energy",
        why=(
            "A few dozen deep discharges wear it out: it is made to give many amps for "
            "seconds. It will do as a stop-gap."
        ),
        pointer="/store/bank/chemistry",
        remedies=(
            try_change(
                station,
                "AGM with the same label amp-hours",
                changed,
                [replace("/store/bank/chemistry", "agm"), replace("/store/bank/depth", None)],
                lasting(station),
            ),
        ),
    )


@rule
def beyond_the_makers_counts(station: StationModel, report: Report) -> Iterator[Finding]:
    """More in series or parallel than the maker allows."""
    bank = station.design.store.bank
    if bank is None:
        return
    for word, count, most in (
        ("series", bank.series, bank.limits.max_series),
        ("parallel", bank.parallel, bank.limits.max_parallel),
    ):
        if most is not None and count > most:
            yield Finding(
                id=f"store.too_many_{word}",
                severity="stop",
                step="store",
                sentence=f"{count} batteries in {word}; the maker allows {most}",
                why=(
                    "The electronics inside can fail: they are built for a limited voltage and a "
                    "limited number in parallel."
                ),
                pointer=f"/store/bank/{word}",
            )


RUINOUS = 2.0
"""So many times what its kind usually takes is not a matter of years any more. [C]"""


@rule
def charge_current_against_the_bank(station: StationModel, report: Report) -> Iterator[Finding]:
    """Charge current above what the bank may take, or so low that it never gets full."""
    bank = station.design.store.bank
    together, sources = station.array.together_a()
    if bank is None or not sources:
        return
    kind, label_ah = kind_of(bank.chemistry), _label_ah(bank)
    limit, most = bank.limits.max_charge_a, most_charge_a(bank)
    largest = max(sources, key=lambda source: source.amps)
    if together > most:
        over_one = largest.amps > most or len(sources) == 1
        who, amps = (
            (largest.name, largest.amps) if over_one else ("all chargers together", together)
        )
        told = more("charge", largest.id if over_one else "together", amps, most, "A")
        ruinous = limit is not None or amps > RUINOUS * most
        yield Finding(
            id="store.charge_fast",
            severity="stop" if ruinous else "fix",
            step="store",
            sentence=f"{told.words[0]} from {who} is too much: "
            f"{'the maker allows' if limit else 'for this kind of battery the limit is'} "
            f"{told.words[1]}",
            why=(
                "Faster charging heats the battery and shortens its life. Turn the charger down, "
                "or add batteries in parallel."
            ),
            pointer="/store/bank/limits/max_charge_a",
            claims=(told,),
        )
    elif together < kind.charge_share_low * label_ah and kind.is_lead and not _gets_full(report):
        slow = less("charge", "together", together, kind.charge_share_low * label_ah, "A")
        yield Finding(
            id="store.charge_slow",
            severity="mind",
            step="store",
            sentence=f"{slow.words[0]} at best is slow for {label_ah:.0f} Ah: lead charged with "
            f"less than {slow.words[1]}, {kind.charge_share_low * 100:.0f} A per 100 Ah, "
            "seldom gets full",
            why=(
                "It then sulphates and loses capacity. Use more charging amps, charge it fully now "
                "and then, or use a smaller battery."
            ),
            pointer="/store/bank",
            claims=(slow,),
        )


def _gets_full(report: Report) -> bool:
    """Whether the weather years say that it is full often enough, however slowly it is charged."""
    days = report.number(report.life.longest_not_full_d) if report.life else None
    return days is not None and round(days) <= FULL_WITHIN_D


@rule
def seldom_full(station: StationModel, report: Report) -> Iterator[Finding]:
    """Lead that goes without a full charge for weeks."""
    bank, life = station.design.store.bank, report.life
    if bank is None or life is None or not kind_of(bank.chemistry).is_lead:
        return
    days = report.number(life.longest_not_full_d)
    if days is None or _gets_full(report):
        return
    never = round(days) >= DAYS
    yield Finding(
        id="store.seldom_full",
        severity="fix",
        step="store",
        sentence="The lead battery is never full in a typical year"
        if never
        else f"The lead battery goes {days:.0f} days without a full charge in a typical year",
        why=(
            "Lead that is not full for over two weeks sulphates: it loses capacity and ages early. "
        )
        + (
            "Add panels, split it into two batteries charged in turn,"
            if station.design.array.strings
            else "Add a charger that fills it,"
        )
        + " or use a chemistry that tolerates this.",
        pointer="/store/bank/chemistry",
    )


UNLIKE_YEARS = 1.0


@rule
def mixed_ages(station: StationModel, report: Report) -> Iterator[Finding]:
    """Old and new units in one bank; middles of series strings joined."""
    bank = station.design.store.bank
    if bank is None or bank.series * bank.parallel < 2:
        return
    if (
        bank.age_years
        and bank.oldest_years
        and bank.oldest_years.value - bank.age_years.value > UNLIKE_YEARS
    ):
        yield Finding(
            id="store.mixed_ages",
            severity="fix",
            step="store",
            sentence=(
                f"Batteries {bank.age_years.value:g} and {bank.oldest_years.value:g} years old "
                "in one battery bank"
            ),
            why=(
                "The old ones fill and empty first, and wear out the new ones. Use the same kind "
                "and age, or keep them apart."
            ),
            pointer="/store/bank/oldest_years",
        )
    if bank.midpoints_joined == "yes" and bank.series > 1 and bank.parallel > 1:
        yield Finding(
            id="store.midpoints",
            severity="mind",
            step="store",
            sentence="The midpoints of the series strings are joined",
            why="A failing cell can then draw current from every string, through a lead that no "
            "fuse at the posts protects. Fuse each of these leads. They do keep the strings "
            "balanced. (Common practice.)",
            pointer="/store/bank/midpoints_joined",
        )


@mild_rule
def charged_faster_than_planned(station: StationModel, report: Report) -> Iterator[Finding]:
    """More current than the bank is meant to be charged with, though no more than it takes."""
    bank = station.design.store.bank
    together, _ = station.array.together_a()
    planned = planned_charge_a(bank) if bank else None
    if bank is None or planned is None or not planned < together <= most_charge_a(bank):
        return
    at = "limits/usual_charge_a" if bank.limits.usual_charge_a else "plan_c"
    yield Finding(
        id="store.charge_planned",
        severity="mind",
        step="store",
        sentence=f"All chargers together push {together:.0f} A; you planned {planned:.0f} A",
        why=(
            "The battery can take it, but lasts longer with slower charging. Turn a charger "
            "down, or add batteries in parallel."
        ),
        pointer=f"/store/bank/{at}",
    )


@rule
def worn_out(station: StationModel, report: Report) -> Iterator[Finding]:
    """Capacity measured below what is worth keeping, or a bank past its years."""
    bank, life = station.design.store.bank, report.life
    if bank is None or life is None:
        return
    left = bank.tested_ah.value / bank.unit_ah.value if bank.tested_ah else bank.health.value
    known = bank.tested_ah is not None or bank.health.basis != "default"
    if known and left < WORN_SHARE:
        yield Finding(
            id="store.worn",
            severity="fix",
            step="store",
            sentence=(
                f"The battery holds {left * 100:.0f} % of its label: below 80 % it counts as worn "
                "out"
            ),
            why=(
                "From here it loses capacity faster, and one bad cell ruins the rest. Plan to "
                "replace it."
            ),
            pointer="/store/bank/tested_ah" if bank.tested_ah else "/store/bank/health",
        )
    years = report.number(life.years)
    if bank.age_years and years is not None and bank.age_years.value > years:
        yield Finding(
            id="store.old",
            severity="mind",
            step="store",
            sentence=(
                f"The battery is {bank.age_years.value:g} years old; expect about {years:.0f} "
                "years from it"
            ),
            why="Its real capacity is unknown until you do a discharge test.",
            pointer="/store/bank/age_years",
        )


CLOSED = {"insulated_box", "heated"}


@rule
def vent_missing(station: StationModel, report: Report) -> Iterator[Finding]:
    """Lead in a closed space with too little opening, or indoors with nobody knowing."""
    bank, store = station.design.store.bank, report.store
    need = report.number(store.care.vent_cm2) if store else None
    if bank is None or need is None or store is None or bank.housing == "outdoors":
        return
    have, clear_mm = bank.vent_cm2, report.number(store.care.spark_mm) or 0.0
    away = (
        f"Keep sparks, switches and fuses at least {clear_mm:.0f} mm from the cells while "
        "they charge."
    )
    if have is not None and have.value < need:
        yield Finding(
            id="store.vent_small",
            severity="stop" if bank.housing in CLOSED else "fix",
            step="store",
            sentence=(
                f"The vent has {have.value:.0f} cm²; it needs {_area(need)} at the inlet and "
                "the same at the outlet"
            ),
            why=(
                "Hydrogen burns from 4 % in air, and lead gives it off while charging. The vent "
                f"area follows the standard, for boost charge. {away}"
            ),
            pointer="/store/bank/vent_cm2",
        )
    elif have is None and (bank.housing in CLOSED or kind_of(bank.chemistry).free_acid):
        closed = bank.housing in CLOSED
        yield Finding(
            id="store.vent_unknown",
            severity="fix" if closed else "mind",
            step="store",
            sentence=f"{'Lead in a closed box' if closed else 'Flooded cells'}, no vent entered: "
            f"{_area(need)} needed at the inlet and the same at the outlet",
            why="Hydrogen burns, and lead gives it off while charging. Sealed types do too when "
            f"overcharged. Make one opening low and one high. {away}",
            pointer="/store/bank/vent_cm2",
        )


def _area(cm2: float) -> str:
    return f"{cm2:.0f} cm²" if cm2 >= 1.0 else "under 1 cm²"


@rule
def too_heavy(station: StationModel, report: Report) -> Iterator[Finding]:
    """Batteries above what hitch, roof or back will carry."""
    payload, store = station.design.brief.payload_kg, report.store
    if payload is None or store is None:
        return
    keys = [store.care.weight_kg, *(layer.weight_kg for layer in store.layers)]
    weight = sum(report.number(key) or 0.0 for key in keys)
    if weight <= payload.value:
        return
    lighter = [
        item
        for item in store.compared
        if not item.in_use and (report.number(item.weight_kg) or weight) <= payload.value
    ]
    best = min(lighter, key=lambda item: report.number(item.price) or 0.0, default=None)
    hint = (
        (
            f" {best.name} with the same usable energy weighs "
            f"{kilos(report.number(best.weight_kg) or 0.0)}."
        )
        if best
        else ""
    )
    yield Finding(
        id="store.too_heavy",
        severity="stop",
        step="store",
        sentence=f"The batteries weigh {kilos(weight)}; the limit is {kilos(payload.value)}",
        why=f"An overloaded hitch, roof or tower fails without warning.{hint}",
        pointer="/brief/payload_kg",
    )


@dataclass(frozen=True, slots=True)
class _KeyedAmps:
    """What a battery sees, all receive currents counted, by how long it flows. [A]"""

    carriers: float
    """Whole transmissions."""
    dashes: float
    """With each dash of a Morse key."""
    peaks: float
    """With each syllable."""


def _keyed_amps(station: StationModel) -> _KeyedAmps:
    standing_a = sum(item.standing_a for item in station.draw.loads)

    def holding(least_s: float) -> float:
        steps = [
            item.step
            if item.load.transmit_a is None or held_s(item.load.mode) >= least_s
            else Step(0.0, item.step.groups)
            for item in station.draw.loads
        ]
        return standing_a + most_together_a(steps)

    return _KeyedAmps(holding(CARRIER_S), holding(DASH_S), holding(0.0))


@rule
def battery_trips(station: StationModel, report: Report) -> Iterator[Finding]:
    """A battery management that cuts off under the station's own transmit current."""
    bank = station.design.store.bank
    if bank is None:
        return
    kind = kind_of(bank.chemistry)
    limit = bank.limits.max_discharge_a
    if limit is None and kind.is_lead:
        return
    steady = limit.value * bank.parallel if limit else kind.discharge_share_max * _label_ah(bank)
    burst = (
        bank.limits.peak_discharge_a.value * bank.parallel
        if bank.limits.peak_discharge_a
        else steady
    )
    amps, stated = _keyed_amps(station), bank.limits.peak_discharge_a is not None
    if amps.carriers > steady:
        yield Finding(
            id="store.trips",
            severity="stop",
            step="store",
            sentence=(
                f"Long transmissions draw {amps.carriers:.0f} A; the battery allows {steady:.0f} A"
            ),
            why=("Its electronics cut off while you transmit, and the whole station loses power."),
            pointer="/store/bank/limits/max_discharge_a",
        )
    elif amps.dashes > burst:
        yield Finding(
            id="store.trips",
            severity="stop" if stated else "fix",
            step="store",
            sentence=(f"Morse dashes draw {amps.dashes:.0f} A; the battery allows {burst:.0f} A")
            + (" for moments" if stated else ""),
            why="The current flows through every dash, and for seconds while you tune: long enough "
            "for the battery's electronics to cut off."
            + ("" if stated else " Look up the peak rating and its time."),
            pointer="/store/bank/limits/peak_discharge_a",
        )
    elif amps.peaks > burst:
        yield Finding(
            id="store.trips",
            severity="fix",
            step="store",
            sentence=(
                f"Voice peaks reach {amps.peaks:.0f} A; the battery allows {burst:.0f} A for a "
                "moment"
            ),
            why="The battery's electronics may cut off on a peak, although average speech draws "
            "far less. Look up the peak rating and how long it may last.",
            pointer="/store/bank/limits/peak_discharge_a",
        )
