"""The one-line diagram: valid SVG, nothing written over anything else, whatever the station."""

from typing import Any
from xml.etree import ElementTree

import pytest

from tests.samples import load, with_loads
from yonderstat.core import evaluate
from yonderstat.core.design import (
    BusRun,
    Design,
    KnownLength,
    KnownUsableShare,
    KnownVolts,
    Layer,
    Rail,
    design_from_document,
    with_array,
    with_bus,
    with_draw,
    with_store,
)
from yonderstat.core.reader_units import ReaderUnits
from yonderstat.demo.beech_hut import BEECH_HUT
from yonderstat.demo.ferry_road import FERRY_ROAD
from yonderstat.demo.harrier_ridge import HARRIER_AS_BUILT
from yonderstat.demo.packhorse import PACKHORSE
from yonderstat.demo.patrol import PATROL_2
from yonderstat.demo.quay_street import QUAY_STREET
from yonderstat.formats import Drawing, one_line

DEMO = {
    "Harrier Ridge": HARRIER_AS_BUILT,
    "Quay Street": QUAY_STREET,
    "the Packhorse": PACKHORSE,
    "Patrol 2": PATROL_2,
    "Beech Hut": BEECH_HUT,
    "Ferry Road": FERRY_ROAD,
}


def large() -> Design:
    """Three strings, two banks, twenty loads with long names, two converters and a block of its
    own."""
    base = design_from_document(PACKHORSE)
    string = base.array.strings[0]
    strings = [
        string.model_copy(update={"id": f"s{number}", "name": f"String {number} " * 4})
        for number in range(3)
    ]
    rail = Rail(
        id="up",
        name="Booster",
        volts=KnownVolts(value=13.8),
        efficiency=KnownUsableShare(value=0.9),
    )
    loads = [
        load(f"l{number}", 0.5, transmit_a=5.0, rail="up" if number == 19 else "bus").model_copy(
            update={"name": f"A load with rather a long name, the {number}th of them"}
        )
        for number in range(20)
    ]
    design = with_draw(
        with_loads(with_array(base, strings=strings), *loads), rails=[rail], loads=loads
    )
    design = with_store(design, layers=[Layer(id="second", name="Second battery")])
    runs = [
        BusRun(id="block-2", name="Desk block", length_m=KnownLength(value=3.0)),
        *(BusRun(id=f"load-l{number}", fed_from="block-2") for number in range(10, 15)),
    ]
    return with_bus(design, runs=runs)


def drawn(design: Design, feet: bool = False) -> Drawing:
    return one_line(design, evaluate(design), ReaderUnits(feet=feet))


def overlaps(drawing: Drawing) -> list[tuple[str, str]]:
    labels = drawing.labels
    return [
        (a.text, b.text)
        for number, a in enumerate(labels)
        for b in labels[number + 1 :]
        if a.meets(b)
    ]


@pytest.mark.parametrize("name", DEMO)
@pytest.mark.parametrize("feet", [False, True])
def test_the_demo_is_drawn_with_its_labels_apart(name: str, feet: bool) -> None:
    drawing = drawn(design_from_document(DEMO[name]), feet)
    assert overlaps(drawing) == []
    root = ElementTree.fromstring(drawing.svg)
    assert root.tag == "{http://www.w3.org/2000/svg}svg"
    assert all(item.x >= 0 and item.x + item.width <= drawing.width for item in drawing.labels)
    assert all(item.y <= drawing.height for item in drawing.labels)


def test_a_large_station_is_drawn_on_one_page() -> None:
    drawing = drawn(large())
    assert overlaps(drawing) == []
    assert all(item.x + item.width <= drawing.width + 1e-6 for item in drawing.labels)
    texts = " ".join(item.text for item in drawing.labels)
    assert "Desk block" in texts
    assert "Second battery" in texts


def test_every_fuse_is_on_it_by_its_number_and_a_missing_one_is_said() -> None:
    design = design_from_document(BEECH_HUT)
    report = evaluate(design)
    texts = [item.text for item in one_line(design, report).labels]
    for run in report.bus.runs:
        said = "no fuse" if run.fuse_kind == "none" else f"F{run.number} "
        assert any(text.startswith(said) for text in texts), run.id


def test_feet_and_gauges_for_those_who_think_in_them() -> None:
    texts = " ".join(
        item.text for item in drawn(design_from_document(QUAY_STREET), feet=True).labels
    )
    assert " ft" in texts
    assert " m " not in f"{texts} "


def test_a_name_is_text_and_never_markup() -> None:
    document: dict[str, Any] = {**QUAY_STREET, "draw": {**QUAY_STREET["draw"]}}
    design = design_from_document(document)
    wicked = design.draw.loads[0].model_copy(update={"name": "<script>x</script>&"})
    svg = drawn(with_draw(design, loads=[wicked, *design.draw.loads[1:]])).svg
    assert "<script>" not in svg
    ElementTree.fromstring(svg)


def test_a_station_without_anything_is_drawn() -> None:
    assert "No battery yet" in drawn(Design()).svg


def test_every_panel_is_on_it_whoever_has_the_controller() -> None:
    """A second string on a shared controller was left out."""
    design = design_from_document(QUAY_STREET)
    one = design.array.strings[0]
    two = one.model_copy(update={"id": "two", "name": "South wall", "joins": one.id, "parallel": 3})
    three = one.model_copy(update={"id": "three", "name": "Garage roof", "joins": one.id})
    array = design.array.model_copy(update={"strings": [one, two, three]})
    drawing = drawn(design.model_copy(update={"array": array}))
    texts = [item.text for item in drawing.labels]
    assert {"South wall", "Garage roof", one.name} <= set(texts)
    assert overlaps(drawing) == []
    # A panel is the only thing whose inner line begins at its left edge and comes back to it.
    assert drawing.svg.count('<rect x="15"') == 3
    assert all(item.y <= drawing.height for item in drawing.labels)
