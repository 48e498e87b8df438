"""The report for the committee: verdict, findings, the diagram, runs, parts, and every figure with
its working."""

import re
from html import escape

from yonderstat.core import Report
from yonderstat.core.design import Design
from yonderstat.core.finding import SEVERITY_ORDER
from yonderstat.core.steps import STEPS
from yonderstat.core.words import plain
from yonderstat.core.working import Quantity

from .one_line import one_line
from .papers import SIZES, Paper, as_pdf, page, section, table

STYLE = """
@page { size: %s; margin: 14mm }
@page { @bottom-right { content: counter(page) " of " counter(pages); font: 7pt "DejaVu Sans" } }
body { font: 8.4pt/1.32 "DejaVu Sans", sans-serif; color: #000 }
h1 { font-size: 17pt; margin: 0 } h2 { font-size: 11pt; margin: 4mm 0 1mm; border-bottom: .4mm solid #000 }
h3 { font-size: 8.8pt; margin: 2mm 0 .4mm } p { margin: .6mm 0 }
table { border-collapse: collapse; width: 100%% }
td, th { text-align: left; padding: .3mm 1.4mm .3mm 0; vertical-align: top; border-bottom: .1mm solid #999 }
td.n, th.n { text-align: right }
.verdict { font-size: 12pt; font-weight: bold } .small { font-size: 7pt }
svg { width: 100%%; height: auto; max-height: 120mm }
"""
SEVERITIES = {"stop": "Stop", "fix": "Fix", "mind": "Note", "good": "Good"}
UNITS = {"A·h": "Ah", "W·h": "Wh", "share": "%", "money": ""}


def figure(quantity: Quantity | None) -> str:
    """A figure as it is read; a dash where there is none."""
    if quantity is None or quantity.value is None:
        return "–"
    value = 100.0 * quantity.value if quantity.unit == "share" else quantity.value
    unit = UNITS.get(quantity.unit, quantity.unit)
    return f"{value:,.3g} {unit}".strip() if abs(value) < 1000 else f"{value:,.0f} {unit}".strip()


def _figures(report: Report) -> str:
    rows = [
        (item.label, figure(report.working.get(item.key)), item.beside)
        for item in report.verdict.figures
    ]
    return table(rows, frozenset({1}))


def _findings(report: Report) -> str:
    labels = {step.id: step.label for step in STEPS}
    found = []
    for item in sorted(report.findings, key=lambda item: SEVERITY_ORDER.index(item.severity)):
        accepted = f" <i>Accepted: {escape(item.muted)}</i>" if item.muted else ""
        found.append(
            f"<h3>{SEVERITIES[item.severity]}, {escape(labels[item.step])}: "
            f"{escape(plain(item.sentence))}</h3><p>{escape(plain(item.why))}{accepted}</p>"
        )
    return "".join(found)


def _loads(design: Design, report: Report) -> str:
    found = {item.id: item for item in report.draw.loads}
    rows = [
        (
            load.name,
            load.tier or "",
            f"{load.receive_a.value:g} A",
            f"{load.transmit_a.value:g} A" if load.transmit_a else "",
            figure(report.working[found[load.id].daily_ah]),
        )
        for load in design.draw.loads
    ]
    return table(rows, frozenset({2, 3, 4}), ("Load", "Priority", "On", "Transmitting", "A day"))


def runs_table_html(report: Report) -> str:
    """Every run of wire, with what carries and protects it."""
    known = report.working
    rows = [
        (
            f"F{run.number}",
            run.name,
            run.fed_from_name,
            f"{run.length_m:.3g} m",
            f"{run.mm2:.3g} mm²",
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


def parts_table_html(design: Design, report: Report) -> str:
    """The parts list, with what is there and where it sits."""
    known, own = report.working, {part.id: part for part in design.build.parts}
    rows = [
        (
            line.name,
            figure(known[line.quantity]),
            figure(known[line.buy]),
            figure(known.get(line.cost or "")),
            figure(known.get(line.weight_kg or "")),
            own[line.id].where if line.id in own else "",
        )
        for line in report.build.lines
    ]
    return table(
        rows,
        frozenset({1, 2, 3, 4}),
        ("Part", "Needed", "Cost of what to buy", "Cost", "Weight", "Where"),
    )


OF_A_SERIES = re.compile(r"\.\d\d$|^bus\.walk\.|^parts\..*\.(quantity|buy|cost|kg)$")
"""Figures of a month, a hop or a part: told once above, not twelve times with the same working."""


def _workings(report: Report) -> str:
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
        label, how = escape(plain(quantity.label)), escape(quantity.formula)
        told.append(
            f"<p><b>{label}: {escape(figure(quantity))}</b> = {how}. {escape(inputs)} "
            f"[{escape(quantity.source)}]</p>"
        )
    # Paragraphs are set several times as fast as a table of as many rows.
    return f"<div class=small>{''.join(told)}</div>"


def _sources(report: Report) -> str:
    rows = [(key, source.title, source.mark) for key, source in report.sources.items()]
    return f"<div class=small>{table(rows)}</div>"


def report_html(site: str, design: Design, report: Report, paper: Paper = "a4") -> str:
    """The report as a page of HTML.

    Parameters
    ----------
    site : str
        The name of the site.
    paper : Paper
        The size of the sheet.
    """
    inside = (
        f"<h1>{escape(site)}</h1><p>{escape(design.name)}</p>"
        f"<p class=verdict>{escape(plain(report.verdict.headline))}</p>"
        f"<p>{escape(plain(report.verdict.rest))}</p>"
        + section("The verdict in figures", _figures(report))
        + section("Findings", _findings(report))
        + section("Loads", _loads(design, report))
        + section("Volts at every load", _volts(report))
        + section("One-line diagram", one_line(design, report).svg)
        + section("Cables and fuses", runs_table_html(report))
        + section("Parts", parts_table_html(design, report))
        + section("How each figure was worked out", _workings(report))
        + section("Sources", _sources(report))
        + (
            "<p>Check your local code. Where it asks for a licensed person, hire one. This "
            "plan is a calculation, not a guarantee.</p>"
        )
    )
    return page(site, STYLE % SIZES[paper], inside)


def report_pdf(site: str, design: Design, report: Report, paper: Paper = "a4") -> bytes:
    """The report as a PDF.

    Parameters
    ----------
    site : str
        The name of the site.
    paper : Paper
        The size of the sheet.
    """
    return as_pdf(report_html(site, design, report, paper))
