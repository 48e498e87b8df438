"""Open formats in and out. So far: the ways people write down a place."""

from .places import PlaceText, PlaceTextError, locator_of, read_place

__all__ = ["PlaceText", "PlaceTextError", "locator_of", "read_place"]
