"""The verdict in words, by purpose."""

from dataclasses import dataclass

from ..array import ArrayReport
from ..calendar import MONTH_NAMES, when_in_words
from ..design import Design
from ..draw import (
    DrawReport,
)
from ..purposes import purpose_of
from ..rehearse import Reliability
from ..store import StoreReport
from ..words import days_in_words, percent
from ..working import Key, Quantity, Workings, given, used
from .months import (
    carried_days,
)
from .report import MonthCell, Sentence


@dataclass(frozen=True, slots=True)
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
    return "the day" if days == 1 else f"the {days:g} days"


def _missing(case: Case) -> Sentence | None:
    if not case.design.draw.loads:
        return Sentence("Nothing to power yet.", "Add the first load in Draw.", "unknown")
    if case.number(case.draw.daily_ah) <= 0:
        return Sentence("Nothing draws current.", "Every load is at zero amps or zero hours.", "unknown")
    if case.store is None:
        return Sentence("No battery yet.", "Choose a bank in Store.", "unknown")
    if case.rehearsed is not None:
        return None
    place = case.design.place
    reason = "say where the station is in Brief." if place is None else "there is no sun data near it: see Sun."
    lasts = days_in_words(case.number(case.store.days_without_sun))
    return Sentence("The sun is not known here:", f"{reason} Without sun it lasts {lasts}.", "unknown")


def _without_sun(case: Case) -> str:
    assert case.store is not None
    return days_in_words(case.number(case.store.days_without_sun))


def band(case: Case) -> str:
    """The figure's range as sun and draw are guessed: “97 to 99.6 %”."""
    low, high = (percent(case.number(key)) for key in (case.judged.low, case.judged.high))
    return f"{low.removesuffix(' %')} to {high}"


def _guessed(case: Case) -> str:
    low, high = (percent(case.number(key)) for key in (case.judged.low, case.judged.high))
    return "however sun and draw are guessed" if low == high else f"{band(case)} as sun and draw are guessed"


def _dark_words(case: Case) -> str:
    """How long it is dark: the worst spell with its date and its weather."""
    judged = case.judged
    assert judged.dark_h is not None
    assert judged.dark is not None
    spell = judged.dark.longest
    if spell is None:
        return f"No vital hour dark in {judged.years} weather years"
    sun = f", after days with {spell.sun_share:.0%} of the usual sun".replace("%", " %") if spell.sun_share else ""
    return f"{case.number(judged.dark_h):.0f} dark hours a year, the longest spell {spell.words}{sun}"


def _without_sun_asked(case: Case) -> str:
    """Days beside days: hours beside them would have to be turned over in the head."""
    assert case.store is not None
    days = case.number(case.store.days_without_sun)
    return f"Lasts {days:.1f} days without sun, {case.asked.number:g} asked."


def _continuous(case: Case) -> tuple[Sentence, Key | None]:
    assert case.store is not None
    figure, judged = case.store.days_without_sun, case.judged
    if not case.design.array.strings and not judged.backup:
        return Sentence("No panels yet.", f"The bank alone lasts {_without_sun(case)}.", "short"), figure
    holds = _without_sun_asked(case)
    served = f"{percent(case.number(judged.share))} of vital hours served"
    if judged.state == "good":
        but = "" if judged.dark is None or judged.dark.longest is None else " but for some hours"
        return Sentence(f"Stays up all year{but}.", f"{_dark_words(case)}. {holds}", "good"), figure
    rest = f"{served} ({_guessed(case)}); {_dark_words(case)}. {holds}"
    if judged.state == "edge":
        return Sentence(f"On the edge {case.when('edge', 'short')}.", rest, "edge"), figure
    dark = "Dark before dawn" if judged.dark and judged.dark.kind == "before_dawn" else "Goes dark"
    return Sentence(f"{dark} {case.when('short')}.", rest, "short"), figure


def _recharge_words(case: Case) -> str:
    """How soon the mains make it full again: the quickest charger that is there."""
    known = case.workings.as_dict()
    found = [known.get(f"array.charger.{charger.id}.hours") for charger in case.design.array.chargers]
    hours = [item.value for item in found if item is not None and item.value is not None]
    return f" Full again {min(hours):.0f} hours after the mains return." if hours else ""


