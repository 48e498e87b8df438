"""Sites that report themselves: where they are asked, what they said last, and their alarms."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import UUID, uuid4

from sqlalchemy import Engine, case, func, select, text, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from yonderstat.core.live import AlarmEvent
from yonderstat.core.log import CHANNELS

from .archive import LOCAL, NotFoundError
from .devices import there
from .schema import (
    AlarmRow,
    DeliveryRow,
    DesignRow,
    DeviceRow,
    EndpointRow,
    LiveSiteRow,
    ReaderRow,
    SampleRow,
    SiteRow,
)

Json = dict[str, Any]
CHANNEL = "yonderstat_live"
"""Whoever listens is told the site's id when something about it changed."""
MOST_ALARMS = 50


@dataclass(frozen=True, slots=True, kw_only=True)
class Endpoint:
    """A device that is asked, where, and how that went last."""

    id: UUID
    site_id: UUID
    name: str
    kind: str
    protocol: str
    host: str
    port: int
    unit: int
    topic: str
    added_at: datetime
    heard_at: datetime | None
    trouble: str


@dataclass(frozen=True, slots=True, kw_only=True)
class LiveSite:
    """How a site is watched, and what is known of it."""

    site_id: UUID
    interval_s: float = 60.0
    speed: float = 1.0
    quiet_from_h: int | None = None
    quiet_to_h: int | None = None
    webhook: str = ""
    mail_to: str = ""
    watching: Json | None = None
    seen: Json | None = None
    forecast: Json | None = None
    device_at: datetime | None = None
    asked_at: datetime | None = None
    heard_at: datetime | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Alarm:
    """An alarm, open until it was cleared. Raised and cleared are by the site's own clock."""

    id: UUID
    kind: str
    severity: str
    words: str
    raised_at: datetime
    cleared_at: datetime | None
    acknowledged_at: datetime | None
    acknowledged_by: str


@dataclass(frozen=True, slots=True)
class Asked:
    """How it went with a device: heard, or what went wrong."""

    device_id: UUID
    trouble: str = ""


@dataclass(frozen=True, slots=True)
class Telling:
    """Somebody who is told of an event, and when at the earliest."""

    way: str
    goes_to: str
    due_at: datetime


@dataclass(frozen=True, slots=True, kw_only=True)
class Taken:
    """What one round at a site brought; all of it is kept, or nothing."""

    site_id: UUID
    asked_at: datetime
    asked: tuple[Asked, ...]
    device_at: datetime | None = None
    """By the site's own clock; None where nobody answered."""
    values: dict[str, float | None] = field(default_factory=dict)
    trend: list[tuple[float, float]] = field(default_factory=list)
    """Moments and states of charge of the last days, some of each day."""
    watching: Json
    forecast: Json | None = None
    """A new one; None keeps the one that is there."""
    events: tuple[AlarmEvent, ...] = ()
    tellings: tuple[Telling, ...] = ()


@dataclass(frozen=True, slots=True)
class Delivery:
    """Something to be sent: an event of an alarm."""

    id: UUID
    way: str
    goes_to: str
    body: Json
    tries: int


@dataclass(frozen=True, slots=True)
class ReaderState:
    """When the reader was last alive, and how many readings wait with it."""

    beat_at: datetime | None
    waiting: int


