"""What the papers share: HTML set as PDF, black on white, that brings nothing in from outside."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from html import escape
from typing import Literal

from yonderstat.core.reader_units import METRIC, ReaderUnits

Paper = Literal["a4", "letter"]
SIZES = {"a4": "210mm 297mm", "letter": "8.5in 11in"}
FOOT = """
@page { @bottom-left { content: element(stamp) }
  @bottom-right { content: counter(page) " of " counter(pages); font: 7pt "DejaVu Sans" } }
.stamp { position: running(stamp); font: 7pt "DejaVu Sans" }
"""


@dataclass(frozen=True, slots=True, kw_only=True)
class Sheet:
    """How a paper is set: its size, the units of whoever reads it, and what stands at the foot of
    every sheet."""

    paper: Paper = "a4"
    units: ReaderUnits = METRIC
    stamp: str = ""

    @property
    def size(self) -> str:
        """Of the sheet, as a style sheet has it."""
        return SIZES[self.paper]


A4 = Sheet()


def section(title: str, inside: str) -> str:
    """A titled part; nothing where there is nothing in it."""
    return f"<section><h2>{escape(title)}</h2>{inside}</section>" if inside else ""


def table(
    rows: Iterable[Sequence[str]],
    numbers: frozenset[int] = frozenset(),
    heading: Sequence[str] = (),
) -> str:
    """A table of texts; the columns named in `numbers` stand to the right.

    Parameters
    ----------
    numbers : frozenset[int]
        Columns whose texts stand to the right.
    heading : sequence of str
        Over the columns.
    """

    def line(cells: Sequence[str], tag: str) -> str:
        told = (
            f"<{tag}{' class=n' if n in numbers else ''}>{escape(cell)}</{tag}>"
            for n, cell in enumerate(cells)
        )
        return f"<tr>{''.join(told)}</tr>"

    body = "".join(line(row, "td") for row in rows)
    head = f"<thead>{line(heading, 'th')}</thead>" if heading and body else ""
    return f"<table>{head}<tbody>{body}</tbody></table>" if body else ""


def page(title: str, style: str, inside: str, stamp: str = "") -> str:
    """A whole document.

    Parameters
    ----------
    style : str
        Its style sheet.
    inside : str
        What stands in its body.
    stamp : str
        What stands at the foot of each of its sheets.
    """
    foot = f"<div class=stamp>{escape(stamp)}</div>"
    return (
        f"<!doctype html><html lang=en><head><meta charset=utf-8><title>{escape(title)}</title>"
        f"<style>{style}{FOOT}</style></head><body>{foot}{inside}</body></html>"
    )


def _nothing_from_outside(url: str) -> dict[str, str]:
    raise ValueError(f"printed papers may not load files from outside: {url}")


def one_page_pdf(tries: Iterable[str]) -> bytes:
    """The first of several settings of a sheet that fits on one page, as PDF; else the last.

    Parameters
    ----------
    tries : iterable of str
        HTML, the roomiest first.
    """
    from weasyprint import HTML

    set_ = None
    for html in tries:
        set_ = HTML(string=html, url_fetcher=_nothing_from_outside).render()
        if len(set_.pages) == 1:
            break
    if set_ is None:
        raise ValueError("there is nothing to set")
    return bytes(set_.write_pdf(pdf_tags=True))


def as_pdf(html: str) -> bytes:
    """HTML set as PDF."""
    # It takes half a second to import, and few people print.
    from weasyprint import HTML

    return bytes(HTML(string=html, url_fetcher=_nothing_from_outside).write_pdf(pdf_tags=True))
