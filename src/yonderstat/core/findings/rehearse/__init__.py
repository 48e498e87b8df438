"""The rules of Rehearse; importing them registers them."""

from . import years

__all__ = ["years"]
