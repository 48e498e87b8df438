"""What a file taken away is called: the site and the design, so that a folder of many stays
readable."""

import re
import unicodedata

from yonderstat.records import StoredDesign

MOST_PART = 60


def slug(name: str) -> str:
    """A name in small plain letters, with hyphens; empty where it has none."""
    letters = unicodedata.normalize("NFKD", name.lower()).encode("ascii", "ignore").decode()
    return re.sub(r"[^a-z0-9]+", "-", letters).strip("-")[:MOST_PART].strip("-")


def file_name(stored: StoredDesign) -> str:
    """The site and the design, as the beginning of a file's name."""
    document = stored.document
    named = str(document.get("name", "") if isinstance(document, dict) else "")
    return "-".join(part for part in (slug(stored.site_name), slug(named)) if part) or "design"