class LiveBook:
    """What is live, of all sites."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def endpoints(self, site_id: UUID) -> list[Endpoint]:
        """The devices of a site that are asked, in the order they were added."""
        with Session(self._engine) as session:
            there(session, site_id)
            return _endpoints(session, [site_id]).get(site_id, [])

    def add_endpoint(
        self,
        site_id: UUID,
        name: str,
        kind: str,
        protocol: str,
        host: str,
        port: int,
        unit: int,
        topic: str = "",
        actor: str = LOCAL,
    ) -> Endpoint:
        """A device to be asked from now on.

        Parameters
        ----------
        kind : str
            What it reports.
        protocol : str
            How it is asked.
        host : str
            Its address.
        unit : int
            Its number on the line, where the protocol has one.
        topic : str
            Of its messages, where the protocol has one.
        actor : str
            Who does it.
        """
        with Session(self._engine) as session, session.begin():
            there(session, site_id)
            device = DeviceRow(site_id=site_id, name=name, kind=kind, actor=actor)
            session.add(device)
            session.flush()
            row = EndpointRow(
                device_id=device.id,
                site_id=site_id,
                protocol=protocol,
                host=host,
                port=port,
                unit=unit,
                topic=topic,
            )
            session.add(row)
            session.execute(insert(LiveSiteRow).values(site_id=site_id).on_conflict_do_nothing())
            session.flush()
            session.refresh(row)
            _notify(session, site_id)
            return _endpoint(row, device)

    def site(self, site_id: UUID) -> LiveSite:
        """How a site is watched; as usual where nobody has said."""
        with Session(self._engine) as session:
            there(session, site_id)
            row = session.get(LiveSiteRow, site_id)
            return LiveSite(site_id=site_id) if row is None else _live_site(row)

    def keep_settings(self, site_id: UUID, **settings: Any) -> LiveSite:
        """How often it is asked, and who is told and when not."""
        with Session(self._engine) as session, session.begin():
            there(session, site_id)
            made = insert(LiveSiteRow).values(site_id=site_id, **settings)
            session.execute(made.on_conflict_do_update(index_elements=["site_id"], set_=settings))
            _notify(session, site_id)
        return self.site(site_id)

    def watched(self) -> list[tuple[LiveSite, list[Endpoint]]]:
        """Every site that is there and has something to ask."""
        with Session(self._engine) as session:
            found = _endpoints(session, None)
            rows = session.scalars(select(LiveSiteRow).where(LiveSiteRow.site_id.in_(found)))
            return [(_live_site(row), found[row.site_id]) for row in rows]

    def design_head(self, site_id: UUID) -> tuple[UUID, int] | None:
        """The design a site is held to, and its revision: as built, or else its first."""
        with Session(self._engine) as session:
            order = (case((DesignRow.as_built, 0), else_=1), DesignRow.position)
            mine = select(DesignRow.id, DesignRow.revision).where(DesignRow.site_id == site_id)
            row = session.execute(mine.order_by(*order).limit(1)).first()
            return None if row is None else (row[0], row[1])

    def take(self, taken: Taken) -> None:
        """Keep what a round brought, in one transaction. Brought a second time it changes
        nothing."""
        with Session(self._engine) as session, session.begin():
            row = session.get(LiveSiteRow, taken.site_id, with_for_update=True)
            if row is None:
                # Nobody watches it any more: the site or its last device was taken away meanwhile.
                return
            if row.asked_at is not None and taken.asked_at <= row.asked_at:
                return
            row.asked_at, row.watching = taken.asked_at, taken.watching
            row.forecast = taken.forecast if taken.forecast is not None else row.forecast
            for asked in taken.asked:
                heard = {} if asked.trouble else {"heard_at": taken.asked_at}
                mine = update(EndpointRow).where(EndpointRow.device_id == asked.device_id)
                session.execute(mine.values(trouble=asked.trouble, **heard))
            if taken.device_at is not None:
                row.heard_at, row.device_at, row.seen = (
                    taken.asked_at,
                    taken.device_at,
                    {**taken.values, "trend": taken.trend},
                )
                _keep_sample(session, taken)
            for event in taken.events:
                _keep_event(session, taken, event)
            _notify(session, taken.site_id)

    def alarms(self, site_id: UUID) -> list[Alarm]:
        """A site's alarms: the open ones first, then the newest."""
        with Session(self._engine) as session:
            mine = select(AlarmRow).where(AlarmRow.site_id == site_id)
            order = (AlarmRow.cleared_at.is_not(None), AlarmRow.raised_at.desc(), AlarmRow.id)
            return [
                _alarm(row) for row in session.scalars(mine.order_by(*order).limit(MOST_ALARMS))
            ]

    def open_alarms(self) -> dict[UUID, list[Alarm]]:
        """The alarms that are open, by site."""
        with Session(self._engine) as session:
            found: dict[UUID, list[Alarm]] = {}
            rows = session.scalars(
                select(AlarmRow).where(AlarmRow.cleared_at.is_(None)).order_by(AlarmRow.raised_at)
            )
            for row in rows:
                found.setdefault(row.site_id, []).append(_alarm(row))
            return found

    def acknowledge(self, alarm_id: UUID, who: str, actor: str = LOCAL) -> Alarm:
        """Somebody has seen an alarm; who saw it first stays."""
        with Session(self._engine) as session, session.begin():
            row = session.get(AlarmRow, alarm_id, with_for_update=True)
            if row is None:
                raise NotFoundError(f"there is no alarm {alarm_id}")
            if row.acknowledged_at is None:
                row.acknowledged_at, row.acknowledged_by = datetime.now(UTC), who
                row.acknowledged_actor = actor
                _notify(session, row.site_id)
            return _alarm(row)

    def beat(self, name: str, waiting: int) -> None:
        """A reader is alive."""
        with Session(self._engine) as session, session.begin():
            now = datetime.now(UTC)
            made = insert(ReaderRow).values(name=name, beat_at=now, waiting=waiting)
            values = {"beat_at": now, "waiting": waiting}
            session.execute(made.on_conflict_do_update(index_elements=["name"], set_=values))

    def reader(self) -> ReaderState:
        """The newest sign of life of any reader."""
        with Session(self._engine) as session:
            beat, waiting = session.execute(
                select(func.max(ReaderRow.beat_at), func.sum(ReaderRow.waiting))
            ).one()
            return ReaderState(beat, int(waiting or 0))

    def claim_deliveries(self, now: datetime, most: int, lease: timedelta) -> list[Delivery]:
        """What is to be sent now, the oldest first; until the lease is over nobody else gets it.

        Parameters
        ----------
        most : int
            At most so many.
        lease : timedelta
            How long nobody else gets them.
        """
        with Session(self._engine) as session, session.begin():
            waiting = select(DeliveryRow).where(
                DeliveryRow.sent_at.is_(None), DeliveryRow.due_at <= now
            )
            mine = (
                waiting.order_by(DeliveryRow.due_at).limit(most).with_for_update(skip_locked=True)
            )
            found = []
            for row in session.scalars(mine):
                found.append(Delivery(row.id, row.way, row.goes_to, row.body, row.tries))
                row.due_at = now + lease
            return found

    def delivered(self, delivery_id: UUID, trouble: str, again_at: datetime | None) -> None:
        """How sending went: through, or to be tried again, or, without a time, given up.

        Parameters
        ----------
        trouble : str
            What went wrong; empty where it went through.
        again_at : datetime or None
            When to try again; None to give up.
        """
        with Session(self._engine) as session, session.begin():
            row = session.get(DeliveryRow, delivery_id, with_for_update=True)
            if row is None:
                return
            row.tries, row.trouble = row.tries + 1, trouble
            if trouble and again_at is not None:
                row.due_at = again_at
            else:
                row.sent_at = datetime.now(UTC)


