"""What parts cost before anybody has typed a price: a band by kind and size, and what overrides it."""

from typing import Any

import pytest

from tests.samples import beech_hut, harrier_ridge, packhorse, quay_street
from yonderstat.core import Report, evaluate, propose
from yonderstat.core.data import rows, rows_by
from yonderstat.core.design import (
    Design,
    KnownRate,
    KnownShare,
    Place,
    design_from_document,
    document_of,
    with_bank,
    with_string,
)
from yonderstat.core.parts import items_of
from yonderstat.core.parts.prices import about, band_words, price_class
from yonderstat.core.purposes import all_purposes
from yonderstat.core.station import StationModel

HERE = Place(latitude_deg=47.0, longitude_deg=9.5)
KINDS = ("home", "trailer", "go_box", "vehicle", "unattended")


def band(report: Report) -> tuple[float, float]:
    low, high = report.number(report.build.sum_low), report.number(report.build.sum_high)
    assert low is not None
    assert high is not None
    return low, high


def with_brief(design: Design, **changes: Any) -> Design:
    return design.model_copy(update={"brief": design.brief.model_copy(update=changes)})


def with_part(design: Design, **part: Any) -> Design:
    document = document_of(design)
    document["build"]["parts"] = [part]
    return design_from_document(document)


@pytest.mark.parametrize("row", rows("class_prices"), ids=lambda row: row["class"])
def test_a_class_has_a_band_that_rises_with_size(row: dict[str, str]) -> None:
    usual = price_class(row["class"])
    assert 0 < usual.base[0] < usual.base[1]
    assert 0 <= usual.each[0] <= usual.each[1]
    small, large = usual.of(10.0), usual.of(100.0)
    assert small[0] <= large[0]
    assert small[1] <= large[1]


@pytest.mark.parametrize("kind", KINDS)
def test_every_part_of_a_proposal_has_a_class(kind: Any) -> None:
    for purpose in all_purposes():
        design = propose(kind, purpose.purpose, HERE)
        for item in items_of(design, StationModel(design).bus):
            assert item.price_class in rows_by("class_prices", "class"), item.name


@pytest.mark.parametrize("design", [quay_street(), harrier_ridge(), beech_hut(), packhorse()])
def test_every_design_has_a_sum_from_its_first_minute(design: Design) -> None:
    report = evaluate(design)
    low, high = band(report)
    assert 0 < low < high
    assert f"{about(low):,.0f} to {about(high):,.0f}" in report.build.takeaway
    assert "not checked" in report.build.takeaway


def test_the_sum_is_that_of_the_lines() -> None:
    report = evaluate(quay_street())
    lines = report.build.lines
    assert all(line.cost is None for line in lines)
    assert band(report) == (
        pytest.approx(sum(report.number(line.guess_low) or 0.0 for line in lines)),
        pytest.approx(sum(report.number(line.guess_high) or 0.0 for line in lines)),
    )
    battery = next(line for line in lines if line.id == "battery-main")
    # 12.8 V × 100 Ah = 1,280 Wh; 15 + 0.16 · 1,280 and 60 + 0.50 · 1,280 dollars, at 1.7 each.
    assert report.number(battery.guess_low) == pytest.approx(1.7 * (15 + 0.16 * 1280))
    assert report.number(battery.guess_high) == pytest.approx(1.7 * (60 + 0.50 * 1280))


def test_a_typed_price_takes_the_place_of_the_guess() -> None:
    priced = evaluate(with_part(quay_street(), id="battery-main", price={"value": 690.0}))
    line = next(line for line in priced.build.lines if line.id == "battery-main")
    assert line.guess_low is None
    assert priced.number(line.cost) == 690.0
    before, after = band(evaluate(quay_street())), band(priced)
    assert after[1] - after[0] < before[1] - before[0]


def test_what_is_there_is_not_bought() -> None:
    there = evaluate(with_part(quay_street(), id="battery-main", have=1.0))
    assert band(there) < band(evaluate(quay_street()))


def test_freight_and_duty_lie_on_top() -> None:
    plain = band(evaluate(quay_street()))
    sent = band(evaluate(with_brief(quay_street(), on_top=KnownShare(value=0.15))))
    assert sent == (pytest.approx(1.15 * plain[0]), pytest.approx(1.15 * plain[1]))


def test_dollars_are_not_added_to_other_money() -> None:
    """Somebody prices a battery in a currency of which nobody has said what a dollar is."""
    mixed = with_brief(
        with_part(quay_street(), id="battery-main", price={"value": 690.0}), usd_rate=None
    )
    report = evaluate(mixed)
    assert report.build.sum_low is None
    assert report.number(report.build.to_buy) == 690.0
    nameless = evaluate(with_brief(mixed, currency=""))
    # Nobody has said that his 690 are dollars.
    assert nameless.build.sum_low is None
    assert "no sum yet" in nameless.build.takeaway
    told = evaluate(with_brief(mixed, usd_rate=KnownRate(value=1.7)))
    assert told.build.sum_currency == "NZD"
    assert band(told)[0] > 690.0
    alone = evaluate(with_brief(quay_street(), usd_rate=None))
    assert alone.build.sum_currency == "US dollars"


def test_more_of_anything_never_costs_less() -> None:
    design = quay_street()
    now = band(evaluate(design))
    for more in (with_bank(design, parallel=2), with_string(design, 0, parallel=4)):
        low, high = band(evaluate(more))
        assert low > now[0]
        assert high > now[1]


@pytest.mark.parametrize(
    ("low", "high", "said"),
    [
        (690.0, 690.0, "690 NZD"),
        (1234.0, 4567.0, "about 1,200 to 4,600 NZD"),
        (9.6, 31.4, "about 10 to 31 NZD"),
    ],
)
def test_a_guess_is_said_to_two_figures(low: float, high: float, said: str) -> None:
    assert band_words(low, high, "NZD") == said
