"""The rules of Draw; importing them registers them."""

from . import loads

__all__ = ["loads"]
