"""The verdict in words, by purpose."""

from dataclasses import dataclass, field

from ..array import ArrayReport
from ..calendar import MONTH_NAMES, when_in_words
from ..claim import Claim, ClaimKind
from ..design import Design
from ..draw import (
    DrawReport,
)
from ..purposes import purpose_of
from ..rehearse import Reliability
from ..store import StoreReport
from ..words import counted, days_in_words, hours_in_words, percent, signed
from ..working import Key, Quantity, Workings, given, used
from .months import (
    carried_days,
)
from .report import MonthCell, Sentence, VerdictFigure

HOURS_A_YEAR = 8760


@dataclass(frozen=True, slots=True, kw_only=True)
class Case:
    """What there is to say something about."""

    design: Design
    month: int
    cells: tuple[MonthCell, ...]
    draw: DrawReport
    store: StoreReport | None
    array: ArrayReport
    rehearsed: Reliability | None
    asked: Quantity
    workings: Workings
    claims: list[Claim] = field(default_factory=list)
    """What the words assert, as they are made."""

    def say(self, kind: ClaimKind, value: float, unit: str = "", of: str = "vital") -> float:
        """A figure that goes into the words, noted down as what they assert; once."""
        claim = Claim(kind=kind, of=of, value=value, unit=unit)
        if claim not in self.claims:
            self.claims.append(claim)
        return value

    def figure(self, key: Key) -> Quantity:
        """A quantity by key."""
        return self.workings[key]

    def number(self, key: Key) -> float:
        """The value of a quantity that is known to have one."""
        return self.figure(key).number

    @property
    def judged(self) -> Reliability:
        """What the weather years say, where the caller knows they were run."""
        assert self.rehearsed is not None
        return self.rehearsed

    def when(self, *states: str) -> str:
        """When the months are in such a state, in words."""
        chosen = [cell.month for cell in self.cells if cell.state in states]
        return when_in_words(chosen) if chosen else "in no month"

    @property
    def month_name(self) -> str:
        """The hard month by name."""
        return MONTH_NAMES[self.month - 1]


def _asked(case: Case) -> str:
    days = case.asked.number
    return "the day" if days == 1 else f"the {counted(days, 'day', 2)}"


def _missing(case: Case) -> Sentence | None:
    if not case.design.draw.loads:
        return Sentence("Nothing to power yet.", "Add the first load in Loads.", "unknown")
    if case.number(case.draw.daily_ah) <= 0:
        return Sentence(
            "Nothing uses power.", "Every load is set to zero amps or zero hours.", "unknown"
        )
    if case.store is None:
        return Sentence("No battery yet.", "Choose a battery in the step Battery.", "unknown")
    if case.rehearsed is not None:
        return None
    place = case.design.place
    reason = (
        "Enter the location in Brief."
        if place is None
        else "There is no sun data near this place: see Sun."
    )
    lasts = days_in_words(_lasts(case))
    return Sentence(
        "No sun figures for this site.",
        f"{reason} Without any sun the battery lasts {lasts}.",
        "unknown",
    )


def band(case: Case) -> str:
    """The figure's range as sun and draw are guessed: “97 to 99.6 %”."""
    low, high = (percent(case.number(key)) for key in (case.judged.low, case.judged.high))
    return f"{low.removesuffix(' %')} to {high}"


def _share(case: Case, label: str) -> VerdictFigure:
    """The share by which a purpose is judged, with its range where that shows in words."""
    share, low, high = case.judged.share, case.judged.low, case.judged.high
    case.say(
        "starts" if purpose_of(case.design.brief.purpose).is_spell else "served", case.number(share)
    )
    if percent(case.number(low)) == percent(case.number(high)):
        return VerdictFigure(label, share)
    return VerdictFigure(label, share, low, high)


def _lasts(case: Case) -> float:
    """Days the bank lasts with nothing coming in."""
    assert case.store is not None
    return case.say("lasts", case.number(case.store.days_without_sun), "days", str(case.month))


def _days(case: Case) -> VerdictFigure:
    assert case.store is not None
    _lasts(case)
    return VerdictFigure(
        "Days it lasts without sun",
        case.store.days_without_sun,
        beside=f"goal: {case.asked.number:g}",
    )


