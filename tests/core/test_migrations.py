"""Old documents keep opening: a corpus of them, written by the programs of their time."""

import json
from pathlib import Path
from typing import Any

import pytest

from tests.doors import looked_at
from yonderstat.core import evaluate
from yonderstat.core.design import InvalidDesignError, design_from_document, document_of
from yonderstat.core.design.migrations import MIGRATIONS, VERSION, migrated, readable_versions
from yonderstat.demo.quay_street import QUAY_STREET

CORPUS = sorted((Path(__file__).resolve().parents[1] / "corpus").glob("*.yonderstat.json"))


def test_every_version_but_the_newest_has_a_document_and_a_way_on() -> None:
    kept = {json.loads(file.read_text())["version"] for file in CORPUS}
    assert kept == set(MIGRATIONS)
    assert set(MIGRATIONS) == set(range(1, VERSION))


@pytest.mark.parametrize("file", CORPUS, ids=lambda file: file.name)
def test_an_old_document_opens_is_judged_and_written_as_the_newest(file: Path) -> None:
    document = json.loads(file.read_text())
    before = json.dumps(document)
    design = design_from_document(document)
    assert json.dumps(document) == before
    looked_at(evaluate(design))
    written = document_of(design)
    assert written["version"] == VERSION
    assert design_from_document(written) == design


def test_a_guess_that_an_older_program_wrote_down_is_made_anew() -> None:
    """Version 1 held −10 °C marked as our guess: what was typed stays, the guess goes."""
    old: dict[str, Any] = QUAY_STREET | {"version": 1}
    typed = {"value": -6.0, "basis": "stated"}
    brief = {**QUAY_STREET["brief"], "coldest_c": {"value": -10.0}, "hottest_c": typed}
    design = design_from_document(old | {"brief": brief})
    assert design.brief.coldest_c is None
    assert design.brief.hottest_c is not None
    assert design.brief.hottest_c.value == -6.0


def test_a_panel_keeps_its_figures_under_the_names_of_its_label() -> None:
    """Version 2 said open_v, short_a and working_v of strings and of the shelf."""
    old = json.loads(
        next(
            file for file in CORPUS if file.name == "2026-11-26-packhorse.yonderstat.json"
        ).read_text()
    )
    design = design_from_document(old)
    for place in ("strings", "shelf_modules"):
        for was, row in zip(old["array"][place], getattr(design.array, place), strict=True):
            told = [
                was["module"][name]
                for name in ("open_v", "short_a", "working_v", "measured_open_v")
            ]
            held = [row.module.v_oc, row.module.i_sc, row.module.v_mp, row.module.measured_v_oc]
            assert [value and value["value"] for value in told] == [
                value and value.value for value in held
            ]
    assert any(row.module.measured_v_oc for row in design.array.shelf_modules)


def test_a_bank_keeps_the_volts_it_is_cut_off_at_under_the_names_of_the_field() -> None:
    bank = {"low_cut_v": {"value": 11.5}, "back_v": {"value": 12.6}}
    layers = [{"id": "two", "name": "Two", "bank": bank}]
    design = design_from_document(
        QUAY_STREET | {"version": 2, "store": {"bank": bank, "layers": layers}}
    )
    for held in (design.store.bank, design.store.layers[0].bank):
        assert held is not None
        assert (
            held.disconnect_v and held.disconnect_v.value,
            held.reconnect_v and held.reconnect_v.value,
        ) == (
            11.5,
            12.6,
        )


@pytest.mark.parametrize(
    "array", [7, [], {"strings": 3}, {"strings": [{"module": 3}]}, {"strings": [None]}]
)
def test_a_bad_old_array_is_refused_not_tripped_over(array: Any) -> None:
    with pytest.raises(InvalidDesignError):
        design_from_document(QUAY_STREET | {"version": 2, "array": array})


@pytest.mark.parametrize("version", [0, 4, -1, True, 1.0, "2", None])
def test_an_unknown_version_is_refused_with_those_that_are_read(version: Any) -> None:
    with pytest.raises(InvalidDesignError, match="must be one of 1, 2, 3"):
        design_from_document(QUAY_STREET | {"version": version})


def test_the_newest_is_not_touched() -> None:
    newest = {"version": VERSION}
    assert migrated(newest) is newest
    assert readable_versions()[-1] == VERSION


@pytest.mark.parametrize("brief", [7, None, [], {"coldest_c": 3}])
def test_a_bad_old_document_is_refused_not_tripped_over(brief: Any) -> None:
    with pytest.raises(InvalidDesignError):
        design_from_document(QUAY_STREET | {"version": 1, "brief": brief})
