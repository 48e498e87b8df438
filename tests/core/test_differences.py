"""What differs between two designs."""

from hypothesis import given, settings

from tests.drawn_documents import designs
from tests.samples import harrier_ridge, load, quay_street, with_loads
from yonderstat.core import differences
from yonderstat.core.design import Design, with_bank, with_string


@settings(max_examples=30, deadline=None)
@given(designs())
def test_a_design_does_not_differ_from_itself(design: Design) -> None:
    assert differences(design, design) == ()


def test_each_field_is_told_with_its_place_and_both_values() -> None:
    before = harrier_ridge()
    after = with_string(with_bank(before, parallel=4), 0, tilt_deg=65.0)
    found = {item.pointer: item for item in differences(before, after)}
    assert set(found) == {"/store/bank/parallel", "/array/strings/0/tilt_deg"}
    assert found["/store/bank/parallel"].second == 4
    name = before.array.strings[0].name
    assert found["/array/strings/0/tilt_deg"].place == ("array", "strings", name, "tilt_deg")


def test_a_guess_confirmed_is_no_difference_but_another_value_is() -> None:
    before = quay_street()
    bank = before.store.bank
    assert bank is not None
    said = bank.unit_ah.model_copy(update={"basis": "stated"})
    assert differences(before, with_bank(before, unit_ah=said)) == ()
    more = bank.unit_ah.model_copy(update={"value": 200.0})
    assert [item.second for item in differences(before, with_bank(before, unit_ah=more))] == [200.0]


def test_rows_are_met_by_id_wherever_they_stand() -> None:
    one, two = load("one"), load("two")
    ab, ba, a = (with_loads(quay_street(), *rows) for rows in ((one, two), (two, one), (one,)))
    assert differences(ab, ba) == ()
    (gone,) = differences(ab, a)
    assert (gone.place, gone.first, gone.second) == (("draw", "loads", "two"), "there", None)
    (come,) = differences(a, ab)
    assert (come.first, come.second) == (None, "there")
