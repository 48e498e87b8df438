"""First designs: of sizes that are sold, within what the place takes, the cheapest that holds."""

import random

import pytest

from yonderstat.core import evaluate, propose
from yonderstat.core.data import rows, toml_table
from yonderstat.core.design import Design, Place, document_of
from yonderstat.core.proposals.proposal import SURE, _search, _variants
from yonderstat.core.proposals.search import Search
from yonderstat.core.proposals.sold import (
    MOST_PARALLEL,
    MOST_TOGETHER_A,
    NOMINAL_V,
    bounds_of,
)
from yonderstat.core.proposals.starting import starting_design
from yonderstat.core.purposes import all_purposes
from yonderstat.core.station import StationModel
from yonderstat.core.store import bank_kg, most_charge_a

PLACES = {
    "the Southern Alps": (-43.1, 171.6),
    "London": (51.5, -0.1),
    "the equator": (0.0, -78.5),
    "the desert": (33.0, -112.0),
    "the monsoon coast": (19.1, 72.9),
    "the middle of Europe": (50.06, 14.4),
}
KINDS = ("home", "trailer", "go_box", "vehicle", "unattended")
SOLD = {(row["chemistry"], float(row["ah"])) for row in rows("sold_batteries")}
OF_THE_PLACE = {
    "array.short",
    "rehearse.days",
    "rehearse.wear",
    "store.seldom_full",
    "store.too_small",
}
"""What a flat roof or a pocket may lack in a dark month: said of it, as nothing larger goes there."""


def place_of(where: str) -> Place:
    latitude, longitude = PLACES[where]
    return Place(latitude_deg=latitude, longitude_deg=longitude)


def usual_purpose(kind: str) -> str:
    return str(toml_table("site_kinds")[kind]["purpose"])


def is_within_bounds(design: Design) -> bool:
    bank, strings = design.store.bank, design.array.strings
    assert bank is not None
    bounds = bounds_of(design.brief.kind, None)
    watts = sum(one.module.watts.value * one.series * one.parallel for one in strings)
    return (
        (bank.chemistry, bank.unit_ah.value) in SOLD
        and bank.parallel <= MOST_PARALLEL
        and bank_kg(bank) <= bounds.most_bank_kg
        and watts <= min(bounds.most_panel_w, MOST_TOGETHER_A * NOMINAL_V)
        and all(one.module.watts.value in bounds.panels_w for one in strings)
        and all(one.parallel <= MOST_PARALLEL for one in strings)
        and len(strings) >= bounds.least_panels
    )


@pytest.mark.parametrize("where", PLACES)
def test_a_proposal_of_the_usual_purpose_raises_no_stop_and_no_fix(where: str) -> None:
    for kind in KINDS:
        design = propose(kind, usual_purpose(kind), place_of(where))  # type: ignore[arg-type]
        report = evaluate(design)
        grave = [item for item in report.findings if item.severity in {"stop", "fix"}]
        assert not [item.sentence for item in grave], kind
        assert report.verdict.state == "good", (kind, report.verdict.headline)
        assert is_within_bounds(design), kind


@pytest.mark.parametrize("purpose", [item.purpose for item in all_purposes()])
def test_of_any_purpose_it_lacks_no_more_than_the_place_takes(purpose: str) -> None:
    for kind, where in zip(KINDS, random.Random(purpose).sample(sorted(PLACES), 5), strict=True):
        design = propose(kind, purpose, place_of(where))  # type: ignore[arg-type]
        grave = {i.id for i in evaluate(design).findings if i.severity in {"stop", "fix"}}
        assert grave <= OF_THE_PLACE, (kind, where)
        assert is_within_bounds(design)


def searches(kind: str, where: str) -> list[Search]:
    design = starting_design(kind, usual_purpose(kind), place_of(where))  # type: ignore[arg-type]
    bounds = bounds_of(design.brief.kind, None)
    return [_search(variant, bank, bounds, SURE) for variant, bank in _variants(design)]


