"""Readings as they are said, and what they mean for a design."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.samples import quay_street, with_bank
from yonderstat.core import evaluate
from yonderstat.core.design import Design, KnownAmpHours
from yonderstat.core.log import Meaning, ReadingError, meaning_of, read_line
from yonderstat.core.station import StationModel
from yonderstat.core.store import loaded_v


@pytest.mark.parametrize(
    ("said", "kind", "value", "second"),
    [
        ("12.62 rest 3h", "rest", 12.62, 3.0),
        ("12,62 V rested for 3 hours", "rest", 12.62, 3.0),
        ("13.1 V rest", "rest", 13.1, None),
        ("11.9 at 20 A", "load", 11.9, 20.0),
        ("11.9V @ 20A", "load", 11.9, 20.0),
        ("in 31 Ah out 28", "counted", 31.0, 28.0),
        ("In 31, out 28 Ah", "counted", 31.0, 28.0),
        ("box 34 C", "temperature", 34.0, None),
        ("air −5 °C", "temperature", -5.0, None),
        ("box 93.2 F", "temperature", 34.0, None),
        ("ran 4h30", "run", 4.5, None),
        ("ran 2 h", "run", 2.0, None),
        ("sg 1.225", "gravity", 1.225, None),
        ("test 78 Ah", "capacity", 78.0, None),
        ("4.2 A in", "amps", 4.2, None),
        ("lamp went red at dusk", "words", None, None),
    ],
)
def test_lines_as_they_are_said(
    said: str, kind: str, value: float | None, second: float | None
) -> None:
    found = read_line(said)
    assert found.kind == kind
    assert found.value == (None if value is None else pytest.approx(value, abs=0.01))
    assert found.second == second


@pytest.mark.parametrize(
    "said", ["", "   ", "12.6 foo", "5000 rest 3h", "sg 7.1", "box 900 C", "x" * 201]
)
def test_what_is_no_reading_is_refused_with_why(said: str) -> None:
    with pytest.raises(ReadingError) as caught:
        read_line(said)
    assert len(str(caught.value)) > 10


@given(st.text(max_size=60))
def test_any_line_is_a_reading_or_a_reason(said: str) -> None:
    try:
        found = read_line(said)
    except ReadingError:
        return
    assert found.value is None or abs(found.value) < 1e6


def meaning(design: Design, said: str) -> Meaning:
    return meaning_of(read_line(said), StationModel(design), evaluate(design))


def test_a_capacity_far_from_the_plan_offers_itself() -> None:
    """By hand: 71 of 100 Ah, two in parallel hold half of it each."""
    two = with_bank(quay_street(), parallel=2)
    found = meaning(two, "test 142 Ah")
    assert found.contradicts == "/store/bank/health"
    assert found.change is not None
    assert found.change.patch[0].value == {"value": 71.0, "basis": "measured"}
    assert meaning(two, "test 196 Ah").change is None
    tested = with_bank(quay_street(), tested_ah=KnownAmpHours(value=71.0))
    assert meaning(tested, "test 90 Ah").contradicts == "/store/bank/tested_ah"


def test_volts_under_load_are_read_on_the_plans_own_curve() -> None:
    """What the plan has at half charge reads as half charged."""
    station = StationModel(quay_street())
    assert station.bank is not None
    half_v = loaded_v(station.bank.bank, station.bus_v, 0.2, 10.0, station.bank.hard_c)
    assert "about 20 % charged" in meaning(quay_street(), f"{half_v:.3f} at 10 A").words
    assert meaning(quay_street(), "9.0 at 10 A").contradicts == "/store/bank/health"


def test_volts_that_have_not_rested_say_so() -> None:
    assert "hasn't rested" in meaning(quay_street(), "13.1 rest 1h").words
    assert "hasn't rested" not in meaning(quay_street(), "13.1 rest 4h").words


def test_more_in_than_comes_back_speaks_against_the_meter() -> None:
    assert meaning(quay_street(), "in 40 Ah out 20").contradicts == "/bus/all_through_shunt"
    assert meaning(quay_street(), "in 40 Ah out 39").contradicts == ""


def test_gravity_is_of_flooded_cells_alone() -> None:
    """[from memory] BCI: 1.265 full, 1.190 half."""
    flooded = with_bank(quay_street(), chemistry="flooded", unit_v=12.0)
    assert "About 50 % charged" in meaning(flooded, "sg 1.190").words
    assert meaning(quay_street(), "sg 1.190").contradicts == "/store/bank/chemistry"


@pytest.mark.parametrize(
    "said",
    [
        "12.6 rest 3h",
        "11.9 at 20 A",
        "in 3 out 2",
        "box 34 C",
        "sg 1.2",
        "test 7 Ah",
        "ran 2 h",
        "x",
    ],
)
def test_a_design_without_anything_still_answers(said: str) -> None:
    assert isinstance(meaning(Design(), said).words, str)