def _alone(case: Case) -> VerdictFigure:
    """How long it lasts with nothing coming in."""
    assert case.store is not None
    _lasts(case)
    beside = "second battery included" if case.store.carries_ah != case.store.usable_ah else ""
    return VerdictFigure("Hours it lasts without sun", case.store.hours_without_sun, beside=beside)


def _dark_words(case: Case) -> str:
    """How long it is dark: the worst spell with its date and its weather."""
    judged = case.judged
    assert judged.dark is not None
    spell = judged.dark.longest
    if spell is None:
        return f"The vital loads never lose power in {judged.years} weather years."
    if spell.hours >= HOURS_A_YEAR:
        return f"In {judged.years} weather years it is without power for a whole year or longer."
    sun = (
        f", after days with {percent(spell.sun_share)} of the usual sun for the month"
        if spell.sun_share
        else ""
    )
    case.say("dark_spell", float(spell.hours), "h")
    return f"The longest time without power is {spell.words}{sun}."


def _mute_words(case: Case) -> str:
    """That it has power and cannot transmit, where that is what fails; else nothing."""
    judged = case.judged
    mute_h = case.number(judged.mute_h) if judged.mute_h else 0.0
    dark_h = case.number(judged.dark_h) if judged.dark_h else 0.0
    if mute_h < 1.0 or mute_h <= dark_h:
        return ""
    hours = hours_in_words(case.say("mute_year", mute_h, "h"))
    return (
        f"It has power but too few volts to transmit for {hours} a year. Wiring shows "
        "where they are lost."
    )


def _wear_words(case: Case) -> str:
    """How often it goes under the planned depth."""
    judged, store = case.judged, case.store
    if judged.worn_d is None or store is None:
        return ""
    depth = percent(case.number(store.depth))
    days = counted(max(1.0, case.say("worn_days", case.number(judged.worn_d), "days")), "day")
    return (
        f"On {days} a year more than the planned {depth} is used, and that shortens the "
        "battery's life."
    )


def _only_wears(case: Case) -> bool:
    """Whether all that keeps it from good is that it goes under the planned depth."""
    judged = case.judged
    return judged.state == "edge" and {
        month for month in case.design.brief.months if judged.month_states[month - 1] == "edge"
    } == set(judged.wears)


def _continuous(case: Case) -> Sentence:
    assert case.store is not None
    judged = case.judged
    figures = [_share(case, "Time the vital loads have power")]
    if judged.dark_h:
        case.say("dark_year", case.number(judged.dark_h), "h")
        figures.append(VerdictFigure("Hours without power a year", judged.dark_h))
    if judged.mute_h and case.number(judged.mute_h) >= 0.5:
        case.say("mute_year", case.number(judged.mute_h), "h")
        figures.append(VerdictFigure("Hours with too few volts", judged.mute_h))
    figures.append(_days(case))
    if not case.design.array.strings and not judged.backup:
        return Sentence("No panels yet.", "Only the battery powers it.", "short", tuple(figures))
    told = _dark_words(case)
    if judged.state == "good":
        but = (
            "" if judged.dark is None or judged.dark.longest is None else " except for a few hours"
        )
        return Sentence(f"Stays up all year{but}.", told, "good", tuple(figures))
    mute = _mute_words(case)
    if _only_wears(case):
        when = case.when("edge")
        return Sentence(
            f"Stays up, and wears its battery {when}.", _wear_words(case), "edge", tuple(figures)
        )
    if judged.state == "edge":
        return Sentence(
            f"On the edge: may lose power {case.when('edge', 'short')}.",
            mute or told,
            "edge",
            tuple(figures),
        )
    if mute:
        return Sentence(
            f"Listens and cannot transmit {case.when('short')}.", mute, "short", tuple(figures)
        )
    nightly = judged.dark and judged.dark.kind == "before_dawn" and case.design.array.strings
    dark = "Loses power before dawn" if nightly else "Loses power"
    return Sentence(f"{dark} {case.when('short')}.", told, "short", tuple(figures))


