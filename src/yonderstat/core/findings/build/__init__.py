"""The rules of Build; importing them registers them."""

from . import balance, parts

__all__ = ["balance", "parts"]
