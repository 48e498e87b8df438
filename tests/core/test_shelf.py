"""The club's shelf: what is free, what fits where, and what is left of a design while kit is
away."""

import jsonpatch
import pytest

from yonderstat.core.design import design_from_document, document_of
from yonderstat.core.parts import items_of
from yonderstat.core.shelf import (
    InvalidShelfError,
    Shelf,
    Use,
    picks_for,
    refreshed,
    shelf_document_of,
    shelf_from_document,
    stock_of,
    with_shelf,
    without_away,
)
from yonderstat.core.station import StationModel
from yonderstat.demo.packhorse import PACKHORSE
from yonderstat.demo.quay_street import QUAY_STREET

LABEL = {"watts": {"value": 85.0, "basis": "label"}, "cells": 36}


def shelf(*parts, outings=()) -> Shelf:
    return shelf_from_document(
        {"format": "yonderstat-shelf", "version": 1, "parts": list(parts), "outings": list(outings)}
    )


def panel(part_id="spare", count=2.0, **module):
    return {
        "id": part_id,
        "name": part_id,
        "kind": "panel",
        "count": count,
        "module": LABEL | module,
    }


def battery(part_id, ah, chemistry="lifepo4", volts=12.8, count=1.0):
    unit = {
        "chemistry": chemistry,
        "unit_v": volts,
        "unit_ah": {"value": float(ah), "basis": "label"},
    }
    return {"id": part_id, "name": part_id, "kind": "battery", "count": count, "battery": unit}


def use(part, site, design, count, line="panel-stand"):
    return Use(
        part=part,
        site_id=site,
        site=site,
        design_id=design,
        design=design,
        as_built=False,
        line=line,
        count=count,
    )


def picks(design, held, uses=(), site=None):
    stock = stock_of(held, uses, site)
    return {
        (pick.line, pick.part): pick
        for pick in picks_for(design, items_of(design, StationModel(design).bus), held, stock)
    }


def after(design, pick):
    told = [{"op": item.op, "path": item.path, "value": item.value} for item in pick.patch]
    return design_from_document(jsonpatch.apply_patch(document_of(design), told))


def test_a_site_reserves_what_the_hungriest_of_its_designs_takes():
    held = shelf(panel(count=5.0))
    uses = [use("spare", "one", "A", 2), use("spare", "one", "B", 3), use("spare", "two", "A", 1)]
    stock = stock_of(held, uses)["spare"]
    assert (stock.reserved, stock.free, stock.over) == (4, 1, 0)
    assert stock_of(held, uses, "one")["spare"].free == 4
    assert stock_of(shelf(panel(count=3.0)), uses)["spare"].over == 1


def test_what_is_away_is_not_free_and_not_counted_twice_where_it_is_reserved():
    taken = [
        {"id": "trip", "name": "Trip", "out": True, "takes": [{"part": "spare", "count": 2.0}]}
    ]
    held = shelf(panel(count=5.0), outings=taken)
    assert stock_of(held, [])["spare"].free == 3
    assert stock_of(held, [use("spare", "one", "A", 2)])["spare"].free == 3
    home = [taken[0] | {"out": False}]
    assert stock_of(shelf(panel(count=5.0), outings=home), [])["spare"].free == 5


def test_two_of_three_panels_fit_and_the_cracked_one_does_not():
    design = design_from_document(PACKHORSE)
    held = shelf(
        panel("spare", 2.0), panel("crazed", 1.0, condition="cracked"), panel("big", 1.0, cells=60)
    )
    found = picks(design, held)
    line = f"panel-{design.array.strings[0].id}"
    assert found[line, "spare"].fits
    assert found[line, "spare"].takes == 2
    assert "glass is cracked" in found[line, "crazed"].words
    assert not found[line, "crazed"].patch
    # Another class of panel may stand in for all of them, with its own label in the design; one
    # cannot for two.
    assert found[line, "big"].words == "can't be used: you need 2 of the same kind, and 1 are free"
    both = picks(design, shelf(panel("big", 2.0, cells=60)))[line, "big"]
    assert both.patch
    assert not both.fits


