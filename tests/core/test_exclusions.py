"""What never runs together: groups that overlap, and what is on only while something else is
off."""

from itertools import combinations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.judged import ids
from tests.samples import drawn, load, quay_street, with_bank, with_loads
from yonderstat.core.design import KnownAmps, KnownUsableShare, KnownVolts, Limits, Rail, with_draw
from yonderstat.core.draw import Step, busiest_w, groups_of, most_together_a
from yonderstat.core.draw.exclusions import EXACT_UP_TO
from yonderstat.core.draw.peak import peak_a

STEPS = st.lists(
    st.tuples(
        st.floats(0.0, 50.0), st.frozensets(st.sampled_from(["a", "b", "c", "d"]), max_size=3)
    ),
    max_size=8,
)


def test_groups_are_read_as_they_are_written() -> None:
    assert groups_of(load("x", interlock=" Operator, bench ,, ")) == {"operator", "bench"}
    assert groups_of(load("x", interlock=" ")) == frozenset()


def test_the_iron_is_on_only_while_the_computers_are_off() -> None:
    """By hand: an iron of 8 A excludes a computer of 3 A, and a set that keys is not beside the
    iron."""
    iron = drawn(load("iron", 8.0, interlock="bench"))
    desk, laptop = drawn(load("desk", 3.0, interlock="bench, desk")), drawn(load("laptop", 2.0))
    radio = drawn(load("radio", 1.0, transmit_a=6.0, interlock="bench"))
    assert peak_a([iron, laptop]) == pytest.approx(10.0)
    assert peak_a([iron, desk, laptop]) == pytest.approx(8.0 + 2.0)
    # Keyed the radio adds 5 A to its 1 A: less than the iron, which then is what counts.
    assert peak_a([iron, desk, laptop, radio]) == pytest.approx(1.0 + 2.0 + 8.0)


def test_groups_that_overlap_are_looked_at_together() -> None:
    """By hand: b excludes a and c, which do not exclude each other; 6 + 5 beat 9."""
    chain = [Step(6.0, frozenset("x")), Step(9.0, frozenset("xy")), Step(5.0, frozenset("y"))]
    assert most_together_a(chain) == 11.0
    assert most_together_a([*chain, Step(2.0, frozenset())]) == 13.0


@given(STEPS)
def test_it_is_the_best_of_all_combinations(
    drawn_steps: list[tuple[float, frozenset[str]]],
) -> None:
    steps = [Step(*one) for one in drawn_steps]
    best = 0.0
    for count in range(len(steps) + 1):
        for some in combinations(steps, count):
            named = [group for step in some for group in step.groups]
            if len(named) == len(set(named)):
                best = max(best, sum(step.adds_a for step in some))
    assert most_together_a(steps) == pytest.approx(best)


def test_many_that_exclude_each_other_are_counted_on_the_safe_side() -> None:
    many = [
        Step(1.0 + number, frozenset({f"g{number}", f"g{number + 1}"}))
        for number in range(EXACT_UP_TO + 4)
    ]
    every_other = sum(step.adds_a for step in many[1::2])
    assert every_other <= most_together_a(many) <= sum(step.adds_a for step in many)


def test_a_rail_and_the_battery_mind_the_same_groups() -> None:
    rail = Rail(
        id="r", name="R", volts=KnownVolts(value=12.0), efficiency=KnownUsableShare(value=1.0)
    )
    pair = [
        load("iron", 8.0, rail="r", interlock="bench"),
        load("gun", 6.0, rail="r", interlock="bench"),
    ]
    apart = with_draw(with_loads(quay_street(), *pair), rails=[rail])
    free = with_draw(apart, loads=[item.model_copy(update={"interlock": ""}) for item in pair])
    assert (busiest_w(apart.draw, rail), busiest_w(free.draw, rail)) == (96.0, 168.0)
    limits = Limits(max_discharge_a=KnownAmps(value=10.0))
    assert "store.trips" not in ids(with_bank(apart, limits=limits, parallel=1))
    assert "store.trips" in ids(with_bank(free, limits=limits, parallel=1))
