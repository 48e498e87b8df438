"""The report for the committee: one page of answer, the charts, findings, the diagram, runs, parts,
cautions and sources; every figure with its formula is an appendix that is asked for."""

import re
from html import escape

from yonderstat.core import Report
from yonderstat.core.design import Design
from yonderstat.core.draw import TIER_NAMES
from yonderstat.core.finding import SEVERITY_ORDER, Finding, told_together
from yonderstat.core.reader_units import METRIC, ReaderUnits
from yonderstat.core.rehearse import YearsReport
from yonderstat.core.steps import STEPS
from yonderstat.core.working import Quantity

from .one_line import one_line
from .papers import A4, Sheet, as_pdf, page, section, table
from .report_charts import load_bars, month_strip, volts_of_loads, year_of_charge

STYLE = """
@page { size: %s; margin: 14mm }
body { font: 8.4pt/1.32 "DejaVu Sans", sans-serif; color: #000 }
h1 { font-size: 17pt; margin: 0 } h2 { font-size: 11pt; margin: 4mm 0 1mm; border-bottom: .4mm solid #000 }
h3 { font-size: 8.8pt; margin: 2mm 0 .4mm } p { margin: .6mm 0 }
table { border-collapse: collapse; width: 100%% }
td, th { text-align: left; padding: .3mm 1.4mm .3mm 0; vertical-align: top; border-bottom: .1mm solid #999 }
td.n, th.n { text-align: right }
.verdict { font-size: 12pt; font-weight: bold } .small { font-size: 7pt }
.next { break-before: page } section.chart { break-inside: avoid }
svg { width: 100%%; height: auto; max-height: 120mm }
"""
SEVERITIES = {"stop": "Stop", "fix": "Fix", "mind": "Note", "good": "Good"}
MOST_FIRST = 3
"""Of what is to be done first, on the first page."""


def figure(quantity: Quantity | None, units: ReaderUnits = METRIC) -> str:
    """A figure as it is read; a dash where there is none."""
    if quantity is None or quantity.value is None:
        return "–"
    return units.figure(quantity.value, quantity.unit)


def _figures(design: Design, report: Report, units: ReaderUnits) -> str:
    known, build = report.working, report.build
    rows = [
        (item.label, figure(known.get(item.key), units), item.beside)
        for item in report.verdict.figures
    ]
    if build.sum_low and build.sum_high:
        low, high = (known[key].number for key in (build.sum_low, build.sum_high))
        guessed = any(line.guess_low for line in build.lines)
        cost = _band(low, high, guessed)
        rows.append(("Cost of what is to be bought", cost, build.sum_currency))
    if build.weight_kg:
        weight = figure(known[build.weight_kg], units)
        rows.append(("Weight", weight, "of the parts whose weight is known"))
    if design.build.call:
        rows.append(("Who answers", design.build.call, ""))
    return table(rows, frozenset({1}))


def _band(low: float, high: float, guessed: bool) -> str:
    """From and to; of guesses two figures that matter, so that they look no surer than they are."""
    if guessed:
        return f"about {float(f'{low:.2g}'):,.0f} to {float(f'{high:.2g}'):,.0f}"
    return f"{low:,.0f}" if round(low) == round(high) else f"{low:,.0f} to {high:,.0f}"


def _first(report: Report, units: ReaderUnits) -> str:
    """What is to be done first: the gravest that nobody lives with."""
    grave = [
        item for item in report.findings if item.severity in {"stop", "fix"} and not item.muted
    ]
    ranked = sorted(grave, key=lambda item: SEVERITY_ORDER.index(item.severity))
    told = [
        f"<li>{SEVERITIES[group[0].severity]}: {escape(units.said(_head(group)))}</li>"
        for group in told_together(ranked)
    ]
    more = len(told) - MOST_FIRST
    rest = f"<p>{more} more under Findings.</p>" if more > 0 else ""
    return f"<ol>{''.join(told[:MOST_FIRST])}</ol>{rest}" if told else ""


def _head(group: tuple[Finding, ...]) -> str:
    return group[0].alike if len(group) > 1 else group[0].sentence


