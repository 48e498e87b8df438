"""The rules of Store; importing them registers them."""

from . import bank, battery, layers

__all__ = ["bank", "battery", "layers"]
