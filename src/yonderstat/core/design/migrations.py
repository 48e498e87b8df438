"""Documents that grow: what an older version said, said as this one does. Pure functions, one a
version.

To change the document: raise `VERSION`, add a function here that takes a document of the version
before, keep one of that version in tests/corpus, and write old → new into docs/decisions.
"""

from collections.abc import Callable
from copy import deepcopy
from typing import Any

VERSION = 3
Document = dict[str, Any]


def _guesses_of_the_climate_go(document: Document) -> None:
    """1 → 2: coldest and hottest were our constants unless somebody gave them; they are guessed
    from the climate."""
    brief = document.get("brief")
    if not isinstance(brief, dict):
        return
    for field in ("coldest_c", "hottest_c"):
        figure = brief.get(field)
        if isinstance(figure, dict) and figure.get("basis", "default") == "default":
            brief[field] = None


PANEL_WORDS = {
    "working_v": "v_mp",
    "open_v": "v_oc",
    "short_a": "i_sc",
    "open_pct_per_k": "v_oc_pct_per_k",
    "power_pct_per_k": "p_mp_pct_per_k",
    "measured_open_v": "measured_v_oc",
    "measured_short_a": "measured_i_sc",
}


BANK_WORDS = {"low_cut_v": "disconnect_v", "back_v": "reconnect_v"}


def _in_the_fields_words(document: Document) -> None:
    """2 → 3: a panel's figures carry the names its label has, a bank's cut-off those of the
    field."""
    array, store = document.get("array"), document.get("store")
    if isinstance(array, dict):
        for row in [*_rows(array.get("strings")), *_rows(array.get("shelf_modules"))]:
            _renamed(row, "module", PANEL_WORDS)
    if isinstance(store, dict):
        for row in [store, *_rows(store.get("layers"))]:
            _renamed(row, "bank", BANK_WORDS)


def _renamed(row: Document, part: str, words: dict[str, str]) -> None:
    if isinstance(row.get(part), dict):
        row[part] = {words.get(field, field): value for field, value in row[part].items()}


def _rows(value: Any) -> list[Document]:
    return [row for row in value if isinstance(row, dict)] if isinstance(value, list) else []


MIGRATIONS: dict[int, Callable[[Document], None]] = {
    1: _guesses_of_the_climate_go,
    2: _in_the_fields_words,
}


def readable_versions() -> tuple[int, ...]:
    """Every version this program reads, the newest last."""
    return (*MIGRATIONS, VERSION)


def migrated(document: Document) -> Document:
    """A document of any known version as one of the newest; the one given is left as it is."""
    version = document["version"]
    if version == VERSION:
        return document
    newer = deepcopy(document)
    while version != VERSION:
        MIGRATIONS[version](newer)
        version += 1
        newer["version"] = version
    return newer
