"""Children of one process: one that ends is started again, one that is done is not, one that cannot
start says so."""

import json
import os
import signal
import sys
import time
from collections.abc import Callable
from pathlib import Path

import pytest

from yonderstat import together
from yonderstat.together import Child


def until(holds: Callable[[], bool]) -> None:
    end = time.monotonic() + 10.0
    while not holds():
        assert time.monotonic() < end
        time.sleep(0.01)


def ended(child: Child, now: float) -> bool:
    """Look at it as if it were so late; whether its end was seen."""
    child.ensure(now)
    return child.pid == 0


def test_a_killed_child_is_started_again_after_a_wait() -> None:
    child = Child(name="sleeper", work=lambda: time.sleep(60.0))
    child.ensure(0.0)
    first = child.pid
    child.end(signal.SIGKILL)
    until(lambda: ended(child, 1.0))
    child.ensure(1.0 + together.FIRST_WAIT_S / 2)
    assert child.pid == 0
    child.ensure(1.0 + together.FIRST_WAIT_S)
    assert child.pid not in {0, first}
    together._stop([child])


def test_what_is_done_once_is_not_done_again() -> None:
    child = Child(name="once", work=lambda: None, once=True)
    child.ensure(0.0)
    until(lambda: ended(child, 1.0))
    child.ensure(1e9)
    assert child.pid == 0


@pytest.mark.parametrize(
    ("child", "words"),
    [
        (Child(name="web", work=lambda: sys.exit(3), needed=True), "web ends as it starts"),
        (
            Child(name="prepare", work=lambda: os.kill(os.getpid(), signal.SIGKILL), once=True),
            "prepare was cut short",
        ),
    ],
)
def test_what_all_wait_for_ends_all_where_it_cannot_be_done(child: Child, words: str) -> None:
    child.ensure(0.0)

    def told() -> bool:
        try:
            child.ensure(1.0)
        except RuntimeError as error:
            return words in str(error)
        return False

    until(told)


def test_one_that_is_needed_and_is_killed_comes_back() -> None:
    child = Child(name="web", work=lambda: time.sleep(60.0), needed=True)
    child.ensure(0.0)
    os.kill(child.pid, signal.SIGKILL)
    until(lambda: ended(child, 1.0))


@pytest.mark.parametrize(
    ("work", "said"), [(lambda: 0, [0, "", ""]), (lambda: print("built") or 2, [2, "built\n", ""])]
)
def test_how_a_preparation_went_is_written_once_it_is_done(
    tmp_path: Path, work: Callable[[], int], said: list[object]
) -> None:
    together._told(work, tmp_path / "told.json")
    assert json.loads((tmp_path / "told.json").read_text()) == said


def test_a_preparation_that_fails_says_why(tmp_path: Path) -> None:
    together._told(lambda: 1 // 0, tmp_path / "told.json")
    code, _, complaint = json.loads((tmp_path / "told.json").read_text())
    assert code == 1
    assert complaint.startswith("ZeroDivisionError")
