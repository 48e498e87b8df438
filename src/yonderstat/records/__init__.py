"""What is kept, in PostgreSQL."""

from .archive import Archive, NotFoundError, NothingToDoError, StaleRevisionError, StoredDesign, StoredSite
from .database import URL_VARIABLE, database_url, migrate, open_engine
from .gazetteer import Town, find_towns, load_towns
from .map_runs import MapRun, MapRuns, RunState

__all__ = [
    "URL_VARIABLE",
    "Archive",
    "MapRun",
    "MapRuns",
    "NotFoundError",
    "NothingToDoError",
    "RunState",
    "StaleRevisionError",
    "StoredDesign",
    "StoredSite",
    "Town",
    "database_url",
    "find_towns",
    "load_towns",
    "migrate",
    "open_engine",
]
