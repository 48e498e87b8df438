"""The rules of Build; importing them registers them."""

from . import parts

__all__ = ["parts"]
