"""Open formats in and out: places as people write them, contact logs, weather files, the load
ledger as a table."""

from .build_papers import SHEETS, sheet_pdf
from .card import card_html, card_pdf
from .club_archive import (
    ClubArchiveError,
    ClubRecord,
    DesignRecord,
    ReadingRecord,
    RevisionRecord,
    SiteRecord,
    UpkeepRecord,
    read_club,
    write_club,
)
from .contact_log import ContactLogError, LogDigest, LogForm, Malformed, digest_log, mode_of
from .design_report import report_html, report_pdf
from .load_table import ReadTable, TableFault, load_rows, read_loads, write_loads
from .meter_files import MeterLogError
from .meter_log import (
    MeterPreview,
    MeterReading,
    MeterTable,
    StoppedError,
    meter_reading,
    preview,
    read_meter_log,
)
from .meter_times import ORDERS
from .one_line import Drawing, Label, one_line
from .papers import Paper, Sheet
from .parts_table import parts_rows, write_parts
from .places import PlaceText, PlaceTextError, locator_of, read_place
from .sheets import SheetError, read_sheet, write_csv, write_ods
from .shelf_table import ShelfTableError, parts_of_rows, shelf_rows
from .site_places import SitePoint, write_geojson, write_gpx
from .upkeep_calendar import write_calendar
from .weather_files import MOST_CHARACTERS, read_weather_file
from .weather_rows import WeatherFileError
from .zones import time_zone_at

__all__ = [
    "MOST_CHARACTERS",
    "ORDERS",
    "SHEETS",
    "ClubArchiveError",
    "ClubRecord",
    "ContactLogError",
    "DesignRecord",
    "Drawing",
    "Label",
    "LogDigest",
    "LogForm",
    "Malformed",
    "MeterLogError",
    "MeterPreview",
    "MeterReading",
    "MeterTable",
    "Paper",
    "PlaceText",
    "PlaceTextError",
    "ReadTable",
    "ReadingRecord",
    "RevisionRecord",
    "Sheet",
    "SheetError",
    "ShelfTableError",
    "SitePoint",
    "SiteRecord",
    "StoppedError",
    "TableFault",
    "UpkeepRecord",
    "WeatherFileError",
    "card_html",
    "card_pdf",
    "digest_log",
    "load_rows",
    "locator_of",
    "meter_reading",
    "mode_of",
    "one_line",
    "parts_of_rows",
    "parts_rows",
    "preview",
    "read_club",
    "read_loads",
    "read_meter_log",
    "read_place",
    "read_sheet",
    "read_weather_file",
    "report_html",
    "report_pdf",
    "sheet_pdf",
    "shelf_rows",
    "time_zone_at",
    "write_calendar",
    "write_club",
    "write_csv",
    "write_geojson",
    "write_gpx",
    "write_loads",
    "write_ods",
    "write_parts",
]