def _findings(report: Report, units: ReaderUnits) -> str:
    labels = {step.id: step.label for step in STEPS}
    ranked = sorted(report.findings, key=lambda item: SEVERITY_ORDER.index(item.severity))
    found = []
    for group in told_together(ranked):
        first, several = group[0], len(group) > 1
        each = "".join(f"<li>{escape(units.said(item.sentence))}</li>" for item in group)
        whys = "".join(
            f"<p>{escape(units.said(why))}</p>" for why in dict.fromkeys(item.why for item in group)
        )
        accepted = "".join(
            f"<p><i>Accepted: {escape(reason)}</i></p>"
            for reason in dict.fromkeys(item.muted for item in group if item.muted)
        )
        found.append(
            f"<h3>{SEVERITIES[first.severity]}, {escape(labels[first.step])}: "
            f"{escape(units.said(_head(group)))}</h3>"
            f"{f'<ul>{each}</ul>' if several else ''}{whys}{accepted}"
        )
    return "".join(found)


def _loads(design: Design, report: Report) -> str:
    found = {item.id: item for item in report.draw.loads}
    rows = [
        (
            load.name,
            TIER_NAMES[load.tier] if load.tier else "",
            f"{load.receive_a.value:g} A",
            f"{load.transmit_a.value:g} A" if load.transmit_a else "",
            figure(report.working[found[load.id].daily_ah]),
        )
        for load in design.draw.loads
    ]
    return table(rows, frozenset({2, 3, 4}), ("Load", "Priority", "On", "Transmitting", "A day"))


def runs_table_html(report: Report, units: ReaderUnits = METRIC) -> str:
    """Every run of wire, with what carries and protects it."""
    known = report.working
    rows = [
        (
            f"F{run.number}",
            run.name,
            run.fed_from_name,
            units.length(run.length_m),
            units.wire(run.mm2),
            "none"
            if run.fuse_kind == "none"
            else f"{run.fuse_label} {known[run.fuse_a].number:g} A",
            figure(known[run.peak_a]),
            figure(known[run.drop_v]),
            figure(known[run.ampacity_a]),
        )
        for run in report.bus.runs
    ]
    heading = (
        "",
        "Run",
        "Fed from",
        "One way",
        "Wire",
        "Fuse",
        "Current",
        "Voltage drop",
        "Wire may carry",
    )
    return table(rows, frozenset({3, 4, 6, 7, 8}), heading)


def _volts(report: Report) -> str:
    known = report.working
    rows = [
        (
            load.name,
            load.window or "not said",
            *(figure(known[key]) for key in (*load.receive_v, *load.keyed_v)),
        )
        for load in report.bus.loads
    ]
    heading = (
        "Load",
        "Voltage range",
        "Receiving, full",
        "half",
        "lowest",
        "Transmitting, full",
        "half",
        "lowest",
    )
    return table(rows, frozenset(range(2, 8)), heading)


def parts_table_html(design: Design, report: Report, units: ReaderUnits = METRIC) -> str:
    """The parts list, with what is there and where it sits."""
    known, own = report.working, {part.id: part for part in design.build.parts}
    rows = [
        (
            line.name,
            figure(known[line.quantity], units),
            figure(known[line.buy], units),
            figure(known.get(line.cost or "")),
            figure(known.get(line.weight_kg or ""), units),
            own[line.id].where if line.id in own else "",
        )
        for line in report.build.lines
    ]
    return table(
        rows,
        frozenset({1, 2, 3, 4}),
        ("Part", "Needed", "To buy", "Cost", "Weight", "Where"),
    )


OF_A_SERIES = re.compile(r"\.\d\d$|^bus\.walk\.|^parts\..*\.(quantity|buy|cost|kg)$")
"""Figures of a month, a hop or a part: told once above, not twelve times with the same working."""


def _workings(report: Report, units: ReaderUnits) -> str:
    """Every figure that is not one of a series: what it is, how it came about, and from what."""
    told = []
    for quantity in report.working.values():
        if OF_A_SERIES.search(quantity.key):
            continue
        inputs = "; ".join(
            f"{item.symbol} {item.value:.4g} {item.unit} ({item.origin})".replace("  ", " ")
            for item in quantity.inputs
            if item.value is not None
        )
        label, how = escape(units.said(quantity.label)), escape(quantity.formula)
        told.append(
            f"<p><b>{label}: {escape(figure(quantity, units))}</b> = {how}. {escape(inputs)} "
            f"[{escape(quantity.source)}]</p>"
        )
    # Paragraphs are set several times as fast as a table of as many rows.
    return f"<div class=small>{''.join(told)}</div>"


