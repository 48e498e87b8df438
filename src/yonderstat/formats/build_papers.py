"""Papers of Build that are one table each: the parts list, the cable and fuse schedule, and labels
to cut out."""

from html import escape

from yonderstat.core import Report
from yonderstat.core.design import NO_BANK_V, Design

from .design_report import figure, parts_table_html, runs_table_html
from .papers import A4, Sheet, as_pdf, page, section

STYLE = """
@page { size: %s; margin: 12mm }
body { font: 8.6pt/1.34 "DejaVu Sans", sans-serif; color: #000 }
h1 { font-size: 15pt; margin: 0 } h2 { font-size: 10.5pt; margin: 4mm 0 1mm; border-bottom: .4mm solid #000 }
p { margin: .6mm 0 } table { border-collapse: collapse; width: 100%% } thead { display: table-header-group }
td, th { text-align: left; padding: .5mm 1.4mm .5mm 0; vertical-align: top; border-bottom: .1mm solid #999 }
td.n, th.n { text-align: right } tr { break-inside: avoid }
.labels { display: grid; grid-template-columns: repeat(3, 1fr); gap: 3mm }
.label { border: .5mm solid #000; padding: 2mm; break-inside: avoid; min-height: 17mm }
.label b { font-size: 13pt } .big { font-size: 10.5pt; font-weight: bold }
"""


def _titled(title: str, site: str, design: Design, inside: str, sheet: Sheet) -> str:
    head = f"<h1>{escape(title)}</h1><p>{escape(site)}, {escape(design.name)}</p>"
    return page(f"{title}, {site}", STYLE % sheet.size, head + inside, sheet.stamp)


def parts_html(site: str, design: Design, report: Report, sheet: Sheet = A4) -> str:
    """The parts list as a page of HTML.

    Parameters
    ----------
    site : str
        The name of the site.
    sheet : Sheet
        How it is set.
    """
    known = report.working
    named = (
        ("To buy, at least", report.build.sum_low),
        ("To buy, at most", report.build.sum_high),
        ("Weight of parts whose weight is known", report.build.weight_kg),
    )
    sums = [f"{words}: {figure(known[key], sheet.units)}" for words, key in named if key]
    currency = f" Prices in {report.build.sum_currency}." if report.build.sum_low else ""
    told = f"{sheet.units.said(report.build.takeaway)} {'. '.join(sums)}.{currency}"
    inside = f"<p>{escape(told)}</p>{parts_table_html(design, report, sheet.units)}"
    return _titled("Parts list", site, design, inside, sheet)


def schedule_html(site: str, design: Design, report: Report, sheet: Sheet = A4) -> str:
    """The cable and fuse schedule as a page of HTML.

    Parameters
    ----------
    site : str
        The name of the site.
    sheet : Sheet
        How it is set.
    """
    inside = (
        f"<p>Sizes from {escape(report.bus.tradition_label)} tables. Your local code has "
        f"the last word.</p>{runs_table_html(report, sheet.units)}"
    )
    return _titled("Cable and fuse schedule", site, design, inside, sheet)


def labels_html(site: str, design: Design, report: Report, sheet: Sheet = A4) -> str:
    """Labels to cut out: one a fuse, and those that warn.

    Parameters
    ----------
    site : str
        The name of the site.
    sheet : Sheet
        How it is set.
    """
    known = report.working
    fuses = [
        f"<div class=label><b>F{run.number}</b> {escape(sheet.units.said(run.name))}<br>"
        f"<span class=big>{known[run.fuse_a].number:g} A {escape(run.fuse_label)}</span><br>"
        f"{sheet.units.wire(run.mm2)}, {sheet.units.length(run.length_m)} one way</div>"
        for run in report.bus.runs
        if run.fuse_kind != "none"
    ]
    bank = design.store.bank
    volts = bank.series * bank.unit_v if bank else NO_BANK_V
    warned = [
        f"<div class=label><span class=big>{words}</span><br>{more}</div>"
        for words, more in (
            (
                f"Battery, {volts:g} V DC",
                (
                    "A short circuit here melts tools. Take off rings, insulate tools, cover the "
                    "terminals."
                ),
            ),
            (
                "Connect the battery first, then the panels",
                "Disconnect the panels first, then the battery.",
            ),
            (
                "Panels are live in any light",
                (
                    "A DC arc doesn't go out by itself: open the panel switch before you pull a "
                    "connector."
                ),
            ),
        )
    ]
    inside = section("Fuses", f"<div class=labels>{''.join(fuses)}</div>" if fuses else "")
    inside += section(
        "For battery, controller and panels", f"<div class=labels>{''.join(warned)}</div>"
    )
    return _titled("Labels", site, design, inside, sheet)


SHEETS = {"parts": parts_html, "schedule": schedule_html, "labels": labels_html}


def sheet_pdf(kind: str, site: str, design: Design, report: Report, sheet: Sheet = A4) -> bytes:
    """One of the sheets as a PDF: `parts`, `schedule` or `labels`.

    Parameters
    ----------
    kind : str
        Which sheet.
    site : str
        The name of the site.
    sheet : Sheet
        How it is set.
    """
    return as_pdf(SHEETS[kind](site, design, report, sheet))
