"""Several runs of the kernels at once: they hold no lock, so that they run beside whoever explains
the rest."""

import os
from collections.abc import Callable, Sequence
from concurrent.futures import Future, ThreadPoolExecutor
from functools import cache
from threading import Event
from typing import Generic, TypeVar

T = TypeVar("T")
THREADS = max(1, (os.cpu_count() or 1) - 1)
"""Beside the one that asks: with more, all would be done later than with these."""
BEGINS_S = 0.0005
"""To begin a kernel takes a fifth of this; where it takes longer all threads are busy."""


@cache
def _threads() -> ThreadPoolExecutor:
    """Threads that are kept: to start one takes as long as a kernel runs."""
    return ThreadPoolExecutor(THREADS, "kernels")


# The threads stay behind with the process they were started in.
os.register_at_fork(after_in_child=_threads.cache_clear)


class Begun(Generic[T]):
    """A run that goes on while whoever began it does something else."""

    def __init__(self, run: Callable[[], T]) -> None:
        self._run, self._began = run, Event()
        self._future: Future[T] = _threads().submit(self._in_thread)

    def _in_thread(self) -> T:
        self._began.set()
        return self._run()

    def let_begin(self) -> None:
        """Wait a moment until a thread has begun: whoever runs Python holds its lock, and would
        keep it from that."""
        self._began.wait(BEGINS_S)

    def result(self) -> T:
        """What it gave. A run that no thread has begun is taken back and done here: so whoever asks
        from within such a thread waits for nobody.

        Returns
        -------
        object
            What it gave.

        Raises
        ------
        Exception
            What it raised.
        """
        return self._run() if self._future.cancel() else self._future.result()


def at_once(runs: Sequence[Callable[[], T]]) -> list[T]:
    """What each run gives, in their order; the first is done here, the others in threads that are
    free, or here too.

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
    begun = [Begun(run) for run in others]
    found = first()
    return [found, *(run.result() for run in begun)]
