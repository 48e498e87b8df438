"""Several runs of the kernels at once: they hold no lock, so that every core has one."""

import os
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from functools import cache
from typing import TypeVar

T = TypeVar("T")
THREADS = 2


@cache
def _threads() -> ThreadPoolExecutor:
    """Threads that are kept: to start one takes as long as a kernel runs."""
    return ThreadPoolExecutor(THREADS, "kernels")


# The threads stay behind with the process they were started in.
os.register_at_fork(after_in_child=_threads.cache_clear)


def at_once(runs: Sequence[Callable[[], T]]) -> list[T]:
    """What each run gives, in their order. The first is done here, the others in threads that are free, or here too.

    Parameters
    ----------
    runs : sequence of callable
        Without arguments; each may run beside the others.

    Returns
    -------
    list
        What they gave.

    Raises
    ------
    Exception
        What the first of them that failed raised.
    """
    first, *others = runs
    waiting = [(run, _threads().submit(run)) for run in others]
    found = [first()]
    # One that no thread has begun is taken back: whoever asks from within such a thread waits for nobody.
    found += [run() if future.cancel() else future.result() for run, future in waiting]
    return found
