"""How gunicorn's workers take requests: read whole before a thread works on one, so that a half-sent one stops nobody.

Gunicorn makes the processes, watches and replaces them; waitress does the reading and writing inside each. A request
that does not come in time is cut.
"""

import ctypes
import json
import logging
import os
import signal
import time
from dataclasses import asdict
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
"""A request must be here, to its last byte, so long after its first; a file a little later by its size."""
LEAST_BYTES_A_S = 50_000.0
ALIVE_PATH = "/api/alive"
MOST_CONNECTIONS = 500
MOST_HEADER_BYTES = 65_536
LOOK_S = 0.25
PR_SET_PDEATHSIG = 1


# A request that waits a moment for a thread is no news.
logging.getLogger("waitress.queue").setLevel(logging.ERROR)


class PlainErrorTask(ErrorTask):  # type: ignore[misc]
    """The server's own refusals, as the app writes them: a problem document with the security headers."""

    def execute(self) -> None:
        """Write the refusal."""
        error = self.request.error
        problem = Problem(error.code, f"http-{error.code}", error.reason, str(error.body)[:300])
        body = json.dumps(asdict(problem.document)).encode()
        self.status = f"{error.code} {error.reason}"
        self.response_headers.extend([("Content-Type", PROBLEM_TYPE), ("Cache-Control", "no-store")])
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
    """Whoever asks whether the server is alive does not queue behind those whose work takes long."""

    def __init__(self) -> None:
        super().__init__()
        self._alive = ThreadedTaskDispatcher()
        self._alive.set_thread_count(1)

    def add_task(self, task: Any) -> None:
        """Have a connection's request worked on."""
        requests = getattr(task, "requests", None)
        if requests and requests[0].path == ALIVE_PATH:
            self._alive.add_task(task)
        else:
            super().add_task(task)

    def shutdown(self, *words: Any, **more: Any) -> Any:
        """End the threads."""
        self._alive.shutdown(*words, **more)
        return super().shutdown(*words, **more)


class BufferedWorker(Worker):  # type: ignore[misc]
    """A gunicorn worker that serves with waitress."""

    def run(self) -> None:
        """Serve until told to stop; between two looks at its sockets it tells the master that it is alive."""
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
        while self.alive and os.getppid() == self.ppid:
            self.notify()
            wasyncore.loop(timeout=LOOK_S, use_poll=True, map=sockets, count=1)
        server.accepting = False
        server.task_dispatcher.shutdown(timeout=self.cfg.graceful_timeout)
        until = time.monotonic() + LOOK_S
        while any(item.total_outbufs_len for item in server.active_channels.values()) and time.monotonic() < until:
            wasyncore.loop(timeout=0.05, use_poll=True, map=sockets, count=1)
        wasyncore.close_all(sockets)
