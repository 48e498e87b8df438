"""Figures as people say them: never more exact than they are, never rounded across a border that
matters."""

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from yonderstat.core import evaluate, propose
from yonderstat.core.design import Place, Purpose
from yonderstat.core.words import (
    celsius,
    days_in_words,
    hours_in_words,
    percent,
    plain,
    times_in_words,
)


@pytest.mark.parametrize(
    ("degrees_c", "words"),
    [(20.6, "21 °C"), (-9.72281, "−10 °C"), (-0.3, "0 °C"), (0.0, "0 °C"), (-40.0, "−40 °C")],
)
def test_a_temperature(degrees_c: float, words: str) -> None:
    assert plain(celsius(degrees_c)) == words


@pytest.mark.parametrize(
    ("days", "words"),
    [(0.01, "14 minutes"), (0.5, "12 hours"), (5.24, "5.2 days"), (33.4, "33 days")],
)
def test_a_stretch_of_time(days: float, words: str) -> None:
    assert days_in_words(days) == words


@pytest.mark.parametrize(
    ("hours", "words"),
    [(0.0, "0 hours"), (0.3, "less than an hour"), (1.2, "1 hour"), (48.0, "48 hours")],
)
def test_whole_hours(hours: float, words: str) -> None:
    assert hours_in_words(hours) == words


@pytest.mark.parametrize(
    ("times", "words"), [(0.0, "never"), (0.3, "less than once"), (1.0, "once"), (12.2, "12 times")]
)
def test_how_often(times: float, words: str) -> None:
    assert times_in_words(times) == words


@given(st.floats(0.0, 1.0, exclude_min=True, exclude_max=True))
def test_a_part_is_never_called_all_or_nothing(share: float) -> None:
    assert percent(share) not in {"100 %", "100.0 %", "0 %", "0.0 %"}


@pytest.mark.parametrize("purpose", ["continuous", "standby", "deployment", "everyday", "mobile"])
@pytest.mark.parametrize("latitude_deg", [-43.1, 5.0, 60.5, 71.0])
def test_no_sentence_says_a_number_more_exactly_than_anyone_knows_it(
    latitude_deg: float, purpose: Purpose
) -> None:
    """Three decimals in words are a figure that slipped through unrounded; a hyphen is no minus."""
    report = evaluate(
        propose("unattended", purpose, Place(latitude_deg=latitude_deg, longitude_deg=25.0))
    )
    said = [report.verdict.headline, report.verdict.rest]
    said += [words for finding in report.findings for words in (finding.sentence, finding.why)]
    assert [words for words in said if re.search(r"\d\.\d{3}|(?<![\w–])-\d", words)] == []
