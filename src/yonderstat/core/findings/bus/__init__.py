"""The rules of Bus; importing them registers them."""

from . import layout, protection, volts

__all__ = ["layout", "protection", "volts"]
