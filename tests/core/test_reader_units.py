"""Figures in the units of whoever reads."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from yonderstat.core.reader_units import METRIC, ReaderUnits
from yonderstat.core.words import celsius, kilos, measure, metres, plain, wire

FEET = ReaderUnits(feet=True, fahrenheit=True)


@pytest.mark.parametrize(
    ("text", "metric", "feet"),
    [
        (f"{metres(4)} of {wire(5.26)}", "4 m of 5.26 mm²", "13.1 ft of #10"),
        (f"{metres(2.5)} of {wire(4)}", "2.5 m of 4 mm²", "8.2 ft of 4 mm²"),
        (celsius(-9), "−9 °C", "16 °F"),
        (measure(43, "K"), "43 K", "77 °F"),
        (measure(120, "km"), "120 km", "75 mi"),
        (kilos(31), "31 kg", "68 lb"),
        ("no figure, {not one}", "no figure, {not one}", "no figure, {not one}"),
    ],
)
def test_a_sentence_is_said_in_both(text: str, metric: str, feet: str) -> None:
    """[P] 1 ft = 0.3048 m, 1 lb = 0.45359237 kg and 1 mi = 1.609344 km by international agreement
    of 1959; gauges by ASTM B258."""
    assert METRIC.said(text) == metric
    assert FEET.said(text) == feet


def test_metric_is_what_those_read_who_chose_nothing() -> None:
    text = f"{metres(25.4)}, {celsius(0)}, {kilos(3.2)}"
    assert METRIC.said(text) == plain(text)


@pytest.mark.parametrize(
    ("value", "unit", "told"),
    [
        (0.456, "share", "45.6 %"),
        (1234.0, "A·h", "1,234 Ah"),
        (12.345, "V", "12.3 V"),
        (0.05, "A", "0.05 A"),
        (-3.0, "°C", "26.6 °F"),
        (0.0, "W", "0 W"),
        (250.0, "money", "250"),
    ],
)
def test_a_figure_has_about_three_digits(value: float, unit: str, told: str) -> None:
    assert FEET.figure(value, unit) == told


@given(st.floats(-60, 60).map(lambda value: round(value, 1)))
def test_degrees_come_back(degrees_c: float) -> None:
    told = FEET.said(measure(degrees_c, "°C", 1)).removesuffix(" °F").replace("−", "-")
    assert (float(told) - 32.0) / 1.8 == pytest.approx(degrees_c, abs=0.28)
