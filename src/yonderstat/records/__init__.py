"""What is kept, in PostgreSQL."""

from .archive import (
    LOCAL,
    Archive,
    KeyReusedError,
    NotFoundError,
    NothingToDoError,
    StaleRevisionError,
    StoredDesign,
    StoredSite,
    UnknownOutcomeError,
    UnreadableDesignError,
)
from .database import URL_VARIABLE, database_url, migrate, open_engine
from .devices import Channel, Device, Devices
from .gazetteer import Town, find_towns, load_towns
from .lines import DesignHead, Line, ListedSite, edition
from .readings import Readings, StoredReading
from .runs import Run, Runs, RunState

__all__ = [
    "LOCAL",
    "URL_VARIABLE",
    "Archive",
    "Channel",
    "DesignHead",
    "Device",
    "Devices",
    "KeyReusedError",
    "Line",
    "ListedSite",
    "NotFoundError",
    "NothingToDoError",
    "Readings",
    "Run",
    "RunState",
    "Runs",
    "StaleRevisionError",
    "StoredDesign",
    "StoredReading",
    "StoredSite",
    "Town",
    "UnknownOutcomeError",
    "UnreadableDesignError",
    "database_url",
    "edition",
    "find_towns",
    "load_towns",
    "migrate",
    "open_engine",
]
