"""Documents that grow: what an older version said, said as this one does. Pure functions, one a version.

To change the document: raise `VERSION`, add a function here that takes a document of the version before, keep one of
that version in tests/corpus, and write old → new into docs/decisions.
"""

from collections.abc import Callable
from copy import deepcopy
from typing import Any

VERSION = 2
Document = dict[str, Any]


def _guesses_of_the_climate_go(document: Document) -> None:
    """1 → 2: coldest and hottest were our constants unless somebody gave them; they are guessed from the climate."""
    brief = document.get("brief")
    if not isinstance(brief, dict):
        return
    for field in ("coldest_c", "hottest_c"):
        figure = brief.get(field)
        if isinstance(figure, dict) and figure.get("basis", "default") == "default":
            brief[field] = None


MIGRATIONS: dict[int, Callable[[Document], None]] = {1: _guesses_of_the_climate_go}


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
