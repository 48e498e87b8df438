"""What the log says over time: power-up, the exponent of two tests, a bank that is never full,
meters apart, the plan's band."""

from datetime import date
from functools import cache

import numpy as np
import pytest

from tests.samples import harrier_ridge, packhorse, quay_street, with_bank
from yonderstat.core.log import (
    Apart,
    FigureError,
    Reach,
    exponent_meaning,
    exponent_of,
    judged_test,
    leak_of,
    notices_of,
    planned_band,
    planned_year,
    procedures_of,
)
from yonderstat.core.rehearse import HourlyStation, hourly_station
from yonderstat.core.station import StationModel
from yonderstat.core.store import peukert_hours

TODAY = date(2026, 7, 1)


def station() -> StationModel:
    return StationModel(packhorse())


def expected(of: StationModel, subject: str) -> dict[str, float]:
    """What the power-up of a load expects, as it would be typed."""
    procedure = next(item for item in procedures_of(of) if item.id == "power-up")
    found = next(item for item in procedure.subjects if item.id == subject)
    return dict(
        zip(("rest_v", "on_v", "keyed_v"), (item.value for item in found.expects), strict=True)
    )


def test_a_power_up_as_expected_is_as_planned() -> None:
    values = expected(station(), "hf-set")
    assert values["rest_v"] > values["on_v"] > values["keyed_v"]
    assert judged_test(station(), "power-up", "hf-set", values).words == (
        "As planned, from the battery to the load."
    )
    # A bank a little under full accuses no wire: what is lost counts from the posts.
    lower = {name: volts - 0.12 for name, volts in values.items()}
    assert judged_test(station(), "power-up", "hf-set", lower).words.startswith("As planned")


@pytest.mark.parametrize(
    ("bent", "words", "against"),
    [
        ({"keyed_v": -1.6}, "The voltage drop is larger than planned", "/bus/runs"),
        (
            {"rest_v": -0.6, "on_v": -0.6, "keyed_v": -0.6},
            "It isn't full or hasn't rested",
            "/store/bank/health",
        ),
        ({"keyed_v": 0.6}, "The voltage drop is smaller than planned", "/draw/loads"),
    ],
)
def test_a_power_up_names_what_is_not_as_planned(
    bent: dict[str, float], words: str, against: str
) -> None:
    values = expected(station(), "hf-set")
    found = judged_test(
        station(),
        "power-up",
        "hf-set",
        {name: v + bent.get(name, 0.0) for name, v in values.items()},
    )
    assert words in found.words
    assert found.contradicts == against


def test_a_power_up_wants_every_reading() -> None:
    with pytest.raises(FigureError, match="is missing"):
        judged_test(station(), "power-up", "hf-set", {"rest_v": 12.8, "on_v": 12.5})
    assert "no longer" in judged_test(station(), "power-up", "nothing", {"rest_v": 1.0}).words


@pytest.mark.parametrize("exponent", [1.05, 1.15, 1.25, 1.4])
def test_two_tests_give_the_exponent_back(exponent: float) -> None:
    tests = [(amps, peukert_hours(100.0, 20.0, amps, exponent)) for amps in (20.0, 8.0, 12.0)]
    assert exponent_of(tests) == pytest.approx(exponent, abs=1e-6)


@pytest.mark.parametrize(
    "tests",
    [
        [],
        [(5.0, 12.0)],
        [(5.0, 12.0), (6.0, 9.0)],
        [(5.0, 12.0), (20.0, 6.0)],
        [(5.0, 12.0), (20.0, 0.2)],
    ],
)
def test_tests_that_say_nothing_of_it_give_none(tests: list[tuple[float, float]]) -> None:
    assert exponent_of(tests) is None


def test_an_exponent_that_is_not_the_plans_is_offered() -> None:
    bank = StationModel(with_bank(packhorse(), peukert_k=1.1))
    tests = [(amps, peukert_hours(105.0, 20.0, amps, 1.25)) for amps in (6.0, 20.0)]
    found = exponent_meaning(bank, tests)
    assert found is not None
    assert found.change is not None
    assert found.change.patch[0].path == "/store/bank/peukert_k"
    assert found.change.patch[0].value == pytest.approx(1.25, abs=0.001)
    agrees = exponent_meaning(StationModel(with_bank(packhorse(), peukert_k=1.25)), tests)
    assert agrees is not None
    assert agrees.change is None
    assert "They agree" in agrees.words


