"""What is kept, in PostgreSQL."""

from .archive import Archive, NotFoundError, NothingToDoError, StaleRevisionError, StoredDesign, StoredSite
from .database import URL_VARIABLE, database_url, migrate, open_engine

__all__ = [
    "URL_VARIABLE",
    "Archive",
    "NotFoundError",
    "NothingToDoError",
    "StaleRevisionError",
    "StoredDesign",
    "StoredSite",
    "database_url",
    "migrate",
    "open_engine",
]
