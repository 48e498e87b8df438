"""How gunicorn's workers take requests: read whole before a thread works on one, so that a
half-sent one stops nobody.

Gunicorn makes the processes, watches and replaces them; waitress does the reading and writing
inside each. A request that does not come in time is cut.
"""

import ctypes
import json
import logging
import os
import signal
import threading
import time
from dataclasses import asdict
from pathlib import Path
from typing import Any

from gunicorn.workers.base import Worker
from waitress import wasyncore
from waitress.channel import HTTPChannel
from waitress.server import create_server
from waitress.task import ErrorTask, ThreadedTaskDispatcher

from .guard import MOST_UPLOAD_BYTES, SECURITY_HEADERS
from .problems import PROBLEM_TYPE, Problem

SILENT_S = int(os.environ.get("YONDERSTAT_SILENT_S", "15"))
"""A connection that says nothing for so long is closed."""
WHOLE_S = float(os.environ.get("YONDERSTAT_WHOLE_S", "30"))
"""A request must be here, to its last byte, so long after its first; a file a little later by its
size."""
LEAST_BYTES_A_S = 50_000.0
ALIVE_PATH = "/api/alive"
MOST_CONNECTIONS = 500
MOST_HEADER_BYTES = 65_536
LOOK_S = 0.25
TIDY_EVERY_S, TIDY_AT_LEAST_S = 5.0, 60.0
WORN_MB, WORN_IDLE_S = 200.0, 45.0
PR_SET_PDEATHSIG = 1


# A request that waits a moment for a thread is no news.
logging.getLogger("waitress.queue").setLevel(logging.ERROR)


class PlainErrorTask(ErrorTask):  # type: ignore[misc]
    """The server's own refusals, as the app writes them: a problem document with the security
    headers."""

    def execute(self) -> None:
        """Write the refusal."""
        error = self.request.error
        problem = Problem(error.code, f"http-{error.code}", error.reason, str(error.body)[:300])
        body = json.dumps(asdict(problem.document)).encode()
        self.status = f"{error.code} {error.reason}"
        self.response_headers.extend(
            [("Content-Type", PROBLEM_TYPE), ("Cache-Control", "no-store")]
        )
        self.response_headers.extend(SECURITY_HEADERS.items())
        self.set_close_on_finish()
        self.content_length = len(body)
        self.write(body)


class TimedChannel(HTTPChannel):  # type: ignore[misc]
    """A connection whose requests must come whole in time, however slowly their bytes drip."""

    error_task_class = PlainErrorTask
    began: float | None = None
    came = 0

    def received(self, data: bytes) -> Any:
        """Take what came; end the connection if its request has been coming for too long."""
        if self.request is None:
            self.began, self.came = None, 0
        self.came += len(data)
        taken = super().received(data)
        if self.request is None:
            self.began = None
        elif self.began is None:
            self.began = time.monotonic()
        elif time.monotonic() - self.began > WHOLE_S + self.came / LEAST_BYTES_A_S:
            self.will_close = True
        return taken


class Dispatcher(ThreadedTaskDispatcher):  # type: ignore[misc]
    """Whoever asks whether the server is alive does not queue behind those whose work takes
    long."""

    def __init__(self) -> None:
        super().__init__()
        self._alive = ThreadedTaskDispatcher()
        self._alive.set_thread_count(1)
        self.taken = 0
        """Requests so far."""
        self.taken_at = time.monotonic()

    def add_task(self, task: Any) -> None:
        """Have a connection's request worked on."""
        requests = getattr(task, "requests", None)
        # A request that is none has no path.
        if requests and getattr(requests[0], "path", "") == ALIVE_PATH:
            self._alive.add_task(task)
        else:
            self.taken += 1
            self.taken_at = time.monotonic()
            super().add_task(task)

    def shutdown(self, *words: Any, **more: Any) -> Any:
        """End the threads."""
        self._alive.shutdown(*words, **more)
        return super().shutdown(*words, **more)


