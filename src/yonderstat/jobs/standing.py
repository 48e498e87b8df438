"""How an installation stands: database, queue and disk, for whoever watches it."""

import os
import shutil
from dataclasses import dataclass

from sqlalchemy import Engine, text
from sqlalchemy.exc import SQLAlchemyError

DATA_VARIABLE = "YONDERSTAT_DATA_DIR"
LEAST_FREE_BYTES = 200_000_000
READER_SEEN_S = 20
SEEN_S = 60
"""A worker that gave no sign of life for so long is gone."""


@dataclass(frozen=True, slots=True)
class Standing:
    """One thing the app needs, and whether it is well."""

    name: str
    ok: bool
    words: str


def _database(engine: Engine) -> Standing:
    try:
        with engine.connect() as connection:
            connection.execute(text("select 1"))
    except SQLAlchemyError:
        return Standing("database", False, "does not answer")
    return Standing("database", True, "answers")


def _queue(engine: Engine) -> Standing:
    query = (
        "select count(*) from procrastinate_workers where last_heartbeat > now() - "
        "make_interval(secs => :seen)"
    )
    try:
        with engine.connect() as connection:
            workers = connection.scalar(text(query), {"seen": SEEN_S})
    except SQLAlchemyError:
        return Standing("queue", False, "cannot be read")
    return Standing(
        "queue",
        bool(workers),
        "a worker is there" if workers else "no worker takes long work now",
    )


def _reader(engine: Engine) -> Standing:
    query = "select extract(epoch from now() - max(beat_at)) from readers"
    try:
        with engine.connect() as connection:
            silent_s = connection.scalar(text(query))
    except SQLAlchemyError:
        return Standing("reader", False, "cannot be asked for")
    if silent_s is None:
        return Standing("reader", False, "has never run: no device is read, and no alarms are sent")
    if silent_s > READER_SEEN_S:
        return Standing(
            "reader",
            False,
            f"has been down for {silent_s:.0f} s: no device is read, and no alarms are sent",
        )
    return Standing("reader", True, "reads the devices")


def _disk() -> Standing:
    folder = os.environ.get(DATA_VARIABLE, "/")
    try:
        free = shutil.disk_usage(folder).free
    except OSError:
        return Standing("disk", True, "is somewhere else, with the database")
    return Standing("disk", free >= LEAST_FREE_BYTES, f"{free // 1_000_000} MB free")


def standing_of(engine: Engine) -> tuple[Standing, ...]:
    """How database, queue, reader and disk stand."""
    return _database(engine), _queue(engine), _reader(engine), _disk()
