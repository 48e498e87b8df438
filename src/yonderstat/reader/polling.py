"""The reader: every site asked in its turn, what it told kept, alarms told on. `yonderstat poll`
runs it."""

import asyncio
import contextlib
import logging
import os
import signal
import time
from collections.abc import Callable
from pathlib import Path
from uuid import UUID

from sqlalchemy.exc import DBAPIError, SQLAlchemyError

from yonderstat.records import (
    Archive,
    Endpoint,
    Lease,
    LiveBook,
    LiveSite,
    NotFoundError,
    open_engine,
    state_file,
)

from .delivery import deliver_due
from .judging import Judging
from .rounds import Asking, Round
from .spool import Spool

LOG = logging.getLogger(__name__)
LOOK_EVERY_S, BEAT_EVERY_S, DELIVER_EVERY_S = 2.0, 2.0, 1.0
AT_ONCE = 20
TICK_S = 0.05
LONGEST_BACK_OFF = 8
"""A site nobody answers at is asked less and less often, at the least every so many intervals."""
DATABASE_WAIT_S = 1.0
SPOOL_VARIABLE = "YONDERSTAT_SPOOL"
LEASE_WORD = "the reader"


class Reader:
    """One process that asks every site."""

    def __init__(self, url: str, spool: Path, name: str = "reader") -> None:
        engine = open_engine(url)
        self._archive, self._book = Archive(engine), LiveBook(engine)
        self._asking, self._judging = Asking(), Judging(self._archive, self._book)
        self._spool, self._name = Spool(spool), name
        self._sites: dict[UUID, tuple[LiveSite, list[Endpoint]]] = {}
        self._due: dict[UUID, float] = {}
        self._failed: dict[UUID, int] = {}
        self._asked: set[UUID] = set()
        self._arrived = asyncio.Event()
        self._slots = asyncio.Semaphore(AT_ONCE)
        self._lease, self._leads = Lease(engine, LEASE_WORD), False
        """Of several readers on one database one asks and tells; the others stand by."""

    async def run(self) -> None:
        """Read until cancelled."""
        async with asyncio.TaskGroup() as group:
            group.create_task(self._every(LOOK_EVERY_S, self._look))
            group.create_task(self._keep())
            group.create_task(self._every(BEAT_EVERY_S, self._beat))
            group.create_task(self._every(DELIVER_EVERY_S, self._deliver))
            while True:
                now = time.monotonic()
                for site_id, (site, endpoints) in self._sites.items():
                    if site_id not in self._asked and now >= self._due.get(site_id, 0.0):
                        self._due[site_id] = now + site.interval_s
                        self._asked.add(site_id)
                        group.create_task(self._round(site_id, site, endpoints))
                await asyncio.sleep(TICK_S)

    async def _every(self, seconds: float, work: Callable[[], None]) -> None:
        """Do something again and again. Whatever goes wrong goes wrong once: it is said, and tried
        the next time."""
        while True:
            try:
                await asyncio.to_thread(work)
            except SQLAlchemyError as error:
                LOG.warning("the database is away: %s", str(error).splitlines()[0][:200])
            except Exception:
                LOG.exception("the reader goes on after a fault")
            await asyncio.sleep(seconds)

    def _look(self) -> None:
        """Whether it is for us to ask, and what; the last known while the database is away."""
        self._leads = self._lease.hold()
        found = self._book.watched() if self._leads else []
        self._sites = {site.site_id: (site, endpoints) for site, endpoints in found}

    def _beat(self) -> None:
        if self._leads:
            self._book.beat(self._name, self._spool.waiting)

    def _deliver(self) -> None:
        if self._leads:
            deliver_due(self._book)

    async def _round(self, site_id: UUID, site: LiveSite, endpoints: list[Endpoint]) -> None:
        try:
            async with self._slots:
                found = await self._asking.round_at(site_id, endpoints)
            failed = 0 if found.told else self._failed.get(site_id, 0) + 1
            self._failed[site_id] = failed
            if failed > 1:
                self._due[site_id] = time.monotonic() + site.interval_s * min(
                    2 ** (failed - 1), LONGEST_BACK_OFF
                )
            await asyncio.to_thread(self._spool.add, found.as_json())
            self._arrived.set()
        except Exception:
            # A fault of ours with one site, or a full disk, must not end the asking of the others.
            LOG.exception("a round at site %s failed", site_id)
        finally:
            self._asked.discard(site_id)

    async def _keep(self) -> None:
        """Keep what waits, in the order it was read."""
        while True:
            row = self._spool.first()
            if row is None:
                self._arrived.clear()
                await self._arrived.wait()
                continue
            try:
                await asyncio.to_thread(self._keep_one, row)
            except DBAPIError as error:
                LOG.warning(
                    "%d wait for the database: %s",
                    self._spool.waiting,
                    str(error).splitlines()[0][:200],
                )
                await asyncio.sleep(DATABASE_WAIT_S)
                continue
            self._spool.done()

    def _keep_one(self, row: dict[str, object]) -> None:
        try:
            taken = self._judging.taken(Round.from_json(row))
            if taken is not None:
                self._book.take(taken)
        except NotFoundError:
            LOG.warning("a site to read is gone: %s", str(row)[:300])
        except DBAPIError:
            raise
        except Exception:
            # One site that cannot be judged must not keep the others from being read: it is said
            # with what was read, and not tried for ever.
            LOG.exception("a poll that cannot be stored: %s", str(row)[:1000])


def spool_file() -> Path:
    """Where what is read waits."""
    named = os.environ.get(SPOOL_VARIABLE, "")
    return Path(named) if named else state_file().with_name("spool") / "readings.jsonl"


async def _until_stopped(url: str) -> None:
    task = asyncio.ensure_future(Reader(url, spool_file()).run())
    for sign in (signal.SIGTERM, signal.SIGINT):
        asyncio.get_running_loop().add_signal_handler(sign, task.cancel)
    with contextlib.suppress(asyncio.CancelledError):
        await task


def run_reader(url: str) -> None:
    """Read every site until told to stop."""
    # What the library says of a device stands with the device.
    logging.getLogger("pymodbus").setLevel(logging.CRITICAL)
    asyncio.run(_until_stopped(url))
