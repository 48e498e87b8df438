"""Open formats in and out: places as people write them, contact logs, and the load ledger as a table."""

from .contact_log import ContactLogError, LogDigest, LogForm, Malformed, digest_log, mode_of
from .load_table import ReadTable, TableFault, read_loads, write_loads
from .places import PlaceText, PlaceTextError, locator_of, read_place

__all__ = [
    "ContactLogError",
    "LogDigest",
    "LogForm",
    "Malformed",
    "PlaceText",
    "PlaceTextError",
    "ReadTable",
    "TableFault",
    "digest_log",
    "locator_of",
    "mode_of",
    "read_loads",
    "read_place",
    "write_loads",
]
