"""The sizing map: growing, priced, limited, stopped, and built."""

import numpy as np
import pytest

from tests.core.rehearsed import station
from tests.samples import harrier_ridge
from yonderstat.core.design import (
    design_from_document,
)
from yonderstat.core.rehearse import (
    CancelledError,
    MapAsk,
    served_of,
    sizing_map,
)
from yonderstat.demo.packhorse import PACKHORSE


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
    assert "The cheapest that holds 99.9 % of vital service" in found.sentence


def test_the_map_is_the_years() -> None:
    """The design's own cell is what ten years served."""
    found = sizing_map(harrier_ridge(), MapAsk(steps=8))
    assert found is not None
    assert found.here.share == pytest.approx(served_of(station(harrier_ridge(), 10)).share, abs=1e-9)


def test_the_map_counts_money_weight_and_room() -> None:
    """Prices decide what is cheapest, limits what is allowed, a sum what is best; all of it is on the map."""
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
        dear.cost[row][column] for row in range(12) for column in range(12) if dear.served[row][column] >= dear.target
    )
    assert dear.cheapest.cost == pytest.approx(best)
    small = sizing_map(harrier_ridge(), plain.model_copy(update={"most_w": 250.0, "budget": 2000.0}))
    assert small is not None
    assert small.cheapest is None or small.cheapest.watts <= 250.0
    assert small.best_for_sum is not None
    assert small.best_for_sum.cost <= 2000.0


def test_the_hitch_forbids_what_it_cannot_carry() -> None:
    """The Packhorse, sixty kilograms: heavier banks are not allowed."""
    found = sizing_map(design_from_document(PACKHORSE), MapAsk(steps=8, years=1))
    assert found is not None
    for kg, row in zip(found.kg, found.allowed, strict=True):
        assert all(row) == (kg <= 60.0)
    assert found.shelf_watts == pytest.approx(340.0)


def test_the_cheapest_point_can_be_built() -> None:
    """Its patch gives a design of whole panels and batteries that meets the target."""
    from tests.core.test_findings import patched

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

    with pytest.raises(CancelledError):
        sizing_map(harrier_ridge(), MapAsk(steps=24, years=1), stop)
    # 576 sizes are nine batches of 64, two at a time.
    assert seen == pytest.approx([2 / 9, 4 / 9, 6 / 9])


def test_nothing_to_grow_has_no_map() -> None:
    base = harrier_ridge()
    assert sizing_map(base.model_copy(update={"array": base.array.model_copy(update={"strings": []})})) is None