def own_mb() -> float:
    """What this process has to itself, shared with nobody. [MB]"""
    try:
        lines = Path("/proc/self/smaps_rollup").read_text().splitlines()
    except OSError:
        return 0.0
    return sum(int(line.split()[1]) for line in lines if line.startswith("Private_Dirty:")) / 1000.0


class Tidying:
    """Gives freed memory back to the system when nobody is asked for anything, and now and then all
    the same.

    The allocator keeps what it freed: a worker that had judged a hundred sites held 180 MB that
    way.
    """

    def __init__(self, dispatcher: Dispatcher) -> None:
        self._dispatcher, self._libc = dispatcher, ctypes.CDLL(None)
        self._done, self._at, self._weighed = 0, time.monotonic(), 0.0

    def is_worn(self, now: float) -> bool:
        """Whether this process had better be replaced: it holds much of its own, and nobody has
        asked for a while.

        Counting references writes to the pages that were shared; a fresh child of the master shares
        them again.
        """
        if (
            self._dispatcher.active_count
            or self._dispatcher.queue
            or now - self._dispatcher.taken_at < WORN_IDLE_S
        ):
            return False
        if now - self._weighed < WORN_IDLE_S:
            return False
        self._weighed = now
        return own_mb() > WORN_MB

    def look(self, now: float) -> None:
        """Tidy up if there was work, and now is a good moment."""
        waited_s = now - self._at
        busy = self._dispatcher.active_count > 0 or bool(self._dispatcher.queue)
        if self._dispatcher.taken == self._done or waited_s < (
            TIDY_AT_LEAST_S if busy else TIDY_EVERY_S
        ):
            return
        self._done, self._at = self._dispatcher.taken, now
        # On a thread of its own: the sockets are not to wait for it.
        threading.Thread(target=self._libc.malloc_trim, args=(0,), daemon=True).start()


class BufferedWorker(Worker):  # type: ignore[misc]
    """A gunicorn worker that serves with waitress."""

    def run(self) -> None:
        """Serve until told to stop; between two looks at its sockets it tells the master that it is
        alive."""
        # A hung worker must not outlive its master and hold the port.
        ctypes.CDLL(None, use_errno=True).prctl(PR_SET_PDEATHSIG, signal.SIGKILL)
        sockets: dict[int, Any] = {}
        for listener in self.sockets:
            listener.sock.setblocking(False)
        dispatcher = Dispatcher()
        dispatcher.set_thread_count(self.cfg.threads)
        server = create_server(
            self.wsgi,
            map=sockets,
            _dispatcher=dispatcher,
            sockets=[listener.sock for listener in self.sockets],
            threads=self.cfg.threads,
            ident="",
            channel_timeout=SILENT_S,
            cleanup_interval=max(1, SILENT_S // 3),
            connection_limit=MOST_CONNECTIONS,
            max_request_header_size=MOST_HEADER_BYTES,
            # A little more than the app takes, so that the app says what is too much.
            max_request_body_size=MOST_UPLOAD_BYTES + 1_000_000,
            asyncore_use_poll=True,
            clear_untrusted_proxy_headers=True,
        )
        server.channel_class = TimedChannel
        tidying = Tidying(dispatcher)
        while self.alive and os.getppid() == self.ppid:
            self.notify()
            tidying.look(time.monotonic())
            if tidying.is_worn(time.monotonic()):
                break
            wasyncore.loop(timeout=LOOK_S, use_poll=True, map=sockets, count=1)
        server.accepting = False
        server.task_dispatcher.shutdown(timeout=self.cfg.graceful_timeout)
        until = time.monotonic() + LOOK_S
        while (
            any(item.total_outbufs_len for item in server.active_channels.values())
            and time.monotonic() < until
        ):
            wasyncore.loop(timeout=0.05, use_poll=True, map=sockets, count=1)
        wasyncore.close_all(sockets)
