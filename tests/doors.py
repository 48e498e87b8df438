"""Every door of the core that a document goes through, and what must hold of anything that comes
out."""

import math
import time
from collections.abc import Callable, Iterator
from functools import cache
from typing import Any

from pydantic import TypeAdapter

from yonderstat.core.design import Design

LONGEST_S = 2.0
MAY_PASS_THE_WHOLE = {"store.night_share", "store.held_share", "parts.balance.nose_share"}
"""A night may take more than there is, and warm lead holds more than its label."""


@cache
def _adapter(kind: type) -> TypeAdapter[Any]:
    """Built once a kind: it is a quarter of the work otherwise."""
    return TypeAdapter(kind)


def _plain(report: object) -> Any:
    """A report as plain values, without its workings."""
    return _adapter(type(report)).dump_python(report, exclude={"working", "sources"})


def _numbers(value: Any, at: str = "") -> Iterator[tuple[str, float]]:
    if isinstance(value, float):
        yield at, value
    elif isinstance(value, dict):
        for key, item in value.items():
            yield from _numbers(item, f"{at}/{key}")
    elif isinstance(value, list | tuple):
        for number, item in enumerate(value):
            yield from _numbers(item, f"{at}/{number}")


def _is_lost(number: float | None) -> bool:
    return number is not None and not math.isfinite(number)


def looked_at(report: object) -> None:
    """Every number can be written as JSON, and no share passes the whole or falls under nothing."""
    lost = [at for at, number in _numbers(_plain(report)) if _is_lost(number)]
    assert not lost, lost[:5]
    for key, figure in getattr(report, "working", {}).items():
        assert not _is_lost(figure.value), key
        assert not any(_is_lost(item.value) for item in figure.inputs), key
        if figure.unit == "share" and figure.value is not None and key not in MAY_PASS_THE_WHOLE:
            assert -1e-9 <= figure.value <= 1.0 + 1e-9, (key, figure.value)


def through(design: Design, door: Callable[[Design], Any]) -> None:
    """A door opens, with finite figures, in time. The first of two tries may have had weather to
    work out."""
    for attempt in (1, 2):
        began = time.thread_time()
        report = door(design)
        taken_s = time.thread_time() - began
        if taken_s <= LONGEST_S:
            break
        assert attempt == 1, f"took {taken_s:.1f} s"
    if report is not None:
        looked_at(report)