@pytest.mark.parametrize(
    ("kind", "where"),
    [("home", "London"), ("unattended", "the desert"), ("trailer", "the equator")],
)
def test_nothing_cheaper_of_those_sizes_holds(kind: str, where: str) -> None:
    """The search against sizes drawn at random: none that costs less holds, and one size less of
    panel does not either."""
    chance = random.Random(kind)
    search = searches(kind, where)[0]
    pair = search.cheapest()
    assert pair is not None
    bank, array = pair
    assert array == 0 or not search.holds(bank, array - 1)
    cheaper = [
        (one, other)
        for one in range(len(search.banks))
        for other in range(len(search.arrays))
        if search.cost(one, other) < search.cost(*pair)
    ]
    for one, other in chance.sample(cheaper, min(12, len(cheaper))):
        assert not search.holds(one, other), (search.banks[one], search.arrays[other].watts)


def test_sizes_rise_with_their_price() -> None:
    for search in searches("home", "London"):
        for sizes in (search.banks, search.arrays):
            costs = [item.cost for item in sizes]
            assert costs == sorted(costs)
        held = [item.bank.unit_ah.value * item.bank.parallel for item in search.banks]
        assert held == sorted(held)
        watts = [item.watts for item in search.arrays]
        assert watts == sorted(watts)


def test_a_go_box_in_middle_latitudes_takes_one_battery_and_no_panel() -> None:
    """A spell is carried by the bank: a panel that changes nothing stays at home."""
    design = propose("go_box", "deployment", Place(latitude_deg=50.0, longitude_deg=8.0))
    assert design.store.bank is not None
    assert (design.store.bank.chemistry, design.store.bank.parallel) == ("lifepo4", 1)
    assert design.array.strings == []
    assert design.array.chargers[0].at_home
    notes = {item.id: item for item in evaluate(design).findings}
    # Nothing charges it out in the frost; what is to be done at home is said.
    assert notes["store.lithium_frost"].severity == "mind"
    assert "warm up" in notes["store.lithium_frost"].sentence


def test_a_first_shack_costs_less_than_it_did() -> None:
    """At 57° N the years hold with far fewer panels than the worst-month rule asked for."""
    design = propose("unattended", "continuous", Place(latitude_deg=57.1, longitude_deg=-4.7))
    report = evaluate(design)
    low, high = report.number(report.build.sum_low), report.number(report.build.sum_high)
    # Sized by the rule and grown it was 24 panels of 110 W, and 3,970 to 9,520 dollars.
    assert low is not None
    assert high is not None
    assert low < 3970 / 2
    assert high < 9520 * 0.55
    # What the place does not give is said, and no figure is made prettier for it.
    assert report.verdict.state == "edge"


@pytest.mark.parametrize("where", PLACES)
def test_a_shack_that_stands_by_is_kept_full_by_the_mains(where: str) -> None:
    """Between outages the mains fill it; together with the panels no more than the bank stands."""
    design = propose("home", "standby", place_of(where))
    assert [charger.kind for charger in design.array.chargers] == ["mains"]
    assert not design.array.chargers[0].at_home
    station = StationModel(design)
    assert station.bank is not None
    assert station.array.together_a()[0] <= most_charge_a(station.bank.bank) + 1e-9
    hill = propose("unattended", "continuous", place_of(where))
    assert hill.array.chargers == []


def test_a_shack_without_a_place_has_the_mains_too() -> None:
    assert [item.kind for item in propose("home", "standby", None).array.chargers] == ["mains"]
    assert propose("unattended", "continuous", None).array.chargers == []


def test_without_a_place_it_still_runs() -> None:
    design = propose("home", "standby", None)
    assert evaluate(design).verdict.headline


def test_the_same_question_has_the_same_answer() -> None:
    place = place_of("London")
    first, second = (propose("home", "standby", place) for _ in range(2))
    assert document_of(first) == document_of(second)
