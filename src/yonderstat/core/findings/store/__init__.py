"""The rules of Store; importing them registers them."""

from . import bank, battery, cold, layers

__all__ = ["bank", "battery", "cold", "layers"]
