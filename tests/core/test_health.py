"""What age has left: by test, by word, or guessed from the years."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.samples import quay_street
from yonderstat.core import evaluate
from yonderstat.core.design import KnownAmpHours, KnownUsableShare, KnownYears, with_bank
from yonderstat.core.firsts import new_bank
from yonderstat.core.store.health import health_left
from yonderstat.core.store.kind import kind_of


def test_a_new_bank_is_whole_and_one_at_the_end_of_its_years_holds_four_fifths() -> None:
    agm = new_bank("agm")
    assert health_left(agm) == 1.0
    old = agm.model_copy(update={"age_years": KnownYears(value=kind_of("agm").calendar_years)})
    assert health_left(old) == pytest.approx(0.8)


@given(st.floats(0.0, 60.0), st.floats(0.0, 60.0))
def test_older_never_holds_more_and_never_under_a_half(one: float, other: float) -> None:
    younger, older = sorted((one, other))
    left = [
        health_left(new_bank("gel").model_copy(update={"age_years": KnownYears(value=age)}))
        for age in (younger, older)
    ]
    assert 0.5 <= left[1] <= left[0] <= 1.0


def test_a_test_or_a_word_beats_the_guess() -> None:
    old = new_bank("agm").model_copy(update={"age_years": KnownYears(value=9.0)})
    assert health_left(old.model_copy(update={"tested_ah": KnownAmpHours(value=70.0)})) == 1.0
    said = old.model_copy(update={"health": KnownUsableShare(value=0.9, basis="stated")})
    assert health_left(said) == 0.9


def test_an_age_typed_takes_from_what_can_be_used_and_says_how() -> None:
    new = evaluate(quay_street())
    aged = evaluate(with_bank(quay_street(), age_years=KnownYears(value=6.0)))
    share = aged.working["store.health"]
    assert share.number == pytest.approx(0.9)
    assert "store.health" not in new.working
    assert aged.working["store.after_health_ah"].number == pytest.approx(
        0.9 * new.working["store.after_health_ah"].number
    )
    assert [item.origin for item in share.inputs] == ["default", "table", "default"]
