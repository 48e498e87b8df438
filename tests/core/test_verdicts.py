"""The verdict by purpose, on stations small enough to work out by hand."""

import pytest

from tests.samples import ah, harrier_ridge, load, quay_street, with_bank, with_loads, with_string
from yonderstat.core import Report, evaluate, propose
from yonderstat.core.calendar import months_in_words
from yonderstat.core.design import (
    Alternator,
    Array,
    Bank,
    Brief,
    Design,
    KnownAmps,
    KnownDays,
    KnownHours,
    KnownPrice,
    KnownUsableShare,
    Place,
    Store,
)

FULL_DEPTH = KnownUsableShare(value=1.0)


def value(report: Report, key: str | None) -> float:
    assert key
    return report.working[key].number


def station(**brief: object) -> Design:
    """1 A round the clock on a 24 A·h lithium bank at 25 °C, all of it usable: one day without
    sun."""
    bank = Bank(chemistry="lifepo4", unit_ah=ah(24), depth=FULL_DEPTH)
    design = Design(brief=Brief.model_validate(brief), store=Store(bank=bank))
    return with_bank(with_loads(design, load("set", 1.0)), cold_c={"value": 25.0})


def warm(design: Design) -> Design:
    from yonderstat.core.design import KnownCelsius

    return with_bank(design, cold_c=KnownCelsius(value=25.0))


def test_one_day_by_hand() -> None:
    """24 A·h at 1 A is 24 h."""
    report = evaluate(warm(station(purpose="standby")))
    assert report.store
    assert value(report, report.store.hours_without_sun) == pytest.approx(24.0)


def test_standby_falls_short_and_says_by_how_much() -> None:
    report = evaluate(warm(station(purpose="standby", asked_days=KnownDays(value=3.0))))
    assert report.verdict.state == "short"
    assert "3 days without mains" in report.verdict.headline
    assert [value(report, item.key) for item in report.verdict.figures] == pytest.approx(
        [0.0, 24.0]
    )
    assert [value(report, cell.share) for cell in report.verdict.months] == [0.0] * 12
    assert [value(report, cell.mean) for cell in report.verdict.months] == pytest.approx(
        [1 / 3] * 12
    )


def test_near_balance_is_on_the_edge() -> None:
    report = evaluate(warm(station(purpose="standby", asked_days=KnownDays(value=1.0))))
    assert report.verdict.state == "edge"
    assert report.verdict.headline.startswith("On the edge")


def test_deployment_says_what_comes_home() -> None:
    design = propose("trailer", "deployment", Place(latitude_deg=-44.0, longitude_deg=171.0))
    report = evaluate(design)
    assert report.verdict.state == "good"
    home = next(
        item for item in report.verdict.figures if item.label == "Left in the battery at the end"
    )
    assert value(report, home.key) > 0


def test_continuous_names_the_dark_months_and_the_weakest_link() -> None:
    """Harrier Ridge with MPPT and steeper panels: winter falls short even if sun and draw were
    guessed too harshly."""
    design = with_string(harrier_ridge(), controller="mppt", tilt_deg=65.0)
    report = evaluate(design)
    assert report.verdict.hard_month == 6
    assert report.verdict.headline == "Loses power in June."
    assert report.verdict.weakest == "array"


def test_continuous_good() -> None:
    design = with_bank(
        with_string(harrier_ridge(), controller="mppt", tilt_deg=65.0, parallel=5), parallel=5
    )
    report = evaluate(design)
    assert report.verdict.state == "good"
    assert report.verdict.headline == "Stays up all year."


def test_mobile_counts_the_engine_by_hand() -> None:
    """20 A for 2 h is 40 A·h; lithium keeps 98 %: 39.2; less 24 drawn leaves 15.2 a day."""
    engine = Alternator(charge_a=KnownAmps(value=20.0), driving_h_per_day=KnownHours(value=2.0))
    design = warm(station(purpose="mobile")).model_copy(update={"array": Array(alternator=engine)})
    report = evaluate(design)
    assert value(report, report.verdict.figure) == pytest.approx(15.2)
    assert "+15" in report.verdict.headline


def test_mobile_that_loses_says_when_it_goes_dark() -> None:
    """Nothing comes in: 24 A·h a day lost, loses power after 24 hours."""
    report = evaluate(warm(station(purpose="mobile")))
    assert report.verdict.headline.startswith("Loses 24 Ah a day")
    assert "loses power after 24 hours" in report.verdict.rest


