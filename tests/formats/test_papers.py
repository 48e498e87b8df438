"""The card for the wall and the parts list as files."""

import csv
import io
import re

import pytest
from pypdf import PdfReader

from tests.formats.test_one_line import DEMO, large
from yonderstat.core import evaluate
from yonderstat.core.design import Build, Design, OwnPart, design_from_document
from yonderstat.core.reader_units import ReaderUnits
from yonderstat.core.rehearse import years_report
from yonderstat.formats import (
    Paper,
    Sheet,
    card_html,
    card_pdf,
    report_html,
    report_pdf,
    write_parts,
)
from yonderstat.formats.design_report import _band
from yonderstat.formats.report_charts import (
    load_bars,
    month_strip,
    volts_of_loads,
    year_of_charge,
)


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
    assert words_of(card_pdf("Beech Hut", design, evaluate(design), Sheet(paper=paper)))[
        2
    ] == pytest.approx(width, abs=1.0)


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


def test_the_report_begins_with_an_answer_of_one_page() -> None:
    """Verdict, months, cost, weight, who answers and what to do first stand on the first sheet."""
    design = design_from_document(DEMO["the Packhorse"])
    design = design.model_copy(update={"build": design.build.model_copy(update={"call": "QY3RIM"})})
    report = evaluate(design)
    sheet = Sheet(stamp="The Packhorse, A, revision 7, saved 2026-12-01")
    pdf = report_pdf("The Packhorse", design, report, sheet, years_report(design))
    pages = [" ".join(page.extract_text().split()) for page in PdfReader(io.BytesIO(pdf)).pages]
    first, rest = pages[0], " ".join(pages[1:])
    assert len(pages) >= 4
    for words in (
        report.verdict.headline,
        "By month",
        "Who answers QY3RIM",
        "To do first",
        "Weight",
    ):
        assert words in first
    assert "Charge through the worst year" in first
    assert "Nice to have" in rest
    assert "comfort" not in rest
    assert all("revision 7, saved 2026-12-01" in page for page in pages)
    for run in report.bus.runs:
        assert run.name.split(",")[0] in rest
    assert report.cautions[0].text[:30] in rest
    assert report.sources["kirchhoff"].title[:20] in rest
    assert "How each figure was worked out" not in rest
    assert "{" not in report_html("x", design, report).split("</style>")[1]


@pytest.mark.parametrize(
    ("low", "high", "guessed", "told"),
    [
        (1994.2, 4573.0, True, "about 2,000 to 4,600"),
        (1994.2, 4573.0, False, "1,994 to 4,573"),
        (812.0, 812.0, False, "812"),
    ],
)
def test_a_guessed_sum_looks_no_surer_than_it_is(
    low: float, high: float, guessed: bool, told: str
) -> None:
    assert _band(low, high, guessed) == told


def test_formulas_are_told_where_they_are_asked_for() -> None:
    design = design_from_document(DEMO["the Packhorse"])
    report = evaluate(design)
    told = report_html("x", design, report, formulas=True)
    assert "How each figure was worked out" in told
    assert "Days it lasts without sun" in told.split("How each figure")[1]


def test_papers_are_tagged_for_those_who_listen() -> None:
    design = design_from_document(DEMO["Beech Hut"])
    report = evaluate(design)
    for pdf in (card_pdf("x", design, report), report_pdf("x", design, report)):
        assert PdfReader(io.BytesIO(pdf)).trailer["/Root"]["/MarkInfo"]["/Marked"]


def test_papers_speak_feet_and_gauges_to_those_who_do() -> None:
    """The Packhorse's 5 m are 16.4 ft: no metre and no °C is left in a paper for feet and °F."""
    design = design_from_document(DEMO["the Packhorse"])
    feet = Sheet(units=ReaderUnits(feet=True, fahrenheit=True))
    told = report_html("x", design, evaluate(design), feet).split("</style>")[1]
    told = told.split("<h2>Sources")[0]
    words = re.sub(r"<svg.*?</svg>|<[^>]+>", " ", told)
    assert "16.4 ft" in words
    assert not re.search(r"\d (m|km|kg|°C)\b", words)


def test_the_charts_draw_what_the_report_has() -> None:
    """A cell for each month, a bar for each load, three marks for each load with a range, and a
    mark under each day without power."""
    design = design_from_document(DEMO["the Packhorse"])
    report, years = evaluate(design), years_report(design)
    assert years
    worst = next(band for band in years.bands if band.name == "worst")
    with_share = [month for month in report.verdict.months if month.share]
    assert month_strip(report).count("<rect") == 12 + len(with_share)
    assert load_bars(design, report).count("<rect") == len(report.draw.loads)
    ranged = [load for load in report.bus.loads if load.low_v is not None]
    assert ranged
    assert volts_of_loads(report).count("<circle") == 3 * len(ranged)
    dark = sum(min(hours) <= 0 for hours in worst.percent)
    assert dark > 0
    assert year_of_charge(worst).count("<rect") == dark


def test_the_report_of_nothing_is_a_report() -> None:
    assert words_of(report_pdf("Nothing", Design(), evaluate(Design())))[0] >= 1
