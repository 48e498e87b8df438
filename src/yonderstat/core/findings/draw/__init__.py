"""The rules of Draw; importing them registers them."""

from . import by_hand, loads, volts

__all__ = ["by_hand", "loads", "volts"]