def test_everyday_counts_energy_and_money() -> None:
    place = Place(latitude_deg=-44.0, longitude_deg=171.0)
    brief = Brief(purpose="everyday", price_per_kwh=KnownPrice(value=0.5), currency="NZD")
    design = propose("home", "everyday", place).model_copy(update={"brief": brief})
    report = evaluate(design)
    money = report.working["verdict.carried_money"].number
    assert money == pytest.approx(0.5 * report.working["rehearse.carried_kwh"].number)
    saved = next(item for item in report.verdict.figures if item.label == "Saved per year")
    assert (value(report, saved.key), saved.beside) == (pytest.approx(money), "NZD")


@pytest.mark.parametrize(
    ("design", "words"),
    [
        (Design(), "Nothing to power yet."),
        (with_loads(Design(), load("set", 0.0)), "Nothing uses power."),
        (with_loads(Design(), load("set", 1.0)), "No battery yet."),
        (harrier_ridge().model_copy(update={"place": None}), "No sun figures for this site."),
    ],
)
def test_what_is_missing_is_said(design: Design, words: str) -> None:
    report = evaluate(design)
    assert report.verdict.headline == words
    assert report.verdict.state == "unknown"


def test_months_out_of_use_are_not_judged() -> None:
    design = harrier_ridge()
    summer = design.model_copy(
        update={"brief": design.brief.model_copy(update={"months": [1, 2, 12]})}
    )
    report = evaluate(summer)
    assert [cell.month for cell in report.verdict.months if cell.share] == [1, 2, 12]
    assert report.verdict.hard_month in {1, 2, 12}


@pytest.mark.parametrize(
    ("months", "words"),
    [
        ([6], "June"),
        ([6, 7], "June and July"),
        ([5, 6, 7, 8], "May to August"),
        ([1, 2, 11, 12], "November to February"),
        ([3, 6, 7, 8], "March and June to August"),
        ([5, 6, 7, 8, 11, 12], "May to August, November and December"),
        (list(range(1, 13)), "every month"),
        ([month for month in range(1, 13) if month != 3], "every month but March"),
    ],
)
def test_months_in_words(months: list[int], words: str) -> None:
    assert months_in_words(months) == words


def test_longest_night_by_hand() -> None:
    """1 A through the June night at the equator is 12 A·h, half of 24."""
    design = warm(station(purpose="continuous")).model_copy(
        update={"place": Place(latitude_deg=0.0, longitude_deg=37.0)}
    )
    report = evaluate(design)
    assert report.night
    assert value(report, report.night.draw_ah) == pytest.approx(12.0)
    assert value(report, report.night.share) == pytest.approx(0.5)


def test_quay_street_is_too_small_for_three_days() -> None:
    report = evaluate(quay_street())
    assert report.verdict.state == "short"
    assert report.store
    assert 0.9 < value(report, report.store.days_without_sun) < 1.2


@pytest.mark.parametrize("purpose", ["continuous", "standby", "deployment", "everyday", "mobile"])
def test_a_verdict_is_a_headline_a_short_line_and_figures(purpose: str) -> None:
    """It was a paragraph of brackets. Every number of it can be asked why."""
    report = evaluate(propose("home", purpose, Place(latitude_deg=51.5, longitude_deg=-0.1)))  # type: ignore[arg-type]
    verdict = report.verdict
    assert "(" not in verdict.headline + verdict.rest
    assert len(verdict.rest) < 110
    assert 2 <= len(verdict.figures) <= 5
    for figure in verdict.figures:
        assert figure.key in report.working
        assert (figure.low is None) == (figure.high is None)


def test_a_verdict_on_guesses_alone_says_so_until_one_figure_is_somebodys() -> None:
    place = Place(latitude_deg=-44.0, longitude_deg=171.0)
    proposed = propose("home", "standby", place)
    assert "All figures are our guesses" in evaluate(proposed).verdict.judged_on
    first = proposed.draw.loads[0]
    said = first.model_copy(
        update={"receive_a": first.receive_a.model_copy(update={"basis": "stated"})}
    )
    own = with_loads(proposed, said, *proposed.draw.loads[1:])
    assert "All figures are our guesses" not in evaluate(own).verdict.judged_on
