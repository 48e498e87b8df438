"""Runs begun in threads: what they give, what they raise, and that nobody waits for a thread that
is busy."""

from threading import Event, current_thread, main_thread

import pytest

from yonderstat.core.rehearse.at_once import THREADS, Begun, at_once


def test_each_gives_its_own_in_order() -> None:
    assert at_once([lambda number=number: number * number for number in range(7)]) == [
        0,
        1,
        4,
        9,
        16,
        25,
        36,
    ]


def test_a_run_goes_on_beside_whoever_began_it() -> None:
    began, may_end = Event(), Event()

    def run() -> bool:
        began.set()
        may_end.wait(10.0)
        return current_thread() is not main_thread()

    begun = Begun(run)
    assert began.wait(10.0)
    may_end.set()
    assert begun.result()


def test_a_run_that_no_thread_has_begun_is_done_by_whoever_asks() -> None:
    """From within a thread too, where all others wait: nobody waits for himself."""
    may_end = Event()
    busy = [Begun(lambda: may_end.wait(10.0)) for _ in range(THREADS)]
    for one in busy:
        one.let_begin()
    waiting = Begun(lambda: current_thread() is main_thread())
    assert waiting.result()
    may_end.set()
    assert all(one.result() for one in busy)
    assert at_once([lambda: sum(at_once([lambda: 1] * 5))] * 6) == [5] * 6


def test_what_a_run_raises_is_raised_where_it_is_asked_for() -> None:
    def fails() -> int:
        raise ValueError("no such bank")

    begun = Begun(fails)
    begun.let_begin()
    with pytest.raises(ValueError, match="no such bank"):
        begun.result()
