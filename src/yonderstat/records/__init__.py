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
from .club import Restored, club_record, restore_club
from .database import (
    URL_VARIABLE,
    NoInstallationError,
    await_answer,
    await_current,
    database_url,
    migrate,
    open_engine,
    state_file,
)
from .devices import Channel, Device, Devices
from .gazetteer import Town, find_towns, load_towns
from .imports import Import, Imports, Uploads
from .leases import Lease
from .lines import DesignHead, Line, ListedSite, edition
from .live import (
    CHANNEL,
    Alarm,
    Asked,
    Delivery,
    Endpoint,
    LiveBook,
    LiveSite,
    ReaderState,
    Taken,
    Telling,
)
from .ownership import OWNERS, owner_of
from .readings import Readings, StoredReading
from .runs import Run, Runs, RunState
from .series import DoneTask, Samples, Span, Thinned, UpkeepBook
from .shelf import ShelfBook, StoredShelf

__all__ = [
    "CHANNEL",
    "LOCAL",
    "OWNERS",
    "URL_VARIABLE",
    "Alarm",
    "Archive",
    "Asked",
    "Channel",
    "Delivery",
    "DesignHead",
    "Device",
    "Devices",
    "DoneTask",
    "Endpoint",
    "Import",
    "Imports",
    "KeyReusedError",
    "Lease",
    "Line",
    "ListedSite",
    "LiveBook",
    "LiveSite",
    "NoInstallationError",
    "NotFoundError",
    "NothingToDoError",
    "ReaderState",
    "Readings",
    "Restored",
    "Run",
    "RunState",
    "Runs",
    "Samples",
    "ShelfBook",
    "Span",
    "StaleRevisionError",
    "StoredDesign",
    "StoredReading",
    "StoredShelf",
    "StoredSite",
    "Taken",
    "Telling",
    "Thinned",
    "Town",
    "UnknownOutcomeError",
    "UnreadableDesignError",
    "UpkeepBook",
    "Uploads",
    "await_answer",
    "await_current",
    "club_record",
    "database_url",
    "edition",
    "find_towns",
    "load_towns",
    "migrate",
    "open_engine",
    "owner_of",
    "restore_club",
    "state_file",
]
