"""What meters recorded, in bulk: in by COPY, out thinned by the clock."""

import io
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta, tzinfo
from typing import Any
from uuid import UUID, uuid4

import numpy as np
import pandas as pd
from numpy.typing import NDArray
from sqlalchemy import Engine, delete, func, select, text
from sqlalchemy.orm import Session

from yonderstat.core.log import CHANNELS, Record
from yonderstat.formats import MeterTable

from .archive import LOCAL, NotFoundError
from .devices import there
from .imports import begin_import
from .schema import ImportRow, SampleRow, UpkeepRow

FloatArray = NDArray[np.float64]
COPY = f"copy brought (at, {', '.join(CHANNELS)}) from stdin (format binary)"
BINARY_HEAD, BINARY_END = b"PGCOPY\n\xff\r\n\0" + bytes(8), b"\xff\xff"
"""What PostgreSQL's binary copy begins and ends with. [P: PostgreSQL documentation, COPY, file
formats]"""
BINARY_ROW = np.dtype(
    [("fields", ">i2"), ("at_bytes", ">i4"), ("at", ">f8")]
    + [part for name in CHANNELS for part in ((f"{name}_bytes", ">i4"), (name, ">f4"))]
)
OUT = f"""
    copy (
        select extract(epoch from at)::float8, {", ".join(CHANNELS)} from samples where site_id = %s order by at
    ) to stdout (format csv, null '')
"""
THIN = """
    select bucket, told.low, told.mean, told.high
    from unnest(cast(:begins as timestamptz[]), cast(:ends as timestamptz[])) stretch(bucket, ends),
    lateral (
        select min({channel}) low, avg({channel}) mean, max({channel}) high from samples
        where site_id = :site and at >= bucket and at < ends and at <= :last
    ) told
    where told.low is not null order by bucket
"""
MOVE = f"""
    insert into samples (site_id, import_id, at, {", ".join(CHANNELS)})
    select :site, :import_id, to_timestamp(at), {", ".join(f"nullif({name}, 'NaN')" for name in CHANNELS)}
    from brought order by at
    on conflict (site_id, at) do nothing
"""


DAILY_FROM = timedelta(days=30)
"""A longer stretch is told by whole days."""


