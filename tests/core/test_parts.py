"""The parts list and the checklists: counted from the design, never typed twice."""

from typing import Any

import pytest

from tests.core.judged import ids
from tests.samples import packhorse, quay_street, with_bank
from yonderstat.core import evaluate
from yonderstat.core.design import (
    Build,
    Design,
    InvalidDesignError,
    KnownAmpHours,
    KnownKilos,
    KnownMoney,
    OwnPart,
    Tick,
    design_from_document,
    document_of,
)
from yonderstat.core.parts import between, items_of, reuse_of
from yonderstat.core.shelf import shelf_from_document, stock_of, with_shelf
from yonderstat.core.station import StationModel
from yonderstat.demo.shelf import SHELF


def with_build(design: Design, *parts: OwnPart, ticks: tuple[Tick, ...] = ()) -> Design:
    return design.model_copy(update={"build": Build(parts=list(parts), ticks=list(ticks))})


def quantities(design: Design) -> dict[str, float]:
    return {item.id: item.quantity for item in items_of(design, StationModel(design).bus)}


def test_cable_is_what_the_runs_are_long_both_ways_with_a_tenth_to_spare() -> None:
    design = quay_street()
    runs = StationModel(design).bus.runs
    listed = sum(value for key, value in quantities(design).items() if key.startswith("cable-"))
    assert listed == pytest.approx(2.0 * 1.1 * sum(run.laid.length_m for run in runs))


def test_every_run_has_its_fuse_on_the_list() -> None:
    design = quay_street()
    fused = sum(run.fuse.kind != "none" for run in StationModel(design).bus.runs)
    listed = {key: value for key, value in quantities(design).items() if key.startswith("fuse-")}
    assert sum(listed.values()) == fused
    assert quantities(design)["label-fuse"] == fused


def test_more_batteries_are_more_on_the_list() -> None:
    assert quantities(with_bank(quay_street(), parallel=3))["battery-main"] == 3.0


def test_what_is_there_is_not_bought() -> None:
    """By hand: two needed, one there, 690 each."""
    own = OwnPart(
        id="battery-main", have=1.0, price=KnownMoney(value=690.0), weight_kg=KnownKilos(value=12.5)
    )
    report = evaluate(with_build(with_bank(quay_street(), parallel=2), own))
    line = next(line for line in report.build.lines if line.id == "battery-main")
    assert [report.number(key) for key in (line.quantity, line.buy, line.cost, line.weight_kg)] == [
        2,
        1,
        690,
        25,
    ]
    assert report.number(report.build.to_buy) == 690.0
    assert report.number(report.build.worth) == 1380.0
    usable_kwh = (report.number("store.usable_wh") or 0.0) / 1000.0
    assert report.number(report.build.per_kwh) == pytest.approx(1380.0 / usable_kwh)


def test_more_there_than_needed_costs_nothing_and_gives_nothing_back() -> None:
    own = OwnPart(id="battery-main", have=5.0, price=KnownMoney(value=690.0))
    report = evaluate(with_build(quay_street(), own))
    line = next(line for line in report.build.lines if line.id == "battery-main")
    assert report.number(line.buy) == 0.0
    assert report.number(line.cost) == 0.0


def test_without_a_price_there_is_no_sum() -> None:
    report = evaluate(quay_street())
    assert report.number(report.build.to_buy) is None
    assert report.build.unpriced == len(report.build.lines)


def test_the_cracked_panel_does_not_do() -> None:
    """Demo scenario: two of the three spare panels fit, the one with crazed glass does not."""
    shelf = shelf_from_document({"format": "yonderstat-shelf", "version": 1, "parts": list(SHELF)})
    bare = with_shelf(with_build(packhorse()), shelf, stock_of(shelf, []))
    (reuse,) = reuse_of(bare)
    assert (reuse.fit, reuse.needed) == (2, 2)
    assert "Crazed 85 W can't be used: its glass is cracked" in reuse.words
    assert ids(bare)["build.reuse.folding-stand"] == "mind"
    there = with_build(bare, OwnPart(id="panel-folding-stand", have=2.0))
    assert "build.reuse.folding-stand" not in ids(there)


def hauled(**changes: Any) -> Design:
    """A trailer of 300 kg, 30 kg on the hitch 2 m ahead of its axle, with a load of 100 kg half a
    metre ahead."""
    haul = {
        "hitch_m": {"value": 2.0},
        "empty_kg": {"value": 300.0},
        "empty_nose_kg": {"value": 30.0},
        "nose_limit_kg": {"value": 60.0},
        "cargo": [{"id": "box", "name": "Box", "kg": {"value": 100.0}, "ahead_m": 0.5}],
    }
    document = document_of(packhorse()) | {"build": {"haul": haul | changes}}
    return design_from_document(document)


