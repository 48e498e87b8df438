"""The club's shelf: parts that lie about, what is reserved and away of them, and where a design
could use them."""

from .document import (
    MOST_PARTS,
    Away,
    InvalidShelfError,
    Outing,
    Shelf,
    ShelfKind,
    ShelfPart,
    shelf_document_of,
    shelf_from_document,
)
from .picking import Pick, picks_for, refreshed, with_shelf
from .standing import Stock, Use, stock_of
from .taken import without_away

__all__ = [
    "MOST_PARTS",
    "Away",
    "InvalidShelfError",
    "Outing",
    "Pick",
    "Shelf",
    "ShelfKind",
    "ShelfPart",
    "Stock",
    "Use",
    "picks_for",
    "refreshed",
    "shelf_document_of",
    "shelf_from_document",
    "stock_of",
    "with_shelf",
    "without_away",
]