def _edges(first: datetime, last: datetime, points: int, zone: tzinfo) -> list[datetime]:
    """Where buckets begin and end: of equal time, or from midnight to midnight by a clock."""
    if last - first < DAILY_FROM:
        # The last moment begins a bucket of its own.
        width = max((last - first) / (points - 1), timedelta(seconds=1))
        count = int((last - first) / width) + 1
        return [first + width * number for number in range(count + 1)]
    begin = first.astimezone(zone).replace(hour=0, minute=0, second=0, microsecond=0)
    each = -(-(last - begin) // timedelta(days=points - 1)) if points > 1 else 1
    step, edges = timedelta(days=max(each, 1)), [begin]
    # Days are added by the clock on the wall: one of them has 23 hours, one 25.
    while edges[-1] <= last:
        edges.append(edges[-1] + step)
    return edges


@dataclass(frozen=True, slots=True)
class Thinned:
    """A stretch of the record for a picture: the least, the mean and the most of every bucket."""

    at: list[datetime]
    low: list[float | None]
    mean: list[float | None]
    high: list[float | None]


@dataclass(frozen=True, slots=True)
class Span:
    """How much is on record, and from when to when."""

    rows: int
    first: datetime | None
    last: datetime | None


@dataclass(frozen=True, slots=True)
class DoneTask:
    """Upkeep that was done."""

    id: UUID
    task: str
    done_on: date
    who: str
    note: str


def _binary(rows: FloatArray) -> bytes:
    """Rows of seconds and channels as PostgreSQL copies them in; NaN stands for nothing."""
    packed = np.zeros(len(rows), dtype=BINARY_ROW)
    packed["fields"], packed["at_bytes"] = 1 + len(CHANNELS), 8
    packed["at"] = rows[:, 0]
    for place, name in enumerate(CHANNELS, start=1):
        packed[f"{name}_bytes"], packed[name] = 4, rows[:, place]
    return packed.tobytes()


def bring_series(
    session: Session, site_id: UUID, pieces: Iterable[FloatArray], import_id: int | None = None
) -> int:
    """Rows of a site's record in by COPY; moments that are there already are left. How many are
    new.

    Parameters
    ----------
    pieces : iterable of ndarray of shape (n, 1 + channels)
        Seconds since 1970 and what was read; NaN where nothing was.
    """
    columns = ", ".join(f"{name} real" for name in CHANNELS)
    session.execute(text("drop table if exists brought"))
    session.execute(text(f"create temporary table brought (at float8, {columns}) on commit drop"))
    raw: Any = session.connection().connection
    with raw.cursor() as cursor, cursor.copy(COPY) as copy:
        copy.write(BINARY_HEAD)
        for piece in pieces:
            copy.write(_binary(piece))
        copy.write(BINARY_END)
    done: Any = session.execute(text(MOVE), {"site": site_id, "import_id": import_id})
    return int(done.rowcount)


def series_of_csv(rows: str) -> FloatArray:
    """A record as an archive carries it, as rows of figures."""
    read = pd.read_csv(io.StringIO(rows), header=None, dtype=np.float64)
    return np.asarray(read.to_numpy(dtype=np.float64))


def series_csv(session: Session, site_id: UUID) -> str:
    """All of a site's record as rows; empty where there is none."""
    raw: Any = session.connection().connection
    chunks: list[bytes] = []
    with raw.cursor() as cursor, cursor.copy(OUT, (site_id,)) as copy:
        chunks += (bytes(chunk) for chunk in copy)
    return b"".join(chunks).decode()


class Samples:
    """The records of all sites."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def add(
        self, site_id: UUID, tables: Iterable[MeterTable], name: str = "", actor: str = LOCAL
    ) -> tuple[int, int]:
        """Bring a file's tables in, in one transaction; rows of a moment that is there already are
        left.

        Returns
        -------
        tuple of int
            How many are new, and the id under which the file can be taken back.
        """
        with Session(self._engine) as session, session.begin():
            there(session, site_id)
            row = begin_import(session, site_id, name, actor)

            def pieces() -> Iterator[FloatArray]:
                for table in tables:
                    rows = table.columns()
                    low, high = (
                        datetime.fromtimestamp(float(at), UTC)
                        for at in (rows[:, 0].min(), rows[:, 0].max())
                    )
                    row.first = low if row.first is None else min(row.first, low)
                    row.last = high if row.last is None else max(row.last, high)
                    yield rows

            row.rows = bring_series(session, site_id, pieces(), row.id)
            return row.rows, row.id

    def span(self, site_id: UUID) -> Span:
        """What is there."""
        with Session(self._engine) as session:
            mine = SampleRow.site_id == site_id
            query = select(func.count(), func.min(SampleRow.at), func.max(SampleRow.at)).where(mine)
            rows, first, last = session.execute(query).one()
            return Span(rows, first, last)

    def thinned(
        self,
        site_id: UUID,
        channel: str,
        first: datetime,
        last: datetime,
        points: int,
        zone: tzinfo = UTC,
    ) -> Thinned:
        """A channel between two moments, in at most so many buckets of equal time: from a month on
        whole days by the site's clock, so that day and night are its band and not its zigzag.

        Parameters
        ----------
        channel : str
            Which of the record's.
        first : datetime
            From when.
        last : datetime
            Until when.
        points : int
            At most so many buckets.
        zone : tzinfo
            Whose days.
        """
        if channel not in CHANNELS:
            raise ValueError(f"there is no channel {channel}")
        edges = _edges(first, last, points, zone)
        asked = {"site": site_id, "last": last, "begins": edges[:-1], "ends": edges[1:]}
        with Session(self._engine) as session:
            # A bucket is a walk along the index; the planner takes it for much of the table and
            # would read it whole.
            session.execute(text("set local enable_seqscan = off"))
            session.execute(text("set local jit = off"))
            rows = session.execute(text(THIN.format(channel=channel)), asked).all()
        return Thinned(*([row[place] for row in rows] for place in range(4)))

    def most(
        self, site_id: UUID, first: datetime, last: datetime
    ) -> tuple[float | None, float | None, int]:
        """The highest volts and state of charge between two moments, and on how many days there is
        anything.

        Parameters
        ----------
        first : datetime
            From when.
        last : datetime
            Until when.
        """
        mine = (SampleRow.site_id == site_id, SampleRow.at >= first, SampleRow.at <= last)
        days = func.count(func.distinct(func.date_trunc("day", SampleRow.at)))
        with Session(self._engine) as session:
            query = select(func.max(SampleRow.volts), func.max(SampleRow.charge_share), days).where(
                *mine
            )
            volts, share, count = session.execute(query).one()
            return volts, share, int(count)

    def volts_near(self, site_id: UUID, at: datetime, within: timedelta) -> float | None:
        """The volts on record nearest to a moment; None where none are so near.

        Parameters
        ----------
        at : datetime
            The moment.
        within : timedelta
            How far from it a reading may be.
        """
        mine = (
            SampleRow.site_id == site_id,
            SampleRow.at >= at - within,
            SampleRow.at <= at + within,
        )
        near = func.abs(func.extract("epoch", SampleRow.at) - at.timestamp())
        with Session(self._engine) as session:
            query = (
                select(SampleRow.volts)
                .where(*mine, SampleRow.volts.is_not(None))
                .order_by(near)
                .limit(1)
            )
            return session.scalar(query)

    def record(self, site_id: UUID, offset_s: float) -> Record:
        """All of a site's record, by its own clock: seconds since 1970 with the offset of its time
        zone added."""
        with Session(self._engine) as session:
            rows = series_csv(session, site_id)
        columns = (
            pd.read_csv(io.StringIO(rows), header=None, dtype=np.float64).to_numpy()
            if rows
            else np.zeros((0, 6))
        )

        def known(place: int) -> FloatArray | None:
            return columns[:, place] if np.isfinite(columns[:, place]).any() else None

        return Record(columns[:, 0] + offset_s, known(1), known(2), known(3))

    def clear(self, site_id: UUID) -> int:
        """Take all of a site's record out; how many rows that were."""
        with Session(self._engine) as session, session.begin():
            there(session, site_id)
            done: Any = session.execute(delete(SampleRow).where(SampleRow.site_id == site_id))
            session.execute(delete(ImportRow).where(ImportRow.site_id == site_id))
            return int(done.rowcount)


class UpkeepBook:
    """Upkeep that was done, by site."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def of(self, site_id: UUID) -> list[DoneTask]:
        """What was done at a site, the newest first."""
        with Session(self._engine) as session:
            there(session, site_id)
            order = (UpkeepRow.done_on.desc(), UpkeepRow.created_at.desc())
            rows = session.scalars(
                select(UpkeepRow).where(UpkeepRow.site_id == site_id).order_by(*order)
            )
            return [DoneTask(row.id, row.task, row.done_on, row.who, row.note) for row in rows]

    def add(
        self, site_id: UUID, task: str, done_on: date, who: str, note: str, actor: str = LOCAL
    ) -> DoneTask:
        """Keep that something was done."""
        with Session(self._engine) as session, session.begin():
            there(session, site_id)
            row = UpkeepRow(
                id=uuid4(),
                site_id=site_id,
                task=task,
                done_on=done_on,
                who=who,
                note=note,
                actor=actor,
            )
            session.add(row)
            return DoneTask(row.id, task, done_on, who, note)

    def remove(self, done_id: UUID) -> None:
        """Take it back."""
        with Session(self._engine) as session, session.begin():
            gone = session.execute(
                delete(UpkeepRow).where(UpkeepRow.id == done_id).returning(UpkeepRow.id)
            ).all()
            if not gone:
                raise NotFoundError(f"there is no upkeep {done_id}")