def _sources(report: Report) -> str:
    rows = [(key, source.title, source.mark) for key, source in report.sources.items()]
    return f"<div class=small>{table(rows)}</div>"


def _worst_year(years: YearsReport | None) -> str:
    """The year in which most is missing, and what it comes to."""
    worst = next((band for band in years.bands if band.name == "worst"), None) if years else None
    if years is None or worst is None:
        return ""
    marked = " A black mark is a day that loses power." if min(map(min, worst.percent)) <= 0 else ""
    told = f"The lowest charge of each day. {years.band_sentence}{marked}"
    return f"<p>{escape(told)}</p>{year_of_charge(worst)}"


def _charts(design: Design, report: Report) -> str:
    """The charts, each with what it shows in words."""
    told = [
        ("Amp-hours a day by load", report.draw.share_takeaway, load_bars(design, report)),
        (
            "Volts at each load",
            "Black: battery full. Grey: half of what may be used. White: lowest charge allowed. "
            "The stroke is what the load needs.",
            volts_of_loads(report),
        ),
    ]
    return "".join(
        f"<section class=chart><h3>{escape(title)}</h3><p>{escape(words)}</p>{svg}</section>"
        for title, words, svg in told
        if svg
    )


def _cautions(report: Report, units: ReaderUnits) -> str:
    told = dict.fromkeys(caution.text for caution in report.cautions)
    items = "".join(f"<li>{escape(units.said(text))}</li>" for text in told)
    return f"<ul>{items}</ul>" if items else ""


LOCAL_CODE = (
    "Check your local code. Where it asks for a licensed person, hire one. This plan is a "
    "calculation, not a guarantee."
)


def report_html(
    site: str,
    design: Design,
    report: Report,
    sheet: Sheet = A4,
    years: YearsReport | None = None,
    formulas: bool = False,
) -> str:
    """The report as a page of HTML.

    Parameters
    ----------
    site : str
        The name of the site.
    sheet : Sheet
        How it is set.
    years : YearsReport, optional
        The weather years, for the chart of the worst of them.
    formulas : bool
        Whether every figure is told with its formula and inputs at the end.
    """
    units, verdict = sheet.units, report.verdict
    answer = (
        f"<h1>{escape(site)}</h1><p>{escape(design.name)}</p>"
        f"<p class=verdict>{escape(units.said(verdict.headline))}</p>"
        f"<p>{escape(units.said(verdict.rest))} {escape(verdict.judged_on)}</p>"
        + section("By month", f"<p>Per cent {escape(verdict.share_of)}</p>{month_strip(report)}")
        + section("In figures", _figures(design, report, units))
        + section("To do first", _first(report, units))
        + section("Charge through the worst year", _worst_year(years))
        + f"<p>{LOCAL_CODE}</p>"
    )
    more = (
        section("Charts", _charts(design, report))
        + section("Findings", _findings(report, units))
        + section("Loads", _loads(design, report))
        + section("Volts at every load", _volts(report))
        + section("One-line diagram", one_line(design, report, units).svg)
        + section("Cables and fuses", runs_table_html(report, units))
        + section("Parts", parts_table_html(design, report, units))
        + section("Cautions", _cautions(report, units))
        + section("Sources", _sources(report))
    )
    if formulas:
        more += section("How each figure was worked out", _workings(report, units))
    inside = f"{answer}<div class=next>{more}</div>"
    return page(site, STYLE % sheet.size, inside, sheet.stamp)


def report_pdf(
    site: str,
    design: Design,
    report: Report,
    sheet: Sheet = A4,
    years: YearsReport | None = None,
    formulas: bool = False,
) -> bytes:
    """The report as a PDF; see `report_html`.

    Parameters
    ----------
    site : str
        The name of the site.
    sheet : Sheet
        How it is set.
    years : YearsReport, optional
        The weather years.
    formulas : bool
        Whether every figure is told with its formula.
    """
    return as_pdf(report_html(site, design, report, sheet, years, formulas))