def test_a_pick_is_in_the_parts_list_with_its_link():
    design = design_from_document(PACKHORSE)
    string = design.array.strings[0]
    found = picks(design, shelf(panel("spare", 2.0) | {"kept": "hall", "price": {"value": 20.0}}))
    taken = after(design, found[f"panel-{string.id}", "spare"])
    row = next(row for row in taken.build.parts if row.id == f"panel-{string.id}")
    assert (row.shelf, row.have, row.where) == ("spare", 2.0, "hall")
    assert row.price is not None
    assert taken.array.strings[0].module.watts.value == 85
    assert picks(taken, shelf(panel("spare", 2.0)))[f"panel-{string.id}", "spare"].taken


def test_a_battery_of_other_volts_or_too_few_of_another_kind_do_not_do():
    design = design_from_document(QUAY_STREET)
    found = picks(
        design, shelf(battery("six", 225, "agm", 6.0), battery("like", 100), battery("big", 200))
    )
    assert "6 V" in found["battery-main", "six"].words
    assert found["battery-main", "like"].fits
    assert not found["battery-main", "big"].fits
    assert after(design, found["battery-main", "big"]).store.bank.unit_ah.value == 200
    two = design.store.bank.model_copy(update={"parallel": 2})
    twice = design.model_copy(update={"store": design.store.model_copy(update={"bank": two})})
    assert (
        "of the same kind" in picks(twice, shelf(battery("big", 200)))["battery-main", "big"].words
    )


def test_what_others_reserve_is_not_offered():
    design = design_from_document(QUAY_STREET)
    held = shelf(battery("like", 100))
    elsewhere = [use("like", "other", "A", 1, "battery-main")]
    assert not picks(design, held, elsewhere)["battery-main", "like"].patch
    assert picks(design, held, elsewhere, "other")["battery-main", "like"].patch


def test_a_changed_label_is_offered_to_the_designs_that_use_it():
    design = design_from_document(QUAY_STREET)
    held = shelf(battery("like", 100))
    taken = after(design, picks(design, held)["battery-main", "like"])
    assert refreshed(taken, held, "battery-main") == ()
    changed = shelf(
        battery("like", 100)
        | {"battery": battery("x", 100)["battery"] | {"tested_ah": {"value": 87.0}}}
    )
    told = refreshed(taken, changed, "battery-main")
    assert [item.path for item in told] == ["/store/bank/tested_ah"]
    assert refreshed(design, changed, "battery-main") == ()


def test_while_kit_is_away_it_is_missing_where_it_is_used():
    design = design_from_document(QUAY_STREET)
    out = [{"id": "trip", "name": "Trip", "out": True, "takes": [{"part": "like", "count": 1.0}]}]
    held = shelf(battery("like", 100))
    taken = after(design, picks(design, held)["battery-main", "like"])
    assert without_away(taken, held) is None
    left, words = without_away(taken, shelf(battery("like", 100), outings=out))
    assert left.store.bank is None
    assert words == ("like (Trip)",)
    # What is left is a design like any other.
    assert design_from_document(document_of(left)) == left


def test_panels_and_controllers_of_the_club_stand_beside_the_designs_own_once():
    """A design file from before there was one shelf for all keeps what stood on its own."""
    own = {"id": "mine", "name": "Mine", "count": 2, "module": LABEL}
    document = PACKHORSE | {"array": PACKHORSE["array"] | {"shelf_modules": [own]}}
    design = design_from_document(document)
    module = design.array.shelf_modules[0].module.model_dump(mode="json")
    same = {"id": "same", "name": "Mine", "kind": "panel", "count": 2.0, "module": module}
    held = shelf(same, panel("other", 3.0))
    joined = with_shelf(design, held, stock_of(held, []))
    assert [item.name for item in joined.array.shelf_modules] == ["Mine", "other"]


