"""The rules of Brief; importing them registers them."""

from . import general

__all__ = ["general"]
