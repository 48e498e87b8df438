"""What changed at the sites that report themselves, as server-sent events: each answer waits for
one and ends.

The browser asks again by itself with what it saw last. A stream that stayed open would hold one of
the few threads of a process for as long as somebody looks; so one waits here for a moment, and the
rest are told at once to ask again.
"""

import logging
import threading
import time
from uuid import UUID

import psycopg
from flask import Flask, Response, request
from sqlalchemy import Engine

from yonderstat.records import CHANNEL

from .access import principal

LOG = logging.getLogger(__name__)
WAIT_S = 6.0
RETRY_MS, RETRY_BUSY_MS = 250, 1500
RECONNECT_S = 2.0
LOOK_S = 5.0
KEPT = 500


class Changes:
    """Hears of changes from the database, one connection a process, from when somebody first
    asks."""

    def __init__(self, engine: Engine) -> None:
        self._url = engine.url.set(drivername="postgresql").render_as_string(hide_password=False)
        self._heard = threading.Condition()
        self._by_site: dict[str, int] = {}
        self._thread: threading.Thread | None = None
        self._waits = threading.Semaphore(1)

    def _listen(self) -> None:
        while True:
            try:
                with psycopg.connect(self._url, autocommit=True) as connection:
                    connection.execute(f"listen {CHANNEL}")
                    while True:
                        for notice in connection.notifies(timeout=LOOK_S):
                            self._tell(notice.payload)
            except psycopg.Error as error:
                LOG.warning("no changes are heard of: %s", str(error).splitlines()[0][:200])
                time.sleep(RECONNECT_S)

    def _tell(self, site: str) -> None:
        with self._heard:
            self._by_site[site] = time.time_ns() // 1_000_000
            if len(self._by_site) > KEPT:
                self._by_site.pop(min(self._by_site, key=lambda key: self._by_site[key]))
            self._heard.notify_all()

    def since(self, last_ms: int) -> tuple[int, list[str], int]:
        """What changed since a moment: when last, which sites, and after how long to ask again.
        [ms]"""
        with self._heard:
            if self._thread is None:
                self._thread = threading.Thread(
                    target=self._listen, daemon=True, name="live changes"
                )
                self._thread.start()
        if not self._waits.acquire(blocking=False):
            return (*self._fresh(last_ms), RETRY_BUSY_MS)
        try:
            with self._heard:
                self._heard.wait_for(
                    lambda: any(at > last_ms for at in self._by_site.values()), WAIT_S
                )
            return (*self._fresh(last_ms), RETRY_MS)
        finally:
            self._waits.release()

    def _fresh(self, last_ms: int) -> tuple[int, list[str]]:
        with self._heard:
            found = {site: at for site, at in self._by_site.items() if at > last_ms}
        return max(found.values(), default=last_ms), sorted(found)


def register_live_events(app: Flask, engine: Engine) -> None:
    """Put the events on the app."""
    changes = Changes(engine)

    @app.get("/api/live/events")
    def live_events() -> Response:
        told = request.headers.get("Last-Event-ID", "")
        last_ms = (
            int(told)
            if told.isascii() and told.isdigit() and len(told) < 16
            else time.time_ns() // 1_000_000
        )
        at_ms, changed, retry_ms = changes.since(last_ms)
        only = principal().readable_sites
        sites = [site for site in changed if only is None or UUID(site) in only]
        lines = [
            f"retry: {retry_ms}",
            f"id: {at_ms}",
            f"data: {' '.join(sites)}" if sites else ": nothing",
            "",
            "",
        ]
        return Response("\n".join(lines), mimetype="text/event-stream")