@pytest.mark.parametrize(
    ("document", "said"),
    [
        ([], "not a file of club stores"),
        ({"format": "yonderstat-shelf", "version": 9}, "must be 1"),
        ({"parts": [{"id": "a", "name": "A", "kind": "panel"}]}, "without “module”"),
        ({"parts": [panel("a"), panel("a")]}, "the same id"),
        (
            {"outings": [{"id": "o", "name": "O", "takes": [{"part": "x", "count": 1.0}]}]},
            "no such part",
        ),
        ({"outings": [{"id": "o", "name": "O", "first_day": "2026-02-31"}]}, "must be a day"),
        (
            {
                "outings": [
                    {"id": "o", "name": "O", "first_day": "2026-03-02", "last_day": "2026-03-01"}
                ]
            },
            "swap the two dates",
        ),
        ({"parts": [panel("a") | {"count": float("inf")}]}, "finite"),
    ],
)
def test_what_is_no_shelf_is_refused(document, said):
    whole = (
        {"format": "yonderstat-shelf", "version": 1} | document
        if isinstance(document, dict)
        else document
    )
    with pytest.raises(InvalidShelfError, match=said):
        shelf_from_document(whole)


def test_a_shelf_comes_back_as_it_was():
    held = shelf(
        panel(),
        battery("b", 100),
        {"id": "wire", "name": "Twin", "kind": "cable", "count": 30.0, "mm2": 4.0},
    )
    assert shelf_from_document(shelf_document_of(held)) == held


def test_a_twin_has_two_conductors_and_other_lines_take_from_it_too():
    design = design_from_document(PACKHORSE)
    twin = {"id": "twin", "name": "Twin", "kind": "cable", "count": 10.0, "mm2": 4.0, "cores": 2}
    found = {line: pick for (line, _), pick in picks(design, shelf(twin)).items()}
    cable = next(line for line in found if line.startswith("panel-cable-"))
    assert found[cable].takes == pytest.approx(17.6)
    assert found[cable].words == (
        "cut {8.8 m} of it for {17.6 m} of conductor; {17.6 m} of conductor needed"
    )
    taken = after(design, found[cable])
    rest = {line: pick for (line, _), pick in picks(taken, shelf(twin)).items()}
    assert rest["cable-1.50"].takes == pytest.approx(20.0 - 17.6)
    assert "cable-16.00" not in rest
    assert stock_of(shelf(twin), [use("twin", "one", "A", 17.6, cable)])[
        "twin"
    ].free == pytest.approx(10 - 8.8)


def test_a_fuse_of_another_family_is_not_offered():
    design = design_from_document(PACKHORSE)
    blade = {
        "id": "blade",
        "name": "Blade",
        "kind": "fuse",
        "count": 9.0,
        "fuse": "blade",
        "rating_a": 25.0,
    }
    lines = [line for line, _ in picks(design, shelf(blade))]
    assert lines == ["fuse-blade-25"]
    assert not picks(design, shelf(blade | {"fuse": None}))


def test_a_charger_for_lead_is_not_offered_to_lithium():
    charger = {"id": "charger", "name": "Charger", "amps": {"value": 10.0}}
    part = {
        "id": "old",
        "name": "Old",
        "kind": "charger",
        "charger": charger,
        "made_for": ["agm", "flooded"],
    }
    lithium = design_from_document(QUAY_STREET)
    line = f"charger-{lithium.array.chargers[0].id}"
    assert "it is made for" in picks(lithium, shelf(part))[line, "old"].words
    assert not picks(lithium, shelf(part))[line, "old"].patch
    assert picks(lithium, shelf(part | {"made_for": []}))[line, "old"].patch


def test_some_of_a_line_keep_the_designs_label():
    """Two spare panels of four: they are counted as there, and what was measured on them is not
    said of all four."""
    design = design_from_document(PACKHORSE)
    string = design.array.strings[0].model_copy(update={"parallel": 4})
    four = design.model_copy(
        update={"array": design.array.model_copy(update={"strings": [string]})}
    )
    held = shelf(panel("spare", 2.0, measured_v_oc={"value": 19.0, "basis": "measured"}))
    pick = picks(four, held)[f"panel-{string.id}", "spare"]
    assert (pick.takes, pick.needed, pick.fits) == (2, 4, True)
    taken = after(four, pick)
    assert taken.array.strings[0].module == string.module
    assert refreshed(taken, held, f"panel-{string.id}") == ()
