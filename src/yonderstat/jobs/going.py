"""How long work hears that it is not wanted any more."""

from collections.abc import Callable

GoOn = Callable[[float], bool]
"""Told the share done; it answers whether to go on."""
