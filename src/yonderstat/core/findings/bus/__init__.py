"""The rules of Bus; importing them registers them."""

from . import layout, leads, protection, volts

__all__ = ["layout", "leads", "protection", "volts"]
