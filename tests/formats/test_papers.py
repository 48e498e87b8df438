"""The card for the wall and the parts list as files."""

import csv
import io

import pytest
from pypdf import PdfReader

from tests.formats.test_one_line import DEMO, large
from yonderstat.core import evaluate
from yonderstat.core.design import Build, Design, OwnPart, design_from_document
from yonderstat.formats import Paper, card_html, card_pdf, report_html, report_pdf, write_parts


def words_of(pdf: bytes) -> tuple[int, str, float]:
    """Pages, text and width of the first page in points."""
    reader = PdfReader(io.BytesIO(pdf))
    text = " ".join(page.extract_text() for page in reader.pages)
    return len(reader.pages), text, float(reader.pages[0].mediabox.width)


@pytest.mark.parametrize("name", DEMO)
def test_the_card_of_every_demo_site_is_one_page(name: str) -> None:
    design = design_from_document(DEMO[name])
    report = evaluate(design)
    pages, text, _ = words_of(card_pdf(name, design, report))
    assert pages == 1
    for word in ("Connect", "Disconnect", "Fuses", report.verdict.headline.split()[0]):
        assert word in text


def test_a_large_station_still_has_a_card_of_one_page() -> None:
    design = large()
    pages, text, _ = words_of(
        card_pdf("A site with a name that goes on and on " * 4, design, evaluate(design))
    )
    assert pages == 1
    assert "more; see the app" in text


@pytest.mark.parametrize(("paper", "width"), [("a4", 595.0), ("letter", 612.0)])
def test_papers_of_both_sizes(paper: Paper, width: float) -> None:
    design = design_from_document(DEMO["Beech Hut"])
    assert words_of(card_pdf("Beech Hut", design, evaluate(design), paper))[2] == pytest.approx(
        width, abs=1.0
    )


def test_a_name_is_text_and_brings_nothing_in() -> None:
    design = design_from_document(DEMO["Beech Hut"]).model_copy(
        update={"build": Build(call="<img src=file:///etc/passwd>")}
    )
    html = card_html("<script>x</script>", design, evaluate(design))
    assert "<script>" not in html
    assert "<img" not in html
    assert words_of(card_pdf("<b>&", design, evaluate(design)))[0] == 1


def test_a_design_without_anything_has_a_card() -> None:
    assert words_of(card_pdf("Nothing", Design(), evaluate(Design())))[0] == 1


def test_the_parts_list_reads_back_as_it_stands() -> None:
    own = OwnPart(id="battery-main", have=1.0, where="=HYPERLINK(1)")
    design = design_from_document(DEMO["Quay Street"]).model_copy(
        update={"build": Build(parts=[own])}
    )
    report = evaluate(design)
    rows = list(csv.DictReader(io.StringIO(write_parts(design, report))))
    assert [row["part"] for row in rows] == [line.name for line in report.build.lines]
    battery = next(row for row in rows if row["part"].startswith("Battery"))
    assert (battery["needed"], battery["there"], battery["to_buy"]) == ("1", "1", "0")
    assert battery["where"] == "'=HYPERLINK(1)"


def test_the_report_holds_verdict_findings_runs_parts_and_workings() -> None:
    design = design_from_document(DEMO["the Packhorse"])
    report = evaluate(design)
    pages, text, _ = words_of(report_pdf("The Packhorse", design, report))
    flat = " ".join(text.split())
    assert pages >= 4
    assert report.verdict.headline in flat
    for run in report.bus.runs:
        assert run.name.split(",")[0] in flat
    assert "Days it lasts without sun" in flat
    assert report.sources["kirchhoff"].title[:20] in flat
    assert "{" not in report_html("x", design, report).split("</style>")[1]


def test_the_report_of_nothing_is_a_report() -> None:
    assert words_of(report_pdf("Nothing", Design(), evaluate(Design())))[0] >= 1
