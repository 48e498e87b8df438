"""Memory given back by processes that work now and then."""

import ctypes
import gc

from yonderstat.core import forget_places


def give_back() -> None:
    """Let go of what is kept for a next look, and give the pages back to the system."""
    forget_places()
    gc.collect()
    ctypes.CDLL(None).malloc_trim(0)