def _notify(session: Session, site_id: UUID) -> None:
    session.execute(
        text("select pg_notify(:channel, :site)"), {"channel": CHANNEL, "site": str(site_id)}
    )


def _keep_sample(session: Session, taken: Taken) -> None:
    """A row of the record. What is there already stays: only gaps are filled."""
    values = {name: taken.values.get(name) for name in CHANNELS}
    made = insert(SampleRow).values(site_id=taken.site_id, at=taken.device_at, **values)
    filled = {
        name: func.coalesce(getattr(SampleRow, name), made.excluded[name]) for name in CHANNELS
    }
    session.execute(made.on_conflict_do_update(index_elements=["site_id", "at"], set_=filled))


def _keep_event(session: Session, taken: Taken, event: AlarmEvent) -> None:
    at = datetime.fromtimestamp(event.at_s, UTC)
    if event.what == "raised":
        made = insert(AlarmRow).values(
            id=uuid4(),
            site_id=taken.site_id,
            kind=event.kind,
            severity=event.severity,
            words=event.words,
            raised_at=at,
        )
        fresh = made.on_conflict_do_nothing(
            index_elements=["site_id", "kind"], index_where=text("cleared_at is null")
        ).returning(AlarmRow.id)
        alarm_id = session.scalar(fresh)
    elif event.what == "still":
        mine = (
            AlarmRow.site_id == taken.site_id,
            AlarmRow.kind == event.kind,
            AlarmRow.cleared_at.is_(None),
        )
        session.execute(
            update(AlarmRow).where(*mine, AlarmRow.words != event.words).values(words=event.words)
        )
        return
    else:
        is_open = (
            AlarmRow.site_id == taken.site_id,
            AlarmRow.kind == event.kind,
            AlarmRow.cleared_at.is_(None),
        )
        changed: Json = (
            {"cleared_at": at}
            if event.what == "cleared"
            else {"severity": event.severity, "words": event.words}
        )
        alarm_id = session.scalar(
            update(AlarmRow).where(*is_open).values(**changed).returning(AlarmRow.id)
        )
    if alarm_id is None:
        return
    name = session.scalar(select(SiteRow.name).where(SiteRow.id == taken.site_id))
    body = {
        "alarm": str(alarm_id),
        "site": name,
        "kind": event.kind,
        "what": event.what,
        "severity": event.severity,
        "words": event.words,
        "at": at.isoformat(),
    }
    for telling in taken.tellings:
        session.add(
            DeliveryRow(
                alarm_id=alarm_id,
                way=telling.way,
                goes_to=telling.goes_to,
                body=body,
                due_at=telling.due_at,
            )
        )


def _endpoints(session: Session, site_ids: Sequence[UUID] | None) -> dict[UUID, list[Endpoint]]:
    query = (
        select(EndpointRow, DeviceRow)
        .join(DeviceRow, DeviceRow.id == EndpointRow.device_id)
        .join(SiteRow, SiteRow.id == EndpointRow.site_id)
        .where(SiteRow.deleted_at.is_(None))
        .order_by(DeviceRow.created_at, DeviceRow.id)
    )
    if site_ids is not None:
        query = query.where(EndpointRow.site_id.in_(site_ids))
    found: dict[UUID, list[Endpoint]] = {}
    for row, device in session.execute(query):
        found.setdefault(row.site_id, []).append(_endpoint(row, device))
    return found


def _endpoint(row: EndpointRow, device: DeviceRow) -> Endpoint:
    return Endpoint(
        id=row.device_id,
        site_id=row.site_id,
        name=device.name,
        kind=device.kind,
        protocol=row.protocol,
        host=row.host,
        port=row.port,
        unit=row.unit,
        topic=row.topic,
        added_at=device.created_at,
        heard_at=row.heard_at,
        trouble=row.trouble,
    )


def _live_site(row: LiveSiteRow) -> LiveSite:
    names = LiveSite.__dataclass_fields__
    return LiveSite(**{name: getattr(row, name) for name in names})


def _alarm(row: AlarmRow) -> Alarm:
    names = Alarm.__dataclass_fields__
    return Alarm(**{name: getattr(row, name) for name in names})
