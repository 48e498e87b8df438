"""The site card: one page for the wall, black on white, that a volunteer can read in the rain. PDF
out of HTML."""

from collections.abc import Sequence
from html import escape

from yonderstat.core import Report
from yonderstat.core.design import Design
from yonderstat.core.reader_units import ReaderUnits

from .one_line import one_line
from .papers import A4, Sheet, one_page_pdf, page, section, table

MOST_FUSES, MOST_DARK, MOST_STEPS, MOST_CAUTIONS, MOST_DRAWN = 24, 12, 7, 5, 14
STYLE = """
@page { size: %s; margin: 9mm }
body { font: 8.1pt/1.24 "DejaVu Sans", sans-serif; color: #000 }
h1 { font-size: 15pt; margin: 0 } h2 { font-size: 9.2pt; margin: 2.2mm 0 .8mm; border-bottom: .4mm solid #000 }
p { margin: .6mm 0 } ol, ul { margin: 0; padding-left: 4.4mm } table { border-collapse: collapse; width: 100%% }
td, th { text-align: left; padding: .15mm 1mm .15mm 0; vertical-align: top } td.n, th.n { text-align: right }
.verdict { font-size: 10pt; font-weight: bold } .columns { columns: 2; column-gap: 7mm }
section { break-inside: avoid } .drawing { margin-top: 3mm; break-inside: avoid }
.drawing svg { width: 100%%; height: auto; max-height: %smm }
.stop { border: .5mm solid #000; padding: 1mm 1.6mm; margin-top: 1.5mm }
"""


DRAWING_MM = (88, 66, 48, 0)
"""How high the diagram may be, until everything else has room on the page."""


def _list(items: Sequence[str], most: int, units: ReaderUnits, ordered: bool = True) -> str:
    kept = [f"<li>{escape(units.said(item))}</li>" for item in items[:most]]
    if len(items) > most:
        kept.append(f"<li>and {len(items) - most} more; see the app</li>")
    tag = "ol" if ordered else "ul"
    return f"<{tag}>{''.join(kept)}</{tag}>" if kept else ""


def _hours(value: float | None) -> str:
    if value is None:
        return "no limit"
    return f"{value:.0f} h" if value < 72 else f"{value / 24:.1f} days"


def _tempos(report: Report) -> str:
    rows = [
        (
            tempo.name,
            f"{report.number(tempo.daily_ah) or 0.0:.0f} Ah per day",
            _hours(report.number(tempo.hours)),
        )
        for tempo in report.tempo_runtime.tempos
        if tempo.hours
    ]
    return table(rows, frozenset({1, 2}))


def _fuses(report: Report) -> str:
    rows = [
        (
            f"F{run.number}",
            run.name[:34],
            "none" if run.fuse_kind == "none" else f"{report.working[run.fuse_a].number:g} A",
        )
        for run in report.bus.runs[:MOST_FUSES]
    ]
    if len(report.bus.runs) > MOST_FUSES:
        rows.append(("", f"and {len(report.bus.runs) - MOST_FUSES} more; see the app", ""))
    return table(rows, frozenset({2}))


def _resting(report: Report) -> str:
    if report.store is None:
        return ""
    return table(
        [
            (f"{row.rest_v:.2f} V", f"{100 * row.charge_share:.0f} %")
            for row in report.store.resting
        ][:11]
    )


def _settings(report: Report) -> str:
    if report.store is None:
        return ""
    setting = next(
        (item for item in report.store.settings if item.is_chosen), report.store.settings[0]
    )
    floats = "none" if setting.float_v is None else f"{setting.float_v:.1f} V"
    return table(
        [
            ("Absorb", f"{setting.absorb_v:.1f} V for {setting.absorb_h:.1f} h"),
            ("Float", floats),
            (
                "Cut off at the plan",
                f"{report.working[report.store.end_mean_v].number:.1f} V under the usual load",
            ),
            ("Or only against ruin", f"{setting.low_v:.1f} V"),
            ("Reconnect", f"{setting.back_v:.1f} V"),
        ]
    )


def _drawing(design: Design, report: Report, units: ReaderUnits) -> str:
    """The one-line diagram under the columns, where there is room for it."""
    if len(report.bus.runs) > MOST_DRAWN:
        return ""
    return f"<div class=drawing>{one_line(design, report, units).svg}</div>"


def card_html(
    site: str, design: Design, report: Report, sheet: Sheet = A4, drawing_mm: int = 88
) -> str:
    """The card as a page of HTML.

    Parameters
    ----------
    site : str
        The name of the site.
    sheet : Sheet
        How it is set.
    drawing_mm : int
        How high the diagram may be; 0 for a card without one.
    """
    units = sheet.units
    cards = {card.id: card for card in report.bus.cards}
    dark = next((item for item in report.build.checklists if item.id == "dark"), None)
    shed = [item.text for item in dark.items] if dark else []
    cautions = [
        caution.text for caution in report.cautions if caution.step in {"array", "store", "bus"}
    ]
    sections = [
        section("How long a full battery lasts without sun", _tempos(report)),
        section("Switch off first", _list(shed, MOST_DARK, units)),
        section(
            "Connect", _list([step.text for step in cards["connect"].steps], MOST_STEPS + 3, units)
        ),
        section(
            "Disconnect",
            _list([step.text for step in cards["disconnect"].steps], MOST_STEPS, units),
        ),
        section(
            "After a cut-off",
            _list([step.text for step in cards["restart"].steps], MOST_STEPS, units),
        ),
        section("Fuses", _fuses(report)),
        section("Resting volts and charge", _resting(report)),
        section("Charge controller settings", _settings(report)),
        section("Safety", _list(cautions, MOST_CAUTIONS, units, ordered=False)),
    ]
    call = (
        f"<p class=stop><b>Call:</b> {escape(design.build.call)}</p>" if design.build.call else ""
    )
    inside = (
        f"<h1>{escape(site[:60])}</h1><p>{escape(design.name[:80])}</p><p "
        f"class=verdict>{escape(units.said(report.verdict.headline))}</p>{call}<div "
        f"class=columns>{''.join(sections)}</div>"
        + (_drawing(design, report, units) if drawing_mm else "")
    )
    return page(site, STYLE % (sheet.size, drawing_mm), inside, sheet.stamp)


def card_pdf(site: str, design: Design, report: Report, sheet: Sheet = A4) -> bytes:
    """The card as a PDF of one page.

    Parameters
    ----------
    site : str
        The name of the site.
    sheet : Sheet
        How it is set.
    """
    return one_page_pdf(
        card_html(site, design, report, sheet, height_mm) for height_mm in DRAWING_MM
    )
