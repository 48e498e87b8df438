"""The verdict in words, by purpose."""

from dataclasses import dataclass

from ..array import ArrayReport
from ..design import Design, Purpose
from ..draw import MONTH_NAMES, DrawReport
from ..store import StoreReport
from ..sun.geometry import DAYS_IN_MONTH
from ..working import Key, Quantity, Workings, given, used
from .months import EDGE, carried_days, months_in_words, short_months
from .report import MonthCell, Sentence, State


@dataclass(frozen=True, slots=True)
class Case:
    """What there is to say something about."""

    design: Design
    month: int
    cells: tuple[MonthCell, ...]
    draw: DrawReport
    store: StoreReport | None
    array: ArrayReport
    asked: Quantity
    workings: Workings

    def figure(self, key: Key) -> Quantity:
        """A quantity by key."""
        return self.workings[key]

    def number(self, key: Key) -> float:
        """The value of a quantity that is known to have one."""
        return self.figure(key).number

    @property
    def shares(self) -> dict[int, float]:
        """The strip's shares by month."""
        return {cell.month: self.number(cell.share) for cell in self.cells if cell.share}

    @property
    def month_name(self) -> str:
        """The hard month by name."""
        return MONTH_NAMES[self.month - 1]

    @property
    def cover(self) -> float:
        """Kept over drawn in the hard month, not capped."""
        return self.number(self.array.stored_ah[self.month - 1]) / self.number(self.draw.daily_ah)


def spell_matters(purpose: Purpose) -> bool:
    """Whether the purpose asks about a spell from a full bank rather than about every day of the year."""
    return purpose in {"standby", "deployment"}


def days_in_words(days: float) -> str:
    """A stretch of time as people say it: “41 hours”, “5.2 days”."""
    if days < 3:
        hours = days * 24
        return f"{hours:.0f} hours" if hours >= 1.5 else f"{hours * 60:.0f} minutes"
    return f"{days:.1f} days" if days < 20 else f"{days:.0f} days"


def _asked(case: Case) -> str:
    days = case.asked.number
    return "the day" if days == 1 else f"the {days:g} days"


def _missing(case: Case) -> Sentence | None:
    if not case.design.draw.loads:
        return Sentence("Nothing to power yet.", "Add the first load in Draw.", "unknown")
    if case.number(case.draw.daily_ah) <= 0:
        return Sentence("Nothing draws current.", "Every load is at nought amps or nought hours.", "unknown")
    if case.store is None:
        return Sentence("No battery yet.", "Choose a bank in Store.", "unknown")
    if case.array.stored_ah or spell_matters(case.design.brief.purpose):
        return None
    place = case.design.place
    reason = "say where the station is in Brief." if place is None else "there is no sun data near it: see Sun."
    lasts = days_in_words(case.number(case.store.days_without_sun))
    return Sentence("The sun is not known here:", f"{reason} Without sun it lasts {lasts}.", "unknown")


def _without_sun(case: Case) -> str:
    assert case.store is not None
    return days_in_words(case.number(case.store.days_without_sun))


def _state(cover: float) -> State:
    return "good" if cover >= 1 + EDGE else "edge" if cover > 1 - EDGE else "short"


def _continuous(case: Case) -> tuple[Sentence, Key | None]:
    assert case.store is not None
    lasts = case.number(case.store.days_without_sun)
    asked = case.asked.number
    holds = f"{_without_sun(case)} without sun, {asked:g} asked."
    figure = case.store.days_without_sun
    if not case.design.array.strings:
        return Sentence("No panels yet.", f"The bank alone lasts {_without_sun(case)}.", "short"), figure
    state = _state(case.cover)
    brings = f"The array covers {case.cover:.0%} of the draw in {case.month_name}; ".replace("%", " %")
    if state == "short":
        months = months_in_words(short_months(case.shares, 1.0 - EDGE))
        return Sentence(f"Goes dark in {months}.", brings + holds, "short"), figure
    if state == "edge":
        return Sentence(f"On the edge in {case.month_name}.", brings + holds, "edge"), figure
    if lasts < asked:
        near: State = "edge" if lasts > asked * (1 - EDGE) else "short"
        return Sentence("Keeps up with the sun, but not with a long dull spell.", brings + holds, near), figure
    return Sentence("Stays up all year on average sun.", brings + holds, "good"), figure


