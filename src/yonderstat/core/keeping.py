"""What is kept of places and parts for a next look, bounded by bytes for the whole process, the
oldest let go first.

`functools.lru_cache` counts entries, and an entry may be a number or some megabytes: a server that
saw many places grew with each of them. Here every entry is weighed, with the arguments it is kept
under, when it comes in.
"""

import functools
import sys
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import fields, is_dataclass
from threading import Lock
from typing import Any, ParamSpec, TypeVar

import numpy as np
from pydantic import BaseModel

P = ParamSpec("P")
T = TypeVar("T")
Key = tuple[Any, ...]
PLACES_BYTES, HOURS_BYTES = 24_000_000, 24_000_000
"""Of what is kept of places and parts, and of weather years by the hour, in one process. A place
with its planes comes to half a megabyte, its hours to several."""
DEEPEST = 12


def weight_of(value: Any) -> int:
    """About how many bytes a value holds on to; what it holds several times counts once."""
    return _weight(value, set(), 0)


def _weight(value: Any, seen: set[int], depth: int) -> int:
    if value is None or isinstance(value, bool) or id(value) in seen or depth > DEEPEST:
        return 0
    seen.add(id(value))
    if isinstance(value, np.ndarray):
        # A view holds on to all of what it is a part of.
        base = value.base if isinstance(value.base, np.ndarray) else value
        if base is not value and id(base) in seen:
            return 128
        seen.add(id(base))
        return int(base.nbytes) + 128
    if isinstance(value, (int, float, str, bytes)):
        return sys.getsizeof(value)
    own = sys.getsizeof(value)
    if isinstance(value, dict):
        return own + sum(_weight(item, seen, depth + 1) for pair in value.items() for item in pair)
    if isinstance(value, (tuple, list, set, frozenset)):
        return own + sum(_weight(item, seen, depth + 1) for item in value)
    if isinstance(value, BaseModel):
        return own + _weight(value.__dict__, seen, depth + 1)
    if is_dataclass(value) and not isinstance(value, type):
        return own + sum(
            _weight(getattr(value, field.name, None), seen, depth + 1) for field in fields(value)
        )
    return own


class Keeper:
    """All that is kept, the entry not asked for the longest first in line to go."""

    def __init__(self, most_bytes: int) -> None:
        self.most_bytes, self.bytes = most_bytes, 0
        self._entries: OrderedDict[Key, tuple[Any, int]] = OrderedDict()
        self._lock = Lock()

    def find(self, key: Key) -> tuple[bool, Any]:
        """Whether there is something under a key, and what."""
        with self._lock:
            entry = self._entries.get(key)
            if entry is None:
                return False, None
            self._entries.move_to_end(key)
            return True, entry[0]

    def keep(self, key: Key, value: Any) -> None:
        """Keep something; what is too large for all of the room is not kept."""
        weight = weight_of((key, value))
        with self._lock:
            if key in self._entries or weight > self.most_bytes:
                return
            self._entries[key] = (value, weight)
            self.bytes += weight
            while self.bytes > self.most_bytes:
                _, (_, gone) = self._entries.popitem(last=False)
                self.bytes -= gone

    def forget(self) -> None:
        """Let go of everything."""
        with self._lock:
            self._entries.clear()
            self.bytes = 0


PLACES, HOURS = Keeper(PLACES_BYTES), Keeper(HOURS_BYTES)


def _kept_by(keeper: Keeper, work: Callable[P, T]) -> Callable[P, T]:
    @functools.wraps(work)
    def asked(*words: P.args, **named: P.kwargs) -> T:
        key = (work, words, tuple(sorted(named.items()))) if named else (work, words)
        is_there, value = keeper.find(key)
        if not is_there:
            value = work(*words, **named)
            keeper.keep(key, value)
        return value  # type: ignore[no-any-return]

    return asked


def kept_for_places(work: Callable[P, T]) -> Callable[P, T]:
    """Keep what a function of comparable arguments gives of places and parts, as long as there is
    room for it."""
    return _kept_by(PLACES, work)


def kept_hours(work: Callable[P, T]) -> Callable[P, T]:
    """Keep what a function of comparable arguments gives by the hour, as long as there is room for
    it."""
    return _kept_by(HOURS, work)


def forget_places() -> None:
    """Let go of what is kept for a next look: weather, sun and hours of the last few places. Tables
    stay.

    For processes that judge now and then and live long; a server that is asked all the time keeps
    it.
    """
    PLACES.forget()
    HOURS.forget()
