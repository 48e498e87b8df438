"""The rules of Sun; importing them registers them."""

from . import planes, weather

__all__ = ["planes", "weather"]