def _spell(case: Case) -> tuple[Sentence, Key | None]:
    assert case.store is not None
    shares = case.shares
    short = short_months(shares)
    worst = min(shares, key=lambda month: (shares[month], month != case.month))
    name = MONTH_NAMES[worst - 1]
    drawn, usable = case.number(case.draw.months_ah[worst - 1]), case.number(case.store.usable_ah)
    stored = case.number(case.array.stored_ah[worst - 1]) if case.array.stored_ah else 0.0
    days = carried_days(usable, stored, drawn)
    standby = case.design.brief.purpose == "standby"
    verb = "without mains" if standby else "away"
    share = days / case.asked.number
    state = _state(share)
    dark = f"{_without_sun(case)} with no sun at all"
    sunny = (
        f"on {name}’s mean sun it never runs out"
        if days == float("inf")
        else f"{days_in_words(days)} on {name}’s mean sun"
    )
    rest = f"{dark}; {sunny}." if case.array.strings and case.array.stored_ah else f"{dark}."
    rest = rest[0].upper() + rest[1:]
    if not standby and case.array.stored_ah:
        left = usable - case.asked.number * (drawn - stored)
        rest += (
            f" In {name} it comes home with {min(left, usable):.0f} A·h." if left >= 0 else f" {-left:.0f} A·h short."
        )
    figure = case.store.hours_without_sun
    if state == "edge":
        when = f" in {name}" if case.array.stored_ah else ""
        return Sentence(f"On the edge for {_asked(case)} {verb}{when}.", rest, "edge"), figure
    if short:
        when = f" in {months_in_words(short)}"
        return Sentence(f"Falls short of {_asked(case)} {verb}{when}.", rest, "short"), figure
    return Sentence(f"Carries {_asked(case)} {verb}.", rest, "good"), figure


def _everyday(case: Case) -> tuple[Sentence, Key | None]:
    carried = used_kwh = 0.0
    volts = case.number(case.draw.bus_v)
    inputs = []
    for month in case.design.brief.months:
        drawn = case.figure(case.draw.months_ah[month - 1])
        stored = case.figure(case.array.stored_ah[month - 1])
        days = float(DAYS_IN_MONTH[month - 1])
        carried += min(stored.number, drawn.number) * volts * days / 1000
        used_kwh += drawn.number * volts * days / 1000
        inputs += [used("Q_s", stored), used("Q", drawn)]
    year = case.workings.add(
        "verdict.carried_kwh",
        carried,
        "kW·h",
        "Carried by the sun a year",
        "E = Σ days · min(Q_s, Q) · V",
        "each month's draw as far as the sun covers it, in the months in use",
        [*inputs, used("V", case.figure(case.draw.bus_v))],
        "arithmetic",
    )
    share = carried / used_kwh if used_kwh else 0.0
    rest = f"{carried:.0f} of {used_kwh:.0f} kW·h a year; {MONTH_NAMES[case.month - 1]} is the lean month."
    price = case.design.brief.price_per_kwh
    if price:
        money = case.workings.add(
            "verdict.carried_money",
            carried * price.value,
            "money",
            "Saved a year",
            "M = E · c",
            "energy carried times the price of mains",
            [used("E", year), given("c", "price of a kW·h", price, "money", "/brief/price_per_kwh")],
            "arithmetic",
        )
        rest += f" At your price, {money.number:.0f} {case.design.brief.currency} a year.".replace("  ", " ")
    headline = f"The sun carries {share:.0%} of the use.".replace("%", " %")
    return Sentence(headline, rest, "good" if share >= 0.8 else "edge" if share >= 0.4 else "short"), year.key


def _mobile(case: Case) -> tuple[Sentence, Key | None]:
    assert case.store is not None
    stored = case.figure(case.array.stored_ah[case.month - 1])
    drawn = case.figure(case.draw.daily_ah)
    net = case.workings.add(
        "verdict.net_ah",
        stored.number - drawn.number,
        "A·h",
        f"Net a day, {case.month_name}",
        "Q = Q_s − Q_out",
        "kept by the bank from roof and engine, less what is drawn",
        [used("Q_s", stored), used("Q_out", drawn)],
        "arithmetic",
    )
    parked = f"Parked without sun: {_without_sun(case)}."
    state = _state(case.cover)
    if state == "edge":
        return Sentence(f"On the edge: {net.number:+.1f} A·h a day in {case.month_name}.", parked, state), net.key
    if state == "good":
        return Sentence(f"Keeps up: {net.number:+.0f} A·h a day in {case.month_name}.", parked, state), net.key
    days = carried_days(case.number(case.store.usable_ah), stored.number, drawn.number)
    dark = f" As driven, dark after {days_in_words(days)}."
    return Sentence(f"Loses {-net.number:.0f} A·h a day in {case.month_name}.", parked + dark, "short"), net.key


def sentence_for(case: Case) -> tuple[Sentence, Key | None]:
    """The verdict sentence and the figure the purpose asks for."""
    missing = _missing(case)
    if missing:
        return missing, case.store.days_without_sun if case.store else None
    if spell_matters(case.design.brief.purpose):
        return _spell(case)
    if case.design.brief.purpose == "everyday":
        return _everyday(case)
    return _mobile(case) if case.design.brief.purpose == "mobile" else _continuous(case)
