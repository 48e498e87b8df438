"""The rules of Array; importing them registers them."""

from . import harvest, settings, sources, strings

__all__ = ["harvest", "settings", "sources", "strings"]
