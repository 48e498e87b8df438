"""The rules of Array; importing them registers them."""

from . import harvest, sources, strings

__all__ = ["harvest", "sources", "strings"]