def _recharge(case: Case) -> VerdictFigure | None:
    """How soon the mains make it full again: the quickest charger that is there."""
    found = [
        case.workings.get(f"array.charger.{charger.id}.hours")
        for charger in case.design.array.chargers
    ]
    known = [item for item in found if item is not None and item.value is not None]
    if not known:
        return None
    return VerdictFigure(
        "Hours to recharge",
        min(known, key=lambda item: item.number).key,
        beside="after the mains return",
    )


def _spell(case: Case) -> Sentence:
    judged = case.judged
    kind = purpose_of(case.design.brief.purpose)
    survives = "Outages it survives" if kind.spells == "outages" else "Trips it lasts"
    figures: list[VerdictFigure | None] = [_share(case, survives), _alone(case)]
    if kind.mains_normally:
        figures.append(_recharge(case))
    elif judged.left_ah and case.number(judged.left_ah) > 0:
        beside = "main battery only" if case.store and case.store.layers else ""
        figures.append(
            VerdictFigure("Left in the battery at the end", judged.left_ah, beside=beside)
        )
    chance = percent(case.say("starts", case.number(judged.share)))
    month = MONTH_NAMES[judged.worst_month - 1]
    if judged.state == "good" and case.number(judged.share) >= 1.0:
        told = f"It gets through every time in {judged.years} weather years."
    elif judged.state == "good":
        told = (
            f"It gets through {chance} of the time or more in {judged.years} weather years. "
            f"The worst month is {month}."
        )
    elif case.number(judged.high) <= 0.0:
        told = f"If it starts in {month}, it never gets through."
    else:
        told = f"If it starts in {month}, it gets through {chance} of the time."
    if judged.with_volts:
        told += (
            " With enough volts to transmit it would be "
            f"{percent(case.number(judged.with_volts))}: see Wiring."
        )
    shown = tuple(figure for figure in figures if figure is not None)
    verb = kind.spell
    if judged.state == "good":
        return Sentence(f"Lasts {_asked(case)} {verb}.", told, "good", shown)
    if judged.state == "edge":
        when = f" {case.when('edge', 'short')}" if case.array.stored_ah else ""
        return Sentence(
            f"On the edge: may not last {_asked(case)} {verb}{when}.", told, "edge", shown
        )
    months = case.when("short").replace("in every month", "in any month")
    return Sentence(f"Does not last {_asked(case)} {verb} {months}.", told, "short", shown)


def _paid_back(case: Case, saved: Quantity) -> VerdictFigure | None:
    """Years until what was paid is saved; nothing where no price is given."""
    bank = case.design.store.bank
    prices = [
        string.regulator.price for string in case.design.array.strings if string.regulator.price
    ]
    inputs = [given("c", "controller", price, "money", "/array/strings") for price in prices]
    total = sum(price.value for price in prices)
    if bank and bank.unit_price:
        total += bank.unit_price.value * bank.series * bank.parallel
        inputs.append(given("b", "one battery", bank.unit_price, "money", "/store/bank/unit_price"))
    if total <= 0 or saved.number <= 0:
        return None
    years = case.workings.add(
        "verdict.payback_years",
        total / saved.number,
        "years",
        label="Years to pay back",
        formula="t = Σ c / M",
        words=(
            "the known prices divided by what is saved in a year; panels and wire without a "
            "price are left out"
        ),
        inputs=[*inputs, used("M", saved)],
        source="arithmetic",
    )
    return VerdictFigure("Pays for itself in", years.key, beside="counting only parts with a price")


def _money(case: Case, carried: Quantity) -> list[VerdictFigure]:
    price = case.design.brief.price_per_kwh
    if not price:
        return []
    money = case.workings.add(
        "verdict.carried_money",
        carried.number * price.value,
        "money",
        label="Saved per year",
        formula="M = E · c",
        words="energy from the sun times the mains price",
        inputs=[
            used("E", carried),
            given("c", "price of a kW·h", price, "money", "/brief/price_per_kwh"),
        ],
        source="arithmetic",
    )
    paid = _paid_back(case, money)
    return [
        VerdictFigure("Saved per year", money.key, beside=case.design.brief.currency),
        *([paid] if paid else []),
    ]


def _carriers(case: Case) -> str:
    """What carries the use of a station that mains may stand behind."""
    array = case.design.array
    if not array.alternator:
        return "The sun supplies"
    return "Sun and engine supply" if array.strings else "The engine supplies"


