"""`python -m yonderstat.background`: the worker and the reader as children of one process that has read the data once.

What was there before they part they share; each may be killed and is started again, after longer and longer if it ends
at once. When this ends, however it ends, the kernel ends both.
"""

import ctypes
import gc
import logging
import os
import signal
import time
from collections.abc import Callable
from dataclasses import dataclass

from yonderstat.core import read_data
from yonderstat.jobs import run_worker
from yonderstat.memory import give_back
from yonderstat.reader import run_reader
from yonderstat.records import database_url

LOG = logging.getLogger(__name__)
WARM_VARIABLE = "YONDERSTAT_WARM"
PR_SET_PDEATHSIG, PR_SET_NAME = 1, 15
LOOK_S, STOP_S = 0.2, 5.0
FIRST_WAIT_S, STEADY_S = 0.5, 60.0
LONGEST_WAIT_S = float(os.environ.get("YONDERSTAT_LONGEST_WAIT_S", "30"))


@dataclass
class Child:
    """One of the two."""

    name: str
    work: Callable[[], None]
    pid: int = 0
    began: float = 0.0
    wait_s: float = 0.0
    not_before: float = 0.0

    def ensure(self, now: float) -> None:
        """Start it if it does not run and its wait is over."""
        if self.pid and os.waitpid(self.pid, os.WNOHANG)[0]:
            steady = now - self.began > STEADY_S
            self.wait_s = FIRST_WAIT_S if steady else min(max(FIRST_WAIT_S, 2.0 * self.wait_s), LONGEST_WAIT_S)
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
        for sign in (signal.SIGTERM, signal.SIGINT):
            signal.signal(sign, signal.SIG_DFL)
        code = 1
        try:
            self.work()
            code = 0
        except BaseException:
            LOG.exception("%s failed", self.name)
        finally:
            os._exit(code)

    def stop(self) -> None:
        """End it: politely, then firmly."""
        if not self.pid:
            return
        os.kill(self.pid, signal.SIGTERM)
        until = time.monotonic() + STOP_S
        while os.waitpid(self.pid, os.WNOHANG)[0] == 0:
            if time.monotonic() > until:
                os.kill(self.pid, signal.SIGKILL)
            time.sleep(0.05)


def run_background() -> None:
    """Run both until told to stop."""
    logging.basicConfig(level=logging.WARNING, format="%(asctime)s %(levelname)s %(name)s %(message)s")
    url = database_url()
    children = [Child("worker", lambda: run_worker(url)), Child("reader", lambda: run_reader(url))]
    told: list[int] = []
    for sign in (signal.SIGTERM, signal.SIGINT):
        signal.signal(sign, lambda number, frame: told.append(number))
    if os.environ.get(WARM_VARIABLE, "1") != "0":
        read_data()
    give_back()
    gc.freeze()
    try:
        while not told:
            for child in children:
                child.ensure(time.monotonic())
            time.sleep(LOOK_S)
    finally:
        for child in children:
            child.stop()


if __name__ == "__main__":
    run_background()