def _spell(case: Case) -> tuple[Sentence, Key | None]:
    assert case.store is not None
    judged, figure = case.judged, case.store.hours_without_sun
    kind = purpose_of(case.design.brief.purpose)
    standby, verb = kind.mains_normally, kind.spell
    chance = percent(case.number(judged.share))
    rest = f"{_without_sun(case)} with no sun at all. "
    rest = rest[0].upper() + rest[1:]
    if judged.state == "good":
        every = case.number(judged.share) >= 1.0
        starts = "Every start" if every else f"{chance} of starts or more"
        comes = "comes" if every else "come"
        told = f"{starts} in {judged.years} weather years {comes} through ({_guessed(case)})."
    else:
        told = f"In the worst month {chance} of starts come through ({_guessed(case)})."
    if not standby and judged.left_ah and case.number(judged.left_ah) > 0:
        told += f" It comes home with {case.number(judged.left_ah):.0f} A·h."
    if standby:
        told += _recharge_words(case)
    months = case.when("short")
    if judged.state == "good":
        return Sentence(f"Carries {_asked(case)} {verb}.", rest + told, "good"), figure
    if judged.state == "edge":
        when = f" {case.when('edge', 'short')}" if case.array.stored_ah else ""
        return Sentence(f"On the edge for {_asked(case)} {verb}{when}.", rest + told, "edge"), figure
    return Sentence(f"Falls short of {_asked(case)} {verb} {months}.", rest + told, "short"), figure


def _paid_back(case: Case, saved: Quantity) -> str:
    """Years until what was paid is saved; nothing where no price is given."""
    bank = case.design.store.bank
    prices = [string.regulator.price for string in case.design.array.strings if string.regulator.price]
    inputs = [given("c", "controller", price, "money", "/array/strings") for price in prices]
    total = sum(price.value for price in prices)
    if bank and bank.unit_price:
        total += bank.unit_price.value * bank.series * bank.parallel
        inputs.append(given("b", "one battery", bank.unit_price, "money", "/store/bank/unit_price"))
    if total <= 0 or saved.number <= 0:
        return ""
    years = case.workings.add(
        "verdict.payback_years",
        total / saved.number,
        "years",
        "Years to pay back",
        "t = Σ c / M",
        "the prices that are known over what is saved in a year; panels and wire without a price are left out",
        [*inputs, used("M", saved)],
        "arithmetic",
    )
    return f" What has a price is paid back in {years.number:.0f} years."


def _everyday(case: Case) -> tuple[Sentence, Key | None]:
    judged = case.judged
    assert judged.carried_kwh is not None
    assert judged.used_kwh is not None
    carried, used_kwh = case.figure(judged.carried_kwh), case.number(judged.used_kwh)
    rest = (
        f"{carried.number:.0f} of {used_kwh:.0f} kW·h a year ({_guessed(case)}); {case.month_name} is the lean month."
    )
    if judged.backed_kwh:
        rest += f" {judged.backup} tops up {case.number(judged.backed_kwh):.0f} kW·h."
    price = case.design.brief.price_per_kwh
    if price:
        money = case.workings.add(
            "verdict.carried_money",
            carried.number * price.value,
            "money",
            "Saved a year",
            "M = E · c",
            "energy carried times the price of mains",
            [used("E", carried), given("c", "price of a kW·h", price, "money", "/brief/price_per_kwh")],
            "arithmetic",
        )
        rest += f" At your price, {money.number:.0f} {case.design.brief.currency} a year.".replace("  ", " ")
        rest += _paid_back(case, money)
    headline = f"The sun carries {percent(case.number(judged.share))} of the use."
    return Sentence(headline, rest, judged.state), judged.carried_kwh


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
    judged = case.judged
    served = f"{percent(case.number(judged.share))} of vital hours served ({_guessed(case)})."
    parked = f"{served} Parked without sun: {_without_sun(case)}."
    if judged.state == "edge":
        return Sentence(f"On the edge: {net.number:+.1f} A·h a day in {case.month_name}.", parked, "edge"), net.key
    if judged.state == "good":
        word = "Keeps up" if net.number >= 0 else "Vital service holds"
        return Sentence(f"{word}: {net.number:+.0f} A·h a day in {case.month_name}.", parked, "good"), net.key
    if net.number >= 0:
        return Sentence(f"Goes dark {case.when('short', 'edge')}.", parked, "short"), net.key
    days = carried_days(case.number(case.store.usable_ah), stored.number, drawn.number)
    how = "As driven" if case.design.array.alternator else "With mean sun"
    dark = f" {how}, dark after {days_in_words(days)}."
    return Sentence(f"Loses {-net.number:.0f} A·h a day in {case.month_name}.", parked + dark, "short"), net.key


def sentence_for(case: Case) -> tuple[Sentence, Key | None]:
    """The verdict sentence and the figure the purpose asks for."""
    missing = _missing(case)
    if missing:
        return missing, case.store.days_without_sun if case.store else None
    kind = purpose_of(case.design.brief.purpose)
    if kind.judged_by == "service":
        return _continuous(case) if kind.all_year else _mobile(case)
    return _spell(case) if kind.is_spell else _everyday(case)
