"""`python -m yonderstat.together`: web server, worker and reader, children of one process that has
read code and data.

What was there before they part they share; each may be killed and is started again, after longer
and longer if it ends at once. When this ends, however it ends, the kernel ends all three. What
follows on the command line is gunicorn's.

Told by SIGUSR1 that the web server does not answer, it ends that one, which is then started again
like one that ended.
"""

import ctypes
import gc
import io
import json
import logging
import math
import os
import signal
import sys
import time
from collections.abc import Callable
from contextlib import redirect_stderr, redirect_stdout
from dataclasses import dataclass
from pathlib import Path

LOG = logging.getLogger(__name__)
PREPARED_VARIABLE = "YONDERSTAT_PREPARED"
"""A file in which to say that the database was brought up to date; without it that is not done."""
LOGS_VARIABLE = "YONDERSTAT_LOGS"
"""A folder in which each child keeps a log of its own; without one all write where this one
does."""
PR_SET_PDEATHSIG, PR_SET_NAME = 1, 15
LOOK_S, STOP_S = 0.1, 8.0
FIRST_WAIT_S, SETTLED_S, STEADY_S = 0.5, 5.0, 60.0
LONGEST_WAIT_S = float(os.environ.get("YONDERSTAT_LONGEST_WAIT_S", "10"))


@dataclass(kw_only=True)
class Child:
    """A process of its own."""

    name: str
    work: Callable[[], None]
    once: bool = False
    """Whether it is done when it ends."""
    needed: bool = False
    """Whether nothing is of use where it does not even start."""
    steady: bool = False
    """Whether it ever ran for a while."""
    pid: int = 0
    began: float = 0.0
    wait_s: float = 0.0
    not_before: float = 0.0

    def ensure(self, now: float) -> None:
        """Start it if it does not run and its wait is over.

        Raises
        ------
        RuntimeError
            If one that is needed ends by itself before it ever ran for a while, or one that is done
            once is cut short.
        """
        self.steady = self.steady or (self.pid != 0 and now - self.began > SETTLED_S)
        ended, status = os.waitpid(self.pid, os.WNOHANG) if self.pid else (0, 0)
        if ended:
            if self.needed and not self.steady and os.WIFEXITED(status):
                raise RuntimeError(f"{self.name} ends as it starts")
            if self.once and status != 0:
                raise RuntimeError(f"{self.name} was cut short")
            if self.once:
                self.pid, self.not_before = 0, math.inf
                return
            steady = now - self.began > STEADY_S
            self.wait_s = (
                FIRST_WAIT_S
                if steady
                else min(max(FIRST_WAIT_S, 2.0 * self.wait_s), LONGEST_WAIT_S)
            )
            self.not_before = now + self.wait_s
            LOG.warning("%s ended; it starts again in %g s", self.name, self.wait_s)
            self.pid = 0
        if not self.pid and now >= self.not_before:
            self.pid, self.began = os.fork(), now
            if self.pid == 0:
                self._become()

    def _become(self) -> None:
        libc = ctypes.CDLL(None, use_errno=True)
        libc.prctl(PR_SET_PDEATHSIG, signal.SIGKILL)
        libc.prctl(PR_SET_NAME, f"yonderstat-{self.name}"[:15].encode())
        for sign in (signal.SIGTERM, signal.SIGINT, signal.SIGUSR1):
            signal.signal(sign, signal.SIG_DFL)
        if LOGS_VARIABLE in os.environ:
            with open(f"{os.environ[LOGS_VARIABLE]}/{self.name}.log", "ab") as sink:
                os.dup2(sink.fileno(), sys.stdout.fileno())
                os.dup2(sink.fileno(), sys.stderr.fileno())
        code = 1
        try:
            self.work()
            code = 0
        except BaseException:
            LOG.exception("%s failed", self.name)
        finally:
            os._exit(code)

    def end(self, sign: signal.Signals) -> None:
        """Ask it to end, without waiting for it."""
        if self.pid:
            os.kill(self.pid, sign)


def _stop(children: list[Child]) -> None:
    """End all side by side: politely, then firmly."""
    for child in children:
        child.end(signal.SIGTERM)
    until = time.monotonic() + STOP_S
    for child in children:
        while child.pid and os.waitpid(child.pid, os.WNOHANG)[0] == 0:
            if time.monotonic() > until:
                child.end(signal.SIGKILL)
            time.sleep(0.02)


def _told(work: Callable[[], int], told: Path) -> None:
    """Do something and write to a file how it went, once it is done: its code, what it said and
    complained of."""
    gc.enable()
    said, complaint, code = io.StringIO(), io.StringIO(), 1
    try:
        with redirect_stdout(said), redirect_stderr(complaint):
            code = work()
    except Exception as error:
        LOG.exception("the database could not be brought up to date")
        complaint.write(f"{type(error).__name__}: {error}")
    fresh = told.with_suffix(".new")
    fresh.write_text(json.dumps([code, said.getvalue(), complaint.getvalue()]), encoding="utf-8")
    fresh.replace(told)


def _children(gunicorn: list[str]) -> list[Child]:
    """All three, once code and data are read."""
    # Nothing that is read goes again: to look for what does, over and over, doubles the time this
    # takes.
    gc.disable()
    from gunicorn.app import wsgiapp

    from yonderstat.cli import main
    from yonderstat.jobs import run_worker
    from yonderstat.reader import run_reader
    from yonderstat.records import await_answer, await_current, database_url

    url = database_url()

    def prepare() -> int:
        await_answer(url)
        return main(["demo", "--migrate"])

    children = []
    if PREPARED_VARIABLE in os.environ:
        told = Path(os.environ.pop(PREPARED_VARIABLE))
        children.append(Child(name="prepare", work=lambda: _told(prepare, told), once=True))
        # While what follows is read.
        children[0].ensure(time.monotonic())
    import yonderstat.web.wsgi  # noqa: F401

    gc.freeze()
    gc.enable()

    def serve() -> None:
        sys.argv = ["gunicorn", *gunicorn]
        wsgiapp.run()

    def work() -> None:
        await_current(url)
        run_worker(url)

    def read() -> None:
        await_current(url)
        run_reader(url)

    return [
        Child(name="web", work=serve, needed=True),
        Child(name="worker", work=work),
        Child(name="reader", work=read),
        *children,
    ]


def run_together(gunicorn: list[str]) -> None:
    """Run all three until told to stop."""
    logging.basicConfig(
        level=logging.WARNING, format="%(asctime)s %(levelname)s %(name)s %(message)s"
    )
    told: list[int] = []
    for sign in (signal.SIGTERM, signal.SIGINT):
        signal.signal(sign, lambda number, frame: told.append(number))
    children = _children(gunicorn)
    signal.signal(signal.SIGUSR1, lambda number, frame: children[0].end(signal.SIGKILL))
    try:
        while not told:
            for child in children:
                child.ensure(time.monotonic())
            time.sleep(LOOK_S)
    finally:
        _stop(children)


if __name__ == "__main__":
    run_together(sys.argv[1:])