def _everyday(case: Case) -> Sentence:
    judged = case.judged
    assert judged.carried_kwh is not None
    assert judged.used_kwh is not None
    array = case.design.array
    if not (array.strings or array.alternator):
        told = (
            f"All it uses comes from {judged.backup}."
            if judged.backup
            else "Only the battery powers it."
        )
        return Sentence(
            "No panels yet.", told, "short", (VerdictFigure("Used per year", judged.used_kwh),)
        )
    figures = [
        VerdictFigure(
            "From the sun, per year" if array.strings else "Supplied per year", judged.carried_kwh
        ),
        VerdictFigure("Used per year", judged.used_kwh),
    ]
    if judged.backed_kwh:
        figures.append(VerdictFigure(f"From {judged.backup}", judged.backed_kwh))
    figures += _money(case, case.figure(judged.carried_kwh))
    low, high = (percent(case.number(key)) for key in (judged.low, judged.high))
    told = f"{case.month_name} is the worst month" + (
        "."
        if low == high
        else f"; {band(case)} over the year, depending on our sun and load guesses."
    )
    share = percent(case.say("sun_part", case.number(judged.share), of="all"))
    return Sentence(
        f"{_carriers(case)} {share} of what you use.", told, judged.state, tuple(figures)
    )


def _mobile(case: Case) -> tuple[Sentence, Key]:
    assert case.store is not None
    stored = case.figure(case.array.stored_ah[case.month - 1])
    drawn = case.figure(case.draw.daily_ah)
    net = case.workings.add(
        "verdict.net_ah",
        stored.number - drawn.number,
        "A·h",
        label=f"Net per day, {case.month_name}",
        formula="Q = Q_s − Q_out",
        words="what roof and engine charge into the battery, minus what you use",
        inputs=[used("Q_s", stored), used("Q_out", drawn)],
        source="arithmetic",
    )
    judged, name = case.judged, case.month_name
    figures = (
        VerdictFigure(f"Net per day, {name}", net.key),
        _share(case, "Time the vital loads have power"),
        _alone(case),
    )
    months = case.when("edge", "short")
    if _only_wears(case):
        head = f"Stays up, and wears its battery: {signed(net.number)} Ah a day in {name}."
        return Sentence(head, _wear_words(case), "edge", figures), net.key
    if judged.state == "edge":
        told = f"The vital loads may lose power {months}."
        return Sentence(
            f"On the edge: {signed(net.number)} Ah a day in {name}.", told, "edge", figures
        ), net.key
    if judged.state == "good":
        word = "Keeps up" if net.number >= 0 else "Vital loads stay powered"
        return Sentence(
            f"{word}: {signed(net.number)} Ah a day in {name}.", _dark_words(case), "good", figures
        ), net.key
    mute = _mute_words(case)
    if mute:
        return Sentence(f"Listens and cannot transmit {months}.", mute, "short", figures), net.key
    if net.number >= 0:
        return Sentence(f"Loses power {months}.", _dark_words(case), "short", figures), net.key
    days = carried_days(case.number(case.store.usable_ah), stored.number, drawn.number)
    array = case.design.array
    how = (
        "With the driving you entered"
        if array.alternator
        else "In average sun"
        if array.strings
        else "With what it has"
    )
    told = f"{how}, it loses power after {days_in_words(days)}."
    return Sentence(f"Loses {-net.number:.0f} Ah a day in {name}.", told, "short", figures), net.key


def sentence_for(case: Case) -> tuple[Sentence, Key | None]:
    """The verdict sentence and the figure the purpose asks for."""
    missing = _missing(case)
    if missing:
        return missing, case.store.days_without_sun if case.store else None
    kind, judged = purpose_of(case.design.brief.purpose), case.judged
    if kind.judged_by == "service" and not kind.all_year:
        return _mobile(case)
    assert case.store is not None
    if kind.judged_by == "service":
        return _continuous(case), case.store.days_without_sun
    return (
        (_spell(case), case.store.hours_without_sun)
        if kind.is_spell
        else (_everyday(case), judged.carried_kwh)
    )
