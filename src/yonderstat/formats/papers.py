"""What the papers share: HTML set as PDF, black on white, that brings nothing in from outside."""

from collections.abc import Iterable, Sequence
from html import escape
from typing import Literal

Paper = Literal["a4", "letter"]
SIZES = {"a4": "210mm 297mm", "letter": "8.5in 11in"}


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


def page(title: str, style: str, inside: str) -> str:
    """A whole document.

    Parameters
    ----------
    style : str
        Its style sheet.
    inside : str
        What stands in its body.
    """
    return (
        f"<!doctype html><html lang=en><head><meta charset=utf-8><title>{escape(title)}</title>"
        f"<style>{style}</style></head><body>{inside}</body></html>"
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
    return bytes(set_.write_pdf())


def as_pdf(html: str) -> bytes:
    """HTML set as PDF."""
    # It takes half a second to import, and few people print.
    from weasyprint import HTML

    return bytes(HTML(string=html, url_fetcher=_nothing_from_outside).write_pdf())
