"""The rules of Draw; importing them registers them."""

from . import loads, volts

__all__ = ["loads", "volts"]
