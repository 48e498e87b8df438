"""Open formats in and out: places as people write them, contact logs, weather files, the load ledger as a table."""

from .card import card_html, card_pdf
from .contact_log import ContactLogError, LogDigest, LogForm, Malformed, digest_log, mode_of
from .design_report import report_html, report_pdf
from .load_table import ReadTable, TableFault, read_loads, write_loads
from .one_line import Drawing, Label, one_line
from .papers import Paper
from .parts_table import write_parts
from .places import PlaceText, PlaceTextError, locator_of, read_place
from .weather_files import MOST_CHARACTERS, read_weather_file
from .weather_rows import WeatherFileError
from .zones import time_zone_at

__all__ = [
    "MOST_CHARACTERS",
    "ContactLogError",
    "Drawing",
    "Label",
    "LogDigest",
    "LogForm",
    "Malformed",
    "Paper",
    "PlaceText",
    "PlaceTextError",
    "ReadTable",
    "TableFault",
    "WeatherFileError",
    "card_html",
    "card_pdf",
    "digest_log",
    "locator_of",
    "mode_of",
    "one_line",
    "read_loads",
    "read_place",
    "read_weather_file",
    "report_html",
    "report_pdf",
    "time_zone_at",
    "write_loads",
    "write_parts",
]
