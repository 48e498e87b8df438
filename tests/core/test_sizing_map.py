"""The sizing map: growing, priced, limited, stopped, and built."""

import numpy as np
import pytest

from tests.core.rehearsed import station
from tests.core.test_findings import patched
from tests.samples import harrier_ridge, quay_street
from yonderstat.core import evaluate
from yonderstat.core.design import design_from_document, with_bank, with_string
from yonderstat.core.rehearse import (
    CancelledError,
    MapAsk,
    served_of,
    sizing_map,
)
from yonderstat.core.rehearse.sizes import worst_month_by_size
from yonderstat.core.rehearse.sizing_axes import counts
from yonderstat.core.shelf import shelf_from_document, stock_of, with_shelf
from yonderstat.demo.packhorse import PACKHORSE
from yonderstat.demo.shelf import SHELF


def test_the_map_grows_with_panels_and_bank() -> None:
    """Never darker with more of either, but for a hair: a tripped bigger bank comes back later."""
    found = sizing_map(harrier_ridge())
    assert found is not None
    served = np.array(found.served)
    assert (np.diff(served, axis=0) >= -2e-3).all()
    assert (np.diff(served, axis=1) >= -1e-3).all()
    assert found.here.watts in found.watts
    assert found.here.amp_hours in found.amp_hours
    assert found.cheapest is not None
    assert found.cheapest.share >= found.target
    assert "Cheapest size for 99.9 % of the time with power" in found.sentence
    costs, shares = zip(*((point.cost, point.share) for point in found.front), strict=True)
    assert list(costs) == sorted(costs)
    assert list(shares) == sorted(shares)
    assert shares[-1] == served.max()


def test_the_axes_are_whole_parts_with_what_there_is_among_them() -> None:
    found = sizing_map(harrier_ridge(), MapAsk(steps=40, years=1))
    assert found is not None
    assert (found.panels[0], found.batteries[0]) == (1, 1)
    assert set(range(1, 9)) <= set(found.panels)
    base = harrier_ridge()
    assert base.store.bank is not None
    assert found.here.batteries == base.store.bank.parallel
    one_w = found.watts[0] / found.panels[0]
    assert found.watts == pytest.approx([one_w * count for count in found.panels])
    ten = counts(10, 12)
    assert ten[0] == 5
    assert ten[-1] == 80
    assert 10 in ten


def test_only_the_largest_string_grows() -> None:
    base = harrier_ridge()
    string = base.array.strings[0]
    small = string.model_copy(update={"id": "other", "name": "Other", "parallel": 1})
    both = base.model_copy(
        update={"array": base.array.model_copy(update={"strings": [small, string]})}
    )
    found = sizing_map(both, MapAsk(steps=8, years=1))
    assert found is not None
    assert found.string == string.name
    one_w = string.module.watts.value * string.series
    assert found.watts[0] == pytest.approx(one_w + found.panels[0] * one_w)


def test_the_cheapest_is_one_whose_verdict_is_good() -> None:
    """Never a size that the verdict then calls on the edge; where there is none, the map says
    so."""
    for base in (harrier_ridge(), quay_street()):
        found = sizing_map(base)
        assert found is not None
        assert found.cheapest_state == "good"
        years = evaluate(patched(base, found.patch)).rehearsed
        assert years is not None
        assert years.state == "good"
    narrow = sizing_map(harrier_ridge(), MapAsk(most_w=440.0))
    assert narrow is not None
    if narrow.cheapest is not None and narrow.cheapest_state != "good":
        assert "on the edge" in narrow.sentence


def test_a_month_counts_as_its_own_service() -> None:
    hours = station(harrier_ridge(), 2)
    panels, banks = np.array([1.0, 2.0]), np.array([1.0, 3.0])
    for number in range(2):
        served = served_of(hours, float(panels[number]), float(banks[number]))
        least = min(served.by_month[month - 1] or 0.0 for month in (5, 6, 7))
        assert worst_month_by_size(hours, [5, 6, 7], panels, banks)[number] == pytest.approx(
            least, abs=1e-9
        )


def test_the_map_is_the_years() -> None:
    """The design's own cell is what ten years served within the planned depth: a size is chosen by
    the plan."""
    found = sizing_map(harrier_ridge(), MapAsk(steps=8))
    assert found is not None
    assert found.here.share == pytest.approx(
        served_of(station(harrier_ridge(), 10).kept_to_plan()).share, abs=1e-9
    )


def test_the_map_counts_money_weight_and_room() -> None:
    """Prices decide what is cheapest, limits what is allowed, a sum what is best; all of it is on
    the map."""
    plain = MapAsk(steps=12, years=2, panel_price_per_w=1.0, bank_price_per_ah=5.0, currency="NZD")
    dear = sizing_map(harrier_ridge(), plain)
    cheap_bank = sizing_map(harrier_ridge(), plain.model_copy(update={"bank_price_per_ah": 0.01}))
    assert dear is not None
    assert cheap_bank is not None
    assert dear.cheapest is not None
    assert cheap_bank.cheapest is not None
    assert dear.priced
    assert "NZD" in dear.sentence
    assert cheap_bank.cheapest.amp_hours >= dear.cheapest.amp_hours
    for row, amp_hours in enumerate(dear.amp_hours):
        assert dear.cost[row][0] == pytest.approx(dear.watts[0] * 1.0 + amp_hours * 5.0)
    best = min(
        cost
        for costs, shares in zip(dear.cost, dear.served, strict=True)
        for cost, share in zip(costs, shares, strict=True)
        if share >= dear.target
    )
    assert dear.cheapest.cost >= best
    small = sizing_map(
        harrier_ridge(), plain.model_copy(update={"most_w": 600.0, "budget": 2000.0})
    )
    assert small is not None
    assert small.cheapest is None or small.cheapest.watts <= 600.0
    assert small.best_for_sum is not None
    assert small.best_for_sum.cost <= 2000.0


def test_the_hitch_forbids_what_it_cannot_carry() -> None:
    """The Packhorse, sixty kilograms: heavier banks are not allowed."""
    shelf = shelf_from_document({"format": "yonderstat-shelf", "version": 1, "parts": list(SHELF)})
    design = with_shelf(design_from_document(PACKHORSE), shelf, stock_of(shelf, []))
    found = sizing_map(design, MapAsk(steps=8, years=1))
    assert found is not None
    for kg, row in zip(found.kg, found.allowed, strict=True):
        assert all(row) == (kg <= 60.0)
    assert found.shelf_watts == pytest.approx(340.0)


def test_the_cheapest_point_can_be_built() -> None:
    """Its patch gives a design of whole panels and batteries that meets the target."""
    base = harrier_ridge()
    found = sizing_map(base)
    assert found is not None
    better = patched(base, found.patch)
    assert served_of(station(better, 10)).share >= found.target - 1e-3


def test_a_map_can_be_stopped_between_batches() -> None:
    seen: list[float] = []

    def stop(progress: float) -> bool:
        seen.append(progress)
        return len(seen) < 3

    large = with_bank(with_string(harrier_ridge(), 0, parallel=8), parallel=8)
    with pytest.raises(CancelledError):
        sizing_map(large, MapAsk(steps=40, years=1), stop)
    # Two batches of 64 sizes at a time.
    assert len(seen) == 3
    assert seen[1] == pytest.approx(2.0 * seen[0])


def test_nothing_to_grow_has_no_map() -> None:
    base = harrier_ridge()
    assert (
        sizing_map(base.model_copy(update={"array": base.array.model_copy(update={"strings": []})}))
        is None
    )