def test_the_weight_on_the_hitch_by_moments() -> None:
    """By hand: 30 kg + 100 kg x 0.5 m / 2 m = 55 kg of 400 kg; behind the axle it takes off as
    much."""
    report = evaluate(hauled())
    assert report.build.balance is not None
    assert report.number(report.build.balance.nose_kg) == pytest.approx(55.0)
    assert report.number(report.build.balance.gross_kg) == pytest.approx(400.0)
    assert report.number(report.build.balance.nose_share) == pytest.approx(0.1375)
    behind = evaluate(
        hauled(cargo=[{"id": "b", "name": "B", "kg": {"value": 100.0}, "ahead_m": -0.5}])
    )
    assert behind.number("parts.balance.nose_kg") == pytest.approx(5.0)


def test_the_bank_counts_where_it_stands() -> None:
    """31 kg of battery, 1 m ahead of the axle of a hitch 2 m away: 15.5 kg more in front."""
    row = {"id": "battery-main", "weight_kg": {"value": 31.0}, "ahead_m": 1.0}
    base = document_of(hauled())
    placed = design_from_document(base | {"build": base["build"] | {"parts": [row]}})
    assert evaluate(placed).number("parts.balance.nose_kg") == pytest.approx(55.0 + 15.5)


def test_an_overloaded_hitch_is_a_stop_and_a_light_one_sways() -> None:
    heavy = [{"id": "b", "name": "B", "kg": {"value": 140.0}, "ahead_m": 0.5}]
    assert ids(hauled(cargo=heavy))["build.nose_over"] == "stop"
    assert "build.nose_over" not in ids(hauled())
    assert ids(hauled())["build.nose_heavy"] == "mind"
    light = [{"id": "b", "name": "B", "kg": {"value": 100.0}, "ahead_m": -0.4}]
    assert ids(hauled(cargo=light))["build.nose_light"] == "fix"
    assert ids(hauled(gross_limit_kg={"value": 350.0}))["build.gross_over"] == "stop"
    assert ids(hauled())["build.not_placed"] == "mind"


def test_a_hitch_at_the_axle_is_refused() -> None:
    with pytest.raises(InvalidDesignError, match=r"hitch less than 0\.2 m"):
        hauled(hitch_m={"value": 0.1})


def test_from_one_stage_to_the_next_parts_are_added_and_freed() -> None:
    """One battery of 100 Ah becomes two of 200: two are added, one is free; the other way round it
    mirrors."""
    one = items_of(quay_street(), StationModel(quay_street()).bus)
    more = with_bank(quay_street(), parallel=2, unit_ah=KnownAmpHours(value=200.0))
    two = items_of(more, StationModel(more).bus)
    added, freed = between(one, two)
    assert ("Battery LiFePO4, 12.8 V 200 Ah", 2.0) in [(step.name, step.quantity) for step in added]
    assert ("Battery LiFePO4, 12.8 V 100 Ah", 1.0) in [(step.name, step.quantity) for step in freed]
    assert between(two, one) == (freed, added)
    assert between(one, one) == ((), ())


def test_a_row_of_what_is_gone_is_said() -> None:
    assert (
        ids(with_build(quay_street(), OwnPart(id="battery-gone", have=1.0)))[
            "build.gone.battery-gone"
        ]
        == "mind"
    )


def test_a_line_told_twice_is_refused() -> None:
    document = document_of(quay_street())
    document["build"]["parts"] = [{"id": "battery-main"}, {"id": "battery-main"}]
    with pytest.raises(InvalidDesignError, match="same id"):
        design_from_document(document)


def test_ticks_count_only_what_is_on_a_list() -> None:
    ticks = (Tick(id="buy.weigh", by="QY"), Tick(id="buy.no-such-thing", by="QY"))
    build = evaluate(with_build(quay_street(), ticks=ticks)).build
    assert build.done == 1
    assert build.done + build.to_do == sum(len(item.items) for item in build.checklists)


def test_what_goes_dark_first_is_worth_least() -> None:
    dark = next(item for item in evaluate(packhorse()).build.checklists if item.id == "dark")
    tiers = {load.id: load.tier for load in packhorse().draw.loads}
    order = [tiers[item.id.removeprefix("dark.")] for item in dark.items]
    assert order == sorted(
        order, key=lambda tier: ["comfort", "useful", "vital"].index(tier or "vital")
    )


def test_an_empty_design_needs_little() -> None:
    build = evaluate(Design()).build
    assert {line.group for line in build.lines} == {"Wiring"}
    assert build.reuse == ()