FULL = Reach(days=31, most_v=14.4, most_share=None, full_v=14.4, blocks=1, is_lead=True)


@pytest.mark.parametrize(
    ("reach", "words"),
    [
        (FULL, None),
        (
            Reach(days=31, most_v=13.2, most_share=None, full_v=14.4, blocks=1, is_lead=True),
            "it reached 13.2 V, and full is 14.4 V",
        ),
        (
            Reach(days=31, most_v=14.4, most_share=0.91, full_v=14.4, blocks=1, is_lead=True),
            "it reached 91 %",
        ),
        (Reach(days=31, most_v=13.2, most_share=0.99, full_v=14.4, blocks=1, is_lead=True), None),
        (Reach(days=12, most_v=13.2, most_share=0.5, full_v=14.4, blocks=1, is_lead=True), None),
        (
            Reach(days=31, most_v=27.9, most_share=None, full_v=28.8, blocks=2, is_lead=True),
            "it reached 27.9 V",
        ),
        (Reach(days=31, most_v=28.3, most_share=None, full_v=28.8, blocks=2, is_lead=True), None),
    ],
)
def test_a_bank_that_is_never_full_is_said(reach: Reach, words: str | None) -> None:
    found = notices_of("nobody", TODAY, TODAY, (), [], reach)
    if words is None:
        assert found == ()
    else:
        assert words in found[0].words
        assert found[0].severity == "fix"


def test_two_meters_that_disagree_are_said() -> None:
    assert (
        notices_of(
            "nobody", TODAY, today=TODAY, due=(), noise=[], reach=None, apart=Apart(12.62, 12.55, 1)
        )
        == ()
    )
    (found,) = notices_of(
        "nobody", TODAY, today=TODAY, due=(), noise=[], reach=None, apart=Apart(12.62, 12.31, 1)
    )
    assert "You measured 12.62 V; the recorded meter showed 12.31 V" in found.words
    assert (
        notices_of(
            "nobody", TODAY, today=TODAY, due=(), noise=[], reach=None, apart=Apart(25.24, 25.0, 2)
        )
        == ()
    )


def test_a_bank_that_leaks_at_rest_is_said() -> None:
    stored = station()
    month_h = 30 * 24.0
    much = leak_of(stored, 12.75, 12.25, month_h)
    assert much is not None
    assert much.month_share > 3 * much.usual_share > 0
    (found,) = notices_of(
        "nobody", TODAY, today=TODAY, due=(), noise=[], reach=None, apart=None, leak=much
    )
    assert found.severity == "fix"
    assert "% a month" in found.words
    little = leak_of(stored, 12.75, 12.74, month_h)
    assert (
        notices_of(
            "nobody", TODAY, today=TODAY, due=(), noise=[], reach=None, apart=None, leak=little
        )
        == ()
    )
    short = leak_of(stored, 12.75, 12.25, 24.0)
    assert (
        notices_of(
            "nobody", TODAY, today=TODAY, due=(), noise=[], reach=None, apart=None, leak=short
        )
        == ()
    )


@cache
def ridge() -> HourlyStation:
    found = hourly_station(StationModel(harrier_ridge()), 5)
    assert found is not None
    return found


@pytest.mark.parametrize("channel", ["volts", "charge_a", "load_a", "charge_share", "box_c"])
def test_the_plans_band_holds_the_means_of_its_years(channel: str) -> None:
    years = planned_year(ridge(), channel)
    assert years.shape == (5, 8760)
    first = np.arange(0, 8760, 24)
    band = planned_band(years, first, 24)
    daily = years.reshape(5, 365, 24).mean(axis=2)
    assert band.middle == pytest.approx(np.median(daily, axis=0))
    assert all(
        low <= middle <= high
        for low, middle, high in zip(band.low, band.middle, band.high, strict=True)
    )
    # A stretch over New Year goes on in January.
    over = planned_band(years, np.array([8750]), 20)
    whole = np.concatenate([years[:, 8750:], years[:, :10]], axis=1).mean(axis=1)
    assert over.middle[0] == pytest.approx(float(np.median(whole)))


def test_the_plans_load_is_what_draw_says() -> None:
    served = planned_year(hourly(quay_street()), "load_a").mean()
    drawn = StationModel(quay_street()).draw.by_month.mean() / 24.0
    assert served <= drawn * 1.02


def hourly(design) -> HourlyStation:  # type: ignore[no-untyped-def]
    found = hourly_station(StationModel(design), 3)
    assert found is not None
    return found
